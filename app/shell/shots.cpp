#include "app/shell/shots.hpp"

#include <unistd.h>

#include <QApplication>
#include <QDir>
#include <QFile>
#include <QTabWidget>
#include <QTimer>
#include <cstdio>
#include <ctime>

#include "app/shell/main_window.hpp"
#include "app/stations/circuit/circuit_station.hpp"
#include "app/stations/circuit/goal_chooser.hpp"
#include "app/stations/circuit/spread_panel.hpp"
#include "app/stations/circuit/sweep_panel.hpp"
#include "app/stations/circuit/time_lane.hpp"
#include "app/theme/theme.hpp"
#include "app/widgets/figure_label.hpp"

namespace elkit {
namespace {

void settle(MainWindow& window) {
    QApplication::processEvents();
    window.session().waitForDeep();
    QApplication::processEvents();
    QApplication::processEvents();
}

bool shoot(MainWindow& window, const QDir& folder, const QString& name) {
    settle(window);
    const QString path = folder.filePath(name + QStringLiteral(".png"));
    const bool saved = window.grab().save(path);
    std::printf("%s\n", qPrintable(path));
    return saved;
}

/// The dimmer's knob swept, and a batch of flashers on paper.
bool shoot_analyses(MainWindow& window, const QDir& folder) {
    const auto wait = [](const auto& done) {
        while (!done()) QApplication::processEvents(QEventLoop::AllEvents, 20);
    };
    window.openDemo(QStringLiteral("harbour-dimmer"));
    window.showStation(QStringLiteral("circuit"));
    auto* circuit = qobject_cast<CircuitStation*>(window.station(QStringLiteral("circuit")));
    if (!circuit) return false;
    SweepPanel* sweep = circuit->sweepPanel();
    circuit->tabs()->setCurrentWidget(sweep);
    sweep->vary(QStringLiteral("RV1"));
    sweep->goal()->choose(QStringLiteral("L1"), QStringLiteral("mean"));
    sweep->start();
    wait([&] { return !sweep->running(); });
    sweep->point(0.4);
    bool good = shoot(window, folder, QStringLiteral("sweep"));
    window.openDemo(QStringLiteral("twin-blinker"));
    SpreadPanel* spread = circuit->spreadPanel();
    circuit->tabs()->setCurrentWidget(spread);
    spread->goal()->choose(QStringLiteral("L1"), QStringLiteral("period"));
    spread->start();
    wait([&] { return !spread->running(); });
    return shoot(window, folder, QStringLiteral("spread")) && good;
}

void focus_figure(MainWindow& window, const QString& station, const QString& name) {
    if (auto* figure = window.station(station)->findChild<FigureLabel*>(name))
        window.session().focusFigure(figure->figure());
}

double since_process_start_ms() {
    QFile stat(QStringLiteral("/proc/self/stat"));
    if (!stat.open(QIODevice::ReadOnly)) return -1;
    const QByteArray line = stat.readAll();
    const auto fields = line.mid(line.lastIndexOf(')') + 2).split(' ');
    const double started = fields.value(19).toDouble() / static_cast<double>(sysconf(_SC_CLK_TCK));
    timespec now{};
    clock_gettime(CLOCK_BOOTTIME, &now);
    return 1000 * (static_cast<double>(now.tv_sec) + 1e-9 * static_cast<double>(now.tv_nsec) - started);
}

double resident_megabytes() {
    QFile statm(QStringLiteral("/proc/self/statm"));
    if (!statm.open(QIODevice::ReadOnly)) return -1;
    return statm.readAll().split(' ').value(1).toDouble() * static_cast<double>(sysconf(_SC_PAGESIZE)) / 1e6;
}

}  // namespace

int take_shots(const QString& folder_name) {
    QDir folder(folder_name);
    if (!folder.mkpath(QStringLiteral("."))) return 1;
    auto drawer = Drawer::open(":memory:");
    auto* window = new MainWindow(drawer ? std::make_shared<Drawer>(std::move(drawer).value()) : nullptr);
    window->resize(1280, 800);
    window->openDemo(QStringLiteral("pier-lantern"));
    window->show();
    settle(*window);
    Conditions half;
    half.battery = 0.62;
    window->session().setConditions(half);
    bool good = true;
    struct View {
        const char *station, *figure;
    };
    for (const View& view :
         {View{"light", "resistance"}, View{"brief", ""}, View{"circuit", ""}, View{"power", "runTime"},
          View{"board", ""}, View{"build", ""}, View{"batch", "costPerKit"}}) {
        const QString id = QLatin1String(view.station);
        window->showStation(id);
        settle(*window);
        if (*view.figure) focus_figure(*window, id, QLatin1String(view.figure));
        if (id == QLatin1String("build")) window->station(id)->focusRef(QStringLiteral("step:volts.L1"));
        good = shoot(*window, folder, id) && good;
    }
    window->openDemo(QStringLiteral("coat-badge"));
    window->showStation(QStringLiteral("circuit"));
    good = shoot(*window, folder, QStringLiteral("coat-badge")) && good;
    for (const char* demo : {"harbour-dimmer", "twin-blinker", "firefly-jar"}) {
        window->openDemo(QLatin1String(demo));
        window->showStation(QStringLiteral("circuit"));
        if (auto* circuit = qobject_cast<CircuitStation*>(window->station(QStringLiteral("circuit")))) {
            circuit->tabs()->setCurrentWidget(circuit->timeLane());
            circuit->timeLane()->record(QLatin1String(demo) == QLatin1String("twin-blinker")  ? 2
                                        : QLatin1String(demo) == QLatin1String("firefly-jar") ? 2e-4
                                                                                              : 8e-3);
            while (circuit->timeLane()->recordingNow())
                QApplication::processEvents(QEventLoop::AllEvents, 20);
            circuit->timeLane()->showAt(0.62);
        }
        // the widest stave has the room of the folded panels
        const bool wide = QLatin1String(demo) == QLatin1String("harbour-dimmer");
        for (const char* panel : {"findings", "working"})
            if (wide) window->action(QLatin1String(panel))->trigger();
        good = shoot(*window, folder, QLatin1String(demo)) && good;
        for (const char* panel : {"findings", "working"})
            if (wide) window->action(QLatin1String(panel))->trigger();
    }
    good = shoot_analyses(*window, folder) && good;
    apply_theme(true);
    window->openDemo(QStringLiteral("pier-lantern"));
    window->session().setConditions(half);
    window->showStation(QStringLiteral("light"));
    settle(*window);
    focus_figure(*window, QStringLiteral("light"), QStringLiteral("resistance"));
    good = shoot(*window, folder, QStringLiteral("dark")) && good;
    delete window;
    return good ? 0 : 1;
}

void report_start(MainWindow& window) {
    // after show(), the first event loop pass paints; the timer behind it runs when the frame is out
    QTimer::singleShot(0, &window, [&window] {
        window.repaint();
        QApplication::processEvents();
        std::printf("first frame %.0f ms after process start\n", since_process_start_ms());
        window.session().waitForDeep();
        QApplication::processEvents();
        std::printf("resident memory %.0f MB\n", resident_megabytes());
        std::fflush(stdout);
        QApplication::exit(0);
    });
}

}  // namespace elkit
