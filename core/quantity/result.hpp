#pragma once
#include <boost/outcome.hpp>
#include <exception>
#include <string>

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

template <class T>
using Result = BOOST_OUTCOME_V2_NAMESPACE::checked<T, Error>;

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
