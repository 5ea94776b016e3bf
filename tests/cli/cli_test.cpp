#include "cli/cli.hpp"

#include <gtest/gtest.h>

#include <cmath>
#include <filesystem>
#include <fstream>
#include <nlohmann/json.hpp>
#include <sstream>

namespace elkit::test {
namespace {
using nlohmann::json;

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

TEST_F(Cli, ListsRecipesAndExplainsThem) {
    const json all = ask("recipe list")["recipes"];
    ASSERT_GE(all.size(), 6u);
    for (const json& one : all) {
        const std::string id = one["id"].get<std::string>();
        EXPECT_FALSE(one["intent"].get<std::string>().empty()) << id;
        const Output told = cli("recipe " + id + " --explain");
        EXPECT_EQ(told.exit_code, 0) << id << told.err;
        EXPECT_NE(told.out.find("goals"), std::string::npos) << id;
        EXPECT_NE(told.out.find("by the engine"), std::string::npos) << id;
    }
}

TEST_F(Cli, SizesAFlasherThatTheEngineFinds) {
    const json r = ask("recipe timer-flasher --goals rate=3Hz share=70% led=red-5mm");
    ASSERT_FALSE(r["engine"].empty());
    for (const json& m : r["engine"]) EXPECT_TRUE(m["met"].get<bool>()) << m.dump();
    EXPECT_NEAR(r["engine"][0]["value"].get<double>(), 3, 0.15);
    EXPECT_GE(r["ways"].size(), 3u) << "what each capacitor would give";
    const std::string path = folder_ + "/flasher.json";
    ASSERT_EQ(cli("recipe timer-flasher --goals rate=3Hz --out " + path).exit_code, 0);
    EXPECT_EQ(cli("check " + path).exit_code, 0);
}

TEST_F(Cli, SaysWhatWouldWorkWhereARecipeTakesNoHold) {
    const Output refused = cli(
        "recipe timer-flasher --goals chip=timer-bipolar cells=2 way=steered drives=transistor led=red-5mm "
        "capacitor=1u");
    EXPECT_EQ(refused.exit_code, 1);
    EXPECT_NE(refused.err.find("too low for the timer, bipolar"), std::string::npos) << refused.err;
    EXPECT_NE(refused.err.find("would work: timer: CMOS (chip=timer-cmos)"), std::string::npos)
        << refused.err;
    EXPECT_EQ(cli("recipe nothing").exit_code, 2);
    EXPECT_EQ(cli("recipe timer-flasher --goals mood=good").exit_code, 2);
    EXPECT_EQ(cli("recipe timer-flasher --goals rate=1e9Hz").exit_code, 2);
    EXPECT_EQ(cli("recipe timer-flasher --out /no/such/folder/x.json").exit_code, 3);
}

TEST_F(Cli, FitsASensorToReadingsAndKeepsThem) {
    const std::string path = folder_ + "/pulse.json";
    ASSERT_EQ(cli("recipe warmth-flasher --goals 'readings=15°C 15.6k; 40°C 5.35k; 65°C 2.09k' calm=15 "
                  "lively=65 rate=0.5Hz --out " +
                  path)
                  .exit_code,
              0);
    const json design = json::parse(std::ifstream(path));
    EXPECT_EQ(design["blocks"][0]["goals"]["readings"].size(), 3u);
    EXPECT_EQ(cli("check " + path).exit_code, 0);
    EXPECT_EQ(cli("recipe warmth-flasher --goals 'readings=15°C 15.6k'").exit_code, 1) << "one is too few";
    EXPECT_EQ(cli("recipe warmth-flasher --goals 'readings=warm 15.6k'").exit_code, 2);
    json broken = design;
    broken["blocks"][0]["goals"]["readings"] = {{1, 2, 3}};
    std::ofstream(path) << broken.dump();
    const Output refused = cli("check " + path);
    EXPECT_EQ(refused.exit_code, 1) << refused.err;
    EXPECT_NE(refused.err.find("/blocks/0/goals/readings"), std::string::npos) << refused.err;
}

TEST_F(Cli, EachNewRecipeIsFoundByTheEngineAsAsked) {
    for (const char* asked : {"dark-wake --goals lux=20lx by=comparator", "press-fade --goals time=20s",
                              "pulse-latch --goals trigger=loop", "cell-booster --goals current=5mA",
                              "light-flasher --goals rate=1Hz"}) {
        const json r = ask(std::string("recipe ") + asked);
        ASSERT_FALSE(r["engine"].empty()) << asked;
        for (const json& m : r["engine"]) EXPECT_TRUE(m["met"].get<bool>()) << asked << m.dump();
    }
}

TEST_F(Cli, OneBlockHangsOnAnotherAndGoesAgain) {
    const std::string path = folder_ + "/both.json";
    ASSERT_EQ(cli("recipe timer-one-shot --goals time=4s drives=nothing --out " + path).exit_code, 0);
    EXPECT_EQ(cli("block " + path + " timer-flasher --set rate=5Hz --join RUN=NOWHERE").exit_code, 2);
    const Output added = cli("block " + path + " timer-flasher --set rate=5Hz --join RUN=OUT --write");
    ASSERT_EQ(added.exit_code, 0) << added.err;
    EXPECT_NE(added.err.find("U2: new"), std::string::npos) << added.err;
    const json two = json::parse(std::ifstream(path));
    ASSERT_EQ(two["blocks"].size(), 2u);
    EXPECT_EQ(two["blocks"][1]["nets"]["RUN"], "OUT");
    EXPECT_EQ(cli("check " + path).exit_code, 0);
    ASSERT_EQ(cli("unblock " + path + " 1 --write").exit_code, 0);
    EXPECT_EQ(json::parse(std::ifstream(path))["blocks"].size(), 1u);
    EXPECT_EQ(cli("unblock " + path + " 7").exit_code, 2);
}

TEST_F(Cli, BlinksByWords) {
    const std::string path = write("empty.json", R"({"elkit": 2, "name": "x", "circuit": {"parts": []}})");
    ASSERT_EQ(cli("do " + path + " 'blink every 2 s with red' --write").exit_code, 0);
    EXPECT_NE(cli("steady " + path).out.find("repeats every"), std::string::npos);
    const Output slower = cli("do " + path + " 'make it slower' --write");
    EXPECT_EQ(slower.exit_code, 0);
    EXPECT_NE(slower.err.find("timer flasher again"), std::string::npos) << slower.err;
}

TEST_F(Cli, ArrangesLights) {
    const json found = ask("array --supply 12V --count 24 --led white-5mm --current 20mA");
    ASSERT_EQ(found["arrangements"].size(), 24u);
    const json& best = found["arrangements"][0];
    EXPECT_EQ(best["verdict"], "sound");
    EXPECT_EQ(best["name"], "8 × 3");
    EXPECT_EQ(best["strings"][0]["resistance_ohm"], 150);
    EXPECT_EQ(found["arrangements"].back()["verdict"], "impossible");
    EXPECT_FALSE(found["arrangements"].back()["reason"].get<std::string>().empty());
    EXPECT_EQ(ask("array demo:pier-lantern")["count"], 4);
    const Output used = cli("array demo:pier-lantern --use 1");
    EXPECT_EQ(used.exit_code, 0) << used.err;
    int resistors = 0;
    const json design = json::parse(used.out);
    for (const auto& part : design["circuit"]["parts"]) resistors += part["kind"] == "resistor";
    EXPECT_EQ(resistors, 4);
    const json places = ask("array demo:harbour-diorama")["places"];
    ASSERT_GE(places.size(), 2u) << "lights hang in several places";
    const std::string other = places[1]["light"];
    const json there = ask("array demo:harbour-diorama --light " + other);
    EXPECT_EQ(there["count"], places[1]["lights"]);
    EXPECT_NE(there["fed"].get<std::string>().find("between"), std::string::npos) << there["fed"];
    EXPECT_EQ(cli("array demo:harbour-diorama --light L99").exit_code, 2);
    EXPECT_EQ(cli("array").exit_code, 2);
    EXPECT_NE(cli("array --supply \"3 x LR99\"").err.find("LR6"), std::string::npos);
    EXPECT_NE(cli("array demo:pier-lantern --use 9").err.find("arrangement"), std::string::npos);
}

TEST_F(Cli, ComparesLimiters) {
    const json found = ask("limiters --supply 12V --count 4 --led white-5mm --current 15mA --per-string 2");
    ASSERT_EQ(found["limiters"].size(), 7u);
    for (const json& row : found["limiters"]) {
        EXPECT_TRUE(row["possible"].get<bool>() || !row["reason"].get<std::string>().empty()) << row["id"];
        if (row["id"] == "regulator") {
            EXPECT_NEAR(row["current"]["value"].get<double>(), 0.015, 0.001);
        }
    }
    EXPECT_EQ(ask("limiters demo:pier-lantern")["per_string"], 2) << "as the design has it";
}

TEST_F(Cli, MatchesColours) {
    const json found = ask("match --supply 5V --leds red-5mm,green-5mm,blue-5mm --current 10mA");
    ASSERT_EQ(found["lights"].size(), 3u);
    EXPECT_LT(found["apart"].get<double>(), 1.2);
    EXPECT_NE(cli("match --supply 5V --leds red-5mm,beetroot").err.find("beetroot"), std::string::npos);
    EXPECT_EQ(cli("match demo:pier-lantern").exit_code, 1) << "one colour";
    EXPECT_TRUE(json::accept(cli("match demo:pantry-gauge --use").out));
}

TEST_F(Cli, FabricatesAndReadsItsOwnFilesBack) {
    const std::string folder = testing::TempDir() + "/fabricated";
    for (const char* method : {"milled", "ordered"}) {
        const std::string to = folder + "-" + method;
        const json made =
            ask("fabricate demo:harbour-beacon --method " + std::string(method) + " --to " + to);
        EXPECT_GT(made["files"].size(), 6u);
        EXPECT_TRUE(made["faults"].empty());
        const json read = json::parse(cli("verify --json " + to).out);
        EXPECT_GE(read["files"].size(), 4u);
        EXPECT_TRUE(read["differences"].empty());
    }
    EXPECT_EQ(run("sed -i 0,/D01/s//D02/ " + folder + "-ordered/*copper-solder-side.gbr").exit_code, 0);
    const Output changed = cli("verify " + folder + "-ordered");
    EXPECT_EQ(changed.exit_code, 1);
    EXPECT_NE(changed.out.find(" is open between "), std::string::npos) << changed.out;
    EXPECT_EQ(run("sed -i 1d " + folder + "-milled/*drill-0.80.nc; echo G2 >> " + folder +
                  "-milled/harbour-beacon-1-isolate-solder-side.nc")
                  .exit_code,
              0);
    EXPECT_NE(cli("verify " + folder + "-milled").err.find("harbour-beacon-1-isolate-solder-side.nc, line "),
              std::string::npos);
    EXPECT_EQ(cli("verify demo:harbour-beacon").exit_code, 0);
    EXPECT_NE(cli("fabricate demo:pier-lantern --to " + folder).err.find("leaves no files for machines"),
              std::string::npos)
        << "it is a pad board";
    EXPECT_NE(cli("fabricate demo:harbour-beacon --method ordered --panel 2x --to " + folder).err.find("2x3"),
              std::string::npos);
    run("rm -r " + folder + "*");
}

TEST_F(Cli, MakesBoardsByAMethodOfOnesOwn) {
    const std::string own = testing::TempDir() + "/own-making.json";
    std::ofstream(own)
        << R"({"making": {"methods": [{"id": "shed-mill", "name": "mill of the shed", "about": "wide grooves", "process": "milled",
        "layers": 1, "track": 1, "track_least": 0.6, "gap": 0.5, "ring": 0.4, "land_ring": 0.6, "hole_least": 0.8, "hole_gap": 0.6,
        "hole_edge": 1, "copper_edge": 1, "holes": [0.8, 1, 1.3, 3], "via": "wire", "links": true, "material": "fr1-1.5",
        "isolate": "v-60", "cut": "mill-2", "drill": "drills"}]}})";
    const json board = ask("--own-parts " + own + " board demo:coat-badge --method shed-mill");
    EXPECT_EQ(board["method"], "shed-mill");
    EXPECT_TRUE(board["differences"].empty());
    const std::string to = testing::TempDir() + "/shed";
    EXPECT_EQ(
        cli("--own-parts " + own + " fabricate demo:coat-badge --method shed-mill --to " + to).exit_code, 0);
    EXPECT_NE(run("cat " + to + "/*isolate*").out.find("60"), std::string::npos) << "its own bit";
    EXPECT_NE(cli("board demo:coat-badge --method shed-mill").err.find("one of pad, strip, milled, ordered"),
              std::string::npos);
    std::ofstream(own) << R"({"making": {"methods": [{"id": "x", "name": "x"}]}})";
    EXPECT_NE(cli("--own-parts " + own + " footprints").err.find("making, methods, x"), std::string::npos);
    run("rm -r " + own + " " + to);
}

TEST_F(Cli, ComparesWaysToMakeTheBoardsAndKeepsAChoice) {
    const json all = ask("board demo:coat-badge --compare");
    ASSERT_EQ(all.size(), 4u);
    for (const json& m : all) {
        EXPECT_GT(m["work"]["value"], 0) << m;
        EXPECT_FALSE(m["work"]["working"].empty());
        EXPECT_FALSE(m["differs"]);
    }
    EXPECT_GT(all[3]["days"], all[2]["days"]) << "ordered boards are waited for";
    const std::string file = testing::TempDir() + "/kept.elkit.json";
    EXPECT_EQ(run("cp " ELKIT_SOURCE "/data/demo/coat-badge.elkit.json " + file).exit_code, 0);
    EXPECT_EQ(cli("board " + file + " --method milled --width 30 --lock L1=10.16,7.62 --write").exit_code, 0);
    const json kept = json::parse(run("cat " + file).out)["board"];
    EXPECT_EQ(kept["method"], "milled");
    EXPECT_EQ(kept["width"], 30);
    EXPECT_EQ(kept["spots"].size(), 1u);
    EXPECT_EQ(cli("board demo:coat-badge --method milled --write").exit_code, 2) << "a demo is no file";
    run("rm " + file);
}

TEST_F(Cli, DoesNotMixTheFilesOfTwoBoards) {
    const std::string to = testing::TempDir() + "/mixed";
    ASSERT_EQ(cli("fabricate demo:coat-badge --method milled --to " + to).exit_code, 0);
    EXPECT_EQ(cli("fabricate demo:coat-badge --method milled --to " + to).exit_code, 0) << "the same again";
    const Output other = cli("fabricate demo:coat-badge --method ordered --to " + to);
    EXPECT_EQ(other.exit_code, 3);
    EXPECT_NE(other.err.find("of another board"), std::string::npos) << other.err;
    const std::string two = testing::TempDir() + "/two";
    ASSERT_EQ(cli("fabricate demo:coat-badge --method ordered --panel 2x1 --to " + two).exit_code, 0);
    EXPECT_EQ(cli("verify " + two).exit_code, 0);
    run("cp " + to + "/*.nc " + two);
    EXPECT_NE(cli("verify " + two).err.find("lie together"), std::string::npos);
    run("rm -r " + to + " " + two);
}

TEST_F(Cli, LocksPartsOfABoard) {
    const json board =
        ask("board demo:harbour-beacon --method milled --width 60 --height 50 --lock R1=25.4,20.32,90 --lock "
            "C1=5.08,5.08");
    EXPECT_TRUE(board["differences"].empty());
    EXPECT_EQ(board["parts"]["R1"]["a"], "K9") << "25.4 mm is the eleventh square";
    EXPECT_EQ(board["width_mm"], 60);
    EXPECT_NE(cli("board demo:harbour-beacon --method milled --lock R1=5").err.find("R1=12.7,5.08,90"),
              std::string::npos);
    EXPECT_NE(cli("board demo:harbour-beacon --method milled --lock R77=5,5").err.find("no part \"R77\""),
              std::string::npos);
}

TEST_F(Cli, LocksPartsOfABoardOfHoles) {
    for (const std::string method : {"pad", "strip"}) {
        const json board = ask("board demo:firefly-jar --method " + method +
                               " --columns 24 --rows 20 --lock R1=13.97,13.97,90 --lock C1=24.13,24.13,90");
        EXPECT_TRUE(board["differences"].empty()) << method;
        EXPECT_EQ(board["parts"]["R1"]["a"], "F6") << method << ": 13.97 mm is the middle of the sixth hole";
        EXPECT_EQ(board["parts"]["C1"]["+"].is_null() ? board["parts"]["C1"]["a"] : board["parts"]["C1"]["+"],
                  "J10");
    }
    const json bent =
        ask("board demo:firefly-jar --method pad --columns 24 --rows 20 --lock R1=13.97,13.97,90,17.78");
    EXPECT_EQ(bent["parts"]["R1"]["b"], "F13") << "17.78 mm are seven holes down";
    for (const char* wrong : {"R1", "R1=", "R1=5", "R1=5,", "R1=5,5,x", "R1=5,5,90,x", "R1=5,5,90,10,1",
                              "=5,5", "R1=5,,5", "R1=nan,5", "R1=5,5,90,-1"})
        EXPECT_NE(cli(std::string("board demo:firefly-jar --method pad --lock ") + wrong)
                      .err.find("mm from leg to leg"),
                  std::string::npos)
            << wrong;
    EXPECT_NE(cli("board demo:firefly-jar --method strip --lock C1=24.13,24.13").err.find("other places"),
              std::string::npos)
        << "both its legs in one strip, with no hole between to cut";
    EXPECT_NE(cli("board demo:firefly-jar --method pad --lock R77=5,5").err.find("no part \"R77\""),
              std::string::npos);
    EXPECT_NE(cli("board demo:firefly-jar --method pad --columns 24 --rows 20 --lock R1=200,5")
                  .err.find("other places"),
              std::string::npos);
}

TEST_F(Cli, LaysTracksAnewThatWereKept) {
    const std::string path = folder_ + "/kept.json";
    ASSERT_EQ(cli("recipe steady-light --out " + path).exit_code, 0);
    json design = json::parse(std::ifstream(path));
    design["board"]["method"] = "milled", design["board"]["ways_by"] = "milled";
    design["board"]["ways"] = json::array({{{"net", "GND"}, {"way", "solder 1.27 1.27 2.54 1.27"}}});
    std::ofstream(path) << design.dump();
    ASSERT_EQ(cli("board " + path + " --write").exit_code, 0);
    EXPECT_TRUE(json::parse(std::ifstream(path))["board"].contains("ways")) << "only when it is asked for";
    ASSERT_EQ(cli("board " + path + " --tracks-anew --write").exit_code, 0);
    EXPECT_FALSE(json::parse(std::ifstream(path))["board"].contains("ways"));
    EXPECT_FALSE(json::parse(std::ifstream(path))["board"].contains("ways_by"));
}

TEST_F(Cli, PlansBoardsAndTrials) {
    const json strip = ask("board demo:pier-lantern --method strip --svg " + folder_ + "/side.svg");
    EXPECT_EQ(strip["method"], "strip");
    EXPECT_TRUE(strip["differences"].empty());
    EXPECT_TRUE(std::filesystem::exists(folder_ + "/side-1.svg") &&
                std::filesystem::exists(folder_ + "/side-2.svg"));
    EXPECT_TRUE(std::any_of(strip["works"].begin(), strip["works"].end(),
                            [](const json& w) { return w["id"] == "cuts"; }));
    const json trial = ask("trial demo:twin-blinker --breadboard half --wires length");
    EXPECT_TRUE(trial["differences"].empty());
    EXPECT_GT(trial["steps"].size(), 20u);
    EXPECT_FALSE(trial["differs"].empty());
    EXPECT_EQ(cli("trial demo:seat-finder --breadboard small").exit_code, 1);
    EXPECT_NE(cli("board demo:pier-lantern --method glue").exit_code, 0);
}

TEST_F(Cli, MountsParts) {
    const Output made = cli("mount demo:twin-blinker Q1 --footprint spread-3 --legs 'e b c'");
    ASSERT_EQ(made.exit_code, 0) << made.err;
    const json mount = json::parse(made.out)["board"]["parts"][0];
    EXPECT_EQ(mount["footprint"], "spread-3");
    EXPECT_EQ(mount["legs"], "e b c");
    EXPECT_NE(cli("mount demo:twin-blinker Q1 --legs 'e e c'").err.find("each of"), std::string::npos);
    EXPECT_NE(cli("mount demo:twin-blinker Q9 --place leads").err.find("no part Q9"), std::string::npos);
    const json all = json::parse(cli("footprints --json").out);
    EXPECT_GT(all.size(), 60u);
    EXPECT_FALSE(all[0]["kinds"].empty());
    EXPECT_NE(cli("footprints").out.find("standing-2"), std::string::npos);
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

TEST_F(Cli, TakesOwnParts) {
    const std::string own = write("own.json", R"({"words": [{"say": "glow box", "means": "white led"}]})");
    EXPECT_NE(cli("--own-parts " + own + " do demo:pier-lantern 'glow box from v+ to a'")
                  .err.find("white 5 mm LED"),
              std::string::npos);
    const std::string bad = write("bad.json", R"({"leds": [{"id": "x"}]})");
    const Output refused = cli("--own-parts " + bad + " op demo:pier-lantern");
    EXPECT_EQ(refused.exit_code, 3);
    EXPECT_NE(refused.err.find("leds, entry 1 (x)"), std::string::npos) << refused.err;
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
          Case{"resistor --supply 5 --vf 2 --current 20", 2, "20 mA"},
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
                              "wear glasses", "Solder side"})
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
    EXPECT_EQ(ask("light " + path)["strings"][0]["resistance"]["value"], 100) << "set by hand, it stays";
    ASSERT_EQ(cli("size " + path + " --anew --write").exit_code, 0);
    EXPECT_EQ(ask("light " + path)["strings"][0]["resistance"]["value"], 62);
}

TEST_F(Cli, PrintsItsSchemaAndRules) {
    EXPECT_FALSE(json::parse(cli("schema").out, nullptr, false).is_discarded());
    EXPECT_NE(cli("rules").out.find("| `headroom` |"), std::string::npos);
    EXPECT_EQ(cli("--help").exit_code, 0);
}

TEST_F(Cli, SimulatesAndWritesWaveforms) {
    const json run = ask("simulate demo:twin-blinker --until 2s --probe L1.i --power-up");
    EXPECT_NEAR(run["time_s"].back().get<double>(), 2, 1e-9);
    EXPECT_EQ(run["traces"][0]["unit"], "A");
    EXPECT_LT(run["balance"]["energy_error"].get<double>(), 0.05);
    const Output csv = cli("simulate demo:twin-blinker --until 50ms --probe L1.i --csv");
    EXPECT_NE(csv.out.find("time_s,L1_A"), std::string::npos) << csv.out.substr(0, 200);
    const Output vcd = cli("simulate demo:twin-blinker --until 50ms --vcd");
    EXPECT_NE(vcd.out.find("$enddefinitions"), std::string::npos);
    EXPECT_NE(vcd.out.find("$var real"), std::string::npos);
}

TEST_F(Cli, PressesAtItsTime) {
    const std::string file = write("button.elkit.json", R"({"elkit": 1, "name": "b", "circuit": {"parts": [
        {"designator": "B1", "kind": "battery", "pins": {"+": "V", "-": "0"}, "params": {"count": 3}},
        {"designator": "S1", "kind": "button", "pins": {"a": "V", "b": "OUT"}},
        {"designator": "R1", "kind": "resistor", "pins": {"a": "OUT", "b": "0"}}]}})");
    const json run =
        ask("simulate " + file + " --until 30ms --probe OUT --at \"10ms press S1\" --at \"20ms release S1\"");
    EXPECT_EQ(run["happenings"].size(), 2u);
    EXPECT_NEAR(run["happenings"][0]["time_s"].get<double>(), 0.01, 1e-12);
    const json reached =
        ask("measure " + file + " --net OUT --until 30ms --reaches 2V --at \"10ms press S1\"");
    EXPECT_NEAR(reached["measurements"].back()["value"].get<double>(), 0.01, 1e-9);
    EXPECT_EQ(cli("measure " + file + " --net OUT --until 30ms --reaches 9V").exit_code, 1);
    EXPECT_EQ(cli("simulate " + file + " --until 30ms --at \"10ms jump\"").exit_code, 2);
    EXPECT_EQ(
        cli("simulate " + file + " --until 30ms --at \"20ms press S1\" --at \"10ms release S1\"").exit_code,
        2);
}

TEST_F(Cli, MeasuresAndFindsTheSteadyState) {
    const json steady = ask("steady demo:harbour-dimmer");
    EXPECT_TRUE(steady["repeats"].get<bool>());
    const double period = steady["period_s"].get<double>();
    bool found = false;
    const json measured = ask("measure demo:harbour-dimmer --net GATE");
    for (const auto& m : measured["measurements"])
        if (m["label"] == "period of GATE") {
            found = true;
            EXPECT_NEAR(m["value"].get<double>(), period, 0.01 * period);
        }
    EXPECT_TRUE(found);
    EXPECT_FALSE(ask("steady demo:pier-lantern")["repeats"].get<bool>());
}

TEST_F(Cli, SweepsAndSpreads) {
    const json swept =
        ask("sweep demo:harbour-dimmer --over RV1=0.1..0.9:3 --of \"L1 mean\" --of \"GATE period\"");
    const auto& light = swept["results"][0]["values"];
    ASSERT_EQ(light.size(), 3u);
    EXPECT_NE(light[0].get<double>(), light[2].get<double>());
    EXPECT_GT(swept["results"][1]["values"][1].get<double>(), 0);
    const std::string spread = "spread demo:pier-lantern --builds 200 --seed 7 --of L1.i";
    const json one = ask(spread), again = ask(spread);
    EXPECT_EQ(one, again) << "the same seed, the same batch";
    EXPECT_LT(one["spreads"][0]["p5"].get<double>(), one["spreads"][0]["median"].get<double>());
    EXPECT_GT(one["spreads"][0]["influences"][0]["share"].get<double>(), 0.1);
    EXPECT_EQ(cli("sweep demo:pier-lantern --over X9=0..1 --of L1").exit_code, 2);
    EXPECT_EQ(cli("sweep demo:pier-lantern --over battery=0..1 --of L1 mode").exit_code, 2);
}

TEST_F(Cli, ReadsTheMeterAndDrawsTheStave) {
    EXPECT_NEAR(ask("meter demo:pier-lantern --red V+ --black GND --mode V")["value"].get<double>(),
                ask("op demo:pier-lantern")["nets"]["V+"]["V"].get<double>(), 0.006);
    EXPECT_TRUE(ask("meter demo:pier-lantern --red V+ --black V+ --mode beep")["beeps"].get<bool>());
    EXPECT_EQ(cli("meter demo:pier-lantern --red NOWHERE --black GND --mode V").exit_code, 2);
    const std::string svg = folder_ + "/stave.svg";
    EXPECT_EQ(cli("stave demo:firefly-jar --svg " + svg).exit_code, 0);
    std::stringstream text;
    text << std::ifstream(svg).rdbuf();
    EXPECT_NE(text.str().find("data-ref=\"part:T1\""), std::string::npos);
}

TEST_F(Cli, ShowsTheOtherStateOfALatch) {
    const std::string file = write("latch.elkit.json", R"({"elkit": 1, "name": "latch", "circuit": {"parts": [
        {"designator": "B1", "kind": "battery", "pins": {"+": "V", "-": "0"}, "params": {"count": 3}},
        {"designator": "Q1", "kind": "npn", "pins": {"c": "A", "b": "P", "e": "0"}},
        {"designator": "Q2", "kind": "npn", "pins": {"c": "B", "b": "Q", "e": "0"}},
        {"designator": "R1", "kind": "resistor", "pins": {"a": "V", "b": "A"}},
        {"designator": "R2", "kind": "resistor", "pins": {"a": "V", "b": "B"}},
        {"designator": "R3", "kind": "resistor", "pins": {"a": "A", "b": "Q"}, "params": {"value": 22000}},
        {"designator": "R4", "kind": "resistor", "pins": {"a": "B", "b": "P"}, "params": {"value": 22000}}]}})");
    const double one = ask("op " + file + " --state 1")["nets"]["A"]["V"].get<double>(),
                 other = ask("op " + file + " --state 2")["nets"]["A"]["V"].get<double>();
    EXPECT_GT(std::abs(one - other), 2) << one << " " << other;
    EXPECT_EQ(cli("op " + file + " --state 3").exit_code, 2);
}

TEST_F(Cli, SchemaAndPartsInTheRepositoryAreWhatItPrints) {
    std::stringstream text;
    text << std::ifstream(std::string(ELKIT_SOURCE) + "/data/schema/elkit-design-2.schema.json").rdbuf();
    std::stringstream parts;
    parts << std::ifstream(std::string(ELKIT_SOURCE) + "/docs/parts.md").rdbuf();
    EXPECT_EQ(cli("parts").out, parts.str()) << "run: elkit-cli parts > docs/parts.md";
    EXPECT_EQ(cli("schema").out, text.str())
        << "run: elkit-cli schema > data/schema/elkit-design-2.schema.json";
}

TEST_F(Cli, APushButtonLightIsLookedAtWhileItIsHeld) {
    const std::string file = write("button.elkit.json", R"({"elkit":2,"name":"b","circuit":{"parts":[
        {"designator":"B1","kind":"battery","params":{"cell":"LR6","count":2},"pins":{"+":"V","-":"0"}},
        {"designator":"S1","kind":"button","pins":{"a":"V","b":"A"}},
        {"designator":"R1","kind":"resistor","params":{"value":10},"pins":{"a":"A","b":"B"}},
        {"designator":"L1","kind":"led","pins":{"a":"B","k":"0"}}]}})");
    const json situations = ask("situations " + file)["situations"];
    ASSERT_EQ(situations.size(), 2u);
    EXPECT_EQ(situations[0]["name"], "S1 pressed");
    EXPECT_GT(ask("light " + file)["strings"][0]["current"]["value"].get<double>(), 0.03);
    EXPECT_LT(ask("life " + file)["run_time"]["value"].get<double>(), 200);
    EXPECT_GT(ask("op " + file + " --situation 'S1 pressed'")["parts"]["L1"]["A"].get<double>(), 0.03);
    EXPECT_GT(ask("op " + file + " --event '1s press S1'")["parts"]["L1"]["A"].get<double>(), 0.03);
    EXPECT_EQ(cli("op " + file + " --situation nowhere").exit_code, 2);
    EXPECT_EQ(cli("op " + file + " --event 'press it'").exit_code, 2);
    const Output build = cli("build " + file);
    EXPECT_NE(build.out.find("Hold S1."), std::string::npos);
    // a remedy by its id leaves the finding behind
    std::string id;
    const json before = ask("check " + file);
    for (const json& f : before["findings"])
        if (!f["remedies"].empty() && f["severity"] == "error") id = f["id"];
    ASSERT_FALSE(id.empty());
    EXPECT_EQ(cli("remedy " + file + " '" + id + "' --write").exit_code, 0);
    const json after = ask("check " + file);
    for (const json& f : after["findings"]) EXPECT_NE(f["id"], id);
    EXPECT_EQ(cli("remedy " + file + " no-such-finding").exit_code, 2);
}

TEST_F(Cli, KeepsADrawer) {
    const std::string drawer = " --drawer " + folder_ + "/drawer.sqlite";
    const std::string table = write("parts.csv",
                                    "Component;Value;Qty;Location\nresistor;6,8k;120;A 3\n"
                                    "LED;red 5mm;~60;C\nresistor;10k;lots;A 5\n");
    const json look = ask("drawer import " + table + " --look" + drawer);
    EXPECT_EQ(look["new"], 1);
    EXPECT_EQ(look["changed"], 1);
    EXPECT_EQ(look["left_out"], 1);
    EXPECT_TRUE(ask("drawer list 6k8" + drawer)["items"].empty()) << "only looked";
    EXPECT_EQ(cli("drawer import " + table + drawer).exit_code, 0);
    const json found = ask("drawer list 6.8k" + drawer)["items"];
    ASSERT_EQ(found.size(), 1u);
    EXPECT_EQ(found[0]["key"], "resistor/6800");
    EXPECT_EQ(found[0]["stock"], 120);
    EXPECT_EQ(found[0]["place"], "A 3");
    EXPECT_EQ(cli("drawer import " + table + " --add" + drawer).exit_code, 0);
    EXPECT_EQ(ask("drawer list 6k8" + drawer)["items"][0]["stock"], 240);
    const json counted = ask("drawer count resistor/6800 33" + drawer);
    EXPECT_EQ(counted["before"], 240);
    EXPECT_EQ(counted["stock"], 33);
    EXPECT_EQ(ask("drawer list 6k8" + drawer)["items"][0]["counted"].get<std::string>().size(), 10u);
    EXPECT_EQ(cli("drawer count nothing 3" + drawer).exit_code, 2);
    EXPECT_EQ(cli("drawer count resistor/6800 lots" + drawer).exit_code, 2);
    EXPECT_EQ(cli("drawer import /no/such.csv" + drawer).exit_code, 3);
    EXPECT_EQ(cli("drawer burn it" + drawer).exit_code, 2);
    const std::string out = folder_ + "/out.csv";
    EXPECT_EQ(cli("drawer export " + out + drawer).exit_code, 0);
    EXPECT_EQ(ask("drawer import " + out + " --look" + drawer)["changed"], 0) << "reads back as it is";
}

TEST_F(Cli, ABatchTakesFromTheDrawer) {
    const std::string drawer = " --drawer " + folder_ + "/drawer.sqlite";
    const json reserved = ask("drawer reserve demo:pier-lantern" + drawer);
    EXPECT_EQ(reserved["batch"], "Pier lantern");
    EXPECT_FALSE(reserved["short_of"].empty());
    EXPECT_EQ(ask("drawer list amber 5" + drawer)["items"][0]["reserved"]["Pier lantern"], 120);
    EXPECT_FALSE(ask("drawer list --reserved" + drawer)["items"].empty());
    EXPECT_EQ(cli("drawer release demo:pier-lantern" + drawer).exit_code, 0);
    EXPECT_TRUE(ask("drawer list --reserved" + drawer)["items"].empty());
    EXPECT_EQ(cli("drawer use demo:pier-lantern" + drawer).exit_code, 0);
    EXPECT_EQ(ask("drawer list amber 5" + drawer)["items"][0]["stock"], 0);
}

TEST_F(Cli, DrillsTheFace) {
    const std::string svg = folder_ + "/face.svg", strip = folder_ + "/strip.svg";
    const json face = ask("template demo:pier-lantern --pattern circle=60mm --material acrylic --svg " + svg);
    ASSERT_EQ(face["lights"].size(), 4u);
    EXPECT_NEAR(face["lights"][0]["hole"]["value"].get<double>(), 0.0051, 1e-9);
    EXPECT_EQ(face["lights"][0]["placed"], true);
    EXPECT_TRUE(face["faults"].empty());
    EXPECT_TRUE(std::filesystem::exists(svg));
    const json again = ask("template demo:pier-lantern --outline " + svg);
    for (std::size_t k = 0; k < 4; ++k)
        for (const char* where : {"x_mm", "y_mm"})
            EXPECT_NEAR(again["lights"][k][where].get<double>(), face["lights"][k][where].get<double>(),
                        0.01);
    EXPECT_EQ(cli("template demo:pier-lantern --strip --svg " + strip).exit_code, 0);
    EXPECT_TRUE(std::filesystem::exists(strip));
    const Output used = cli("template demo:pier-lantern --pattern row=20mm --use");
    EXPECT_EQ(json::parse(used.out)["face"]["places"].size(), 4u);
    EXPECT_EQ(cli("template demo:pier-lantern --pattern spiral=3mm").exit_code, 2);
    EXPECT_EQ(cli("template demo:pier-lantern --material cheese").exit_code, 2);
    EXPECT_EQ(cli("template demo:pier-lantern --outline /no/such.svg").exit_code, 3);
    EXPECT_EQ(cli("template demo:pier-lantern --outline " + write("bad.svg", "<svg><g>")).exit_code, 2);
}

TEST_F(Cli, ProtectsTheCells) {
    const json found = ask("protection demo:pier-lantern");
    ASSERT_EQ(found["ways"].size(), 5u);
    EXPECT_LT(found["ways"][3]["drop"]["value"].get<double>(),
              found["ways"][1]["drop"]["value"].get<double>())
        << "a MOSFET loses less than a diode";
    EXPECT_FALSE(found["fuses"].empty());
    const std::string with = write("with.elkit.json", cli("protection demo:pier-lantern --use schottky").out);
    EXPECT_LT(ask("op " + with)["parts"]["L1"]["A"].get<double>(), 0.01);
    EXPECT_EQ(cli("protection demo:pier-lantern --use string").exit_code, 2);
}

TEST_F(Cli, TakesWhatWasCompared) {
    const std::string limited =
        write("limited.elkit.json", cli("limiters demo:pier-lantern --use pairs").out);
    EXPECT_EQ(ask("op " + limited).at("parts").size(), ask("op demo:pier-lantern").at("parts").size() + 2);
    EXPECT_EQ(cli("limiters demo:pier-lantern --use string").exit_code, 2);
    const json supplies = ask("supplies demo:pier-lantern --converter").at("supplies");
    const auto stepped = std::find_if(supplies.begin(), supplies.end(),
                                      [](const json& s) { return s.at("supply") == "2 × LR6, stepped up"; });
    ASSERT_NE(stepped, supplies.end());
    EXPECT_GT(stepped->at("converted_V"), 4.0);
    const std::string fed = write(
        "fed.elkit.json", cli("supplies demo:pier-lantern --converter --use '2 × LR6, stepped up'").out);
    EXPECT_NEAR(ask("life " + fed).at("run_time").at("value").get<double>(),
                stepped->at("run_time_h").get<double>(), 1e-2);
    EXPECT_EQ(cli("supplies demo:pier-lantern --use '9 × LR6'").exit_code, 2);
    const std::string charged =
        write("charged.elkit.json", cli("charging demo:rock-pool-torch --use 0.5").out);
    const json charging = ask("charging " + charged);
    EXPECT_FALSE(charging.at("charger").get<std::string>().empty());
    EXPECT_NE(cli("charging demo:pier-lantern").exit_code, 0);
    const std::string warned =
        write("warned.elkit.json", cli("block demo:pier-lantern low-battery --set warn=4V").out);
    EXPECT_GT(ask("op " + warned).at("parts").size(), 14u);
    EXPECT_EQ(cli("block demo:pier-lantern low-battery --set colour=red").exit_code, 2);
    EXPECT_EQ(cli("block demo:pier-lantern blinker").exit_code, 2);
}

TEST_F(Cli, ShowsPicturesAndWhatTheyTake) {
    const std::string path = write("board.elkit.json", "");
    const Output made = cli("recipe picture-board --goals picture=heart cell=USB cells=1 --out " + path);
    ASSERT_EQ(made.exit_code, 0) << made.err;
    const Output shown = cli("pictures " + path);
    ASSERT_EQ(shown.exit_code, 0) << shown.err;
    EXPECT_NE(shown.out.find("data: M1 → M2"), std::string::npos) << shown.out;
    EXPECT_NE(shown.out.find(".##..##. .##..##."), std::string::npos) << shown.out;
    const auto board = ask("pictures " + path).at(0);
    ASSERT_EQ(board.at("pictures").size(), 2u);
    EXPECT_EQ(board.at("brightest"), 2);
    EXPECT_GT(board.at("pictures")[1].at("current"), 2 * board.at("pictures")[0].at("current").get<double>());
    const Output drawn = cli("do " + path + " 'm1 pattern 1s 8000000000000001'");
    ASSERT_EQ(drawn.exit_code, 0) << drawn.err;
    EXPECT_NE(drawn.out.find("1s 8000000000000001"), std::string::npos);
    const Output wrong = cli("do " + path + " 'm1 pattern 1s 80000000'");
    EXPECT_NE(wrong.err.find("frame 1"), std::string::npos) << wrong.err;
    EXPECT_EQ(cli("pictures demo:pier-lantern").exit_code, 1);
}

TEST_F(Cli, ListsTheWiresOfABoardThatSwitchesLamps) {
    const Output csv = cli("wiring demo:diorama-switcher");
    ASSERT_EQ(csv.exit_code, 0) << csv.err;
    EXPECT_TRUE(csv.out.starts_with("number,use,from,to,net,purpose,current_A,wire_mm2,colour")) << csv.out;
    const auto list = ask("wiring demo:diorama-switcher");
    EXPECT_EQ(list.at("wires")[0].at("use"), "ground") << "first";
    EXPECT_EQ(list.at("pins").size(), 6u) << "five relays and a button";
    EXPECT_GT(list.at("total").at("value"), 0.2);
    EXPECT_EQ(cli("wiring /nowhere.elkit.json").exit_code, 3);
}

TEST_F(Cli, SetsATimerBesideAController) {
    const auto ways = ask("ways demo:harbour-beacon");
    ASSERT_EQ(ways.size(), 3u);
    EXPECT_EQ(ways[0].at("present"), true);
    EXPECT_EQ(ways[2].at("needs_programming"), true);
    EXPECT_GT(ways[2].at("on").at("value"), ways[0].at("on").at("value"));
    const Output made = cli("ways demo:harbour-beacon --use controller");
    ASSERT_EQ(made.exit_code, 0) << made.err;
    EXPECT_NE(made.out.find("pattern-lights"), std::string::npos);
    EXPECT_EQ(cli("ways demo:harbour-beacon --use sundial").exit_code, 2);
    EXPECT_EQ(cli("ways demo:pier-lantern").exit_code, 1) << "it neither blinks nor waits for a press";
}

TEST_F(Cli, TellsAControllerWhatToDoAndWritesItAsFirmware) {
    const std::string board =
        write("board.elkit.json", cli("do demo:pier-lantern 'small controller gnd GND vcc V+ P0 LAMP'").out);
    const Output told =
        cli("do " + board + " 'u1 behaviour state rest sleeps; press P3 to lit; state lit; P0 breathe 2s'");
    ASSERT_EQ(told.exit_code, 0) << told.err;
    const std::string path = write("told.elkit.json", told.out);
    EXPECT_NE(told.out.find("press P3 to lit"), std::string::npos);
    EXPECT_EQ(ask("steady " + path).at("moves"), false) << "it sleeps until somebody presses";
    const Output wrong = cli("do " + board + " 'u1 behaviour state rest; P0 blunk 2s'");
    EXPECT_NE(wrong.exit_code, 0);
    EXPECT_NE(wrong.err.find("statement 2"), std::string::npos) << wrong.err;
    EXPECT_NE(cli("do " + board + " 'u1 behaviour state rest; P2 rise 2s'").err.find("P2 cannot dim"),
              std::string::npos);

    const std::string folder = std::filesystem::path(path).parent_path().string() + "/firmware/new";
    const Output written = cli("firmware " + path + " --to " + folder);
    ASSERT_EQ(written.exit_code, 0) << written.err;
    for (const char* file : {"behaviour.c", "behaviour.h", "hardware.h", "README.md"})
        EXPECT_NE(written.out.find(folder + "/" + file), std::string::npos) << file;
    const Output compiled =
        run("cd " + folder + " && gcc -std=c99 -pedantic -Wall -Wextra -Werror -c behaviour.c");
    EXPECT_EQ(compiled.exit_code, 0) << compiled.err;
    EXPECT_EQ(cli("firmware demo:pier-lantern --to " + folder).exit_code, 1);
    EXPECT_EQ(cli("firmware " + path + " --part U7 --to " + folder).exit_code, 2);
    EXPECT_EQ(cli("firmware " + path + " --to " + path + "/in").exit_code, 3);
    EXPECT_EQ(cli("firmware " + path).exit_code, 2);
}

}  // namespace
}  // namespace elkit::test
