#include "app/shell/shots.hpp"

#include <unistd.h>

#include <QApplication>
#include <QDir>
#include <QFile>
#include <QTimer>
#include <cstdio>
#include <ctime>

#include "app/drawer/drawer_window.hpp"
#include "app/shell/main_window.hpp"
#include "app/stations/station.hpp"
#include "app/theme/theme.hpp"
#include "batch/reserve.hpp"

namespace elkit {
namespace {

/// Takes one picture of a station as its shot asks for.
bool shoot(MainWindow& window, const QDir& folder, const StationInfo& info, const StationShot& shot) {
    if (theme().dark != shot.dark) apply_theme(shot.dark);
    window.openDemo(shot.demo);
    window.showStation(info.id);
    window.session().settle();
    const auto fold = [&] {
        if (shot.bare) window.action(QStringLiteral("findings"))->trigger();
    };
    if (shot.prepare) shot.prepare(window.session(), *window.station(info.id));
    window.session().settle();
    fold();
    window.session().settle();
    const QString path = folder.filePath(shot.file + QStringLiteral(".png"));
    const bool saved = window.grab().save(path);
    fold();
    if (theme().dark) apply_theme(false);
    std::printf("%s\n", qPrintable(path));
    return saved;
}

/// The parts owned, as a batch has promised itself some of them.
bool shoot_drawer(MainWindow& window, const QDir& folder) {
    window.openDemo(QStringLiteral("pier-lantern"));
    window.session().settle();
    const auto parts = window.session().compute(window.session().partsQuery());
    window.session().changeDrawer(reserve(window.session().drawerItems(), *parts, "Pier lantern").changes,
                                  {});
    DrawerItem resistor = *window.session().stock()->find("resistor/62");
    resistor.place = "box 2, row C", resistor.least = 50;
    window.session().putDrawerItem(resistor);
    DrawerWindow* drawer = window.openDrawer();
    drawer->resize(1280, 800);
    drawer->choose("resistor/62");
    QApplication::processEvents();
    const QString path = folder.filePath(QStringLiteral("drawer.png"));
    std::printf("%s\n", qPrintable(path));
    return drawer->grab().save(path);
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

int take_shots(const QString& folder_name, std::shared_ptr<Store> store) {
    QDir folder(folder_name);
    if (!folder.mkpath(QStringLiteral("."))) return 1;
    auto drawer = Drawer::open(":memory:");
    auto* window = new MainWindow(
        drawer ? std::make_shared<Stock>(std::move(drawer).value()) : std::make_shared<Stock>(),
        std::move(store));
    window->resize(1280, 800);
    window->show();
    bool good = true;
    for (const StationInfo& info : stations())
        for (const StationShot& shot : info.shots) good = shoot(*window, folder, info, shot) && good;
    good = shoot_drawer(*window, folder) && good;
    delete window;
    return good ? 0 : 1;
}

void report_start(MainWindow& window) {
    // after show(), the first event loop pass paints; the timer behind it runs when the frame is out
    QTimer::singleShot(0, &window, [&window] {
        window.repaint();
        QApplication::processEvents();
        std::printf("first frame %.0f ms after process start\n", since_process_start_ms());
        window.session().settle();
        std::printf("resident memory %.0f MB\n", resident_megabytes());
        std::fflush(stdout);
        QApplication::exit(0);
    });
}

}  // namespace elkit
