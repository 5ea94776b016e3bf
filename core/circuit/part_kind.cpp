#include "circuit/part_kind.hpp"

#include <fmt/format.h>
#include <fmt/ranges.h>

#include <algorithm>
#include <cctype>
#include <cmath>
#include <unordered_map>

#include "catalogue/catalogue.hpp"
#include "circuit/part_words.hpp"
#include "embedded.hpp"
#include "matrix/frames.hpp"
#include "quantity/format.hpp"
#include "quantity/plain_text.hpp"
#include "quantity/preferred.hpp"

namespace elkit {

const ParamInfo* PartKind::param(std::string_view key) const {
    for (const auto& p : params)
        if (p.key == key) return &p;
    return nullptr;
}

bool PartKind::optional(std::string_view pin) const {
    return std::find(optional_pins.begin(), optional_pins.end(), pin) != optional_pins.end();
}

const Legs::Mark* Legs::of(std::string_view pin) const {
    const auto found = std::find_if(marks.begin(), marks.end(), [&](const Mark& m) { return m.pin == pin; });
    return found == marks.end() ? nullptr : &*found;
}

bool PartKind::is(Role role) const { return std::find(roles.begin(), roles.end(), role) != roles.end(); }

bool PartKind::reads_condition(std::string_view condition) const {
    return std::find(reads.begin(), reads.end(), condition) != reads.end();
}

namespace {

constexpr std::size_t most_kinds = 1000;

/// In a vector that never moves, so that what points at a kind stays right when others are added.
struct KnownKinds {
    std::vector<PartKind> kinds;
    std::unordered_map<std::string_view, const PartKind*> by_id;
    void add(std::vector<PartKind> more) {
        for (PartKind& kind : more) {
            kinds.push_back(std::move(kind));
            by_id.emplace(kinds.back().id, &kinds.back());
        }
    }
};

KnownKinds& known() {
    static KnownKinds all = [] {
        KnownKinds k;
        k.kinds.reserve(most_kinds);
        k.add(read_kinds(embedded::kinds).value());
        k.add(read_modules(embedded::modules).value());
        return k;
    }();
    return all;
}

}  // namespace

const std::vector<PartKind>& part_kinds() { return known().kinds; }

Result<void> add_own_kinds(std::vector<PartKind> own) {
    for (PartKind& kind : own) {
        if (part_kind(kind.id))
            return Error{Fault::usage, "module " + kind.id, "there is a kind of this id already",
                         "another id"};
        kind.own = true, kind.name += " (own)";
    }
    if (known().kinds.size() + own.size() > most_kinds)
        return Error{Fault::usage, "modules", "there are too many", fmt::format("{} kinds", most_kinds)};
    known().add(std::move(own));
    return success();
}

const PartKind* part_kind(std::string_view id) {
    const auto found = known().by_id.find(id);
    return found == known().by_id.end() ? nullptr : found->second;
}

const PartKind* part_kind_from_word(std::string_view typed) {
    const auto lower = [](std::string_view text) {
        std::string out(text);
        for (char& c : out) c = static_cast<char>(std::tolower(static_cast<unsigned char>(c)));
        return out;
    };
    const std::string word = lower(typed);
    for (const PartKind& kind : part_kinds())
        if (std::find(kind.words.begin(), kind.words.end(), word) != kind.words.end()) return &kind;
    for (const PartKind& kind : part_kinds())
        if (kind.id == word || lower(kind.name) == word) return &kind;
    return nullptr;
}

std::string known_kinds() {
    std::string list;
    for (const auto& kind : part_kinds()) list += (list.empty() ? "" : ", ") + kind.id;
    return list;
}

std::vector<std::string> text_choices(std::string_view kind_id, std::string_view key) {
    const PartKind* kind = part_kind(kind_id);
    const ParamInfo* info = kind ? kind->param(key) : nullptr;
    return info ? info->choices_of.empty() ? info->choices : known_catalogue().ids(info->choices_of, kind_id)
                : std::vector<std::string>{};
}

bool is(const Part& part, Role role) {
    const PartKind* kind = part_kind(part.kind);
    return kind && kind->is(role);
}

bool any(const Circuit& circuit, Role role) {
    return std::any_of(circuit.parts.begin(), circuit.parts.end(),
                       [&](const Part& p) { return is(p, role); });
}

std::string param_text(const Part& part, const ParamInfo& info) {
    if (std::holds_alternative<std::string>(info.standard)) return part.text(info.key);
    if (!std::holds_alternative<double>(info.standard)) return "";
    const double value = part.number(info.key);
    if (info.key == "tolerance") return format_quantity(100 * value, Unit::percent);
    if (info.key == "rating" && info.unit == Unit::watt) return rating_text(value);
    std::string words = format_quantity(value, info.unit);
    // a stated value, not a measured one: 16 V, not 16.0 V
    if (const auto point = words.find('.'); point != std::string::npos) {
        auto end = words.find_first_not_of("0123456789", point + 1);
        if (end == std::string::npos) end = words.size();
        const auto last = words.find_last_not_of('0', end - 1);
        words.erase(last == point ? point : last + 1, end - (last == point ? point : last + 1));
    }
    return words;
}

std::string value_text(const Part& part) {
    const PartKind* kind = part_kind(part.kind);
    if (!kind) return part.kind;
    if (!kind->shows.empty()) return fill_words(kind->shows, part);
    if (follows_waveform(part)) return part.text(kind->waveform);
    const ParamInfo* info = kind->param(kind->value_key);
    if (!info) return kind->name;
    std::string text = param_text(part, *info);
    if (text.ends_with("-5mm")) text = text.substr(0, text.size() - 4);
    return text;
}

std::string editable_value(const Part& part) {
    const PartKind* kind = part_kind(part.kind);
    const ParamInfo* info = kind ? kind->param(kind->value_key) : nullptr;
    return info && !kind->shows.empty() ? param_text(part, *info) : value_text(part);
}

bool closed_as_drawn(const Part& part) {
    const PartKind* kind = part_kind(part.kind);
    if (!kind || kind->rest.param.empty()) return false;
    return kind->rest.equals.empty() ? part.number(kind->rest.param) > kind->rest.above
                                     : part.text(kind->rest.param) == kind->rest.equals;
}

/// Of a controller's table. Errors as behaviour_of() and program_of().
static Result<Program> program_of(const PartKind& controller, const std::string& text) {
    auto table = behaviour_of(text);
    if (!table) return table.error();
    return program_of(table.value(), controller.controller->pins, controller.controller->bits);
}

std::optional<Error> trouble_of_choice(const PartKind& kind, const ParamInfo& info, const std::string& text) {
    if (info.written == ParamInfo::Written::behaviour) {
        const auto program = program_of(kind, text);
        return program ? std::nullopt : std::optional(program.error());
    }
    if (info.written == ParamInfo::Written::frames) {
        const auto frames = frames_of(text);
        return frames ? std::nullopt : std::optional(frames.error());
    }
    const auto choices = text_choices(kind.id, info.key);
    if (std::find(choices.begin(), choices.end(), text) != choices.end()) return std::nullopt;
    return Error{Fault::design, info.key, fmt::format("unknown {} \"{}\"", info.key, one_line(text, 40)),
                 fmt::format("one of {}", fmt::join(choices, ", "))};
}

Result<Program> program_of(const Part& part) {
    const PartKind* kind = part_kind(part.kind);
    if (!kind || !kind->controller)
        return Error{Fault::design, "part " + part.designator, "is no controller", "a controller"};
    auto program = program_of(*kind, part.text("behaviour"));
    if (program) {
        program.value().reference = part.number("reference");
        return program;
    }
    Error error = program.error();
    error.place = part.designator + ", " + error.place;
    return error;
}

bool moves_by_itself(const Part& part) {
    const PartKind* kind = part_kind(part.kind);
    return follows_waveform(part) || (kind && kind->controller) ||
           (kind && kind->module &&
            (kind->module->by == ModuleSpec::By::pattern ||
             (kind->module->by == ModuleSpec::By::frames && frames_change(part))));
}

bool frames_change(const Part& matrix) {
    const auto frames = frames_of(matrix.text("pattern"));
    return frames && std::any_of(frames.value().begin(), frames.value().end(), [&](const MatrixFrame& f) {
               return f.lit() != frames.value().front().lit();
           });
}

bool follows_waveform(const Part& part) {
    const PartKind* kind = part_kind(part.kind);
    return kind && !kind->waveform.empty() && part.text(kind->waveform) != "dc";
}

bool is_knob(const Part& part) {
    const PartKind* kind = part_kind(part.kind);
    return kind && kind->control == "knob";
}

const LedType* light_type(const Part& part) {
    const PartKind* kind = part_kind(part.kind);
    if (!kind || !kind->is(Role::light)) return nullptr;
    const std::string& id = kind->module                    ? kind->module->light
                            : !kind->filament_light.empty() ? kind->filament_light
                            : kind->dies.empty()            ? part.text("type")
                                                            : part.text(kind->dies.front().second);
    return known_catalogue().led(id);
}

bool applies(const Part& part, const ParamInfo& info) {
    return info.with.empty() || part.number(info.with) > 0;
}

}  // namespace elkit
