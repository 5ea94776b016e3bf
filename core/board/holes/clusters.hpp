#pragma once
#include <vector>

#include "board/holes/parts.hpp"

namespace elkit {

/// Parts that keep their places beside each other wherever they go, each at its hole and turn from the first
/// hole of all. Every part of a circuit stands in exactly one.
struct Cluster {
    struct Member {
        const HolePart* part;
        Placement placement;
    };
    std::vector<Member> members;
};

/// How a member of a cluster lies on the board where all of it lies so.
Pose placed_within(const Placement& member, const Pose& whole);

/// How the parts of a string follow each other: hole under hole, or beside each other so that what they share
/// is one row of holes.
enum class StringShape { column, stairs };

/// Strings of equal parts between the same rails become columns or stairs side by side, all parts looking the
/// same way and in as many rows as a board of `widest` holes asks for; each other part is a cluster of its
/// own.
std::vector<Cluster> clusters(const HoleParts& parts, int widest, StringShape shape = StringShape::column);

/// Each part that has holes by itself.
std::vector<Cluster> single_parts(const HoleParts& parts);

}  // namespace elkit
