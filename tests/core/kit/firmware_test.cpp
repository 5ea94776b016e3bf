// What a controller sends to matrices, compiled and compared with the pictures of the design.
#include "kit/firmware.hpp"

#include <fmt/format.h>
#include <gtest/gtest.h>

#include <cmath>
#include <fstream>

#include "circuit/chain.hpp"
#include "circuit/part_kind.hpp"
#include "kit/sent_pictures.hpp"
#include "support/circuits.hpp"
#include "support/designs.hpp"

namespace elkit {
namespace {

constexpr const char* recording_board = R"(#include <stdio.h>
#include "behaviour.h"
#include "hardware.h"
static unsigned tick;
void hardware_start(void) {}
void hardware_show(uint8_t pin, uint8_t level) { (void)pin, (void)level; }
uint8_t hardware_high(uint8_t pin) { (void)pin; return 1; }
uint16_t hardware_measure(uint8_t pin) { (void)pin; return 0; }
void hardware_wait(void) {}
void hardware_sleep(uint32_t ticks) { (void)ticks; }
void hardware_brightness(uint8_t matrix, uint8_t percent) { printf("b %u %u\n", matrix, percent); }
void hardware_row(uint8_t matrix, uint8_t row, uint8_t lights) {
    printf("%u %u %u %u\n", tick, matrix, row, lights);
}
int main(void) {
    behaviour_start();
    for (tick = 0; tick < 3000; ++tick) behaviour_step();
    return 0;
}
)";

struct Sent {
    std::map<int, int> brightness;
    std::map<std::tuple<int, int, int>, int> rows;  ///< tick, matrix, row: lights
};

Sent sent_by_firmware(const Circuit& circuit, const std::string& controller) {
    const test::TemporaryFolder folder;
    const auto written =
        write_firmware(circuit, *circuit.find(controller), "tides */ \\", folder.path() / "fw");
    EXPECT_TRUE(written) << (written ? "" : written.error().text());
    std::ofstream(folder.path() / "fw" / "main.c") << recording_board;
    const std::string to = "cd '" + (folder.path() / "fw").string() + "' && ";
    EXPECT_EQ(
        std::system((to + "gcc -std=c99 -pedantic -Wall -Wextra -Werror *.c -o run && ./run > out").c_str()),
        0);
    Sent sent;
    std::ifstream out(folder.path() / "fw" / "out");
    for (std::string line; std::getline(out, line);) {
        int a = 0, b = 0, c = 0, d = 0;
        if (std::sscanf(line.c_str(), "b %d %d", &a, &b) == 2) sent.brightness[a] = b;
        if (std::sscanf(line.c_str(), "%d %d %d %d", &a, &b, &c, &d) == 4) sent.rows[{a, b, c}] = d;
    }
    return sent;
}

/// The frame that goes on at a tick, each in its own time; -1 if none begins there.
int begins_at(const std::vector<MatrixFrame>& frames, long tick) {
    long whole = 0;
    for (const MatrixFrame& f : frames) whole += std::lround(f.seconds * 100);
    long at = 0;
    for (std::size_t k = 0; k < frames.size(); ++k) {
        if (tick % whole == at) return static_cast<int>(k);
        at += std::lround(frames[k].seconds * 100);
    }
    return -1;
}

void expect_pictures(const Circuit& circuit, const Sent& sent,
                     const std::vector<std::vector<std::string>>& chains) {
    int first = 0;
    for (const auto& chain : chains) {
        const auto pictures = chain_pictures(circuit, chain);
        for (std::size_t m = 0; m < pictures.size(); ++m) {
            const int number = first + static_cast<int>(m);
            EXPECT_EQ(sent.brightness.at(number), circuit.find(chain[m])->number("brightness"));
            for (long tick = 0; tick < 3000; ++tick) {
                const int frame = begins_at(pictures[m], tick);
                const bool there = sent.rows.count({static_cast<int>(tick), number, 0}) > 0;
                ASSERT_EQ(there, frame >= 0) << chain[m] << " at tick " << tick;
                for (int row = 0; there && row < 8; ++row)
                    EXPECT_EQ(
                        sent.rows.at({static_cast<int>(tick), number, row}),
                        pictures[m][static_cast<std::size_t>(frame)].rows[static_cast<std::size_t>(row)]);
            }
        }
        first += static_cast<int>(pictures.size());
    }
}

TEST(FirmwareOfPictures, SendsThoseOfTheDemoInTheirTimes) {
    const Circuit circuit = test::demo("tide-board").circuit;
    expect_pictures(circuit, sent_by_firmware(circuit, "U1"), chains_of(circuit));
}

TEST(FirmwareOfPictures, SendsToSeveralChainsEachInItsOwnTime) {
    Circuit c = test::circuit({"battery B1 +=V -=0 cell=LR6 count=3",
                               "controller_14 U1 vcc=V gnd=0 P0=D P1=CL P2=LO P3=E P4=LA",
                               "light_matrix M1 vcc=V gnd=0 data=D clock=CL load=LO out=F brightness=30",
                               "light_matrix M2 vcc=V gnd=0 data=F clock=CL load=LO",
                               "light_matrix M3 vcc=V gnd=0 data=E clock=CL load=LA brightness=7",
                               "connector X1 1=0 2=G", "light_matrix M4 vcc=V gnd=0 data=G"});
    c.find("M1")->params["pattern"] = std::string("250ms 8000000000000001; 1s ffffffffffffffff");
    c.find("M2")->params["pattern"] = std::string("250ms 00ff00ff00ff00ff; 1s 183c7effff7e3c18");
    c.find("M3")->params["pattern"] =
        std::string("20ms 0102040810204080; 30ms 0000000000000000; 7s 0000001818000000");
    const auto sent = pictures_sent_by(c, *c.find("U1"));
    ASSERT_EQ(sent.size(), 2u) << "M4 is fed from outside";
    EXPECT_EQ(sent[0].wires.size(), 3u);
    expect_pictures(c, sent_by_firmware(c, "U1"), {{"M1", "M2"}, {"M3"}});
}

TEST(FirmwareOfPictures, IsLeftOutWhereNothingIsSent) {
    const Circuit c =
        test::circuit({"battery B1 +=V -=0 cell=LR6 count=3", "controller_8 U1 vcc=V gnd=0 P0=OUT",
                       "connector X1 1=0 2=G", "light_matrix M4 vcc=V gnd=0 data=G"});
    const auto files = firmware_of(c, *c.find("U1"), "x");
    ASSERT_TRUE(files);
    EXPECT_EQ(files.value().size(), 4u);
    for (const auto& [name, text] : files.value())
        EXPECT_EQ(text.find("pictures"), std::string::npos) << name;
}

}  // namespace
}  // namespace elkit
