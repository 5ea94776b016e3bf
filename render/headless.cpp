#include "render/headless.hpp"

#include <QGuiApplication>

#include "render/fonts.hpp"

namespace elkit {

Headless::Headless() {
    qInstallMessageHandler([](QtMsgType, const QMessageLogContext&, const QString&) {});
    if (qEnvironmentVariableIsEmpty("QT_QPA_PLATFORM")) qputenv("QT_QPA_PLATFORM", "offscreen");
    static int argc = 1;  // Qt keeps a reference to both
    static char name[] = "elkit-cli";
    static char* argv[] = {name, nullptr};
    application_ = std::make_unique<QGuiApplication>(argc, argv);
    load_fonts();
}

Headless::~Headless() = default;

}  // namespace elkit
