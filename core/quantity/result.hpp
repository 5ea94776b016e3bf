#pragma once
#include <boost/outcome.hpp>
#include <string>

namespace elkit {

/// Whose fault an error is; the command line turns it into its exit code.
enum class Fault { design, usage, file };

/// An error for people: where it is, what stood there, what was expected.
struct Error {
    Fault fault = Fault::design;
    std::string place;     ///< file, line, JSON pointer, part, net or field
    std::string found;     ///< what is wrong there
    std::string expected;  ///< what would be right; may be empty

    /// One line: "place: found; expected …".
    std::string text() const {
        return (place.empty() ? "" : place + ": ") + found +
               (expected.empty() ? "" : "; expected " + expected);
    }
    bool operator==(const Error&) const = default;
};

template <class T>
using Result = BOOST_OUTCOME_V2_NAMESPACE::checked<T, Error>;

inline auto success() { return BOOST_OUTCOME_V2_NAMESPACE::success(); }

}  // namespace elkit
