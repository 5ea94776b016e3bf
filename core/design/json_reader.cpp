#include "design/json_reader.hpp"

#include <fmt/format.h>

#include <algorithm>

#include "design/json_text.hpp"
#include "quantity/plain_text.hpp"

namespace elkit {

std::string describe(const nlohmann::ordered_json& j) {
    if (j.is_string()) return "found the text \"" + one_line(j.get_ref<const std::string&>(), 40) + "\"";
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
    else
        for (const auto& [key, value] : json_.get_ref<const Json::object_t&>()) values_.emplace(key, &value);
}

bool JsonReader::has(const std::string& key) const { return values_.contains(key); }

const JsonReader::Json* JsonReader::take(const std::string& key) {
    seen_.insert(key);
    const auto found = values_.find(key);
    return found == values_.end() ? nullptr : found->second;
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
    if (!(value >= low && value <= high)) return error(key, describe(*j), expected), standard;
    return value;
}

std::string JsonReader::checked(const std::string& key, const std::string& standard, std::size_t most,
                                bool lines) {
    const Json* j = take(key);
    if (!j) return standard;
    if (!j->is_string()) return error(key, describe(*j), "a text"), standard;
    const auto& text = j->get_ref<const std::string&>();
    if (std::string trouble = trouble_of_text(text, most, lines); !trouble.empty()) {
        error(key, "the text \"" + one_line(text, 40) + "\" " + trouble,
              fmt::format("at most {} visible characters", most));
        return standard;
    }
    return text;
}

std::string JsonReader::text(const std::string& key, const std::string& standard, std::size_t most) {
    return checked(key, standard, most, false);
}

std::string JsonReader::prose(const std::string& key, const std::string& standard) {
    return checked(key, standard, longest_prose, true);
}

std::string JsonReader::name(const std::string& key) {
    const Json* j = take(key);
    if (!j) return {};
    if (!j->is_string()) return error(key, describe(*j), "a name"), std::string();
    const auto& text = j->get_ref<const std::string&>();
    const std::string trouble = trouble_of_name(text);
    if (trouble.empty()) return text;
    error(key, text.empty() ? trouble : "the name \"" + one_line(text, 40) + "\" " + trouble,
          expected_name());
    return {};
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
        error(key, "found the text \"" + one_line(value, 40) + "\"",
              fmt::format("one of {}", fmt::join(allowed, ", ")));
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

void JsonReader::each(const std::function<void(const std::string&, const Json&)>& read) {
    if (!json_.is_object()) return;
    for (const auto& [key, value] : json_.get_ref<const Json::object_t&>())
        if (std::string trouble = trouble_of_text(key, longest_word); trouble.empty())
            read(key, value);
        else
            error(one_line(key, 40), "the key " + trouble,
                  fmt::format("at most {} visible characters", longest_word));
}

JsonReader::Json JsonReader::rest() const {
    Json left;
    if (json_.is_object())
        for (const auto& [key, value] : json_.get_ref<const Json::object_t&>())
            if (!seen_.contains(key)) append_key(left, key, value);
    return left;
}

}  // namespace elkit
