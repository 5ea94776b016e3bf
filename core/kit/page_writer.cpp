#include "kit/page_writer.hpp"

#include <algorithm>
#include <optional>

namespace elkit {
namespace {

constexpr double legs_scale = 0.5;  // mm for a unit of a leg picture

std::string expectation(const Check& c) {
    const std::string probes = fmt::format("red on {}, black on {}", c.red, c.black);
    if (c.kind == CheckKind::beep) return probes + ": beeps";
    if (c.kind == CheckKind::silent) return probes + ": silent";
    return fmt::format("{}: {} ({})", probes, c.expected->text(), c.expected->spread_text());
}

}  // namespace

void write_steps(PageWriter& w, const std::vector<BuildStep>& all, std::string (*phases)(Phase)) {
    constexpr double left = PageWriter::left, right = PageWriter::right;
    std::optional<Phase> phase;
    int number = 0;
    for (const auto& s : all) {
        if (!phase || *phase != s.phase) {
            phase = s.phase;
            w.heading(phases(s.phase));
        }
        const double legs_height = s.legs.height * legs_scale;
        w.room(std::max(12.0, legs_height + 2));
        const double from = w.y();
        if (!s.legs.items.empty()) {
            w.place(s.legs, right - s.legs.width * legs_scale, legs_scale);
            w.beside(s.legs.width * legs_scale + 3);
        }
        w.tick_box(left, w.y() + 0.4);
        w.page().text(left + 10.5, w.y() + 3.3, fmt::format("{}", ++number), 3.3, Ink::muted, false,
                      Anchor::end);
        w.paragraph(s.title, 13, 3.4, Ink::ink, true);
        w.paragraph(s.text, 13, 3.1);
        if (!s.polarity.empty()) w.paragraph(s.polarity, 13, 3.1, Ink::structure, true);
        if (s.check) w.paragraph(expectation(*s.check), 13, 3.1, Ink::ink);
        if (!s.learnt.empty()) w.paragraph(s.learnt, 13, 3.1, Ink::muted);
        if (!s.caution.empty()) w.paragraph("Take care: " + s.caution, 13, 3.1, Ink::attention, true);
        w.beside(0);
        if (w.y() > from) w.gap(std::max(0.0, from + legs_height - w.y()));  // not after a new page
        w.gap(1.6);
    }
}

}  // namespace elkit
