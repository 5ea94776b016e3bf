// Random circuits of all kinds against the laws of physics:  elkit_circuits COUNT [FIRST_SEED] [show]
#include <fmt/format.h>

#include <chrono>
#include <cstdlib>
#include <string>

#include "catalogue/catalogue.hpp"
#include "engine/operating_point.hpp"
#include "support/random_circuits.hpp"

int main(int argc, char** argv) {
    using namespace elkit::test;
    const unsigned count = argc > 1 ? static_cast<unsigned>(std::atoi(argv[1])) : 2000;
    const unsigned first = argc > 2 ? static_cast<unsigned>(std::atoi(argv[2])) : 1;
    const bool show = argc > 3;
    int solved = 0, refused = 0, unsettled = 0, no_rest = 0, wrong = 0, runs_refused = 0, runs_lost = 0;
    double slowest = 0;
    unsigned slowest_seed = 0;
    for (unsigned seed = first; seed < first + count; ++seed) {
        const RandomCase random = random_case(seed);
        const auto since = std::chrono::steady_clock::now();
        const Outcome outcome = outcome_of(random, true);
        const double seconds =
            std::chrono::duration<double>(std::chrono::steady_clock::now() - since).count();
        if (seconds > slowest) slowest = seconds, slowest_seed = seed;
        solved += outcome.kind == Outcome::Kind::solved, refused += outcome.kind == Outcome::Kind::refused;
        unsettled += outcome.kind == Outcome::Kind::unsettled,
            no_rest += outcome.kind == Outcome::Kind::no_rest;
        wrong += !outcome.broken.empty();
        for (const std::string& law : outcome.broken) fmt::print("{}: {}\n", seed, law);
        const bool lost = outcome.run_refusal.find("settle") != std::string::npos ||
                          outcome.run_refusal.find("steps") != std::string::npos;
        runs_lost += lost, runs_refused += !outcome.run_refusal.empty() && !lost;
        if (!outcome.run_refusal.empty()) fmt::print("{}, run: {}\n", seed, outcome.run_refusal);
        if (outcome.kind == Outcome::Kind::unsettled) fmt::print("{}: {}\n", seed, outcome.refusal);
        if (show) fmt::print("{}{}\n", described(random), outcome.refusal);
        if (show) {
            const auto op =
                elkit::operating_point(random.circuit, elkit::known_catalogue(), random.conditions);
            if (op)
                for (std::size_t n = 0; n < op.value().nets.size(); ++n)
                    fmt::print("{} {} V\n", op.value().nets[n], op.value().voltages[n]);
            if (op)
                for (const auto& s : op.value().parts)
                    fmt::print("{} {} W: {}\n", s.designator, s.taken, fmt::join(s.pins, " "));
        }
    }
    fmt::print(
        "{} circuits: {} solved, {} without a rest, {} refused, {} would not settle, {} runs refused, {} "
        "runs would not settle or end, {} wrong; "
        "slowest {} with {:.2f} s\n",
        count, solved, no_rest, refused, unsettled, runs_refused, runs_lost, wrong, slowest_seed, slowest);
    return wrong > 0 ? 1 : 0;
}
