#include "matrix/frames.hpp"

#include <fmt/format.h>

#include <bit>
#include <charconv>
#include <numeric>

#include "quantity/duration.hpp"
#include "quantity/plain_text.hpp"

namespace elkit {
namespace {

std::string_view trimmed(std::string_view text) {
    const auto first = text.find_first_not_of(' ');
    return first == std::string_view::npos ? "" : text.substr(first, text.find_last_not_of(' ') - first + 1);
}

Result<MatrixFrame> frame_of(std::string_view text, std::size_t number) {
    const Error trouble{Fault::design, fmt::format("frame {}", number),
                        fmt::format("found \"{}\"", one_line(std::string(text), 60)),
                        "a time and eight rows of two hexadecimal digits, as 500ms 183c7effff7e3c18"};
    const auto space = text.find(' ');
    if (space == std::string_view::npos) return trouble;
    const auto seconds = plain_seconds(text.substr(0, space));
    const std::string_view digits = trimmed(text.substr(space));
    if (!seconds || digits.size() != 2 * std::size_t{matrix_side}) return trouble;
    if (!(*seconds >= shortest_frame && *seconds <= longest_frame))
        return Error{Fault::design, trouble.place, fmt::format("found {}", plain_seconds(*seconds)),
                     fmt::format("{} to {}", plain_seconds(shortest_frame), plain_seconds(longest_frame))};
    MatrixFrame frame{*seconds, {}};
    for (std::size_t row = 0; row < frame.rows.size(); ++row) {
        const char* first = digits.data() + 2 * row;
        const auto [end, bad] = std::from_chars(first, first + 2, frame.rows[row], 16);
        if (bad != std::errc() || end != first + 2) return trouble;
    }
    return frame;
}

}  // namespace

void MatrixFrame::set(int row, int column, bool on) {
    const auto bit = static_cast<std::uint8_t>(1u << (matrix_side - 1 - column));
    std::uint8_t& lights = rows[static_cast<std::size_t>(row)];
    lights = static_cast<std::uint8_t>(on ? lights | bit : lights & ~bit);
}

int MatrixFrame::lit() const {
    return std::accumulate(rows.begin(), rows.end(), 0,
                           [](int sum, std::uint8_t row) { return sum + std::popcount(row); });
}

MatrixFrame full_frame(double seconds) {
    MatrixFrame frame{seconds, {}};
    frame.rows.fill(0xff);
    return frame;
}

double duration_of(const std::vector<MatrixFrame>& frames) {
    return std::accumulate(frames.begin(), frames.end(), 0.0,
                           [](double sum, const MatrixFrame& f) { return sum + f.seconds; });
}

Result<std::vector<MatrixFrame>> frames_of(std::string_view text) {
    text = trimmed(text);
    if (text.empty()) return std::vector{full_frame()};
    std::vector<MatrixFrame> frames;
    while (!text.empty()) {
        const auto end = std::min(text.find(';'), text.size());
        auto frame = frame_of(trimmed(text.substr(0, end)), frames.size() + 1);
        if (!frame) return frame.error();
        if (frames.size() == most_frames)
            return Error{Fault::design, fmt::format("frame {}", most_frames + 1), "too many frames",
                         fmt::format("{} at the most", most_frames)};
        frames.push_back(frame.value());
        text = trimmed(text.substr(std::min(end + 1, text.size())));
    }
    return frames;
}

std::string text_of(const std::vector<MatrixFrame>& frames) {
    std::string text;
    for (const MatrixFrame& frame : frames) {
        text += (text.empty() ? "" : "; ") + plain_seconds(frame.seconds) + " ";
        for (const std::uint8_t row : frame.rows) text += fmt::format("{:02x}", row);
    }
    return text;
}

}  // namespace elkit
