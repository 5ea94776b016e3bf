// Trial and Board in the window: methods, mounting, steps, and what was found at the trial.
#include <QApplication>
#include <QCheckBox>
#include <QComboBox>
#include <QLineEdit>
#include <QPushButton>
#include <QTreeWidget>
#include <cmath>

#include "app/stations/board/board_sides.hpp"
#include "app/stations/board/board_station.hpp"
#include "app/stations/board/compare_panel.hpp"
#include "app/stations/board/hand_panel.hpp"
#include "app/stations/board/mounts_panel.hpp"
#include "app/stations/trial/trial_station.hpp"
#include "app/widgets/folding_tabs.hpp"
#include "app/widgets/picture_view.hpp"
#include "app/widgets/steps_view.hpp"
#include "window_fixture.hpp"

namespace elkit::test {
namespace {

QComboBox* box(QWidget* station, const QString& name) {
    for (auto* combo : station->findChildren<QComboBox*>())
        if (combo->accessibleName() == name) return combo;
    return nullptr;
}

void pick(QComboBox* combo, const QString& words) {
    ASSERT_NE(combo, nullptr);
    for (int k = 0; k < combo->count(); ++k)
        if (combo->itemText(k).contains(words)) {
            combo->setCurrentIndex(k);
            emit combo->activated(k);
            return;
        }
    ADD_FAILURE() << "there is no " << words.toStdString();
}

class BoardWindow : public Window {
  protected:
    Station* at(const char* station, const char* demo) {
        window->openDemo(QLatin1String(demo));
        window->showStation(QLatin1String(station));
        settle();
        return window->station(QLatin1String(station));
    }
    /// The board of a demo, milled.
    BoardStation* milled(const char* demo) {
        Station* station = at("board", demo);
        pick(box(station, "how the board is made"), "milled");
        settle();
        return static_cast<BoardStation*>(station);
    }
};

TEST_F(BoardWindow, TheMethodIsChosenAndTakenBack) {
    Station* station = at("board", "pier-lantern");
    auto* method = box(station, "how the board is made");
    pick(method, "strip");
    settle();
    EXPECT_EQ(design().board.method, "strip");
    const auto board = ask(window->session().boardQuery());
    EXPECT_TRUE(board->differences.empty());
    EXPECT_NE(board->summary.find("cuts"), std::string::npos);
    EXPECT_FALSE(static_cast<BoardStation*>(station)->sides()->picture(1)->drawing().bounds("strip").x1 <= 0);
    window->session().undoStack().undo();
    settle();
    EXPECT_EQ(design().board.method, "pad");
    EXPECT_EQ(method->currentData().toString(), "pad");
}

TEST_F(BoardWindow, APartIsMountedAnotherWay) {
    Station* station = at("board", "harbour-dimmer");
    auto* panel = station->findChild<MountsPanel*>();
    ASSERT_EQ(panel->table()->rowCount(), static_cast<int>(design().circuit.parts.size()));
    panel->choose("part:R1");
    pick(box(panel, "footprint"), "standing, 2.54");
    settle();
    EXPECT_EQ(mount_of(design().board, "R1").footprint, "standing-2");
    EXPECT_EQ(ask(window->session().boardQuery())->part("R1")->footprint.id, "standing-2");
    panel->choose("part:L1");
    pick(box(panel, "place"), "panel");
    settle();
    const auto wires = ask(window->session().boardQuery())->on_wires();
    EXPECT_NE(std::find(wires.begin(), wires.end(), "L1"), wires.end());
    panel->choose("part:Q1");
    EXPECT_TRUE(box(panel, "legs")->isEnabled());
    pick(box(panel, "legs"), "s d g");
    settle();
    EXPECT_EQ(mount_of(design().board, "Q1").legs, "s d g");
    panel->choose("part:R2");
    EXPECT_FALSE(box(panel, "legs")->isEnabled()) << "it has two alike";
    for (int k = 0; k < 3; ++k) window->session().undoStack().undo();
    settle();
    EXPECT_TRUE(design().board.parts.empty());
}

TEST_F(BoardWindow, TheTrialHasAStepForEachPartAndRemembersTicks) {
    Station* station = at("trial", "twin-blinker");
    auto* steps = station->findChild<StepsView*>();
    ASSERT_NE(steps->current(), nullptr);
    auto* tree = steps->findChild<QTreeWidget*>();
    int rows = 0;
    for (int k = 0; k < tree->topLevelItemCount(); ++k) rows += tree->topLevelItem(k)->childCount();
    EXPECT_GT(rows, static_cast<int>(design().circuit.parts.size()));
    station->focusRef("part:R1");
    EXPECT_EQ(steps->current()->id, "trial.plug.R1");
    auto* found = station->findChild<QLineEdit*>("found");
    station->focusRef("part:R2");
    EXPECT_EQ(found->text(), "r2 = ") << "the part that was clicked last";
    found->setText("r2 = 4");
    station->focusRef("part:R1");
    EXPECT_EQ(found->text(), "r2 = 4") << "what someone types stays";
    auto* item = tree->currentItem();
    ASSERT_NE(item, nullptr);
    item->setCheckState(0, Qt::Checked);
    settle();
    ASSERT_NE(design().record("trial.plug.R1"), nullptr);
    EXPECT_TRUE(design().record("trial.plug.R1")->done);
    EXPECT_EQ(design().record("solder.R1"), nullptr) << "the board to come is another";
}

TEST_F(BoardWindow, WhatWasFoundGoesIntoTheDesignByOneKey) {
    Station* station = at("trial", "twin-blinker");
    auto* found = station->findChild<QLineEdit*>("found");
    found->setText("r1 = nonsense");
    QTest::keyClick(found, Qt::Key_Return);
    EXPECT_EQ(found->text(), "r1 = nonsense") << "kept, to be put right";
    const double before = design().circuit.find("R1")->number("value");
    found->setText("r1 = 560");
    QTest::keyClick(found, Qt::Key_Return);
    settle();
    EXPECT_EQ(design().circuit.find("R1")->number("value"), 560);
    EXPECT_TRUE(found->text().isEmpty());
    window->session().undoStack().undo();
    settle();
    EXPECT_EQ(design().circuit.find("R1")->number("value"), before);
    found->setText("battery 50 %");
    QTest::keyClick(found, Qt::Key_Return);
    EXPECT_FALSE(found->text().isEmpty()) << "that is no part";
}

TEST_F(BoardWindow, BreadboardAndColoursAreChosen) {
    Station* station = at("trial", "twin-blinker");
    pick(box(station, "breadboard"), "full size, 63");
    settle();
    EXPECT_EQ(design().board.breadboard, "full");
    EXPECT_NE(ask(window->session().trialQuery())->board.size.find("63"), std::string::npos);
    pick(box(station, "colours of the wires"), "length");
    settle();
    EXPECT_EQ(design().board.wire_colours, "length");
    for (int k = 0; k < 2; ++k) window->session().undoStack().undo();  // or it would ask to save
    settle();
    window->openDemo("seat-finder");
    settle();
    ASSERT_GT(design().circuit.parts.size(), 50u);
    pick(box(station, "breadboard"), "small, 17");
    settle();
    EXPECT_FALSE(ask(window->session().trialQuery())) << "62 parts are too many for it";
    EXPECT_FALSE(station->findChild<StepsView*>()->isVisible()) << "says why instead";
}

const PartSpot* spot_of(const Design& d, const std::string& part) {
    for (const PartSpot& s : d.board.spots)
        if (s.part == part) return &s;
    return nullptr;
}

TEST_F(BoardWindow, APartIsDraggedAndTheOthersStay) {
    auto* station = milled("firefly-jar");
    const Board before = *ask(window->session().boardQuery());
    PictureView* side = station->sides()->picture(0);
    const QRectF at = side->itemRect("part:R1");
    const QPoint from = at.center().toPoint(), to = from + QPoint(0, -40);
    QTest::mousePress(side, Qt::LeftButton, {}, from);
    QTest::mouseMove(side, from + QPoint(0, -20));
    QTest::mouseMove(side, to);
    QTest::mouseRelease(side, Qt::LeftButton, {}, to);
    settle();
    const PartSpot* r1 = spot_of(design(), "R1");
    ASSERT_NE(r1, nullptr);
    EXPECT_TRUE(r1->locked);
    EXPECT_LT(r1->y, before.part("R1")->y - 1);
    EXPECT_NEAR(r1->x, before.part("R1")->x, 0.4);
    const Board after = *ask(window->session().boardQuery());
    EXPECT_EQ(after.part("Q1")->x, before.part("Q1")->x);
    EXPECT_FALSE(spot_of(design(), "Q1")->locked);
    window->session().undoStack().undo();
    settle();
    EXPECT_TRUE(design().board.spots.empty());
    window->session().undoStack().undo();
}

TEST_F(BoardWindow, APartIsTurnedAndMovedByKeysAndKept) {
    auto* station = milled("firefly-jar");
    auto* hand = station->findChild<HandPanel*>();
    ASSERT_EQ(hand->table()->rowCount(), static_cast<int>(design().circuit.parts.size()));
    const double turn = ask(window->session().boardQuery())->part("C1")->turn;
    PictureView* side = station->sides()->picture(0);
    side->setFocus();
    side->select("part:C1");
    QTest::keyClick(side, Qt::Key_R);
    settle();
    ASSERT_NE(spot_of(design(), "C1"), nullptr);
    EXPECT_NEAR(std::fmod(spot_of(design(), "C1")->turn - turn + 360, 360), 90, 1e-9);
    const double y = spot_of(design(), "C1")->y;
    QTest::keyClick(side, Qt::Key_Up, Qt::ShiftModifier);
    settle();
    EXPECT_NEAR(spot_of(design(), "C1")->y, y - 1.27, 0.02);
    hand->choose("part:C1");
    auto* keep = hand->findChild<QCheckBox*>();
    EXPECT_TRUE(keep->isChecked());
    keep->click();
    settle();
    EXPECT_FALSE(spot_of(design(), "C1")->locked);
    for (auto* button : hand->findChildren<QPushButton*>())
        if (button->text().startsWith("Arrange")) button->click();
    settle();
    EXPECT_TRUE(design().board.spots.empty()) << "nothing was kept";
    while (window->session().undoStack().canUndo()) window->session().undoStack().undo();
    settle();
}

TEST_F(BoardWindow, APartOfAPadBoardIsDraggedFromHoleToHole) {
    auto* station = milled("firefly-jar");
    pick(box(station, "how the board is made"), "pad");
    settle();
    const Board before = *ask(window->session().boardQuery());
    auto* hand = station->findChild<HandPanel*>();
    EXPECT_EQ(hand->table()->rowCount(), static_cast<int>(design().circuit.parts.size()));
    PictureView* side = station->sides()->picture(0);
    side->setFocus();
    side->select("part:R1");
    QTest::keyClick(side, Qt::Key_Up, Qt::ShiftModifier);
    settle();
    ASSERT_NE(spot_of(design(), "R1"), nullptr);
    EXPECT_TRUE(spot_of(design(), "R1")->locked);
    EXPECT_NEAR(spot_of(design(), "R1")->y, before.part("R1")->y - 2.54, 0.01) << "by a whole hole";
    EXPECT_NEAR(spot_of(design(), "Q1")->y, before.part("Q1")->y, 0.01);
    const auto after = ask(window->session().boardQuery());
    ASSERT_TRUE(after) << after.error().text();
    EXPECT_EQ(after->differences, std::vector<std::string>{});
    EXPECT_EQ(after->part("Q1")->x - after->part("C1")->x, before.part("Q1")->x - before.part("C1")->x);
    hand->choose("part:R1");
    QComboBox* legs = box(station, "legs apart");
    ASSERT_GT(legs->count(), 1) << "it lies flat between them";
    legs->setCurrentIndex(1);
    emit legs->activated(1);
    settle();
    EXPECT_NEAR(spot_of(design(), "R1")->span, legs->itemData(1).toDouble(), 0.01);
    EXPECT_EQ(legs->currentIndex(), 1);
    EXPECT_EQ(ask(window->session().boardQuery())->differences, std::vector<std::string>{});
    window->session().undoStack().undo();
    window->session().undoStack().undo();
    settle();
    EXPECT_TRUE(design().board.spots.empty());
    EXPECT_EQ(ask(window->session().boardQuery())->size, before.size);
    while (window->session().undoStack().canUndo()) window->session().undoStack().undo();
    settle();
}

/// Where a place of the picture is in the view.
QPoint in_view(const PictureView* view, double x, double y) {
    const Box board = view->drawing().bounds("board");
    const QRectF shown = view->itemRect("board");
    return {
        static_cast<int>(std::lround(shown.x() + (x - board.x0) * shown.width() / (board.x1 - board.x0))),
        static_cast<int>(std::lround(shown.y() + (y - board.y0) * shown.height() / (board.y1 - board.y0)))};
}
void drag(PictureView* view, QPoint from, QPoint to, Qt::KeyboardModifiers keys = {}) {
    QTest::mousePress(view, Qt::LeftButton, keys, from);
    QMouseEvent move(QEvent::MouseMove, QPointF(to), view->mapToGlobal(QPointF(to)), Qt::LeftButton,
                     Qt::LeftButton, keys);
    QApplication::sendEvent(view, &move);
    QTest::mouseRelease(view, Qt::LeftButton, keys, to);
}

TEST_F(BoardWindow, ATrackIsPulledAwayAndLetGo) {
    auto* station = milled("firefly-jar");
    station->sides()->choose(BoardSides::Show::solder);
    settle();
    PictureView* side = station->sides()->picture(1);
    // the longest track on the side where no body hides it
    std::string net;
    Box track{};
    for (const Item& item : side->drawing().items) {
        if (!item.ref.starts_with("net:") || !std::holds_alternative<Polygon>(item.shape)) continue;
        const auto& points = std::get<Polygon>(item.shape).points;
        Box b{1e9, 1e9, -1e9, -1e9};
        for (const auto& [x, y] : points)
            b.x0 = std::min(b.x0, x), b.x1 = std::max(b.x1, x), b.y0 = std::min(b.y0, y),
            b.y1 = std::max(b.y1, y);
        if (b.x1 - b.x0 + b.y1 - b.y0 > track.x1 - track.x0 + track.y1 - track.y0) track = b, net = item.ref;
    }
    ASSERT_FALSE(net.empty());
    const Box board = side->drawing().bounds("board");
    const QPoint from = in_view(side, (track.x0 + track.x1) / 2, (track.y0 + track.y1) / 2),
                 to = in_view(side, (board.x0 + board.x1) / 2 + 2, (board.y0 + board.y1) / 2 + 2);
    drag(side, from, to);
    settle();
    ASSERT_EQ(design().board.pulls.size(), 1u);
    const TrackPull& pull = design().board.pulls.front();
    EXPECT_EQ("net:" + pull.net, net);
    EXPECT_FALSE(pull.component_side) << "the only layer is the solder side's";
    const auto made = ask(window->session().boardQuery());
    ASSERT_TRUE(made) << made.error().text();
    EXPECT_NEAR(pull.x, made->width / 2 - 2, 0.7) << "mirrored";
    EXPECT_NEAR(pull.y, made->height / 2 + 2, 0.7);
    EXPECT_EQ(made->differences, std::vector<std::string>{});
    for (const PartSpot& s : design().board.spots) EXPECT_FALSE(s.locked) << "parts only stay for now";
    auto* words = station->findChild<HandPanel*>()->findChild<QLineEdit*>("");
    for (auto* line : station->findChild<HandPanel*>()->findChildren<QLineEdit*>())
        if (line->accessibleName() == "tracks pass") words = line;
    ASSERT_NE(words, nullptr);
    EXPECT_TRUE(words->text().startsWith(QString::fromStdString(pull.net))) << words->text().toStdString();
    side->setFocus();
    side->select("pull:0");
    QTest::keyClick(side, Qt::Key_Delete);
    settle();
    EXPECT_TRUE(design().board.pulls.empty());
    window->session().undoStack().undo();
    EXPECT_EQ(design().board.pulls.size(), 1u);
    while (window->session().undoStack().canUndo()) window->session().undoStack().undo();
    station->sides()->choose(BoardSides::Show::both);
    settle();
}

TEST_F(BoardWindow, TracksStayWhileAPartIsDraggedAndAreLaidAnewByAButton) {
    auto* station = milled("firefly-jar");
    PictureView* side = station->sides()->picture(0);
    const Board before = *ask(window->session().boardQuery());
    const QPoint from = side->itemRect("part:C1").center().toPoint();
    drag(side, from, from + QPoint(40, 0));
    settle();
    EXPECT_EQ(design().board.ways.size(), before.ways.size()) << "as they lay";
    EXPECT_EQ(design().board.ways_by, "milled");
    const Board after = *ask(window->session().boardQuery());
    EXPECT_EQ(after.differences, std::vector<std::string>{});
    const auto stay = std::count_if(after.ways.begin(), after.ways.end(), [&](const TrackWay& w) {
        return std::find(design().board.ways.begin(), design().board.ways.end(), w) !=
               design().board.ways.end();
    });
    EXPECT_GT(stay, 0);
    QPushButton* anew = nullptr;
    for (auto* button : station->findChild<HandPanel*>()->findChildren<QPushButton*>())
        if (button->text() == "Tracks anew") anew = button;
    ASSERT_NE(anew, nullptr);
    QTest::mouseClick(anew, Qt::LeftButton);
    settle();
    EXPECT_TRUE(design().board.ways.empty());
    EXPECT_EQ(design().board.spots.size(), before.parts.size()) << "parts stay";
    EXPECT_EQ(ask(window->session().boardQuery())->differences, std::vector<std::string>{});
    window->session().undoStack().undo();
    EXPECT_EQ(design().board.ways.size(), before.ways.size());
    while (window->session().undoStack().canUndo()) window->session().undoStack().undo();
    settle();
}

/// Keys come faster than a board is laid out: each of them counts.
TEST_F(BoardWindow, MovesThatFollowEachOtherAtOnceAllCount) {
    for (const char* method : {"milled", "pad"}) {
        Station* station = at("board", "firefly-jar");
        pick(box(station, "how the board is made"), method);
        settle();
        auto* sides = static_cast<BoardStation*>(station)->sides();
        const Board before = *ask(window->session().boardQuery());
        const std::string part = before.parts.front().designator, other = before.parts.back().designator;
        auto* hand = station->findChild<HandPanel*>();
        for (int k = 0; k < 3; ++k) hand->move(QString::fromStdString(part), 2.54, 0);
        hand->move(QString::fromStdString(other), 0, 2.54);
        settle();
        const auto place = [&](const std::string& name) {
            for (const PartSpot& s : design().board.spots)
                if (s.part == name) return s;
            return PartSpot{};
        };
        EXPECT_NEAR(place(part).x, before.part(part)->x + 3 * 2.54, 1.3) << method;
        EXPECT_FALSE(sides->picture(0)->dimmed());
        for (int k = 0; k < 4; ++k) window->session().undoStack().undo();
        EXPECT_TRUE(design().board.spots.empty());
        settle();
    }
}

TEST_F(BoardWindow, WhatWasMovedIsSeenWhileTheRestIsLaidOut) {
    auto* station = milled("firefly-jar");
    PictureView* side = station->sides()->picture(0);
    const Box was = side->drawing().bounds("part:C1");
    station->findChild<HandPanel*>()->move("C1", 1.27, 0);
    window->session().stopComputing();  // what takes long does not come any more
    ASSERT_TRUE(QTest::qWaitFor([&] { return side->drawing().bounds("part:C1").x0 > was.x0 + 1; }));
    EXPECT_FALSE(side->dimmed());
    EXPECT_FALSE(window->session().ask(window->session().boardQuery()).current());
    window->session().computeAgain();
    settle();
    EXPECT_TRUE(window->session().ask(window->session().boardQuery()).current());
    EXPECT_GT(side->drawing().bounds("part:C1").x0, was.x0 + 1);
    window->session().undoStack().undo();
    settle();
}

TEST_F(BoardWindow, AnAreaIsDrawnFreeAndGivenBack) {
    auto* station = milled("firefly-jar");
    PictureView* side = station->sides()->picture(0);
    const Box board = side->drawing().bounds("board");
    drag(side, in_view(side, board.x0 + 2, board.y0 + 3), in_view(side, board.x0 + 8, board.y0 + 9),
         Qt::ShiftModifier);
    settle();
    ASSERT_EQ(design().board.keep_out.size(), 1u);
    const KeepOut& free = design().board.keep_out.front();
    EXPECT_NEAR(free.x, 2, 0.3);
    EXPECT_NEAR(free.y, 3, 0.3);
    EXPECT_NEAR(free.width, 6, 0.5);
    EXPECT_NEAR(free.height, 6, 0.5);
    const auto made = ask(window->session().boardQuery());
    ASSERT_TRUE(made) << made.error().text();
    side->setFocus();
    side->select("free:0");
    QTest::keyClick(side, Qt::Key_Delete);
    settle();
    EXPECT_TRUE(design().board.keep_out.empty());
    while (window->session().undoStack().canUndo()) window->session().undoStack().undo();
    settle();
}

TEST_F(BoardWindow, AJointOfAPadBoardIsPulledAndAnAreaDrawnFree) {
    auto* station = milled("firefly-jar");
    pick(box(station, "how the board is made"), "pad");
    settle();
    station->sides()->choose(BoardSides::Show::solder);
    settle();
    PictureView* side = station->sides()->picture(1);
    const Item* joint = nullptr;
    for (const Item& item : side->drawing().items)
        if (item.ref.starts_with("net:") && std::holds_alternative<Line>(item.shape) && !joint) joint = &item;
    ASSERT_NE(joint, nullptr);
    const Line run = std::get<Line>(joint->shape);
    const std::string net = joint->ref.substr(4);
    drag(side, in_view(side, (run.x1 + run.x2) / 2, (run.y1 + run.y2) / 2),
         in_view(side, run.x1 + 3 * 2.54, run.y1 + 2 * 2.54));
    settle();
    ASSERT_EQ(design().board.pulls.size(), 1u);
    EXPECT_EQ(design().board.pulls.front().net, net);
    const double holes = design().board.pulls.front().x / 2.54 - 0.5;
    EXPECT_NEAR(holes, std::round(holes), 1e-3) << "to a hole";
    EXPECT_EQ(ask(window->session().boardQuery())->differences, std::vector<std::string>{});
    side->setFocus();
    side->select("pull:0");
    QTest::keyClick(side, Qt::Key_Delete);
    settle();
    EXPECT_TRUE(design().board.pulls.empty());
    const Box board = side->drawing().bounds("board");
    drag(side, in_view(side, board.x0 + 2, board.y0 + 2), in_view(side, board.x0 + 8, board.y0 + 8),
         Qt::ShiftModifier);
    settle();
    ASSERT_EQ(design().board.keep_out.size(), 1u);
    EXPECT_NEAR(design().board.keep_out.front().width, 5.08, 2.6) << "whole holes";
    EXPECT_EQ(ask(window->session().boardQuery())->differences, std::vector<std::string>{});
    auto* hand = station->findChild<HandPanel*>();
    EXPECT_TRUE(box(hand, "lights")->isVisibleTo(hand));
    EXPECT_FALSE(box(hand, "filled with")->isVisibleTo(hand)) << "there is no copper to fill";
    while (window->session().undoStack().canUndo()) window->session().undoStack().undo();
    station->sides()->choose(BoardSides::Show::both);
    settle();
}

TEST_F(BoardWindow, BoardsOfHolesAreSawnToAShape) {
    Station* station = at("board", "pier-lantern");
    auto* panel = station->findChild<HandPanel*>();
    pick(box(panel, "shape"), "rounded");
    settle();
    const auto board = ask(window->session().boardQuery());
    EXPECT_EQ(board->summary.find("rounded corners, "), 0u) << board->summary;
    EXPECT_TRUE(board->differences.empty());
    const auto shown = [&](const QString& name) {
        for (auto* field : station->findChildren<QWidget*>())
            if (field->accessibleName() == name && field->isVisibleTo(field->parentWidget())) return true;
        return false;
    };
    EXPECT_TRUE(shown("Corner holes"));
    pick(box(station, "how the board is made"), "strip");
    settle();
    EXPECT_TRUE(box(panel, "shape")->isVisibleTo(panel));
    EXPECT_TRUE(shown("Corner holes"));
    const auto strips = ask(window->session().boardQuery());
    EXPECT_EQ(strips->summary.find("rounded corners, "), 0u) << strips->summary;
    EXPECT_TRUE(strips->differences.empty());
    for (int k = 0; k < 2; ++k) window->session().undoStack().undo();
    settle();
}

TEST_F(BoardWindow, ShapeAndWhatFillsItAreChosen) {
    Station* station = milled("firefly-jar");
    auto* hand = station->findChild<HandPanel*>();
    pick(box(hand, "shape"), "round");
    settle();
    EXPECT_EQ(design().board.shape, "rounded") << "the first that has the word";
    pick(box(hand, "filled with"), "GND");
    settle();
    const auto board = ask(window->session().boardQuery());
    ASSERT_TRUE(board) << board.error().text();
    EXPECT_EQ(board->differences, std::vector<std::string>{});
    while (window->session().undoStack().canUndo()) window->session().undoStack().undo();
    settle();
}

TEST_F(BoardWindow, MethodsAreComparedAndOneIsChosen) {
    Station* station = at("board", "coat-badge");
    auto* compare = station->findChild<ComparePanel*>();
    station->findChild<FoldingTabs*>()->showPage(compare);
    settle();
    ASSERT_EQ(compare->table()->rowCount(), static_cast<int>(board_methods().size()));
    for (int row = 0; row < compare->table()->rowCount(); ++row)
        EXPECT_FALSE(compare->table()->item(row, 2)->text().isEmpty()) << row;
    emit compare->table()->cellActivated(3, 0);
    settle();
    EXPECT_EQ(design().board.method, board_methods()[3].id);
    while (window->session().undoStack().canUndo()) window->session().undoStack().undo();
    settle();
}

}  // namespace
}  // namespace elkit::test
