#pragma once
#include <string>
#include <vector>

#include "catalogue/catalogue.hpp"
#include "engine/conditions.hpp"
#include "quantity/progress.hpp"
#include "quantity/result.hpp"

namespace elkit {

/// What matrices of lights take together [A], as the engine has it.
struct PictureCurrents {
    std::vector<double> each;   ///< while each picture is shown
    double mean = 0;            ///< over all of them
    std::size_t brightest = 0;  ///< the picture that takes most
};
/// Of the matrices of a chain, when their pictures come round for the second time. Errors as simulate();
/// nothing of a chain without matrices.
Result<PictureCurrents> picture_currents(const Circuit& circuit, const Catalogue& catalogue,
                                         const Conditions& conditions, const std::vector<std::string>& chain,
                                         const Progress& progress = {});

}  // namespace elkit
