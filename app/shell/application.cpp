#include "app/shell/application.hpp"

#include <QEvent>
#include <QLabel>
#include <QMetaEnum>
#include <QPointer>
#include <cstdio>

#include "app/shell/main_window.hpp"
#include "quantity/result.hpp"

namespace elkit {
namespace {

/// "MouseButtonRelease in QPushButton Save".
std::string doing(const QObject& receiver, QEvent::Type type) {
    const char* name = QMetaEnum::fromType<QEvent::Type>().valueToKey(type);
    return (QString::fromLatin1(name ? name : "an event") + QStringLiteral(" in ") +
            QLatin1String(receiver.metaObject()->className()) + QLatin1Char(' ') + receiver.objectName())
        .trimmed()
        .toStdString();
}

MainWindow* window_in_front() {
    if (auto* window = qobject_cast<MainWindow*>(QApplication::activeWindow())) return window;
    for (QWidget* widget : QApplication::topLevelWidgets())
        if (auto* window = qobject_cast<MainWindow*>(widget)) return window;
    return nullptr;
}

void tell(const Error& error) {
    std::fprintf(stderr, "elkit: %s\n", error.text().c_str());
    if (MainWindow* window = window_in_front())
        window->session().reportError(QString::fromStdString(error.text()));
}

}  // namespace

bool Application::notify(QObject* receiver, QEvent* event) {
    const QEvent::Type type = event->type();
    const QPointer<QObject> still(receiver);
    // what a label shows may be a stranger's: it is text, and never opens a picture or a link
    if (type == QEvent::Polish)
        if (auto* label = qobject_cast<QLabel*>(receiver); label && label->textFormat() == Qt::AutoText)
            label->setTextFormat(Qt::PlainText);
    try {
        return QApplication::notify(receiver, event);
    } catch (const std::exception& e) {
        try {
            tell(program_error(still ? doing(*still, type) : "an event", e));
        } catch (...) {  // not even memory for the words is left
            std::fputs("elkit: failed\n", stderr);
        }
    }
    return false;
}

}  // namespace elkit
