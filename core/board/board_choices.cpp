#include <algorithm>

#include "board/board.hpp"

namespace elkit {

BoardChoices board_choices(const Design& design) {
    BoardChoices choices = design.board;
    if (choices.shape == "outline" && choices.outline.empty()) choices.outline = design.face.outline;
    if (choices.lights != "face") return choices;
    for (const FacePlace& place : design.face.places) {
        const auto by_hand =
            !put_on_holes(choices) && std::any_of(choices.spots.begin(), choices.spots.end(),
                                                  [&](const PartSpot& s) { return s.part == place.light; });
        if (!by_hand && design.circuit.find(place.light))
            choices.spots.push_back({place.light, place.x, place.y, 0, true, true, {}});
    }
    return choices;
}

bool put_on_holes(const BoardChoices& choices) {
    return choices.ways_by == "pad" || choices.ways_by == "strip";
}

}  // namespace elkit
