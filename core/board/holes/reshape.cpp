#include "board/holes/reshape.hpp"

#include <utility>

namespace elkit {
namespace {

/// The line that comes after this one, columns and rows in turn; those of chosen sides are passed over.
Reshaping next_line(Reshaping now, const HoleLayout& l, const HoleSearch& search) {
    ++now.line;
    if (now.line >= (now.column ? l.columns() : l.rows()) - 1)
        now = {search.columns_free && (!now.column || !search.rows_free), 0, now.by};
    return now;
}

}  // namespace

bool reshape(std::unique_ptr<Candidate>& best, const HoleSearch& search, int boards, int moves,
             const std::function<bool(double done)>& told) {
    if (!search.board || (!search.columns_free && !search.rows_free)) return true;
    Reshaping how{search.columns_free, 0, best->wires() > 0 ? 1 : -1};
    int tried = 0, idle = 0;
    const auto lines = [&] {
        return (search.columns_free ? best->layout.columns() - 1 : 0) +
               (search.rows_free ? best->layout.rows() - 1 : 0);
    };
    for (; tried < boards; ++tried) {
        if (!told(static_cast<double>(tried) / boards)) return false;
        auto other = best->reshaped(how, how.by > 0 && idle < lines() ? 0 : moves);
        const bool spared = how.by > 0 || (other && other->wires() <= best->wires());
        if (other && spared && other->score() < best->score()) {
            best = std::move(other), idle = 0;
            if (how.by > 0 && best->wires() == 0) how.by = -1;
            continue;
        }
        ++idle;
        how = next_line(how, best->layout, search);
        if (how.by > 0 && idle >= 2 * lines())
            how.by = -1, idle = 0;
        else if (how.by < 0 && idle >= lines())
            return true;
    }
    return true;
}

void spare_wires(std::unique_ptr<Candidate>& best, const HoleSearch& search, double larger, int boards,
                 int moves, const std::function<bool(double done)>& told) {
    if (!search.board || !search.columns_free || !search.rows_free || best->wires() == 0) return;
    auto wide = best->stretched();
    if (!wide || wide->wires() >= best->wires()) return;
    if (!reshape(wide, search, boards, moves, told)) return;
    const auto holes = [](const Candidate& c) { return c.layout.columns() * c.layout.rows(); };
    if (wide->wires() < best->wires() && holes(*wide) <= larger * holes(*best)) best = std::move(wide);
}

}  // namespace elkit
