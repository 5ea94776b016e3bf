// Boards of copper: files for machines and board houses, and reading them back.
#include <fmt/format.h>

#include <algorithm>
#include <filesystem>

#include "board/board.hpp"
#include "board/copper/check.hpp"
#include "board/copper/layout.hpp"
#include "cli/command.hpp"
#include "cli/with_design.hpp"
#include "design/file.hpp"
#include "fabricate/fabricated.hpp"
#include "fabricate/milling.hpp"
#include "fabricate/read_back.hpp"
#include "formats/zip.hpp"

namespace elkit::cli {
namespace {
namespace fs = std::filesystem;

constexpr const char* kept_design = "design.elkit.json";  // beside the files, to compare with

struct FabricateCommand {
    Options common;
    std::string method, to, panel, parting, tool_change = "file";
    bool clear = false;
};

std::vector<std::string> copper_methods() {
    std::vector<std::string> ids;
    for (const Making& m : makings().methods) ids.push_back(m.id);
    return ids;
}

/// "2x3"; as the design has it for an empty text.
Result<BoardPanel> panel_from(const FabricateCommand& o, const BoardChoices& choices) {
    BoardPanel panel = panel_of(choices);
    if (!o.parting.empty()) panel.parting = o.parting;
    if (o.panel.empty()) return panel;
    char cross = 0, rest = 0;
    if (std::sscanf(o.panel.c_str(), "%d%c%d%c", &panel.across, &cross, &panel.down, &rest) != 3 ||
        cross != 'x' || panel.across < 1 || panel.down < 1 || panel.across > 20 || panel.down > 20)
        return Error{Fault::usage, "--panel", "\"" + o.panel + "\"",
                     "boards across and down, as 2x3, at most 20x20"};
    return panel;
}

/// Files of another board beside the new ones would be sent, or milled, with them.
Result<void> check_others(const std::vector<FabricatedFile>& files, const fs::path& folder) {
    std::error_code code;
    for (const auto& entry : fs::directory_iterator(folder, code)) {
        const std::string name = entry.path().filename().string(), kind = entry.path().extension().string();
        const bool for_machines = kind == ".nc" || kind == ".gbr" || kind == ".xnc" || kind == ".ipc";
        const bool again =
            std::any_of(files.begin(), files.end(), [&](const FabricatedFile& f) { return f.name == name; });
        if (for_machines && !again)
            return Error{Fault::file, folder.string(), "it holds " + name + ", which is of another board",
                         "an empty folder, or one of the same board's files"};
    }
    return success();
}

Result<void> write_all(const std::vector<FabricatedFile>& files, const fs::path& folder) {
    std::error_code code;
    fs::create_directories(folder, code);
    if (code)
        return Error{Fault::file, folder.string(), "cannot be made (" + code.message() + ")",
                     "a folder you may write to"};
    for (const FabricatedFile& f : files)
        if (auto written = write_file(folder / f.name, f.content); !written) return written;
    return success();
}

int fabricate(const FabricateCommand& o) {
    if (o.to.empty()) return fail({Fault::usage, "--to", "the name is empty", "a folder"});
    return with_design(o.common, [&](const Design& design, const Conditions&) {
        const auto panel = panel_from(o, design.board);
        if (!panel) return fail(panel.error());
        const std::string id = o.method.empty() ? design.board.method : o.method;
        const Making* making = makings().method(id);
        if (!making)
            return fail({Fault::usage, "--method", "\"" + id + "\" leaves no files for machines",
                         fmt::format("one of {}", fmt::join(copper_methods(), ", "))});
        const auto laid = lay_out_copper(design.circuit, board_choices(design), *making);
        if (!laid) return fail(laid.error());
        FabricateOptions options;
        options.panel = panel.value(), options.clear = o.clear,
        options.pause_for_tools = o.tool_change == "pause";
        options.boards = design.brief.kits;
        auto files = fabricated(laid.value(), design.circuit, design.name, options);
        std::vector<std::pair<std::string, std::string>> in_zip;
        for (const FabricatedFile& f : files) in_zip.emplace_back(f.name, f.content);
        auto zip = zip_of(in_zip);
        if (!zip) return fail(zip.error());
        Design kept = design;
        kept.board.method = id;
        files.push_back({kept_design, "the design, to compare with", write_design(kept)});
        files.push_back({"all-files.zip", "all of them in one", std::move(zip).value()});
        if (auto alone = check_others(files, o.to); !alone) return fail(alone.error());
        if (auto written = write_all(files, o.to); !written) return fail(written.error());
        const auto faults = fabrication_faults(laid.value(), design.circuit);
        const double minutes = making->milled() ? mill_minutes(laid.value(), options) : 0;
        if (o.common.json) {
            Json list = Json::array();
            for (const FabricatedFile& f : files) list.push_back({{"file", f.name}, {"about", f.about}});
            Json out = {{"method", id}, {"files", list}, {"faults", faults}};
            if (making->milled()) out["mill_minutes"] = minutes;
            print_json(out);
        } else {
            for (const FabricatedFile& f : files)
                fmt::print("{:<44} {}\n", (fs::path(o.to) / f.name).string(), f.about);
            if (making->milled())
                fmt::print("the mill runs for about {:.0f} minutes a board\n", std::max(1.0, minutes));
            for (const std::string& f : faults) fmt::print("{}\n", f);
            fmt::print("{}\n",
                       faults.empty() ? "the board equals the circuit" : "the board is not the circuit");
        }
        return faults.empty() ? 0 : 1;
    });
}

int say(const std::vector<std::string>& differences, const std::vector<std::string>& files, bool json) {
    if (json) {
        print_json({{"files", files}, {"differences", differences}});
    } else {
        if (!files.empty()) fmt::print("read: {}\n", fmt::join(files, ", "));
        for (const std::string& d : differences) fmt::print("{}\n", d);
        fmt::print("{}\n", differences.empty() ? "they equal the circuit" : "they are not the circuit");
    }
    return differences.empty() ? 0 : 1;
}

/// The files of a folder against the design that lies beside them.
int verify_folder(const fs::path& folder, bool json) {
    auto text = read_file(folder / kept_design);
    if (!text) return fail(text.error());
    auto design = read_design(text.value());
    if (!design) return fail(design.error());
    std::vector<std::pair<std::string, std::string>> files;
    std::error_code code;
    for (const auto& entry : fs::directory_iterator(folder, code)) {
        if (!entry.is_regular_file() || entry.path().extension() == ".zip") continue;
        auto content = read_file(entry.path());
        if (!content) return fail(content.error());
        files.emplace_back(entry.path().filename().string(), std::move(content).value());
    }
    std::sort(files.begin(), files.end());
    auto board = read_fabricated(files);
    if (!board) return fail(board.error());
    return say(read_differences(board.value(), design.value().circuit), board.value().files, json);
}

/// A design's own board, read back from its finished geometry.
int verify_design(const Options& o) {
    return with_design(o, [&](const Design& design, const Conditions&) {
        if (const Making* making = makings().method(design.board.method)) {
            const auto laid = lay_out_copper(design.circuit, board_choices(design), *making);
            if (!laid) return fail(laid.error());
            const auto faults = fabrication_faults(laid.value(), design.circuit);
            return say(faults, {}, o.json);
        }
        Store store;
        const auto board = Ask(store)(BoardQuery{design.circuit, board_choices(design)});
        return board ? say(board->differences, {}, o.json) : fail(board.error());
    });
}

}  // namespace

std::vector<Command> fabricate_commands() {
    return {
        {"fabricate",
         "files for the mill or the board house: G-code, Gerber, drill, netlist, order sheet, ZIP",
         [](CLI::App& sub) {
             const auto o = std::make_shared<FabricateCommand>();
             sub.add_option("FILE", o->common.file, "design")->required();
             sub.add_option("--method", o->method, "milled, ordered, or one of your own");
             sub.add_option("--to", o->to, "folder, made if missing")->required();
             sub.add_option("--panel", o->panel,
                            "boards in one piece, across and down: 2x3; else as the design has it");
             sub.add_option("--parting", o->parting, "of a panel")->check(CLI::IsMember({"score", "tabs"}));
             sub.add_option("--tool-change", o->tool_change, "a file for each drill, or one that pauses")
                 ->check(CLI::IsMember({"file", "pause"}));
             sub.add_flag("--clear", o->clear, "mills away the copper that joins nothing");
             sub.add_flag("--json", o->common.json, "JSON on stdout");
             return [o] { return fabricate(*o); };
         }},
        {"verify", "reads such files back, or a design's board, and compares it with the circuit",
         [](CLI::App& sub) {
             const auto o = std::make_shared<Options>();
             sub.add_option("FOLDER", o->file, "a folder of fabricate, or a design")->required();
             sub.add_flag("--json", o->json, "JSON on stdout");
             return [o] {
                 std::error_code code;
                 return fs::is_directory(o->file, code) ? verify_folder(o->file, o->json) : verify_design(*o);
             };
         }}};
}

}  // namespace elkit::cli
