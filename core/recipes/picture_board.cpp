#include "recipes/picture_board.hpp"

#include <fmt/format.h>

#include <array>

#include "matrix/patterns.hpp"
#include "recipes/controller_parts.hpp"
#include "recipes/converted_feed.hpp"
#include "recipes/wording.hpp"

namespace elkit {
namespace {

constexpr double matrix_buffer = 1e-4;  // F beside each: it takes its current row by row
constexpr std::array<std::pair<const char*, StarterPattern>, 5> patterns{{{"waves", StarterPattern::waves},
                                                                          {"arrow", StarterPattern::arrow},
                                                                          {"heart", StarterPattern::heart},
                                                                          {"checks", StarterPattern::checks},
                                                                          {"full", StarterPattern::full}}};

StarterPattern pattern_of(const Goals& goals) {
    return std::find_if(patterns.begin(), patterns.end(),
                        [word = goals.text("picture")](const auto& p) { return p.first == word; })
        ->second;
}

const PartKind& matrix_kind() { return *part_kind("light_matrix"); }

/// A that a matrix takes with so many lights on.
double matrix_current(double lit, double brightness) {
    const double idle = usual_number(matrix_kind(), "idle_current"),
                 full = usual_number(matrix_kind(), "active_current");
    return idle + (full - idle) * lit / (matrix_side * matrix_side) * brightness / 100;
}

/// A of all together: on average, and while they take most.
struct Taken {
    double mean = 0, most = 0;
};
Taken taken_by(const std::vector<std::vector<MatrixFrame>>& pictures, double brightness) {
    Taken taken;
    const std::size_t frames = pictures.front().size();
    for (std::size_t k = 0; k < frames; ++k) {
        double now = 0;
        for (const auto& matrix : pictures) now += matrix_current(matrix[k].lit(), brightness);
        taken.mean += now / static_cast<double>(frames);
        taken.most = std::max(taken.most, now);
    }
    return taken;
}

std::vector<std::vector<MatrixFrame>> pictures_of(const Goals& goals) {
    return starter_frames(pattern_of(goals), static_cast<int>(goals.number("matrices")),
                          goals.number("every"));
}

/// What sends the pictures.
Result<void> add_sender(Sketch& s, const Goals& goals, const Feed& feed) {
    const std::string sender = goals.text("sender");
    if (sender == "outside") {
        s.add({"Xdata", "connector", {}, {{"1", "GND"}, {"2", "DATA"}, {"3", "CLOCK"}, {"4", "LOAD"}}, {}});
        return success();
    }
    return add_controller(s, *part_kind(sender), feed, "state shows; P0 P1 P2 off",
                          {{"P0", "DATA"}, {"P1", "CLOCK"}, {"P2", "LOAD"}});
}

void add_matrix(Sketch& s, int number, const std::vector<MatrixFrame>& frames, double brightness,
                const Feed& feed, bool last) {
    Part part{fmt::format("Mmatrix{}", number), matrix_kind().id, {}, {}, {}};
    part.params["brightness"] = brightness, part.params["pattern"] = text_of(frames);
    const std::string data = number == 1 ? "DATA" : fmt::format("DATA{}", number);
    part.pins = {{"vcc", feed.net}, {"gnd", "GND"}, {"data", data}, {"clock", "CLOCK"}, {"load", "LOAD"}};
    if (!last) part.pins.push_back({"out", fmt::format("DATA{}", number + 1)});
    s.add(std::move(part));
    s.capacitor(fmt::format("Cmatrix{}", number), matrix_buffer, feed.net, "GND");
}

Result<Sized> size_picture_board(const Goals& goals, const Environment& environment) {
    Sketch s(goals, environment);
    auto fed = s.feed();
    if (!fed) return fed.error();
    const double brightness = goals.number("brightness");
    const auto pictures = pictures_of(goals);
    const Taken taken = taken_by(pictures, brightness);
    auto feed = converted_feed(s, goals.text("feed"), matrix_kind(), fed.value(), taken.most, "brightness");
    if (!feed) return feed.error();
    if (auto sent = add_sender(s, goals, feed.value()); !sent) return sent.error();
    for (std::size_t k = 0; k < pictures.size(); ++k)
        add_matrix(s, static_cast<int>(k) + 1, pictures[k], brightness, feed.value(),
                   k + 1 == pictures.size());
    add_converter(s, goals.text("feed"), fed.value().net, feed.value().net);
    for (std::size_t k = 0; k < pictures.size(); ++k) {
        const Taken one = taken_by({pictures[k]}, brightness);
        s.expect({fmt::format("matrix {}", k + 1), fmt::format("part:Mmatrix{}", k + 1), one.mean,
                  0.95 * one.mean, 1.05 * one.mean, "mean", Unit::ampere});
    }
    s.result({"recipe.brightest",
              "all matrices, at most",
              taken.most,
              Unit::ampere,
              {},
              {},
              {fmt::format(
                  "in the picture with most lights, at {:.0f} %; one with all 64 at full brightness takes {}",
                  brightness, amps_text(usual_number(matrix_kind(), "active_current")))}});
    return s.done();
}

Goals complete_picture_board(Goals g, const std::set<std::string>& said, const Environment& environment) {
    if (!said.contains("feed"))
        if (const double fresh = fresh_volts(g, environment); fresh > 0)
            g.values["feed"] = feed_for(matrix_kind(), source_of(g, environment), fresh);
    return g;
}

}  // namespace

Recipe picture_board() {
    Recipe r = declared_recipe("picture-board").value();
    r.size = size_picture_board, r.complete = complete_picture_board;
    return r;
}

}  // namespace elkit
