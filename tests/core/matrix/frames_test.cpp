// Pictures of a matrix: read, written, refused; what they take in a circuit; chains in the order of their
// data.
#include "matrix/frames.hpp"

#include <gtest/gtest.h>

#include "catalogue/catalogue.hpp"
#include "circuit/chain.hpp"
#include "engine/long_run.hpp"
#include "engine/measure.hpp"
#include "matrix/edit.hpp"
#include "matrix/patterns.hpp"
#include "power/picture_current.hpp"
#include "support/circuits.hpp"
#include "support/designs.hpp"

namespace elkit::test {
namespace {

TEST(Frames, AreReadAsTheyAreWritten) {
    const std::string text = "500ms 183c7effff7e3c18; 2s 0000000000000001";
    const auto frames = frames_of("  500ms   183C7EFFFF7E3C18 ;2s 0000000000000001; ");
    ASSERT_TRUE(frames) << frames.error().text();
    EXPECT_EQ(text_of(frames.value()), text);
    EXPECT_EQ(frames.value()[0].lit(), 2 * (2 + 4 + 6 + 8));
    EXPECT_EQ(frames.value()[1].lit(), 1);
    EXPECT_TRUE(frames.value()[1].on(7, 7))
        << "the lowest bit of the last row is the light at the lower right";
    EXPECT_FALSE(frames.value()[1].on(7, 0));
    EXPECT_DOUBLE_EQ(duration_of(frames.value()), 2.5);
    EXPECT_EQ(frames_of("").value().front().lit(), 64) << "no pictures: all lights on";
}

TEST(Frames, ThatMakeNoSenseAreRefusedByTheirNumber) {
    for (const auto& [text, place] : {std::pair{"500ms 18", "frame 1"},
                                      {"1s 0000000000000000; often 0000000000000000", "frame 2"},
                                      {"1s 000000000000000g", "frame 1"},
                                      {"1s 00000000000000001", "frame 1"},
                                      {"1ms 0000000000000000", "frame 1"},
                                      {"2h 0000000000000000", "frame 1"},
                                      {";", "frame 1"},
                                      {"1s -1-1-1-1-1-1-1-1", "frame 1"},
                                      {"nan 0000000000000000", "frame 1"}}) {
        const auto frames = frames_of(text);
        ASSERT_FALSE(frames) << text;
        EXPECT_EQ(frames.error().place, place) << text;
        EXPECT_FALSE(frames.error().expected.empty());
    }
    std::string many;
    for (std::size_t k = 0; k <= most_frames; ++k) many += "1s 0000000000000000;";
    EXPECT_EQ(frames_of(many).error().place, "frame 65");
}

TEST(Frames, OneLightIsSetAndCleared) {
    MatrixFrame frame;
    frame.set(2, 5, true);
    EXPECT_TRUE(frame.on(2, 5));
    EXPECT_EQ(frame.rows[2], 0x04);
    frame.set(2, 5, false);
    EXPECT_EQ(frame.lit(), 0);
}

TEST(Frames, AreSlidOverAllMatricesAndInverted) {
    std::vector<MatrixFrame> two(2);
    two[0].set(3, 7, true), two[1].set(0, 7, true);
    const auto right = slid(two, 1);
    EXPECT_TRUE(right[1].on(3, 0) && right[0].on(0, 0)) << "over the gap, and round";
    EXPECT_EQ(lit_in(right), 2);
    EXPECT_EQ(slid(right, -1), two);
    EXPECT_EQ(slid(two, 16), two);
    EXPECT_EQ(slid(two, -37), slid(two, 11));
    EXPECT_EQ(lit_in(inverted(two)), 126);
    EXPECT_EQ(inverted(inverted(two)), two);
}

TEST(StarterPatterns, GoOnFromOneMatrixToTheNext) {
    const auto arrow = starter_frames(StarterPattern::arrow, 3, 0.2);
    ASSERT_EQ(arrow.size(), 3u);
    for (std::size_t m = 0; m < 3; ++m) EXPECT_EQ(arrow[m].size(), arrow[0].size());
    EXPECT_GT(arrow[0][3].lit(), 10) << "it begins at the left";
    EXPECT_EQ(arrow[2][3].lit(), 0);
    EXPECT_EQ(arrow[0].back().lit(), 0) << "and ends at the right";
    EXPECT_GT(arrow[2].back().lit(), 0);
    const auto waves = starter_frames(StarterPattern::waves, 2, 0.2);
    for (std::size_t k = 0; k < waves[0].size(); ++k)
        for (int row = 0; row < matrix_side; ++row)
            for (int column = 0; column < matrix_side; ++column) {
                const std::size_t next = (k + 1) % waves[0].size();
                const bool moved =
                    column + 1 < matrix_side ? waves[0][next].on(row, column + 1) : waves[1][next].on(row, 0);
                EXPECT_EQ(waves[0][k].on(row, column), moved) << "each picture a column further";
            }
    EXPECT_EQ(starter_frames(StarterPattern::full, 1, 1)[0][0].lit(), 64);
    EXPECT_EQ(starter_frames(StarterPattern::checks, 1, 1)[0][1].lit(), 32);
}

Circuit board(const std::string& first, const std::string& second = "") {
    Circuit c = circuit({"supply PS1 +=V -=0 voltage=5 resistance=0.05 lead_length=0",
                         "light_matrix M1 vcc=V gnd=0 data=D out=E brightness=50",
                         "light_matrix M2 vcc=V gnd=0 data=E brightness=25", "connector X1 1=D 2=0"});
    c.find("M1")->params["pattern"] = first;
    c.find("M2")->params["pattern"] = second.empty() ? first : second;
    return c;
}
/// A of a matrix by its datasheet.
double taken(double lit, double brightness) { return 5e-4 + (0.32 - 5e-4) * lit / 64 * brightness; }

TEST(MatrixModule, TakesWhatItsPicturesLight) {
    const Circuit c = board("300ms ffffffffffffffff; 100ms 00000000000000ff; 600ms 0000000000000000");
    const auto run = long_run(c, known_catalogue(), {});
    ASSERT_TRUE(run) << run.error().text();
    EXPECT_NEAR(run.value().steady().period, 1, 1e-6);
    const auto& mean = run.value().mean();
    EXPECT_NEAR(mean.part("M1").current, 0.3 * taken(64, 0.5) + 0.1 * taken(8, 0.5) + 0.6 * taken(0, 0.5),
                2e-4);
    EXPECT_NEAR(mean.part("M2").current, 0.3 * taken(64, 0.25) + 0.1 * taken(8, 0.25) + 0.6 * taken(0, 0.25),
                2e-4);
    EXPECT_NEAR(run.value().peak("M1", "vcc"), taken(64, 0.5), 1e-3);
    EXPECT_NEAR(run.value().between("V", "0").first, 5 - 0.05 * (taken(64, 0.5) + taken(64, 0.25)), 1e-3);
}

TEST(MatrixModule, WhatLightsAsManyAllTheTimeRests) {
    const Circuit c = board("1s f0f0f0f0f0f0f0f0; 1s 0f0f0f0f0f0f0f0f");
    EXPECT_FALSE(may_move(c));
    const auto run = long_run(c, known_catalogue(), {});
    ASSERT_TRUE(run);
    EXPECT_FALSE(run.value().moves());
    EXPECT_NEAR(run.value().mean().part("M1").current, taken(32, 0.5), 1e-4);
}

TEST(MatrixModule, FollowsItsPicturesInTime) {
    const Circuit c = board("200ms ffffffffffffffff; 300ms 0000000000000000");
    const Recording r = recorded(c, {.until = 2, .start = Start::power_up, .probes = {"part:M1"}});
    for (double t = 0.05; t < 1.9; t += 0.1) {
        const double within = std::fmod(t, 0.5);
        if (std::abs(within - 0.2) < 0.01 || within < 0.01) continue;
        EXPECT_NEAR(value_at(r.time, r.traces[0].values, t), taken(within < 0.2 ? 64 : 0, 0.5), 1e-3) << t;
    }
}

TEST(Chains, GoInTheOrderOfTheData) {
    const Circuit c =
        circuit({"supply PS1 +=V -=0 voltage=5", "light_matrix M1 vcc=V gnd=0 data=C",
                 "light_matrix M2 vcc=V gnd=0 data=A out=B", "light_matrix M3 vcc=V gnd=0 data=B out=C",
                 "light_matrix M4 vcc=V gnd=0", "light_matrix M5 vcc=V gnd=0 data=Y out=X",
                 "light_matrix M6 vcc=V gnd=0 data=X out=Y"});
    const std::vector<std::vector<std::string>> expected{{"M2", "M3", "M1"}, {"M4"}, {"M5", "M6"}};
    EXPECT_EQ(chains_of(c), expected);
}

TEST(Chains, ShowOnePictureOverAll) {
    const Circuit c = board("1s 00000000000000ff; 2s 00000000000000f0", "5s 0000000000000001");
    const auto shown = chain_pictures(c, {"M1", "M2"});
    ASSERT_EQ(shown.size(), 2u);
    EXPECT_EQ(text_of(shown[1]), "1s 0000000000000001; 2s 0000000000000001") << "in the times of the first";
    auto next = shown;
    next[1][0].set(0, 0, true);
    const Circuit changed = with_chain_pictures(c, {"M1", "M2"}, next);
    EXPECT_EQ(changed.find("M2")->text("pattern"), "1s 8000000000000001; 2s 0000000000000001");
    EXPECT_EQ(changed.find("M1")->text("pattern"), c.find("M1")->text("pattern"));
    EXPECT_TRUE(chain_pictures(c, {"PS1", "X1"}).empty());
}

TEST(Chains, AreCountedByPicture) {
    const Circuit c = board("300ms ffffffffffffffff; 100ms 00000000000000ff; 600ms 0000000000000000");
    const PictureCurrents amps = picture_currents(c, known_catalogue(), {}, {"M1", "M2"}).value();
    ASSERT_EQ(amps.each.size(), 3u);
    EXPECT_NEAR(amps.each[0], taken(64, 0.5) + taken(64, 0.25), 1e-3);
    EXPECT_NEAR(amps.each[1], taken(8, 0.5) + taken(8, 0.25), 1e-3);
    EXPECT_NEAR(amps.each[2], 2 * taken(0, 1), 1e-4);
    EXPECT_EQ(amps.brightest, 0u);
    EXPECT_NEAR(amps.mean, 0.3 * amps.each[0] + 0.1 * amps.each[1] + 0.6 * amps.each[2], 1e-3);
    const Circuit still = board("1s f0f0f0f0f0f0f0f0; 1s 0f0f0f0f0f0f0f0f");
    const PictureCurrents same = picture_currents(still, known_catalogue(), {}, {"M1"}).value();
    EXPECT_NEAR(same.each[1], taken(32, 0.5), 1e-3);
}

}  // namespace
}  // namespace elkit::test
