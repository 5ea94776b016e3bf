#include <algorithm>
#include <array>
#include <cmath>
#include <map>

#include "board/trial/trial_board.hpp"
#include "circuit/part_kind.hpp"

namespace elkit {
namespace {

struct Colour {
    const char* name;
    unsigned rgb;
};
// IEC 60757 names; the first ten in the order of the digits of IEC 60062
constexpr std::array<Colour, 10> colours{{{"black", 0x24211f},
                                          {"brown", 0x7a4a26},
                                          {"red", 0xb03a2a},
                                          {"orange", 0xd9772b},
                                          {"yellow", 0xd8b21f},
                                          {"green", 0x3d7a45},
                                          {"blue", 0x3a63a8},
                                          {"violet", 0x7a5aa6},
                                          {"grey", 0x8a8680},
                                          {"white", 0xeeeae0}}};
constexpr std::array signals{"yellow", "green", "blue", "white", "orange", "violet", "brown", "grey"};

}  // namespace

const std::vector<WireSchool>& wire_schools() {
    static const std::vector<WireSchool> all{{"use", "colours by use"}, {"length", "colours by length"}};
    return all;
}

unsigned colour_of_wire(std::string_view name) {
    for (const Colour& c : colours)
        if (c.name == name) return c.rgb;
    return colours.front().rgb;
}

void colour_wires(HoleLayout& layout, const Circuit& circuit, const std::string& school) {
    if (school == "length") {
        for (Wire& w : layout.wires) {
            const auto holes =
                static_cast<std::size_t>(std::lround(std::hypot(w.a.column - w.b.column, w.a.row - w.b.row)));
            w.colour = colours[std::min(holes, colours.size() - 1)].name;
        }
        return;
    }
    const auto rails = rail_nets(layout.board, circuit);
    std::string plus, minus;
    for (const Part& part : circuit.parts)
        if (is(part, Role::source)) {
            if (plus.empty()) plus = part.net("+"), minus = part.net("-");
        }
    if (!layout.board.rails.empty())
        plus = rails[layout.board.rails[0]], minus = rails[layout.board.rails[1]];
    std::map<std::string, std::size_t> order;
    for (Wire& w : layout.wires) {
        if (w.net == plus || w.net == minus) {
            w.colour = w.net == plus ? "red" : "black";
            continue;
        }
        const std::size_t k = order.emplace(w.net, order.size()).first->second;
        w.colour = signals[k % signals.size()];
    }
}

}  // namespace elkit
