#pragma once
#include <functional>
#include <string>
#include <string_view>

#include "circuit/part.hpp"

namespace elkit {

/// Fills a pattern such as "{value} resistor {rating}": each {word} by `more(word)` where that gives
/// something, else by the part's parameter of that name in words; of a type, by its name in the catalogue. A
/// word that nothing knows stays as it is.
std::string fill_words(std::string_view pattern, const Part& part,
                       const std::function<std::string(const std::string&)>& more = {});

/// The key under which the drawer holds this part: "resistor/75", "led/amber-5mm", "capacitor/1e-07".
std::string drawer_key(const Part& part);
/// As a shop would call it: "75 Ω resistor 1/4 W".
std::string shop_name(const Part& part);
/// How it is told apart at the bench: colour bands, a stripe, a code; empty if there is nothing to see.
std::string marking_of(const Part& part);

}  // namespace elkit
