// Stops every kind of long work at moments spread over its run and prints how long each went on at most, and
// the longest of all. With a word as argument only the designs and works whose names hold it.
#include <algorithm>
#include <atomic>
#include <chrono>
#include <cstdio>
#include <functional>
#include <string>
#include <thread>
#include <vector>

#include "batch/parts_list.hpp"
#include "build/steps.hpp"
#include "catalogue/catalogue.hpp"
#include "circuit/edit.hpp"
#include "design/demo.hpp"
#include "design/file.hpp"
#include "drawer/import.hpp"
#include "drawing/layout_query.hpp"
#include "engine/band.hpp"
#include "engine/spread.hpp"
#include "engine/sweep.hpp"
#include "kit/leaflet.hpp"
#include "light/light.hpp"
#include "power/supplies.hpp"
#include "quantity/stop.hpp"
#include "recipes/blocks.hpp"
#include "recipes/variants.hpp"
#include "review/findings.hpp"

namespace elkit {
namespace {

using Clock = std::chrono::steady_clock;

double ms_since(Clock::time_point start) {
    return std::chrono::duration<double, std::milli>(Clock::now() - start).count();
}

struct Work {
    std::string name;
    std::function<void()> run;
};

/// Longest time from the stop to the end, over `tries` moments of the work.
double longest_stop(const Work& work, double total, int tries) {
    double longest = 0;
    for (int k = 0; k < tries; ++k) {
        std::atomic<bool> stop{false};
        Clock::time_point stopped_at, ended_at;
        std::thread worker([&] {
            const StopScope scope(&stop);
            try {
                work.run();
            } catch (const Stopped&) {
            }
            ended_at = Clock::now();
        });
        std::this_thread::sleep_for(std::chrono::duration<double, std::milli>(total * (k + 0.5) / tries));
        stopped_at = Clock::now();
        stop = true;
        worker.join();
        longest = std::max(longest, std::chrono::duration<double, std::milli>(ended_at - stopped_at).count());
    }
    return longest;
}

template <class Query>
Work asking(const Query& query) {
    return {std::string(Query::name), [query] {
                Store store;
                store.ask(query);
            }};
}

/// All long work that the window starts for a design.
std::vector<Work> works(const Design& design) {
    const Keyed<Circuit> circuit(design.circuit);
    const Keyed<std::vector<DrawerItem>> drawer(demo_stock());
    const Conditions now;
    std::vector<Work> all{asking(RestQuery(circuit, now)),
                          asking(RunQuery(circuit, now)),
                          asking(StatesQuery(circuit, now)),
                          asking(StaveLayoutQuery{circuit, {}}),
                          asking(LightQuery(circuit, now)),
                          asking(BinsQuery(circuit, now)),
                          asking(PowerQuery(circuit, now, design.brief.end_brightness)),
                          asking(SuppliesQuery(design, now, {})),
                          asking(BoardQuery{circuit, design.board}),
                          asking(StepsQuery{circuit, design.board, design.brief.for_children}),
                          asking(parts_query(design, drawer)),
                          asking(LeafletQuery{design, drawer})};
    for (std::size_t block = 0; block < design.blocks.size(); ++block)
        all.push_back(asking(VariantsQuery(design, block, now, {})));
    all.push_back({"review", [=] {
                       Store store;
                       (void)review(Ask(store), design, now, drawer);
                   }});
    const std::string probe = "net:" + design.circuit.parts.front().pins.front().net;
    const std::vector<Goal> goals{goal_from_words(*circuit, probe).value()};
    all.push_back(
        {"spread of 1000 builds", [=] { (void)spread(*circuit, known_catalogue(), now, goals, 1000); }});
    all.push_back({"sweep of 201 points", [=] {
                       (void)sweep(*circuit, known_catalogue(), now, "battery", {0.1, 1, 201, false}, goals);
                   }});
    RunRequest request{.until = 2, .probes = {probe}};
    all.push_back({"recording of 2 s", [=] { (void)simulate(*circuit, known_catalogue(), now, request); }});
    all.push_back({"band of 50 recordings", [=] {
                       RunRequest shorter = request;
                       shorter.until = 0.2;
                       (void)bands(*circuit, known_catalogue(), now, shorter, 50);
                   }});
    return all;
}

/// The demos, and a light of many LEDs.
std::vector<std::pair<std::string, Design>> designs() {
    std::vector<std::pair<std::string, Design>> all;
    for (const Demo& demo : demos()) all.emplace_back(demo.id, read_design(demo.text).value());
    Design wide = all.front().second;
    wide = with_goal(wide, 0, "count", 60.0).value();
    all.emplace_back("60 LEDs", wide);
    return all;
}

}  // namespace
}  // namespace elkit

int main(int argc, char** argv) {
    using namespace elkit;
    const std::string word = argc > 1 ? argv[1] : "";
    double longest = 0;
    int kinds = 0;
    for (const auto& [name, design] : designs())
        for (const Work& work : works(design)) {
            const std::string title = name + ", " + work.name;
            if (title.find(word) == std::string::npos) continue;
            const auto start = Clock::now();
            work.run();
            const double total = ms_since(start);
            if (total < 5) continue;
            const double stop = longest_stop(work, total, 6);
            std::printf("%-40s %8.2f ms of %.0f ms\n", title.c_str(), stop, total);
            std::fflush(stdout);
            longest = std::max(longest, stop), ++kinds;
        }
    std::printf("longest of %d %.2f\n", kinds, longest);
}
