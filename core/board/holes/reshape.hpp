#pragma once
#include <functional>
#include <memory>

#include "board/holes/candidate.hpp"

namespace elkit {

/// Takes out one line of holes after the other where the board becomes better by it, and puts one in where
/// that spares a jumper, as one who moves a board's parts together would. Looks at so many boards at most,
/// moving parts so often in each; a board of fixed sides is left. False if `told` stops it.
bool reshape(std::unique_ptr<Candidate>& best, const HoleSearch& search, int boards, int moves,
             const std::function<bool(double done)>& told);

/// Where joints alone may do and there are wires all the same: the board with its parts further apart, until
/// there is a way for each net, then as small as that allows. Joints of a net are a tree and part no plane,
/// but together with rows of legs that nothing passes they may. Kept if it spares a wire, and the board is
/// not more than so many times as large.
void spare_wires(std::unique_ptr<Candidate>& best, const HoleSearch& search, double larger, int boards,
                 int moves, const std::function<bool(double done)>& told);

}  // namespace elkit
