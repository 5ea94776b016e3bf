#pragma once
#include <string>
#include <utility>
#include <vector>

#include "behaviour/program.hpp"

namespace elkit {

/// A title that ends no comment and no line.
std::string within_a_comment(std::string title);

/// The program as portable C99, by file name: behaviour.c, behaviour.h, hardware.h with the six functions
/// that a board has to give, and README.md. `title` goes into their first lines. Where it sends pictures,
/// pin by pin to what they go, it calls pictures_start() and pictures_step() of a pictures.h, and the board
/// has to give two functions more.
std::vector<std::pair<std::string, std::string>> c99_of(const Program& program, const std::string& title,
                                                        const std::vector<std::string>& sends = {});

}  // namespace elkit
