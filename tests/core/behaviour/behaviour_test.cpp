// The behaviour table: as text, at work, and as C99 that does the same.
#include <fmt/format.h>
#include <fmt/ranges.h>
#include <gtest/gtest.h>

#include <cmath>
#include <cstdlib>
#include <filesystem>
#include <fstream>
#include <sstream>

#include "behaviour/c99.hpp"
#include "behaviour/machine.hpp"
#include "behaviour/rows.hpp"
#include "circuit/part_kind.hpp"
#include "design/demo.hpp"
#include "quantity/random.hpp"
#include "support/designs.hpp"

namespace elkit {
namespace {

const std::vector<PinAbility> six_pins{{"P0", true, false}, {"P1", true, false}, {"P2", true, true},
                                       {"P3", false, true}, {"P4", true, true},  {"P5", false, true}};

Program program(const std::string& text) {
    auto b = behaviour_of(text);
    EXPECT_TRUE(b) << (b ? "" : b.error().text());
    auto p = program_of(b.value(), six_pins, 10);
    EXPECT_TRUE(p) << (p ? "" : p.error().text());
    return std::move(p).value();
}

/// Levels of the first output over so many ticks in which all inputs are high.
std::vector<int> run(const Program& p, int ticks) {
    const PinsSeen seen{std::vector<bool>(p.inputs.size(), true),
                        std::vector<std::uint32_t>(p.sensors.size(), 0)};
    Machine m(p, seen);
    std::vector<int> levels;
    for (int k = 0; k < ticks; ++k) m.step(seen), levels.push_back(m.levels()[0]);
    return levels;
}

TEST(BehaviourText, IsReadBackAsItWasWritten) {
    for (const char* text :
         {"state lit; P0 on",
          "sinks P0 P1 P2; state a; P0 P1 P2 colours ff0000 00ff00 0000ff 6s; after 60s to b; "
          "state b sleeps; press P3 to a",
          "state x; P0 on 40%; P1 blink 1s 30%; P2 rise 250ms; press P3 to y; hold P3 2s to x; state y; P0 "
          "breathe 4s; "
          "P1 P2 chase 200ms; P4 flicker 80ms; release P3 to x; high P5 to x; low P5 to y",
          "state cold; P0 on; above P2 45.5% to warm; state warm; below P2 40% to cold",
          "state warm sleeps 2s; above P2 45.5% to cold; after 3600s to cold; state cold; P0 on"}) {
        const auto b = behaviour_of(text);
        ASSERT_TRUE(b) << b.error().text();
        EXPECT_EQ(text_of(b.value()), text);
        EXPECT_EQ(behaviour_of(text_of(b.value())).value(), b.value());
    }
}

TEST(BehaviourText, SaysWhichStatementIsWrongAndWhatWasExpected) {
    for (const auto& [text, place, expected] :
         {std::tuple{"", "behaviour", "\"state\""},
          {"P0 on", "statement 1", "\"state\""},
          {"state a; P0 blink", "statement 2", "a time"},
          {"state a; P0 blink 3", "statement 2", "a time"},
          {"state a; P0 blink 9999h", "statement 2", "a time"},
          {"state a; P0 on 140%", "statement 2", "a share"},
          {"state a; P0 shine", "statement 2", "what they do"},
          {"state a; on", "statement 2", "pins before it"},
          {"state a; P0 colours ff0000 00ff00 1s", "statement 2", "three pins"},
          {"state a; P0 P1 P2 colours ff0000 1s", "statement 2", "two colours"},
          {"state a; P0 chase 1s", "statement 2", "two pins"},
          {"state a; state A", "statement 2", "another name"},
          {"state a/b", "statement 1", "letters"},
          {"state a; press P3", "statement 2", "\"to\""},
          {"state a; press P3 to", "statement 2", "a state"},
          {"state a; after 1s to b", "behaviour", "one of the table"},
          {"state a; P0 on; P0 off", "behaviour", "once"},
          {"state a sleeps; P0 on", "behaviour", "off"},
          {"state a sleeps; after 1s to a", "behaviour", "wake"},
          {"state a sleeps 2s; hold P3 1s to a", "behaviour", "after"},
          {"state a sleeps often", "statement 1", "a time"},
          {"state a sleeps 2s 3s", "statement 1", "how often"}}) {
        const auto b = behaviour_of(text);
        ASSERT_FALSE(b) << text;
        EXPECT_NE(b.error().place.find(place), std::string::npos) << text << ": " << b.error().text();
        EXPECT_NE(b.error().expected.find(expected), std::string::npos) << text << ": " << b.error().text();
    }
    EXPECT_FALSE(behaviour_of(std::string(9000, 'x')));
}

/// A table at random, of all that there is.
std::string random_table(Random& dice) {
    const auto below = [&](int n) { return static_cast<int>(dice.unit() * n); };
    const auto time = [&] { return fmt::format("{}ms", 10 * (1 + below(30))); };
    const int states = 1 + below(4);
    std::string text = below(3) == 0 ? "sinks P0; " : "";
    for (int s = 0; s < states; ++s) {
        const bool sleeps = s > 0 && below(4) == 0;
        const bool looks = sleeps && below(2);
        text += fmt::format("state s{}{}{}; ", s, sleeps ? " sleeps" : "", looks ? " " + time() : "");
        const auto to = [&] { return fmt::format(" to s{}; ", below(states)); };
        if (!sleeps) {
            if (below(4) == 0) {
                text += below(2) ? "P0 P1 P4 colours ff0080 10ff00 0000ff " + time() + "; "
                                 : "P0 P1 P4 chase " + time() + "; ";
            } else {
                for (const char* pin : {"P0", "P1", "P4"}) {
                    const std::array<std::string, 7> all{"on 37%",
                                                         "off",
                                                         "blink " + time() + " 30%",
                                                         "rise " + time(),
                                                         "fall " + time(),
                                                         "breathe " + time(),
                                                         "flicker " + time()};
                    text += fmt::format("{} {}; ", pin, all[static_cast<std::size_t>(below(7))]);
                }
            }
            if (below(2)) text += "after " + time() + to();
            if (below(2)) text += fmt::format("above P2 {}%", 5 * below(20)) + to();
            if (below(2)) text += fmt::format("below P2 {}%", 5 * below(20)) + to();
            if (below(3) == 0) text += "hold P3 " + time() + to();
        } else {
            text += "P0 off; ";
            if (looks && below(2)) text += "after " + time() + to();
            if (looks) text += fmt::format("below P2 {}%", 5 * below(20)) + to();
        }
        if (below(2) || sleeps) text += "press P3" + to();
        if (below(3) == 0) text += "release P3" + to();
        if (below(4) == 0) text += (below(2) ? "high P5" : "low P5") + to();
    }
    if (text.find("P0") == std::string::npos || text.starts_with("sinks P0; state s0 sleeps"))
        text += "P0 on";
    return text;
}

TEST(BehaviourRows, AreReadBackForTablesAtRandom) {
    Random dice(22);
    for (int k = 0; k < 200; ++k) {
        const Behaviour table = behaviour_of(random_table(dice)).value();
        const auto lines = lines_of(table);
        const auto back = with_lines(lines, table.sinks);
        ASSERT_TRUE(back) << text_of(table) << "\n" << back.error().text();
        EXPECT_EQ(back.value(), table) << text_of(table);
        for (const BehaviourLine& line : lines) {
            const auto words = behaviour_words(line.is);
            EXPECT_NE(std::find(words.begin(), words.end(), line.what), words.end()) << line.what;
            EXPECT_EQ(line.to.empty(), line.is != BehaviourLine::Is::leads);
        }
        const std::string last = table.states.back().name;
        EXPECT_EQ(beginning_in(table, last).states.front().name, last);
        EXPECT_EQ(beginning_in(table, last).states.size(), table.states.size());
    }
    const auto wrong = with_lines({{BehaviourLine::Is::state, "awake", "a", "", ""},
                                   {BehaviourLine::Is::leads, "press", "P3", "", "b"}},
                                  {});
    ASSERT_FALSE(wrong);
    EXPECT_NE(wrong.error().found.find("no state b"), std::string::npos) << wrong.error().text();
}

TEST(BehaviourRows, BeginWithWhatIsNotThereYet) {
    using Is = BehaviourLine::Is;
    auto lines = lines_of(behaviour_of("state state1; P0 P1 chase 1s; press P3 to state1").value());
    const std::vector<std::string> pins{"P0", "P1", "P2", "P3"};
    for (const Is is : {Is::state, Is::shows, Is::leads}) lines.push_back(another_line(is, lines, pins));
    EXPECT_EQ(text_of(with_lines(lines, {}).value()),
              "state state1; P0 P1 chase 1s; press P3 to state1; state state2; P2 on; after 2s to state1");
    EXPECT_EQ(another_line(Is::shows, lines, pins).pins, "P0") << "all are in use";
}

TEST(BehaviourProgram, RefusesPinsThatCannotDoIt) {
    for (const auto& [text, found] : {std::pair{"state a; P9 on", "no pin P9"},
                                      {"state a; P3 breathe 1s", "P3 cannot dim"},
                                      {"state a; above P0 50% to a", "P0 cannot measure"},
                                      {"state a; P3 on; press P3 to a", "output too"},
                                      {"sinks P1; state a; P0 on", "P1 sinks"}}) {
        const auto p = program_of(behaviour_of(text).value(), six_pins, 10);
        ASSERT_FALSE(p) << text;
        EXPECT_NE(p.error().found.find(found), std::string::npos) << p.error().text();
    }
}

TEST(BehaviourMachine, BlinksFadesAndChasesInTicksOfTenMilliseconds) {
    const auto blink = run(program("state a; P0 blink 100ms 30%"), 20);
    for (int k = 0; k < 20; ++k) EXPECT_EQ(blink[static_cast<std::size_t>(k)], k % 10 < 3 ? 255 : 0) << k;
    const auto rise = run(program("state a; P0 rise 1s"), 150);
    EXPECT_EQ(rise[0], 0);
    EXPECT_EQ(rise[100], 255);
    EXPECT_EQ(rise[149], 255) << "and stays";
    for (std::size_t k = 1; k < rise.size(); ++k) EXPECT_GE(rise[k], rise[k - 1]);
    // half way it looks half as bright: lightness 50, a luminance of 18.4 % (CIE 1976)
    EXPECT_NEAR(rise[50] / 255.0, 0.184, 0.006);
    const auto chase = run(program("state a; P0 P1 P2 chase 20ms"), 12);
    EXPECT_EQ(chase, (std::vector<int>{255, 255, 0, 0, 0, 0, 255, 255, 0, 0, 0, 0}));
    EXPECT_EQ(run(program("sinks P0; state a; P0 on"), 1)[0], 0);
}

TEST(BehaviourMachine, GoesOnByPressHoldTimeAndLevel) {
    const Program p = program(
        "state rest; press P3 to lit; hold P3 50ms to held; state lit; P0 on; after 100ms to rest; "
        "above P2 50% to warm; state held; P1 on; state warm; P0 on 50%; below P2 48% to rest");
    PinsSeen seen{{true}, {0}};
    Machine m(p, seen);
    const auto steps = [&](int n) {
        for (int k = 0; k < n; ++k) m.step(seen);
        return p.states[m.state()].name;
    };
    EXPECT_EQ(steps(100), "rest");
    seen.high[0] = false;
    EXPECT_EQ(steps(1), "lit");
    EXPECT_EQ(steps(9), "lit");
    EXPECT_EQ(steps(1), "rest") << "after ten ticks";
    EXPECT_EQ(steps(20), "rest") << "the button is still down: no second press, and it was held elsewhere";
    seen.high[0] = true, steps(1), seen.high[0] = false;
    EXPECT_EQ(steps(1), "lit");
    seen.counts[0] = 512;
    EXPECT_EQ(steps(1), "warm");
    seen.counts[0] = 500;
    EXPECT_EQ(steps(5), "warm") << "between both thresholds";
    seen.counts[0] = 491;
    EXPECT_EQ(steps(1), "rest");
}

TEST(BehaviourMachine, KnowsWhatComesOfIt) {
    const auto course = [&](const char* text) {
        const Program p = program(text);
        const PinsSeen nothing{std::vector<bool>(p.inputs.size(), true),
                               std::vector<std::uint32_t>(p.sensors.size(), 0)};
        Machine m(p, nothing);
        m.step(nothing);
        return m.course(nothing);
    };
    for (const char* rests :
         {"state a; P0 on", "state a; P0 rise 1s", "state a; P0 blink 1s; after 1h to b; state b"})
        EXPECT_EQ(course(rests).period, 0u) << rests;
    EXPECT_EQ(course("state a; P0 rise 1s").begins, 100u);
    EXPECT_EQ(course("state a; P0 blink 300ms; P1 blink 200ms").period, 60u);
    EXPECT_EQ(course("state a; P0 breathe 4s").period, 400u);
    EXPECT_EQ(course("state a; P0 on; after 1s to b; state b; after 500ms to a").period, 150u);
    EXPECT_EQ(course("state a; P0 on; after 1h to b; state b; after 1h to a").period, 720'000u);
    EXPECT_EQ(course("state a sleeps 2s; above P2 50% to b; state b").period, 200u) << "from look to look";
    EXPECT_EQ(course("state a sleeps 10ms; above P2 50% to b; state b").period, 2u) << "as often as it can";
    EXPECT_EQ(course("state a sleeps 2s; after 5s to b; state b; after 1s to a").period, 700u);
    const auto later = course("state a; P0 rise 2s; after 3s to b; state b; P0 blink 400ms");
    EXPECT_EQ(later.period, 40u);
    EXPECT_EQ(later.begins, 300u);
    EXPECT_FALSE(later.random);
    EXPECT_TRUE(course("state a; P0 flicker 100ms").random);
    EXPECT_FALSE(course("state a; P0 flicker 100ms; after 1s to b; state b").random) << "it rests in the end";
}

/// A hardware layer that reads what its pins see from a script, one line a tick, and writes what it shows.
constexpr const char* recording_hardware = R"(#include <stdio.h>
#include "behaviour.h"
#include "hardware.h"
static int seen[2000][32], shown[32], count, pins, tick;
void hardware_start(void) {}
void hardware_show(uint8_t pin, uint8_t level) { shown[pin] = level; }
uint8_t hardware_high(uint8_t pin) { return seen[tick][pin] != 0; }
uint16_t hardware_measure(uint8_t pin) { return (uint16_t)seen[tick][pin]; }
static void show(void) {
    for (int k = 0; k < pins; ++k) printf("%d ", shown[k]);
    printf("\n");
}
void hardware_wait(void) { show(); ++tick; }
void hardware_sleep(uint32_t ticks) {
    int from = tick, same = 1;
    while (tick < count && same && (ticks == 0 || tick < from + (int)ticks)) {
        show(), ++tick;
        for (int k = 0; k < pins && tick < count; ++k) same = same && seen[tick][k] == seen[from][k];
    }
}
int main(void) {
    if (scanf("%d %d", &count, &pins) != 2 || count > 2000 || pins > 32) return 1;
    for (int t = 0; t < count; ++t)
        for (int k = 0; k < pins; ++k)
            if (scanf("%d", &seen[t][k]) != 1) return 1;
    behaviour_start();
    while (tick < count) {
        behaviour_step();
        if (behaviour_sleeps()) hardware_sleep(behaviour_nap()); else hardware_wait();
    }
    return 0;
}
)";

class Exported {
  public:
    explicit Exported(const Program& p) : program_(p) {
        for (const auto* pins : {&p.outputs, &p.inputs, &p.sensors})
            for (const std::string& pin : *pins)
                if (std::find(pins_.begin(), pins_.end(), pin) == pins_.end()) pins_.push_back(pin);
        const char* pattern = "elkit_c99_";
        do folder_ = std::filesystem::temp_directory_path() / (pattern + std::to_string(std::rand()));
        while (!std::filesystem::create_directory(folder_));
        for (const auto& [name, text] : c99_of(p, "a */ test\n?\?/")) std::ofstream(folder_ / name) << text;
        std::ofstream(folder_ / "main.c") << recording_hardware;
    }
    ~Exported() { std::filesystem::remove_all(folder_); }
    bool compiles() const {
        return std::system(fmt::format("cd '{}' && gcc -std=c99 -pedantic -Wall -Wextra -Werror -O1 "
                                       "behaviour.c main.c -o run",
                                       folder_.string())
                               .c_str()) == 0;
    }
    /// Levels of all pins at each tick, by the C.
    std::vector<std::vector<int>> run(const std::vector<std::vector<int>>& seen) const {
        {
            std::ofstream in(folder_ / "in");
            in << seen.size() << ' ' << pins_.size() << '\n';
            for (const auto& tick : seen) in << fmt::format("{}\n", fmt::join(tick, " "));
        }
        EXPECT_EQ(std::system(fmt::format("cd '{}' && ./run < in > out", folder_.string()).c_str()), 0);
        std::ifstream out(folder_ / "out");
        std::vector<std::vector<int>> shown;
        for (std::string line; std::getline(out, line);) {
            std::istringstream words(line);
            std::vector<int> levels;
            for (int level = 0; words >> level;) levels.push_back(level);
            levels.resize(program_.outputs.size());
            shown.push_back(std::move(levels));
        }
        return shown;
    }
    const std::vector<std::string>& pins() const { return pins_; }

  private:
    const Program& program_;
    std::vector<std::string> pins_;
    std::filesystem::path folder_;
};

PinsSeen seen_at(const Program& p, const std::vector<std::string>& pins, const std::vector<int>& values) {
    const auto value = [&](const std::string& pin) {
        return values[static_cast<std::size_t>(std::find(pins.begin(), pins.end(), pin) - pins.begin())];
    };
    PinsSeen seen;
    for (const std::string& pin : p.inputs) seen.high.push_back(value(pin) != 0);
    for (const std::string& pin : p.sensors) seen.counts.push_back(static_cast<std::uint32_t>(value(pin)));
    return seen;
}

void expect_same(const Program& p, const std::vector<std::vector<int>>& script, const Exported& c,
                 const std::string& words) {
    const auto shown = c.run(script);
    ASSERT_EQ(shown.size(), script.size()) << words;
    Machine m(p, seen_at(p, c.pins(), script[0]));
    std::vector<int> slept;  // what was seen as it fell asleep, and when it looks
    std::size_t looks = 0;
    for (std::size_t tick = 0; tick < script.size(); ++tick) {
        if (slept.empty() || slept != script[tick] || tick == looks) {
            m.step(seen_at(p, c.pins(), script[tick]));
            looks = m.looks() ? tick + m.nap() : 0;
            slept = m.sleeps() ? script[tick] : std::vector<int>();
        }
        const std::vector<int> levels(m.levels().begin(), m.levels().end());
        ASSERT_EQ(shown[tick], levels) << words << "\nat tick " << tick;
    }
}

void go_on(Machine& m, const PinsSeen& seen, std::uint32_t ticks) {
    while (ticks >= m.nap()) ticks -= m.nap(), m.step(seen);
}

/// Quiet steps left out come to the same as each of them; and from where its course begins it repeats.
void expect_quiet_when_it_says_so(const Program& p, const std::vector<std::vector<int>>& script,
                                  const std::vector<std::string>& pins, const std::string& words) {
    Machine m(p, seen_at(p, pins, script[0]));
    for (std::size_t tick = 0; tick < 300; ++tick) {
        const PinsSeen seen = seen_at(p, pins, script[tick]);
        m.step(seen);
        const std::uint32_t quiet = std::min(m.quiet(seen), 500U);
        Machine stepped = m, jumped = m;
        for (std::uint32_t k = 0; k < quiet; ++k) {
            stepped.step(seen);
            ASSERT_EQ(stepped.levels(), m.levels()) << words;
        }
        jumped.pass(quiet);
        for (int k = 0; k < 50; ++k) {
            stepped.step(seen), jumped.step(seen);
            ASSERT_EQ(stepped.levels(), jumped.levels()) << words;
            ASSERT_EQ(stepped.state(), jumped.state()) << words;
        }
        const Machine::Course course = m.course(seen);
        if (course.random || course.begins > 5000 || course.period > 5000) continue;
        go_on(m, seen, course.begins);
        Machine later = m;
        go_on(later, seen, course.period);
        for (int k = 0; k < 100; ++k) {
            ASSERT_EQ(later.levels(), m.levels()) << words << "\nat tick " << tick;
            m.step(seen), later.step(seen);
            if (course.period == 0) {
                ASSERT_EQ(m.levels(), later.levels());
            }
        }
    }
}

/// Compares what the C shows with the simulation while inputs and sensors change at random.
void expect_same_at_random(const Program& p, const std::string& words, Random& dice) {
    const Exported c(p);
    ASSERT_TRUE(c.compiles()) << words;
    std::vector<std::vector<int>> script;
    std::vector<int> now(c.pins().size(), 1);
    for (int tick = 0; tick < 1500; ++tick) {
        for (std::size_t pin = 0; pin < now.size(); ++pin)
            if (dice.unit() < 0.03)
                now[pin] = std::find(p.sensors.begin(), p.sensors.end(), c.pins()[pin]) != p.sensors.end()
                               ? static_cast<int>((1 << p.bits) * dice.unit())
                               : 1 - (now[pin] != 0);
        script.push_back(now);
    }
    expect_same(p, script, c, words);
    expect_quiet_when_it_says_so(p, script, c.pins(), words);
}

TEST(BehaviourExport, DoesTheSameTickByTickForTablesAtRandom) {
    Random dice(20);
    for (int k = 0; k < 24; ++k) {
        const std::string text = random_table(dice);
        const auto table = behaviour_of(text);
        ASSERT_TRUE(table) << text << "\n" << table.error().text();
        const auto made = program_of(table.value(), six_pins, 10);
        ASSERT_TRUE(made) << text << "\n" << made.error().text();
        expect_same_at_random(made.value(), text, dice);
    }
}

TEST(BehaviourExport, DoesTheSameForEveryDemoWithAController) {
    Random dice(21);
    int count = 0;
    for (const Demo& demo : demos())
        for (const Part& part : test::demo(demo.id).circuit.parts)
            if (part_kind(part.kind)->controller) {
                expect_same_at_random(program_of(part).value(), demo.id, dice);
                ++count;
            }
    EXPECT_GE(count, 1);
}

}  // namespace
}  // namespace elkit
