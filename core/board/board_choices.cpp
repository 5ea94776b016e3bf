#include <algorithm>

#include "board/board.hpp"

namespace elkit {

BoardChoices board_choices(const Design& design) {
    BoardChoices choices = design.board;
    if (choices.shape == "outline" && choices.outline.empty()) choices.outline = design.face.outline;
    if (choices.lights != "face") return choices;
    for (const FacePlace& place : design.face.places) {
        const auto by_hand = spots_are_for(choices, choices.method) &&
                             std::any_of(choices.spots.begin(), choices.spots.end(),
                                         [&](const PartSpot& s) { return s.part == place.light; });
        if (!by_hand && design.circuit.find(place.light))
            choices.spots.push_back({place.light, place.x, place.y, 0, true, true, 0, {}});
    }
    return choices;
}

void forget_ways(BoardChoices& choices) {
    choices.ways.clear();
    const BoardMethod* by = find_board_method(choices.ways_by);
    if (!by || by->drawn) choices.ways_by.clear();  // else it says whose holes the spots are
}

bool spots_are_for(const BoardChoices& choices, std::string_view method) {
    const auto on_holes = [](std::string_view id) {
        const BoardMethod* m = find_board_method(id);
        return m && !m->drawn;
    };
    return on_holes(method) || on_holes(choices.ways_by) ? choices.ways_by == method : true;
}

}  // namespace elkit
