// One design, computed everywhere: a change in one place is seen in all others.
#include <QCheckBox>
#include <QComboBox>
#include <QPushButton>
#include <QSlider>
#include <QTableWidget>
#include <QTreeWidget>

#include "app/shell/findings_panel.hpp"
#include "window_fixture.hpp"

namespace elkit::test {
namespace {

TEST_F(Window, ChangingTheSupplyMovesResistorRunTimeAndLeaflet) {
    const double resistor = figure("light", "resistance").value, hours = figure("power", "runTime").value,
                 cost = figure("batch", "costPerKit").value;
    enter("power", "cells in series", "4");
    EXPECT_EQ(value("B1", "count"), 4);
    const Figure now = figure("light", "resistance");
    EXPECT_GT(now.value, 2 * resistor);
    EXPECT_NE(figure("power", "runTime").value, hours);
    EXPECT_GT(figure("batch", "costPerKit").value, cost);
    const auto leaflet = folder / "leaflet.pdf";
    window->writeExport("leaflet", leaflet);
    ASSERT_TRUE(written());
    const std::string text = pdf_text(leaflet.string());
    EXPECT_NE(text.find(split_quantity(now.value, now.unit).number + " Ω"), std::string::npos)
        << "the leaflet asks for " << now.text();
    EXPECT_NE(text.find("4 ×"), std::string::npos);
    EXPECT_EQ(text.find("62 Ω"), std::string::npos);
    QTest::keyClick(window, Qt::Key_Z, Qt::ControlModifier);
    settle();
    EXPECT_DOUBLE_EQ(figure("light", "resistance").value, resistor);
    EXPECT_DOUBLE_EQ(figure("power", "runTime").value, hours);
    QTest::keyClick(window, Qt::Key_Z, Qt::ControlModifier | Qt::ShiftModifier);
    settle();
    EXPECT_EQ(value("B1", "count"), 4);
}

class Alone : public Window {  // it counts what is computed
  protected:
    std::shared_ptr<Store> store() override { return nullptr; }
};

TEST_F(Alone, ASliderMovesEveryNumberAtOnce) {
    const double before = figure("light", "currentNow").value;
    auto* battery = window->findChild<QSlider*>("Battery");
    ASSERT_NE(battery, nullptr);
    battery->setFocus();
    const auto computed = window->session().store().counts();
    for (int i = 0; i < 40; ++i) QTest::keyClick(battery, Qt::Key_Left);
    EXPECT_NEAR(window->session().conditions().battery, 0.6, 1e-9);
    settle();
    auto* now = window->station("light")->findChild<FigureLabel*>("currentNow");
    EXPECT_LT(now->figure().value, before / 2);
    EXPECT_NEAR(now->figure().value, solve(design().circuit, {0.6, 21, {}}).part("L1").current, 1e-12);
    auto after = window->session().store().counts();
    for (const char* depends : {"operating point", "light", "long run"})
        after[depends] = computed.at(depends);
    EXPECT_EQ(after, computed) << "nothing that does not depend on the battery is computed again";
}

TEST_F(Window, TheSwitchDarkensTheLights) {
    window->showStation("circuit");
    settle();
    auto* stave = window->station("circuit");
    const QImage lit = stave->grab().toImage();
    auto* lever = window->findChild<QCheckBox*>("switch S1");
    ASSERT_NE(lever, nullptr);
    QTest::keyClick(lever, Qt::Key_Space);
    settle();
    EXPECT_LT(op().supply_current(), 1e-9);
    const auto amber = [](const QImage& image) {
        int n = 0;
        for (int y = 0; y < image.height(); y += 2)
            for (int x = 0; x < image.width(); x += 2) {
                const QColor c = image.pixelColor(x, y);
                n += c.red() > 235 && c.green() > 180 && c.green() < 235 && c.blue() < 190;
            }
        return n;
    };
    EXPECT_GT(amber(lit), 2 * amber(stave->grab().toImage()) + 20) << "the glow around the LEDs is gone";
}

TEST_F(Window, ARemedyIsOneUndoableStep) {
    ASSERT_TRUE(hasFinding("sag"));
    QPushButton* remedy = nullptr;
    for (auto* b : window->findChild<FindingsPanel*>()->findChildren<QPushButton*>())
        if (b->text() == "One LED fewer a string") remedy = b;
    ASSERT_NE(remedy, nullptr);
    QTest::mouseClick(remedy, Qt::LeftButton);
    settle();
    EXPECT_EQ(goals().number("per_string"), 1);
    EXPECT_FALSE(hasFinding("sag"));
    window->action("undo")->trigger();
    settle();
    EXPECT_EQ(goals().number("per_string"), 2);
    EXPECT_TRUE(hasFinding("sag"));
}

TEST_F(Window, AReadingOutsideItsBandIsFlaggedAndKept) {
    window->showStation("build");
    settle();
    window->station("build")->focusRef("step:volts.L1");
    auto* measured = window->station("build")->findChild<QLineEdit*>("measured");
    ASSERT_TRUE(measured->isVisible());
    QTest::keyClicks(measured, "4.6 V");
    QTest::keyClick(measured, Qt::Key_Return);
    settle();
    EXPECT_TRUE(hasFinding("reading"));
    const auto path = folder / "lantern.elkit.json";
    ASSERT_TRUE(window->saveTo(path));
    ASSERT_TRUE(window->openFile(path));
    settle();
    ASSERT_NE(design().record("volts.L1"), nullptr);
    EXPECT_DOUBLE_EQ(*design().record("volts.L1")->measured, 4.6);
    EXPECT_TRUE(hasFinding("reading"));
}

TEST_F(Window, TickingAStepIsStored) {
    window->showStation("build");
    settle();
    auto* tree = window->station("build")->findChild<QTreeWidget*>();
    QTreeWidgetItem* first = tree->topLevelItem(0)->child(0);
    first->setCheckState(0, Qt::Checked);
    settle();
    ASSERT_NE(design().record("prepare.board"), nullptr);
    EXPECT_TRUE(design().record("prepare.board")->done);
}

TEST_F(Window, ThePriceOfThePartsFollowsTheDrawer) {
    const double before = figure("batch", "costPerKit").value;
    auto* table = window->station("batch")->findChild<QTableWidget*>();
    int row = -1;
    for (int r = 0; r < table->rowCount(); ++r)
        if (table->item(r, 0)->text().startsWith("warm amber")) row = r;
    ASSERT_GE(row, 0);
    table->item(row, 7)->setText("45");
    settle();
    EXPECT_NEAR(figure("batch", "costPerKit").value, before + 4 * (45 - 4.5) / 50, 1e-9);
    window->action("undo")->trigger();
    settle();
    EXPECT_NEAR(figure("batch", "costPerKit").value, before, 1e-9) << "the drawer undoes too";
    window->action("redo")->trigger();
    settle();
    EXPECT_NEAR(figure("batch", "costPerKit").value, before + 4 * (45 - 4.5) / 50, 1e-9);
    table->item(row, 7)->setText("-3");
    settle();
    EXPECT_NEAR(figure("batch", "costPerKit").value, before + 4 * (45 - 4.5) / 50, 1e-9);
    window->action("undo")->trigger();
    settle();
    EXPECT_NEAR(figure("batch", "costPerKit").value, before, 1e-9) << "a refused price is no step";
    window->action("redo")->trigger();
    settle();
    table->item(row, 7)->setText("many");
    EXPECT_TRUE(window->bannerText().contains("many")) << "an unreadable price is said, not taken";
}

TEST_F(Window, AnotherSupplyFromTheTable) {
    window->showStation("power");
    settle();
    auto* table = window->station("power")->findChild<QTableWidget*>("supplies");
    ASSERT_GE(table->rowCount(), 6);
    int row = -1;
    for (int r = 0; r < table->rowCount(); ++r)
        if (table->item(r, 0)->text() == "3 × LR03") row = r;
    ASSERT_GE(row, 0);
    table->setCurrentCell(row, 0);
    for (auto* b : window->station("power")->findChildren<QPushButton*>())
        if (b->text() == "Use this supply") QTest::mouseClick(b, Qt::LeftButton);
    settle();
    EXPECT_EQ(design().circuit.find("B1")->text("cell"), "LR03");
}

TEST_F(Window, TheDemoOfTheOtherSchool) {
    window->openDemo("coat-badge");
    settle();
    EXPECT_EQ(design().circuit.find("R1"), nullptr);
    bool limits = false;
    for (const auto& f : window->session().findings())
        limits = limits || f.title.find("The cell limits L1") != std::string::npos;
    EXPECT_TRUE(limits);
    EXPECT_GT(figure("power", "runTime").value, 1);
}

}  // namespace
}  // namespace elkit::test
