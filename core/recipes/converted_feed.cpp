#include "recipes/converted_feed.hpp"

#include <fmt/format.h>

#include "recipes/wording.hpp"

namespace elkit {
namespace {

constexpr double tired_feed = 0.7;  // of fresh cells, near their end
constexpr double bulk = 1e-4;       // F behind a converter
constexpr double willingly = 0.8;   // of what a converter gives
constexpr const char* straight = "direct";

}  // namespace

std::string feed_for(const PartKind& fed, const Part& source, double fresh) {
    const auto cell = cell_of(source, known_catalogue());
    const double tired = cell && !cell->endless() ? tired_feed * fresh : fresh;
    if (fresh > usual_number(fed, "highest_supply")) return "step_down";
    return tired < usual_number(fed, "lowest_supply") ? "step_up" : straight;
}

double before_converter(const std::string& way, const Feed& feed, double amps) {
    if (way == straight) return amps;
    const PartKind& kind = *part_kind(way);
    return amps * usual_number(kind, "voltage") / usual_number(kind, "efficiency") /
           (tired_feed * feed.fresh.voltage);
}

Result<Feed> converted_feed(Sketch& s, const std::string& way, const PartKind& fed, const Feed& feed,
                            double amps, const char* takes) {
    if (way == straight) {
        if (auto fits = fits_supply(fed, feed.fresh.voltage); !fits) return fits.error();
        s.carries(amps);
        return feed;
    }
    const PartKind& kind = *part_kind(way);
    if (auto fits = fits_supply(kind, feed.fresh.voltage); !fits) return fits.error();
    const double most = usual_number(kind, "max_current");
    if (amps > willingly * most)
        return Error{Fault::design, takes, fmt::format("it would take up to {}", amps_text(amps)),
                     fmt::format("{} at most behind a {}", amps_text(willingly * most), kind.name)};
    s.carries(before_converter(way, feed, amps));
    return Feed{"FIVE", {usual_number(kind, "voltage"), usual_number(kind, "resistance")}};
}

void add_converter(Sketch& s, const std::string& way, const std::string& from, const std::string& to) {
    if (from == to) return;
    s.add({"Mconverter", way, {}, {{"in", from}, {"gnd", "GND"}, {"out", to}}, {}});
    s.capacitor("Cconverter", bulk, to, "GND");
}

}  // namespace elkit
