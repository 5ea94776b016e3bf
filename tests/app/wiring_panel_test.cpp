// The list of wires in the window: shown where there are any, followed to its parts, copied.
#include "app/stations/circuit/wiring_panel.hpp"

#include <QClipboard>
#include <QPushButton>
#include <QSignalSpy>

#include "app/stave/stave_widget.hpp"
#include "formats/csv.hpp"
#include "window_fixture.hpp"

namespace elkit::test {
namespace {

class WiringTab : public CircuitWindow {
  protected:
    void show(const char* demo) {
        station = open(demo);
        window->showStation("circuit");
        settle();
        panel = station->wiring();
        station->tabs()->showPage(panel);
        settle();
        panel->refresh();
        settle();
    }
    bool offered() { return station->tabs()->isTabVisible(station->tabs()->indexOf(station->wiring())); }
    CircuitStation* station = nullptr;
    WiringPanel* panel = nullptr;
};

TEST_F(WiringTab, IsOfferedWhereSomethingIsJoinedByWires) {
    show("diorama-switcher");
    EXPECT_TRUE(offered());
    EXPECT_GT(panel->wires()->rowCount(), 30);
    EXPECT_EQ(panel->pins()->rowCount(), 6);
    EXPECT_TRUE(panel->pins()->isVisible());
    show("twin-blinker");
    EXPECT_FALSE(offered());
    show("shelf-strip");
    EXPECT_TRUE(offered());
    EXPECT_FALSE(panel->pins()->isVisible()) << "no controller in it";
}

TEST_F(WiringTab, FollowsTheCircuit) {
    show("diorama-switcher");
    const int before = panel->wires()->rowCount();
    say("channels 4");
    panel->refresh();
    settle();
    EXPECT_LT(panel->wires()->rowCount(), before);
    window->action("undo")->trigger();
    settle();
    panel->refresh();
    settle();
    EXPECT_EQ(panel->wires()->rowCount(), before);
}

TEST_F(WiringTab, CopiesTheWiresForASpreadsheet) {
    show("diorama-switcher");
    for (QPushButton* button : panel->findChildren<QPushButton*>())
        if (button->text() == "Copy as CSV") QTest::mouseClick(button, Qt::LeftButton);
    const auto table = parse_csv(QApplication::clipboard()->text().toStdString());
    ASSERT_TRUE(table) << table.error().text();
    EXPECT_EQ(table.value().size(), static_cast<std::size_t>(panel->wires()->rowCount()) + 1);
    EXPECT_EQ(table.value()[1][1], "ground");
}

TEST_F(WiringTab, ARowLeadsToItsPart) {
    show("diorama-switcher");
    QSignalSpy chosen(panel, &WiringPanel::partChosen);
    panel->wires()->setCurrentCell(1, 0);
    panel->wires()->setFocus();
    QTest::keyClick(panel->wires(), Qt::Key_Return);
    settle();
    ASSERT_EQ(chosen.count(), 1);
    const QString to = panel->wires()->item(1, 3)->text();
    EXPECT_TRUE(to.startsWith(chosen[0][0].toString())) << to.toStdString();
}

}  // namespace
}  // namespace elkit::test
