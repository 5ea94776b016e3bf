#include "render/export.hpp"

#include <cctype>
#include <utility>

#include "board/copper/layout.hpp"
#include "design/file.hpp"
#include "fabricate/fabricated.hpp"
#include "face/template.hpp"
#include "formats/svg.hpp"
#include "formats/zip.hpp"
#include "kit/board_sheet.hpp"
#include "kit/leaflet.hpp"
#include "kit/stave_picture.hpp"
#include "kit/trial_sheet.hpp"
#include "render/pages.hpp"

namespace elkit {
namespace {
namespace fs = std::filesystem;

/// The name of a side's file: "Component side" → "board-component-side.svg".
std::string side_file(const std::string& title) {
    std::string name = "board";
    bool dash = true;
    for (const char c : title.substr(0, title.find(','))) {
        if (c == ' ') dash = true;
        if (c == ' ') continue;
        if (std::exchange(dash, false)) name += '-';
        name += static_cast<char>(std::tolower(static_cast<unsigned char>(c)));
    }
    return name + ".svg";
}

Result<void> leaflet(const Ask& ask, const KitSource& kit, const fs::path& path) {
    const auto pages = ask(LeafletQuery{kit.design, kit.drawer});
    if (!pages) return pages.error();
    return write_pdf(*pages, path, kit.design.name);
}

Result<void> stave(const Ask& ask, const KitSource& kit, const fs::path& path) {
    auto picture = stave_picture(ask, kit.design.circuit, kit.conditions);
    if (!picture) return picture.error();
    return write_file(path, write_svg(picture.value()));
}

Result<void> parts(const Ask& ask, const KitSource& kit, const fs::path& path) {
    const auto list = ask(parts_query(kit.design, kit.drawer));
    if (!list) return list.error();
    return write_file(path, write_csv(parts_csv(*list)));
}

Result<void> drill_template(const Ask&, const KitSource& kit, const fs::path& path) {
    return write_file(path, write_svg(draw_drill_template(kit.design)));
}

Result<void> test_strip(const Ask&, const KitSource& kit, const fs::path& path) {
    return write_file(path, write_svg(draw_test_strip(kit.design)));
}

TrialQuery trial_of(const KitSource& kit) {
    return {kit.design.circuit, board_choices(kit.design), kit.design.situations};
}

Result<void> trial_pages(const Ask& ask, const KitSource& kit, const fs::path& path) {
    const auto trial = ask(trial_of(kit));
    if (!trial) return trial.error();
    return write_pdf(trial_sheet(*trial, kit.design.name), path, kit.design.name + ", trial");
}

Result<void> trial_plan(const Ask& ask, const KitSource& kit, const fs::path& path) {
    const auto trial = ask(trial_of(kit));
    if (!trial) return trial.error();
    return write_file(path, write_svg(trial->board.sides.front().picture));
}

Result<void> trial_wires(const Ask& ask, const KitSource& kit, const fs::path& path) {
    const auto trial = ask(trial_of(kit));
    if (!trial) return trial.error();
    return write_file(path, write_csv(board_wires_csv(trial->board)));
}

Result<void> board_wires(const Ask& ask, const KitSource& kit, const fs::path& path) {
    const auto board = ask(BoardQuery{kit.design.circuit, board_choices(kit.design)});
    if (!board) return board.error();
    return write_file(path, write_csv(board_wires_csv(*board)));
}

Result<void> board_pages(const Ask& ask, const KitSource& kit, const fs::path& path) {
    const auto board = ask(BoardQuery{kit.design.circuit, board_choices(kit.design)});
    if (!board) return board.error();
    return write_pdf(board_sheet(*board, kit.design.name), path, kit.design.name + ", board");
}

bool leaves_files(const Design& design) { return makings().method(design.board.method) != nullptr; }

/// All files for the mill or the board house, in one.
Result<void> fabrication(const Ask&, const KitSource& kit, const fs::path& path) {
    const Making* making = makings().method(kit.design.board.method);
    if (!making)
        return Error{Fault::design, "/board/method",
                     "\"" + kit.design.board.method + "\" leaves no files for machines",
                     "a milled or ordered board"};
    const auto laid = lay_out_copper(kit.design.circuit, board_choices(kit.design), *making);
    if (!laid) return laid.error();
    FabricateOptions options;
    options.boards = kit.design.brief.kits;
    options.panel = panel_of(kit.design.board);
    std::vector<std::pair<std::string, std::string>> files;
    for (FabricatedFile& f : fabricated(laid.value(), kit.design.circuit, kit.design.name, options))
        files.emplace_back(std::move(f.name), std::move(f.content));
    auto zip = zip_of(files);
    return zip ? write_file(path, zip.value()) : zip.error();
}

}  // namespace

const std::vector<Export>& exports() {
    static const std::vector<Export> all{
        {"leaflet", "Kit leaflet (PDF)", "leaflet.pdf", "PDF", "*.pdf", "Ctrl+P", leaflet},
        {"stave", "Stave (SVG)", "stave.svg", "SVG", "*.svg", "", stave},
        {"parts", "Parts list (CSV)", "parts.csv", "CSV", "*.csv", "", parts},
        {"template", "Drill template (SVG)", "drill-template.svg", "SVG", "*.svg", "", drill_template},
        {"test-strip", "Test strip of holes (SVG)", "test-strip.svg", "SVG", "*.svg", "", test_strip},
        {"trial-sheet", "Trial, plan and steps (PDF)", "trial.pdf", "PDF", "*.pdf", "", trial_pages},
        {"trial-plan", "Trial, picture (SVG)", "trial.svg", "SVG", "*.svg", "", trial_plan},
        {"trial-wires", "Trial, wires (CSV)", "trial-wires.csv", "CSV", "*.csv", "", trial_wires},
        {"board-wires", "Wires of the board (CSV)", "board-wires.csv", "CSV", "*.csv", "", board_wires},
        {"board-sheet", "Board, both sides and its work (PDF)", "board.pdf", "PDF", "*.pdf", "", board_pages},
        {"fabrication", "Files for mill or board house (ZIP)", "fabrication.zip", "ZIP", "*.zip", "",
         fabrication, leaves_files}};
    return all;
}

const Export* find_export(std::string_view id) {
    for (const Export& e : exports())
        if (e.id == id) return &e;
    return nullptr;
}

Result<KitFiles> export_kit(const Ask& ask, const KitSource& kit, const fs::path& directory) {
    std::error_code code;
    fs::create_directories(directory, code);
    if (code)
        return Error{Fault::file, directory.string(), "cannot be made (" + code.message() + ")",
                     "a folder you may write to"};
    KitFiles files;
    const auto note = [&](const fs::path& path, const std::string& label, const Result<void>& done) {
        if (done)
            files.written.push_back(path);
        else
            files.refused.emplace_back(label, done.error());
    };
    for (const Export& e : exports()) {
        if (e.applies && !e.applies(kit.design)) continue;
        const fs::path path = directory / e.file;
        note(path, e.label, e.write(ask, kit, path));
    }
    const auto board = ask(BoardQuery{kit.design.circuit, board_choices(kit.design)});
    if (!board) note({}, "Board (SVG)", board.error());
    for (std::size_t k = 0; board && k < board->sides.size(); ++k) {
        const BoardSide& side = board->sides[k];
        const fs::path path = directory / side_file(side.title);
        note(path, side.title + " (SVG)", write_file(path, write_svg(side_on_paper(*board, k))));
    }
    return files;
}

}  // namespace elkit
