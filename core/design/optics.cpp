#include "design/optics.hpp"

#include <fmt/format.h>

#include "circuit/names.hpp"
#include "quantity/format.hpp"
#include "quantity/parse.hpp"
#include "quantity/plain_text.hpp"

namespace elkit {
namespace {

/// "0.55", or "66/120" of which the first was read with it; 0 if it is neither.
double factor_of(std::string_view text) {
    const auto slash = text.find('/');
    const auto number = [](std::string_view digits) {
        const auto value = parse_quantity(digits, Unit::none);
        return value ? value.value() : 0;
    };
    if (slash == std::string_view::npos) return number(text);
    const double without = number(text.substr(slash + 1));
    return without > 0 ? number(text.substr(0, slash)) / without : 0;
}

}  // namespace

Result<std::vector<Optic>> parse_optics(std::string_view text) {
    std::vector<Optic> all;
    while (!text.empty()) {
        const auto end = text.find(';');
        const std::string one = cleaned_text(text.substr(0, end), longest_word + 30);
        text = end == std::string_view::npos ? std::string_view() : text.substr(end + 1);
        if (one.empty()) continue;
        const auto space = one.find_last_of(' ');
        Optic optic;
        if (space != std::string::npos)
            optic.name = cleaned_text(one.substr(0, space), longest_word),
            optic.factor = factor_of(std::string_view(one).substr(space + 1));
        if (optic.name.empty() || !(optic.factor >= least_optic && optic.factor <= most_optic))
            return Error{Fault::usage, "diffuser, lens", "found \"" + one + "\"",
                         "a name and its factor, such as paper 0.55, or readings with and without: paper "
                         "66/120"};
        all.push_back(std::move(optic));
    }
    return all;
}

std::string optics_text(const std::vector<Optic>& optics) {
    std::string text;
    for (const Optic& optic : optics)
        text += fmt::format("{}{} {:.3g}", text.empty() ? "" : "; ", optic.name, optic.factor);
    return text;
}

double optics_factor(const std::vector<Optic>& optics) {
    double factor = 1;
    for (const Optic& optic : optics) factor *= optic.factor;
    return factor;
}

}  // namespace elkit
