// What every kind of part has to bring with it, so that rules, pictures, boards, steps and lists can go over
// it.
#include <gtest/gtest.h>

#include <set>

#include "board/board.hpp"
#include "board/leg_picture.hpp"
#include "build/steps.hpp"
#include "catalogue/catalogue.hpp"
#include "circuit/part_words.hpp"
#include "drawer/import.hpp"
#include "drawing/symbol.hpp"
#include "engine/device.hpp"
#include "engine/queries.hpp"
#include "kit/leaflet.hpp"
#include "light/strings.hpp"
#include "support/circuits.hpp"
#include "support/designs.hpp"
#include "support/studies.hpp"

namespace elkit::test {
namespace {

class Kind : public ::testing::TestWithParam<std::string> {
  protected:
    const PartKind& kind = *part_kind(GetParam());
    /// One with all of its pins joined.
    Part part() const { return around(kind).parts.back(); }
    bool has_pin(const std::string& name) const {
        return std::find(kind.pins.begin(), kind.pins.end(), name) != kind.pins.end();
    }
    void expect_number(const std::string& key) const {
        const ParamInfo* info = kind.param(key);
        ASSERT_NE(info, nullptr) << kind.id << " has no parameter " << key;
        EXPECT_TRUE(std::holds_alternative<double>(info->standard)) << key;
        EXPECT_FALSE(std::isnan(part().number(key)))
            << kind.id << " " << key << ": neither it nor its type says";
    }
};

TEST_P(Kind, NamesOnlyPinsAndParametersThatItHas) {
    for (const Limit& l : kind.limits) {
        expect_number(l.param);
        EXPECT_FALSE(l.what.empty() || l.advice.empty());
        for (const auto& pin : l.pins) EXPECT_TRUE(pin == "*" || has_pin(pin)) << pin;
        if (l.reading == Limit::Reading::across) {
            EXPECT_EQ(l.pins.size(), 2u);
        }
    }
    for (const Need& n : kind.needs) {
        for (const auto& pin : n.pins) EXPECT_TRUE(has_pin(pin)) << pin;
        for (const auto& pin : {n.pin, n.to, n.partner}) EXPECT_TRUE(pin.empty() || has_pin(pin)) << pin;
    }
    if (kind.supply) {
        EXPECT_TRUE(has_pin(kind.supply->plus) && has_pin(kind.supply->minus));
        for (const auto& key : kind.supply->low) expect_number(key);
        expect_number(kind.supply->high);
    }
    if (kind.direct_current) {
        std::set<std::string> once;
        for (const auto& group : *kind.direct_current)
            for (const auto& pin : group) EXPECT_TRUE(has_pin(pin) && once.insert(pin).second) << pin;
    }
    for (const auto* joints : {&kind.joined_open, &kind.joined_closed, &kind.joined, &kind.dies})
        for (const auto& [a, b] : *joints) EXPECT_TRUE(has_pin(a) && (has_pin(b) || kind.param(b))) << a << b;
    for (const auto& pin : kind.drives) EXPECT_TRUE(has_pin(pin)) << pin;
    for (const auto& pin : {kind.side_pin, kind.against}) EXPECT_TRUE(pin.empty() || has_pin(pin)) << pin;
    if (!kind.level.empty()) expect_number(kind.level);
    EXPECT_EQ(kind.is(Role::contact), !kind.rest.param.empty());
    EXPECT_EQ(kind.is(Role::contact), kind.control == "contact" || kind.control == "push");
    if (!kind.rest.param.empty()) {
        EXPECT_NE(kind.param(kind.rest.param), nullptr);
    }
    for (const auto& p : kind.params) {
        EXPECT_TRUE(p.with.empty() || kind.param(p.with)) << p.key;
        if (std::holds_alternative<std::string>(p.standard) && p.written == ParamInfo::Written::no) {
            EXPECT_FALSE(text_choices(kind.id, p.key).empty()) << p.key;
        }
    }
}

TEST_P(Kind, ShowsItsLegsWhereTheyDiffer) {
    const Part one = part();
    const Drawing legs =
        leg_picture(one, footprint(one), [](const std::string& pin) { return "hole " + pin; });
    const bool alike = !kind.polarised && (kind.pins.size() <= 2 || footprint(one).row > 0);
    if (kind.legs.view.empty()) {
        EXPECT_TRUE(alike) << "someone will put it in the wrong way round";
        EXPECT_TRUE(legs.items.empty());
        return;
    }
    std::set<std::string> words;
    for (const Item& item : legs.items)
        if (const auto* text = std::get_if<Text>(&item.shape)) {
            words.insert(text->text);
            EXPECT_TRUE(text->y <= legs.height && text->y >= 0) << text->text;
        }
    for (const Pad& pad : footprint(one).pads)
        if (!pad.pin.empty()) {
            EXPECT_TRUE(words.contains(pad.pin)) << pad.pin;
            EXPECT_TRUE(words.contains("hole " + pad.pin)) << pad.pin;
        }
    for (const Legs::Mark& m : kind.legs.marks) {
        EXPECT_TRUE(has_pin(m.pin)) << m.pin;
        EXPECT_TRUE(std::set<std::string>({"long", "flat", "stripe", "red", "black", "first", "pair"})
                        .contains(m.mark));
    }
}

TEST_P(Kind, HasADevice) {
    const auto device = make_device(part(), known_catalogue(), {}, {});
    ASSERT_TRUE(device) << device.error().text();
    EXPECT_EQ(device.value() == nullptr, kind.is(Role::no_current));
}

TEST_P(Kind, SaysWhichConditionsItReads) {
    auto device = make_device(part(), known_catalogue(), {}, {});
    if (!device.value()) {
        EXPECT_TRUE(kind.reads.empty());
        return;
    }
    const std::string name = part().designator;
    const std::vector<std::pair<std::string, std::function<void(Conditions&)>>> changes{
        {"battery", [](Conditions& c) { c.battery = 0.4; }},
        {"celsius", [](Conditions& c) { c.celsius = 45; }},
        {"lux", [](Conditions& c) { c.lux = 7; }},
        {"infrared", [](Conditions& c) { c.infrared = 11; }},
        {"switch", [&](Conditions& c) { c.switches[name] = !c.closed(part()) || kind.is(Role::momentary); }},
        {"knob", [&](Conditions& c) { c.knobs[name] = 0.2; }},
        {"level", [&](Conditions& c) { c.levels[name] = 1.25; }}};
    const Circuit circuit = around(kind);
    for (const auto& [condition, change] : changes) {
        Conditions c;
        change(c);
        auto fresh = make_device(part(), known_catalogue(), {}, {});
        const bool reacts = fresh.value()->configure(c);
        if (!kind.reads_condition(condition)) {
            EXPECT_FALSE(reacts) << kind.id << " reads " << condition << " and does not say so";
            EXPECT_EQ(content_digest(as_seen({{part()}}, c)), content_digest(as_seen({{part()}}, {})))
                << condition;
        }
        // what it does not name may not change what the whole circuit does either
        bool read = false;
        for (const Part& p : circuit.parts) read = read || part_kind(p.kind)->reads_condition(condition);
        if (read) continue;
        const auto before = operating_point(circuit, known_catalogue(), {}),
                   after = operating_point(circuit, known_catalogue(), c);
        ASSERT_TRUE(before && after);
        EXPECT_EQ(before.value().voltages, after.value().voltages) << kind.id << " " << condition;
    }
}

TEST_P(Kind, HasASymbolAndAFootprintForEachOfItsPins) {
    EXPECT_TRUE(has_symbol(kind.symbol)) << kind.symbol;
    for (const FootprintChoice& f : kind.footprints) {
        EXPECT_NE(find_footprint(f.id), nullptr) << f.id;
        EXPECT_TRUE(f.param.empty() || kind.param(f.param) ||
                    !std::isnan(known_catalogue().type_value(kind.id, part().text("type"), f.param)))
            << f.param;
    }
    ASSERT_FALSE(kind.footprints.empty());
    EXPECT_TRUE(kind.footprints.back().param.empty() || kind.footprints.back().to > 1e299)
        << "one suits any value";
    const Footprint f = footprint(part());
    std::set<std::string> pins;
    std::set<std::pair<double, double>> places;
    for (const Pad& pad : f.pads) {
        EXPECT_TRUE(places.emplace(pad.x, pad.y).second) << "two pads in one place";
        if (!pad.pin.empty()) {
            EXPECT_TRUE(has_pin(pad.pin) && pins.insert(pad.pin).second) << pad.pin;
        }
    }
    for (const Pin& pin : part().pins) EXPECT_TRUE(pins.contains(pin.name)) << pin.name << " has no pad";
    EXPECT_GT(f.height, 0);
    EXPECT_LT(f.body.x0, f.body.x1);
}

TEST_P(Kind, IsToldApartAndNamedAsAShopWould) {
    Part one = part();
    EXPECT_FALSE(kind.identity.family.empty() || kind.identity.name.empty());
    EXPECT_EQ(shop_name(one).find('{'), std::string::npos) << shop_name(one);
    for (const std::string& key : kind.identity.by) {
        const ParamInfo* info = kind.param(key);
        ASSERT_NE(info, nullptr) << key;
        Part other = one;
        if (std::holds_alternative<double>(info->standard))
            other.params[key] = std::min(info->high, 2 * one.number(key));
        else
            for (const auto& choice : text_choices(kind.id, key))
                if (choice != one.text(key)) other.params[key] = choice;
        if (other.params.contains(key)) {
            EXPECT_NE(drawer_key(other), drawer_key(one)) << key;
        }
    }
    EXPECT_EQ(value_text(one).find('{'), std::string::npos);
}

TEST_P(Kind, GoesOnABoardIntoTheStepsAndTheLeaflet) {
    Design d;
    d.name = "Around a " + kind.name;
    d.circuit = around(kind);
    const Ask ask(shared_store());
    const auto board = ask(BoardQuery{d.circuit, d.board});
    ASSERT_TRUE(board) << board.error().text();
    EXPECT_TRUE(board->differences.empty()) << board->differences.front();
    const auto steps = ask(StepsQuery{d.circuit, d.board, false});
    ASSERT_TRUE(steps) << steps.error().text();
    const std::string name = part().designator;
    bool built = false;
    for (const BuildStep& s : *steps) {
        for (const auto& words : {s.title, s.text, s.polarity, s.caution})
            EXPECT_EQ(words.find('{'), std::string::npos) << s.id << ": " << words;
        built = built || s.id == "solder." + name || s.id == "wire." + name;
    }
    EXPECT_TRUE(built) << name << " is built at some step";
    if (kind.polarised && !kind.is(Role::on_leads) && !kind.is(Role::bench)) {
        for (const BuildStep& s : *steps)
            if (s.id == "solder." + name) {
                EXPECT_FALSE(s.polarity.empty()) << "which way round?";
            }
    }
    const auto pages = ask(LeafletQuery{d, demo_stock()});
    ASSERT_TRUE(pages) << pages.error().text();
    const auto list = ask(parts_query(d, demo_stock()));
    const bool listed = std::any_of(list->lines.begin(), list->lines.end(), [&](const PartsLine& l) {
        return l.designators.find(name) != std::string::npos;
    });
    EXPECT_EQ(listed, !kind.is(Role::bench));
}

TEST_P(Kind, IsJudgedWithoutTwoFindingsOfOneId) {
    Design d;
    d.circuit = around(kind);
    std::set<std::string> ids;
    for (const Finding& f : findings(d)) EXPECT_TRUE(ids.insert(f.id).second) << f.id;
}

INSTANTIATE_TEST_SUITE_P(All, Kind, ::testing::ValuesIn([] {
                             std::vector<std::string> ids;
                             for (const PartKind& k : part_kinds()) ids.push_back(k.id);
                             return ids;
                         }()),
                         [](const auto& instance) { return instance.param; });

TEST(Kinds, LightsAreNotDark) {
    Circuit c = circuit({"supply PS1 +=V -=0 voltage=12", "strip LS1 +=V -=0",
                         "resistor R1 a=V b=A value=1000", "prewired_led L2 a=V k=0"});
    c.parts.push_back({"L1", "rgb", {}, {{"r", "A"}, {"g", "A"}, {"b", "A"}, {"common", "0"}}, {}});
    const auto op = solve(c);
    for (const char* name : {"LS1", "L1", "L2"}) {
        Circuit alone = c;
        std::erase_if(alone.parts, [&](const Part& p) { return is(p, Role::light) && p.designator != name; });
        EXPECT_GT(total_intensity(alone, known_catalogue(), op), 0.01) << name;
        Circuit run = c;
        std::erase_if(run.parts, [&](const Part& p) { return is(p, Role::light) && p.designator != name; });
        if (std::string(name) != "L1")
            std::erase_if(run.parts, [](const Part& p) { return p.designator == "R1"; });
        std::erase_if(run.parts, [](const Part& p) { return is(p, Role::source); });
        run.parts.insert(run.parts.begin(), circuit({"battery B1 +=V -=0 cell=LR6 count=8"}).parts.front());
        const auto life = test::discharge(run, {}, 0.9);
        ASSERT_TRUE(life) << life.error().text();
        EXPECT_EQ(life.value().ended_by, "light below 90 % of fresh") << name;
    }
}

TEST(Kinds, CapacitorsOfTwoValuesAreTwoLines) {
    Design d;
    d.circuit =
        circuit({"battery B1 +=V -=0", "capacitor C1 a=V b=0 value=1e-7", "capacitor C2 a=V b=0 value=1e-8",
                 "resistor R1 a=V b=0", "electrolytic C3 +=V -=0 value=1e-5 rating=16",
                 "electrolytic C4 +=V -=0 value=1e-5 rating=25"});
    const auto list = ask(parts_query(d, demo_stock())).value();
    int capacitors = 0;
    for (const PartsLine& l : list.lines)
        if (l.key.starts_with("capacitor/") || l.key.starts_with("electrolytic/")) {
            ++capacitors;
            EXPECT_EQ(l.per_kit.value, 1) << l.key;
        }
    EXPECT_EQ(capacitors, 4);
}

}  // namespace
}  // namespace elkit::test
