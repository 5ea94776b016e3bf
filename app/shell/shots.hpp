#pragma once
#include <QString>
#include <memory>

#include "store/store.hpp"

namespace elkit {

class MainWindow;

/// Writes one PNG of each main view, from the demo designs, to `folder`; 0 on success. Uses a drawer of its
/// own, and what is in the store already.
int take_shots(const QString& folder, std::shared_ptr<Store> store = {});

/// Prints the time from process start to the first painted frame and the resident memory, then quits.
void report_start(MainWindow& window);

}  // namespace elkit
