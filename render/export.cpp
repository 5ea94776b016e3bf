#include "render/export.hpp"

#include <functional>
#include <utility>

#include "design/file.hpp"
#include "formats/svg.hpp"
#include "kit/leaflet.hpp"
#include "kit/stave_picture.hpp"
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

/// Each writes its part of the kit into a folder and names the files.
using Exporter = std::function<Result<void>(const Ask&, const KitSource&, const fs::path&, std::vector<fs::path>&)>;

Result<void> leaflet(const Ask& ask, const KitSource& kit, const fs::path& to, std::vector<fs::path>& written) {
    return export_leaflet(ask, kit, written.emplace_back(to / "leaflet.pdf"));
}

Result<void> stave(const Ask& ask, const KitSource& kit, const fs::path& to, std::vector<fs::path>& written) {
    auto picture = stave_picture(ask, kit.design.circuit, kit.conditions);
    if (!picture) return picture.error();
    return write_file(written.emplace_back(to / "stave.svg"), write_svg(picture.value()));
}

Result<void> sides(const Ask& ask, const KitSource& kit, const fs::path& to, std::vector<fs::path>& written) {
    const auto board = ask(BoardQuery{kit.design.circuit, kit.design.board});
    if (!board) return board.error();
    for (const BoardSide& side : board->sides)
        if (auto done = write_file(written.emplace_back(to / side_file(side.title)), write_svg(side.picture)); !done)
            return done;
    return success();
}

Result<void> parts(const Ask& ask, const KitSource& kit, const fs::path& to, std::vector<fs::path>& written) {
    return export_parts(ask, kit, written.emplace_back(to / "parts.csv"));
}

const std::vector<Exporter>& exporters() {
    static const std::vector<Exporter> all{leaflet, stave, sides, parts};
    return all;
}

}  // namespace

Result<std::vector<fs::path>> export_kit(const Ask& ask, const KitSource& kit, const fs::path& directory) {
    std::error_code code;
    fs::create_directories(directory, code);
    if (code)
        return Error{Fault::file, directory.string(), "cannot be made (" + code.message() + ")",
                     "a folder you may write to"};
    std::vector<fs::path> written;
    for (const Exporter& write : exporters())
        if (auto done = write(ask, kit, directory, written); !done) return done.error();
    return written;
}

Result<void> export_leaflet(const Ask& ask, const KitSource& kit, const fs::path& path) {
    const auto pages = ask(LeafletQuery{kit.design, kit.drawer});
    if (!pages) return pages.error();
    return write_pdf(*pages, path, kit.design.name);
}

Result<void> export_parts(const Ask& ask, const KitSource& kit, const fs::path& path) {
    const auto list = ask(parts_query(kit.design, kit.drawer));
    if (!list) return list.error();
    return write_file(path, write_csv(parts_csv(*list)));
}

}  // namespace elkit
