#include "support/designs.hpp"

#include <gtest/gtest.h>
#include <stdlib.h>

#include <algorithm>
#include <cstdlib>

#include "catalogue/catalogue.hpp"
#include "design/demo.hpp"
#include "design/file.hpp"
#include "embedded.hpp"

namespace elkit::test {

Design pier_lantern() { return read_design(embedded::demo_pier_lantern).value(); }
Design coat_badge() { return read_design(embedded::demo_coat_badge).value(); }

bool in_depth() { return std::getenv("ELKIT_ALL_DEMOS") != nullptr; }

std::vector<std::string> demo_ids() {
    std::vector<std::string> ids;
    for (const Demo& each : demos()) ids.push_back(each.id);
    return ids;
}

std::string demo_name(const ::testing::TestParamInfo<std::string>& id) {
    std::string name = id.param;
    std::replace(name.begin(), name.end(), '-', '_');
    return name;
}

Design demo(const std::string& id) { return read_design(find_demo(id)->text).value(); }

Part resistor(const std::string& name, const std::string& a, const std::string& b, double ohms) {
    Part p{name, "resistor", {}, {{"a", a}, {"b", b}}, {}};
    p.params["value"] = ohms;
    return p;
}

Part supply(const std::string& plus, const std::string& minus, double volts, double ohms) {
    Part p{"PS1", "supply", {}, {{"+", plus}, {"-", minus}}, {}};
    p.params["voltage"] = volts, p.params["resistance"] = ohms, p.params["lead_length"] = 0.0;
    return p;
}

Part led(const std::string& name, const std::string& a, const std::string& k, const std::string& type) {
    Part p{name, "led", {}, {{"a", a}, {"k", k}}, {}};
    p.params["type"] = type;
    return p;
}

OperatingPoint solve(const Circuit& circuit, const Conditions& conditions, const Corner& corner) {
    auto op = operating_point(circuit, known_catalogue(), conditions, corner);
    EXPECT_TRUE(op) << (op ? "" : op.error().text());
    return op ? op.value() : OperatingPoint{};
}

TemporaryFolder::TemporaryFolder() {
    std::string name = (std::filesystem::temp_directory_path() / "elkit-test-XXXXXX").string();
    path_ = ::mkdtemp(name.data());
}

TemporaryFolder::~TemporaryFolder() {
    std::error_code ignored;
    std::filesystem::remove_all(path_, ignored);
}

}  // namespace elkit::test
