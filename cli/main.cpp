#include <fcntl.h>
#include <fmt/format.h>
#include <unistd.h>

#include <cerrno>
#include <csignal>
#include <cstdio>
#include <cstring>
#include <iostream>
#include <map>

#include "cli/command.hpp"
#include "command/own_parts.hpp"

namespace elkit::cli {
namespace {

using Runs = std::map<const CLI::App*, std::function<int()>>;

void add_commands(CLI::App& app, Runs& runs) {
    for (const auto& group :
         {design_commands(), light_commands(), planning_commands(), sight_commands(), drawer_commands(),
          face_commands(), recipe_commands(), firmware_commands(), picture_commands(), ways_commands(),
          protection_commands(), board_commands(), fabricate_commands(), making_commands(), export_commands(),
          time_commands(), bench_commands()})
        for (const Command& command : group) {
            CLI::App* sub = app.add_subcommand(command.name, command.help);
            runs[sub] = command.add(*sub);
        }
}

/// The parser tells of a word it does not know only that a command is missing.
Result<void> check_command(const CLI::App& app, int argc, char** argv) {
    if (argc < 2 || argv[1][0] == '-') return success();
    const std::string word = argv[1];
    std::vector<std::string> names;
    for (const CLI::App* sub : app.get_subcommands({})) names.push_back(sub->get_name());
    if (std::find(names.begin(), names.end(), word) != names.end()) return success();
    return Error{Fault::usage, word, "there is no such command",
                 fmt::format("one of {}", fmt::join(names, ", "))};
}

int run(int argc, char** argv) {
    CLI::App app{"Elkit on the command line: every computation of the bench, without the window"};
    app.require_subcommand(1);
    app.footer(
        "Exit codes: 0 ok, 1 the design has errors, 2 wrong use, 3 file trouble, 4 a fault in Elkit itself. "
        "docs/cli.md tells more.");
    std::string own = own_parts_file().string();
    app.add_option("--own-parts", own, "a file of own parts, in place of own-parts.json in the data folder");
    Runs runs;
    add_commands(app, runs);
    if (auto known = check_command(app, argc, argv); !known) return fail(known.error());
    try {
        app.parse(argc, argv);
    } catch (const CLI::CallForHelp& e) {
        return app.exit(e);
    } catch (const CLI::ParseError& e) {
        return fail({Fault::usage, "", e.what(), ""});
    }
    if (auto taken = take_up_own_parts_of(own); !taken) return fail(taken.error());
    return runs.at(app.get_subcommands().front())();
}

/// A file that is opened must never take the number of a closed output: nothing that is printed goes into it.
void fill_standard_files() {
    for (int fd = 0; fd < 3; ++fd)
        if (::fcntl(fd, F_GETFD) < 0 && errno == EBADF) (void)::open("/dev/null", O_RDONLY);
}

/// What was printed has arrived, or it was all for nothing.
int after_output(int code) {
    std::cout.flush();
    if (std::fflush(stdout) == 0 && std::cout && !std::ferror(stdout)) return code;
    return fail({Fault::file, "standard output",
                 std::string("cannot be written (") + std::strerror(errno) + ")",
                 "room on the disk and a reader"});
}

}  // namespace
}  // namespace elkit::cli

int main(int argc, char** argv) {
    using namespace elkit;
    using namespace elkit::cli;
    fill_standard_files();
    std::signal(SIGPIPE, SIG_IGN);  // a reader that went away is an error like others
    const std::string doing = argc > 1 ? argv[1] : "elkit-cli";
    try {
        return after_output(run(argc, argv));
    } catch (const std::system_error& e) {  // printing throws it
        return fail({Fault::file, "standard output", e.what(), "room on the disk and a reader"});
    } catch (const std::bad_alloc&) {
        return fail({Fault::program, doing, "needs more memory than there is", "a smaller design"});
    } catch (const std::exception& e) {
        return fail(program_error(doing, e));
    } catch (...) {
        return fail({Fault::program, doing, "failed inside Elkit", ""});
    }
}
