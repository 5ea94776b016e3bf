#pragma once
#include <vector>

#include "board/holes/layout.hpp"

namespace elkit {

/// The component side of a board of pads while it is joined: bare wire may lie straight where there is no
/// body, leg or other wire.
class TopSide {
  public:
    TopSide(const HoleLayout& layout, const HoleParts& parts);
    bool is_clear(Hole h) const { return covered_[place(h)] == 0; }
    bool is_clear(Hole a, Hole b) const;  ///< all holes of a straight way, with its ends
    void lay(Hole a, Hole b);

  private:
    std::size_t place(Hole h) const {
        return static_cast<std::size_t>(h.row) * static_cast<std::size_t>(columns_) +
               static_cast<std::size_t>(h.column);
    }
    int columns_;
    std::vector<char> covered_;
};

}  // namespace elkit
