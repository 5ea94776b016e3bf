#include "words/described_part.hpp"

#include <fmt/format.h>
#include <fmt/ranges.h>

#include <algorithm>
#include <cctype>
#include <cmath>
#include <map>
#include <sstream>

#include "catalogue/catalogue.hpp"
#include "circuit/edit.hpp"
#include "circuit/part_kind.hpp"
#include "circuit/part_words.hpp"
#include "circuit/type_words.hpp"
#include "quantity/format.hpp"
#include "quantity/parse.hpp"
#include "quantity/plain_text.hpp"
#include "words/part_places.hpp"
#include "words/part_values.hpp"
#include "words/vocabulary.hpp"
#include "words/words.hpp"

namespace elkit {
namespace {

/// Letters, then digits: "r9".
bool looks_like_designator(const std::string& word) {
    const auto digits = word.find_first_of("0123456789");
    return digits > 0 && digits != std::string::npos && digits <= 4 &&
           word.find_first_not_of("0123456789", digits) == std::string::npos &&
           std::all_of(word.begin(), word.begin() + static_cast<std::ptrdiff_t>(digits),
                       [](unsigned char c) { return std::isalpha(c) != 0; });
}

std::string letters_of(const std::string& designator) {
    return upper_case(designator.substr(0, designator.find_first_of("0123456789")));
}

/// The usual kind behind the letters of a designator.
const PartKind* kind_of_letters(const std::string& letters) {
    const PartKind* found = nullptr;  // where several share a letter, the one that is meant by it alone
    for (const PartKind& kind : part_kinds())
        if (kind.prefix == letters && (!found || kind.is(Role::usual))) found = &kind;
    return found;
}

class Reader {
  public:
    Reader(const std::string& line, const Circuit& circuit) : circuit_(circuit) {
        std::istringstream in(line);
        for (std::string word; in >> word;) {
            while (!word.empty() && (word.back() == ',' || word.back() == ';')) word.pop_back();
            if (!word.empty()) raw_.push_back(word);
        }
    }

    Result<std::optional<Part>> read() {
        if (!raw_.empty() &&
            is_among(lower_case(raw_.front()), {"add", "new", "put", "insert", "place", "a", "an"}))
            raw_.erase(raw_.begin());
        const bool sets = std::any_of(raw_.begin(), raw_.end(), [](const std::string& word) {
            return word.find('=') != std::string::npos;
        });
        if (raw_.empty() || sets || part_from_word(circuit_, raw_.front())) return std::optional<Part>();
        auto ends = take_ends(raw_, circuit_);
        if (!ends) return ends.error();
        between_nets_ = ends.value().has_value();
        if (auto done = find_kind(); !done) return done.error();
        if (!kind_) return std::optional<Part>();
        part_.kind = kind_->id;
        auto pins = take_pins(raw_, behind_kind(), *kind_, ends.value(), circuit_);
        if (!pins) return pins.error();
        part_.pins = std::move(pins).value();
        words_ = plain_terms(raw_.size());
        drop_naming();
        if (auto done = take_words(); !done) return done.error();
        if (auto done = choose(); !done) return done.error();
        prefer_polar();
        if (part_.designator.empty()) part_.designator = circuit_.free_designator(kind_->prefix);
        return std::optional<Part>(std::move(part_));
    }

    Result<std::optional<Part>> read_without_place() {
        if (auto done = find_kind(); !done) return done.error();
        if (!kind_) return std::optional<Part>();
        part_.kind = kind_->id;
        if (auto done = take_words(); !done) return done.error();
        if (auto done = choose(); !done) return done.error();
        return std::optional<Part>(std::move(part_));
    }

  private:
    /// The kind by its earliest and longest name, by the letters of a designator, by a type of cell or LED,
    /// or by the unit of a value; and the pins and nets that the line names.
    Result<void> find_kind() {
        take_designator();
        words_ = plain_terms(raw_.size());
        std::size_t at = 0, length = 0;
        for (at = 0; at < words_.size() && !length; ++at)
            for (const PartKind& kind : part_kinds())
                for (const Words& naming : namings(kind))
                    if (naming.size() > length && at + naming.size() <= words_.size() &&
                        std::equal(naming.begin(), naming.end(),
                                   words_.begin() + static_cast<std::ptrdiff_t>(at)))
                        kind_ = &kind, length = naming.size();
        if (length) {
            naming_.assign(words_.begin() + static_cast<std::ptrdiff_t>(at - 1),
                           words_.begin() + static_cast<std::ptrdiff_t>(at - 1 + length));
            drop_naming();
            return success();
        }
        if (!part_.designator.empty()) kind_ = kind_of_letters(letters_of(part_.designator));
        for (const PartKind& kind : part_kinds()) {  // "3 AA", "white 5mm"
            if (kind_) break;
            for (const ParamInfo* info : worded_params(kind))
                if (is_among(info->choices_of, {"cells", "leds", "diodes"}) &&
                    std::any_of(words_.begin(), words_.end(), [&](const std::string& w) {
                        return std::isalpha(static_cast<unsigned char>(w.front())) && narrows(kind, *info, w);
                    }))
                    kind_ = &kind;
        }
        for (const std::string& plain : words_) {  // "4k7", "100nF"
            const std::string word = as_typed(plain, raw_);
            if (kind_ || !std::isdigit(static_cast<unsigned char>(word.front())) || is_bare_number(word))
                continue;
            const auto of = [&](Unit unit, const char* letters) {
                return parse_quantity(word, unit) &&
                       (says_unit(plain, unit) || word.find_first_of(letters) != std::string::npos);
            };
            kind_ = of(Unit::ohm, "kKrRM")       ? kind_of_letters("R")
                    : of(Unit::farad, "pnu\xc2") ? kind_of_letters("C")
                                                 : nullptr;
        }
        // "330 from A to B": what is told by a number alone is a resistor
        if (!kind_ && between_nets_ && words_.size() == 1 && is_bare_number(words_.front()) &&
            parse_quantity(words_.front(), Unit::ohm) && (kind_ = kind_of_letters("R")))
            part_.params[kind_->value_key] = parse_quantity(words_.front(), Unit::ohm).value(),
            words_.clear(), raw_.clear();
        return success();
    }

    /// The first words of the line in the terms of kinds and types.
    Words plain_terms(std::size_t count) const {
        std::string line;
        for (std::size_t k = 0; k < count; ++k) line += raw_[k] + " ";
        return in_plain_terms(plain_words(line));
    }

    /// Takes the kind's name out of the words.
    void drop_naming() {
        const auto at = std::search(words_.begin(), words_.end(), naming_.begin(), naming_.end());
        if (at != words_.end()) words_.erase(at, at + static_cast<std::ptrdiff_t>(naming_.size()));
    }

    /// How many words of the line it takes until the kind is named; pins are named behind that.
    std::size_t behind_kind() const {
        for (std::size_t count = 0; !naming_.empty() && count <= raw_.size(); ++count) {
            const Words so_far = plain_terms(count);
            if (std::search(so_far.begin(), so_far.end(), naming_.begin(), naming_.end()) != so_far.end())
                return count;
        }
        return 0;
    }

    /// "R9" where no part is called so, "called LAMP".
    void take_designator() {
        for (std::size_t k = 0; k < raw_.size(); ++k) {
            const bool named = is_among(lower_case(raw_[k]), {"called", "named"}) && k + 1 < raw_.size();
            const bool letters =
                k == 0 && looks_like_designator(raw_[k]) && kind_of_letters(letters_of(raw_[k]));
            if (!named && !letters) continue;
            part_.designator = named ? raw_[k + 1] : upper_case(raw_[k]);
            raw_.erase(raw_.begin() + static_cast<std::ptrdiff_t>(k),
                       raw_.begin() + static_cast<std::ptrdiff_t>(k + (named ? 2 : 1)));
            return;
        }
    }

    /// Each word that is left is a designator, a word of a type, a number of pieces or a value; or it is
    /// told.
    Result<void> take_words() {
        for (const std::string& word : naming_)  // "zener" names a kind and narrows it
            for (const ParamInfo* info : worded_params(*kind_))
                if (word != lower_case(kind_->name) && narrows(*kind_, *info, word))
                    chosen_[info->key].push_back(word);
        for (const std::string& word : words_) {
            const auto namings_of_it = namings(*kind_);
            const bool names_it =
                std::any_of(namings_of_it.begin(), namings_of_it.end(), [&](const Words& naming) {
                    return std::find(naming.begin(), naming.end(), word) != naming.end();
                });
            if (auto pieces = pieces_of(word, *kind_)) {
                part_.params["count"] = *pieces;
                continue;
            }
            if (take_choice(word) || names_it ||
                is_among(word, {"x", "×", "with", "of", "the", "and", "piece", "pieces"}))
                continue;
            if (std::find(kind_->adjectives.begin(), kind_->adjectives.end(), word) !=
                kind_->adjectives.end()) {
                told_apart_ = true;
                continue;
            }
            if (part_.designator.empty() && looks_like_designator(word) &&
                letters_of(word) == kind_->prefix) {
                part_.designator = upper_case(word);
                continue;
            }
            if (auto done = take_value(word, raw_, *kind_, part_); !done) return done;
        }
        if (circuit_.find(part_.designator))
            return usage(part_.designator, "there is one already", "another name, or none");
        return success();
    }

    bool take_choice(const std::string& word) {
        for (const ParamInfo* info : worded_params(*kind_))
            if (narrows(*kind_, *info, word)) {
                chosen_[info->key].push_back(word);
                return true;
            }
        return false;
    }

    /// Types by the words; one whose own value is what was given takes that value's place.
    Result<void> choose() {
        for (const auto& [key, words] : chosen_) {
            const ParamInfo& info = *kind_->param(key);
            const auto choices = text_choices(kind_->id, key);
            std::vector<std::string> fitting;
            for (const std::string& choice : choices)
                if (const auto& own = words_of_choice(*kind_, info, choice); std::all_of(
                        words.begin(), words.end(), [&](const std::string& w) { return own.contains(w); }))
                    fitting.push_back(choice);
            if (const auto vz = part_.params.find("vz"); vz != part_.params.end() && !fitting.empty()) {
                const double volts = std::get<double>(vz->second);
                const auto apart = [&](const std::string& choice) {
                    return std::abs(known_catalogue().type_value(kind_->id, choice, "vz") - volts);
                };
                const auto nearest = std::min_element(fitting.begin(), fitting.end(),
                                                      [&](const std::string& one, const std::string& other) {
                                                          return apart(one) < apart(other);
                                                      });
                part_.params[key] = *nearest;
                if (apart(*nearest) < 1e-9) part_.params.erase("vz");
                continue;
            }
            auto choice = choice_from_words(*kind_, info, words);
            if (!choice) return choice.error();
            part_.params[key] = choice.value();
        }
        return success();
    }

    /// A capacitor of some microfarads of which nothing else is said comes with a plus side.
    void prefer_polar() {
        constexpr double sold_plain = 2e-6;  // F, the largest
        if (!kind_->is(Role::capacitor) || kind_->is(Role::polar) || told_apart_ ||
            part_.number("value") <= sold_plain)
            return;
        for (const PartKind& polar : part_kinds()) {
            if (!polar.is(Role::capacitor) || !polar.is(Role::polar)) continue;
            kind_ = &polar, part_.kind = polar.id;
            if (circuit_.source() && part_.pins[0].net == circuit_.negative_rail())
                std::swap(part_.pins[0].net, part_.pins[1].net);
            for (std::size_t k = 0; k < part_.pins.size(); ++k) part_.pins[k].name = polar.pins[k];
            return;
        }
    }

    const Circuit& circuit_;
    Words raw_;     ///< the line as it was typed, without what has been understood
    Words words_;   ///< what is left of it in plain terms
    Words naming_;  ///< the words that name the kind
    const PartKind* kind_ = nullptr;
    bool told_apart_ = false;              ///< an adjective of the kind was said: "ceramic"
    bool between_nets_ = false;            ///< the line says from where to where
    std::map<std::string, Words> chosen_;  ///< words by text parameter
    Part part_;
};

}  // namespace

Result<std::optional<Part>> described_part(const std::string& line, const Circuit& circuit) {
    return Reader(line, circuit).read();
}

Result<std::optional<Part>> described_kind(const std::string& words) {
    static const Circuit none;
    return Reader(words, none).read_without_place();
}

Result<std::string> choice_from_text(const PartKind& kind, const ParamInfo& info, const std::string& typed) {
    for (const std::string& choice : text_choices(kind.id, info.key))
        if (lower_case(choice) == lower_case(typed)) return choice;
    Words words = in_plain_terms(plain_words(typed));
    std::erase_if(words, [&](const std::string& word) {  // "AAA battery"
        const auto all = namings(kind);
        return !narrows(kind, info, word) && std::any_of(all.begin(), all.end(), [&](const Words& naming) {
            return naming == Words{word};
        });
    });
    return choice_from_words(kind, info, words);
}

std::string describe(const Part& part) {
    const PartKind* kind = part_kind(part.kind);
    if (!kind) return part.kind;
    const std::string name = shop_name(part);
    std::string text = part.designator + ": ";
    if (kind->is(Role::cells)) text += value_text(part) + ", ";
    text += name;
    if (lower_case(name).find(lower_case(kind->name)) == std::string::npos && !kind->is(Role::cells))
        text += ", " + kind->name;
    for (const ParamInfo& info : kind->params) {
        if (!part.params.contains(info.key) || !std::holds_alternative<double>(info.standard)) continue;
        const std::string value = param_text(part, info);
        if (info.key != "count" && name.find(value) == std::string::npos)
            text += ", " + info.label + " " + value;
    }
    for (const Pin& p : part.pins) text += ", " + p.name + " on " + p.net;
    return text;
}

}  // namespace elkit
