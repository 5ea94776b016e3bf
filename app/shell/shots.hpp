#pragma once
#include <QString>

namespace elkit {

class MainWindow;

/// Writes one PNG of each main view, from the demo designs, to `folder`; 0 on success. Uses a drawer of its
/// own.
int take_shots(const QString& folder);

/// Prints the time from process start to the first painted frame and the resident memory, then quits.
void report_start(MainWindow& window);

}  // namespace elkit
