#pragma once
#include <optional>
#include <string>
#include <vector>

#include "design/design.hpp"
#include "engine/models.hpp"
#include "engine/queries.hpp"
#include "planning/lights_place.hpp"

namespace elkit {

/// What lights get where they hang, by the current that they take: source, leads, contacts, and all else that
/// stands between.
class LightsFeed {
  public:
    struct Point {
        double amps = 0, volts = 0;  ///< taken by the lights, and what is left for them then
        double drawn = 0;            ///< A out of the source then
    };
    LightsFeed() : LightsFeed(0, {}) {}  ///< no volts
    /// The source itself, with `contact` Ω before the lights.
    LightsFeed(const Thevenin& source, double contact);
    /// Through measured points of different currents, and straight on beyond them; of a source that gives
    /// `source_volts` without load.
    LightsFeed(double source_volts, std::vector<Point> points);

    Thevenin at(double amps) const;   ///< the line that it follows about there
    double volts(double amps) const;  ///< 0 where no more can be had
    double drawn(double amps) const;
    double source_volts() const { return source_volts_; }
    double highest() const;  ///< A at which no volts are left; infinity if they never fall

  private:
    std::size_t piece(double amps) const;  ///< the later of the two points around it
    std::vector<Point> points_;            // amps ascend, volts do not; two at least
    double source_volts_ = 0;
};

/// The same in the states that a gadget of cells comes through, fresh but where it is said.
struct LightsFeeds {
    LightsFeed usual, cold, hot;
    LightsFeed half, flat;  ///< at half and a tenth of the charge
};

/// Of a source alone. Errors of its model.
Result<LightsFeeds> feeds_of(const Part& source, double contact, double cold, double hot);

/// What a place is to feed.
struct FeedSpan {
    double current = 0.02;      ///< A in each string
    int most = 1;               ///< strings
    double cold = 0, hot = 40;  ///< °C, between which the gadget is used
};

/// A place of lights as its design feeds it, in the first situation in which they give light.
struct FedPlace {
    LightsFeeds feeds;
    Conditions lit;        ///< that situation, fresh
    bool pulsed = false;   ///< the gadget switches them on and off by itself
    bool by_coil = false;  ///< a coil feeds them by pulses, whose volts are what the lights make of them: no
                           ///< feeds are measured
    double celsius = 21;   ///< there; of a gadget that feels warmth cold and hot are the same
    std::string words;     ///< the volts there and at the source, and in which situation
};

/// Measured by the engine: at rest with its own lights, and with a resistor in their place that takes from a
/// quarter of the current to more than that of all strings; where the gadget moves, with its own lights while
/// they are on. Nothing if they are dark in every situation, or the engine cannot solve it.
std::optional<FedPlace> fed_place(const Ask& ask, const Design& design, const LightsPlace& place,
                                  const Conditions& now, const FeedSpan& span);

/// Current [A] of the first of those strings, fresh, while it is on in the first situation in which it gives
/// light; nothing if there is none.
std::optional<double> lit_current(const Ask& ask, const Design& design, const HungLights& lights,
                                  const Conditions& now);

}  // namespace elkit
