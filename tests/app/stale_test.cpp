// What is on the screen while its answer is still computed: an old answer meets a new circuit.
#include <algorithm>
#include <functional>

#include "app/window_fixture.hpp"

namespace elkit::test {
namespace {

class Stale : public Window {
  protected:
    std::shared_ptr<Store> store() override { return nullptr; }
    /// Each page of a station's tabs, one after another; or nothing but the station.
    void onEachPage(const QString& station, const std::function<void()>& act) {
        window->showStation(station);
        auto* tabs = window->station(station)->findChild<FoldingTabs*>();
        for (int page = 0; page < (tabs ? tabs->count() : 1); ++page) {
            if (tabs) tabs->setCurrentIndex(page);
            settle();
            act();
        }
    }
};

TEST_F(Stale, APartGoesAndComesBack) {
    window->openDemo("twin-blinker");
    settle();
    int removed = 0;
    for (const char* station : {"light", "power", "board"})
        onEachPage(QString::fromLatin1(station), [&] {
            const Circuit whole = design().circuit;
            const std::size_t step = std::max<std::size_t>(1, whole.parts.size() / 2);
            for (std::size_t k = removed % step; k < whole.parts.size(); k += step) {
                Design less = design();
                less.circuit.parts.erase(less.circuit.parts.begin() + static_cast<std::ptrdiff_t>(k));
                window->session().edit(less, QStringLiteral("remove a part"));
                QApplication::processEvents();  // not settled: shows what it still has
                window->grab();
                window->session().undoStack().undo();
                QApplication::processEvents();
                ++removed;
            }
        });
    settle();
    EXPECT_GT(removed, 15);
    EXPECT_TRUE(window->session().undoStack().index() == 0);
}

}  // namespace
}  // namespace elkit::test
