// The panels and widgets that make room on the bench: what folds, sorts, zooms and explains itself.
#include <QAction>
#include <QLabel>
#include <QListWidget>
#include <QPushButton>
#include <QSettings>
#include <QSlider>
#include <QTextBrowser>
#include <QToolButton>
#include <QTreeWidget>
#include <cmath>
#include <set>

#include "app/shell/condition_group.hpp"
#include "app/shell/conditions_strip.hpp"
#include "app/shell/field_guide.hpp"
#include "app/shell/findings_panel.hpp"
#include "app/shell/guide.hpp"
#include "app/stations/circuit/circuit_station.hpp"
#include "app/stave/stave_widget.hpp"
#include "app/widgets/data_table.hpp"
#include "app/widgets/figure_table.hpp"
#include "app/widgets/folding_tabs.hpp"
#include "app/widgets/overview_strip.hpp"
#include "app/widgets/trace_plot.hpp"
#include "window_fixture.hpp"

namespace elkit::test {
namespace {

TEST_F(Window, TheDoPanelOffersWhatIsNearToWhatItDoesNotUnderstand) {
    QTest::keyClick(window, Qt::Key_K, Qt::ControlModifier);
    DoPanel* panel = window->doPanel();
    ASSERT_TRUE(panel->isVisible());
    QTest::keyClicks(panel->line(), "pwoer");
    ASSERT_EQ(panel->list()->count(), 3);
    EXPECT_EQ(panel->list()->item(0)->text(), "Power");
    QTest::keyClick(panel->line(), Qt::Key_Down);
    EXPECT_EQ(panel->line()->text(), "Power");
    QTest::keyClick(panel->line(), Qt::Key_Return);
    settle();
    EXPECT_TRUE(panel->isHidden());
    EXPECT_TRUE(window->station("power")->isVisible());
    QTest::keyClick(window, Qt::Key_K, Qt::ControlModifier);
    QTest::keyClicks(panel->line(), "led amber fron V+ to A");
    EXPECT_GT(panel->list()->count(), 0);
    for (int row = 0; row < panel->list()->count(); ++row)
        EXPECT_FALSE(panel->list()->item(row)->text().contains("fron"))
            << "offered although it is not understood";
    QTest::keyClick(panel->line(), Qt::Key_Escape);
    say("show lamp");
    EXPECT_TRUE(window->station("circuit")->isVisible());
    EXPECT_EQ(static_cast<CircuitStation*>(window->station("circuit"))->stave()->selected(), "net:LAMP");
}

TEST_F(Window, ConditionsThatHaveNoRoomStandBehindTheirGroup) {
    window->openDemo("harbour-diorama");
    settle();
    ConditionGroup* knobs = nullptr;
    for (auto* group : window->findChildren<ConditionGroup*>())
        if (group->isVisible()) knobs = group;
    ASSERT_NE(knobs, nullptr);
    EXPECT_TRUE(knobs->text().contains(QLatin1Char('5'))) << "four knobs and the supply";
    QTest::mouseClick(knobs, Qt::LeftButton);
    ASSERT_TRUE(knobs->panel()->isVisible());
    EXPECT_TRUE(window->rect().contains(knobs->panel()->geometry()));
    auto* dial = knobs->panel()->findChild<QSlider*>("knob RV2");
    ASSERT_NE(dial, nullptr);
    dial->setValue(80);
    EXPECT_NEAR(window->session().conditions().knobs.at("RV2"), 0.8, 1e-9);
    QTest::keyClick(knobs->panel(), Qt::Key_Escape);
    EXPECT_FALSE(knobs->panel()->isVisible());
    window->openDemo("pier-lantern");
    settle();
    EXPECT_FALSE(knobs->isVisible()) << "one switch has room";
}

TEST_F(Window, ThePanelClosesThoughWhereTheKeyboardWasIsGone) {
    auto* gone = new QLineEdit(window);
    gone->show();
    gone->setFocus();
    QTest::keyClick(window, Qt::Key_K, Qt::ControlModifier);
    delete gone;
    QTest::keyClick(window->doPanel()->line(), Qt::Key_Escape);
    EXPECT_TRUE(window->doPanel()->isHidden());
}

TEST_F(Window, AnotherDesignIsSeenAfresh) {
    window->showStation("circuit");
    window->openDemo("herbarium-ring");
    settle();
    auto* stave = static_cast<CircuitStation*>(window->station("circuit"))->stave();
    stave->toggleFold("R1");
    stave->zoom(4, {100, 100});
    settle();
    EXPECT_TRUE(stave->overview()->isVisible());
    window->session().forgetUnsaved();
    window->openDemo("pier-lantern");
    settle();
    EXPECT_EQ(window->session().staveView().zoom, 1);
    EXPECT_TRUE(window->session().staveView().unfolded.empty());
    EXPECT_FALSE(stave->overview()->isVisible());
}

TEST_F(Window, FindingsFoldToTheirCountAndStaySo) {
    auto* findings = window->findChild<FindingsPanel*>();
    const int wide = findings->width();
    QTest::keyClick(window, Qt::Key_F8);
    settle();
    EXPECT_LT(findings->width(), wide / 2);
    auto* count = findings->findChild<QPushButton*>("foldedFindings");
    ASSERT_TRUE(count->isVisible());
    EXPECT_TRUE(count->text().contains("to settle"));
    EXPECT_TRUE(QSettings().value("findings/folded").toBool());
    QTest::mouseClick(count, Qt::LeftButton);
    EXPECT_EQ(findings->width(), wide);
    window->resize(1024, 700);
    settle();
    EXPECT_TRUE(findings->folded()) << "the bench comes first in a narrow window";
    window->resize(1280, 800);
    settle();
    EXPECT_FALSE(findings->folded());
}

TEST_F(Window, CardsOfFindingsOutliveAnEditAndDoWhatTheySayThen) {
    window->openDemo("harbour-diorama");
    settle();
    auto* panel = window->findChild<FindingsPanel*>();
    const auto cards = [&] {
        std::map<QString, QFrame*> all;
        for (auto* frame : panel->findChildren<QFrame*>("finding"))
            if (!frame->isHidden()) all[frame->accessibleName()] = frame;
        return all;
    };
    const auto before = cards();
    ASSERT_FALSE(before.empty());
    Design next = design();
    next.name = "Another name";
    window->session().edit(next, "rename");
    settle();
    EXPECT_EQ(cards(), before) << "nothing they say has changed";
    const auto curable =
        std::find_if(window->session().findings().begin(), window->session().findings().end(),
                     [](const Finding& f) { return f.known.empty() && !f.remedies.empty(); });
    ASSERT_NE(curable, window->session().findings().end());
    const QString title = QString::fromStdString(curable->title),
                  label = QString::fromStdString(curable->remedies.front().label);
    for (auto* button : before.at(title)->findChildren<QPushButton*>())
        if (button->text() == label) button->click();
    ASSERT_TRUE(QTest::qWaitFor(
        [&] { return design().circuit != next.circuit || design().brief != next.brief; }, 20000));
    settle();
    EXPECT_EQ(design().name, "Another name") << "of the design as it is, not of the one it was made for";
    EXPECT_EQ(cards().count(title), 0u);
}

TEST_F(Window, TheGuideOpensAtTheStationAndListsTheKeys) {
    window->showStation("power");
    QTest::keyClick(window, Qt::Key_F1);
    Guide* guide = window->guide();
    ASSERT_NE(guide, nullptr);
    EXPECT_TRUE(guide->isVisible());
    EXPECT_EQ(guide->text()->textCursor().block().text(), "Power");
    for (int row = 0; row < guide->pages()->count(); ++row) {
        guide->pages()->setCurrentRow(row);
        EXPECT_GT(guide->text()->toPlainText().size(), 400) << row;
    }
    guide->showPage("keys");
    for (const char* key : {"F1", "Ctrl K", "Alt H"})
        EXPECT_TRUE(guide->text()->toPlainText().contains(QLatin1String(key))) << key;
    QTest::keyClick(guide, Qt::Key_Escape);
    EXPECT_FALSE(guide->isVisible());
}

bool takes_or_shows_something(const QWidget* w) {
    if (qobject_cast<const QScrollBar*>(w)) return false;
    return qobject_cast<const QLineEdit*>(w) || qobject_cast<const QComboBox*>(w) ||
           qobject_cast<const QAbstractButton*>(w) || qobject_cast<const QAbstractSlider*>(w) ||
           qobject_cast<const QTableWidget*>(w) || qobject_cast<const QTreeWidget*>(w) ||
           qobject_cast<const QCustomPlot*>(w) || qobject_cast<const PictureView*>(w) ||
           qobject_cast<const FigureLabel*>(w);
}

TEST_F(Window, EveryFieldSaysWhatItIs) {
    constexpr int a_sentence = 25;  // letters beyond its name
    std::set<QString> mute;
    const auto collect = [&] {
        for (const QWidget* w : window->findChildren<QWidget*>()) {
            if (!w->isVisible() || !takes_or_shows_something(w)) continue;
            const QString words = what_is(w);
            if (words.size() - words.section(QLatin1Char('\n'), 0, 0).size() < a_sentence)
                mute.insert(QString::fromLatin1(w->metaObject()->className()) + QStringLiteral(": ") + words +
                            QStringLiteral(" (") + w->accessibleName() + QStringLiteral(")"));
        }
    };
    for (const char* demo : {"harbour-dimmer", "letterbox-flag", "tide-pool-lamp"}) {
        window->openDemo(demo);
        for (const char* id : {"brief", "light", "circuit", "power", "trial", "board", "build", "batch"}) {
            window->showStation(id);
            settle();
            for (auto* tabs : window->station(id)->findChildren<FoldingTabs*>()) tabs->setFolded(false);
            for (auto* tabs : window->station(id)->findChildren<FoldingTabs*>())
                for (int tab = 0; tab < tabs->count(); ++tab) {
                    tabs->setCurrentIndex(tab);
                    QApplication::processEvents();
                    collect();
                }
            collect();
        }
    }
    for (const QString& one : mute) ADD_FAILURE() << qPrintable(one);
    auto* name = window->station("brief")->findChild<QLineEdit*>();
    QHelpEvent ask(QEvent::QueryWhatsThis, {}, {});
    ask.ignore();
    QApplication::sendEvent(name, &ask);
    EXPECT_TRUE(ask.isAccepted());
}

TEST(FieldGuide, TakesTheEntryThatSaysMost) {
    EXPECT_TRUE(field_words("switch S4").startsWith("Turns"));
    EXPECT_TRUE(field_words("switch").startsWith("Whether"));
    EXPECT_TRUE(field_words("Parts list (CSV)…").startsWith("Writes"));
    EXPECT_NE(field_words("current of string 1, low forward voltage"), field_words("current of L1"));
    EXPECT_TRUE(field_words("a name that nobody gave").isEmpty());
}

DataTable* table_of(const std::vector<double>& values) {
    auto* table = new DataTable("table", {{"name"}, {"amps", DataTable::numbers}});
    table->resize(400, 300);
    table->setRowCount(static_cast<int>(values.size()));
    for (int r = 0; r < table->rowCount(); ++r) {
        Figure f;
        f.label = "current", f.unit = Unit::ampere, f.value = values[static_cast<std::size_t>(r)];
        table->setItem(r, 0, new QTableWidgetItem(QStringLiteral("R%1").arg(r + 1)));
        table->setItem(r, 1, figure_item(f));
    }
    table->show();
    table->fit();
    return table;
}

TEST(DataTables, SortByWhatTheNumbersAreNotHowTheyAreWritten) {
    const std::unique_ptr<DataTable> table(table_of({0.02, 3e-6, 1.5, 0.9e-3}));
    const auto shown = [&] {
        QString rows;
        for (int place = 0; place < table->rowCount(); ++place)
            rows += QString::number(table->verticalHeader()->logicalIndex(place) + 1);
        return rows;
    };
    table->sortBy(1);
    EXPECT_EQ(shown(), "2413");
    EXPECT_TRUE(table->copied().startsWith("name\tamps\nR2\t3.00")) << qPrintable(table->copied());
    table->sortBy(1);
    EXPECT_EQ(shown(), "3142");
    table->sortBy(1);
    EXPECT_EQ(shown(), "1234") << "as it was";
    EXPECT_EQ(table->item(0, 0)->text(), "R1") << "a row keeps its number";
}

TEST(DataTables, NumbersKeepTheirWidthAndWordsGiveWay) {
    const std::unique_ptr<DataTable> table(table_of({0.0152}));
    table->item(0, 0)->setText(QString(200, QLatin1Char('w')));
    table->fit();
    EXPECT_LE(table->columnWidth(0) + table->columnWidth(1), table->viewport()->width() + 1);
    EXPECT_GE(table->columnWidth(1), table->fontMetrics().horizontalAdvance(table->item(0, 1)->text()));
    EXPECT_EQ(table->horizontalHeaderItem(1)->textAlignment() & Qt::AlignRight, Qt::AlignRight);
}

TEST(TracePlots, StackLanesZoomAndSayTheirValues) {
    std::vector<double> time, ramp, square;
    for (int k = 0; k <= 1000; ++k) {
        time.push_back(k * 1e-5);
        ramp.push_back(5.0 * k / 1000);
        square.push_back(k / 100 % 2 ? 3.0 : 0.0);
    }
    EXPECT_TRUE(jumps_between_levels(time, square));
    EXPECT_FALSE(jumps_between_levels(time, ramp));
    TracePlot plot;
    plot.resize(500, 240);
    plot.show();
    TraceCurve a{"RAMP", Unit::volt, Qt::black, TraceCurve::Look::curve, ramp, {}, {}, {}};
    TraceCurve b{"OUT", Unit::volt, Qt::red, TraceCurve::Look::levels, square, {}, {}, {}};
    plot.setCurves(time, {a, b}, false);
    EXPECT_EQ(plot.lanes(), 2);
    plot.zoom(4, 0.005);
    EXPECT_NEAR(plot.seen().size(), 0.0025, 1e-9);
    EXPECT_TRUE(plot.seen().contains(0.005));
    plot.setHead(0.005);
    const auto says = [&](const QString& words) {
        for (int k = 0; k < plot.itemCount(); ++k)
            if (const auto* text = qobject_cast<QCPItemText*>(plot.item(k));
                text && text->text().contains(words))
                return true;
        return false;
    };
    EXPECT_TRUE(says(QString::fromStdString(format_quantity(2.5, Unit::volt))));
    EXPECT_TRUE(says("RAMP"));
    QTest::keyClick(&plot, Qt::Key_0);
    EXPECT_NEAR(plot.seen().size(), 0.01, 1e-9);
    plot.setCurves(time, {a, b}, true);
    EXPECT_EQ(plot.lanes(), 1) << "laid over each other";
    double wanted = -1;
    QObject::connect(&plot, &TracePlot::headWanted, [&](double seconds) { wanted = seconds; });
    plot.replot();
    QTest::mouseClick(&plot, Qt::LeftButton, {}, QPoint(300, 100));
    EXPECT_GT(wanted, 0.004);
    EXPECT_LT(wanted, 0.007);
}

}  // namespace
}  // namespace elkit::test
