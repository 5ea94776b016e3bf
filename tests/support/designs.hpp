#pragma once
#include <gtest/gtest.h>

#include <filesystem>

#include "design/design.hpp"
#include "engine/operating_point.hpp"

namespace elkit::test {

Design pier_lantern();  ///< the demo designs that ship with the program
Design coat_badge();
Design demo(const std::string& id);
std::vector<std::string> demo_ids();
/// In the deep check what takes long is looked at in all its forms, else in some.
bool in_depth();
/// Names a test of each demo.
std::string demo_name(const ::testing::TestParamInfo<std::string>& id);

Part resistor(const std::string& name, const std::string& a, const std::string& b, double ohms);
Part supply(const std::string& plus, const std::string& minus, double volts, double ohms);
Part led(const std::string& name, const std::string& a, const std::string& k,
         const std::string& type = "red-5mm");

/// Solves or fails the test.
OperatingPoint solve(const Circuit& circuit, const Conditions& conditions = {}, const Corner& corner = {});

/// A folder of its own for one test, removed at the end.
class TemporaryFolder {
  public:
    TemporaryFolder();
    ~TemporaryFolder();
    std::filesystem::path operator/(const std::string& name) const { return path_ / name; }
    const std::filesystem::path& path() const { return path_; }

  private:
    std::filesystem::path path_;
};

}  // namespace elkit::test
