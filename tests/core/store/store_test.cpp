#include "store/store.hpp"

#include <gtest/gtest.h>

#include <atomic>
#include <chrono>
#include <thread>

#include "circuit/content.hpp"
#include "engine/queries.hpp"
#include "quantity/parallel.hpp"
#include "support/circuits.hpp"
#include "support/designs.hpp"
#include "support/studies.hpp"

namespace elkit {
namespace {

std::atomic<int> squared{0};

struct SquareQuery {
    int of;
    using Value = int;
    static constexpr std::string_view name = "square";
    Digest key() const { return (Digester() << of).digest(); }
    Result<int> compute(const Ask&) const {
        ++squared;
        if (of < 0) return Error{Fault::usage, "of", "it is below zero", "a number from 0"};
        return of * of;
    }
};

/// Goes on until it is stopped.
struct EndlessQuery {
    using Value = int;
    static constexpr std::string_view name = "endless";
    Digest key() const { return {}; }
    Result<int> compute(const Ask&) const {
        for (;;) stop_point();
    }
};

/// Work in many pieces, side by side.
struct PiecesQuery {
    int of;
    using Value = int;
    static constexpr std::string_view name = "pieces";
    Digest key() const { return (Digester() << of).digest(); }
    Result<int> compute(const Ask&) const {
        std::atomic<int> sum{0};
        parallel(40, [&](int k) {
            std::this_thread::sleep_for(std::chrono::microseconds(50 * (k % 7)));
            sum += k;
        });
        return sum.load();
    }
};

TEST(Store, WhoeverComputesInPiecesIsNotLedToWaitForItself) {
    for (int round = 0; round < 20; ++round) {
        Store store;
        const Ask ask(store);
        std::atomic<int> right{0};
        parallel(32, [&](int k) { right += *ask(PiecesQuery{k % 16}) == 780; });
        ASSERT_EQ(right, 32) << "it would wait forever otherwise";
    }
}

TEST(Store, ComputesOnceWhatItIsAskedForTwice) {
    Store store;
    squared = 0;
    EXPECT_FALSE(store.find(SquareQuery{3}).there());
    EXPECT_EQ(*store.ask(SquareQuery{3}), 9);
    EXPECT_EQ(*store.ask(SquareQuery{3}), 9);
    EXPECT_TRUE(store.find(SquareQuery{3}));
    EXPECT_EQ(squared, 1);
    EXPECT_EQ(*store.ask(SquareQuery{4}), 16);
    EXPECT_EQ(store.computed("square"), 2u);
}

TEST(Store, KeepsErrorsLikeOtherResults) {
    Store store;
    squared = 0;
    EXPECT_EQ(store.ask(SquareQuery{-1}).error().place, "of");
    EXPECT_EQ(store.ask(SquareQuery{-1}).error().place, "of");
    EXPECT_EQ(squared, 1);
}

TEST(Store, SharesOneComputationAmongThreads) {
    Store store;
    squared = 0;
    std::vector<std::thread> askers;
    for (int k = 0; k < 8; ++k) askers.emplace_back([&] { EXPECT_EQ(*store.ask(SquareQuery{7}), 49); });
    for (auto& t : askers) t.join();
    EXPECT_EQ(squared, 1);
}

TEST(Store, DropsTheOldestWhenItGrowsTooLarge) {
    Store store(10);
    for (int k = 0; k < 30; ++k) (void)store.ask(SquareQuery{k});
    EXPECT_FALSE(store.find(SquareQuery{0}).there());
    EXPECT_TRUE(store.find(SquareQuery{29}).there());
    (void)store.ask(SquareQuery{0});
    EXPECT_EQ(store.repeated(), 1u);
}

TEST(Store, StopsWithinTwentyMilliseconds) {
    using Clock = std::chrono::steady_clock;
    Store store;
    std::atomic<bool> stop{false}, ended{false};
    Clock::time_point at;
    std::thread worker([&] {
        const StopScope scope(&stop);
        try {
            (void)store.ask(EndlessQuery{});
        } catch (const Stopped&) {
            at = Clock::now(), ended = true;
        }
    });
    std::this_thread::sleep_for(std::chrono::milliseconds(30));
    const auto asked = Clock::now();
    stop = true;
    worker.join();
    EXPECT_TRUE(ended);
    EXPECT_LT(std::chrono::duration<double>(at - asked).count(), 0.5) << "even on a busy machine";
    EXPECT_FALSE(store.find(EndlessQuery{}).there()) << "nothing half done is kept";
}

/// Every study that can take long, stopped at a random moment.
TEST(Store, EveryStudyCanBeStopped) {
    const Design dimmer = test::demo("harbour-dimmer");
    const Keyed<Circuit> circuit(dimmer.circuit);
    for (const int after : {1, 10, 40, 120}) {
        Store store;
        std::atomic<bool> stop{false};
        std::atomic<int> stopped{0};
        std::vector<std::thread> workers;
        const auto start = [&](auto query) {
            workers.emplace_back([&, query] {
                const StopScope scope(&stop);
                try {
                    (void)store.ask(query);
                } catch (const Stopped&) {
                    ++stopped;
                }
            });
        };
        start(BoardQuery{circuit, dimmer.board});
        start(PowerQuery(circuit, {}, 0.5));
        start(SuppliesQuery(dimmer, {}, SupplyPolicy::sized_anew));
        std::this_thread::sleep_for(std::chrono::milliseconds(after));
        stop = true;
        const auto asked = std::chrono::steady_clock::now();
        for (auto& t : workers) t.join();
        const double waited = std::chrono::duration<double>(std::chrono::steady_clock::now() - asked).count();
        EXPECT_LT(waited, 0.5) << "all of them, after " << after << " ms";
    }
}

TEST(Content, TellsCircuitsApartAndNothingElse) {
    const Design d = test::pier_lantern();
    const Digest before = content_digest(d.circuit);
    Circuit same = d.circuit;
    EXPECT_EQ(content_digest(same), before);
    const auto differs = [&](auto change) {
        Circuit other = d.circuit;
        change(other);
        return content_digest(other) != before;
    };
    EXPECT_TRUE(differs([](Circuit& c) { c.parts[2].params["value"] = 62.0000001; }));
    EXPECT_TRUE(differs([](Circuit& c) { c.parts[2].designator = "R9"; }));
    EXPECT_TRUE(differs([](Circuit& c) { std::swap(c.parts[2].pins[0].net, c.parts[2].pins[1].net); }));
    EXPECT_TRUE(differs([](Circuit& c) { c.parts.pop_back(); }));
    EXPECT_TRUE(differs([](Circuit& c) { std::swap(c.parts[3], c.parts[4]); }));
    Digester ab, a_b;
    ab << "ab"
       << "c";
    a_b << "a"
        << "bc";
    EXPECT_NE(ab.digest(), a_b.digest()) << "where one text ends counts";
}

TEST(Content, LeavesOutConditionsThatNothingReads) {
    const Keyed<Circuit> lantern(test::pier_lantern().circuit);
    Conditions bright, moved;
    bright.lux = 5000, bright.knobs["RV9"] = 0.2, bright.switches["S9"] = true;
    moved.switches["S1"] = false;
    EXPECT_EQ(RestQuery(lantern, bright).key(), RestQuery(lantern, {}).key());
    EXPECT_NE(RestQuery(lantern, moved).key(), RestQuery(lantern, {}).key());
    Conditions as_drawn;
    as_drawn.switches["S1"] = true;
    EXPECT_EQ(RestQuery(lantern, as_drawn).key(), RestQuery(lantern, {}).key());
    Conditions half;
    half.battery = 0.5;
    EXPECT_NE(RestQuery(lantern, half).key(), RestQuery(lantern, {}).key());
    EXPECT_EQ(PowerQuery(lantern, half, 0.5).key(), PowerQuery(lantern, {}, 0.5).key())
        << "the run time is from fresh cells, however full they are now";
}

TEST(Content, AChangeoverIsAChangedKey) {
    const Keyed<Circuit> c(
        test::circuit({"battery B1 +=V -=0 count=3", "changeover S1 common=V a=A b=B",
                       "resistor R1 a=A b=X value=1000", "resistor R2 a=B b=X value=100", "led L1 a=X k=0"}));
    Conditions moved;
    moved.switches["S1"] = true;
    const auto at_a = test::ask(PowerQuery(c, {}, 0.5)).value().run_time.value,
               at_b = test::ask(PowerQuery(c, moved, 0.5)).value().run_time.value;
    EXPECT_NE(PowerQuery(c, {}, 0.5).key(), PowerQuery(c, moved, 0.5).key());
    EXPECT_GT(at_a, 3 * at_b) << "ten times the resistor lasts longer";
}

}  // namespace
}  // namespace elkit
