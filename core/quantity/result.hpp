#pragma once
#include <boost/outcome.hpp>
#include <exception>
#include <string>
#include <utility>

#include "quantity/plain_text.hpp"

namespace elkit {

/// Whose fault an error is; the command line turns it into its exit code.
enum class Fault { design, usage, file, program };

/// An error for people: where it is, what stood there, what was expected.
struct Error {
    Fault fault = Fault::design;
    std::string place;     ///< file, line, JSON pointer, part, net or field
    std::string found;     ///< what is wrong there
    std::string expected;  ///< what would be right; may be empty

    /// "place: found; expected …", on one line whatever a stranger's file put into it.
    std::string text() const {
        return one_line((place.empty() ? "" : place + ": ") + found, 600) +
               (expected.empty() ? "" : "; expected " + one_line(expected, 2000));
    }
    bool operator==(const Error&) const = default;
};

/// An exception that nobody expected, as an error: what was being done, and what went wrong.
inline Error program_error(std::string doing, const std::exception& e) {
    return {Fault::program, std::move(doing), std::string("failed inside Elkit (") + e.what() + ")", ""};
}

/// A T, or the error instead.
template <class T>
class [[nodiscard]] Result : public BOOST_OUTCOME_V2_NAMESPACE::checked<T, Error> {
    using Base = BOOST_OUTCOME_V2_NAMESPACE::checked<T, Error>;

  public:
    using Base::Base;
    T& value() & { return Base::value(); }
    const T& value() const& { return Base::value(); }
    /// By value, so that `for (x : f().value().list)` holds on to the list, as a reference into the temporary
    /// would not.
    T value() && { return std::move(*this).Base::value(); }
};

/// Nothing, or the error instead.
template <>
class [[nodiscard]] Result<void> : public BOOST_OUTCOME_V2_NAMESPACE::checked<void, Error> {
  public:
    using BOOST_OUTCOME_V2_NAMESPACE::checked<void, Error>::checked;
};

/// What `work()` gives, a Result; an exception on the way as its error. Stopped passes.
template <class Work>
auto guarded(std::string doing, const Work& work) -> decltype(work()) {
    try {
        return work();
    } catch (const std::exception& e) {  // such as no memory left
        return program_error(std::move(doing), e);
    }
}

inline auto success() { return BOOST_OUTCOME_V2_NAMESPACE::success(); }

}  // namespace elkit
