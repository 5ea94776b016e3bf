#include <fmt/format.h>
#include <fmt/ranges.h>

#include <algorithm>
#include <cmath>

#include "behaviour/c99.hpp"
#include "behaviour/program.hpp"
#include "kit/sent_pictures.hpp"

namespace elkit {
namespace {

std::size_t frames_in(const SentPictures& chain) { return chain.matrices.front().frames.size(); }

/// Each picture, the rows of its matrices from the first one on.
std::string rows_of(const SentPictures& chain, std::size_t number) {
    std::string out = fmt::format("static const uint8_t rows_{}[] = {{\n", number);
    for (std::size_t frame = 0; frame < frames_in(chain); ++frame)
        for (const auto& matrix : chain.matrices) {
            std::vector<std::string> bytes;
            for (const std::uint8_t row : matrix.frames[frame].rows)
                bytes.push_back(fmt::format("0x{:02X}", row));
            out += fmt::format("    {}, /* {}, picture {} */\n", fmt::join(bytes, ", "), matrix.designator,
                               frame + 1);
        }
    return out + "};\n";
}

std::string times_of(const SentPictures& chain, std::size_t number) {
    std::vector<long> ticks;
    for (const MatrixFrame& frame : chain.matrices.front().frames)
        ticks.push_back(std::max(1L, std::lround(frame.seconds / tick_seconds)));
    return fmt::format("static const uint32_t ticks_{}[] = {{{}}}; /* of 10 ms */\n", number,
                       fmt::join(ticks, ", "));
}

constexpr const char* sending = R"(
static uint16_t shown[CHAINS];
static uint32_t left[CHAINS]; /* ticks until the next picture */

static void send(int k) {
    const uint8_t *row = chains[k].rows + (uint32_t)shown[k] * chains[k].matrices * 8u;
    for (uint8_t m = 0; m < chains[k].matrices; ++m)
        for (uint8_t r = 0; r < 8; ++r) hardware_row((uint8_t)(chains[k].first + m), r, *row++);
}

void pictures_start(void) {
    for (uint8_t m = 0; m < PICTURES_MATRICES; ++m) hardware_brightness(m, percent[m]);
    for (int k = 0; k < CHAINS; ++k) {
        shown[k] = (uint16_t)(chains[k].pictures - 1);
        left[k] = 0;
    }
}

void pictures_step(void) {
    for (int k = 0; k < CHAINS; ++k) {
        if (left[k] == 0) {
            shown[k] = (uint16_t)((shown[k] + 1) % chains[k].pictures);
            left[k] = chains[k].ticks[shown[k]];
            send(k);
        }
        --left[k];
    }
}
)";

std::string source(const std::vector<SentPictures>& chains, const std::string& title) {
    std::string out = fmt::format(
        "/* {}: what its matrices of lights show. Made from their pictures; change them there. */\n"
        "#include \"pictures.h\"\n\n#include \"hardware.h\"\n\n"
        "/* Rows from the top, the highest bit at the left. */\n",
        title);
    std::vector<std::string> table;
    std::vector<int> percent;
    for (std::size_t k = 0; k < chains.size(); ++k) {
        out += rows_of(chains[k], k) + times_of(chains[k], k);
        table.push_back(fmt::format("{{rows_{0}, ticks_{0}, {1}, {2}, {3}}}", k, percent.size(),
                                    chains[k].matrices.size(), frames_in(chains[k])));
        for (const auto& matrix : chains[k].matrices) percent.push_back(matrix.percent);
    }
    out += fmt::format(
        "\nenum {{ CHAINS = {} }};\nstatic const struct {{\n    const uint8_t *rows;\n"
        "    const uint32_t *ticks;\n    uint8_t first, matrices;\n    uint16_t pictures;\n"
        "}} chains[CHAINS] = {{{}}};\nstatic const uint8_t percent[PICTURES_MATRICES] = {{{}}};\n",
        chains.size(), fmt::join(table, ", "), fmt::join(percent, ", "));
    return out + sending;
}

std::string header(const std::vector<SentPictures>& chains, const std::string& title) {
    std::string list;
    std::size_t number = 0;
    for (const SentPictures& chain : chains)
        for (const auto& matrix : chain.matrices)
            list += fmt::format("   {}: {}\n", number++, matrix.designator);
    return fmt::format(
        "/* {}: what its matrices of lights show. By number:\n{}*/\n#ifndef PICTURES_H\n#define "
        "PICTURES_H\n\nenum {{ PICTURES_MATRICES = {} }};\n\n"
        "void pictures_start(void); /* once, at power-up */\n"
        "void pictures_step(void);  /* every 10 ms: sends a picture when its time has come */\n\n#endif\n",
        title, list, number);
}

}  // namespace

std::vector<std::pair<std::string, std::string>> pictures_c99(const std::vector<SentPictures>& chains,
                                                              const std::string& name) {
    if (chains.empty()) return {};
    const std::string title = within_a_comment(name);
    return {{"pictures.c", source(chains, title)}, {"pictures.h", header(chains, title)}};
}

}  // namespace elkit
