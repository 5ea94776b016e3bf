#include "formats/leaflet.hpp"

#include <fmt/format.h>

#include <algorithm>

#include "quantity/preferred.hpp"

namespace elkit {
namespace {

constexpr double page_width = 210, page_height = 297, left = 16, right = 194, top = 20, bottom = 280;

/// Fills pages from top to bottom; opens the next one when a block does not fit.
class PageWriter {
  public:
    explicit PageWriter(std::string name) : name_(std::move(name)) { new_page(); }

    void room(double height) {
        if (y_ + height > bottom) new_page();
    }
    void heading(const std::string& text) {
        room(20);
        y_ += 5;
        page().text(left, y_ + 4, text, 4.6, Ink::structure, true);
        y_ += 8;
    }
    void paragraph(const std::string& text, double indent = 0, double size = 3.3, Ink ink = Ink::ink,
                   bool bold = false) {
        for (const auto& line : wrap_text(text, right - left - indent, size)) {
            room(size * 1.45);
            page().text(left + indent, y_ + size, line, size, ink, bold);
            y_ += size * 1.45;
        }
    }
    void tick_box(double x, double y) { page().add(Rect{x, y, 3.2, 3.2, 0.4}, {Ink::ink, 0.25, Ink::none}); }
    void gap(double h) { y_ += h; }
    Drawing& page() { return pages_.back(); }
    double y() const { return y_; }
    void place(const Drawing& drawing, double x, double scale) {
        room(drawing.height * scale + 2);
        page().place(drawing, x, y_, scale);
    }
    std::vector<Drawing> finish() {
        for (std::size_t i = 0; i < pages_.size(); ++i)
            pages_[i].text(right, 290, fmt::format("{} · page {} of {}", name_, i + 1, pages_.size()), 2.8,
                           Ink::muted, false, Anchor::end);
        return std::move(pages_);
    }

  private:
    void new_page() {
        Drawing d;
        d.width = page_width, d.height = page_height, d.title = name_;
        pages_.push_back(std::move(d));
        y_ = top;
    }
    std::string name_;
    std::vector<Drawing> pages_;
    double y_ = top;
};

void title(PageWriter& w, const Design& design) {
    w.page().text(left, w.y() + 8, design.name, 10, Ink::ink, true);
    w.gap(13);
    if (!design.brief.purpose.empty()) w.paragraph(design.brief.purpose, 0, 3.8, Ink::muted);
    if (design.brief.for_children)
        w.paragraph("To be built and handled with a grown-up.", 0, 3.3, Ink::attention, true);
}

void circuit(PageWriter& w, const Drawing& stave) {
    w.heading("The circuit");
    w.paragraph(
        "Each line is a net; the higher it lies, the higher its voltage from fresh cells. Parts hang between "
        "their nets.",
        0, 3.1, Ink::muted);
    w.gap(2);
    const double scale = std::min((right - left) / stave.width, 85 / stave.height);
    w.place(stave, left, scale);
    w.gap(stave.height * scale + 2);
}

void band_picture(PageWriter& w, double x, double y, const std::string& marking) {
    w.page().add(Rect{x, y + 0.3, 16, 2.9, 1}, {Ink::muted, 0.2, Ink::card});
    double at = x + 2;
    std::size_t from = 0;
    while (from < marking.size()) {
        const std::size_t to = std::min(marking.find(' ', from), marking.size());
        const bool last = to == marking.size();
        w.page().add(Rect{last ? x + 13 : at, y + 0.3, 1.3, 2.9, 0},
                     {Ink::none, 0, Ink::rgb, 1, band_rgb(marking.substr(from, to - from))});
        at += 2.6;
        from = to + 1;
    }
}

void parts(PageWriter& w, const PartsList& list) {
    w.heading("In the bag");
    for (const auto& line : list.lines) {
        w.room(6);
        w.tick_box(left, w.y());
        const std::string count = line.per_kit.value < 1 ? "" : fmt::format("{:.0f} ×", line.per_kit.value);
        w.page().text(left + 13, w.y() + 2.8, count, 3.3, Ink::ink, true, Anchor::end);
        w.page().text(left + 15, w.y() + 2.8, line.name, 3.3);
        w.page().text(left + 84, w.y() + 2.8, line.designators, 3.3, Ink::muted);
        if (line.key.starts_with("resistor/")) {
            band_picture(w, left + 118, w.y(), line.marking);
            w.page().text(left + 138, w.y() + 2.8, line.marking, 3, Ink::muted);
        } else {
            w.page().text(left + 118, w.y() + 2.8, line.marking, 3, Ink::muted);
        }
        w.gap(5.6);
    }
}

void boards(PageWriter& w, const PadLayout& layout, const Circuit& circuit) {
    const Drawing front = draw_component_side(layout, circuit), back = draw_solder_side(layout, circuit);
    w.room(front.height + 24);
    w.heading("The board, at 1:1");
    w.paragraph(
        fmt::format("{} × {} holes, {:.1f} × {:.1f} mm. Lay the board on the picture to check the print.",
                    layout.columns, layout.rows, layout.width(), layout.height()),
        0, 3.1, Ink::muted);
    w.gap(2);
    const bool beside = front.width + back.width + 8 <= right - left;
    w.page().text(left, w.y() + 3, "from the component side", 3, Ink::muted);
    if (beside)
        w.page().text(left + front.width + 8, w.y() + 3, "from the solder side (mirrored)", 3, Ink::muted);
    w.gap(5);
    w.place(front, left, 1);
    if (beside) {
        w.place(back, left + front.width + 8, 1);
        w.gap(front.height + 3);
        return;
    }
    w.gap(front.height + 3);
    w.room(back.height + 6);
    w.page().text(left, w.y() + 3, "from the solder side (mirrored)", 3, Ink::muted);
    w.gap(5);
    w.place(back, left, 1);
    w.gap(back.height + 3);
}

/// Both sides again, large enough to read hole names and bands.
void large_boards(PageWriter& w, const PadLayout& layout, const Circuit& circuit) {
    const Drawing pictures[]{draw_component_side(layout, circuit), draw_solder_side(layout, circuit)};
    const double scale = std::min({3.0, (right - left) / pictures[0].width, 110 / pictures[0].height});
    if (scale < 1.2) return;
    w.heading("Large, to work from");
    for (const Drawing& picture : pictures) {
        w.room(picture.height * scale + 8);
        w.page().text(left, w.y() + 3, picture.title, 3.2, Ink::muted);
        w.gap(5);
        w.place(picture, left, scale);
        w.gap(picture.height * scale + 3);
    }
}

std::string expectation(const Check& c) {
    const std::string probes = fmt::format("red on {}, black on {}", c.red, c.black);
    if (c.kind == CheckKind::beep) return probes + ": beeps";
    if (c.kind == CheckKind::silent) return probes + ": silent";
    return fmt::format("{}: {} ({})", probes, c.expected->text(), c.expected->spread_text());
}

void steps(PageWriter& w, const std::vector<BuildStep>& all) {
    std::optional<Phase> phase;
    int number = 0;
    for (const auto& s : all) {
        if (!phase || *phase != s.phase) {
            phase = s.phase;
            w.heading(phase_name(s.phase));
        }
        w.room(12);
        w.tick_box(left, w.y() + 0.4);
        w.page().text(left + 10.5, w.y() + 3.3, fmt::format("{}", ++number), 3.3, Ink::muted, false,
                      Anchor::end);
        w.paragraph(s.title, 13, 3.4, Ink::ink, true);
        w.paragraph(s.text, 13, 3.1);
        if (!s.polarity.empty()) w.paragraph(s.polarity, 13, 3.1, Ink::structure, true);
        if (s.check) w.paragraph(expectation(*s.check), 13, 3.1, Ink::ink);
        if (!s.caution.empty()) w.paragraph("Take care: " + s.caution, 13, 3.1, Ink::attention, true);
        w.gap(1.6);
    }
}

}  // namespace

std::vector<Drawing> leaflet_pages(const Design& design, const Drawing& stave, const PadLayout& layout,
                                   const std::vector<BuildStep>& all_steps, const PartsList& list) {
    PageWriter w(design.name);
    title(w, design);
    circuit(w, stave);
    parts(w, list);
    boards(w, layout, design.circuit);
    large_boards(w, layout, design.circuit);
    steps(w, all_steps);
    return w.finish();
}

}  // namespace elkit
