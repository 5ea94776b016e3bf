#pragma once
#include <array>
#include <bit>
#include <compare>
#include <concepts>
#include <cstdint>
#include <map>
#include <memory>
#include <optional>
#include <string>
#include <string_view>
#include <utility>
#include <variant>
#include <vector>

namespace elkit {

/// 128 bits that stand for a content: equal contents have equal digests, different ones differ but for one
/// chance in 2^64 among 2^32 of them.
struct Digest {
    std::uint64_t a = 0, b = 0;
    auto operator<=>(const Digest&) const = default;
};

/// Takes in a content piece by piece; the order counts. Mixing as in SplitMix64 (Steele, Lea & Flood 2014),
/// in two lanes with different constants.
class Digester {
  public:
    template <class T>
    Digester& operator<<(const T& value) {
        add(value);
        return *this;
    }
    Digest digest() const { return {mix(a_ ^ count_), mix(b_ + count_)}; }

  private:
    static std::uint64_t mix(std::uint64_t z) {
        z = (z ^ (z >> 30)) * 0xBF58476D1CE4E5B9U;
        z = (z ^ (z >> 27)) * 0x94D049BB133111EBU;
        return z ^ (z >> 31);
    }
    void word(std::uint64_t w) {
        ++count_;
        a_ = mix(a_ + w + 0x9E3779B97F4A7C15U);
        b_ = mix((b_ ^ w) * 0xD6E8FEB86659FD93U + 0xA0761D6478BD642FU);
    }
    void add(std::string_view text) {
        word(text.size());
        std::uint64_t w = 0;
        std::size_t in = 0;
        for (const char c : text) {
            w |= std::uint64_t{static_cast<unsigned char>(c)} << (8 * in);
            if (++in == 8) word(std::exchange(w, 0)), in = 0;
        }
        if (in) word(w);
    }
    void add(const std::string& text) { add(std::string_view(text)); }
    void add(const char* text) { add(std::string_view(text)); }
    void add(double value) { word(std::bit_cast<std::uint64_t>(value == 0 ? 0.0 : value)); }
    template <std::integral T>
    void add(T value) {
        word(static_cast<std::uint64_t>(value));
    }
    void add(const Digest& d) { word(d.a), word(d.b); }
    template <class A, class B>
    void add(const std::pair<A, B>& p) {
        add(p.first), add(p.second);
    }
    template <class T, std::size_t n>
    void add(const std::array<T, n>& list) {
        for (const auto& x : list) add(x);
    }
    template <class T>
    void add(const std::vector<T>& list) {
        word(list.size());
        for (const auto& x : list) add(x);
    }
    template <class K, class V>
    void add(const std::map<K, V>& map) {
        word(map.size());
        for (const auto& entry : map) add(entry);
    }
    template <class T>
    void add(const std::optional<T>& value) {
        word(value.has_value());
        if (value) add(*value);
    }
    template <class... T>
    void add(const std::variant<T...>& value) {
        word(value.index());
        std::visit([this](const auto& x) { this->add(x); }, value);
    }

    std::uint64_t a_ = 0x243F6A8885A308D3U, b_ = 0x13198A2E03707344U, count_ = 0;
};

/// A shared value with its digest, worked out once. Two are equal if their contents are.
template <class T>
class Keyed {
  public:
    Keyed() : Keyed(T{}) {}
    Keyed(T value) : value_(std::make_shared<const T>(std::move(value))), digest_(content_digest(*value_)) {}
    const T& operator*() const { return *value_; }
    const T* operator->() const { return value_.get(); }
    const Digest& digest() const { return digest_; }
    bool operator==(const Keyed& other) const { return digest_ == other.digest_; }

  private:
    std::shared_ptr<const T> value_;
    Digest digest_;
};

}  // namespace elkit
