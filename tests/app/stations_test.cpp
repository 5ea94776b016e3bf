// Each station by itself: what it shows and what its controls do.
#include <QCheckBox>
#include <QComboBox>
#include <QDir>
#include <QHeaderView>
#include <QInputDialog>
#include <QMenu>
#include <QPushButton>
#include <QRadioButton>
#include <QSettings>
#include <QTableWidget>
#include <QTimer>
#include <QToolButton>

#include "app/shell/findings_panel.hpp"
#include "app/shell/shots.hpp"
#include "app/shell/workline.hpp"
#include "app/stations/board/board_sides.hpp"
#include "app/stations/board/board_station.hpp"
#include "app/stations/circuit/circuit_station.hpp"
#include "app/stations/circuit/recipe_page.hpp"
#include "app/stations/light/arrays_panel.hpp"
#include "app/stations/light/limiters_panel.hpp"
#include "app/stations/light/match_panel.hpp"
#include "app/stations/light/place_row.hpp"
#include "app/stave/stave_widget.hpp"
#include "app/theme/theme.hpp"
#include "app/widgets/data_table.hpp"
#include "app/widgets/figure_table.hpp"
#include "app/widgets/offer.hpp"
#include "app/widgets/picture_view.hpp"
#include "window_fixture.hpp"

namespace elkit::test {
namespace {

template <class T>
T* named(QWidget* parent, const QString& accessible_name) {
    for (auto* w : parent->findChildren<T*>())
        if (w->accessibleName() == accessible_name) return w;
    ADD_FAILURE() << "no control called " << qPrintable(accessible_name);
    return nullptr;
}

/// Chooses an entry of a combo box as a person does.
void choose(QComboBox* box, const QString& text) {
    const int index = box->findText(text);
    ASSERT_GE(index, 0) << qPrintable(text);
    box->setCurrentIndex(index);
    emit box->activated(index);
}

TEST_F(Window, TheBriefIsStoredAndJudged) {
    enter("brief", "Run time", "300 h");
    EXPECT_EQ(design().brief.run_time, 300);
    EXPECT_TRUE(hasFinding("run-time"));
    enter("brief", "Kits", "12");
    EXPECT_EQ(design().brief.kits, 12);
    enter("brief", "Cost ceiling", "1.00");
    EXPECT_TRUE(hasFinding("cost"));
    enter("brief", "Room, width", "1 cm");
    EXPECT_EQ(design().brief.width, 10);
    EXPECT_TRUE(hasFinding("board-size"));
    enter("brief", "Spent below", "80 %");
    EXPECT_NEAR(design().brief.end_brightness, 0.8, 1e-12);
    auto* children = window->station("brief")->findChild<QCheckBox*>();
    QTest::mouseClick(children, Qt::LeftButton, {}, QPoint(8, children->height() / 2));
    EXPECT_TRUE(design().brief.for_children);
}

TEST_F(Window, TheNameFollowsIntoTitleAndWorkline) {
    auto* name = named<QLineEdit>(window->station("brief"), "Name");
    window->showStation("brief");
    name->setFocus();
    name->selectAll();
    QTest::keyClicks(name, "Jetty lamp");
    QTest::keyClick(name, Qt::Key_Return);
    EXPECT_EQ(design().name, "Jetty lamp");
    EXPECT_TRUE(window->windowTitle().contains("Jetty lamp"));
    EXPECT_TRUE(window->isWindowModified());
}

TEST_F(Window, TheLightsGoalsSizeTheCircuitAnew) {
    enter("light", "LEDs in all", "6");
    EXPECT_EQ(design().circuit.find("L6") != nullptr, true);
    EXPECT_EQ(ask(window->session().lightQuery())->strings.size(), 3u);
    enter("light", "current", "5mA");
    EXPECT_NEAR(goals().number("current"), 0.005, 1e-12);
    choose(named<QComboBox>(window->station("light"), "LED"), "red 5 mm LED");
    EXPECT_EQ(design().circuit.find("L1")->text("type"), "red-5mm");
    choose(named<QComboBox>(window->station("light"), "resistors"), "shared");
    settle();
    EXPECT_TRUE(hasFinding("shared-resistor"));
    choose(named<QComboBox>(window->station("light"), "series of values"), "E6");
    EXPECT_EQ(goals().text("series"), "E6");
}

TEST_F(Window, BothSchoolsOfRoundingAndTheDrawer) {
    enter("light", "current", "10 mA");
    choose(named<QComboBox>(window->station("light"), "series of values"), "E6");
    const auto buttons = window->station("light")->findChildren<QRadioButton*>();
    ASSERT_EQ(buttons.size(), 3);
    settle();
    EXPECT_TRUE(buttons[1]->isChecked()) << "never above the target, as in the goals";
    EXPECT_EQ(value("R1"), 100);
    QTest::mouseClick(buttons[0], Qt::LeftButton, {}, QPoint(8, buttons[0]->height() / 2));
    settle();
    EXPECT_EQ(goals().text("rounding"), "nearest");
    EXPECT_EQ(value("R1"), 68);
    QTest::mouseClick(buttons[2], Qt::LeftButton, {}, QPoint(8, buttons[2]->height() / 2));
    settle();
    const auto owned = owned_resistors(window->session().drawerItems());
    EXPECT_EQ(std::count(owned.begin(), owned.end(), value("R1")), 1) << value("R1") << " lies in the drawer";
}

TEST_F(Window, MeasuredPointsReplaceTheCatalogue) {
    window->showStation("light");
    settle();
    const double before = stringCurrent().value;
    auto* points = window->station("light")->findChild<QLineEdit*>("measured points");
    points->setFocus();
    QTest::keyClicks(points, "5mA 1.88V; 15 mA 1.95");
    QTest::keyClick(points, Qt::Key_Return);
    settle();
    ASSERT_NE(design().circuit.find("L4")->points("points"), nullptr);
    EXPECT_EQ(design().circuit.find("L4")->points("points")->size(), 2u);
    EXPECT_GT(stringCurrent().value, before);
    points->selectAll();
    QTest::keyClicks(points, "5mA");
    QTest::keyClick(points, Qt::Key_Return);
    EXPECT_TRUE(points->property("bad").toBool());
    EXPECT_TRUE(window->bannerText().contains("5mA 1.98V"))
        << "what was expected: " << qPrintable(window->bannerText());
    points->selectAll();
    QTest::keyClick(points, Qt::Key_Delete);
    QTest::keyClick(points, Qt::Key_Return);
    EXPECT_EQ(design().circuit.find("L4")->points("points"), nullptr)
        << "an empty field goes back to the catalogue";
}

TEST_F(Window, TheBinMovesTheCurrent) {
    window->showStation("light");
    const double typical = stringCurrent().value;
    choose(named<QComboBox>(window->station("light"), "forward-voltage bin of the LEDs"), "high");
    settle();
    EXPECT_LT(stringCurrent().value, typical);
}

TEST_F(Window, TrueHeightDrawsTheVoltsToScale) {
    window->showStation("circuit");
    settle();
    auto* stave = static_cast<CircuitStation*>(window->station("circuit"))->stave();
    auto* tick = window->station("circuit")->findChild<QCheckBox*>("trueHeight");
    QTest::keyClick(window, Qt::Key_H, Qt::AltModifier);
    QTest::qWait(200);  // the tick box shows itself pressed for a moment
    settle();
    ASSERT_TRUE(tick->isChecked());
    const auto y = [&](const char* pin) { return stave->itemRect(pin).center().y(); };
    const double top = y("pin:B1.+"), bottom = y("pin:B1.-"), middle = y("net:M1");
    const auto now = op();
    EXPECT_NEAR((bottom - middle) / (bottom - top), now.voltage("M1") / now.voltage("V+"), 0.01);
}

TEST_F(Window, ANetLightsUpUnderTheMouse) {
    window->showStation("circuit");
    settle();
    auto* stave = static_cast<CircuitStation*>(window->station("circuit"))->stave();
    const QRectF dot = stave->itemRect("net:LAMP");
    QTest::mouseMove(stave, QPoint(qRound(dot.left()) + 20, qRound(dot.center().y())));
    QApplication::processEvents();
    EXPECT_EQ(window->session().staveView().lit_net, "LAMP");
}

TEST_F(Window, TheBoardSaysThatItIsTheCircuit) {
    window->showStation("board");
    settle();
    bool equal = false;
    for (auto* l : window->station("board")->findChildren<QLabel*>())
        equal = equal || l->text().contains("✓ Yes");
    EXPECT_TRUE(equal);
    enter("board", "Columns", "20");
    EXPECT_TRUE(ask(window->session().boardQuery())->size.starts_with("20 ×"));
    enter("board", "Rows", "3");
    EXPECT_TRUE(hasFinding("board-fault"));
    EXPECT_FALSE(ask(window->session().boardQuery()));
    auto* sides = static_cast<BoardStation*>(window->station("board"))->sides();
    EXPECT_FALSE(sides->isVisible()) << "says why instead";
    window->session().undoStack().undo();
    settle();
    EXPECT_TRUE(sides->isVisible());
}

/// The arrangements tab of the Light station, open.
ArraysPanel* open_arrays(MainWindow* window) {
    window->showStation("light");
    auto* panel = window->station("light")->findChild<ArraysPanel*>();
    window->station("light")->findChild<FoldingTabs*>()->showPage(panel);
    return panel;
}

TEST_F(Window, AnArrangementIsTakenIntoTheDesign) {
    ArraysPanel* panel = open_arrays(window);
    settle();
    ASSERT_EQ(panel->table()->rowCount(), 4) << "four lights in strings of one to four";
    int singles = -1;
    for (int row = 0; row < 4; ++row)
        if (panel->table()->item(row, 0)->text() == QStringLiteral("4 × 1")) singles = row;
    ASSERT_GE(singles, 0);
    EXPECT_TRUE(panel->table()->item(singles == 0 ? 1 : 0, 0)->text().contains("(now)"));
    panel->table()->setCurrentCell(singles, 0);
    settle();
    const auto* picture = window->station("light")->findChild<PictureView*>("arrangement");
    const auto previewed = [&] {
        for (const QLabel* words : window->station("light")->findChildren<QLabel*>())
            if (words->isVisible() && words->text().contains("not in the design yet")) return true;
        return false;
    };
    const auto strings_drawn = [&] {  // "×4" below a string of which there are four
        for (const Item& item : picture->drawing().items)
            if (const auto* text = std::get_if<Text>(&item.shape); text && text->text.starts_with("×4"))
                return true;
        return false;
    };
    EXPECT_TRUE(previewed());
    EXPECT_TRUE(strings_drawn()) << "seen before it is taken";
    QTest::mouseClick(panel->findChild<QPushButton*>(), Qt::LeftButton);
    settle();
    EXPECT_FALSE(previewed());
    EXPECT_NE(design().circuit.find("R4"), nullptr) << "a resistor for each light";
    EXPECT_EQ(design().blocks.size(), 1u);
    window->session().undoStack().undo();
    settle();
    EXPECT_EQ(design().circuit.find("R4"), nullptr);
    panel->table()->sortBy(1);
    const auto ohms = [&](int place) {
        return figure_value(panel->table()->item(panel->table()->verticalHeader()->logicalIndex(place), 1));
    };
    EXPECT_LT(ohms(0).value_or(1e9), ohms(1).value_or(0)) << "sorted by the resistors' values";
    panel->table()->sortBy(1), panel->table()->sortBy(1);
    auto* count = named<QLineEdit>(panel, QStringLiteral("lights to arrange"));
    count->setFocus();
    count->selectAll();
    QTest::keyClicks(count, "6");
    QTest::keyClick(count, Qt::Key_Return);
    settle();
    EXPECT_EQ(panel->table()->rowCount(), 6);
    EXPECT_EQ(design().circuit.find("L5"), nullptr) << "asked, not done";
}

TEST_F(Window, OtherLightsCanBeMeant) {
    window->openDemo("harbour-diorama");
    ArraysPanel* panel = open_arrays(window);
    settle();
    auto* box = panel->findChild<PlaceRow*>()->box();
    ASSERT_TRUE(box->isVisible());
    ASSERT_GE(box->count(), 2);
    auto* count = named<QLineEdit>(panel, QStringLiteral("lights to arrange"));
    const QString before = count->text();
    const auto places = hung_lights(design().circuit);
    std::size_t other = 0;
    while (other + 1 < places.size() && QString::number(places[other].leds) == before) ++other;
    box->setCurrentIndex(static_cast<int>(other));
    emit box->activated(static_cast<int>(other));
    settle();
    EXPECT_EQ(count->text(), QString::number(places[other].leds));
    auto* limiters = window->station("light")->findChild<LimitersPanel*>();
    window->station("light")->findChild<FoldingTabs*>()->showPage(limiters);
    settle();
    EXPECT_EQ(limiters->findChild<PlaceRow*>()->box()->currentIndex(), static_cast<int>(other))
        << "the other tab means the same lights";
    limiters->use(0);
    settle();
    EXPECT_EQ(hung_lights(design().circuit).size(), places.size()) << "the others are as they were";
    EXPECT_EQ(limiters->findChild<PlaceRow*>()->box()->currentText(), box->itemText(static_cast<int>(other)))
        << "still those";
}

TEST_F(Window, LimitersAreCompared) {
    window->showStation("light");
    auto* panel = window->station("light")->findChild<LimitersPanel*>();
    window->station("light")->findChild<FoldingTabs*>()->showPage(panel);
    settle();
    ASSERT_EQ(panel->table()->rowCount(), 7);
    EXPECT_EQ(panel->table()->item(0, 1)->text(),
              QString::fromStdString(format_quantity(
                  ask(LightQuery(window->session().circuit(), {}))->strings.front().fresh_current.value,
                  Unit::ampere)));
    panel->table()->setCurrentCell(6, 0);
    QString words;
    for (auto* l : panel->findChildren<QLabel*>()) words += l->text();
    EXPECT_TRUE(words.contains("Not possible")) << qPrintable(words);
}

TEST_F(Window, ColoursAreMadeEqual) {
    window->openDemo("pantry-gauge");
    window->showStation("light");
    auto* panel = window->station("light")->findChild<MatchPanel*>();
    window->station("light")->findChild<FoldingTabs*>()->showPage(panel);
    settle();
    ASSERT_EQ(panel->table()->rowCount(), 3) << "red, amber, green";
    const Design before = design();
    QTest::mouseClick(panel->findChild<QPushButton*>(), Qt::LeftButton);
    settle();
    EXPECT_FALSE(design() == before);
    window->session().undoStack().undo();
    settle();
    EXPECT_TRUE(design() == before) << "one step";
    window->session().forgetUnsaved();
    window->openDemo("pier-lantern");
    settle();
    EXPECT_FALSE(panel->table()->isVisible());
    QString words;
    for (auto* l : panel->findChildren<QLabel*>()) words += l->text();
    EXPECT_TRUE(words.contains("two kinds")) << qPrintable(words);
}

TEST_F(Window, ArrangementsAreThereWithoutARecipe) {
    window->openDemo("shelf-strip");
    Design d = test::demo("seat-finder");
    d.blocks.clear();
    window->session().edit(d, "another");
    ArraysPanel* panel = open_arrays(window);
    settle();
    EXPECT_EQ(panel->table()->rowCount(), 1) << "each crossing of a grid is a place of its own";
    EXPECT_EQ(panel->findChild<PlaceRow*>()->box()->count(), 25);
    const auto lights = [&] {
        int n = 0;
        for (const Part& p : design().circuit.parts) n += p.kind == "led";
        return n;
    };
    const int before = lights();
    panel->use(0);
    settle();
    EXPECT_EQ(before, 25);
    EXPECT_EQ(lights(), before) << "in place of those that were there";
}

TEST_F(Window, AnEmptyDesignSaysWhatIsMissingAndOffersIt) {
    Design empty = design();
    empty.blocks.clear(), empty.circuit.parts.clear();
    window->session().edit(empty, "take all parts out");
    for (const char* id : {"light", "circuit", "power", "trial", "board", "build", "batch"}) {
        window->showStation(id);
        settle();
        QPushButton* offered = nullptr;
        for (auto* offer : window->station(id)->findChildren<Offer*>())
            if (offer->offers() && offer->isVisible()) offered = offer->button();
        if (auto* page = window->station(id)->findChild<RecipePage*>(); page && page->isVisible())
            for (auto* button : page->findChildren<QPushButton*>())
                if (button->text().contains(QStringLiteral("Ctrl K"))) offered = button;
        ASSERT_NE(offered, nullptr) << id;
        ASSERT_TRUE(offered->isVisible()) << id;
        QTest::mouseClick(offered, Qt::LeftButton);
        EXPECT_TRUE(window->doPanel()->isVisible()) << id;
        QTest::keyClick(window->doPanel()->line(), Qt::Key_Escape);
    }
    say("battery 3 x LR6");
    say("led amber from V+ to GND");
    window->showStation("light");
    settle();
    EXPECT_TRUE(window->station("light")->findChild<PictureView*>(QStringLiteral("arrangement"))->isVisible())
        << "panels again";
}

TEST_F(Window, WhatIsNotSolvedShowsNoNumbers) {
    Design open = design();
    open.blocks.clear();
    std::erase_if(open.circuit.parts,
                  [](const Part& p) { return p.designator != "B1" && p.designator != "S1"; });
    window->session().edit(open, "take the lights out");
    auto* circuit = static_cast<CircuitStation*>(window->station("circuit"));
    window->showStation("circuit");
    settle();
    for (const Item& item : circuit->stave()->drawing().items)
        if (const Text* t = std::get_if<Text>(&item.shape)) {
            EXPECT_EQ(t->text.find(" V"), std::string::npos) << t->text;
            EXPECT_EQ(t->text.find(" A"), std::string::npos) << t->text;
        }
    auto* rows = circuit->table();
    EXPECT_EQ(rows->item(0, 5)->text(), QStringLiteral("–"));
    window->showStation("power");
    settle();
    for (auto* figure : window->station("power")->findChildren<FigureLabel*>())
        EXPECT_FALSE(figure->isVisible()) << qPrintable(figure->accessibleName());
    window->session().undoStack().undo();
    settle();
    EXPECT_NEAR(figure("power", "runTime").value, 160, 60);
}

TEST_F(Window, ANoticeThatAsksNothingGoesWhenTheWorkGoesOn) {
    window->session().reportError("something to know");
    EXPECT_EQ(window->bannerText(), "something to know");
    window->showStation("power");
    EXPECT_FALSE(window->bannerText().isEmpty()) << "not before it could be read";
    QTest::qWait(4100);
    EXPECT_FALSE(window->bannerText().isEmpty()) << "nobody may have looked";
    window->showStation("light");
    EXPECT_TRUE(window->bannerText().isEmpty());
}

TEST_F(Window, ABoardTooLargeToReadIsSeenFromOneSide) {
    window->showStation("board");
    settle();
    auto* sides = static_cast<BoardStation*>(window->station("board"))->sides();
    EXPECT_TRUE(sides->picture(0)->isVisible() && sides->picture(1)->isVisible());
    EXPECT_FALSE(sides->picture(0)->geometry().isEmpty());
    window->openDemo("harbour-diorama");
    settle();
    EXPECT_TRUE(sides->picture(0)->isVisible());
    EXPECT_FALSE(sides->picture(1)->isVisible());
    auto* shown = window->station("board")->findChild<QComboBox*>();
    shown->setFocus();
    QTest::keyClick(shown, Qt::Key_End);
    EXPECT_FALSE(sides->picture(0)->isVisible());
    EXPECT_TRUE(sides->picture(1)->isVisible());
    QTest::mouseClick(sides->picture(1), Qt::LeftButton, {},
                      sides->picture(1)->itemRect("part:U1").center().toPoint());
    QTest::keyClick(shown, Qt::Key_Home);
    EXPECT_TRUE(sides->picture(0)->isVisible() && sides->picture(1)->isVisible()) << "chosen by hand";
    window->openDemo("pier-lantern");
    settle();
    EXPECT_EQ(sides->shown(), BoardSides::Show::both) << "stays as chosen";
}

TEST_F(Window, AFindingIsSettledWithAReasonAndReopened) {
    ASSERT_TRUE(hasFinding("sag"));
    const auto press = [this](const QString& text) {
        QApplication::processEvents();
        for (auto* b : window->findChild<FindingsPanel*>()->findChildren<QPushButton*>())
            if (b->text() == text) return QTest::mouseClick(b, Qt::LeftButton);
        FAIL() << qPrintable(text);
    };
    QTimer::singleShot(100, [] {
        for (auto* w : QApplication::topLevelWidgets())
            if (auto* dialog = qobject_cast<QInputDialog*>(w)) {
                dialog->setTextValue("it may fade towards morning");
                dialog->accept();
            }
    });
    press("I know, because…");
    settle();
    EXPECT_FALSE(hasFinding("sag"));
    ASSERT_EQ(design().decisions.size(), 1u);
    EXPECT_EQ(design().decisions[0].reason, "it may fade towards morning");
    press("Reopen");
    settle();
    EXPECT_TRUE(hasFinding("sag"));
}

TEST_F(Window, AFindingLeadsToItsField) {
    for (auto* b : window->findChild<FindingsPanel*>()->findChildren<QPushButton*>())
        if (b->text() == "Show") {
            window->showStation("batch");
            QTest::mouseClick(b, Qt::LeftButton);
            break;
        }
    EXPECT_TRUE(window->station("light")->isVisible());
}

TEST_F(Window, TheWorklineTellsTheKeyFigures) {
    settle();
    EXPECT_EQ(window->station("brief")->keyFigure().text, QString("40 kits · 84.0\u00a0h"));
    EXPECT_TRUE(window->station("light")->keyFigure().text.startsWith("2 × 2 at"));
    EXPECT_TRUE(window->station("power")->keyFigure().text.contains("("));
    EXPECT_TRUE(window->station("board")->keyFigure().text.endsWith("holes"));
    EXPECT_TRUE(window->station("build")->keyFigure().text.startsWith("step 0 of"));
    say("s1 off");
    EXPECT_TRUE(window->station("circuit")->keyFigure().text.startsWith("S1 off"));
}

TEST_F(Window, ADesignWithoutACircuitSaysWhatIsMissing) {
    window->session().startNew(Design{});
    settle();
    EXPECT_TRUE(hasFinding("circuit"));
    for (const char* id : {"brief", "light", "circuit", "power", "trial", "board", "build", "batch"}) {
        window->showStation(id);
        settle();
        EXPECT_TRUE(window->station(id)->isVisible());
    }
}

TEST_F(Window, PresetsAndReset) {
    const auto pill = [this](const QString& name) {
        QTest::mouseClick(named<QPushButton>(window, name), Qt::LeftButton);
    };
    pill("battery half");
    EXPECT_NEAR(window->session().conditions().battery, 0.5, 1e-9);
    pill("battery nearly flat");
    EXPECT_NEAR(window->session().conditions().battery, 0.1, 1e-9);
    pill("reset all conditions");
    EXPECT_TRUE(window->session().conditions() == Conditions{});
}

TEST_F(Window, DarkAndLight) {
    const QColor light = window->grab().toImage().pixelColor(700, 640);
    window->action("theme")->trigger();
    settle();
    EXPECT_TRUE(theme().dark);
    EXPECT_LT(window->grab().toImage().pixelColor(700, 640).lightness(), light.lightness() / 2);
    window->action("theme")->trigger();
    EXPECT_FALSE(theme().dark);
}

TEST_F(Window, IsUsableOnASmallScreen) {
    window->resize(1024, 700);
    settle();
    for (const char* id : {"brief", "light", "circuit", "power", "trial", "board", "build", "batch"}) {
        window->showStation(id);
        settle();
        EXPECT_EQ(window->width(), 1024) << id;
        QTest::keyClick(window, Qt::Key_K, Qt::ControlModifier);
        EXPECT_TRUE(window->doPanel()->line()->visibleRegion().boundingRect().width() > 500) << id;
        QTest::keyClick(window->doPanel()->line(), Qt::Key_Escape);
        EXPECT_TRUE(window->doPanel()->isHidden());
    }
}

TEST_F(Window, RemembersRecentFiles) {
    const auto path = folder / "recent.elkit.json";
    ASSERT_TRUE(window->saveTo(path));
    EXPECT_EQ(QSettings().value("recent").toStringList().value(0), QString::fromStdString(path.string()));
}

TEST_F(Window, OpensAgainWhatHasANameThatIsNotUtf8) {
    const auto path = folder / "lamp \xff 100%&.elkit.json";
    ASSERT_TRUE(window->saveTo(path));
    auto next = window->session().design();
    next.name = "Edited";
    window->session().edit(next, "name");
    ASSERT_TRUE(window->saveTo(path)) << "saved where it came from";
    window->session().startNew(Design{});
    QMenu* recent = nullptr;
    for (auto* menu : window->findChildren<QMenu*>())
        if (menu->title() == "Open recent") recent = menu;
    ASSERT_TRUE(recent);
    emit recent->aboutToShow();
    ASSERT_FALSE(recent->actions().isEmpty());
    recent->actions().front()->trigger();
    EXPECT_EQ(window->session().path(), path);
    EXPECT_EQ(window->session().design().name, "Edited");
}

TEST(Shots, AreWrittenOneForEachView) {
    TemporaryFolder folder;
    ASSERT_EQ(take_shots(QString::fromStdString(folder.path().string()), store_of_all()), 0);
    const auto files = QDir(QString::fromStdString(folder.path().string())).entryList({"*.png"});
    std::size_t views = 0;
    for (const StationInfo& info : stations()) views += info.shots.size();
    ++views;  // the drawer
    EXPECT_EQ(static_cast<std::size_t>(files.size()), views);
    EXPECT_LT(views, 20u);
    const QImage shot(QString::fromStdString((folder / "light.png").string()));
    EXPECT_EQ(shot.size(), QSize(1280, 800));
    apply_theme(false);
}

}  // namespace
}  // namespace elkit::test
