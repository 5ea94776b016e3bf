#include <gtest/gtest.h>

#include <filesystem>
#include <fstream>
#include <nlohmann/json.hpp>

#include "support/process.hpp"

namespace elkit::test {
namespace {
using nlohmann::json;

Output cli(const std::string& arguments) { return run(std::string(ELKIT_CLI) + " " + arguments); }
json ask(const std::string& arguments) {
    const Output o = cli(arguments + " --json");
    const json j = json::parse(o.out, nullptr, false);
    EXPECT_FALSE(j.is_discarded()) << arguments << "\n" << o.out << o.err;
    return j;
}

class Cli : public ::testing::Test {
  protected:
    void SetUp() override {
        std::string name = "/tmp/elkit-cli-XXXXXX";
        folder_ = ::mkdtemp(name.data());
    }
    void TearDown() override { std::filesystem::remove_all(folder_); }
    std::string write(const std::string& name, const std::string& text) {
        const std::string path = folder_ + "/" + name;
        std::ofstream(path) << text;
        return path;
    }
    std::string folder_;
};

TEST_F(Cli, SolvesTheDemo) {
    const json fresh = ask("op demo:pier-lantern"), half = ask("op demo:pier-lantern --battery 0.5"),
               off = ask("op demo:pier-lantern --switch S1=off");
    EXPECT_NEAR(fresh["nets"]["GND"]["V"].get<double>(), 0, 1e-12);
    EXPECT_GT(fresh["parts"]["L1"]["A"].get<double>(), 0.011);
    EXPECT_LT(half["parts"]["L1"]["A"].get<double>(), fresh["parts"]["L1"]["A"].get<double>());
    EXPECT_LT(off["parts"]["L1"]["A"].get<double>(), 1e-9);
}

TEST_F(Cli, ChoosesAResistor) {
    const json r = ask("resistor --supply 4.8 --vf 1.96 --leds 2 --current 12mA");
    EXPECT_EQ(r["resistance_ohm"], 75);
    EXPECT_EQ(r["bands"], json({"violet", "green", "black", "gold"}));
    EXPECT_EQ(ask("resistor --supply 4V8 --vf 1.96 --leds 2 --current 12mA --series E12 --round nearest")
                  ["resistance_ohm"],
              68);
}

TEST_F(Cli, ComputesLifeSuppliesBoardBuildAndParts) {
    EXPECT_GT(ask("life demo:pier-lantern")["run_time"]["value"].get<double>(), 84);
    EXPECT_GE(ask("supplies demo:pier-lantern")["supplies"].size(), 6u);
    const json board = ask("board demo:pier-lantern");
    EXPECT_TRUE(board["differences"].empty());
    EXPECT_EQ(board["groups"].size(), 7u);
    EXPECT_GT(ask("build demo:pier-lantern")["steps"].size(), 30u);
    EXPECT_EQ(ask("bom demo:pier-lantern --batch 10")["lines"][0]["needed"], 30);
    EXPECT_FALSE(ask("light demo:coat-badge")["strings"].empty());
}

TEST_F(Cli, ChecksAndTellsByItsExitCode) {
    EXPECT_EQ(cli("check demo:pier-lantern").exit_code, 0);
    const json badge = ask("check demo:coat-badge");
    bool limits = false;
    for (const auto& f : badge["findings"]) limits = limits || f["id"] == "no-resistor:L1";
    EXPECT_TRUE(limits);
}

TEST_F(Cli, ExitCodesAndOneLineErrors) {
    struct Case {
        std::string arguments;
        int code;
        const char* says;
    };
    const std::string broken = write("broken.elkit.json",
                                     "{\"elkit\": 1, \"circuit\": {\"parts\": [{\"designator\": \"R1\", "
                                     "\"kind\": \"coil\", \"pins\": {}}]}}");
    const std::string cut = write("cut.elkit.json", "{\"elkit\": 1,\n \"name\": ");
    const std::string open = write("open.elkit.json",
                                   "{\"elkit\": 1, \"circuit\": {\"parts\": [{\"designator\": \"B1\", "
                                   "\"kind\": \"battery\", \"pins\": {\"+\": \"V\", \"-\": \"0\"}}]}}");
    for (const Case& c :
         {Case{"op " + folder_ + "/none", 3, "no such file"}, Case{"op " + folder_, 3, "folder"},
          Case{"check " + broken, 1, "/circuit/parts/0/kind"}, Case{"op " + cut, 1, "line 2"},
          Case{"op " + open, 1, "net V"}, Case{"op demo:pier-lantern --battery 7", 2, "--battery"},
          Case{"nonsense", 2, ""}, Case{"op", 2, "FILE"},
          Case{"op demo:pier-lantern --switch S9=on", 2, "S9"},
          Case{"resistor --supply 5 --vf 2 --current lots", 2, "--current"},
          Case{"resistor --supply 3 --vf 4 --current 5mA", 1, "higher supply"},
          Case{"resistor --supply 230 --vf 2 --current 5mA", 2, "licensed electrician"},
          Case{"resistor --supply 5 --vf 2 --current 5mA --series E7", 2, "E24"},
          Case{"export demo:pier-lantern --to /proc/nowhere", 3, "/proc/nowhere"},
          Case{"do demo:pier-lantern \"r7 = 3\"", 2, "r1 = 82"}}) {
        const Output o = cli(c.arguments);
        EXPECT_EQ(o.exit_code, c.code) << c.arguments << ": " << o.err;
        EXPECT_NE(o.err.find(c.says), std::string::npos) << c.arguments << ": " << o.err;
        EXPECT_LE(std::count(o.err.begin(), o.err.end(), '\n'), 1) << o.err;
    }
}

TEST_F(Cli, ExportsFilesThatAnIndependentReaderUnderstands) {
    ASSERT_EQ(cli("export demo:pier-lantern --to " + folder_ + "/kit").exit_code, 0);
    for (const char* name :
         {"leaflet.pdf", "stave.svg", "board-component-side.svg", "board-solder-side.svg", "parts.csv"})
        EXPECT_GT(std::filesystem::file_size(folder_ + "/kit/" + name), 200u) << name;
    const std::string text = pdf_text(folder_ + "/kit/leaflet.pdf");
    for (const char* words : {"Pier lantern", "62 Ω", "blue red black gold", "R1, R2", "Point of no return",
                              "wear glasses", "from the solder side"})
        EXPECT_NE(text.find(words), std::string::npos) << words << "\n" << text.substr(0, 1500);
    const json build = ask("build demo:pier-lantern");
    for (const auto& step : build["steps"])
        if (step["step"] == "volts.L1") {
            const std::string expected = step["check"]["expected"]["text"];
            EXPECT_NE(text.find(expected.substr(0, 4)), std::string::npos)
                << "the leaflet shows the engine's reading";
        }
    EXPECT_NE(run("pdfinfo " + folder_ + "/kit/leaflet.pdf").out.find("A4"), std::string::npos);
}

TEST_F(Cli, EditsAFileAndRunsItsRecipeAgain) {
    const std::string path = write("a.elkit.json", cli("do demo:pier-lantern \"r1 = 100\"").out);
    EXPECT_EQ(ask("light " + path)["strings"][0]["resistance"]["value"], 100);
    ASSERT_EQ(cli("size " + path + " --write").exit_code, 0);
    EXPECT_EQ(ask("light " + path)["strings"][0]["resistance"]["value"], 62);
}

TEST_F(Cli, PrintsItsSchemaAndRules) {
    EXPECT_FALSE(json::parse(cli("schema").out, nullptr, false).is_discarded());
    EXPECT_NE(cli("rules").out.find("| `headroom` |"), std::string::npos);
    EXPECT_EQ(cli("--help").exit_code, 0);
}

}  // namespace
}  // namespace elkit::test
