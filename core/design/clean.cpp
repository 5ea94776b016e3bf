#include "design/clean.hpp"

#include <fmt/format.h>

#include <map>
#include <nlohmann/json.hpp>
#include <set>

#include "circuit/names.hpp"
#include "design/file.hpp"
#include "design/json_text.hpp"
#include "design/situation_file.hpp"
#include "quantity/plain_text.hpp"

namespace elkit {
namespace {
using Json = nlohmann::ordered_json;

/// Valid UTF-8 without control characters; between the words of JSON they mean no more than a space.
std::string cleaned_bytes(std::string_view text) {
    std::string out;
    for (std::size_t at = 0; at < text.size();) {
        const char32_t c = next_character(text, at);
        if (c < 0x20)
            out += ' ';
        else if (c != 0xFFFD)
            append_character(out, c);
    }
    return out;
}

/// New names for old ones: the same for the same, another for another.
class Names {
  public:
    Names(std::string what, std::string otherwise)
        : what_(std::move(what)), otherwise_(std::move(otherwise)) {}
    /// Those that need no change are taken.
    void keep(const std::string& name) {
        if (trouble_of_name(name).empty()) taken_.insert(name);
    }
    std::string operator()(const std::string& old, std::vector<std::string>& changes) {
        if (trouble_of_name(old).empty()) return old;
        const auto known = new_.find(old);
        if (known != new_.end()) return known->second;
        const std::string clean = cleaned_name(old, otherwise_);
        std::string name = clean;
        for (int k = 2; !taken_.insert(name).second; ++k) {
            const std::string number = "_" + std::to_string(k);
            name = cleaned_name(clean.substr(0, clean.size() - std::min(clean.size(), number.size())), "") +
                   number;
            if (count_characters(clean) + number.size() <= longest_name) name = clean + number;
        }
        changes.push_back(fmt::format("{} \"{}\" is now {}", what_, one_line(old, 40), name));
        return new_[old] = name;
    }

  private:
    std::string what_, otherwise_;
    std::map<std::string, std::string> new_;
    std::set<std::string> taken_;
};

class Cleaner {
  public:
    std::vector<std::string> changes;

    void document(Json& d) {
        if (!d.is_object()) return;
        text(d, "name", longest_title);
        if (Json* brief = object(d, "brief")) text(*brief, "purpose", longest_prose, true);
        if (Json* circuit = object(d, "circuit")) {
            each(*circuit, "parts", [&](Json& part) { keep_names(part); });
            each(*circuit, "parts", [&](Json& part) { rename_part(part); });
        }
        each(d, "blocks", [&](Json& block) { clean_block(block); });
        each(d, "situations", [&](Json& s) { clean_situation(s); });
        if (Json* board = object(d, "board"))
            for (const char* list : {"parts", "spots"})
                each(*board, list, [&](Json& of_part) {
                    if (of_part.contains("part")) rename(of_part["part"], parts_);
                });
        if (Json* face = object(d, "face"))
            each(*face, "places", [&](Json& place) {
                if (place.contains("light")) rename(place["light"], parts_);
            });
        each(d, "use", [&](Json& u) { text(u, "situation", longest_situation); });
        each(d, "records", [&](Json& r) {
            text(r, "step", longest_word), text(r, "time", longest_word),
                text(r, "note", longest_prose, true);
        });
        each(d, "decisions",
             [&](Json& r) { text(r, "finding", longest_word), text(r, "reason", longest_prose, true); });
    }

  private:
    static Json* object(Json& in, const char* key) {
        return in.contains(key) && in[key].is_object() ? &in[key] : nullptr;
    }
    template <class Do>
    static void each(Json& in, const char* key, Do run) {
        if (!in.contains(key) || !in[key].is_array()) return;
        for (Json& item : in[key])
            if (item.is_object()) run(item);
    }
    void text(Json& in, const char* key, std::size_t most, bool lines = false) {
        if (!in.contains(key) || !in[key].is_string()) return;
        auto& value = in[key].get_ref<std::string&>();
        if (trouble_of_text(value, most, lines).empty()) return;
        value = cleaned_text(value, most, lines);
        changes.push_back(fmt::format("the {} is now \"{}\"", key, one_line(value, 60)));
    }
    void rename(Json& value, Names& names) {
        if (value.is_string()) value = names(value.get<std::string>(), changes);
    }
    void keep_names(Json& part) {
        if (part.contains("designator") && part["designator"].is_string())
            parts_.keep(part["designator"].get<std::string>());
        if (Json* pins = object(part, "pins"))
            for (auto& [pin, net] : pins->items())
                if (net.is_string()) nets_.keep(net.get<std::string>());
    }
    void rename_part(Json& part) {
        if (part.contains("designator")) rename(part["designator"], parts_);
        if (Json* pins = object(part, "pins"))
            for (auto& [pin, net] : pins->items()) rename(net, nets_);
    }
    void clean_situation(Json& situation) {
        text(situation, "name", longest_situation);
        each(situation, "events", [&](Json& event) {
            if (event.contains("part")) rename(event["part"], parts_);
        });
        for (const char* key : {"switches", "knobs", "sources", "warmth"})
            if (Json* map = object(situation, key)) {
                Json renamed = Json::object();
                for (auto& [name, value] : map->items()) append_key(renamed, parts_(name, changes), value);
                *map = std::move(renamed);
            }
    }
    void clean_block(Json& block) {
        for (const char* key : {"parts", "uses"})
            if (Json* map = object(block, key))
                for (auto& [name, here] : map->items()) rename(here, parts_);
        if (Json* map = object(block, "nets"))
            for (auto& [name, here] : map->items()) rename(here, nets_);
        if (!block.contains("by_hand") || !block["by_hand"].is_array()) return;
        for (Json& entry : block["by_hand"]) {  // R1.value, R1:a
            if (!entry.is_string()) continue;
            const auto whole = entry.get<std::string>();
            const auto end = whole.find_last_of(".:");
            if (end == std::string::npos) continue;
            entry = parts_(whole.substr(0, end), changes) + cleaned_text(whole.substr(end), longest_word);
        }
    }

    Names parts_{"part", "X"}, nets_{"net", "N"};
};

}  // namespace

Result<Cleaned> cleaned_design(std::string_view text) {
    Cleaner cleaner;
    std::string bytes = cleaned_bytes(text);
    const bool same_words = trouble_of_text(text, text.size(), true).empty();
    if (same_words)
        bytes = text;
    else
        cleaner.changes.push_back("control characters and bytes that are no UTF-8 are taken out");
    auto document = parse_json(bytes, "the JSON text of a design");
    if (!document) return document.error();
    cleaner.document(document.value());
    auto design = read_design(document.value().dump());
    if (!design) return design.error();
    return Cleaned{std::move(design).value(), std::move(cleaner.changes)};
}

}  // namespace elkit
