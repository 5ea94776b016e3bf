#include "circuit/type_words.hpp"

#include <fmt/format.h>
#include <fmt/ranges.h>

#include <algorithm>
#include <array>
#include <cctype>
#include <map>
#include <mutex>
#include <utility>

#include "catalogue/catalogue.hpp"

namespace elkit {
namespace {

bool is_number(const std::string& word) {
    return !word.empty() && std::isdigit(static_cast<unsigned char>(word.front())) &&
           word.find_first_not_of("0123456789./,") == std::string::npos;
}

bool is_unit(const std::string& word) {
    static constexpr std::array units{"mm", "cm",  "m",   "v",  "mv",  "a",   "ma",  "ua",   "w",
                                      "mw", "ah",  "mah", "%",  "ω",   "kω",  "ohm", "ohms", "k",
                                      "hz", "khz", "pf",  "nf", "uf",  "µf",  "μf",  "mf",   "mh",
                                      "uh", "µh",  "h",   "s",  "pin", "pins"};
    return std::find(units.begin(), units.end(), word) != units.end();
}

/// Words without digits: values and sizes do not make a type more special.
std::ptrdiff_t plain_adjectives(const std::set<std::string>& words) {
    return std::count_if(words.begin(), words.end(), [](const std::string& word) {
        return word.find_first_of("0123456789") == std::string::npos;
    });
}

std::string listed(const std::vector<std::string>& choices) {
    constexpr std::size_t most = 8;
    if (choices.size() <= most) return fmt::format("{}", fmt::join(choices, ", "));
    return fmt::format("{} …", fmt::join(choices.begin(), choices.begin() + most, ", "));
}

}  // namespace

std::vector<std::string> plain_words(std::string_view line) {
    std::vector<std::string> words(1);
    for (std::size_t i = 0; i < line.size(); ++i) {
        const char c = line[i];
        const bool comma =
            c == ',' && (i + 1 == line.size() || !std::isdigit(static_cast<unsigned char>(line[i + 1])));
        if (c == ' ' || c == '\t' || comma)
            words.emplace_back();
        else
            words.back() += static_cast<char>(std::tolower(static_cast<unsigned char>(c)));
    }
    std::vector<std::string> joined;
    for (std::string& word : words) {
        if (word.empty()) continue;
        if (!joined.empty() && is_number(joined.back()) && is_unit(word))
            joined.back() += word;
        else
            joined.push_back(std::move(word));
    }
    return joined;
}

namespace {

std::set<std::string> spell_out(const PartKind& kind, const ParamInfo& info, const std::string& choice) {
    std::set<std::string> words{choice};
    std::string spaced = choice;
    std::replace(spaced.begin(), spaced.end(), '-', ' ');
    if (!info.choices_of.empty()) spaced += " " + known_catalogue().name_of(kind.id, choice);
    for (char& c : spaced)
        if (c == '(' || c == ')') c = ' ';
    for (const std::string& word : plain_words(spaced)) {
        words.insert(word);
        for (std::size_t dash = word.find('-'), from = 0; from < word.size();
             from = dash == std::string::npos ? word.size() : dash + 1, dash = word.find('-', from))
            words.insert(word.substr(from, dash == std::string::npos ? dash : dash - from));
    }
    std::set<std::string> small;
    for (const std::string& word : words)
        for (const std::string& lower : plain_words(word)) small.insert(lower);
    return small;
}

}  // namespace

const std::set<std::string>& words_of_choice(const PartKind& kind, const ParamInfo& info,
                                             const std::string& choice) {
    static std::mutex guard;
    static std::map<std::string, std::set<std::string>> known;
    const std::lock_guard lock(guard);
    const auto [at, fresh] = known.try_emplace(kind.id + "/" + info.key + "/" + choice);
    if (fresh) at->second = spell_out(kind, info, choice);
    return at->second;
}

bool narrows(const PartKind& kind, const ParamInfo& info, const std::string& word) {
    const auto choices = text_choices(kind.id, info.key);
    return std::any_of(choices.begin(), choices.end(), [&](const std::string& choice) {
        return words_of_choice(kind, info, choice).contains(word);
    });
}

Result<std::string> choice_from_words(const PartKind& kind, const ParamInfo& info,
                                      const std::vector<std::string>& words) {
    const auto choices = text_choices(kind.id, info.key);
    const auto* usual = std::get_if<std::string>(&info.standard);
    const auto usual_words =
        usual && !usual->empty() ? words_of_choice(kind, info, *usual) : std::set<std::string>{};
    std::vector<std::string> fitting, nearest;
    std::size_t most_fit = 1;
    std::pair<std::size_t, std::ptrdiff_t> best;
    for (const std::string& choice : choices) {
        const auto& own = words_of_choice(kind, info, choice);
        const auto fit = static_cast<std::size_t>(std::count_if(
            words.begin(), words.end(), [&](const std::string& word) { return own.contains(word); }));
        if (fit > most_fit) nearest.clear(), most_fit = fit;
        if (fit == most_fit) nearest.push_back(choice);
        if (fit < words.size()) continue;
        if (usual && choice == *usual) return choice;
        const auto shared = static_cast<std::size_t>(std::count_if(
            own.begin(), own.end(), [&](const std::string& word) { return usual_words.contains(word); }));
        // of two that share as much, the one of which less was left unsaid: white, not warm white
        const auto rank = std::pair(shared, -plain_adjectives(own));
        if (fitting.empty() || rank > best) fitting.clear(), best = rank;
        if (rank == best) fitting.push_back(choice);
    }
    if (fitting.size() == 1) return fitting.front();
    for (const std::string& choice : info.usual)
        if (std::find(fitting.begin(), fitting.end(), choice) != fitting.end()) return choice;
    const std::string typed = fmt::format("{}", fmt::join(words, " "));
    if (fitting.empty())
        return Error{Fault::usage, kind.name, "there is no \"" + typed + "\" in the catalogue",
                     "one of " + listed(nearest.empty() ? choices : nearest)};
    return Error{Fault::usage, kind.name, "\"" + typed + "\" may be several",
                 "which one: " + listed(fitting)};
}

const std::vector<std::vector<std::string>>& namings(const PartKind& kind) {
    thread_local std::map<std::string, std::vector<std::vector<std::string>>>
        of_kinds;  // asked for every word
    auto& all = of_kinds[kind.id];
    if (!all.empty()) return all;
    all = {plain_words(kind.id), plain_words(kind.name)};
    for (const std::string& word : kind.words) all.push_back(plain_words(word));
    return all;
}

std::vector<const ParamInfo*> worded_params(const PartKind& kind) {
    std::vector<const ParamInfo*> all;
    for (const ParamInfo& info : kind.params)
        if (std::holds_alternative<std::string>(info.standard) &&
            (info.key == kind.value_key || info.key == "type" || !info.choices.empty()))
            all.push_back(&info);
    return all;
}

}  // namespace elkit
