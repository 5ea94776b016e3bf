// Opens, edits and repaints large designs in the real window: how long the interface's thread is held by
// each, at most, in its own time [ms].
#include <fmt/format.h>

#include <QApplication>
#include <QElapsedTimer>
#include <QThread>
#include <algorithm>
#include <cstdio>
#include <cstdlib>
#include <ctime>

#include "app/shell/main_window.hpp"
#include "app/stations/station.hpp"
#include "app/theme/theme.hpp"
#include "design/design.hpp"
#include "render/fonts.hpp"

namespace {
using namespace elkit;

double own_time() {
    timespec now{};
    clock_gettime(CLOCK_THREAD_CPUTIME_ID, &now);
    return 1e3 * static_cast<double>(now.tv_sec) + 1e-6 * static_cast<double>(now.tv_nsec);
}

/// A battery, and `count` parts as lights in parallel or as resistors in a row.
Design large(int count, bool lights) {
    Design d;
    d.name = "Large";
    d.circuit.parts.push_back({"B1", "battery", {{"count", 3.0}}, {{"+", "V+"}, {"-", "GND"}}, {}});
    std::string from = "V+";
    for (int k = 1; k <= count; ++k) {
        const std::string n = std::to_string(k);
        if (lights && k % 2 == 0) {
            d.circuit.parts.push_back({"L" + n, "led", {}, {{"a", from}, {"k", "GND"}}, {}});
            from = "V+";
        } else {
            const std::string to = !lights && k == count ? "GND" : "A" + n;
            d.circuit.parts.push_back(
                {"R" + n, "resistor", {{"value", 150.0}}, {{"a", from}, {"b", to}}, {}});
            from = to;
        }
    }
    return d;
}

/// What a person sees in half a second; the long work of large designs goes on behind it.
double look_on() {
    double longest = 0;
    QElapsedTimer since;
    since.start();
    while (since.elapsed() < 500) {
        const double before = own_time();
        QApplication::processEvents();
        longest = std::max(longest, own_time() - before);
        QThread::msleep(1);
    }
    return longest;
}

template <class Work>
double held(const Work& work) {
    const double before = own_time();
    work();
    return own_time() - before;
}

}  // namespace

int main(int argc, char** argv) {
    QApplication application(argc, argv);
    load_fonts();
    apply_theme(false);
    auto* window = new MainWindow(nullptr);
    window->resize(1280, 800);
    window->show();
    for (const int count : argc > 1 ? std::vector<int>{std::atoi(argv[1])} : std::vector<int>{200, 1000})
        for (const bool lights : {true, false}) {
            const Design design = large(count, lights);
            window->session().startNew(Design{});
            window->showStation(QStringLiteral("circuit"));
            look_on();
            const double open = held([&] { window->session().startNew(design); });
            look_on();
            double edit = 0, paint = 0;
            for (int k = 0; k < 5; ++k) {
                Design next = window->session().design();
                next.circuit.parts[1].params["value"] = 100.0 + k;
                edit = std::max(edit, held([&] { window->session().edit(next, QStringLiteral("value")); }));
                paint = std::max(paint, look_on());
            }
            std::puts(fmt::format("{} {}: open {:.1f}, edit {:.1f}, repaint {:.1f}", count,
                                  lights ? "lights" : "in a row", open, edit, paint)
                          .c_str()),
                std::fflush(stdout);
        }
    window->session().forgetUnsaved();
    Autosave::wait();
    delete window;
    return 0;
}
