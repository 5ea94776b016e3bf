#include "matrix/patterns.hpp"

#include <array>
#include <cmath>
#include <functional>
#include <numbers>

namespace elkit {
namespace {

using Rows = std::array<std::uint8_t, matrix_side>;
constexpr Rows small_heart{0x00, 0x00, 0x24, 0x7e, 0x3c, 0x18, 0x00, 0x00};
constexpr Rows big_heart{0x66, 0xff, 0xff, 0xff, 0x7e, 0x3c, 0x18, 0x00};
constexpr Rows arrow{0x10, 0x18, 0xfc, 0xfe, 0xfe, 0xfc, 0x18, 0x10};

bool lit(const Rows& rows, int row, int column) {
    return column >= 0 && column < matrix_side && MatrixFrame{1, rows}.on(row, column);
}

/// How many pictures, and what is lit in one of them: picture, row, column of all.
struct Course {
    int frames = 1;
    std::function<bool(int, int, int)> lit;
};

Course course_of(StarterPattern pattern, int width) {
    switch (pattern) {
        case StarterPattern::full:
            break;
        case StarterPattern::checks:
            return {2, [](int frame, int row, int column) { return (row + column + frame) % 2 == 0; }};
        case StarterPattern::heart:
            return {2, [](int frame, int row, int column) {
                        return lit(frame == 0 ? small_heart : big_heart, row, column % matrix_side);
                    }};
        case StarterPattern::arrow: {  // from the left edge to the right one, two columns at a time
            const int steps = (width + matrix_side) / 2 - 1;
            return {steps, [](int frame, int row, int column) {
                        return lit(arrow, row, column - 2 * (frame + 1) + matrix_side - 1);
                    }};
        }
        case StarterPattern::waves:  // water up to half the height, that moves a column a picture
            return {matrix_side, [](int frame, int row, int column) {
                        const double angle = 2 * std::numbers::pi * (column - frame) / matrix_side;
                        return matrix_side - row <= std::lround(matrix_side / 2.0 + 1.5 * std::sin(angle));
                    }};
    }
    return {1, [](int, int, int) { return true; }};
}

}  // namespace

std::vector<std::vector<MatrixFrame>> starter_frames(StarterPattern pattern, int matrices, double seconds) {
    const Course course = course_of(pattern, matrices * matrix_side);
    std::vector<std::vector<MatrixFrame>> all(static_cast<std::size_t>(matrices));
    for (int m = 0; m < matrices; ++m)
        for (int k = 0; k < course.frames; ++k) {
            MatrixFrame frame{seconds, {}};
            for (int row = 0; row < matrix_side; ++row)
                for (int column = 0; column < matrix_side; ++column)
                    frame.set(row, column, course.lit(k, row, m * matrix_side + column));
            all[static_cast<std::size_t>(m)].push_back(frame);
        }
    return all;
}

}  // namespace elkit
