// The list of wires: every pin off the board joined once, in order, with what it carries.
#include "kit/wire_list.hpp"

#include <gtest/gtest.h>

#include <algorithm>
#include <map>
#include <set>

#include "circuit/part_kind.hpp"
#include "design/demo.hpp"
#include "recipes/blocks.hpp"
#include "support/circuits.hpp"
#include "support/designs.hpp"
#include "support/recipes.hpp"

namespace elkit {
namespace {
using namespace std::string_literals;

WireList listed(const Design& d) {
    Store store;
    const auto list = Ask(store)(WireListQuery{d.circuit, d.situations});
    EXPECT_TRUE(list) << (list ? "" : list.error().text());
    return *list;
}

/// Ends that wires join, as sets.
class Joined {
  public:
    explicit Joined(const WireList& list) {
        for (const ListedWire& w : list.wires) of_[root(w.from.text())] = root(w.to.text());
    }
    bool together(const std::string& a, const std::string& b) { return root(a) == root(b); }

  private:
    std::string root(const std::string& end) {
        const auto found = of_.find(end);
        return found == of_.end() || found->second == end ? end : root(found->second);
    }
    std::map<std::string, std::string> of_;
};

TEST(WireList, JoinsEveryPinOffTheBoardOnceInEveryDemo) {
    int wired = 0;
    for (const Demo& each : demos()) {
        const std::string& id = each.id;
        const Design d = test::demo(id);
        const WireList list = listed(d);
        std::set<std::pair<std::string, std::string>> seen;
        std::map<std::string, int> points;
        Joined joined(list);
        for (const ListedWire& w : list.wires) {
            ++wired;
            EXPECT_TRUE(seen.emplace(w.from.text(), w.to.text()).second)
                << id << ": " << w.to.text() << " twice";
            EXPECT_EQ(d.circuit.find(w.from.part)->net(w.from.pin), w.net) << id;
            EXPECT_EQ(d.circuit.find(w.to.part)->net(w.to.pin), w.net) << id;
            EXPECT_FALSE(w.to.on_board) << id;
            EXPECT_GT(w.area, 0) << id;
            ++points[w.net];
        }
        // modules and boards: each of their nets that something else meets is reached
        for (const Part& part : d.circuit.parts) {
            const PartKind& kind = *part_kind(part.kind);
            if (!kind.module || kind.is(Role::light)) continue;
            for (const Pin& pin : part.pins) {
                int others = 0;
                for (const Part& other : d.circuit.parts)
                    for (const Pin& p : other.pins)
                        others += p.net == pin.net && other.designator != part.designator &&
                                  !is(other, Role::capacitor) && !is(other, Role::no_current);
                if (pin.net.empty() || others == 0) continue;
                EXPECT_GT(points[pin.net], 0) << id << ": " << part.designator << " " << pin.name;
            }
        }
        EXPECT_TRUE(std::is_sorted(list.wires.begin(), list.wires.end(),
                                   [](const auto& a, const auto& b) { return a.use < b.use; }))
            << id << ": supply pins first";
    }
    EXPECT_GT(wired, 50);
}

TEST(WireList, TellsOfASwitcherWhatEachWireIsForAndCarries) {
    const Design d = test::made("lamp-switcher", {{"channels", 2.0}, {"effect", "press"s}}).value();
    const WireList list = listed(d);
    const Block& b = d.blocks[0];
    const std::string button_net = d.circuit.find(b.parts.at("Sgo"))->net("a");
    std::string pin_of_button;
    for (const Pin& pin : d.circuit.find(b.parts.at("Ucontroller"))->pins)
        if (pin.net == button_net) pin_of_button = pin.name;
    const auto to = [&](const std::string& local, const std::string& pin) -> const ListedWire& {
        const auto found = std::find_if(list.wires.begin(), list.wires.end(), [&](const ListedWire& w) {
            return w.to.part == b.parts.at(local) && w.to.pin == pin;
        });
        EXPECT_NE(found, list.wires.end()) << local << " " << pin;
        return found == list.wires.end() ? list.wires.front() : *found;
    };
    EXPECT_EQ(to("Krelay1", "vcc").use, WireUse::plus);
    EXPECT_EQ(to("Krelay1", "vcc").colour, "orange") << "5 V, told from the supply's red";
    EXPECT_EQ(to("Krelay2", "common").colour, "red");
    EXPECT_NEAR(to("Krelay1", "vcc").current.value, 0.075, 0.005) << "pulled in, in one of the situations";
    EXPECT_EQ(to("Krelay1", "in").use, WireUse::signal);
    EXPECT_NE(to("Krelay1", "in").purpose.find("switches"), std::string::npos);
    EXPECT_NE(to("Ucontroller", pin_of_button).purpose.find("reads " + b.parts.at("Sgo")), std::string::npos);
    EXPECT_EQ(to("L1", "a").use, WireUse::load);
    EXPECT_NEAR(to("L1", "a").current.value, 0.01, 0.003);
    ASSERT_EQ(list.pins.size(), 3u);
    EXPECT_EQ(std::count_if(list.pins.begin(), list.pins.end(),
                            [](const PinFunction& p) { return p.function == "output"; }),
              2);
    EXPECT_GT(list.total.value, 0.07);
    const bool told = std::any_of(list.notes.begin(), list.notes.end(),
                                  [](const std::string& n) { return n.find("3.3") != std::string::npos; });
    EXPECT_TRUE(told) << "what its pins bear";
}

TEST(WireList, HandsDataFromOneMatrixToTheNextAfterTheirSupply) {
    const Design d = test::made("picture-board", {{"matrices", 3.0}}).value();
    const WireList list = listed(d);
    int on = 0;
    for (const ListedWire& w : list.wires)
        if (w.purpose.starts_with("data on to")) {
            ++on;
            EXPECT_EQ(w.from.pin, "out");
            EXPECT_EQ(w.to.pin, "data");
        }
    EXPECT_EQ(on, 2);
}

TEST(WireList, KnowsPlusAndMinusOfASecondSupply) {
    Design d;
    d.circuit =
        test::circuit({"battery B1 +=V -=0 cell=LR6 count=4", "battery B2 +=W -=GND2 cell=LR6 count=3",
                       "relay_module K1 vcc=V gnd=0 in=V common=W no=LAMP", "lamp LP1 a=LAMP b=GND2"});
    const std::map<std::string, WireUse> uses{{"0", WireUse::ground},
                                              {"GND2", WireUse::ground},
                                              {"V", WireUse::plus},
                                              {"W", WireUse::plus},
                                              {"LAMP", WireUse::load}};
    std::set<std::string> seen;
    const WireList list = listed(d);
    for (const ListedWire& w : list.wires) {
        seen.insert(w.net);
        EXPECT_EQ(w.use, uses.at(w.net)) << w.net << ": " << w.to.text();
    }
    EXPECT_EQ(seen.size(), uses.size());
}

TEST(WireList, IsNothingForABoardWithALeadedCellOnly) {
    EXPECT_FALSE(joined_by_wires(test::demo("twin-blinker").circuit));
    EXPECT_TRUE(joined_by_wires(test::demo("tide-board").circuit));
    const CsvTable table = wires_csv(listed(test::demo("tide-board")));
    EXPECT_EQ(table.front().size(), table.back().size());
}

}  // namespace
}  // namespace elkit
