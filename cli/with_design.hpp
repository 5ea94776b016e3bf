#pragma once
#include <iostream>

#include "cli/output.hpp"

namespace elkit::cli {

inline void print_json(const Json& j) { std::cout << j.dump(2) << "\n"; }

/// Loads the design and its conditions, then runs `body`; an error on the way is printed.
template <class Body>
int with_design(const Options& o, Body body) {
    auto design = load(o);
    if (!design) return fail(design.error());
    auto conditions = conditions_from(o, design.value());
    if (!conditions) return fail(conditions.error());
    return body(design.value(), conditions.value());
}

/// Prints a changed design, or writes it into its file.
int put_back(const Options& o, const Design& design, bool write);

}  // namespace elkit::cli
