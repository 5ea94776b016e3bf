#pragma once
#include <optional>
#include <vector>

#include "design/design.hpp"
#include "quantity/result.hpp"

namespace elkit {

/// What turns one design into another: a stretch of parts that others take the place of, and all the rest if
/// anything of it differs. As large as the change, not as the design.
struct DesignDelta {
    std::size_t at = 0, removed = 0;  ///< the stretch of parts
    std::vector<Part> inserted;
    std::optional<Design> frame;  ///< the rest of the new design, without parts
};

DesignDelta delta_between(const Design& before, const Design& after);
/// The design after the change; design error if the change is none of this design.
Result<Design> with_delta(Design before, const DesignDelta& delta);

/// What a change brings in is something that a file can hold: the text of that part of a design reads back.
/// A design is kept and saved as text, so no edit may be accepted that this refuses.
Result<void> check_writable(const DesignDelta& delta);
Result<void> check_writable(const Design& design);

/// The change as a JSON text, and back. Errors as read_design().
std::string write_delta(const DesignDelta& delta);
Result<DesignDelta> read_delta(std::string_view text);

}  // namespace elkit
