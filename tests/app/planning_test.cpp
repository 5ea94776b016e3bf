// Panels of questions that come before a circuit, used as a person would.
#include <QComboBox>
#include <QLineEdit>
#include <QListWidget>
#include <QPushButton>
#include <QTemporaryDir>
#include <QTest>
#include <fstream>

#include "app/shell/do_panel.hpp"
#include "app/shell/writer.hpp"
#include "app/stations/light/eye_panel.hpp"
#include "app/stations/light/face_panel.hpp"
#include "app/stations/light/grid_panel.hpp"
#include "app/stations/light/heat_panel.hpp"
#include "app/stations/light/limiters_panel.hpp"
#include "app/stations/light/match_panel.hpp"
#include "app/stations/light/strip_panel.hpp"
#include "app/stations/power/cell_panel.hpp"
#include "app/stations/power/charging_panel.hpp"
#include "app/stations/power/fit_panel.hpp"
#include "app/stations/power/protection_panel.hpp"
#include "app/stations/power/supplies_panel.hpp"
#include "app/stations/power/supply_plot.hpp"
#include "app/stations/power/wires_panel.hpp"
#include "app/widgets/data_table.hpp"
#include "app/widgets/figure_label.hpp"
#include "app/widgets/folding_tabs.hpp"
#include "app/widgets/picture_view.hpp"
#include "app/widgets/quantity_edit.hpp"
#include "power/converter.hpp"
#include "recipes/blocks.hpp"
#include "window_fixture.hpp"

namespace elkit::test {
namespace {

class Planning : public Window {
  protected:
    template <class Panel>
    Panel* open(const char* demo, const char* station = "light") {
        window->openDemo(demo);
        window->showStation(station);
        auto* panel = window->station(station)->findChild<Panel*>();
        window->station(station)->findChild<FoldingTabs*>()->showPage(panel);
        settle();
        return panel;
    }
    static QPushButton* button(QWidget* in, const QString& text) {
        for (auto* b : in->findChildren<QPushButton*>())
            if (b->text() == text) return b;
        return nullptr;
    }
    template <class Field>
    static Field* named(QWidget* in, const QString& name) {
        for (auto* f : in->findChildren<Field*>())
            if (f->accessibleName() == name) return f;
        return nullptr;
    }
    void type(QLineEdit* field, const char* text) {
        field->setFocus();
        field->selectAll();
        QTest::keyClicks(field, QString::fromUtf8(text));
        QTest::keyClick(field, Qt::Key_Return);
        settle();
    }
};

TEST_F(Planning, GridShowsWhichLightsMustLightToo) {
    auto* panel = open<GridPanel>("pier-lantern");
    type(named<QLineEdit>(panel, QStringLiteral("columns of the grid")), "5");
    type(named<QLineEdit>(panel, QStringLiteral("rows of the grid")), "5");
    EXPECT_EQ(panel->wish().rows, 5);
    EXPECT_EQ(panel->table()->rowCount(), 3);
    auto* picture = panel->findChild<PictureView*>();
    for (const char* light : {"light:1,1", "light:2,3"})
        QTest::mouseClick(picture, Qt::LeftButton, {},
                          picture->itemRect(QString::fromLatin1(light)).center().toPoint());
    EXPECT_EQ(panel->wish().count(), 2);
    bool told = false;
    for (const QLabel* words : panel->findChildren<QLabel*>())
        told = told || words->text().contains(QStringLiteral("2 others light too"));
    EXPECT_TRUE(told);
    type(named<QLineEdit>(panel, QStringLiteral("rows of the grid")), "3");
    EXPECT_EQ(panel->wish().rows, 3);
    EXPECT_EQ(panel->wish().count(), 2) << "what was tapped stays";
    EXPECT_EQ(panel->table()->item(0, 1)->text(), QStringLiteral("15"));
    picture->setFocus();
    picture->select(QStringLiteral("light:1,1"));
    QTest::keyClick(picture, Qt::Key_Return);
    EXPECT_EQ(panel->wish().count(), 1) << "by key too";
    window->openDemo("coat-badge");
    settle();
    EXPECT_EQ(panel->wish().count(), 0) << "another design, another grid";
}

TEST_F(Planning, EyeTakesDistanceAndPaperIntoTheDesign) {
    auto* panel = open<EyePanel>("pier-lantern");
    auto* optics = panel->findChild<QLineEdit*>(QStringLiteral("optics"));
    type(optics, "paper 0.5");
    ASSERT_EQ(window->session().design().brief.optics.size(), 1U);
    type(optics, "paper nine");
    EXPECT_EQ(window->session().design().brief.optics.size(), 1U);
    EXPECT_TRUE(optics->property("bad").toBool());
    EXPECT_EQ(optics->text(), QStringLiteral("paper nine")) << "what was typed stays";
    type(optics, "paper 66/120");
    EXPECT_NEAR(window->session().design().brief.optics.front().factor, 0.55, 1e-12);
    type(panel->findChild<QuantityEdit*>(), "30cm");
    EXPECT_NEAR(window->session().design().brief.distance, 0.3, 1e-12);
    auto* dim = button(panel, QStringLiteral("Dim it for the eyes"));
    ASSERT_TRUE(dim->isVisible());
    settle();
    const double before = window->session().design().circuit.find("R1")->number("value");
    QTest::mouseClick(dim, Qt::LeftButton);
    settle();
    EXPECT_GT(window->session().design().circuit.find("R1")->number("value"), 5 * before);
    EXPECT_FALSE(dim->isVisible()) << "now it is calm to look at";
    window->session().undoStack().undo();
    EXPECT_EQ(window->session().design().circuit.find("R1")->number("value"), before);
    window->session().forgetUnsaved();
}

TEST_F(Planning, LightsAreMadeEqualByEye) {
    auto* panel = open<MatchPanel>("pantry-gauge");
    auto* tried = panel->findChild<FigureLabel*>(QStringLiteral("trial"));
    const double first = tried->figure().value;
    for (int k = 0; k < 2; ++k) {
        QTest::mouseClick(button(panel, QStringLiteral("Brighter")), Qt::LeftButton);
        settle();
    }
    EXPECT_EQ(window->session().design().trials.size(), 2U);
    EXPECT_GT(tried->figure().value, 2 * first) << "less current was offered each time";
    QTest::mouseClick(button(panel, QStringLiteral("Same")), Qt::LeftButton);
    settle();
    EXPECT_FALSE(button(panel, QStringLiteral("Same"))->isVisible()) << "this light is done";
    QTest::mouseClick(button(panel, QStringLiteral("Use it")), Qt::LeftButton);
    settle();
    const std::string led = window->session().design().trials.front().led;
    bool known = false;
    for (const Part& part : window->session().design().circuit.parts)
        known = known || (part.text("type") == led && part.params.count("intensity") > 0);
    EXPECT_TRUE(known) << "the eye's intensity is in the design";
    window->session().undoStack().undo();
    window->session().undoStack().undo();
    settle();
    EXPECT_EQ(window->session().design().trials.size(), 2U);
    window->session().forgetUnsaved();
}

TEST_F(Planning, AStripIsCutToLengthAndFed) {
    auto* panel = open<StripPanel>("shelf-strip");
    ASSERT_EQ(panel->table()->rowCount(), 3);
    type(named<QLineEdit>(panel, QStringLiteral("length of the strip")), "2.03m");
    bool left_over = false;
    for (const QLabel* words : panel->findChildren<QLabel*>())
        left_over = left_over || words->text().contains(QStringLiteral("left over"));
    EXPECT_TRUE(left_over);
    QTest::mouseClick(button(panel, QStringLiteral("Use length and leads")), Qt::LeftButton);
    settle();
    for (const Part& part : window->session().design().circuit.parts)
        if (part.kind == "strip") {
            EXPECT_NEAR(part.number("length"), 2, 1e-9);
        }
    window->session().undoStack().undo();
    window->session().forgetUnsaved();
}

TEST_F(Planning, HeatShowsWhatIsTooWarm) {
    auto* panel = open<HeatPanel>("herbarium-ring");
    EXPECT_EQ(panel->table()->rowCount(), 2);
    Design hot = window->session().design();
    for (Part& part : hot.circuit.parts)
        if (part.kind == "resistor") part.params["rating"] = 0.0625;
    window->session().edit(hot, QStringLiteral("smaller resistors"));
    settle();
    EXPECT_NE(panel->table()->item(0, 6)->text(), QStringLiteral("fine"));
    window->session().undoStack().undo();
    window->session().forgetUnsaved();
}

TEST_F(Planning, AMeasuredCellGoesIntoTheDesign) {
    auto* panel = open<FitPanel>("pier-lantern", "power");
    QTemporaryDir dir;
    const auto write = [&](const char* name, const QString& rows) {
        QFile file(dir.filePath(QString::fromLatin1(name)));
        EXPECT_TRUE(file.open(QIODevice::WriteOnly));
        file.write(rows.toUtf8());
        return file.fileName();
    };
    QString rows = QStringLiteral("time_h;volts\n");
    for (int k = 0; k <= 40; ++k)
        rows +=
            QStringLiteral("%1;%2\n").arg(k / 4.0).arg(QString::number(1.5 - 0.014 * k).replace('.', ','));
    panel->read(write("cell.csv", rows));
    settle();
    auto* use = button(panel, QStringLiteral("Use this cell"));
    ASSERT_TRUE(use->isEnabled());
    QTest::mouseClick(use, Qt::LeftButton);
    settle();
    const double capacity = window->session().design().circuit.source()->number("capacity");
    EXPECT_GT(capacity, 0.8);
    EXPECT_LT(capacity, 3);
    window->session().undoStack().undo();
    panel->read(write("bad.csv", QStringLiteral("time_h;volts\n0;abc\n")));
    settle();
    EXPECT_FALSE(use->isEnabled());
    bool told = false;
    for (const QLabel* words : panel->findChildren<QLabel*>())
        told = told || words->text().contains(QStringLiteral("line 2"));
    EXPECT_TRUE(told);
    window->session().forgetUnsaved();
}

TEST_F(Planning, AThickerWireGoesIntoTheDesign) {
    auto* panel = open<WiresPanel>("herbarium-ring", "power");
    const int short_leads = panel->table()->currentRow();
    type(named<QLineEdit>(panel, QStringLiteral("length of the leads, one way")), "9m");
    EXPECT_GT(panel->table()->currentRow(), short_leads) << "longer leads want more copper";
    QTest::mouseClick(button(panel, QStringLiteral("Use this wire")), Qt::LeftButton);
    settle();
    EXPECT_NEAR(window->session().design().circuit.source()->number("lead_length"), 9, 1e-9);
    EXPECT_GT(window->session().design().circuit.source()->number("lead_area"), 0.14);
    window->session().undoStack().undo();
    window->session().forgetUnsaved();
}

TEST_F(Planning, LightsAreArrangedDraggedAndDrilled) {
    auto* panel = open<FacePanel>("pier-lantern");
    auto* pattern = named<QComboBox>(panel, QStringLiteral("pattern of the lights on the face"));
    pattern->setCurrentIndex(1);
    type(named<QLineEdit>(panel, QStringLiteral("pitch, diameter or distance from the edge")), "60mm");
    QTest::mouseClick(button(panel, QStringLiteral("Arrange")), Qt::LeftButton);
    settle();
    ASSERT_EQ(design().face.places.size(), 4u);
    EXPECT_NEAR(design().face.places[0].y, 12, 0.1) << "the first at the top";
    const QPointF from = panel->picture()->itemRect("light:L1").center();
    QTest::mousePress(panel->picture(), Qt::LeftButton, {}, from.toPoint());
    QTest::mouseMove(panel->picture(), (from + QPointF(15, 4)).toPoint());
    QTest::mouseRelease(panel->picture(), Qt::LeftButton, {}, (from + QPointF(30, 8)).toPoint());
    settle();
    EXPECT_GT(design().face.places[0].x, 43) << "dragged to the right";
    type(named<QLineEdit>(panel, QStringLiteral("test hole that fitted")), "5.2mm");
    ASSERT_EQ(design().face.measured.size(), 1u);
    EXPECT_NEAR(design().face.measured[0].hole, 5.2, 1e-9);
    panel->writeTemplate(folder / "template.svg", false);
    keeper().wait();
    panel->readOutline(folder / "template.svg");
    keeper().wait();
    settle();
    EXPECT_FALSE(design().face.outline.empty());
    std::ofstream(folder / "bad.svg") << "<svg><path d='oops'/></svg>";
    panel->readOutline(folder / "bad.svg");
    keeper().wait();
    EXPECT_TRUE(window->bannerText().contains("bad.svg")) << qPrintable(window->bannerText());
    while (window->session().undoStack().canUndo()) window->session().undoStack().undo();
    EXPECT_EQ(design().face, Face{});
    window->session().forgetUnsaved();
}

TEST_F(Planning, ADiodeAgainstReversedCellsGoesIntoTheDesign) {
    auto* panel = open<ProtectionPanel>("pier-lantern", "power");
    ASSERT_GT(panel->table()->rowCount(), 5);
    panel->table()->setCurrentCell(1, 0);
    QTest::mouseClick(button(panel, QStringLiteral("Put it in")), Qt::LeftButton);
    settle();
    EXPECT_NE(design().circuit.find("D1"), nullptr);
    window->session().undoStack().undo();
    EXPECT_EQ(design().circuit.find("D1"), nullptr);
    window->session().forgetUnsaved();
}

TEST_F(Planning, ALimiterIsTakenIntoTheDesign) {
    auto* panel = open<LimitersPanel>("pier-lantern");
    ASSERT_EQ(panel->table()->rowCount(), 7);
    panel->table()->setCurrentCell(2, 0);
    QTest::mouseClick(button(panel, QStringLiteral("Use this limiter")), Qt::LeftButton);
    settle();
    int resistors = 0;
    for (const Part& part : design().circuit.parts) resistors += part.kind == "resistor";
    EXPECT_EQ(resistors, 4) << "two side by side for each of the strings";
    EXPECT_EQ(design().blocks.size(), 0u);
    window->session().undoStack().undo();
    EXPECT_EQ(design().blocks.size(), 1u);
    window->session().forgetUnsaved();
}

TEST_F(Planning, SuppliesAsAPlotWithConverters) {
    auto* panel = open<SuppliesPanel>("pier-lantern", "power");
    auto* table = panel->findChild<QTableWidget*>(QStringLiteral("supplies"));
    const int usual = table->rowCount();
    auto* scope = named<QComboBox>(panel, QStringLiteral("which supplies are compared"));
    scope->setCurrentIndex(1);
    emit scope->activated(1);
    settle();
    EXPECT_GT(table->rowCount(), usual);
    named<QComboBox>(panel, QStringLiteral("what is shown of the supplies"))->setCurrentIndex(2);
    settle();
    EXPECT_FALSE(table->isVisible());
    SupplyPlot* plot = panel->plot();
    ASSERT_TRUE(plot->isVisible());
    int stepped = -1;
    for (int row = 0; row < table->rowCount() && stepped < 0; ++row)
        if (table->item(row, 0)->text() == QStringLiteral("2 × LR6, stepped up")) stepped = row;
    ASSERT_GE(stepped, 0);
    ASSERT_TRUE(plot->place(stepped));
    QTest::mouseClick(plot, Qt::LeftButton, {}, plot->place(stepped)->toPoint());
    EXPECT_EQ(table->currentRow(), stepped);
    QTest::keyClick(plot, Qt::Key_Right);
    ASSERT_NE(table->currentRow(), stepped) << "to the next larger one";
    EXPECT_GE(plot->place(table->currentRow())->x(), plot->place(stepped)->x());
    QTest::mouseClick(plot, Qt::LeftButton, {}, plot->place(stepped)->toPoint());
    EXPECT_EQ(table->currentRow(), stepped);
    QTest::mouseClick(button(panel, QStringLiteral("Use this supply")), Qt::LeftButton);
    settle();
    EXPECT_EQ(design().circuit.find("B1")->number("count"), 2);
    EXPECT_TRUE(has_converter(design().circuit));
    window->session().forgetUnsaved();
}

TEST_F(Planning, AChargerForTheTorch) {
    auto* panel = open<ChargingPanel>("pier-lantern", "power");
    EXPECT_FALSE(button(panel, QStringLiteral("Put in a charger"))->isVisible())
        << "alkaline cells are not charged";
    window->openDemo("rock-pool-torch");
    settle();
    QTest::mouseClick(button(panel, QStringLiteral("Put in a charger")), Qt::LeftButton);
    settle();
    const auto charger = [this] {
        for (const Part& part : design().circuit.parts)
            if (part.kind == "charger") return charging_current(part);
        return 0.0;
    };
    EXPECT_GT(charger(), 0);
    auto* table = panel->findChild<QTableWidget*>(QStringLiteral("charging"));
    table->setCurrentCell(0, 0);
    const double before = charger();
    QTest::mouseClick(button(panel, QStringLiteral("Set the charger to it")), Qt::LeftButton);
    settle();
    EXPECT_NE(charger(), before);
    window->session().forgetUnsaved();
}

TEST_F(Planning, ALightThatShowsALowBattery) {
    window->openDemo("pier-lantern");
    window->showStation("power");
    settle();
    auto* power = window->station("power");
    auto* field = named<QuantityEdit>(power, QStringLiteral("warns below"));
    EXPECT_FALSE(field->isVisible());
    QTest::mouseClick(button(power, QStringLiteral("Show it with a light")), Qt::LeftButton);
    settle();
    ASSERT_EQ(design().blocks.size(), 2u);
    ASSERT_TRUE(field->isVisible());
    const Circuit before = design().circuit;
    type(field, "3.5");
    EXPECT_NE(design().circuit, before);
    EXPECT_NEAR(goals_of(design(), design().blocks[1]).number("warn"), 3.5, 1e-9);
    window->session().undoStack().undo();
    window->session().undoStack().undo();
    EXPECT_EQ(design().blocks.size(), 1u);
    window->session().forgetUnsaved();
}

TEST_F(Planning, TheCurvesOfACellAreTyped) {
    auto* panel = open<CellPanel>("pier-lantern", "power");
    auto* field = named<QLineEdit>(panel, QStringLiteral("voltage by charge"));
    EXPECT_TRUE(field->text().contains(QStringLiteral("100% ")) ||
                field->text().contains(QStringLiteral("100 %")))
        << qPrintable(field->text());
    const double before = figure("power", "runTime").value;
    type(field, "0% 1.4V; 100% 1.6V");
    ASSERT_TRUE(design().circuit.find("B1")->points("voltage_curve"));
    EXPECT_GT(std::abs(figure("power", "runTime").value / before - 1), 0.01) << "other volts, another time";
    type(field, "0% 2V; 100% 1V");
    EXPECT_TRUE(window->bannerText().contains("no curve")) << qPrintable(window->bannerText());
    type(field, " ");
    EXPECT_FALSE(design().circuit.find("B1")->points("voltage_curve"));
    EXPECT_NEAR(figure("power", "runTime").value, before, 1e-6 * before);
    window->session().forgetUnsaved();
}

TEST_F(Planning, TheLineOffersWhatIsInTheDrawer) {
    window->openDemo("pier-lantern");
    settle();
    window->session().setOwnedOnly(true);
    QTest::keyClick(window, Qt::Key_K, Qt::ControlModifier);
    QTest::keyClicks(window->doPanel()->line(), "r1 =");
    auto* list = window->doPanel()->findChild<QListWidget*>();
    ASSERT_GT(list->count(), 1);
    EXPECT_TRUE(list->item(0)->text().startsWith(QStringLiteral("R1 = ")))
        << qPrintable(list->item(0)->text());
    window->session().setOwnedOnly(false);
    QTest::keyClick(window->doPanel()->line(), Qt::Key_Escape);
}

}  // namespace
}  // namespace elkit::test
