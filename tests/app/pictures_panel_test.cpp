// The pictures of a chain of matrices: drawn by mouse and keys, added, moved, timed, undone, measured.
#include "app/stations/circuit/pictures_panel.hpp"

#include <QLabel>
#include <QLineEdit>
#include <QListWidget>
#include <QScrollArea>
#include <QScrollBar>

#include "app/widgets/matrix_view.hpp"
#include "circuit/chain.hpp"
#include "support/circuits.hpp"
#include "window_fixture.hpp"

namespace elkit::test {
namespace {

class PictureRows : public CircuitWindow {
  protected:
    void SetUp() override {
        CircuitWindow::SetUp();
        station = open("pier-lantern");
        Design d = design();
        d.circuit =
            circuit({"battery B1 +=V -=0 cell=LR6 count=3", "connector X1 1=D 2=0",
                     "light_matrix M1 vcc=V gnd=0 data=D out=E", "light_matrix M2 vcc=V gnd=0 data=E"});
        for (const char* one : {"M1", "M2"})
            d.circuit.find(one)->params["pattern"] =
                std::string("500ms ff00000000000000; 1s 0000000000000000");
        d.blocks.clear();
        window->session().edit(d, "a board");
        window->showStation("circuit");
        settle();
        panel = station->pictures();
        station->tabs()->showPage(panel);
        settle();
        QTest::qWait(50);
        settle();
    }
    std::string pattern(const char* part) const { return design().circuit.find(part)->text("pattern"); }
    void undo() {
        window->action("undo")->trigger();
        settle();
    }
    CircuitStation* station = nullptr;
    PicturesPanel* panel = nullptr;
};

TEST_F(PictureRows, AClickTurnsALightOverAndUndoes) {
    const std::string before = pattern("M2");
    MatrixView* drawing = panel->drawing();
    QTest::mouseClick(drawing, Qt::LeftButton, {}, drawing->lightAt(7, 15));
    settle();
    EXPECT_EQ(pattern("M2"), "500ms ff00000000000001; 1s 0000000000000000");
    EXPECT_EQ(pattern("M1"), before) << "the other matrix stays";
    undo();
    EXPECT_EQ(pattern("M2"), before);
    EXPECT_FALSE(drawing->shown()[1].on(7, 7)) << "the drawing follows";
}

TEST_F(PictureRows, ADragDrawsOnOverBothInOneStep) {
    MatrixView* drawing = panel->drawing();
    QTest::mousePress(drawing, Qt::LeftButton, {}, drawing->lightAt(3, 6));
    for (int column = 7; column < 10; ++column) QTest::mouseMove(drawing, drawing->lightAt(3, column));
    QTest::mouseRelease(drawing, Qt::LeftButton, {}, drawing->lightAt(3, 9));
    settle();
    EXPECT_EQ(pattern("M1"), "500ms ff00000300000000; 1s 0000000000000000");
    EXPECT_EQ(pattern("M2"), "500ms ff0000c000000000; 1s 0000000000000000");
    undo();
    EXPECT_EQ(pattern("M1"), "500ms ff00000000000000; 1s 0000000000000000");
}

TEST_F(PictureRows, KeysDrawToo) {
    panel->choose(1);
    MatrixView* drawing = panel->drawing();
    drawing->setFocus();
    for (const auto key : {Qt::Key_Down, Qt::Key_Right, Qt::Key_Right, Qt::Key_Space})
        QTest::keyClick(drawing, key);
    settle();
    EXPECT_EQ(pattern("M1"), "500ms ff00000000000000; 1s 0020000000000000");
    QTest::keyClick(drawing, Qt::Key_Space);
    settle();
    EXPECT_EQ(pattern("M1"), "500ms ff00000000000000; 1s 0000000000000000");
}

TEST_F(PictureRows, PicturesAreAddedMovedTimedAndRemoved) {
    panel->addPicture();
    settle();
    EXPECT_EQ(pattern("M1"), "500ms ff00000000000000; 500ms ff00000000000000; 1s 0000000000000000");
    EXPECT_EQ(panel->list()->currentRow(), 1);
    panel->slide(1);
    panel->invert();
    settle();
    EXPECT_EQ(panel->drawing()->shown()[0].rows[0], 0);
    EXPECT_EQ(panel->drawing()->shown()[0].rows[1], 0xff);
    panel->movePicture(1);
    settle();
    EXPECT_TRUE(pattern("M1").ends_with("00ffffffffffffff")) << pattern("M1");
    panel->seconds()->setText("300 ms");
    panel->seconds()->setFocus();
    QTest::keyClick(panel->seconds(), Qt::Key_Return);
    settle();
    EXPECT_TRUE(pattern("M2").ends_with("300ms 00ffffffffffffff")) << pattern("M2");
    panel->removePicture();
    panel->removePicture();
    panel->removePicture();
    settle();
    EXPECT_EQ(chain_pictures(design().circuit, {"M1"})[0].size(), 1u) << "the last one stays";
}

TEST_F(PictureRows, ABadTimeChangesNothing) {
    const std::string before = pattern("M1");
    for (const char* bad : {"soon", "0", "2 h", "5 V"}) {
        panel->seconds()->setText(bad);
        panel->seconds()->setFocus();
        QTest::keyClick(panel->seconds(), Qt::Key_Return);
        settle();
        EXPECT_EQ(pattern("M1"), before) << bad;
        EXPECT_NE(panel->seconds()->text(), bad);
    }
}

TEST_F(PictureRows, TellWhatEachTakes) {
    for (int k = 0; k < 100 && panel->computing(); ++k) QTest::qWait(20);
    EXPECT_TRUE(panel->taken()->text().contains("16 lights")) << qPrintable(panel->taken()->text());
    EXPECT_TRUE(panel->taken()->text().contains("in picture 1")) << qPrintable(panel->taken()->text());
    panel->choose(1);
    EXPECT_TRUE(panel->taken()->text().contains("0 lights")) << qPrintable(panel->taken()->text());
    EXPECT_TRUE(station->tabs()->isTabVisible(station->tabs()->indexOf(panel)));
    undo();
    EXPECT_FALSE(station->tabs()->isTabVisible(station->tabs()->indexOf(panel)));
}

TEST_F(PictureRows, EightMatricesMakeTheStationNoWider) {
    Design d = design();
    d.circuit = circuit({"battery B1 +=V -=0 cell=LR6 count=3", "connector X1 1=D1 2=0"});
    for (int k = 1; k <= 8; ++k) {
        const std::string n = std::to_string(k);
        d.circuit.parts.push_back(
            circuit({"light_matrix M" + n + " vcc=V gnd=0 data=D" + n + " out=D" + std::to_string(k + 1)})
                .parts[0]);
    }
    window->session().edit(d, "a long board");
    settle();
    EXPECT_EQ(panel->drawing()->shown().size(), 8u);
    auto* area = station->findChild<QScrollArea*>();
    EXPECT_LE(panel->minimumSizeHint().width(), 720);
    EXPECT_TRUE(!area || area->horizontalScrollBar()->maximum() == 0);
    EXPECT_LT(panel->drawing()->lightAt(0, 63).x(), panel->drawing()->width()) << "all of it is in sight";
}

TEST_F(PictureRows, PlayOneAfterTheOther) {
    panel->choose(0);
    panel->play(true);
    QTest::qWait(700);
    EXPECT_EQ(panel->list()->currentRow(), 1);
    panel->play(false);
}

}  // namespace
}  // namespace elkit::test
