// The stations of the bench, in the order the work goes: one line each.
#include "app/stations/batch/batch_station.hpp"
#include "app/stations/board/board_station.hpp"
#include "app/stations/brief/brief_station.hpp"
#include "app/stations/build/build_station.hpp"
#include "app/stations/circuit/circuit_station.hpp"
#include "app/stations/light/light_station.hpp"
#include "app/stations/power/power_station.hpp"
#include "app/stations/trial/trial_station.hpp"

namespace elkit {

const std::vector<StationInfo>& stations() {
    static const std::vector<StationInfo> all{
        brief_station(), light_station(), circuit_station(), power_station(),
        trial_station(), board_station(), build_station(),   batch_station(),
    };
    return all;
}

}  // namespace elkit
