#pragma once
#include <optional>

#include "recipes/light_eye.hpp"
#include "recipes/sketch.hpp"

/// Ways to switch by the volts on the node of a light sensor and its divider.
namespace elkit {

struct DarkWanted {
    double lux = 0, ratio = 1;  ///< where it comes on; times that where it goes off
    bool snaps = false;
    std::optional<Lights> lights;  ///< none: it drives another block
};

/// The sensor's node as the lights come on or go off, and what else than the divider it feeds.
struct DarkEdge {
    double volts = 0, extra = 0;  ///< V; A out of the node
};
struct DarkNode {
    bool sensor_above = true;  ///< from plus to the node, the divider to ground; else the other way round
    double supply = 0;         ///< V
    DarkEdge wake, sleep;
    double volts_spread = 0;  ///< V over a batch

    double across(const DarkEdge& e) const { return sensor_above ? supply - e.volts : e.volts; }
    /// A that the sensor lets through at an edge.
    double amps(double divider, const DarkEdge& e) const {
        return sensor_above ? e.volts / divider + e.extra : (supply - e.volts) / divider;
    }
    double lux(const LightEye& eye, double divider, const DarkEdge& e) const {
        return eye.lux_for(amps(divider, e), across(e));
    }
    /// Lowest and highest light [lx] of an edge over a batch: sensor, resistors and volts at their limits.
    std::pair<double, double> spread(const LightEye& eye, double divider, const DarkEdge& edge) const;
};

/// What one way of switching adds to source, sensor and divider.
struct DarkWay {
    DarkNode node;
    double divider = 0;  ///< Ω, exact
    double snap = 0;     ///< Ω of the resistor that makes it snap; 0: none
    double pull = 0;     ///< Ω from plus to the net OUT; 0: none
    double drain = 0;    ///< A by day beside the divider
    std::string drain_words;
    const PartType *second = nullptr, *chip = nullptr;  ///< the transistor of the lights, or the comparator
    bool into_base = false;                             ///< by day the node feeds a base through its resistor
    std::vector<std::string> working;

    /// A through sensor and divider in so much light.
    double through(const LightEye& eye, double divider_ohms, double lux) const;
};

/// By "mosfet", "transistors" or "comparator". Design error where that takes no hold, with what would.
Result<DarkWay> dark_way(const std::string& by, const DarkWanted& wanted, const LightEye& eye, double supply);

/// The parts of that way: from the net SENSE to LAMP, which it pulls to ground in the dark, or to OUT, that
/// is high then.
void place_way(Sketch& sketch, const DarkWay& way, bool lit, const Feed& feed);

}  // namespace elkit
