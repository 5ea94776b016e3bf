// "What should it do?": intents, goals, what the engine finds, in and out again.
#include <QComboBox>
#include <QLabel>
#include <QLineEdit>
#include <QPushButton>
#include <QTableWidget>
#include <QUndoStack>
#include <set>

#include "app/stations/circuit/intent_list.hpp"
#include "app/stations/circuit/recipe_page.hpp"
#include "app/stave/stave_widget.hpp"
#include "app/widgets/data_table.hpp"
#include "app/widgets/effect_view.hpp"
#include "window_fixture.hpp"

namespace elkit::test {
namespace {

class Recipes : public Window {
  protected:
    CircuitStation* station() { return static_cast<CircuitStation*>(window->station("circuit")); }
    RecipePage* page() { return station()->recipes(); }
    void startEmpty() {
        Design empty;
        empty.name = "New";
        window->session().startNew(empty);
        window->showStation("circuit");
        settle();
    }
    void choose(const char* id) {
        page()->choose(QString::fromLatin1(id));
        settle();
        settle();
    }
    /// Types into a field of the page.
    void type(const char* field, const QString& words) {
        QLineEdit* edit = nullptr;
        for (auto* each : page()->findChildren<QLineEdit*>(QString::fromLatin1(field)))
            if (each->isVisible()) edit = each;
        ASSERT_NE(edit, nullptr) << field;
        edit->setFocus();
        edit->selectAll();
        QTest::keyClicks(edit, words);
        QTest::keyClick(edit, Qt::Key_Return);
        settle();
        settle();
    }
    QTableWidget* found() { return page()->findChild<QTableWidget*>(); }
    bool says(const QString& words) {
        for (auto* l : page()->findChildren<QLabel*>())
            if (l->isVisible() && l->text().contains(words)) return true;
        return false;
    }
};

TEST_F(Recipes, AreTheFirstPageOfAnEmptyDesign) {
    startEmpty();
    ASSERT_TRUE(page()->isVisible());
    choose("timer-flasher");
    ASSERT_TRUE(found()->isVisible());
    EXPECT_EQ(found()->rowCount(), 4) << "three that the engine measured, one that the recipe reckons";
    EXPECT_EQ(found()->item(0, 2)->toolTip(), QStringLiteral("met"));
    EXPECT_EQ(found()->item(3, 1)->text(), QStringLiteral("reckoned"));
    QTest::mouseClick(page()->putIn(), Qt::LeftButton);
    settle();
    EXPECT_EQ(design().blocks.size(), 1u);
    EXPECT_FALSE(page()->isVisible()) << "there is the circuit";
    EXPECT_TRUE(station()->stave()->isVisible());
    window->session().undoStack().undo();
    settle();
    EXPECT_TRUE(design().circuit.parts.empty());
}

TEST_F(Recipes, ShowWhatWouldChangeBeforeItDoes) {
    startEmpty();
    say(QStringLiteral("blink 2 times a second"));
    ASSERT_EQ(design().blocks.size(), 1u);
    const Design before = design();
    QTest::mouseClick(station()->findChild<QPushButton*>(QStringLiteral("whatShouldItDo")), Qt::LeftButton);
    settle();
    choose("#0");
    EXPECT_FALSE(page()->putIn()->isEnabled()) << "it is so already";
    type("rate", QStringLiteral("0.5"));
    EXPECT_EQ(design(), before) << "nothing yet";
    EXPECT_TRUE(says(QStringLiteral(" → ")));
    ASSERT_TRUE(page()->putIn()->isEnabled());
    QTest::mouseClick(page()->putIn(), Qt::LeftButton);
    settle();
    EXPECT_NE(design(), before);
    EXPECT_NEAR(goals_of(design(), design().blocks[0]).number("rate"), 0.5, 1e-9);
    window->session().undoStack().undo();
    EXPECT_EQ(design(), before);
}

TEST_F(Recipes, SayWhyNotAndWhatWouldWork) {
    startEmpty();
    choose("timer-flasher");
    type("cells in series", QStringLiteral("2"));
    page()->setGoal(QStringLiteral("chip"), std::string("timer-bipolar"));
    page()->setGoal(QStringLiteral("drives"), std::string("transistor"));
    page()->setGoal(QStringLiteral("way"), std::string("steered"));
    settle();
    EXPECT_FALSE(page()->putIn()->isEnabled());
    EXPECT_TRUE(says(QStringLiteral("too low for the timer, bipolar")));
    QPushButton* way = nullptr;
    for (auto* button : page()->findChildren<QPushButton*>())
        if (button->isVisible() && button->text().contains(QStringLiteral("CMOS"))) way = button;
    ASSERT_NE(way, nullptr);
    QTest::mouseClick(way, Qt::LeftButton);
    settle();
    EXPECT_TRUE(page()->putIn()->isEnabled());
}

TEST_F(Recipes, TellWhatEachOwnedCapacitorWouldGive) {
    startEmpty();
    choose("timer-flasher");
    auto* ways = page()->otherWays();
    ASSERT_EQ(ways->rowCount(), static_cast<int>(owned_capacitors(window->session().drawerItems()).size()));
    int row = -1;
    for (int r = 0; r < ways->rowCount(); ++r)
        if (ways->item(r, 0)->text().startsWith(QStringLiteral("10\u00a0µF"))) row = r;
    ASSERT_GE(row, 0) << qPrintable(ways->item(0, 0)->text());
    emit ways->itemActivated(ways->item(row, 0));
    settle();
    QTest::mouseClick(page()->putIn(), Qt::LeftButton);
    settle();
    EXPECT_DOUBLE_EQ(goals_of(design(), design().blocks[0]).number("capacitor"), 1e-5);
}

TEST_F(Recipes, ReadingsOfASensorAreTypedAsPairs) {
    startEmpty();
    choose("warmth-flasher");
    auto* readings = page()->findChild<QLineEdit*>(QStringLiteral("readings"));
    ASSERT_NE(readings, nullptr);
    EXPECT_TRUE(readings->text().contains(QStringLiteral("20°C"))) << qPrintable(readings->text());
    type("readings", QStringLiteral("20°C 30k; nonsense"));
    EXPECT_TRUE(readings->property("bad").toBool());
    EXPECT_EQ(readings->text(), QStringLiteral("20°C 30k; nonsense")) << "what was typed stays";
    type("readings", QStringLiteral("20°C 30k; 60°C 6k"));
    EXPECT_FALSE(readings->property("bad").toBool());
    ASSERT_TRUE(page()->putIn()->isEnabled());
    QTest::mouseClick(page()->putIn(), Qt::LeftButton);
    settle();
    ASSERT_EQ(design().blocks.size(), 1u);
    const Part* sensor = design().circuit.find(design().blocks[0].parts.at("THpace"));
    ASSERT_NE(sensor, nullptr);
    EXPECT_NEAR(sensor->number("value"), 24e3, 1e-6) << "sold by the preferred value";
    const PointList wanted{{20, 30e3}, {60, 6e3}};
    EXPECT_EQ(goals_of(design(), design().blocks[0]).points("readings"), wanted);
}

TEST_F(Recipes, GoalsThatDoNotMatterAreNotAskedFor) {
    startEmpty();
    choose("dark-wake");
    auto* ratio = page()->findChild<QLineEdit*>(QStringLiteral("off at times"));
    auto* ohms = page()->findChild<QLineEdit*>(QStringLiteral("its ohms"));
    ASSERT_TRUE(ratio && ohms);
    EXPECT_FALSE(ratio->isVisible()) << "it comes on gradually";
    EXPECT_TRUE(ohms->isVisible());
    page()->setGoal(QStringLiteral("edge"), std::string("snap"));
    page()->setGoal(QStringLiteral("sensor"), std::string("phototransistor-visible"));
    settle();
    EXPECT_TRUE(ratio->isVisible());
    EXPECT_FALSE(ohms->isVisible());
}

TEST_F(Recipes, ASensorOfAnotherKindTakesThePlaceOfTheOld) {
    startEmpty();
    say(QStringLiteral("wake below 10 lux"));
    ASSERT_EQ(design().blocks.size(), 1u);
    EXPECT_NEAR(goals_of(design(), design().blocks[0]).number("lux"), 10, 1e-9);
    const auto kinds = [&] {
        std::multiset<std::string> all;
        for (const Part& part : design().circuit.parts) all.insert(part.kind);
        return all;
    };
    EXPECT_EQ(kinds().count("ldr"), 1u);
    say(QStringLiteral("sensor = phototransistor"));
    EXPECT_EQ(kinds().count("ldr"), 0u);
    EXPECT_EQ(kinds().count("phototransistor"), 1u);
    window->session().undoStack().undo();
    EXPECT_EQ(kinds().count("ldr"), 1u);
}

TEST_F(Recipes, OneHangsOnAnother) {
    startEmpty();
    say(QStringLiteral("stay on for 5 s"));
    station()->showRecipes(true);
    choose("timer-flasher");
    auto* joins = page()->findChild<QComboBox*>(QStringLiteral("join RUN"));
    ASSERT_NE(joins, nullptr);
    ASSERT_EQ(joins->count(), 2);
    joins->setCurrentIndex(1);
    emit joins->activated(1);
    settle();
    QTest::mouseClick(page()->putIn(), Qt::LeftButton);
    settle();
    ASSERT_EQ(design().blocks.size(), 2u);
    EXPECT_EQ(design().blocks[1].nets.at("RUN"), design().blocks[0].nets.at("OUT"));
    for (const Finding& f : window->session().findings()) EXPECT_NE(f.severity, Severity::error) << f.title;
}

TEST_F(Recipes, ABlockIsTakenOut) {
    startEmpty();
    say(QStringLiteral("blink every 2 s"));
    const Design before = design();
    station()->showRecipes(true);
    choose("#0");
    QTest::mouseClick(page()->remove(), Qt::LeftButton);
    settle();
    EXPECT_TRUE(design().circuit.parts.empty());
    EXPECT_TRUE(page()->isVisible());
    window->session().undoStack().undo();
    EXPECT_EQ(design(), before);
}

TEST_F(Recipes, EachIntentHasItsMovingPicture) {
    startEmpty();
    window->grab();
    settle();
    for (const Recipe& recipe : recipes()) {
        const auto effect = ask(EffectQuery{recipe.id, planned(recipe, {})});
        ASSERT_TRUE(effect) << recipe.id << effect.error().text();
        EXPECT_FALSE(effect->brightness.empty()) << recipe.id;
    }
    const auto blink = ask(EffectQuery{"timer-flasher", planned(*find_recipe("timer-flasher"), {})});
    EXPECT_NEAR(blink->seconds, 1.5, 0.1) << "three cycles";
    EXPECT_GT(blink->at(0.1 * blink->seconds) + blink->at(0.27 * blink->seconds), 0.9);
    EXPECT_LT(blink->at(0.1 * blink->seconds) * blink->at(0.27 * blink->seconds), 0.1);
    auto* list = page()->intents();
    const QImage first = list->viewport()->grab().toImage();
    QTest::qWait(400);
    EXPECT_NE(list->viewport()->grab().toImage(), first) << "it moves";
}

TEST_F(Recipes, AnotherDesignLeavesNothingOfTheOneBefore) {
    startEmpty();
    choose("timer-one-shot");
    page()->setGoal(QStringLiteral("time"), 33.0);
    window->openDemo(QStringLiteral("harbour-beacon"));
    settle();
    EXPECT_FALSE(page()->isVisible());
    station()->showRecipes(true);
    settle();
    EXPECT_TRUE(says(QStringLiteral("Timer flasher")));
}

}  // namespace
}  // namespace elkit::test
