#include <QApplication>
#include <QCommandLineParser>
#include <QSettings>
#include <QTimer>
#include <cstdio>

#include "app/shell/application.hpp"
#include "app/shell/autosave.hpp"
#include "app/shell/main_window.hpp"
#include "app/shell/shots.hpp"
#include "app/shell/writer.hpp"
#include "app/theme/scale.hpp"
#include "app/theme/theme.hpp"
#include "command/own_parts.hpp"
#include "design/demo.hpp"
#include "render/fonts.hpp"

/// Every demo by name.
static QString demo_help() {
    QStringList names;
    for (const elkit::Demo& demo : elkit::demos()) names << QString::fromStdString(demo.id);
    return QStringLiteral("open a demo design: ") + names.join(QStringLiteral(", "));
}

/// Without a display only what shows no window runs. False with a word about it otherwise.
static bool display_found(int argc, char** argv) {
    for (const char* variable : {"DISPLAY", "WAYLAND_DISPLAY", "QT_QPA_PLATFORM"})
        if (!qEnvironmentVariableIsEmpty(variable)) return true;
    for (int k = 1; k < argc; ++k)
        for (const char* quiet : {"-h", "--help", "--help-all", "-v", "--version", "--shots", "--time-start"})
            if (QByteArray(argv[k]).startsWith(quiet)) return qputenv("QT_QPA_PLATFORM", "offscreen");
    std::fputs("elkit: there is no display (DISPLAY and WAYLAND_DISPLAY are not set); elkit-cli needs none\n",
               stderr);
    return false;
}

/// The files among the arguments as the system gave them: Qt's own list has lost what is not UTF-8.
static std::vector<std::filesystem::path> files_of(const QStringList& positional, int argc, char** argv) {
    std::vector<std::filesystem::path> files;
    int k = 1;
    for (const QString& file : positional)
        for (; k < argc; ++k)
            if (QString::fromLocal8Bit(argv[k]) == file) {
                files.emplace_back(argv[k++]);
                break;
            }
    return files;
}

int main(int argc, char** argv) {
    if (!display_found(argc, argv)) return 3;
    elkit::take_interface_scale();
    elkit::Application application(argc, argv);
    QApplication::setApplicationName(QStringLiteral("elkit"));
    QApplication::setOrganizationName(QStringLiteral("elkit"));
    QApplication::setApplicationVersion(QStringLiteral("0.1.0"));
    QApplication::setDesktopFileName(QStringLiteral("elkit"));
    QCommandLineParser parser;
    parser.setApplicationDescription(QStringLiteral("Bench companion for small battery-powered LED gadgets"));
    parser.addHelpOption();
    parser.addVersionOption();
    parser.addPositionalArgument(QStringLiteral("files"), QStringLiteral("design files to open"),
                                 QStringLiteral("[files…]"));
    parser.addOptions(
        {{QStringLiteral("demo"), demo_help(), QStringLiteral("name")},
         {QStringLiteral("shots"), QStringLiteral("write a picture of each view to this folder and end"),
          QStringLiteral("folder")},
         {QStringLiteral("time-start"),
          QStringLiteral("print the milliseconds to the first painted frame and memory, and end")}});
    parser.process(application);
    elkit::load_fonts();
    elkit::apply_theme(QSettings().value(QStringLiteral("dark"), false).toBool());
    if (parser.isSet(QStringLiteral("shots")))
        return elkit::take_shots(parser.value(QStringLiteral("shots")));
    const auto own = elkit::take_up_own_parts_of(elkit::own_parts_file());
    const QString no_own = own ? QString() : QString::fromStdString(own.error().text());
    const auto stock = std::make_shared<elkit::Stock>(elkit::data_folder() / "drawer.sqlite");
    const auto make_window = [&] {
        auto* made = new elkit::MainWindow(stock);
        made->setStanding(QStringLiteral("own parts"), no_own);
        return made;
    };
    auto* window = make_window();
    if (parser.isSet(QStringLiteral("demo"))) window->openDemo(parser.value(QStringLiteral("demo")));
    const auto files = files_of(parser.positionalArguments(), argc, argv);
    for (std::size_t k = 0; k < files.size(); ++k) {
        auto* target = k == 0 ? window : make_window();
        target->openFile(files[k]);
        if (target != window) target->show();
    }
    window->show();
    if (parser.isSet(QStringLiteral("time-start")))
        elkit::report_start(*window);
    else
        QTimer::singleShot(0, window, [window] { window->offerUnsaved(); });
    const int code = QApplication::exec();
    elkit::exporter().wait();
    elkit::keeper().wait();
    elkit::Autosave::wait();
    return code;
}
