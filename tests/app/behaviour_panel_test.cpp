// The rows of a controller's table: edited, refused, undone, watched on the stave.
#include "app/stations/circuit/behaviour_panel.hpp"

#include <QFile>
#include <QLabel>
#include <QTableWidget>

#include "app/stave/stave_widget.hpp"
#include "circuit/part_kind.hpp"
#include "support/circuits.hpp"
#include "window_fixture.hpp"

namespace elkit::test {
namespace {

class BehaviourRows : public CircuitWindow {
  protected:
    void SetUp() override {
        CircuitWindow::SetUp();
        station = open("pier-lantern");
        Design d = design();
        d.circuit =
            circuit({"battery B1 +=V -=0 cell=LR6 count=3", "capacitor C1 a=V b=0 value=1e-7",
                     "controller_8 U1 vcc=V gnd=0 P0=R P1=G P3=KEY P4=B", "resistor R1 a=R b=X value=470",
                     "led L1 a=X k=0 type=red-5mm", "resistor R2 a=G b=0 value=470",
                     "resistor R3 a=B b=0 value=470", "button S1 a=KEY b=0"});
        d.circuit.find("U1")->params["behaviour"] = std::string(
            "state rest sleeps; press P3 to plays; state plays; P0 P1 P4 colours ff0000 00ff00 "
            "0000ff 400ms; after 1s to rest");
        d.blocks.clear();
        window->session().edit(d, "a controller");
        window->showStation("circuit");
        settle();
        panel = station->behaviour();
        station->tabs()->showPage(panel);
        settle();
    }
    std::string table() const {
        for (const Part& part : design().circuit.parts)
            if (part_kind(part.kind)->controller) return part.text("behaviour");
        return {};
    }
    /// The first row whose second column says this.
    int row(const char* what) const {
        for (int r = 0; r < panel->rows()->rowCount(); ++r)
            if (panel->rows()->item(r, 1)->text() == what) return r;
        return -1;
    }
    CircuitStation* station = nullptr;
    BehaviourPanel* panel = nullptr;
};

TEST_F(BehaviourRows, ACellIsTypedAndUndone) {
    const std::string before = table();
    const int colours = row("colours");
    ASSERT_GE(colours, 0) << before;
    QTableWidget* rows = panel->rows();
    rows->setCurrentCell(colours, 3);
    rows->setFocus();
    QTest::keyClick(rows->viewport(), Qt::Key_F2);
    auto* editor = rows->viewport()->findChild<QLineEdit*>();
    ASSERT_NE(editor, nullptr);
    editor->setText("ff0000 0000ff 300ms");
    QTest::keyClick(editor, Qt::Key_Return);
    settle();
    EXPECT_NE(table().find("colours ff0000 0000ff 300ms"), std::string::npos) << table();
    window->action("undo")->trigger();
    settle();
    EXPECT_EQ(table(), before);
    EXPECT_NE(rows->item(colours, 3)->text(), "ff0000 0000ff 300ms") << "the rows follow";
}

TEST_F(BehaviourRows, WhatMakesNoSenseStaysToBeMended) {
    const std::string before = table();
    const int colours = row("colours");
    panel->rows()->item(colours, 3)->setText("often");
    settle();
    EXPECT_EQ(table(), before);
    EXPECT_TRUE(panel->trouble()->isVisible());
    EXPECT_TRUE(panel->trouble()->text().contains("often")) << qPrintable(panel->trouble()->text());
    EXPECT_EQ(panel->rows()->item(colours, 3)->text(), "often");
    panel->rows()->item(colours, 3)->setText("ff0000 00ff00 2s");
    settle();
    EXPECT_FALSE(panel->trouble()->isVisible());
    EXPECT_NE(table(), before);
}

TEST_F(BehaviourRows, RowsComeGoAndMoveInOneStepEach) {
    const std::string before = table();
    const int count = panel->rows()->rowCount();
    panel->rows()->setCurrentCell(count - 1, 1);
    panel->add(BehaviourLine::Is::state);
    panel->add(BehaviourLine::Is::leads);
    settle();
    EXPECT_EQ(panel->rows()->rowCount(), count + 2);
    EXPECT_NE(table().find("state state1; after 2s to "), std::string::npos) << table();
    panel->moveRow(-1);
    settle();
    EXPECT_NE(table().find("; state state1"), std::string::npos)
        << "the way on belongs to the state before now";
    EXPECT_TRUE(table().ends_with("state state1")) << table();
    panel->moveRow(1);
    panel->removeRow();
    settle();
    EXPECT_EQ(panel->rows()->rowCount(), count + 1);
    for (int k = 0; k < 5; ++k) window->action("undo")->trigger();
    settle();
    EXPECT_EQ(table(), before);
}

TEST_F(BehaviourRows, TheStateOfTheCurrentRowPlaysOnTheStave) {
    panel->rows()->setCurrentCell(row("colours"), 1);
    ASSERT_TRUE(QTest::qWaitFor([&] { return panel->playing(); }, 30000));
    const QImage one = station->stave()->grab().toImage();
    EXPECT_TRUE(QTest::qWaitFor([&] { return station->stave()->grab().toImage() != one; }, 20000))
        << "it moves";
    panel->watch(false);
    EXPECT_FALSE(panel->playing());
}

TEST_F(BehaviourRows, TheFirmwareIsWritten) {
    EXPECT_TRUE(panel->writeFirmware(QString::fromStdString((folder / "firmware").string())));
    for (const char* name : {"behaviour.c", "behaviour.h", "hardware.h", "README.md"})
        EXPECT_TRUE(std::filesystem::exists(folder / "firmware" / name)) << name;
    QFile blocked(QString::fromStdString((folder / "blocked").string()));
    ASSERT_TRUE(blocked.open(QIODevice::WriteOnly));
    EXPECT_FALSE(panel->writeFirmware(blocked.fileName())) << "a file is no folder";
}

class NoController : public CircuitWindow {};

TEST_F(NoController, HasNoSuchPage) {
    auto* station = open("pier-lantern");
    EXPECT_FALSE(station->tabs()->isTabVisible(station->tabs()->indexOf(station->behaviour())));
}

}  // namespace
}  // namespace elkit::test
