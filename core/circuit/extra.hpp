#pragma once
#include <memory>
#include <nlohmann/json_fwd.hpp>

namespace elkit {

/// Keys of a newer version of the file format, kept untouched until the file is saved. Empty most of the
/// time.
class Extra {
  public:
    using Json = nlohmann::ordered_json;
    Extra();
    Extra(Json json);
    Extra(const Extra& other);
    Extra(Extra&& other) noexcept;
    Extra& operator=(const Extra& other);
    Extra& operator=(Extra&& other) noexcept;
    ~Extra();

    const Json& json() const;  ///< null or an object
    bool operator==(const Extra& other) const;

  private:
    std::unique_ptr<Json> json_;  ///< null when there is nothing to keep
};

}  // namespace elkit
