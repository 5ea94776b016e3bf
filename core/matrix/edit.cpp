#include "matrix/edit.hpp"

namespace elkit {

std::vector<MatrixFrame> slid(const std::vector<MatrixFrame>& picture, int columns) {
    const int width = matrix_side * static_cast<int>(picture.size());
    std::vector<MatrixFrame> next = picture;
    for (int row = 0; row < matrix_side; ++row)
        for (int column = 0; column < width; ++column) {
            const int from = ((column - columns) % width + width) % width;
            next[static_cast<std::size_t>(column / matrix_side)].set(
                row, column % matrix_side,
                picture[static_cast<std::size_t>(from / matrix_side)].on(row, from % matrix_side));
        }
    return next;
}

std::vector<MatrixFrame> inverted(std::vector<MatrixFrame> picture) {
    for (MatrixFrame& frame : picture)
        for (std::uint8_t& row : frame.rows) row = static_cast<std::uint8_t>(~row);
    return picture;
}

int lit_in(const std::vector<MatrixFrame>& picture) {
    int lit = 0;
    for (const MatrixFrame& frame : picture) lit += frame.lit();
    return lit;
}

}  // namespace elkit
