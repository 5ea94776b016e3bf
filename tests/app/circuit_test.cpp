// The Circuit station on circuits that move: time, meter, editing by mouse, keys and words.
#include <QClipboard>
#include <QComboBox>
#include <QFile>
#include <QPrinter>
#include <QPushButton>
#include <QSettings>
#include <QSlider>
#include <QTabBar>
#include <QTabWidget>
#include <QTableWidget>
#include <QToolButton>

#include "app/shell/print.hpp"
#include "app/stations/circuit/circuit_station.hpp"
#include "app/stations/circuit/goal_chooser.hpp"
#include "app/stations/circuit/meter_panel.hpp"
#include "app/stations/circuit/spread_panel.hpp"
#include "app/stations/circuit/sweep_panel.hpp"
#include "app/stations/circuit/time_lane.hpp"
#include "app/stave/stave_widget.hpp"
#include "app/widgets/data_table.hpp"
#include "app/widgets/folding_tabs.hpp"
#include "app/widgets/offer.hpp"
#include "app/widgets/overview_strip.hpp"
#include "app/widgets/trace_plot.hpp"
#include "catalogue/catalogue.hpp"
#include "window_fixture.hpp"

namespace elkit::test {
namespace {

class Circuits : public CircuitWindow {};

TEST_F(Circuits, ARecordingPlaysOnTheStave) {
    auto* station = open("harbour-dimmer");
    TimeLane* lane = station->timeLane();
    station->tabs()->setCurrentWidget(lane);
    lane->record(3e-3);
    ASSERT_TRUE(QTest::qWaitFor([&] { return lane->recording() != nullptr; }, 10000));
    EXPECT_GT(lane->recording()->happenings.size(), 4u);
    EXPECT_GT(lane->recording()->frames.size(), 100u);
    lane->showAt(0.3);
    const QImage one = station->stave()->grab().toImage();
    lane->showAt(0.8);
    EXPECT_NE(one, station->stave()->grab().toImage()) << "another moment, other volts";
    auto* head = lane->findChild<QSlider*>();
    const int before = head->value();
    for (auto* b : lane->findChildren<QPushButton*>())
        if (b->accessibleName() == "to the event before") QTest::mouseClick(b, Qt::LeftButton);
    EXPECT_LT(head->value(), before) << "to an exact event";
    station->tabs()->setCurrentIndex(0);
    EXPECT_EQ(station->stave()->drawing().items.size(), window->session().stave()->items.size());
}

TEST_F(Circuits, AnEditMakesARecordingOutdated) {
    auto* station = open("harbour-dimmer");
    station->timeLane()->record(1e-3);
    ASSERT_TRUE(QTest::qWaitFor([&] { return station->timeLane()->recording() != nullptr; }, 10000));
    say("r4 = 100");
    EXPECT_EQ(station->timeLane()->recording(), nullptr) << "never stale as if fresh";
}

TEST_F(Circuits, ThePeriodStandsOverTheStave) {
    auto* station = open("twin-blinker");
    bool found = false;
    for (auto* f : station->findChildren<FigureLabel*>())
        if (f->figure().id == "steady.period") {
            found = true;
            EXPECT_NEAR(f->figure().value, 0.57, 0.03);
        }
    EXPECT_TRUE(found);
}

TEST_F(Circuits, TheMeterReadsBetweenTwoNets) {
    auto* station = open("pier-lantern");
    station->tabs()->setCurrentWidget(station->meter());
    station->meter()->touch("LAMP");
    station->meter()->touch("GND");
    auto* value = station->meter()->findChild<FigureLabel*>();
    EXPECT_NEAR(value->figure().value, op().voltage("LAMP"), 0.006);
    EXPECT_EQ(window->session().staveView().red_probe, "LAMP");
    EXPECT_EQ(window->session().staveView().black_probe, "GND");
    station->tabs()->setCurrentIndex(0);
    EXPECT_EQ(window->session().staveView().red_probe, "") << "put away with the meter";
    station->tabs()->setCurrentWidget(station->meter());
    Conditions off;
    off.switches["S1"] = false;
    window->session().setConditions(off);
    EXPECT_LT(value->figure().value, 3.6) << "the reading follows the switch";
}

TEST_F(Circuits, AKnobIsACondition) {
    open("harbour-dimmer");
    QSlider* knob = nullptr;
    for (auto* s : window->findChildren<QSlider*>())
        if (s->accessibleName() == "knob RV1") knob = s;
    ASSERT_NE(knob, nullptr);
    knob->setValue(20);
    EXPECT_NEAR(window->session().conditions().knobs.at("RV1"), 0.2, 1e-9);
    say("rv1 at 75 %");
    EXPECT_EQ(knob->value(), 75);
}

TEST_F(Circuits, AButtonHoldsWhileItIsPressed) {
    open("pier-lantern");
    say("s2 button a V+ b GO");
    say("r9 10k from GO to gnd");
    auto* button = window->findChild<QPushButton*>("button S2");
    ASSERT_NE(button, nullptr);
    EXPECT_LT(op().voltage("GO"), 0.1);
    QTest::mousePress(button, Qt::LeftButton);
    EXPECT_GT(op().voltage("GO"), 4);
    QTest::mouseRelease(button, Qt::LeftButton);
    EXPECT_LT(op().voltage("GO"), 0.1);
}

TEST_F(Circuits, ADotDraggedToAnotherLineReconnects) {
    auto* station = open("pier-lantern");
    StaveWidget* stave = station->stave();
    const QPoint from = stave->itemRect("pin:R1.a").center().toPoint();
    const QPoint to(from.x(), static_cast<int>(stave->itemRect("pin:B1.+").center().y()));
    QTest::mousePress(stave, Qt::LeftButton, {}, from);
    QTest::mouseMove(stave, to);
    QTest::mouseRelease(stave, Qt::LeftButton, {}, to);
    settle();
    EXPECT_EQ(design().circuit.find("R1")->net("a"), "V+");
    window->action("undo")->trigger();
    EXPECT_EQ(design().circuit.find("R1")->net("a"), "LAMP");
}

TEST_F(Circuits, KeysDeleteDoubleAndTurn) {
    auto* station = open("pier-lantern");
    StaveWidget* stave = station->stave();
    stave->setFocus();
    stave->select("value:L1");
    QTest::keyClick(stave, Qt::Key_M);
    EXPECT_EQ(design().circuit.find("L1")->net("k"), "A1");
    window->action("undo")->trigger();
    stave->select("value:R2");
    QTest::keyClick(stave, Qt::Key_D, Qt::ControlModifier);
    EXPECT_NE(design().circuit.find("R3"), nullptr);
    stave->select("value:R3");
    QTest::keyClick(stave, Qt::Key_Delete);
    EXPECT_EQ(design().circuit.find("R3"), nullptr);
}

TEST_F(Circuits, ZoomAndFit) {
    auto* station = open("harbour-dimmer");
    StaveWidget* stave = station->stave();
    stave->setFocus();
    const double before = stave->drawing().height, words = stave->itemRect("value:B1").width();
    for (int k = 0; k < 4; ++k) QTest::keyClick(stave, Qt::Key_Plus);
    EXPECT_GT(stave->drawing().height, before * 1.3);
    EXPECT_NEAR(stave->itemRect("value:B1").width(), words, 1) << "words keep their size";
    EXPECT_TRUE(stave->overview()->isVisible());
    stave->select("value:Q1");
    EXPECT_TRUE(stave->rect().contains(stave->itemRect("value:Q1").toRect())) << "scrolled to";
    const QRectF tag = stave->itemRect("net:GND");
    EXPECT_GE(tag.left(), 0) << "a tag stays in view";
    EXPECT_LT(tag.left(), 40);
    QTest::keyClick(stave, Qt::Key_0);
    EXPECT_NEAR(stave->drawing().height, before, 1);
    EXPECT_LT(stave->itemRect("net:GND").bottom(), stave->height() + 1);
}

TEST_F(Circuits, AFoldedColumnUnfoldsByMouseAndKeyAndIsChangedAsOne) {
    auto* station = open("herbarium-ring");
    StaveWidget* stave = station->stave();
    EXPECT_TRUE(stave->itemRect("part:L9").isEmpty());
    const QPoint badge = stave->itemRect("fold:R1").center().toPoint();
    QTest::mouseClick(stave, Qt::LeftButton, {}, badge);
    EXPECT_FALSE(stave->itemRect("part:L9").isEmpty());
    stave->select("fold:R1");
    stave->setFocus();
    QTest::keyClick(stave, Qt::Key_Return);
    EXPECT_TRUE(stave->itemRect("part:L9").isEmpty());
    stave->editValue("R1");
    stave->editor()->setText("220");
    QTest::keyClick(stave->editor(), Qt::Key_Return);
    settle();
    for (const char* part : {"R1", "R7", "R12"}) EXPECT_EQ(value(part), 220) << part;
    window->session().undoStack().undo();
    EXPECT_EQ(value("R12"), 180) << "one step";
    station->focusRef("part:L9");
    EXPECT_FALSE(stave->itemRect("part:L9").isEmpty()) << "a finding leads to what is folded away";
    EXPECT_EQ(stave->selected(), "value:L9");
}

TEST_F(Circuits, TabsFoldAndStaySo) {
    auto* station = open("pier-lantern");
    const int before = station->stave()->height();
    auto* button = station->findChild<QToolButton*>("foldTabs");
    QTest::mouseClick(button, Qt::LeftButton);
    settle();
    EXPECT_TRUE(station->tabs()->folded());
    EXPECT_GT(station->stave()->height(), before + 100);
    EXPECT_TRUE(QSettings().value("circuit-below/folded").toBool());
    const int time = station->tabs()->indexOf(station->timeLane());
    QTest::mouseClick(station->tabs()->tabBar(), Qt::LeftButton, {},
                      station->tabs()->tabBar()->tabRect(time).center());
    settle();
    EXPECT_FALSE(station->tabs()->folded());
    EXPECT_EQ(station->tabs()->currentIndex(), time);
    EXPECT_NEAR(station->stave()->height(), before, 12) << "as high as before";
}

TEST_F(Circuits, TabsGetTallToReadAPlotClosely) {
    auto* station = open("harbour-dimmer");
    TimeLane* lane = station->timeLane();
    station->tabs()->showPage(lane);
    lane->record(2e-3);
    ASSERT_TRUE(QTest::qWaitFor([&] { return lane->recording() != nullptr; }, 10000));
    settle();
    const int before = station->tabs()->height(), kept = QSettings().value("circuit-below/height").toInt();
    EXPECT_GE(station->stave()->height(), 0.5 * (station->stave()->height() + before));
    const auto press = [&](Qt::KeyboardModifiers with, auto expected) {
        QTest::keyClick(window, Qt::Key_F6, with);
        EXPECT_TRUE(QTest::qWaitFor(expected, 2000));
        settle();
    };
    const auto tall = [&] { return station->tabs()->tall(); };
    const auto folded = [&] { return station->tabs()->folded(); };
    press({}, tall);
    EXPECT_GE(lane->traces()->height(), 240);
    EXPECT_EQ(QSettings().value("circuit-below/height").toInt(), kept) << "for a while only";
    press({}, [&] { return !tall(); });
    EXPECT_EQ(station->tabs()->height(), before);
    press(Qt::ShiftModifier, folded);
    press({}, tall);
    EXPECT_FALSE(folded());
    press(Qt::ShiftModifier, folded);
    press(Qt::ShiftModifier, [&] { return !folded(); });
    EXPECT_EQ(station->tabs()->height(), before) << "opened as it usually is";
}

TEST_F(Circuits, TheFirstLightHasALaneAsTheEyeSeesIt) {
    auto* station = open("twin-blinker");
    TimeLane* lane = station->timeLane();
    station->tabs()->showPage(lane);
    EXPECT_FALSE(lane->traces()->isVisible()) << "says what is missing";
    lane->record(3);
    ASSERT_TRUE(QTest::qWaitFor([&] { return lane->recording() != nullptr; }, 20000));
    EXPECT_TRUE(lane->traces()->isVisible());
    const TraceCurve* light = nullptr;
    for (const TraceCurve& curve : lane->traces()->curves())
        if (curve.look == TraceCurve::Look::light) light = &curve;
    ASSERT_NE(light, nullptr);
    const auto [low, high] = std::minmax_element(light->values.begin(), light->values.end());
    EXPECT_NEAR(*high, 1, 1e-9) << "shares of its brightest";
    EXPECT_LT(*low, 0.05) << "it flashes";
    const LedType* type = known_catalogue().led(design().circuit.find("L1")->text("type"));
    EXPECT_EQ(light->ink.rgb() & 0xffffff, type->colour());
}

TEST_F(Circuits, ALineIsRenamedInPlace) {
    auto* station = open("pier-lantern");
    StaveWidget* stave = station->stave();
    stave->select("net:LAMP");
    stave->setFocus();
    QTest::keyClick(stave, Qt::Key_Return);
    ASSERT_TRUE(stave->editor()->isVisible());
    QTest::keyClicks(stave->editor(), "GLOW");
    QTest::keyClick(stave->editor(), Qt::Key_Return);
    settle();
    EXPECT_EQ(design().circuit.find("R1")->net("a"), "GLOW");
    window->action("undo")->trigger();
    EXPECT_EQ(design().circuit.find("R1")->net("a"), "LAMP");
}

TEST_F(Circuits, KeysPutProbesAndTraces) {
    auto* station = open("pier-lantern");
    StaveWidget* stave = station->stave();
    stave->select("net:LAMP");
    stave->setFocus();
    QTest::keyClick(stave, Qt::Key_R);
    EXPECT_EQ(station->tabs()->currentWidget(), station->meter());
    auto* value = station->meter()->findChild<FigureLabel*>();
    EXPECT_NEAR(value->figure().value, op().voltage("LAMP"), 0.006);
    QTest::keyClick(stave, Qt::Key_T);
    EXPECT_EQ(station->tabs()->currentWidget(), station->timeLane());
    ASSERT_TRUE(QTest::qWaitFor([&] { return station->timeLane()->recording() != nullptr; }, 10000));
    EXPECT_NE(station->timeLane()->recording()->trace("net:LAMP"), nullptr);
}

TEST_F(Circuits, PartsGoThroughTheClipboard) {
    auto* station = open("pier-lantern");
    StaveWidget* stave = station->stave();
    stave->setFocus();
    stave->select("value:R2");
    QTest::keyClick(stave, Qt::Key_C, Qt::ControlModifier);
    QTest::keyClick(stave, Qt::Key_V, Qt::ControlModifier);
    settle();
    ASSERT_NE(design().circuit.find("R3"), nullptr) << "under a free name";
    EXPECT_EQ(design().circuit.find("R3")->net("a"), design().circuit.find("R2")->net("a"));
    QApplication::clipboard()->setText("part;kind;value;from;to\nR2;resistor;1k5;LAMP;A2\n");
    station->tabs()->setCurrentWidget(station->table());
    station->table()->setFocus();
    QTest::keyClick(station->table(), Qt::Key_V, Qt::ControlModifier);
    settle();
    EXPECT_EQ(value("R2"), 1500) << "a row of a known name replaces it";
    QApplication::clipboard()->setText("part;kind;value;from;to\nR2;resistor;lots;LAMP;A2\n");
    QTest::keyClick(station->table(), Qt::Key_V, Qt::ControlModifier);
    EXPECT_EQ(value("R2"), 1500) << "what cannot be read changes nothing";
}

TEST_F(Circuits, ASweepFollowsTheKnob) {
    auto* station = open("harbour-dimmer");
    SweepPanel* panel = station->sweepPanel();
    station->tabs()->setCurrentWidget(panel);
    panel->vary("RV1");
    panel->goal()->choose("L1", "mean");
    panel->start();
    ASSERT_TRUE(QTest::qWaitFor([&] { return panel->result().has_value(); }, 60000));
    const auto& values = panel->result()->values.front();
    EXPECT_GT(std::abs(values.front() - values.back()), 1e-3) << "the dimmer dims";
    auto* plot = panel->findChild<QCustomPlot*>();
    EXPECT_TRUE(plot->isVisible());
    settle();
    plot->replot();
    EXPECT_TRUE(plot->yAxis->tickVectorLabels().join(QLatin1Char(' ')).contains("mA"))
        << qPrintable(plot->yAxis->tickVectorLabels().join(QLatin1Char(' ')));
    say("r4 = 100");
    EXPECT_FALSE(panel->result()) << "of another design";
    EXPECT_FALSE(plot->isVisible());
    auto* offered = panel->findChild<Offer*>()->findChild<QPushButton*>();
    ASSERT_TRUE(offered->isVisible());
    QTest::mouseClick(offered, Qt::LeftButton);
    EXPECT_TRUE(QTest::qWaitFor([&] { return panel->result().has_value(); }, 60000));
}

TEST_F(Circuits, ABatchOnPaperNamesThePartThatMatters) {
    auto* station = open("pier-lantern");
    SpreadPanel* panel = station->spreadPanel();
    station->tabs()->setCurrentWidget(panel);
    panel->goal()->choose("L1", "mean");
    panel->start();
    ASSERT_TRUE(QTest::qWaitFor([&] { return panel->result().has_value(); }, 20000));
    EXPECT_GT(panel->result()->high, panel->result()->low);
    auto* parts = panel->findChild<QTableWidget*>();
    ASSERT_GT(parts->rowCount(), 1);
    EXPECT_TRUE(parts->item(0, 0)->text() == "L1" || parts->item(0, 0)->text() == "L2")
        << "its string's LEDs";
}

TEST_F(Circuits, TheBatchBandAndTheMark) {
    auto* station = open("harbour-dimmer");
    TimeLane* lane = station->timeLane();
    station->tabs()->setCurrentWidget(lane);
    lane->record(2e-3);
    ASSERT_TRUE(QTest::qWaitFor([&] { return lane->recording() != nullptr; }, 10000));
    lane->showAt(0.25);
    lane->mark();
    lane->showAt(0.75);
    bool found = false;
    for (auto* f : lane->findChildren<FigureLabel*>())
        if (f->figure().id == "measure.since_mark") {
            found = true;
            EXPECT_NEAR(f->figure().value, 1e-3, 1e-5);
        }
    EXPECT_TRUE(found);
    lane->showBand(true);
    ASSERT_TRUE(QTest::qWaitFor([&] { return lane->band() != nullptr; }, 60000));
    EXPECT_EQ(lane->band()->bands.size(), lane->recording()->traces.size());
    const QString csv = QString::fromStdString((folder / "run.csv").string());
    ASSERT_TRUE(lane->writeWaveforms(csv, true));
    QFile file(csv);
    ASSERT_TRUE(file.open(QIODevice::ReadOnly));
    EXPECT_TRUE(file.readLine().startsWith("time_s,"));
    EXPECT_TRUE(lane->writeWaveforms(QString::fromStdString((folder / "run.vcd").string()), false));
    EXPECT_FALSE(lane->writeWaveforms("/nowhere/at/all.csv", true));
}

TEST_F(Circuits, ALatchShowsItsOtherState) {
    open("pier-lantern");
    for (const char* line : {"q1 npn c A b P e gnd", "q2 npn c B b Q e gnd", "r11 1k from V+ to A",
                             "r12 1k from V+ to B", "r13 22k from A to Q", "r14 22k from B to P"})
        say(line);
    window->showStation("circuit");
    settle();
    ASSERT_GE(ask(StatesQuery(window->session().circuit(), window->session().conditions()))->size(), 2u);
    auto* station = qobject_cast<CircuitStation*>(window->station("circuit"));
    const auto before = station->stave()->grab().toImage();
    station->showNextState();
    EXPECT_NE(before, station->stave()->grab().toImage());
    station->showNextState();
}

TEST_F(Circuits, TheStaveIsPrintedAndWritten) {
    open("firefly-jar");
    QPrinter printer(QPrinter::HighResolution);
    printer.setOutputFormat(QPrinter::PdfFormat);
    printer.setOutputFileName(QString::fromStdString((folder / "stave.pdf").string()));
    ASSERT_TRUE(print_stave(window->session().staveForPaper(), printer));
    EXPECT_GT(std::filesystem::file_size(folder / "stave.pdf"), 3000u);
    window->writeExport("stave", folder / "stave.svg");
    ASSERT_TRUE(written());
    EXPECT_GT(std::filesystem::file_size(folder / "stave.svg"), 3000u);
    EXPECT_FALSE(print_stave(Drawing{}, printer)) << "nothing to print";
}

TEST_F(Circuits, AControllersTableIsTypedOnTheStaveAndUndone) {
    auto* station = open("pier-lantern");
    say("small controller vcc V+ gnd GND P0 LAMP P3 KEY");
    const Part* chip = design().circuit.find("U1");
    ASSERT_NE(chip, nullptr);
    const std::string before = chip->text("behaviour");
    const auto type = [&](const char* table) {
        station->stave()->editValue("U1");
        ASSERT_TRUE(station->stave()->editor()->isVisible());
        station->stave()->editor()->setText(table);
        QTest::keyClick(station->stave()->editor(), Qt::Key_Return);
        settle();
    };
    type("state rest sleeps; press P3 to lit; state lit; P0 on; after 4s to rest");
    const std::string typed = design().circuit.find("U1")->text("behaviour");
    EXPECT_NE(typed, before);
    EXPECT_NE(typed.find("after 4s to rest"), std::string::npos) << typed;
    type("state rest sleeps; press P3 to nowhere");
    EXPECT_EQ(design().circuit.find("U1")->text("behaviour"), typed) << "nothing of a bad table is taken";
    EXPECT_TRUE(station->stave()->editor()->isVisible()) << "what was typed stays, to be mended";
    QTest::keyClick(station->stave()->editor(), Qt::Key_Escape);
    window->action("undo")->trigger();
    settle();
    EXPECT_EQ(design().circuit.find("U1")->text("behaviour"), before) << "one step";
}

}  // namespace
}  // namespace elkit::test
