// pictures: what matrices of lights show, and what each picture takes
#include <fmt/format.h>
#include <fmt/ranges.h>

#include "catalogue/catalogue.hpp"
#include "circuit/chain.hpp"
#include "cli/command.hpp"
#include "cli/with_design.hpp"
#include "power/picture_current.hpp"
#include "quantity/format.hpp"

namespace elkit::cli {
namespace {

/// One line of a picture over all matrices: # for a light that is on.
std::string line_of(const std::vector<std::vector<MatrixFrame>>& matrices, std::size_t picture, int row) {
    std::string line;
    for (const auto& matrix : matrices) {
        line += line.empty() ? "" : " ";
        for (int column = 0; column < matrix_side; ++column)
            line += matrix[picture].on(row, column) ? '#' : '.';
    }
    return line;
}

Json chain_json(const std::vector<std::string>& chain, const std::vector<std::vector<MatrixFrame>>& matrices,
                const PictureCurrents& amps) {
    Json pictures = Json::array();
    for (std::size_t k = 0; k < amps.each.size(); ++k) {
        Json rows = Json::array();
        for (int row = 0; row < matrix_side; ++row) rows.push_back(line_of(matrices, k, row));
        pictures.push_back(
            {{"seconds", matrices.front()[k].seconds}, {"rows", rows}, {"current", amps.each[k]}});
    }
    return {{"data", chain}, {"pictures", pictures}, {"mean", amps.mean}, {"brightest", amps.brightest + 1}};
}

void print_chain(const std::vector<std::string>& chain, const std::vector<std::vector<MatrixFrame>>& matrices,
                 const PictureCurrents& amps) {
    const auto text = [](double a) { return format_quantity(a, Unit::ampere); };
    fmt::print("data: {}\n", fmt::join(chain, " → "));
    for (std::size_t k = 0; k < amps.each.size(); ++k) {
        fmt::print("\npicture {}, for {}: {}\n", k + 1,
                   format_quantity(matrices.front()[k].seconds, Unit::second), text(amps.each[k]));
        for (int row = 0; row < matrix_side; ++row) fmt::print("  {}\n", line_of(matrices, k, row));
    }
    fmt::print("\non average {}, most {} in picture {}\n", text(amps.mean), text(amps.each[amps.brightest]),
               amps.brightest + 1);
}

int pictures(const Options& o) {
    return with_design(o, [&](const Design& design, const Conditions& now) {
        Json all = Json::array();
        bool any = false;
        for (const auto& chain : chains_of(design.circuit)) {
            const auto matrices = chain_pictures(design.circuit, chain);
            if (matrices.empty()) continue;
            any = true;
            const auto amps = picture_currents(design.circuit, known_catalogue(), now, chain);
            if (!amps) return fail(amps.error());
            if (o.json)
                all.push_back(chain_json(chain, matrices, amps.value()));
            else
                print_chain(chain, matrices, amps.value());
        }
        if (!any)
            return fail({Fault::design, "circuit", "there is no matrix of lights in it",
                         "a part such as light_matrix"});
        if (o.json) print_json(all);
        return 0;
    });
}

}  // namespace

std::vector<Command> picture_commands() {
    return {plain("pictures", "what matrices of lights show, and what each picture takes", {add_conditions},
                  pictures)};
}

}  // namespace elkit::cli
