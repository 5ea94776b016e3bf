#include "circuit/part_words.hpp"

#include <fmt/format.h>

#include "catalogue/catalogue.hpp"
#include "circuit/part_kind.hpp"
#include "quantity/format.hpp"
#include "quantity/preferred.hpp"

namespace elkit {
namespace {

std::string own_word(const std::string& word, const Part& part) {
    const PartKind* kind = part_kind(part.kind);
    if (word == "pins") return std::to_string(part.pins.size());
    if (word == "bands") return marking_of(part);
    const ParamInfo* info = kind ? kind->param(word) : nullptr;
    if (!info) return "";
    if (!info->choices_of.empty() && word == "type") {
        std::string name = known_catalogue().name_of(part.kind, part.text(word));
        if (!name.empty()) return name;
    }
    return param_text(part, *info);
}

std::string plain(const Part& part, const ParamInfo& info) {
    if (std::holds_alternative<std::string>(info.standard)) return part.text(info.key);
    return format_plain(part.number(info.key));
}

}  // namespace

std::string fill_words(std::string_view pattern, const Part& part,
                       const std::function<std::string(const std::string&)>& more) {
    std::string out;
    for (std::size_t at = 0; at < pattern.size();) {
        const auto open = pattern.find('{', at), close = pattern.find('}', at);
        if (open == std::string_view::npos || close == std::string_view::npos || close < open)
            return out + std::string(pattern.substr(at));
        out += pattern.substr(at, open - at);
        const std::string word(pattern.substr(open + 1, close - open - 1));
        std::string text = more ? more(word) : "";
        if (text.empty()) text = own_word(word, part);
        out += text.empty() ? "{" + word + "}" : text;
        at = close + 1;
    }
    return out;
}

std::string drawer_key(const Part& part) {
    const PartKind* kind = part_kind(part.kind);
    if (!kind) return part.kind;
    const Identity& identity = kind->identity;
    std::string key = identity.family;
    if (!identity.id.empty()) key += "/" + identity.id;
    for (const std::string& name : identity.by)
        if (const ParamInfo* info = kind->param(name)) key += "/" + plain(part, *info);
    if (identity.by_pins) key += "/" + std::to_string(part.pins.size());
    for (const std::string& name : identity.unless_usual) {
        const ParamInfo* info = kind->param(name);
        if (!info || !applies(part, *info) || !part.params.contains(name)) continue;
        if (part.params.at(name) == info->standard) continue;
        key += "/" + (info->key == "tolerance" ? format_plain(100 * part.number(name)) + "%"
                      : std::holds_alternative<std::string>(info->standard)
                          ? part.text(name)
                          : format_plain(part.number(name)) + std::string(symbol(info->unit)));
    }
    return key;
}

std::string shop_name(const Part& part) {
    const PartKind* kind = part_kind(part.kind);
    if (!kind) return part.kind;
    std::string name = fill_words(kind->identity.name, part);
    for (const std::string& key : kind->identity.unless_usual) {
        const ParamInfo* info = kind->param(key);
        const bool unusual = info && applies(part, *info) && part.params.contains(key) &&
                             !(part.params.at(key) == info->standard);
        if (!unusual || kind->identity.name.find("{" + key + "}") != std::string::npos) continue;
        Part as_type = part;
        as_type.params.erase(key);
        const std::string own = param_text(part, *info);
        std::string usual = param_text(as_type, *info);
        if (const auto space = usual.find("\u00a0"); space != std::string::npos)
            usual.replace(space, 2, " ");  // as names of the catalogue have it
        if (const auto at = name.find(usual); !usual.empty() && at != std::string::npos)
            name.replace(at, usual.size(), own);  // "Zener diode 5.1 V" that is one of 4.7 V
        else
            name += " " + own;
    }
    return name;
}

std::string marking_of(const Part& part) {
    const PartKind* kind = part_kind(part.kind);
    if (!kind) return "";
    if (kind->marking == "bands") {
        const auto bands = colour_bands(part.number("value"), part.number("tolerance"));
        return bands ? fmt::format("{}", fmt::join(bands.value().names, " ")) : "";
    }
    if (kind->marking == "code") return capacitor_code(part.number("value"));
    return kind->marking;
}

}  // namespace elkit
