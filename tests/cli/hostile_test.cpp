// Wrong use, hostile files and broken outputs on the command line: an exit code and one line that names what
// is wrong, nothing written, never an abort.
#include <gtest/gtest.h>

#include <filesystem>
#include <fstream>

#include "cli/cli.hpp"

namespace elkit::test {
namespace {

struct Case {
    std::string arguments;
    int code;
    std::string says;
};

void expect(const Case& c) {
    const Output o = cli(c.arguments);
    EXPECT_EQ(o.exit_code, c.code) << c.arguments << "\n" << o.err;
    EXPECT_NE(o.err.find(c.says), std::string::npos) << c.arguments << "\n" << o.err;
    EXPECT_EQ(std::count(o.err.begin(), o.err.end(), '\n'), 1) << c.arguments << "\n" << o.err;
}

TEST(WrongUse, NamesTheOptionOrWordThatIsWrong) {
    for (const Case& c : std::vector<Case>{
             {"zz", 2, "zz: there is no such command"},
             {"", 2, "subcommand"},
             {"op demo:zz", 2, "demo:zz"},
             {"op ''", 3, "name is empty"},
             {"op demo:pier-lantern --zz", 2, "--zz"},
             {"op demo:pier-lantern --battery nan", 2, "--battery"},
             {"op demo:pier-lantern --battery inf", 2, "--battery"},
             {"op demo:pier-lantern --temp 1e300", 2, "--temp"},
             {"op demo:pier-lantern --lux nan", 2, "--lux"},
             {"op demo:pier-lantern --switch S9=on", 2, "S9"},
             {"bom demo:pier-lantern --batch nan", 2, "--batch"},
             {"simulate demo:twin-blinker --until '5 furlongs'", 2, "--until: cannot read \"5 furlongs\""},
             {"simulate demo:twin-blinker --until 1e999", 2, "--until"},
             {"simulate demo:twin-blinker --until 1s --accuracy nan", 2, "--accuracy"},
             {"measure demo:twin-blinker --net V+ --reaches 3x", 2, "--reaches"},
             {"resistor --supply 9x --vf 2 --current 10mA", 2, "--supply"},
             {"sweep demo:harbour-dimmer --over RV1=0..nan:5 --of 'L1.i'", 2, "--over"},
             {"spread demo:pier-lantern --builds 1e9 --of L1.i", 2, "--builds"},
             {"do demo:pier-lantern 'r1 = 1e300'", 2, "1e+291"},
             {"do demo:pier-lantern 'r1 = 82' --write", 2, "--write: demo:pier-lantern is no file"},
             {"size demo:pier-lantern --write", 2, "--write"},
             {"stave demo:pier-lantern --svg ''", 3, "name is empty"},
             {"stave demo:pier-lantern --svg /dev/full", 3, "/dev/full: this is a device"},
             {"bom demo:pier-lantern --drawer /dev/zero", 3, "/dev/zero"},
             {"bom demo:pier-lantern --drawer /no/such", 3, "/no/such"},
             {"export demo:pier-lantern --to ''", 2, "--to"}})
        expect(c);
}

TEST(WrongUse, HostileFilesEndInOneLine) {
    std::string name = "/tmp/elkit-cli-XXXXXX";
    const std::string folder = ::mkdtemp(name.data());
    const auto file = [&](const char* text) {
        std::ofstream(folder + "/x.json") << text;
        return folder + "/x.json";
    };
    for (const char* command : {"op", "check", "light", "size", "clean", "board", "bom", "life"}) {
        const std::string begin = std::string(command) + " ";
        expect({begin + file(R"({"elkit": 1e999})"), 1, "line 1"});
        expect({begin + folder, 3, "this is a folder"});
        expect({begin + "/dev/zero", 3, "this is a device"});
        expect({begin + folder + "/" + std::string(300, 'n'), 3, "name too long"});
        expect({begin + "'" + folder + "/\xff\x1b[2J'", 3, "no such file"});
    }
    expect({"check " + file(R"({"elkit": 2, "name": "\u001b[2J"})"), 1, "/name"});
    EXPECT_EQ(cli("check " + file(R"({"elkit": 2, "name": "\u001b[2J"})")).err.find('\x1b'),
              std::string::npos);
    EXPECT_EQ(cli("clean " + file(R"({"elkit": 2, "name": "a\u001bb"})")).exit_code, 0);
    EXPECT_EQ(run("mkfifo " + folder + "/pipe; timeout 5 " ELKIT_CLI " op " + folder + "/pipe").exit_code, 3);
    std::filesystem::remove_all(folder);
}

TEST(BrokenOutput, IsFileTroubleNeverSuccess) {
    for (const char* command :
         {"op demo:pier-lantern", "op demo:pier-lantern --json", "size demo:pier-lantern", "rules", "schema",
          "bom demo:pier-lantern", "--help", "op --help"}) {
        const std::string full = std::string(ELKIT_CLI) + " " + command;
        const Output o = run(full + " > /dev/full");
        EXPECT_EQ(o.exit_code, 3) << full << o.err;
        EXPECT_NE(o.err.find("standard output"), std::string::npos) << full << o.err;
        EXPECT_EQ(run(full + " >&-").exit_code, 3) << full << " with a closed output";
        EXPECT_EQ(run(full + " 2>&- > /dev/null").exit_code, 0) << full;
    }
    // a reader that leaves: larger than what fits into a pipe
    const Output piped =
        run("{ " ELKIT_CLI
            " simulate demo:twin-blinker --until 20s --csv; echo $? >&2; } | head -c 10 > /dev/null");
    EXPECT_NE(piped.err.find("standard output"), std::string::npos) << piped.err;
    EXPECT_NE(piped.err.find("\n3\n"), std::string::npos) << piped.err;
}

TEST(BrokenOutput, AClosedOutputDoesNotGoIntoTheFileThatIsWritten) {
    std::string name = "/tmp/elkit-cli-XXXXXX";
    const std::string folder = ::mkdtemp(name.data()), file = folder + "/x.json";
    ASSERT_EQ(run(ELKIT_CLI " size demo:pier-lantern > " + file).exit_code, 0);
    run(ELKIT_CLI " do " + file + " 'r1 = 82' --write >&- 2>&- <&-");
    EXPECT_EQ(cli("check " + file).err, "") << "it is a design and nothing else";
    std::filesystem::remove_all(folder);
}

}  // namespace
}  // namespace elkit::test
