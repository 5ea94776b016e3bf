#pragma once
#include <array>
#include <map>
#include <string>
#include <string_view>
#include <variant>
#include <vector>

#include "circuit/extra.hpp"

namespace elkit {

/// Measured or datasheet points of a curve, e.g. (current [A], forward voltage [V]).
using PointList = std::vector<std::array<double, 2>>;
using ParamValue = std::variant<double, std::string, PointList>;

struct Pin {
    std::string name, net;
    bool operator==(const Pin&) const = default;
};

/// One part of a circuit: what kind it is, its own parameters, and the net of each pin.
/// A parameter that is not set has the default of its kind (circuit/part_kind.hpp).
struct Part {
    std::string designator, kind;
    std::map<std::string, ParamValue> params;
    std::vector<Pin> pins;  ///< in the order of the kind's pins
    Extra extra;            ///< keys of newer versions, kept on saving

    double number(std::string_view key)
        const;  ///< the parameter, its kind's default or its type's value; 0 if there is none
    std::string text(std::string_view key) const;         ///< likewise; empty if there is none
    const PointList* points(std::string_view key) const;  ///< nullptr if not set
    const std::string& net(std::string_view pin) const;   ///< empty string if there is no such pin
    bool operator==(const Part&) const = default;
};

/// Parts and the nets they join; a net exists because a pin names it.
struct Circuit {
    std::vector<Part> parts;
    Extra extra{};  ///< keys of newer versions, kept on saving

    const Part* find(std::string_view designator) const;
    Part* find(std::string_view designator);
    std::vector<std::string> nets() const;  ///< each once, in order of appearance
    const Part* source() const;             ///< the first cell, supply or voltage source; nullptr if none
    std::string negative_rail() const;      ///< net of the source's − pin; empty if there is no source
    std::string free_designator(std::string_view prefix) const;  ///< "R3" if R1 and R2 are taken
    bool operator==(const Circuit&) const = default;
};

}  // namespace elkit
