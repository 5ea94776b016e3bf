#include "drawing/stave.hpp"

#include <algorithm>
#include <cmath>

#include "catalogue/catalogue.hpp"
#include "circuit/part_kind.hpp"
#include "drawing/symbol.hpp"
#include "quantity/format.hpp"

namespace elkit {
namespace {

constexpr double tag_width = 112, tag_height = 24, left = 16, first_column = 186, column_gap = 148,
                 row_gap = 60, top_line = 24;

unsigned mix(unsigned a, unsigned b, double t) {
    unsigned out = 0;
    for (const int shift : {16, 8, 0}) {
        const double x = (a >> shift) & 255U, y = (b >> shift) & 255U;
        out |= static_cast<unsigned>(std::lround(x + (y - x) * t)) << shift;
    }
    return out;
}

/// Line weight by current, logarithmic from 10 µA to 1 A.
double weight(double amps) {
    return 1.2 + 0.55 * std::clamp(std::log10(std::max(std::abs(amps), 1e-12) / 1e-5), 0.0, 5.0);
}

unsigned parse_rgb(const std::string& text) {
    return text.size() == 7 ? static_cast<unsigned>(std::stoul(text.substr(1), nullptr, 16)) : 0xf0a21e;
}

class StavePainter {
  public:
    StavePainter(const Circuit& circuit, const StaveLayout& layout, const OperatingPoint& op,
                 const Conditions& conditions, const StaveView& view)
        : circuit_(circuit), layout_(layout), op_(op), conditions_(conditions), view_(view) {
        highest_ = 0;
        for (const double v : op.voltages) highest_ = std::max(highest_, v);
    }

    Drawing paint() {
        d_.title = "Circuit";
        d_.unit_mm = 0.2;
        d_.width = first_column + column_gap * static_cast<double>(layout_.columns.size()) + 24;
        d_.height =
            top_line + row_gap * static_cast<double>(std::max<std::size_t>(layout_.rows.size(), 2) - 1) + 26;
        for (const auto& net : layout_.rows) paint_line(net);
        for (std::size_t c = 0; c < layout_.columns.size(); ++c)
            for (const auto& designator : layout_.columns[c]) paint_part(*circuit_.find(designator), x_of(c));
        for (std::size_t k = 0; k < layout_.rows.size(); ++k) paint_tag(layout_.rows[k], k);
        return std::move(d_);
    }

  private:
    static double x_of(std::size_t column) {
        return first_column + column_gap * (static_cast<double>(column) + 0.3);
    }

    double y_of(const std::string& net) const {
        const double even = top_line + row_gap * layout_.row(net);
        if (!view_.true_height || highest_ <= 0) return even;
        const double bottom = top_line + row_gap * static_cast<double>(layout_.rows.size() - 1);
        return bottom - (bottom - top_line) * std::clamp(op_.voltage(net) / highest_, 0.0, 1.0);
    }

    unsigned net_colour(const std::string& net) const {
        return mix(0x3d6d88, 0xd0902c, highest_ > 0 ? std::clamp(op_.voltage(net) / highest_, 0.0, 1.0) : 0);
    }

    void paint_line(const std::string& net) {
        double first = 1e9, last = -1e9, amps = 0;
        for (std::size_t c = 0; c < layout_.columns.size(); ++c)
            for (const auto& designator : layout_.columns[c])
                for (const Pin& pin : circuit_.find(designator)->pins)
                    if (pin.net == net) {
                        first = std::min(first, x_of(c)), last = std::max(last, x_of(c));
                        amps += std::abs(op_.part(designator).current) / 2;
                    }
        const double y = y_of(net);
        const bool emphasised = view_.lit_net == net;
        d_.add(Line{left + tag_width, y, first, y}, {Ink::rgb, 1, Ink::none, 0.55, net_colour(net), true},
               "net:" + net);
        if (last > first)
            d_.add(Line{first, y, last, y},
                   {Ink::rgb, weight(amps) + (emphasised ? 2.5 : 0.4), Ink::none, 1, net_colour(net)},
                   "net:" + net);
        else if (emphasised)
            d_.add(Line{first - 14, y, first + 14, y}, {Ink::rgb, 4, Ink::none, 1, net_colour(net)},
                   "net:" + net);
    }

    /// In true-height mode tags on nearly one potential step aside so that each can be read.
    double tag_y(std::size_t k) const {
        double y = y_of(layout_.rows[k]);
        double floor = -1e9;
        for (std::size_t i = 0; i <= k; ++i) floor = std::max(y_of(layout_.rows[i]), floor + tag_height + 2);
        if (view_.true_height) y = floor;
        return y;
    }

    void paint_tag(const std::string& net, std::size_t k) {
        const double y = tag_y(k);
        const std::string ref = "net:" + net;
        if (std::abs(y - y_of(net)) > 1)
            d_.add(Line{left + tag_width, y, left + tag_width + 24, y_of(net)}, {Ink::faint, 1}, ref);
        d_.add(Rect{left, y - tag_height / 2, tag_width, tag_height, 12},
               {Ink::none, 0, Ink::rgb, 1, net_colour(net)}, ref);
        d_.add(Text{left + 12, y + 4.2, net, 12, Anchor::start, true}, {Ink::none, 0, Ink::rgb, 1, 0xffffff},
               ref);
        d_.add(Text{left + tag_width - 12, y + 4.2, format_quantity(op_.voltage(net), Unit::volt), 12,
                    Anchor::end, false},
               {Ink::none, 0, Ink::rgb, 1, 0xffffff}, ref);
    }

    /// Middle of the gap between two lines that is nearest to the middle of the span: a symbol never sits on
    /// a line.
    double symbol_middle(double y0, double y1) const {
        std::vector<double> lines;
        for (const auto& net : layout_.rows)
            if (const double y = y_of(net); y >= y0 - 0.5 && y <= y1 + 0.5) lines.push_back(y);
        std::sort(lines.begin(), lines.end());
        double best = (y0 + y1) / 2, score = 1e9;
        for (std::size_t i = 1; i < lines.size(); ++i) {
            const double middle = (lines[i - 1] + lines[i]) / 2;
            const double cramped = std::max(0.0, symbol_height + 8 - (lines[i] - lines[i - 1]));
            const double s = std::abs(middle - (y0 + y1) / 2) + 20 * cramped;
            if (s < score) score = s, best = middle;
        }
        return best;
    }

    void paint_part(const Part& part, double x) {
        const double ya = y_of(part.pins[0].net), yb = y_of(part.pins[1].net);
        const double y0 = std::min(ya, yb), y1 = std::max(ya, yb);
        const PartState& state = op_.part(part.designator);
        const double middle = symbol_middle(y0, y1);
        SymbolState look;
        look.weight = weight(state.current);
        look.closed = conditions_.closed(part);
        if (const auto g = view_.glow.find(part.designator); g != view_.glow.end()) look.glow = g->second;
        if (const LedType* led = part.kind == "led" ? built_in_catalogue().led(part.text("type")) : nullptr)
            look.light_rgb = parse_rgb(led->rgb);
        const std::string ref = "part:" + part.designator;
        d_.add(Rect{x - 20, y0 + 3, 108, std::max(0.0, y1 - y0 - 6), 6}, {Ink::none, 0, Ink::none},
               ref);  // room to click on
        add_symbol(d_, part, x, y0, y1, middle, ya > yb, look);
        for (const Pin& pin : part.pins)
            d_.add(Circle{x, y_of(pin.net), 4}, {Ink::none, 0, Ink::ink},
                   "pin:" + part.designator + "." + pin.name);
        const double tx = x + (part.kind == "led" ? 27 : 21);
        d_.text(tx, middle - 8, part.designator, 12.5, Ink::ink, true, Anchor::start, ref);
        if (const std::string value = value_text(part); part.kind != "switch")
            d_.text(tx, middle + 6, value, 12, Ink::muted, false, Anchor::start, "value:" + part.designator);
        else
            d_.text(tx, middle + 6, look.closed ? "closed" : "open", 12, Ink::muted, false, Anchor::start,
                    "value:" + part.designator);
        const double shown = part.kind == "battery" || part.kind == "supply" ? -state.current : state.current;
        d_.text(tx, middle + 20, format_quantity(shown, Unit::ampere), 12, Ink::attention, false,
                Anchor::start, ref);
    }

    const Circuit& circuit_;
    const StaveLayout& layout_;
    const OperatingPoint& op_;
    const Conditions& conditions_;
    const StaveView& view_;
    double highest_ = 0;
    Drawing d_;
};

}  // namespace

Drawing draw_stave(const Circuit& circuit, const StaveLayout& layout, const OperatingPoint& op,
                   const Conditions& conditions, const StaveView& view) {
    return StavePainter(circuit, layout, op, conditions, view).paint();
}

}  // namespace elkit
