#include "design/json_reader.hpp"

#include <fmt/format.h>

#include <algorithm>

namespace elkit {

std::string describe(const nlohmann::ordered_json& j) {
    if (j.is_string()) return "found the text \"" + j.get<std::string>().substr(0, 40) + "\"";
    if (j.is_number()) return "found the number " + j.dump();
    if (j.is_boolean()) return "found " + j.dump();
    if (j.is_array()) return "found a list";
    if (j.is_object()) return "found an object";
    return "found nothing";
}

JsonReader::JsonReader(const Json& json, std::string pointer, std::vector<Error>& errors)
    : json_(json), pointer_(std::move(pointer)), errors_(errors) {
    if (!json_.is_object())
        errors_.push_back(
            {Fault::design, pointer_.empty() ? "/" : pointer_, describe(json_), "an object { … }"});
}

bool JsonReader::has(const std::string& key) const { return json_.is_object() && json_.contains(key); }

const JsonReader::Json* JsonReader::take(const std::string& key) {
    seen_.insert(key);
    return has(key) ? &json_.at(key) : nullptr;
}

void JsonReader::error(const std::string& key, std::string found, std::string expected) {
    errors_.push_back({Fault::design, pointer_ + "/" + key, std::move(found), std::move(expected)});
}

void JsonReader::require(const std::string& key, const std::string& expected) {
    if (json_.is_object() && !has(key)) error(key, "is missing", expected);
}

double JsonReader::number(const std::string& key, double standard, double low, double high) {
    const Json* j = take(key);
    if (!j) return standard;
    const std::string expected = fmt::format("a number from {} to {}", low, high);
    if (!j->is_number()) return error(key, describe(*j), expected), standard;
    const double value = j->get<double>();
    if (!(value >= low && value <= high)) error(key, describe(*j), expected);
    return value;
}

std::string JsonReader::text(const std::string& key, const std::string& standard) {
    const Json* j = take(key);
    if (!j) return standard;
    if (!j->is_string()) return error(key, describe(*j), "a text"), standard;
    return j->get<std::string>();
}

bool JsonReader::boolean(const std::string& key, bool standard) {
    const Json* j = take(key);
    if (!j) return standard;
    if (!j->is_boolean()) return error(key, describe(*j), "true or false"), standard;
    return j->get<bool>();
}

std::string JsonReader::choice(const std::string& key, const std::string& standard,
                               const std::vector<std::string>& allowed) {
    std::string value = text(key, standard);
    if (std::find(allowed.begin(), allowed.end(), value) == allowed.end())
        error(key, "found the text \"" + value + "\"", fmt::format("one of {}", fmt::join(allowed, ", ")));
    return value;
}

void JsonReader::object(const std::string& key, const std::function<void(JsonReader&)>& read) {
    const Json* j = take(key);
    if (!j) return;
    JsonReader inner(*j, pointer_ + "/" + key, errors_);
    if (j->is_object()) read(inner);
}

void JsonReader::list(const std::string& key, const std::function<void(JsonReader&)>& read) {
    const Json* j = take(key);
    if (!j) return;
    if (!j->is_array()) return error(key, describe(*j), "a list [ … ]");
    for (std::size_t i = 0; i < j->size(); ++i) {
        JsonReader inner((*j)[i], fmt::format("{}/{}/{}", pointer_, key, i), errors_);
        if ((*j)[i].is_object()) read(inner);
    }
}

JsonReader::Json JsonReader::rest() const {
    Json left;
    if (json_.is_object())
        for (const auto& [key, value] : json_.items())
            if (!seen_.contains(key)) left[key] = value;
    return left;
}

}  // namespace elkit
