#pragma once
#include <cstddef>
#include <utility>
#include <vector>

#include "board/holes/hole.hpp"
#include "board/pad/top_side.hpp"

namespace elkit {

/// Which net owns each pad, or whether it is free. Pads are numbered with a rim of pads round the board, so
/// that each has four neighbours.
class PadGrid {
  public:
    static constexpr int free_pad = -1, nobody = -2;  ///< the latter: a lead without a net, or it stays free
    static constexpr int rim = -3;                    ///< beside the board
    PadGrid(int columns, int rows);
    bool has(Hole h) const { return h.column >= 0 && h.row >= 0 && h.column < columns_ && h.row < rows_; }
    int& at(Hole h) { return owner_[index(h)]; }
    int at(Hole h) const { return owner_[index(h)]; }
    int owner(std::size_t i) const { return owner_[i]; }
    std::size_t index(Hole h) const {
        return static_cast<std::size_t>(h.row + 1) * stride() + static_cast<std::size_t>(h.column + 1);
    }
    Hole hole(std::size_t i) const {
        return {static_cast<int>(i % stride()) - 1, static_cast<int>(i / stride()) - 1};
    }
    std::size_t stride() const { return static_cast<std::size_t>(columns_ + 2); }
    std::size_t size() const { return owner_.size(); }

  private:
    int columns_, rows_;
    std::vector<int> owner_;
};

/// What a pad is to the net being routed.
enum class Mark : char { none, joined, wanted };

/// What find_way() works with: kept from way to way, so that none has to make room anew.
struct WayScratch {
    struct Pad {
        unsigned seen = 0;   // in which search
        int distance, cost;  // so far; of coming here
        std::size_t before;
    };
    std::vector<Pad> pads{};
    std::vector<std::vector<std::pair<int, std::size_t>>> waiting{};  // by distance, round and round
    unsigned search = 0;
};

/// Shortest way over free or own pads from the joined pads to any wanted one, from there to the joined
/// (Dijkstra); pads beside another net cost more, since solder may creep there, and each what `dear` says on
/// top (empty: nothing). With a `top`, bare links over it too, from pad to pad that are not side by side.
/// Empty if there is none.
std::vector<Hole> find_way(const PadGrid& grid, int net, const std::vector<Mark>& marks,
                           const std::vector<double>& dear, WayScratch& scratch,
                           const TopSide* top = nullptr);

/// Ways of all nets after they wanted the same pads for a while: every net takes its shortest ways over pads
/// that others use too, and what two want costs more from round to round, until each has its own (McMurchie &
/// Ebeling, FPGA 1995).
struct Negotiated {
    std::vector<std::vector<std::vector<Hole>>> ways;  ///< by net
    std::vector<int> disputed;                         ///< by net: pads that others took too at the end
    std::vector<double> dear;                          ///< by pad: what was disputed on the way
};
Negotiated negotiate(const PadGrid& grid, const std::vector<std::vector<Hole>>& pads, int most_rounds,
                     WayScratch& scratch);

}  // namespace elkit
