#include "render/export.hpp"

#include "design/file.hpp"
#include "formats/leaflet.hpp"
#include "formats/svg.hpp"
#include "render/pages.hpp"
#include "review/survey.hpp"

namespace elkit {
namespace {

struct Kit {
    Drawing stave;
    PadLayout layout;
    std::vector<BuildStep> steps;
    PartsList parts;
};

Result<Kit> prepare(const Design& design, const Conditions& conditions,
                    const std::vector<DrawerItem>& drawer) {
    const LiveSurvey live = live_survey(design, conditions, stave_layout(design.circuit), {});
    if (live.error) return *live.error;
    auto layout = lay_out_board(design.circuit, design.board);
    if (!layout) return layout.error();
    auto steps = build_steps(design, layout.value());
    if (!steps) return steps.error();
    PartsList parts = parts_list(design, drawer, &layout.value());
    return Kit{live.stave, std::move(layout).value(), std::move(steps).value(), std::move(parts)};
}

Result<void> write_leaflet(const Design& design, const Kit& kit, const std::filesystem::path& path) {
    return write_pdf(leaflet_pages(design, kit.stave, kit.layout, kit.steps, kit.parts), path, design.name);
}

Conditions fresh_and_on(const Circuit& circuit) { return lit(circuit, {}); }

}  // namespace

Result<std::vector<std::filesystem::path>> export_kit(const Design& design, const Conditions& conditions,
                                                      const std::vector<DrawerItem>& drawer,
                                                      const std::filesystem::path& directory) {
    auto kit = prepare(design, fresh_and_on(design.circuit), drawer);
    if (!kit) return kit.error();
    std::error_code code;
    std::filesystem::create_directories(directory, code);
    if (code)
        return Error{Fault::file, directory.string(), "cannot be made (" + code.message() + ")",
                     "a folder you may write to"};
    const Kit& k = kit.value();
    const LiveSurvey now = live_survey(design, conditions, stave_layout(design.circuit), {});
    std::vector<std::filesystem::path> written;
    if (auto done = write_leaflet(design, k, written.emplace_back(directory / "leaflet.pdf")); !done)
        return done.error();
    const std::pair<const char*, std::string> texts[]{
        {"stave.svg", write_svg(now.stave)},
        {"board-component-side.svg", write_svg(draw_component_side(k.layout, design.circuit))},
        {"board-solder-side.svg", write_svg(draw_solder_side(k.layout, design.circuit))},
        {"parts.csv", write_csv(parts_csv(k.parts))}};
    for (const auto& [name, text] : texts)
        if (auto done = write_file(written.emplace_back(directory / name), text); !done) return done.error();
    return written;
}

Result<void> export_leaflet(const Design& design, const std::vector<DrawerItem>& drawer,
                            const std::filesystem::path& path) {
    auto kit = prepare(design, fresh_and_on(design.circuit), drawer);
    if (!kit) return kit.error();
    return write_leaflet(design, kit.value(), path);
}

}  // namespace elkit
