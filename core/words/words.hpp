#pragma once
#include <algorithm>
#include <initializer_list>
#include <string>
#include <utility>
#include <vector>

#include "quantity/result.hpp"

/// What those who read lines of words share.
namespace elkit {

using Words = std::vector<std::string>;

inline bool is_among(const std::string& word, std::initializer_list<const char*> list) {
    return std::any_of(list.begin(), list.end(), [&](const char* w) { return word == w; });
}

/// What a person typed and cannot be taken.
inline Error usage(std::string place, std::string found, std::string expected) {
    return {Fault::usage, std::move(place), std::move(found), std::move(expected)};
}

}  // namespace elkit
