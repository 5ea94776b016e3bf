#pragma once
#include <set>
#include <string>
#include <string_view>
#include <vector>

#include "circuit/part_kind.hpp"
#include "quantity/result.hpp"

namespace elkit {

/// A line in lower case, cut at spaces and commas, with a number and the unit behind it in one word: "3 mm
/// White" → {"3mm", "white"}.
std::vector<std::string> plain_words(std::string_view line);

/// The words in which a kind may be named: its id, its name and what else it is called.
const std::vector<std::vector<std::string>>& namings(const PartKind& kind);

/// The text parameters that words of a kind narrow: its type, what is printed on it, and those with fixed
/// choices.
std::vector<const ParamInfo*> worded_params(const PartKind& kind);

/// Every word by which a choice of a text parameter may be meant: the pieces of its id and of its name in the
/// catalogue; "red-3mm" → red, 3mm, led.
const std::set<std::string>& words_of_choice(const PartKind& kind, const ParamInfo& info,
                                             const std::string& choice);

/// True if the word belongs to any choice of the parameter.
bool narrows(const PartKind& kind, const ParamInfo& info, const std::string& word);

/// The one choice that all of the words fit. Of several the kind's usual one, else the one that has most in
/// common with it, else the first of `info.usual`. Usage error that lists what there is, where none fits or
/// several do.
Result<std::string> choice_from_words(const PartKind& kind, const ParamInfo& info,
                                      const std::vector<std::string>& words);

}  // namespace elkit
