#pragma once
#include <array>
#include <cstdint>
#include <string>
#include <string_view>
#include <vector>

#include "quantity/result.hpp"

/// What a matrix of 8 × 8 lights shows: pictures, one after the other, over and over.
namespace elkit {

inline constexpr int matrix_side = 8;

struct MatrixFrame {
    double seconds = 0.5;
    std::array<std::uint8_t, matrix_side> rows{};  ///< from the top; the highest bit is the leftmost light

    bool on(int row, int column) const {
        return rows[static_cast<std::size_t>(row)] >> (matrix_side - 1 - column) & 1;
    }
    void set(int row, int column, bool on);
    int lit() const;  ///< how many lights of the 64
    bool operator==(const MatrixFrame&) const = default;
};

inline constexpr std::size_t most_frames = 64;
inline constexpr double shortest_frame = 0.02, longest_frame = 3600;  // s

/// Frames as they are kept with a part: a time and the eight rows in hexadecimal digits, "500ms
/// 183c7effff7e3c18", with ; between frames. No text at all: every light is on. Design error with the number
/// of the frame and what was expected.
Result<std::vector<MatrixFrame>> frames_of(std::string_view text);
std::string text_of(const std::vector<MatrixFrame>& frames);

/// Every light on.
MatrixFrame full_frame(double seconds = 1);

/// s, of all frames.
double duration_of(const std::vector<MatrixFrame>& frames);

}  // namespace elkit
