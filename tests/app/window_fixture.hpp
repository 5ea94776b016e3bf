#pragma once
#include <gtest/gtest.h>

#include <QApplication>
#include <QSettings>
#include <QTest>

#include "app/shell/do_panel.hpp"
#include "app/shell/main_window.hpp"
#include "app/shell/working_drawer.hpp"
#include "app/stations/circuit/circuit_station.hpp"
#include "app/stations/station.hpp"
#include "app/widgets/figure_label.hpp"
#include "app/widgets/folding_tabs.hpp"
#include "recipes/blocks.hpp"
#include "support/designs.hpp"
#include "support/process.hpp"

namespace elkit::test {

/// What the tests of this process computed.
inline std::shared_ptr<Store> store_of_all() {
    static const auto store = std::make_shared<Store>(150000);
    return store;
}

/// A real window on the pier lantern, with a drawer and a state folder of its own.
class Window : public ::testing::Test {
  protected:
    void SetUp() override {
        QSettings().clear();  // of tests before this one
        state_ = qgetenv("XDG_STATE_HOME");
        qputenv("XDG_STATE_HOME", (folder / "state").string().c_str());
        auto drawer = Drawer::open(":memory:");
        window = new MainWindow(std::make_shared<Stock>(std::move(drawer).value()), store());
        window->openDemo(QStringLiteral("pier-lantern"));
        window->resize(1280, 800);
        window->show();
        settle();
    }
    void TearDown() override {
        if (window) window->session().forgetUnsaved();
        delete window.data();
        Autosave::wait();
        qputenv("XDG_STATE_HOME", state_);
    }

    /// What other tests of this process computed is there already; nullptr: nothing is.
    virtual std::shared_ptr<Store> store() { return store_of_all(); }
    void settle() {
        QApplication::processEvents();
        window->session().settle();
        QApplication::processEvents();
    }
    const Design& design() const { return window->session().design(); }
    double value(const char* part, const char* key = "value") const {
        return design().circuit.find(part)->number(key);
    }

    /// Types into the do-anything line and presses Enter.
    void say(const QString& words) {
        QTest::keyClick(window, Qt::Key_K, Qt::ControlModifier);
        QTest::keyClicks(window->doPanel()->line(), words);
        QTest::keyClick(window->doPanel()->line(), Qt::Key_Return);
        settle();
    }
    /// Types a value into a field of a station and presses Enter.
    void enter(const QString& station, const QString& field, const QString& words) {
        window->showStation(station);
        settle();
        auto* edit = window->station(station)->findChild<QLineEdit*>(field);
        ASSERT_NE(edit, nullptr) << qPrintable(field);
        for (QWidget* w = edit; w; w = w->parentWidget())
            for (auto* tabs : window->station(station)->findChildren<FoldingTabs*>())
                if (tabs->isAncestorOf(w)) tabs->showPage(w);
        edit->setFocus();
        edit->selectAll();
        QTest::keyClicks(edit, words);
        QTest::keyClick(edit, Qt::Key_Return);
        settle();
    }
    Figure figure(const QString& station, const QString& name) {
        window->showStation(station);
        settle();
        auto* label = window->station(station)->findChild<FigureLabel*>(name);
        return label ? label->figure() : Figure{};
    }
    template <class Query>
    Answer<typename Query::Value> ask(const Query& query) {
        return window->session().compute(query);
    }
    OperatingPoint op() { return *ask(window->session().restQuery()); }
    Figure stringCurrent() { return ask(window->session().lightQuery())->strings.at(0).current; }
    Goals goals() const { return goals_of(design(), design().blocks.at(0)); }
    /// Waits until the banner says that a file is written, or why not.
    bool written() {
        if (!QTest::qWaitFor([&] { return window->bannerText() != "writing …"; }, 30000)) return false;
        return window->bannerText().contains("written");
    }
    bool hasFinding(const std::string& rule) const {
        for (const auto& f : window->session().findings())
            if (f.rule == rule && f.known.empty()) return true;
        return false;
    }

    QPointer<MainWindow> window;
    TemporaryFolder folder;

  private:
    QByteArray state_;
};

/// The same with the Circuit station in front, on a demo.
class CircuitWindow : public Window {
  protected:
    CircuitStation* open(const char* demo) {
        window->openDemo(QLatin1String(demo));
        window->showStation("circuit");
        settle();
        return qobject_cast<CircuitStation*>(window->station("circuit"));
    }
};

}  // namespace elkit::test
