#include "design/fields.hpp"

#include <fmt/format.h>

#include <algorithm>
#include <cctype>
#include <cmath>

#include "quantity/format.hpp"
#include "quantity/plain_text.hpp"

namespace elkit {
namespace {

/// A number of the design, kept as `scale` times what people see.
template <class Member>
DesignField number(std::string id, std::string name, std::string remark, Unit unit, double least, double most,
                   Member member, double scale = 1) {
    DesignField f;
    f.id = std::move(id), f.name = std::move(name), f.remark = std::move(remark);
    f.unit = unit, f.least = least, f.most = most, f.whole = unit == Unit::count;
    f.get = [member, scale](const Design& d) { return member(d) / scale; };
    f.set = [member, scale](Design& d, const FieldValue& v) {
        member(d) = std::round(std::get<double>(v) * scale * 1e9) / 1e9;  // 7 % is 0.07
    };
    return f;
}

template <class Member>
DesignField other(std::string id, std::string name, std::string undo, Member member) {
    DesignField f;
    f.id = std::move(id), f.name = std::move(name), f.undo = std::move(undo);
    using Held = std::remove_reference_t<decltype(member(std::declval<Design&>()))>;
    f.get = [member](const Design& d) { return FieldValue(member(d)); };
    f.set = [member](Design& d, const FieldValue& v) { member(d) = std::get<Held>(v); };
    return f;
}

std::vector<DesignField> make_fields() {
    std::vector<DesignField> all{
        number(
            "run_time", "Run time", "from fresh cells, over the day plan; 0: no wish", Unit::hour, 0, 1e6,
            [](auto& d) -> auto& { return d.brief.run_time; }),
        number(
            "end_brightness", "Spent below", "of the fresh light, as the eye sees it", Unit::percent, 5, 95,
            [](auto& d) -> auto& { return d.brief.end_brightness; }, 0.01),
        number(
            "kits", "Kits", "in this batch", Unit::count, 1, 1e6,
            [](auto& d) -> auto& { return d.brief.kits; }),
        number(
            "cost_ceiling", "Cost ceiling", "parts for one kit; 0 for none", Unit::money, 0, 1e6,
            [](auto& d) -> auto& { return d.brief.cost_ceiling; }),
        number(
            "width", "Room, width", "for the board; 0 for no limit", Unit::metre, 0, 2,
            [](auto& d) -> auto& { return d.brief.width; }, 1000),
        number(
            "height", "Room, height", "", Unit::metre, 0, 2, [](auto& d) -> auto& { return d.brief.height; },
            1000),
        number(
            "depth", "Room, depth", "from under the board to above its parts; 0 for no limit", Unit::metre, 0,
            2, [](auto& d) -> auto& { return d.brief.depth; }, 1000),
        number(
            "distance", "Looked at from", "distance of the eye; 0: not said", Unit::metre, 0, 100,
            [](auto& d) -> auto& { return d.brief.distance; }),
        number(
            "spares", "Spares", "bought on top, of small parts only", Unit::percent, 0, 1000,
            [](auto& d) -> auto& { return d.batch.spares; }, 0.01),
        number(
            "columns", "Columns", "of holes; 0: as few as it takes", Unit::count, 0, 200,
            [](auto& d) -> auto& { return d.board.columns; }),
        number(
            "rows", "Rows", "of holes; 0: as few as it takes", Unit::count, 0, 200,
            [](auto& d) -> auto& { return d.board.rows; }),
        number(
            "board_width", "Board, width", "of copper; 0: as small as it gets", Unit::metre, 0, 0.5,
            [](auto& d) -> auto& { return d.board.width; }, 1000),
        number(
            "board_height", "Board, height", "of copper; 0: as small as it gets", Unit::metre, 0, 0.5,
            [](auto& d) -> auto& { return d.board.height; }, 1000),
        number(
            "layers", "Layers", "of copper; 0: as the method has it", Unit::count, 0, 2,
            [](auto& d) -> auto& { return d.board.layers; }),
        number(
            "track", "Track width", "where there is room; 0: as the method has it", Unit::metre, 0, 0.02,
            [](auto& d) -> auto& { return d.board.track; }, 1000),
        number(
            "corner_holes", "Corner holes", "diameter of a hole in each corner; 0: none", Unit::metre, 0,
            0.01, [](auto& d) -> auto& { return d.board.corner_holes; }, 1000),
        number(
            "panel_across", "Panel, across", "ordered boards in one piece", Unit::count, 1, 20,
            [](auto& d) -> auto& { return d.board.panel_across; }),
        number(
            "panel_down", "Panel, down", "", Unit::count, 1, 20,
            [](auto& d) -> auto& { return d.board.panel_down; }),
        other(
            "for_children", "handled by children", "change who it is for",
            [](auto& d) -> auto& { return d.brief.for_children; }),
        other(
            "name", "Name", "rename the design", [](auto& d) -> auto& { return d.name; }),
        other(
            "purpose", "What for", "change the purpose", [](auto& d) -> auto& { return d.brief.purpose; })};
    for (DesignField& f : all) {
        if (f.id == "name") f.longest = longest_title;
        if (f.id == "purpose") f.longest = longest_prose, f.lines = true;
        if (!f.undo.empty()) continue;
        std::string lower = f.name;
        std::transform(lower.begin(), lower.end(), lower.begin(),
                       [](unsigned char c) { return static_cast<char>(std::tolower(c)); });
        std::erase(lower, ',');
        f.words = {lower};
        f.undo = "change the " + lower;
    }
    return all;
}

}  // namespace

const std::vector<DesignField>& design_fields() {
    static const std::vector<DesignField> all = make_fields();
    return all;
}

const DesignField* find_field(std::string_view id) {
    for (const DesignField& f : design_fields())
        if (f.id == id) return &f;
    return nullptr;
}

Result<Design> with_field(const Design& design, std::string_view id, const FieldValue& value) {
    const DesignField* field = find_field(id);
    if (!field)
        return Error{Fault::usage, std::string(id), "there is no such field", "a field of the design"};
    if (field->get(design).index() != value.index())
        return Error{Fault::usage, field->name, "a value of another type", "a number, yes or no, or words"};
    FieldValue taken = value;
    if (double* number = std::get_if<double>(&taken)) {
        if (field->whole) *number = std::round(*number);
        if (!(*number >= field->least && *number <= field->most))
            return Error{Fault::usage, field->name, "found " + format_quantity(*number, field->unit),
                         fmt::format("{} to {}", format_quantity(field->least, field->unit),
                                     format_quantity(field->most, field->unit))};
    }
    if (const auto* text = std::get_if<std::string>(&taken))
        if (std::string trouble = trouble_of_text(*text, field->longest, field->lines); !trouble.empty())
            return Error{Fault::usage, field->name, "the text " + trouble,
                         fmt::format("at most {} visible characters", field->longest)};
    Design next = design;
    field->set(next, taken);
    return next;
}

Design with_decision(const Design& design, const std::string& finding, const std::string& reason) {
    Design next = design;
    std::erase_if(next.decisions, [&](const Decision& d) { return d.finding == finding; });
    if (!reason.empty()) next.decisions.push_back({finding, reason, {}});
    return next;
}

Design with_record(const Design& design, const std::string& step, const std::string& time,
                   const std::function<void(StepRecord&)>& change) {
    Design next = design;
    StepRecord& record = next.record_for(step);
    change(record);
    record.time = time;
    return next;
}

}  // namespace elkit
