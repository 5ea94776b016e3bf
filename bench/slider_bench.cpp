// Moves the battery slider in the real window; prints the median time from the move to everything repainted,
// per station. Then edits and saves in every station: how long the interface's thread is held at most, what
// is drawn afterwards not counted.
#include <QApplication>
#include <QElapsedTimer>
#include <QSlider>
#include <QTabWidget>
#include <QTemporaryDir>
#include <algorithm>
#include <cstdio>
#include <ctime>
#include <vector>

#include "app/shell/main_window.hpp"
#include "app/stations/circuit/circuit_station.hpp"
#include "app/stations/circuit/time_lane.hpp"
#include "app/theme/theme.hpp"
#include "app/widgets/folding_tabs.hpp"
#include "design/demo.hpp"
#include "design/file.hpp"
#include "recipes/blocks.hpp"
#include "render/fonts.hpp"

int main(int argc, char** argv) {
    QApplication application(argc, argv);
    elkit::load_fonts();
    elkit::apply_theme(false);
    auto drawer = elkit::Drawer::open(":memory:");
    auto* window = new elkit::MainWindow(std::make_shared<elkit::Stock>(std::move(drawer).value()));
    window->show();
    auto* slider = window->findChild<QSlider*>(QStringLiteral("Battery"));
    const auto slide = [&](const QString& station) {
        window->showStation(station);
        window->session().settle();
        std::vector<double> times;
        for (int step = 0; step < 180; ++step) {
            QElapsedTimer timer;
            timer.start();
            slider->setValue(step < 90 ? 100 - step : step - 80);
            QApplication::processEvents();  // delivers the repaints
            times.push_back(static_cast<double>(timer.nsecsElapsed()) / 1e6);
        }
        std::sort(times.begin(), times.end());
        return times[times.size() / 2];
    };
    for (const elkit::Demo& demo : elkit::demos()) {
        window->openDemo(QString::fromStdString(demo.id));
        for (const auto& info : elkit::stations())
            if (&demo == &elkit::demos().front() || info.id == QLatin1String("circuit"))
                std::printf("%s/%s %.2f\n", demo.id.c_str(), qPrintable(info.id), slide(info.id));
    }
    double editing = 0, saving = 0;
    const auto own_time = [] {
        timespec now{};
        clock_gettime(CLOCK_THREAD_CPUTIME_ID, &now);
        return 1e3 * static_cast<double>(now.tv_sec) + 1e-6 * static_cast<double>(now.tv_nsec);
    };
    const auto held = [&](double& longest, const auto& work) {
        const double before = own_time();
        work();
        longest = std::max(longest, own_time() - before);
        window->session().settle();
    };
    const QTemporaryDir folder;
    for (const elkit::Demo& demo : elkit::demos()) {
        window->session().startNew(elkit::read_design(demo.text).value());
        for (const auto& info : elkit::stations()) {
            window->showStation(info.id);
            window->session().settle();
            elkit::Circuit circuit = window->session().design().circuit;
            for (elkit::Part& part : circuit.parts)
                if (part.params.contains("value")) part.params["value"] = 1.02 * part.number("value");
            elkit::Design next = with_circuit(window->session().design(), std::move(circuit));
            held(editing, [&] { window->session().edit(std::move(next), QStringLiteral("values")); });
            held(saving,
                 [&] { window->startSaving(folder.filePath(QStringLiteral("d.json")).toStdString()); });
        }
    }
    std::printf("editing %.2f\nsaving %.2f\n", editing, saving);
    window->session().startNew(elkit::read_design(elkit::find_demo("harbour-dimmer")->text).value());
    window->showStation(QStringLiteral("circuit"));
    auto* circuit = qobject_cast<elkit::CircuitStation*>(window->station(QStringLiteral("circuit")));
    window->session().settle();
    QSlider* knob = nullptr;
    for (auto* control : window->findChildren<QSlider*>())
        if (control->objectName().startsWith(QStringLiteral("knob"))) knob = control;
    std::vector<double> turned;
    for (int step = 0; knob && step < 200; ++step) {
        QElapsedTimer timer;
        timer.start();
        knob->setValue(step < 100 ? step : 200 - step);
        QApplication::processEvents();
        turned.push_back(static_cast<double>(timer.nsecsElapsed()) / 1e6);
        while (timer.elapsed() < 16) QApplication::processEvents(QEventLoop::AllEvents, 4);  // a frame
    }
    std::sort(turned.begin(), turned.end());
    if (knob)
        std::printf("knob %.2f\nknob-slow %.2f\n", turned[turned.size() / 2],
                    turned[turned.size() * 95 / 100]);
    elkit::TimeLane* lane = circuit->timeLane();
    circuit->tabs()->setCurrentWidget(lane);
    lane->record(4e-3);
    while (lane->recordingNow()) QApplication::processEvents(QEventLoop::AllEvents, 20);
    window->session().settle();
    std::vector<double> frames;
    for (int k = 0; k < 200; ++k) {
        QElapsedTimer timer;
        timer.start();
        lane->showAt(k / 200.0);
        QApplication::processEvents();
        frames.push_back(static_cast<double>(timer.nsecsElapsed()) / 1e6);
    }
    std::sort(frames.begin(), frames.end());
    std::printf("playing %.2f\n", frames[frames.size() / 2]);
    delete window;
    return 0;
}
