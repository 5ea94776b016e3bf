#include "circuit/extra.hpp"

#include <nlohmann/json.hpp>

namespace elkit {

// All members live here, so that a design can be copied anywhere without compiling a JSON library there.
Extra::Extra() = default;
Extra::Extra(Json json) : json_(json.empty() ? nullptr : std::make_unique<Json>(std::move(json))) {}
Extra::Extra(const Extra& other) : json_(other.json_ ? std::make_unique<Json>(*other.json_) : nullptr) {}
Extra::Extra(Extra&& other) noexcept = default;
Extra& Extra::operator=(const Extra& other) {
    if (this != &other) json_ = other.json_ ? std::make_unique<Json>(*other.json_) : nullptr;
    return *this;
}
Extra& Extra::operator=(Extra&& other) noexcept = default;
Extra::~Extra() = default;

const Extra::Json& Extra::json() const {
    static const Json nothing;
    return json_ ? *json_ : nothing;
}

bool Extra::operator==(const Extra& other) const { return json() == other.json(); }

}  // namespace elkit
