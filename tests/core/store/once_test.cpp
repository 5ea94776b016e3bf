// Nothing is solved twice for the same content, whoever asks.
#include <gtest/gtest.h>

#include "circuit/part_kind.hpp"
#include "design/demo.hpp"
#include "design/file.hpp"
#include "drawer/import.hpp"
#include "drawer/values.hpp"
#include "kit/leaflet.hpp"
#include "light/light.hpp"
#include "recipes/variants.hpp"
#include "support/designs.hpp"
#include "support/studies.hpp"

namespace elkit {
namespace {

/// Everything that the window, the leaflet and the command line ask for.
void ask_everything(Store& store, const Design& d, const Conditions& c) {
    const Ask ask(store);
    const Keyed<Circuit> circuit(d.circuit);
    const Keyed<std::vector<DrawerItem>> drawer(demo_stock());
    (void)ask(RestQuery(circuit, c));
    (void)ask(RunQuery(circuit, c));
    (void)ask(LightQuery(circuit, c));
    (void)ask(BinsQuery(circuit, c));
    (void)ask(PowerQuery(circuit, c, d.brief.end_brightness));
    (void)ask(BoardQuery{circuit, d.board});
    (void)ask(StepsQuery{circuit, d.board, d.brief.for_children});
    (void)ask(parts_query(d, drawer));
    if (!d.blocks.empty()) (void)ask(VariantsQuery(d, 0, c, values_in(*drawer)));
    (void)ask(LeafletQuery{d, drawer});
    (void)review(ask, d, c, drawer);
}

class Demos : public ::testing::TestWithParam<std::string> {};

/// One test, as everything of a demo takes seconds.
TEST_P(Demos, AreSoundAndComputedOnceAndThenOnlyWhatChanges) {
    const Design d = read_design(find_demo(GetParam())->text).value();
    Store store;
    const Ask ask(store);
    ask_everything(store, d, {});
    EXPECT_EQ(store.repeated(), 0u);
    for (const Finding& f : review(ask, d, {}, demo_stock()))
        EXPECT_NE(f.severity, Severity::error) << f.title << " " << f.detail;
    const auto before = store.counts();
    ask_everything(store, d, {});
    EXPECT_EQ(store.counts(), before) << "asked again, nothing is computed";

    Design written = d;
    written.brief.purpose = "another";
    written.record_for("solder.R1").done = true;
    written.record_for("solder.R1").note = "done on Sunday";
    written.decisions.push_back({"sag", "it may", {}});
    (void)ask(PowerQuery(Keyed<Circuit>(written.circuit), {}, written.brief.end_brightness));
    (void)review(ask, written, {}, demo_stock());
    EXPECT_EQ(store.counts(), before) << "names and ticks start nothing";

    Conditions c;
    c.battery = 0.8;
    (void)ask(RestQuery(Keyed<Circuit>(d.circuit), c));  // the stave
    (void)review(ask, d, c, demo_stock());
    auto after = store.counts();
    const std::size_t solved = any(d.circuit, Role::cells);  // others do not empty
    EXPECT_EQ(after["operating point"], before.at("operating point") + solved)
        << "a slider solves what is in view";
    after["operating point"] -= solved;
    EXPECT_EQ(after, before) << "findings rest on fresh cells";
}

INSTANTIATE_TEST_SUITE_P(All, Demos, ::testing::ValuesIn(test::demo_ids()), test::demo_name);

}  // namespace
}  // namespace elkit
