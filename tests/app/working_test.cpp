// Numbers in tables show their working; long work shows how far it is and can be stopped.
#include <QLabel>
#include <QProgressBar>
#include <QPushButton>
#include <QTableWidget>
#include <chrono>
#include <thread>

#include "app/shell/progress_strip.hpp"
#include "app/widgets/data_table.hpp"
#include "window_fixture.hpp"

namespace elkit::test {
namespace {

void click_cell(QTableWidget* table, int row, int column) {
    QTest::mouseClick(table->viewport(), Qt::LeftButton, {},
                      table->visualItemRect(table->item(row, column)).center());
}

TEST_F(Window, NumbersInTheSupplyTableShowTheirWorking) {
    window->showStation("power");
    settle();
    auto* table = window->station("power")->findChild<QTableWidget*>("supplies");
    click_cell(table, 0, 5);
    EXPECT_TRUE(window->working()->text().contains("Ah taken")) << qPrintable(window->working()->text());
    QTest::keyClick(table, Qt::Key_Right);
    EXPECT_TRUE(window->working()->text().contains("3 × 0.45")) << qPrintable(window->working()->text());
}

TEST_F(Window, NumbersInThePartsListShowTheirWorking) {
    window->showStation("batch");
    settle();
    auto* table = window->station("batch")->findChild<QTableWidget*>();
    for (int r = 0; r < table->rowCount(); ++r)
        if (table->item(r, 0)->text().startsWith("warm amber")) click_cell(table, r, 5);
    EXPECT_TRUE(window->working()->text().contains("168 needed")) << qPrintable(window->working()->text());
}

TEST_F(Window, NumbersInTheCircuitTableShowTheirWorking) {
    window->showStation("circuit");
    settle();
    auto* table = static_cast<CircuitStation*>(window->station("circuit"))->table();
    click_cell(table, 2, 5);
    EXPECT_TRUE(window->working()->text().contains("a on LAMP")) << qPrintable(window->working()->text());
}

TEST_F(Window, TheBinTableIsMadeOfFigures) {
    window->showStation("light");
    settle();
    int bins = 0;
    for (auto* label : window->station("light")->findChildren<FigureLabel*>()) {
        if (!label->figure().id.starts_with("light.bin.")) continue;
        ++bins;
        QTest::mouseClick(label, Qt::LeftButton);
        EXPECT_TRUE(window->working()->text().contains("V string"));
    }
    EXPECT_EQ(bins, 9);
}

/// Work that is never done: what takes long on one machine is done on another before a key is pressed.
struct EndlessQuery {
    using Value = int;
    static constexpr std::string_view name = "endless work";
    Digest key() const { return {}; }
    Result<int> compute(const Ask&) const {
        for (;;) {
            stop_point();
            std::this_thread::sleep_for(std::chrono::milliseconds(1));
        }
    }
};

TEST_F(Window, LongWorkShowsProgressAndStops) {
    auto* strip = window->findChild<ProgressStrip*>();
    ASSERT_NE(strip, nullptr);
    EXPECT_FALSE(strip->isVisible());
    EXPECT_FALSE(window->session().ask(EndlessQuery{}).current());
    ASSERT_TRUE(QTest::qWaitFor([&] { return strip->isVisible(); }, 10000));
    EXPECT_TRUE(strip->findChild<QLabel*>()->text().startsWith("endless work"));
    auto* button = strip->findChild<QPushButton*>();
    EXPECT_EQ(button->text(), "Stop");
    QTest::keyClick(window, Qt::Key_Period, Qt::ControlModifier);
    EXPECT_TRUE(window->session().stopped());
    EXPECT_EQ(button->text(), "Compute");
    ASSERT_TRUE(QTest::qWaitFor([&] { return !window->session().computing(); }, 10000))
        << "it was told to end";
    EXPECT_FALSE(window->session().ask(EndlessQuery{}).current());
    QTest::qWait(100);
    EXPECT_FALSE(window->session().computing()) << "nothing long is begun again while the work is stopped";
    window->session().edit(with_goal(design(), 0, "count", 6.0), "more lights");
    settle();
    EXPECT_FALSE(strip->isVisible());
    EXPECT_FALSE(window->session().stopped());
}

}  // namespace
}  // namespace elkit::test
