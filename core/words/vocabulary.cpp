#include "words/vocabulary.hpp"

#include <fmt/format.h>

#include <algorithm>
#include <nlohmann/json.hpp>

#include "circuit/type_words.hpp"
#include "embedded.hpp"

namespace elkit {
namespace {

std::vector<Saying>& table() {
    static std::vector<Saying> all = read_sayings(embedded::words).value();
    return all;
}

}  // namespace

Result<std::vector<Saying>> read_sayings(std::string_view text) {
    using nlohmann::json;
    const json list = json::parse(text, nullptr, false);
    const auto bad = [](const std::string& place, const std::string& found) {
        return Error{Fault::file, place, found,
                     R"(a list of {"say": "coin cell", "means": "CR2032 battery"})"};
    };
    if (!list.is_array()) return bad("words", "it is no list");
    std::vector<Saying> all;
    for (std::size_t k = 0; k < list.size(); ++k) {
        const std::string place = fmt::format("words, entry {}", k + 1);
        const json& entry = list[k];
        if (!entry.is_object()) return bad(place, "it is no object");
        for (const char* key : {"say", "means"})
            if (!entry.contains(key) || !entry.at(key).is_string())
                return bad(place, fmt::format("no text \"{}\"", key));
        Saying s{plain_words(entry.at("say").get<std::string>()),
                 plain_words(entry.at("means").get<std::string>())};
        if (s.say.empty() || s.means.empty()) return bad(place, "an empty text");
        all.push_back(std::move(s));
    }
    return all;
}

const std::vector<Saying>& sayings() { return table(); }

void add_own_sayings(std::vector<Saying> own) {
    table().insert(table().begin(), std::make_move_iterator(own.begin()), std::make_move_iterator(own.end()));
}

std::vector<std::string> in_plain_terms(const std::vector<std::string>& words) {
    std::vector<std::string> out;
    for (std::size_t at = 0; at < words.size();) {
        const Saying* longest = nullptr;
        for (const Saying& s : sayings()) {
            if (at + s.say.size() > words.size() || (longest && longest->say.size() >= s.say.size()))
                continue;
            if (std::equal(s.say.begin(), s.say.end(), words.begin() + static_cast<std::ptrdiff_t>(at)))
                longest = &s;
        }
        if (longest)
            out.insert(out.end(), longest->means.begin(), longest->means.end());
        else
            out.push_back(words[at]);
        at += longest ? longest->say.size() : 1;
    }
    return out;
}

}  // namespace elkit
