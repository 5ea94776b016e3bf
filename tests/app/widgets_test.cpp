// The small parts of the window, each by itself.
#include <QClipboard>
#include <QPushButton>
#include <QSignalSpy>

#include "app/shell/session.hpp"
#include "app/theme/theme.hpp"
#include "app/widgets/life_plot.hpp"
#include "app/widgets/picture_view.hpp"
#include "app/widgets/quantity_edit.hpp"
#include "window_fixture.hpp"

namespace elkit::test {
namespace {

TEST(QuantityEdit, ReadsWhatPeopleTypeAndShowsItTidily) {
    QuantityEdit edit("resistance", Unit::ohm, 1, 1e6);
    QSignalSpy entered(&edit, &QuantityEdit::valueEntered);
    edit.setValue(4700);
    EXPECT_EQ(edit.text(), QString("4.7\u00a0kΩ"));
    edit.selectAll();
    QTest::keyClicks(&edit, "2M2");
    QTest::keyClick(&edit, Qt::Key_Return);
    EXPECT_EQ(entered.count(), 0) << "above what is allowed";
    EXPECT_TRUE(edit.property("bad").toBool());
    EXPECT_TRUE(edit.toolTip().contains("expected"));
    edit.selectAll();
    QTest::keyClicks(&edit, "3k3");
    QTest::keyClick(&edit, Qt::Key_Return);
    ASSERT_EQ(entered.count(), 1);
    EXPECT_DOUBLE_EQ(entered[0][0].toDouble(), 3300);
    EXPECT_FALSE(edit.property("bad").toBool());
    EXPECT_EQ(edit.text(), QString("3.3\u00a0kΩ"));
}

TEST(QuantityEdit, IsNotOverwrittenWhileItIsWrong) {
    QuantityEdit edit("current", Unit::ampere, 0, 1);
    QTest::keyClicks(&edit, "a lot");
    QTest::keyClick(&edit, Qt::Key_Return);
    edit.setValue(0.02);
    EXPECT_EQ(edit.text(), "a lot");
    QTest::keyClick(&edit, Qt::Key_Escape);
    EXPECT_EQ(edit.text(), QString("20.0\u00a0mA"));
}

TEST(QuantityEdit, ReturnWithoutAChangeEntersNothing) {
    QuantityEdit edit("time", Unit::hour, 0, 100);
    edit.setValue(60);
    QSignalSpy entered(&edit, &QuantityEdit::valueEntered);
    QTest::keyClick(&edit, Qt::Key_Return);
    EXPECT_EQ(entered.count(), 0);
}

Drawing three_boxes() {
    Drawing d;
    d.width = 300, d.height = 100;
    for (int i = 0; i < 3; ++i) {
        d.add(Rect{10.0 + 100 * i, 20, 60, 40}, {Ink::ink, 2, Ink::light}, "part:P" + std::to_string(i));
        d.text(20.0 + 100 * i, 45, "P" + std::to_string(i), 12, Ink::ink, false, Anchor::start,
               "part:P" + std::to_string(i));
    }
    return d;
}

TEST(PictureView, FindsItemsByMouseAtAnyScale) {
    for (const QSize size : {QSize(300, 100), QSize(600, 300), QSize(150, 80)}) {
        PictureView view;
        view.setDrawing(three_boxes());
        view.setMaximumScale(5);
        view.resize(size);
        QSignalSpy clicked(&view, &PictureView::clicked);
        for (const char* ref : {"part:P0", "part:P1", "part:P2"}) {
            QTest::mouseClick(&view, Qt::LeftButton, {}, view.itemRect(ref).center().toPoint());
            EXPECT_EQ(clicked.last()[0].toString(), ref) << size.width();
        }
        QTest::mouseClick(&view, Qt::LeftButton, {}, QPoint(1, 1));
        EXPECT_EQ(clicked.count(), 3) << "an empty place is no item";
    }
}

TEST(PictureView, WalksItsItemsByKey) {
    PictureView view;
    view.setDrawing(three_boxes());
    view.setSelectable({"part:"});
    view.resize(300, 100);
    QSignalSpy activated(&view, &PictureView::activated), stepped(&view, &PictureView::stepped);
    QTest::keyClick(&view, Qt::Key_Right);
    EXPECT_EQ(view.selected(), "part:P0");
    QTest::keyClick(&view, Qt::Key_Right);
    QTest::keyClick(&view, Qt::Key_Right);
    QTest::keyClick(&view, Qt::Key_Right);
    EXPECT_EQ(view.selected(), "part:P0") << "round and round";
    QTest::keyClick(&view, Qt::Key_Left);
    EXPECT_EQ(view.selected(), "part:P2");
    QTest::keyClick(&view, Qt::Key_Return);
    EXPECT_EQ(activated.last()[0].toString(), "part:P2");
    QTest::keyClick(&view, Qt::Key_Up);
    EXPECT_EQ(stepped.last()[1].toInt(), 1);
    QTest::keyClick(&view, Qt::Key_Down);
    EXPECT_EQ(stepped.last()[1].toInt(), -1);
    EXPECT_EQ(view.itemName("part:P1"), "P1");
}

TEST(PictureView, PaintsInTheColoursOfTheTheme) {
    PictureView view;
    view.setDrawing(three_boxes());
    view.resize(300, 100);
    view.setAttribute(Qt::WA_TranslucentBackground);
    const QPoint inside = view.itemRect("part:P1").toRect().bottomRight() - QPoint(8, 6);
    apply_theme(false);
    EXPECT_EQ(view.grab().toImage().pixelColor(inside).name(), theme().amber.name());
    apply_theme(true);
    EXPECT_EQ(view.grab().toImage().pixelColor(inside).name(), theme().amber.name());
    apply_theme(false);
}

TEST_F(Window, FiguresTellTheirValueSpreadAndWorking) {
    FigureLabel label(window->session(), FigureLabel::Size::large);
    label.setFigure({"x", "run time", 62, Unit::hour, 47, 90, {"line one", "line two"}}, "lit");
    EXPECT_EQ(label.accessibleName(), QString("run time: 62.0\u00a0h"));
    EXPECT_TRUE(label.accessibleDescription().contains("47.0–90.0"));
    label.resize(label.sizeHint());
    QTest::mouseClick(&label, Qt::LeftButton);
    EXPECT_TRUE(window->working()->text().contains("line one\nline two"));
    for (auto* b : window->working()->findChildren<QPushButton*>()) QTest::mouseClick(b, Qt::LeftButton);
    EXPECT_TRUE(QApplication::clipboard()->text().contains("run time")) << "the working can be copied";
    const int width = label.sizeHint().width();
    label.setFigure({"x", "run time", 1.62345e-4, Unit::ampere, {}, {}, {"w"}},
                    "a much longer caption than before");
    EXPECT_NE(label.sizeHint().width(), width);
}

TEST_F(Window, TheLifePlotPaintsItsCurveBandAndTarget) {
    LifePlot plot;
    plot.resize(500, 240);
    const auto power = ask(window->session().powerQuery());
    plot.show_discharge(*power, 84, 0.5, 0.6, false);
    plot.show();
    QTest::qWait(60);
    const QImage image = plot.grab().toImage();
    int amber = 0, band = 0, rust = 0;
    for (int y = 0; y < image.height(); ++y)
        for (int x = 0; x < image.width(); ++x) {
            const QColor c = image.pixelColor(x, y);
            amber += c == theme().amber;
            rust += c == theme().rust;
            band += c != theme().card && c.hue() > 25 && c.hue() < 50 && c.saturation() > 20 &&
                    c.saturation() < 140;
        }
    EXPECT_GT(amber, 200) << "the curve";
    EXPECT_GT(band, 500) << "the spread behind it";
    EXPECT_GT(rust, 40) << "the wanted run time";
    plot.clear();
    QTest::qWait(60);
    EXPECT_NE(plot.grab().toImage(), image);
}

TEST_F(Window, LabelsOfTheLifePlotKeepClearOfEachOther) {
    const auto power = ask(window->session().powerQuery());
    const double hours = power->typical.hours;
    LifePlot plot;
    plot.show();
    for (const QSize size : {QSize(640, 300), QSize(420, 200), QSize(300, 150)})
        for (const double wanted : {0.1 * hours, 0.5 * hours, 0.98 * hours, 1.4 * hours})
            for (const double charge : {1.0, 0.5, 0.05})
                for (const bool volts : {false, true}) {
                    plot.resize(size);
                    plot.show_discharge(*power, wanted, 0.5, charge, volts);
                    QTest::qWait(1);  // it is drawn when the window has time
                    const auto rects = plot.labels().rects();
                    EXPECT_EQ(rects.size(), 3u + volts + power->typical.hours_at(charge).has_value());
                    for (std::size_t a = 0; a < rects.size(); ++a) {
                        EXPECT_TRUE(QRectF(plot.rect()).contains(rects[a]))
                            << size.width() << " wide, wanted " << wanted << ", charge " << charge;
                        for (std::size_t b = 0; b < a; ++b)
                            EXPECT_FALSE(rects[a].intersects(rects[b]))
                                << size.width() << " wide, wanted " << wanted << ", charge " << charge;
                    }
                }
}

TEST_F(Window, ASessionKnowsWhenItIsModified) {
    Session& s = window->session();
    EXPECT_FALSE(s.modified());
    Design next = s.design();
    s.edit(next, "nothing");
    EXPECT_EQ(s.undoStack().count(), 0) << "an edit to the same value is none";
    next.brief.kits = 41;
    s.edit(next, "one more");
    EXPECT_TRUE(s.modified());
    EXPECT_EQ(s.undoStack().undoText(), "one more");
    s.undoStack().undo();
    EXPECT_FALSE(s.modified()) << "back to what was opened";
}

TEST_F(Window, EachStepOfAHundredIsUndoneAndRedone) {
    for (int i = 1; i <= 100; ++i) {
        Design next = design();
        next.circuit.find("R1")->params["value"] = 100.0 + i;
        window->session().edit(next, "step");
    }
    for (int i = 0; i < 100; ++i) window->session().undoStack().undo();
    EXPECT_TRUE(design() == pier_lantern());
    for (int i = 0; i < 100; ++i) window->session().undoStack().redo();
    EXPECT_EQ(value("R1"), 200);
}

}  // namespace
}  // namespace elkit::test
