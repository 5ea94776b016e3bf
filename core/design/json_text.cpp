#include "design/json_text.hpp"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>
#include <nlohmann/json.hpp>
#include <unordered_set>
#include <vector>

namespace elkit {
namespace {
using Json = nlohmann::ordered_json;

/// Builds the document from the parser's events.
class Builder {
  public:
    explicit Builder(std::string_view text, std::string_view what) : text_(text), what_(what) {}
    Json document;
    Error error;

    // the library's names
    bool null() { return put(nullptr); }
    bool boolean(bool value) { return put(value); }
    bool number_integer(std::int64_t value) { return put(value); }
    bool number_unsigned(std::uint64_t value) { return put(value); }
    bool number_float(double value, const std::string&) { return put(value); }
    bool string(std::string& value) { return put(std::move(value)); }
    bool binary(std::vector<std::uint8_t>&) { return false; }
    bool start_object(std::size_t) { return open(Json::object()); }
    bool start_array(std::size_t) { return open(Json::array()); }
    bool end_object() { return close(); }
    bool end_array() { return close(); }
    bool key(std::string& name) {
        if (open_.back().keys.insert(name).second) {
            open_.back().key = std::move(name);
            return true;
        }
        error = {Fault::design, pointer() + "/" + name, "the key stands here twice", "each key once"};
        return false;
    }
    bool parse_error(std::size_t byte, const std::string&, const nlohmann::detail::exception& e) {
        const bool range = e.id == 406;  // the library's number for a number out of range
        if (range)
            fault(byte, "no computer number is that large", "numbers below 1.8e308");
        else
            fault(byte, byte >= text_.size() ? "the file ends too early" : "this is not JSON", what_);
        return false;
    }

    /// Notes an error at this byte, counted from 1.
    void fault(std::size_t byte, std::string found, std::string_view expected) {
        const auto before = text_.substr(0, std::min(text_.size(), byte > 0 ? byte - 1 : 0));
        const auto line = 1 + std::count(before.begin(), before.end(), '\n');
        const auto start = before.rfind('\n');
        const std::size_t column =
            start == std::string_view::npos ? before.size() + 1 : before.size() - start;
        error = {Fault::design, fmt::format("line {}, column {}", line, column), std::move(found),
                 std::string(expected)};
    }

  private:
    struct Level {
        Json* value;
        std::string key;
        std::unordered_set<std::string> keys;
    };

    Json* place(Json value) {
        if (open_.empty()) {
            document = std::move(value);
            return &document;
        }
        Level& level = open_.back();
        if (level.value->is_object()) {
            append_key(*level.value, level.key, std::move(value));
            return &level.value->get_ref<Json::object_t&>().back().second;
        }
        level.value->push_back(std::move(value));
        return &level.value->back();
    }
    bool put(Json value) { return place(std::move(value)), true; }
    bool open(Json value) {
        if (open_.size() >= deepest_json) {
            error = {Fault::design, pointer(), fmt::format("nested deeper than {} levels", deepest_json),
                     std::string(what_)};
            return false;
        }
        open_.push_back({place(std::move(value)), {}, {}});
        return true;
    }
    bool close() { return open_.pop_back(), true; }

    std::string pointer() const {
        std::string p;
        for (const Level& level : open_) {
            const bool inside = &level != &open_.back();  // what is being read stands in it already
            if (level.value->is_array())
                p += "/" + std::to_string(level.value->size() - (inside ? 1 : 0));
            else if (inside)
                p += "/" + level.key;
        }
        return p;
    }
    std::string_view text_, what_;
    std::vector<Level> open_;
};

}  // namespace

Result<Json> parse_json(std::string_view text, std::string_view what) {
    Builder builder(text, what);
    if (const auto zero = text.find('\0'); zero != std::string_view::npos) {  // the library stops there
        builder.fault(zero + 1, "a zero byte stands here", what);
        return builder.error;
    }
    if (Json::sax_parse(text, &builder)) return std::move(builder.document);
    return builder.error;
}

void append_key(Json& object, std::string_view key, Json value) {
    if (!object.is_object()) object = Json::object();
    auto& keys = object.get_ref<Json::object_t&>();
    static_cast<Json::object_t::Container&>(keys).emplace_back(std::string(key), std::move(value));
}

void append_extra(nlohmann::ordered_json& object, const Extra& extra) {
    if (!extra.json().is_object()) return;
    for (const auto& [key, value] : extra.json().get_ref<const nlohmann::ordered_json::object_t&>())
        append_key(object, key, value);
}

nlohmann::ordered_json json_number(double value) {
    if (value == std::floor(value) && std::abs(value) < 1e15) return static_cast<std::int64_t>(value);
    return value;
}

}  // namespace elkit
