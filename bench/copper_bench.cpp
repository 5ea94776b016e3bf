// Boards of copper of all demos and of random circuits, by method: time, size, ways, and how long the copper
// is against rectilinear Steiner trees over the same places (iterated 1-Steiner: Kahng & Robins, IEEE Trans.
// CAD 11, 1992; within a percent of the shortest). A line for each: method, design, parts, ms, size, links,
// vias, copper / trees, faults.
#include <algorithm>
#include <chrono>
#include <cmath>
#include <cstdio>
#include <cstdlib>
#include <map>
#include <string>
#include <vector>

#include "board/by_hand.hpp"
#include "board/copper/check.hpp"
#include "board/copper/copper_method.hpp"
#include "board/copper/layout.hpp"
#include "design/demo.hpp"
#include "design/file.hpp"
#include "support/board_circuits.hpp"

namespace elkit {
namespace {

double rectilinear(Point a, Point b) { return std::abs(a.x - b.x) + std::abs(a.y - b.y); }

double tree_length(const std::vector<Point>& pins) {
    std::vector<double> least(pins.size(), 1e18);
    std::vector<bool> in(pins.size(), false);
    double sum = 0;
    std::size_t last = 0;
    for (std::size_t step = 1; step < pins.size(); ++step) {
        in[last] = true;
        std::size_t next = 0;
        double nearest = 1e18;
        for (std::size_t k = 0; k < pins.size(); ++k) {
            if (in[k]) continue;
            least[k] = std::min(least[k], rectilinear(pins[last], pins[k]));
            if (least[k] < nearest) nearest = least[k], next = k;
        }
        sum += nearest, last = next;
    }
    return sum;
}

double steiner_length(std::vector<Point> pins) {
    if (pins.size() < 2) return 0;
    for (double now = tree_length(pins);;) {
        double best = now;
        Point point;
        for (const Point a : std::vector<Point>(pins))
            for (const Point b : std::vector<Point>(pins)) {
                pins.push_back({a.x, b.y});
                if (const double with = tree_length(pins); with < best - 1e-9)
                    best = with, point = pins.back();
                pins.pop_back();
            }
        if (best >= now - 1e-9) return now;
        pins.push_back(point), now = best;
    }
}

double all_trees(const CopperLayout& l) {
    std::map<std::string, std::vector<Point>> nets;
    for (const CopperPad& p : l.pads)
        if (!p.net.empty()) nets[p.net].push_back(p.at);
    double sum = 0;
    for (const auto& [net, pins] : nets) sum += steiner_length(pins);
    return sum;
}

double ms_since(std::chrono::steady_clock::time_point start) {
    return std::chrono::duration<double, std::milli>(std::chrono::steady_clock::now() - start).count();
}

double copper_length(const CopperLayout& l) {
    double sum = l.track_length();
    for (const WireLink& w : l.links) sum += distance(w.a, w.b);
    return sum;
}

void measure(const Making& making, const std::string& name, const Design& design) {
    const auto start = std::chrono::steady_clock::now();
    const auto laid = lay_out_copper(design.circuit, {}, making);
    const double ms = ms_since(start);
    if (!laid)
        return void(std::printf("%s:%s:%zu:%.0f:%s::::\n", making.id.c_str(), name.c_str(),
                                design.circuit.parts.size(), ms, laid.error().found.c_str()));
    const CopperLayout& l = laid.value();
    std::printf("%s:%s:%zu:%.0f:%.1f × %.1f mm:%zu:%zu:%.2f:%zu\n", making.id.c_str(), name.c_str(),
                design.circuit.parts.size(), ms, l.width(), l.height(), l.links.size(), l.vias.size(),
                copper_length(l) / all_trees(l), fabrication_faults(l, design.circuit).size());
    std::fflush(stdout);
}

/// As the others, over random circuits: method, circuits, boards that are their circuits, median ms, longest
/// ms, copper / trees in the median.
void measure_random(const Making& making, int circuits) {
    std::vector<double> took, ratios;
    int sound = 0;
    for (int k = 0; k < circuits; ++k) {
        const Circuit circuit = test::board_circuit(10 + 50 * k / circuits, static_cast<unsigned>(k + 1));
        const auto start = std::chrono::steady_clock::now();
        const auto laid = lay_out_copper(circuit, {}, making);
        took.push_back(ms_since(start));
        if (!laid) continue;
        sound += fabrication_faults(laid.value(), circuit).empty();
        ratios.push_back(copper_length(laid.value()) / all_trees(laid.value()));
    }
    std::sort(took.begin(), took.end()), std::sort(ratios.begin(), ratios.end());
    std::printf("%s:%d:%d:%.0f:%.0f:%.2f\n", making.id.c_str(), circuits, sound, took[took.size() / 2],
                took.back(), ratios.empty() ? 0 : ratios[ratios.size() / 2]);
    std::fflush(stdout);
}

double median(std::vector<double>& took) {
    std::sort(took.begin(), took.end());
    return took[took.size() / 2];
}

/// From a part that was moved by hand to the new board, at a glance and whole: each part of a demo by one
/// step. Method, demo, parts, then of either median and longest ms.
void measure_drag(const Making& making, const std::string& name, const Design& design) {
    const auto first = lay_out_copper(design.circuit, board_choices(design), making);
    if (!first) return;
    const Board board = board_of(first.value(), design.circuit);
    std::vector<double> at_once, took;
    for (const BoardPart& p : board.parts) {
        auto moved = moved_by_hand(design, board, p.designator, 1.27, 0);
        if (!moved) continue;
        moved.value().board.method = making.id;
        const BoardQuery query{moved.value().circuit, board_choices(moved.value())};
        Store store;
        const auto begin = std::chrono::steady_clock::now();
        (void)store.ask(BoardGlanceQuery{query});
        at_once.push_back(ms_since(begin));
        const auto start = std::chrono::steady_clock::now();
        (void)store.ask(query);
        took.push_back(ms_since(start));
    }
    const double glance = median(at_once), whole = median(took);
    std::printf("%s:%s:%zu:%.0f:%.0f:%.0f:%.0f\n", making.id.c_str(), name.c_str(), board.parts.size(),
                glance, at_once.back(), whole, took.back());
    std::fflush(stdout);
}

}  // namespace
}  // namespace elkit

int main(int count, char** values) {
    using namespace elkit;
    const std::string what = count > 1 ? values[1] : "";
    for (const Making& making : makings().methods) {
        if (what == "random" && count > 2)
            measure_random(making, std::atoi(values[2]));
        else
            for (const Demo& demo : demos())
                if (count < 3 || demo.id == values[2])
                    what == "drag" ? measure_drag(making, demo.id, read_design(demo.text).value())
                                   : measure(making, demo.id, read_design(demo.text).value());
    }
    return 0;
}
