// Situations in the window: chips in the strip, the table with the day plan.
#include <QPushButton>
#include <QTableWidget>

#include "app/shell/situation_chips.hpp"
#include "app/widgets/data_table.hpp"
#include "app/widgets/folding_tabs.hpp"
#include "app/widgets/situation_card.hpp"
#include "engine/queries.hpp"
#include "support/circuits.hpp"
#include "window_fixture.hpp"

namespace elkit::test {
namespace {

class InSituations : public Window {
  protected:
    void openCircuit(Circuit c) {
        Design d;
        d.circuit = std::move(c);
        window->session().startNew(d);
        window->session().settle();
    }
    QPushButton* chip(const QString& name) {
        for (auto* b : window->findChildren<SituationChips*>().front()->findChildren<QPushButton*>())
            if (b->text() == name && b->isVisibleTo(window)) return b;
        return nullptr;
    }
    Session& session() { return window->session(); }
};

TEST_F(InSituations, ADesignIsSeenLitFirstAndAKeyStepsOn) {
    openCircuit(dark_lamp());
    ASSERT_NE(chip("dark, lit"), nullptr);
    EXPECT_TRUE(chip("dark, lit")->isChecked()) << "where it gives light";
    EXPECT_NEAR(session().conditions().lux, 0.1, 1e-9);
    window->action("situation-next")->trigger();
    session().settle();
    EXPECT_TRUE(chip("waiting")->isChecked());
    EXPECT_NEAR(session().conditions().lux, 300, 1e-9);
    QTest::mouseClick(chip("S1 off"), Qt::LeftButton);
    EXPECT_EQ(session().situation(), 2);
    window->action("situation-before")->trigger();
    EXPECT_EQ(session().situation(), 1);
    EXPECT_FALSE(chip("keep as…")) << "it has a name already";
}

TEST_F(InSituations, AHandAtTheStripLeavesTheSituation) {
    openCircuit(dark_lamp());
    Conditions c = session().conditions();
    c.lux = 3, c.as_set = false;
    session().setConditions(c);
    EXPECT_EQ(session().situation(), -1);
    ASSERT_NE(chip("keep as…"), nullptr);
    QTest::mouseClick(chip("dark, lit"), Qt::LeftButton);
    EXPECT_EQ(session().situation(), 0);
}

TEST_F(InSituations, APressedLatchStaysOn) {
    openCircuit(held_pair());
    EXPECT_TRUE(chip("after S1")->isChecked());
    QTest::mouseClick(chip("waiting"), Qt::LeftButton);
    session().settle();
    const auto amps = [this] { return session().compute(session().restQuery())->part("L1").current; };
    EXPECT_LT(amps(), 1e-6);
    auto* hold = window->findChild<QPushButton*>("button S1");
    ASSERT_NE(hold, nullptr);
    QTest::mouseClick(hold, Qt::LeftButton);
    session().settle();
    EXPECT_GT(amps(), 0.005) << "pressed and let go";
    QTest::mouseClick(window->findChild<QPushButton*>("button S2"), Qt::LeftButton);
    EXPECT_LT(amps(), 1e-6) << "its base was shorted";
}

TEST_F(InSituations, TheDayPlanIsTypedIntoTheTable) {
    openCircuit(dark_lamp());
    window->showStation("power");
    auto* tabs = window->station("power")->findChild<FoldingTabs*>();
    tabs->setCurrentIndex(tabs->count() - 1);
    session().settle();
    const double always = session().compute(session().powerQuery())->run_time.value;
    SituationCard* card = nullptr;
    for (auto* c : window->findChildren<SituationCard*>())
        if (c->isVisibleTo(window) && c->table()->columnCount() == 5) card = c;
    ASSERT_NE(card, nullptr);
    ASSERT_EQ(card->table()->rowCount(), 3);
    EXPECT_EQ(card->table()->item(1, 3)->text(), "dark");
    card->table()->item(0, 4)->setText("6 h");
    session().settle();
    ASSERT_EQ(session().design().use.size(), 1u);
    EXPECT_NEAR(session().compute(session().powerQuery())->run_time.value / always, 4, 0.2);
    card->table()->item(0, 4)->setText("never ever");
    EXPECT_EQ(session().design().use.front().hours, 6) << "what cannot be read changes nothing";
    card->table()->item(0, 4)->setText("30 x 20 s");
    EXPECT_EQ(session().design().use.front().times, 30);
    session().undoStack().undo();
    session().undoStack().undo();
    session().settle();
    EXPECT_TRUE(session().design().use.empty());
    EXPECT_EQ(card->table()->item(0, 4)->text(), "");
}

}  // namespace
}  // namespace elkit::test
