#include <cmath>
#include <nlohmann/json.hpp>

#include "circuit/part_kind.hpp"
#include "design/board_file.hpp"
#include "design/file.hpp"
#include "design/json_text.hpp"
#include "design/situation_file.hpp"

namespace elkit {
namespace {
using Json = nlohmann::ordered_json;

Json write_param(const ParamValue& value) {
    if (const double* n = std::get_if<double>(&value)) return json_number(*n);
    if (const auto* t = std::get_if<std::string>(&value)) return *t;
    Json list = Json::array();
    for (const auto& [x, y] : std::get<PointList>(value))
        list.push_back(Json::array({json_number(x), json_number(y)}));
    return list;
}

Json write_part(const Part& part) {
    Json j;
    j["designator"] = part.designator;
    j["kind"] = part.kind;
    Json params = Json::object();
    for (const auto& [key, value] : part.params) params[key] = write_param(value);
    if (!params.empty()) j["params"] = params;
    for (const Pin& pin : part.pins) j["pins"][pin.name] = pin.net;
    append_extra(j, part.extra);
    return j;
}

Json write_brief(const Brief& b) {
    Json j;
    j["purpose"] = b.purpose;
    j["run_time_h"] = json_number(b.run_time);
    j["end_brightness"] = json_number(b.end_brightness);
    j["kits"] = json_number(b.kits);
    j["cost_ceiling"] = json_number(b.cost_ceiling);
    j["width_mm"] = json_number(b.width);
    j["height_mm"] = json_number(b.height);
    if (b.depth > 0) j["depth_mm"] = json_number(b.depth);
    j["for_children"] = b.for_children;
    if (b.distance > 0) j["distance_m"] = json_number(b.distance);
    for (const Optic& optic : b.optics) {
        Json one{{"name", optic.name}, {"factor", json_number(optic.factor)}};
        append_extra(one, optic.extra);
        j["optics"].push_back(one);
    }
    append_extra(j, b.extra);
    return j;
}

Json write_block(const Block& b) {
    Json j;
    j["recipe"] = b.recipe;
    j["goals"] = Json::object();
    for (const auto& [key, value] : b.goals) j["goals"][key] = write_param(value);
    const auto names = [&](const char* key, const std::map<std::string, std::string>& map) {
        if (map.empty()) return;
        Json& all = j[key] = Json::object();
        for (const auto& [name, here] : map) append_key(all, name, here);
    };
    names("parts", b.parts), names("uses", b.uses), names("nets", b.nets);
    if (!b.by_hand.empty()) j["by_hand"] = b.by_hand;
    append_extra(j, b.extra);
    return j;
}

Json write_record(const StepRecord& r) {
    Json j;
    j["step"] = r.step;
    j["done"] = r.done;
    if (!r.note.empty()) j["note"] = r.note;
    if (r.measured) j["measured"] = json_number(*r.measured);
    if (r.unit != 1) j["unit"] = json_number(r.unit);
    if (!r.time.empty()) j["time"] = r.time;
    append_extra(j, r.extra);
    return j;
}

Json write_trial(const LightTrial& t) {
    Json j;
    j["led"] = t.led;
    j["reference"] = t.reference;
    j["resistor"] = json_number(t.resistor);
    j["current"] = json_number(t.current);
    j["reference_current"] = json_number(t.reference_current);
    j["looked"] = looked_words[static_cast<std::size_t>(t.looked)];
    append_extra(j, t.extra);
    return j;
}

Json write_face(const Face& f) {
    Json j;
    j["material"] = f.material;
    j["fit"] = f.fit;
    j["thickness_mm"] = json_number(f.thickness);
    if (f.width > 0) j["width_mm"] = json_number(f.width);
    if (f.height > 0) j["height_mm"] = json_number(f.height);
    if (!f.outline.empty()) j["outline"] = f.outline;
    for (const FacePlace& place : f.places) {
        Json one{{"light", place.light}, {"x", json_number(place.x)}, {"y", json_number(place.y)}};
        append_extra(one, place.extra);
        j["places"].push_back(one);
    }
    for (const FaceHole& hole : f.measured) {
        Json one{{"body", json_number(hole.body)}, {"hole", json_number(hole.hole)}};
        append_extra(one, hole.extra);
        j["measured"].push_back(one);
    }
    append_extra(j, f.extra);
    return j;
}

}  // namespace

std::string write_design(const Design& d) {
    Json j;
    j["elkit"] = d.version;
    j["name"] = d.name;
    j["brief"] = write_brief(d.brief);
    if (!d.blocks.empty()) j["blocks"] = Json::array();
    for (const Block& block : d.blocks) j["blocks"].push_back(write_block(block));
    j["circuit"]["parts"] = Json::array();
    for (const Part& part : d.circuit.parts) j["circuit"]["parts"].push_back(write_part(part));
    append_extra(j["circuit"], d.circuit.extra);
    j["board"] = write_board(d.board);
    j["batch"]["spares"] = json_number(d.batch.spares);
    append_extra(j["batch"], d.batch.extra);
    if (!(d.face == Face{})) j["face"] = write_face(d.face);
    for (const Situation& s : d.situations) j["situations"].push_back(write_situation(s));
    for (const DayUse& use : d.use) j["use"].push_back(write_use(use));
    j["records"] = Json::array();
    for (const auto& r : d.records) j["records"].push_back(write_record(r));
    for (const LightTrial& t : d.trials) j["trials"].push_back(write_trial(t));
    j["decisions"] = Json::array();
    for (const auto& decision : d.decisions) {
        Json one{{"finding", decision.finding}, {"reason", decision.reason}};
        append_extra(one, decision.extra);
        j["decisions"].push_back(one);
    }
    append_extra(j, d.extra);
    return j.dump(2, ' ', false, Json::error_handler_t::replace) + "\n";
}

}  // namespace elkit
