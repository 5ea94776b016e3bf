// Jobs on the writer's thread, and what the window tells of them.
#include "app/shell/writer.hpp"

#include <QHeaderView>
#include <QTableWidget>
#include <memory>
#include <thread>
#include <vector>

#include "app/widgets/figure_table.hpp"
#include "window_fixture.hpp"

namespace elkit::test {
namespace {

TEST(WriterThread, RunsJobsInOrderElsewhereAndTellsHere) {
    Writer writer;
    QObject here;
    std::vector<int> done, told;
    bool elsewhere = true;
    const auto mine = std::this_thread::get_id();
    for (int k = 0; k < 20; ++k)
        writer.run(
            [&, k]() -> Result<int> {
                elsewhere = elsewhere && std::this_thread::get_id() != mine;
                done.push_back(k);
                return k;
            },
            &here,
            [&](const Result<int>& result) {
                EXPECT_EQ(std::this_thread::get_id(), mine);
                told.push_back(result.value());
            });
    writer.wait();
    ASSERT_EQ(done.size(), 20u);
    EXPECT_TRUE(std::is_sorted(done.begin(), done.end()));
    EXPECT_EQ(told, done);
    EXPECT_TRUE(elsewhere);
}

TEST(WriterThread, DoesItsJobsForWhoIsGoneAndTellsNobody) {
    Writer writer;
    bool done = false;
    auto here = std::make_unique<QObject>();
    writer.run([&]() -> Result<bool> { return done = true; }, here.get(),
               [](const Result<bool>&) { FAIL() << "nobody is there to be told"; });
    here.reset();
    writer.wait();
    EXPECT_TRUE(done);
}

TEST_F(Window, FilledTablesShowTheirCellsWhole) {
    for (const char* name : {"power", "batch"}) {
        window->showStation(name);
        settle();
        auto* table =
            window->station(name)->findChild<QTableWidget*>(name == std::string("power") ? "supplies" : "");
        ASSERT_GT(table->rowCount(), 3) << name;
        for (int c = 0; c < table->columnCount(); ++c)
            if (table->horizontalHeader()->sectionResizeMode(c) == QHeaderView::ResizeToContents) {
                EXPECT_GE(table->columnWidth(c), static_cast<QAbstractItemView*>(table)->sizeHintForColumn(c))
                    << name << ", column " << c;
            }
    }
}

}  // namespace
}  // namespace elkit::test
