// A timer beside a controller in the window: compared, taken, undone.
#include "app/stations/circuit/made_by_panel.hpp"

#include <QPushButton>
#include <QTabWidget>

#include "app/stations/circuit/recipe_page.hpp"
#include "app/widgets/data_table.hpp"
#include "window_fixture.hpp"

namespace elkit::test {
namespace {

class MadeByTab : public CircuitWindow {
  protected:
    void show(const char* demo) {
        station = open(demo);
        window->showStation("circuit");
        settle();
        station->showRecipes(true);
        station->recipes()->choose(QStringLiteral("#0"));
        settle();
        lower = station->recipes()->lower();
        panel = station->recipes()->findChild<MadeByPanel*>();
        lower->setCurrentWidget(panel);
        settle();
        settle();
    }
    bool offered() { return lower->isTabVisible(lower->indexOf(panel)); }
    QPushButton* button() {
        for (QPushButton* b : panel->findChildren<QPushButton*>())
            if (b->text() == "Make it this way") return b;
        return nullptr;
    }
    CircuitStation* station = nullptr;
    QTabWidget* lower = nullptr;
    MadeByPanel* panel = nullptr;
};

TEST_F(MadeByTab, TakesTheChosenWayAndGoesBack) {
    show("harbour-beacon");
    ASSERT_TRUE(offered());
    ASSERT_GT(panel->table()->rowCount(), 6);
    EXPECT_TRUE(panel->table()->item(0, 1)->font().bold()) << "as it is";
    panel->table()->setCurrentCell(0, 1);
    EXPECT_FALSE(button()->isEnabled()) << "it is so already";
    panel->table()->setCurrentCell(0, 3);
    ASSERT_TRUE(button()->isEnabled());
    QTest::mouseClick(button(), Qt::LeftButton);
    settle();
    EXPECT_EQ(design().blocks[0].recipe, "pattern-lights");
    window->action("undo")->trigger();
    settle();
    EXPECT_EQ(design().blocks[0].recipe, "timer-flasher");
}

TEST_F(MadeByTab, IsNotOfferedForWhatATimerCannotDo) {
    show("moth-jar");
    EXPECT_FALSE(offered());
}

TEST_F(MadeByTab, OffersNothingToTakeBeforeTheBlockIsThere) {
    show("harbour-beacon");
    station->recipes()->choose(QStringLiteral("timer-one-shot"));
    settle();
    lower->setCurrentWidget(panel);
    settle();
    settle();
    ASSERT_TRUE(offered());
    ASSERT_GT(panel->table()->rowCount(), 6);
    for (int column = 1; column < panel->table()->columnCount(); ++column) {
        panel->table()->setCurrentCell(0, column);
        EXPECT_FALSE(button()->isEnabled()) << column;
    }
}

}  // namespace
}  // namespace elkit::test
