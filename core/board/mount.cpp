#include "board/mount.hpp"

#include <fmt/format.h>

#include <algorithm>
#include <array>
#include <sstream>

#include "circuit/part_kind.hpp"

namespace elkit {
namespace {

struct PlaceWords {
    PartPlace place;
    std::string_view id, name;
};
constexpr std::array places{
    PlaceWords{PartPlace::board, "board", "on the board"}, PlaceWords{PartPlace::leads, "leads", "on leads"},
    PlaceWords{PartPlace::plug, "plug", "on a plug"}, PlaceWords{PartPlace::panel, "panel", "in the panel"}};

std::vector<std::string> words_of(const std::string& text) {
    std::istringstream in(text);
    std::vector<std::string> words;
    for (std::string word; in >> word;) words.push_back(word);
    return words;
}

Error wrong(std::size_t index, const char* key, std::string found, std::string expected) {
    return {Fault::design, fmt::format("/board/parts/{}/{}", index, key), std::move(found),
            std::move(expected)};
}

bool by_wires(const Footprint& f) { return f.picture == "leads"; }

Result<Mounted> mounted_part(const Part& part, const PartMount& mount, std::size_t index) {
    Mounted m{&part, PartPlace::board, footprint(part)};
    const PartKind* kind = part_kind(part.kind);
    std::vector<std::string> legs = words_of(mount.legs);
    if (!legs.empty()) {
        auto sorted = legs, pins = kind ? kind->pins : std::vector<std::string>{};
        std::sort(sorted.begin(), sorted.end()), std::sort(pins.begin(), pins.end());
        if (sorted != pins)
            return wrong(index, "legs", fmt::format("the legs of {} are \"{}\"", part.designator, mount.legs),
                         kind ? fmt::format("each of {} once", fmt::join(kind->pins, ", ")) : "no order");
    }
    const Footprint* shape = find_footprint(mount.footprint.empty() ? m.footprint.id : mount.footprint);
    if (!shape) {
        std::string known;
        if (kind)
            for (const Footprint* f : footprint_choices(*kind)) known += (known.empty() ? "" : ", ") + f->id;
        return wrong(index, "footprint",
                     fmt::format("there is no footprint \"{}\" for {}", mount.footprint, part.designator),
                     known.empty() ? "one of the footprints" : known);
    }
    m.footprint = footprint(part, *shape, legs);
    if (by_wires(m.footprint)) m.place = PartPlace::leads;
    if (!mount.place.empty()) {
        const auto found = std::find_if(places.begin(), places.end(),
                                        [&](const PlaceWords& p) { return p.id == mount.place; });
        if (found == places.end())
            return wrong(index, "place",
                         fmt::format("the place of {} is \"{}\"", part.designator, mount.place),
                         "board, leads, plug or panel");
        m.place = found->place;
        const bool plug = m.place == PartPlace::plug;
        if (m.place != PartPlace::board && (plug || !by_wires(m.footprint)))
            m.footprint = footprint(part, *find_footprint(plug ? "plug" : "wires-5"));
    }
    for (const Pin& pin : part.pins)
        if (!pin.net.empty() && std::none_of(m.footprint.pads.begin(), m.footprint.pads.end(),
                                             [&](const Pad& pad) { return pad.pin == pin.name; }))
            return wrong(index, "footprint",
                         fmt::format("pin {} of {} has no pad on {}", pin.name, part.designator, shape->name),
                         "a footprint with a pad for each pin");
    return m;
}

}  // namespace

std::string_view place_id(PartPlace place) { return places[static_cast<std::size_t>(place)].id; }
std::string_view place_name(PartPlace place) { return places[static_cast<std::size_t>(place)].name; }

Result<std::vector<Mounted>> mounted(const Circuit& circuit, const BoardChoices& choices) {
    std::vector<Mounted> all;
    all.reserve(circuit.parts.size());
    for (std::size_t k = 0; k < choices.parts.size(); ++k)
        if (!circuit.find(choices.parts[k].part))
            return wrong(k, "part", "there is no part \"" + choices.parts[k].part + "\"",
                         "a part of the circuit");
    for (const Part& part : circuit.parts) {
        const auto found = std::find_if(choices.parts.begin(), choices.parts.end(),
                                        [&](const PartMount& m) { return m.part == part.designator; });
        auto one = mounted_part(part, found == choices.parts.end() ? PartMount{} : *found,
                                static_cast<std::size_t>(found - choices.parts.begin()));
        if (!one) return one.error();
        all.push_back(std::move(one).value());
    }
    return all;
}

BoardChoices wired_choices(const Circuit& circuit, BoardChoices choices) {
    for (PartMount& m : choices.parts) {
        const Footprint* shape = find_footprint(m.footprint);
        const Part* part = circuit.find(m.part);
        if (!shape || !shape->surface || !part) continue;
        const Footprint* wired = wired_footprint(*part);
        m.footprint = wired ? wired->id : std::string();
        m.legs.clear();  // they were those of the other shape
    }
    return choices;
}

std::vector<std::string> surface_parts(const Circuit& circuit, const BoardChoices& choices) {
    std::vector<std::string> all;
    for (const PartMount& m : choices.parts) {
        const Footprint* shape = find_footprint(m.footprint);
        if (shape && shape->surface && circuit.find(m.part)) all.push_back(m.part);
    }
    return all;
}

bool legs_to_choose(const PartKind& kind) { return kind.is(Role::legs_differ) && kind.pins.size() == 3; }

bool legs_agreed(const Footprint& shape) { return !shape.usual.empty(); }

std::vector<std::string> leg_orders(const PartKind& kind, const Footprint& shape) {
    auto pins = kind.pins;
    std::vector<std::string> all{usual_legs(kind, shape)};
    std::sort(pins.begin(), pins.end());
    do {
        if (std::string order = fmt::format("{}", fmt::join(pins, " ")); order != all.front())
            all.push_back(std::move(order));
    } while (std::next_permutation(pins.begin(), pins.end()));
    return all;
}

PartMount mount_of(const BoardChoices& choices, const std::string& designator) {
    for (const PartMount& m : choices.parts)
        if (m.part == designator) return m;
    return {designator, {}, {}, {}, {}};
}

Result<Design> with_mount(Design design, const PartMount& mount) {
    const Part* part = design.circuit.find(mount.part);
    if (!part)
        return Error{Fault::design, "/board/parts", "there is no part " + mount.part,
                     "a part of the circuit"};
    auto& all = design.board.parts;
    const auto found =
        std::find_if(all.begin(), all.end(), [&](const PartMount& m) { return m.part == mount.part; });
    const auto index = static_cast<std::size_t>(found - all.begin());
    if (auto tried = mounted_part(*part, mount, index); !tried) return tried.error();
    const bool says_nothing = mount == PartMount{mount.part, {}, {}, {}, {}};
    if (found == all.end() && !says_nothing)
        all.push_back(mount);
    else if (found != all.end() && says_nothing)
        all.erase(found);
    else if (found != all.end())
        *found = mount;
    return design;
}

}  // namespace elkit
