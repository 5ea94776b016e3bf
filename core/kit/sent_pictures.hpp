#pragma once
#include <string>
#include <utility>
#include <vector>

#include "circuit/part.hpp"
#include "matrix/frames.hpp"

namespace elkit {

/// A chain of matrices of lights that a controller sends pictures to.
struct SentPictures {
    struct Matrix {
        std::string designator;
        int percent = 100;                ///< of its full current
        std::vector<MatrixFrame> frames;  ///< as many as the first one's, and in its times
    };
    std::vector<Matrix> matrices;                            ///< in the order of the data
    std::vector<std::pair<std::string, std::string>> wires;  ///< controller's pin, pin of the first matrix
};

/// The chains whose first matrix gets its data from this controller; a chain with anything but matrices in it
/// is left out.
std::vector<SentPictures> pictures_sent_by(const Circuit& circuit, const Part& controller);

/// What sends them as portable C99, by file name: pictures.c with the data and their times, pictures.h.
/// `title` goes into their first lines. Nothing without a chain.
std::vector<std::pair<std::string, std::string>> pictures_c99(const std::vector<SentPictures>& chains,
                                                              const std::string& title);

}  // namespace elkit
