// The circuit station as the window knows it, and what its pictures for the documentation show.
#include <QApplication>
#include <QTableWidget>

#include "app/shell/session.hpp"
#include "app/stations/circuit/behaviour_panel.hpp"
#include "app/stations/circuit/circuit_station.hpp"
#include "app/stations/circuit/goal_chooser.hpp"
#include "app/stations/circuit/pictures_panel.hpp"
#include "app/stations/circuit/recipe_page.hpp"
#include "app/stations/circuit/spread_panel.hpp"
#include "app/stations/circuit/time_lane.hpp"
#include "app/widgets/folding_tabs.hpp"

namespace elkit {

/// Records, waits, and puts the play head where something is to be seen.
static std::function<void(Session&, Station&)> recorded(double seconds) {
    return [seconds](Session&, Station& station) {
        auto& circuit = static_cast<CircuitStation&>(station);
        circuit.tabs()->showPage(circuit.timeLane());
        circuit.timeLane()->record(seconds);
        while (circuit.timeLane()->recordingNow()) QApplication::processEvents(QEventLoop::AllEvents, 20);
        circuit.timeLane()->showAt(0.62);
    };
}

static void spread_out(Session&, Station& station) {
    auto& circuit = static_cast<CircuitStation&>(station);
    SpreadPanel* spread = circuit.spreadPanel();
    circuit.tabs()->showPage(spread);
    spread->goal()->choose(QStringLiteral("L1"), QStringLiteral("period"));
    spread->start();
    while (spread->running()) QApplication::processEvents(QEventLoop::AllEvents, 20);
}

static void roomy(Session&, Station& station) {
    static_cast<CircuitStation&>(station).tabs()->setFolded(true);
}

static void asked(Session&, Station& station) {
    auto& circuit = static_cast<CircuitStation&>(station);
    circuit.showRecipes(true);
    circuit.recipes()->choose(QStringLiteral("#0"));
    circuit.recipes()->setGoal(QStringLiteral("rate"), 0.25);
}

static void half_full(Session& session, Station&) {
    Conditions half;
    half.battery = 0.62;
    session.setConditions(half);
}

/// A controller's rows, with the stave at a moment of what they say.
static void told(Session&, Station& station) {
    auto& circuit = static_cast<CircuitStation&>(station);
    circuit.tabs()->showPage(circuit.behaviour());
    circuit.behaviour()->rows()->setCurrentCell(3, 1);  // of the state that shines
    while (circuit.behaviour()->computing()) QApplication::processEvents(QEventLoop::AllEvents, 20);
    circuit.behaviour()->showAt(0.005);
}

static void drawn(Session&, Station& station) {
    auto& circuit = static_cast<CircuitStation&>(station);
    circuit.tabs()->showPage(circuit.pictures());
    while (circuit.pictures()->computing()) QApplication::processEvents(QEventLoop::AllEvents, 20);
}

StationInfo circuit_station() {
    return {QStringLiteral("circuit"),
            QObject::tr("Circuit"),
            [](Session& s) { return new CircuitStation(s); },
            {{QStringLiteral("circuit"), QStringLiteral("herbarium-ring"), half_full, false, false},
             {QStringLiteral("time"), QStringLiteral("shelf-strip"), recorded(4e-3), true, false},
             {QStringLiteral("harbour-diorama"), QStringLiteral("harbour-diorama"), roomy, true, false},
             {QStringLiteral("firefly-jar"), QStringLiteral("firefly-jar"), recorded(2e-4), false, false},
             {QStringLiteral("recipes"), QStringLiteral("harbour-beacon"), asked, false, false},
             {QStringLiteral("pictures"), QStringLiteral("tide-board"), drawn, false, false},
             {QStringLiteral("behaviour"), QStringLiteral("frost-guard"), told, false, false},
             {QStringLiteral("spread"), QStringLiteral("twin-blinker"), spread_out, false, false}}};
}

}  // namespace elkit
