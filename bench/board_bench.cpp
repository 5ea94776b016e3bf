// Boards of all demos and of many lights, by method: time, size, joints and jumpers, and what the board read
// back differs in from its circuit. A line for each: method, design, parts, ms, holes, joints, jumpers,
// faults.
#include <chrono>
#include <cstdio>
#include <string>
#include <vector>

#include "board/pad/layout.hpp"
#include "design/demo.hpp"
#include "design/file.hpp"
#include "recipes/blocks.hpp"

namespace elkit {
namespace {

std::vector<std::pair<std::string, Design>> all_designs() {
    std::vector<std::pair<std::string, Design>> all;
    for (const Demo& demo : demos()) all.emplace_back(demo.id, read_design(demo.text).value());
    const Recipe& recipe = *find_recipe("steady-light");
    for (const double count : {24.0, 80.0}) {
        const auto goals = planned(
            recipe,
            {{"count", count}, {"per_string", 2.0}, {"cell", std::string("Lead-12V")}, {"cells", 1.0}});
        all.emplace_back("lights-" + std::to_string(static_cast<int>(count)),
                         with_block(Design{}, recipe.id, goals).value());
    }
    return all;
}

}  // namespace
}  // namespace elkit

int main() {
    using namespace elkit;
    for (const auto& [name, design] : all_designs()) {
        const auto start = std::chrono::steady_clock::now();
        const auto layout = lay_out_board(design.circuit, design.board);
        const double ms =
            std::chrono::duration<double, std::milli>(std::chrono::steady_clock::now() - start).count();
        if (!layout) {
            std::printf("pad:%s:%zu:%.0f:%s:::\n", name.c_str(), design.circuit.parts.size(), ms,
                        layout.error().found.c_str());
            continue;
        }
        const PadLayout& l = layout.value();
        std::printf("pad:%s:%zu:%.0f:%d × %d:%zu:%zu:%zu\n", name.c_str(), design.circuit.parts.size(), ms,
                    l.columns, l.rows, l.bridges.size(), l.jumpers.size(),
                    layout_differences(l, design.circuit).size());
        std::fflush(stdout);
    }
    return 0;
}
