#pragma once
#include <functional>
#include <nlohmann/json.hpp>
#include <string>
#include <string_view>
#include <unordered_map>
#include <unordered_set>
#include <vector>

#include "circuit/names.hpp"
#include "quantity/result.hpp"

namespace elkit {

/// Reads one JSON object field by field, notes errors with their JSON pointer, and keeps what it was not
/// asked for.
class JsonReader {
  public:
    using Json = nlohmann::ordered_json;
    JsonReader(const Json& json, std::string pointer, std::vector<Error>& errors);

    /// A number within the range; `standard` if it is missing, another type or out of range.
    double number(const std::string& key, double standard, double low, double high);
    /// A text on one line, of plain characters (quantity/plain_text.hpp).
    std::string text(const std::string& key, const std::string& standard, std::size_t most = longest_word);
    /// The same of several lines, as long as `longest_prose`.
    std::string prose(const std::string& key, const std::string& standard);
    /// The name of a part or net (circuit/names.hpp).
    std::string name(const std::string& key);
    bool boolean(const std::string& key, bool standard);
    /// The text under `key`, which must be one of `allowed`.
    std::string choice(const std::string& key, const std::string& standard,
                       const std::vector<std::string>& allowed);
    /// Calls `read` with a reader for the object under `key`, if there is one.
    void object(const std::string& key, const std::function<void(JsonReader&)>& read);
    /// Calls `read` for each object in the list under `key`.
    void list(const std::string& key, const std::function<void(JsonReader&)>& read);
    /// Calls `read` for each key, which must be plain text, and its value.
    void each(const std::function<void(const std::string& key, const Json& value)>& read);
    bool has(const std::string& key) const;
    const Json* take(const std::string& key);  ///< marks it read; nullptr if missing
    void require(const std::string& key, const std::string& expected);
    void error(const std::string& key, std::string found, std::string expected);
    Json rest() const;  ///< the keys nobody read; null if none
    const Json& json() const { return json_; }

  private:
    std::string checked(const std::string& key, const std::string& standard, std::size_t most, bool lines);
    const Json& json_;
    std::string pointer_;
    std::vector<Error>& errors_;
    std::unordered_map<std::string_view, const Json*> values_;  ///< by key
    std::unordered_set<std::string> seen_;
};

/// "a string \"abc\"", "the number 5", "a list", … for messages.
std::string describe(const nlohmann::ordered_json& json);

}  // namespace elkit
