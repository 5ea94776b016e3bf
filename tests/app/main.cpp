#include <gtest/gtest.h>

#include <QApplication>
#include <QStandardPaths>
#include <QTemporaryDir>
#include <QTest>
#include <csignal>

#include "app/shell/application.hpp"
#include "app/shell/autosave.hpp"
#include "app/shell/do_panel.hpp"
#include "app/shell/main_window.hpp"
#include "app/theme/theme.hpp"
#include "render/fonts.hpp"

namespace {

/// Plays a user whose program is killed: opens a file, edits by keyboard, and dies.
int be_killed(const char* file) {
    auto* window = new elkit::MainWindow(nullptr);
    window->openFile(file);
    window->show();
    QTest::keyClicks(window->doPanel()->line(), QStringLiteral("r1 = 100"));
    QTest::keyClick(window->doPanel()->line(), Qt::Key_Return);
    elkit::Autosave::wait();
    return std::raise(SIGKILL);
}

}  // namespace

int main(int argc, char** argv) {
    qputenv("QT_QPA_PLATFORM", "offscreen");
    const bool child = argc == 3 && QByteArray(argv[1]) == "--be-killed";
    QTemporaryDir home;
    if (!child)  // nothing of the user's own is touched
        for (const char* variable : {"XDG_STATE_HOME", "XDG_DATA_HOME", "XDG_CONFIG_HOME"})
            qputenv(variable, home.path().toUtf8() + "/" + variable);
    elkit::Application application(argc, argv);
    QApplication::setApplicationName(QStringLiteral("elkit"));
    QApplication::setOrganizationName(QStringLiteral("elkit"));
    elkit::load_fonts();
    elkit::apply_theme(false);
    if (child) return be_killed(argv[2]);
    ::testing::InitGoogleTest(&argc, argv);
    return RUN_ALL_TESTS();
}
