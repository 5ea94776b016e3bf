#include "drawer/identity.hpp"

#include <charconv>
#include <vector>

#include "catalogue/catalogue.hpp"
#include "circuit/part_kind.hpp"
#include "circuit/part_words.hpp"
#include "quantity/format.hpp"
#include "quantity/parse.hpp"
#include "quantity/plain_text.hpp"

namespace elkit {
namespace {

std::vector<std::string> pieces_between(std::string_view key, char separator) {
    std::vector<std::string> out(1);
    for (const char c : key)
        if (c == separator)
            out.emplace_back();
        else
            out.back() += c;
    return out;
}

/// A parameter as drawer_key() writes it: "4700", "1%", "0.5W", "signal".
bool read_piece(const std::string& text, const ParamInfo& info, Part& part) {
    if (std::holds_alternative<std::string>(info.standard)) {
        part.params[info.key] = text;
        return true;
    }
    const bool percent = text.ends_with('%');
    const std::string digits = percent ? text.substr(0, text.size() - 1) : text;
    double number = 0;
    const auto [end, code] = std::from_chars(digits.data(), digits.data() + digits.size(), number);
    if (code != std::errc{} || end != digits.data() + digits.size()) {
        const auto read = parse_quantity(digits, info.unit);
        if (!read) return false;
        number = read.value();
    }
    part.params[info.key] = percent ? number / 100 : number;
    return true;
}

std::optional<Part> read_as(const PartKind& kind, const std::vector<std::string>& pieces,
                            std::string_view key) {
    const Identity& identity = kind.identity;
    std::size_t at = 1;
    if (!identity.id.empty() && (pieces.size() <= at || pieces[at++] != identity.id)) return std::nullopt;
    Part part;
    part.kind = kind.id;
    for (const std::string& name : identity.by) {
        const ParamInfo* info = kind.param(name);
        if (!info) continue;
        if (at >= pieces.size() || !read_piece(pieces[at++], *info, part)) return std::nullopt;
    }
    if (identity.by_pins) return std::nullopt;  // a part without pins would have another key
    for (const std::string& name : identity.unless_usual) {
        if (at >= pieces.size()) break;
        const ParamInfo* info = kind.param(name);
        const Part without = part;
        if (info && read_piece(pieces[at], *info, part)) {
            // whichever parameter it was, it says the same when it is written again
            if (std::string(key).starts_with(drawer_key(part))) {
                ++at;
                continue;
            }
            part = without;
        }
    }
    return drawer_key(part) == key ? std::optional(part) : std::nullopt;
}

std::string text_of(const Part& part, const PartKind& kind, std::string_view name) {
    const ParamInfo* info = kind.param(name);
    if (!info || !applies(part, *info)) return "";
    return param_text(part, *info);
}

}  // namespace

std::optional<Part> part_of_key(std::string_view key) {
    const std::vector<std::string> pieces = pieces_between(key, '/');
    for (const PartKind& kind : part_kinds())
        if (kind.identity.family == pieces[0])
            if (auto part = read_as(kind, pieces, key)) return part;
    return std::nullopt;
}

ItemWords words_of_key(std::string_view key) {
    ItemWords words;
    const auto part = part_of_key(key);
    if (!part) {
        words.kind = std::string(key.substr(0, key.find('/')));
        return words;
    }
    const PartKind& kind = *part_kind(part->kind);
    words.kind = kind.name;
    if (const ParamInfo* info = kind.param(kind.value_key); info && applies(*part, *info)) {
        const std::string choice = part->text(info->key);
        const std::string name = choice.empty() ? "" : known_catalogue().name_of(kind.id, choice);
        words.value = name.empty() ? param_text(*part, *info) : name;
        if (std::holds_alternative<double>(info->standard))
            words.number = part->number(info->key), words.unit = info->unit;
    }
    words.tolerance = text_of(*part, kind, "tolerance");
    words.rating = text_of(*part, kind, "rating");
    return words;
}

std::string own_key(std::string_view name) {
    std::string plain = lower_case(cleaned_text(name, 100));
    for (char& c : plain)
        if (c == '/') c = ' ';
    return "own/" + plain;
}

}  // namespace elkit
