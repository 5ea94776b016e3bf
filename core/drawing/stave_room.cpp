#include "drawing/stave_room.hpp"

#include <algorithm>
#include <cmath>
#include <map>

#include "drawing/stave_measure.hpp"
#include "drawing/stave_tracks.hpp"
#include "drawing/symbol.hpp"

namespace elkit {
namespace {

constexpr double widest_gap = 62, usual_height = 470, bottom_margin = 20;

/// Symbols may be larger where the room allows, and words closer together where it is short.
struct Density {
    double symbol;
    int caption_lines;
    double body = 46, lead = 9;
};
constexpr Density densities[] = {{1.3, 3},  {1.15, 3}, {1, 3},    {0.9, 3},
                                 {0.85, 2}, {0.75, 2}, {0.65, 2}, {0.55, 1, 40, 7}};

/// Of one part with its words, of lines, of a chip; lines that carry their tags themselves take a little of a
/// part's room.
StaveHeights least_heights(const Density& d, bool tags_on_lines) {
    const double words = d.caption_lines * stave_words::line_height + (tags_on_lines ? 12 : 5);
    return {std::max((symbol_height + 10) * d.symbol, words), least_row_gap, d.body + 2 * d.lead};
}

}  // namespace

StaveMeasure::StaveMeasure(const Circuit& circuit, const StaveLayout& layout, const OperatingPoint& op,
                           const StaveView& view)
    : layout_(layout), view_(view) {
    for (const Part& part : circuit.parts) parts_.emplace(part.designator, &part);
    for (const PartState& state : op.parts) states_.emplace(state.designator, &state);
    for (std::size_t n = 0; n < op.nets.size(); ++n) {
        volts_.emplace(op.nets[n], op.voltages[n]);
        room_.highest = std::max(room_.highest, op.voltages[n]);
    }
    for (std::size_t r = 0; r < layout.rows.size(); ++r) rows_.emplace(layout.rows[r], static_cast<int>(r));
    std::map<int, int> users;
    for (const int track : layout.tracks) ++users[track];
    room_.lines.resize(layout.rows.size());
    for (std::size_t r = 0; r < room_.lines.size(); ++r)
        room_.lines[r].tagged = view.true_height || users[layout.tracks[r]] == 1;
}

StaveRoom StaveMeasure::measured() {
    slots_ = StaveSlots(static_cast<std::size_t>(track_count(layout_.tracks)));
    for (const StaveColumn& column : layout_.columns) show(column);
    for (const Hanging& run : runs_)
        if (!run.body) slots_.need(track(run.top_row), track(run.bottom_row), run.parts.size());
    for (const Body& body : bodies_) need_slots(body);
    choose_density();
    place_rows();
    place_columns();
    for (const Body& body : bodies_) place_legs(body);
    for (const Hanging& run : runs_) measure_lines(run);
    for (const Body& body : bodies_) measure_lines(*body.part);
    place_tags();
    for (const Hanging& run : runs_) hang(run);
    return std::move(room_);
}

const Part& StaveMeasure::part_of(std::string_view designator) const { return *parts_.at(designator); }

int StaveMeasure::row_of(std::string_view net) const {
    const auto found = rows_.find(net);
    return found == rows_.end() ? -1 : found->second;
}

int StaveMeasure::track(int row) const {
    return row < 0 ? -1 : layout_.tracks[static_cast<std::size_t>(row)];
}

void StaveMeasure::choose_density() {
    const double zoom = std::clamp(view_.zoom, 1.0, 6.0);
    const bool free = view_.room_height <= 0;
    const bool on_lines = std::any_of(room_.lines.begin(), room_.lines.end(),
                                      [](const StaveLine& line) { return !line.tagged; });
    height_ = (free ? usual_height + 50 : view_.room_height) * zoom;
    Density chosen = densities[std::size(densities) - 1];
    for (const Density& d : densities) {
        if (free && d.symbol > 1) continue;
        const Density larger{d.symbol * zoom, d.caption_lines, d.body, d.lead};
        if (slots_.least_height(least_heights(larger, on_lines)) + stave_top + bottom_margin > height_)
            continue;
        chosen = larger;
        break;
    }
    room_.symbol = chosen.symbol, room_.caption_lines = chosen.caption_lines;
    least_ = least_heights(chosen, on_lines), body_height_ = chosen.body;
}

void StaveMeasure::place_rows() {
    const double inner = height_ - stave_top - bottom_margin;
    const std::vector<double> gaps = slots_.gaps(least_, widest_gap * room_.symbol, inner);
    track_y_.assign(1, stave_top);
    for (const double gap : gaps) track_y_.push_back(track_y_.back() + gap);
    room_.height = track_y_.back() + bottom_margin;
    for (std::size_t r = 0; r < room_.lines.size(); ++r)
        room_.lines[r].y = view_.true_height && room_.highest > 0
                               ? true_y(layout_.rows[r], track_y_.back())
                               : track_y_[static_cast<std::size_t>(layout_.tracks[r])];
}

double StaveMeasure::true_y(std::string_view net, double bottom) const {
    const auto v = volts_.find(net);
    const double share = v == volts_.end() ? 0 : v->second / room_.highest;
    return bottom - (bottom - stave_top) * std::clamp(share, 0.0, 1.0);
}

std::string tag_name(const std::string& net) {
    constexpr std::size_t longest = 14;
    if (net.size() <= longest || text_width(net, stave_words::tag, true) <= 90) return net;
    std::size_t keep = longest - 2;
    while (keep > 1 && (static_cast<unsigned char>(net[keep]) & 0xC0) == 0x80) --keep;
    return net.substr(0, keep) + "…";
}

std::string range_of(std::string_view first, const std::vector<std::string_view>& others) {
    std::string name(first);
    if (others.empty()) return name;
    return name + " … " + std::string(others.back());
}

StaveRoom measure_stave(const Circuit& circuit, const StaveLayout& layout, const OperatingPoint& op,
                        const StaveView& view) {
    return StaveMeasure(circuit, layout, op, view).measured();
}

}  // namespace elkit
