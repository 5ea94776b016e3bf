#include "drawing/array.hpp"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>

#include "catalogue/catalogue.hpp"
#include "circuit/part_kind.hpp"
#include "drawing/symbol.hpp"
#include "quantity/brightness.hpp"
#include "quantity/format.hpp"
#include "quantity/preferred.hpp"
#include "store/digest.hpp"

namespace elkit {
namespace {

constexpr double array_margin = 12, array_words = 12, widest_dot = 17, least_dot = 5, least_slot = 42,
                 usual_slot = 60, string_pitch = 112;
constexpr double least_amps = 1e-9;
constexpr double least_seen = 0.02;  // perceived brightness from which a light counts as lit

using Glow = std::map<std::string, double>;

double glow_of_light(const Glow& glow, const std::string& designator) {
    const auto found = glow.find(designator);
    return found == glow.end() ? 0 : found->second;
}

unsigned colour_of(const Part& part) {
    const LedType* type = light_type(part);
    return type ? type->colour() : LedType{}.colour();
}

/// What parts of a string are, whatever they are called.
Digest content(const std::vector<const Part*>& parts) {
    Digester all;
    for (const Part* part : parts) all << part->kind << part->params;
    return all.digest();
}

std::vector<const Part*> parts_of(const LedString& s) {
    std::vector<const Part*> parts;
    if (s.resistor) parts.push_back(s.resistor);
    parts.insert(parts.end(), s.leds.begin(), s.leds.end());
    return parts;
}

std::string range_text(double least, double most) {
    const std::string low = format_quantity(least, Unit::ampere), high = format_quantity(most, Unit::ampere);
    return low == high ? high : low + "–" + high;
}

void add_bands(Drawing& d, const Part& resistor, double x, double middle) {
    const auto bands = colour_bands(resistor.number("value"), resistor.number("tolerance"));
    if (!bands) return;
    const auto& names = bands.value().names;
    for (std::size_t k = 0; k < names.size(); ++k)
        d.add(Rect{x - 6.4, middle - 13 + (k + 1 == names.size() ? 22 : 5.2 * double(k)), 12.8, 3, 0},
              {Ink::none, 0, Ink::rgb, 1, band_rgb(names[k])}, "part:" + resistor.designator);
}

/// One symbol of a string; equal lights that follow each other may share it.
struct Shown {
    const Part* part;
    std::size_t in_a_row = 1;
};

std::vector<Shown> shown_parts(const LedString& s, std::size_t most) {
    std::vector<Shown> all;
    for (const Part* part : parts_of(s)) all.push_back({part});
    if (all.size() <= most) return all;
    std::vector<Shown> fewer;
    for (const Shown& one : all)
        if (!fewer.empty() && content({fewer.back().part}) == content({one.part}))
            ++fewer.back().in_a_row;
        else
            fewer.push_back(one);
    return fewer;
}

class ArrayPainter {
  public:
    ArrayPainter(const Circuit& circuit, const OperatingPoint& op, const Glow& glow, double width,
                 double height)
        : circuit_(circuit), op_(op), glow_(glow), groups_(alike_strings(circuit, op, glow)) {
        d_.title = "Arrangement";
        d_.width = std::max(width, string_pitch + 2 * array_margin), d_.height = std::max(height, 120.0);
    }

    Drawing paint(const std::string& summary) {
        double y = array_margin + 8;
        for (const auto& line : wrap_text(summary, d_.width - 2 * array_margin, array_words + 1)) {
            d_.text(array_margin, y, line, array_words + 1, Ink::ink, true);
            y += 17;
        }
        if (groups_.empty()) {
            inside(y);
        } else {
            y = lights(y) + 6;
            strings(y);
        }
        return std::move(d_);
    }

  private:
    /// All lights as dots in rows, as large as the room allows; returns where they end.
    double lights(double top) {
        std::vector<const Part*> all;
        for (const AlikeStrings& group : groups_)
            for (const LedString& s : group.strings) all.insert(all.end(), s.leds.begin(), s.leds.end());
        const double wide = d_.width - 2 * array_margin,
                     high = std::max(widest_dot,
                                     d_.height - top - 2.4 * least_slot);  // leaves room for a string
        double dot = widest_dot;
        const auto in_row = [&] { return static_cast<std::size_t>(std::max(1.0, std::floor(wide / dot))); };
        const auto rows = [&] { return (all.size() + in_row() - 1) / in_row(); };
        while (dot > least_dot && dot * static_cast<double>(rows()) > high) dot -= 0.5;
        for (std::size_t n = 0; n < all.size(); ++n) {
            const std::size_t row = n / in_row(), column = n % in_row();
            light("part:" + all[n]->designator, colour_of(*all[n]), glow_of_light(glow_, all[n]->designator),
                  array_margin + dot * (static_cast<double>(column) + 0.5),
                  top + dot * (static_cast<double>(row) + 0.5), 0.3 * dot);
        }
        return top + dot * static_cast<double>(rows());
    }

    /// Lights that are no LEDs of their own, part by part: each colour as its dots, with its current.
    void inside(double y) {
        for (const Part& part : circuit_.parts) {
            if (!is(part, Role::light)) continue;
            const auto all = dies(part, known_catalogue());
            const std::string ref = "part:" + part.designator;
            if (y + 60 > d_.height) {
                d_.text(array_margin, y + 10, "and more", array_words, Ink::muted);
                return;
            }
            if (!all.empty())
                d_.text(array_margin, y + 12,
                        part.designator + ", " + part_kind(part.kind)->name +
                            (op_.oscillates ? ", on average" : ""),
                        array_words, Ink::ink, true, Anchor::start, ref);
            y += all.empty() ? 0 : 20;
            for (const LightDie& die : all) y = colour_inside(part, die, y);
            y += 8;
        }
    }

    double colour_inside(const Part& part, const LightDie& die, double y) {
        constexpr double dot = 12;
        const std::string ref = "part:" + part.designator;
        const double amps = die_current(part, die, op_), wide = d_.width - 2 * array_margin;
        const auto in_row = static_cast<std::size_t>(std::max(1.0, std::floor(wide / dot)));
        const auto room = static_cast<std::size_t>(std::max(1.0, std::floor((d_.height - y - 24) / dot)));
        const auto many =
            std::min(in_row * room,
                     static_cast<std::size_t>(std::max(1.0, std::round(die.in_series * die.side_by_side))));
        const double g = perceived(amps / die.side_by_side / (die.test_current / 2));
        for (std::size_t n = 0; n < many; ++n) {
            const std::size_t row = n / in_row, column = n % in_row;
            light(ref, die.type->colour(), g, array_margin + dot * (static_cast<double>(column) + 0.5),
                  y + dot * (static_cast<double>(row) + 0.5), 0.3 * dot);
        }
        const std::size_t rows = (many + in_row - 1) / in_row;
        y += dot * static_cast<double>(rows) + 14;
        const auto current = [&](double of) {
            return format_quantity(of > least_amps ? of : 0, Unit::ampere);
        };
        const std::string words =
            part_kind(part.kind)->module ? current(amps)  // what light it has inside is its maker's affair
            : die.side_by_side > 1
                ? fmt::format("{:.0f} × {:.0f} {}: {}, {} in each row", die.side_by_side, die.in_series,
                              die.name, current(amps), current(amps / die.side_by_side))
                : fmt::format("{}: {}", die.name, current(amps));
        d_.text(array_margin, y, words, array_words, Ink::muted, false, Anchor::start, ref);
        return y + 12;
    }

    void light(const std::string& ref, unsigned rgb, double glow, double x, double y, double r) {
        const double g = std::clamp(glow, 0.0, 1.0);
        if (g > least_seen) d_.add(Circle{x, y, 1.6 * r}, {Ink::none, 0, Ink::rgb, 0.35 * g, rgb}, ref);
        d_.add(Circle{x, y, r}, {Ink::muted, 1, Ink::card}, ref);
        if (g > least_seen) d_.add(Circle{x, y, r}, {Ink::muted, 1, Ink::rgb, 0.3 + 0.7 * g, rgb}, ref);
    }

    void strings(double top) {
        const double room = d_.height - top - 46;
        const auto fit =
            static_cast<std::size_t>(std::max(1.0, std::floor((d_.width - array_margin) / string_pitch)));
        const auto capacity = static_cast<std::size_t>(std::max(1.0, std::floor(room / least_slot)));
        const std::size_t count = std::min(groups_.size(), fit);
        for (std::size_t k = 0; k < count; ++k)
            string(groups_[k], array_margin + 22 + string_pitch * double(k), top, room, capacity);
        if (count < groups_.size())
            d_.text(array_margin, d_.height - 3,
                    fmt::format("and {} more kind{} of string", groups_.size() - count,
                                groups_.size() - count > 1 ? "s" : ""),
                    array_words, Ink::muted);
    }

    /// One string that stands for its group.
    void string(const AlikeStrings& group, double x, double top, double room, std::size_t capacity) {
        const LedString& s = group.strings.front();
        const std::vector<Shown> parts = shown_parts(s, capacity);
        const double slot = std::min(usual_slot, room / static_cast<double>(parts.size()));
        const double bottom = top + slot * static_cast<double>(parts.size());
        d_.add(Line{x - 14, top, x + 14, top}, {Ink::light, 3}, "net:" + s.from);
        d_.add(Line{x - 14, bottom, x + 14, bottom}, {Ink::structure, 3}, "net:" + s.to);
        for (std::size_t k = 0; k < parts.size(); ++k)
            part(parts[k], x, top + slot * static_cast<double>(k), slot);
        const std::string many = group.strings.size() > 1 ? fmt::format("×{}  ", group.strings.size()) : "";
        const std::string amps = group.most > 0 ? range_text(group.least, group.most) : "dark";
        const bool one_line = text_width(many + amps, array_words, true) < string_pitch - 6;
        d_.text(x - 14, bottom + 17, one_line ? many + amps : many, array_words, Ink::attention, true);
        if (!one_line) d_.text(x - 14, bottom + 32, amps, array_words, Ink::attention, true);
    }

    void part(const Shown& shown, double x, double y, double slot) {
        const Part& p = *shown.part;
        const double middle = y + slot / 2;
        const std::string ref = "part:" + p.designator;
        SymbolState look;
        look.scale = std::min(1.0, slot / 46);
        look.glow = glow_of_light(glow_, p.designator), look.light_rgb = colour_of(p);
        add_symbol(d_, p, x, y, y + slot, middle, false, look);
        if (is(p, Role::resistor) && look.scale == 1) add_bands(d_, p, x, middle);
        const double tx = x + (is(p, Role::light) ? 28 : 16);
        const std::string name = is(p, Role::resistor) ? format_quantity(p.number("value"), Unit::ohm)
                                 : shown.in_a_row > 1
                                     ? fmt::format("{} +{}", p.designator, shown.in_a_row - 1)
                                     : p.designator;
        if (slot < 30) return d_.text(tx, middle + 4, name, array_words, Ink::ink, true, Anchor::start, ref);
        d_.text(tx, middle - 2, name, array_words, Ink::ink, true, Anchor::start, ref);
        d_.text(tx, middle + 12, format_quantity(op_.part(p.designator).voltage, Unit::volt), array_words,
                Ink::muted, false, Anchor::start, ref);
    }

    const Circuit& circuit_;
    const OperatingPoint& op_;
    const Glow& glow_;
    std::vector<AlikeStrings> groups_;
    Drawing d_;
};

}  // namespace

std::vector<AlikeStrings> alike_strings(const Circuit& circuit, const OperatingPoint& op, const Glow& glow) {
    std::vector<AlikeStrings> groups;
    std::map<Digest, std::size_t> places;
    for (const LedString& s : led_strings(circuit)) {
        const auto [at, fresh] = places.try_emplace(content(parts_of(s)), groups.size());
        if (fresh) groups.emplace_back();
        AlikeStrings& group = groups[at->second];
        group.strings.push_back(s);
        const std::string& first = s.leds.front()->designator;
        if (glow_of_light(glow, first) < least_seen) continue;
        const double amps = std::abs(op.part(first).current);
        group.least = group.most > 0 ? std::min(group.least, amps) : amps;
        group.most = std::max(group.most, amps);
    }
    return groups;
}

std::string lights_text(const Circuit& circuit, const OperatingPoint& op, const Glow& glow) {
    std::size_t all = 0, lit = 0;
    double least = 0, most = 0;
    for (const AlikeStrings& group : alike_strings(circuit, op, glow)) {
        for (const LedString& s : group.strings)
            for (const Part* led : s.leds) ++all, lit += glow_of_light(glow, led->designator) >= least_seen;
        if (group.most <= 0) continue;
        least = most > 0 ? std::min(least, group.least) : group.least;
        most = std::max(most, group.most);
    }
    if (all == 0)
        return any(circuit, Role::light) ? "Its lights sit inside other parts."
                                         : "There is no LED in this circuit yet.";
    const std::string many = fmt::format("{} light{}", all, all == 1 ? "" : "s");
    if (lit == 0) return many + ", none lit now";
    if (lit == all) return many + " at " + range_text(least, most);
    return fmt::format("{}, {} lit now: {}", many, lit, range_text(least, most));
}

std::string lights_in_short(const Circuit& circuit, const OperatingPoint& op, const Glow& glow) {
    const auto groups = alike_strings(circuit, op, glow);
    std::string all = lights_text(circuit, op, glow);
    if (groups.size() != 1 || all.find(',') != std::string::npos) return all;
    const AlikeStrings& group = groups.front();
    return fmt::format("{} × {} at {}", group.strings.size(), group.strings.front().leds.size(),
                       range_text(group.least, group.most));
}

Drawing draw_array(const Circuit& circuit, const OperatingPoint& op, const Glow& glow, double width,
                   double height) {
    return ArrayPainter(circuit, op, glow, width, height).paint(lights_text(circuit, op, glow));
}

}  // namespace elkit
