#pragma once
#include <string>

#include "engine/transient.hpp"
#include "formats/csv.hpp"

namespace elkit {

/// A recording as a table: time_s and one column for each trace, its unit in the heading.
CsvTable recording_csv(const Recording& recording);

/// A recording as a value change dump (IEEE 1364) with real values, a picosecond a tick (a microsecond from
/// 1e6 s on). The same design and run give the same text.
std::string recording_vcd(const Recording& recording, const std::string& title);

}  // namespace elkit
