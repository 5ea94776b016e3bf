// Boards of all demos and of many lights, by method: time, size, what joins it, and what the board read back
// differs in from its circuit. A line for each: method, design, parts, ms, size, joints, cuts, links, other
// wires, faults.
#include <algorithm>
#include <chrono>
#include <cstdio>
#include <cstdlib>
#include <random>
#include <string>
#include <vector>

#include "board/by_hand.hpp"
#include "board/pad/pad_board.hpp"
#include "board/strip/strip_board.hpp"
#include "board/trial/trial_board.hpp"
#include "design/demo.hpp"
#include "design/file.hpp"
#include "recipes/blocks.hpp"
#include "support/board_circuits.hpp"

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

struct Method {
    const char* name;
    Result<HoleParts> (*parts)(const Circuit&, const BoardChoices&);
    Result<HoleLayout> (*lay_out)(const HoleParts&, const BoardChoices&, const Progress&);
};
constexpr Method methods[]{{"pad", hole_parts, lay_out_pads},
                           {"strip", hole_parts, lay_out_strips},
                           {"trial", trial_parts, lay_out_trial}};

void measure(const Method& method, const std::string& name, const Design& design) {
    const auto start = std::chrono::steady_clock::now();
    const auto parts = method.parts(design.circuit, design.board);
    const auto layout = method.lay_out(parts.value(), design.board, {});
    const double ms =
        std::chrono::duration<double, std::milli>(std::chrono::steady_clock::now() - start).count();
    std::printf("%s:%s:%zu:%.0f:", method.name, name.c_str(), design.circuit.parts.size(), ms);
    if (!layout) {
        std::printf("%s:::\n", layout.error().found.c_str());
        return;
    }
    const HoleLayout& l = layout.value();
    std::printf("%s:%zu:%zu:%zu:%zu:%zu\n", l.board.size.c_str(), l.bridges.size(), l.cuts.size(),
                l.count(Wire::Kind::link), l.wires.size() - l.count(Wire::Kind::link),
                layout_differences(l, design.circuit).size());
    std::fflush(stdout);
}

/// How many of so many random circuits of 10 to 60 parts become boards that are their circuits, and how long
/// that takes. A line for each method: method, circuits, boards, faults, median ms, longest ms.
void measure_random(const Method& method, int circuits) {
    std::vector<double> took;
    int made = 0, faults = 0;
    for (int k = 0; k < circuits; ++k) {
        const Circuit circuit = test::board_circuit(10 + 50 * k / circuits, static_cast<unsigned>(k + 1));
        const auto start = std::chrono::steady_clock::now();
        const auto parts = method.parts(circuit, {});
        const auto layout = method.lay_out(parts.value(), {}, {});
        took.push_back(
            std::chrono::duration<double, std::milli>(std::chrono::steady_clock::now() - start).count());
        if (!layout) continue;
        ++made;
        faults += !layout_differences(layout.value(), circuit).empty();
    }
    std::sort(took.begin(), took.end());
    std::printf("%s:%d:%d:%d:%.0f:%.0f\n", method.name, circuits, made, faults, took[took.size() / 2],
                took.back());
    std::fflush(stdout);
}

/// Against the best of a long search: the same circuit with its parts in other orders, which draws other
/// lots, as long as there is time. A line for each: method, design, holes, fewest holes found with no more
/// jumpers, boards tried.
void measure_area(const Method& method, const std::string& name, const Design& design, double seconds) {
    const auto jumpers = [](const HoleLayout& l) { return l.wires.size() - l.count(Wire::Kind::link); };
    const auto laid = [&](const Circuit& circuit) {
        const auto parts = method.parts(circuit, {});
        return method.lay_out(parts.value(), {}, {});
    };
    const auto first = laid(design.circuit);
    if (!first) return;
    const std::size_t most = jumpers(first.value());
    int holes = first.value().columns() * first.value().rows(), fewest = holes, tried = 0;
    std::mt19937 random(1);
    const auto start = std::chrono::steady_clock::now();
    while (std::chrono::duration<double>(std::chrono::steady_clock::now() - start).count() < seconds) {
        Circuit other = design.circuit;
        std::shuffle(other.parts.begin(), other.parts.end(), random);
        const auto board = laid(other);
        ++tried;
        if (board && jumpers(board.value()) <= most)
            fewest = std::min(fewest, board.value().columns() * board.value().rows());
    }
    std::printf("%s:%s:%d:%d:%d\n", method.name, name.c_str(), holes, fewest, tried);
    std::fflush(stdout);
}

/// From a part that was put elsewhere by hand to the new board: each part by one hole. A line for each:
/// method, design, parts, median ms, longest ms.
void measure_drag(const BoardMethod& method, const std::string& name, Design design) {
    design.board.method = method.id;
    Store store;
    const auto board = method.make(design.circuit, board_choices(design), Ask(store));
    if (!board) return;
    std::vector<double> took;
    for (const BoardPart& p : board.value().parts) {
        const auto moved = moved_by_hand(design, board.value(), p.designator, 2.54, 0);
        if (!moved) continue;
        const auto start = std::chrono::steady_clock::now();
        (void)method.make(moved.value().circuit, board_choices(moved.value()), Ask(store));
        took.push_back(
            std::chrono::duration<double, std::milli>(std::chrono::steady_clock::now() - start).count());
    }
    std::sort(took.begin(), took.end());
    std::printf("%s:%s:%zu:%.0f:%.0f\n", method.id.c_str(), name.c_str(), took.size(), took[took.size() / 2],
                took.back());
    std::fflush(stdout);
}

}  // namespace
}  // namespace elkit

int main(int count, char** values) {
    using namespace elkit;
    if (count > 2 && std::string(values[1]) == "random") {
        for (const Method& method : methods) measure_random(method, std::atoi(values[2]));
        return 0;
    }
    if (count > 1 && std::string(values[1]) == "drag") {  // drag [DESIGN]
        for (const char* id : {"pad", "strip"})
            for (const auto& [name, design] : all_designs())
                if (count < 3 || name == values[2]) measure_drag(*find_board_method(id), name, design);
        return 0;
    }
    if (count > 3 && std::string(values[1]) == "area") {  // area SECONDS DESIGN
        for (const Method& method : methods)
            for (const auto& [name, design] : all_designs())
                if (name == values[3]) measure_area(method, name, design, std::atof(values[2]));
        return 0;
    }
    for (const Method& method : methods)
        for (const auto& [name, design] : all_designs())
            if (count < 2 || name == values[1]) measure(method, name, design);
    return 0;
}
