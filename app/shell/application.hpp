#pragma once
#include <QApplication>

namespace elkit {

/// The application. An exception that gets out of the handling of an event becomes an error in the window in
/// front, with what was being done; the program and its designs go on. What was edited is kept by then
/// (app/shell/autosave.hpp). Labels and tool tips show text as it is, not as rich text, unless they ask for
/// that.
class Application : public QApplication {
  public:
    using QApplication::QApplication;
    bool notify(QObject* receiver, QEvent* event) override;
};

}  // namespace elkit
