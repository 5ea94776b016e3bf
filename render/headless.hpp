#pragma once
#include <memory>

class QGuiApplication;

namespace elkit {

/// What painting needs in a program that shows no window: Qt without a display, and the fonts. One for each
/// program, as long as it paints. Qt's own messages are dropped: stderr is for the program's errors.
class Headless {
  public:
    Headless();
    ~Headless();
    Headless(const Headless&) = delete;
    Headless& operator=(const Headless&) = delete;

  private:
    std::unique_ptr<QGuiApplication> application_;
};

}  // namespace elkit
