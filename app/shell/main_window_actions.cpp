// What the window can do by name: menu, keys and the do-anything line all use these actions.
#include <QAction>
#include <QApplication>
#include <QFileDialog>
#include <QMenu>
#include <QPrintDialog>
#include <QPrinter>
#include <QSettings>
#include <QWhatsThis>

#include "app/drawer/drawer_window.hpp"
#include "app/shell/conditions_strip.hpp"
#include "app/shell/do_panel.hpp"
#include "app/shell/findings_panel.hpp"
#include "app/shell/guide.hpp"
#include "app/shell/main_window.hpp"
#include "app/shell/print.hpp"
#include "app/shell/situation_chips.hpp"
#include "app/shell/working_drawer.hpp"
#include "app/stations/station.hpp"
#include "app/theme/scale.hpp"
#include "app/theme/theme.hpp"
#include "design/demo.hpp"
#include "formats/escape.hpp"
#include "recipes/blocks.hpp"

namespace elkit {
namespace {

constexpr const char* design_filter = "Elkit designs (*.elkit.json);;All files (*)";

/// Paths as the system has them, which need not be UTF-8; the settings hold them percent-encoded.
std::vector<std::filesystem::path> recent_files() {
    std::vector<std::filesystem::path> files;
    for (const QString& name : QSettings().value(QStringLiteral("recent")).toStringList())
        files.emplace_back(QByteArray::fromPercentEncoding(name.toUtf8()).toStdString());
    return files;
}

QString for_settings(const std::filesystem::path& path) {
    const QByteArray bytes = QByteArray::fromStdString(path.string());
    return QString::fromLatin1(bytes.toPercentEncoding("/ "));
}

}  // namespace

QAction* MainWindow::add(const QString& id, const QString& text, const QKeySequence& keys,
                         const std::function<void()>& run) {
    auto* a = new QAction(text, this);
    a->setShortcut(keys);
    a->setObjectName(id);
    connect(a, &QAction::triggered, this, run);
    addAction(a);
    actions_[id] = a;
    return a;
}

QAction* MainWindow::action(const QString& id) const {
    const auto found = actions_.find(id);
    return found == actions_.end() ? nullptr : found->second;
}

void MainWindow::buildActions() {
    add(QStringLiteral("new"), tr("New light"), QKeySequence::New,
        [this] { fresh()->session().startNew(new_design()); });
    add(QStringLiteral("window"), tr("New window"), QKeySequence(Qt::CTRL | Qt::SHIFT | Qt::Key_N), [this] {
        auto* other = new MainWindow(session_.stock(), session_.sharedStore());
        other->session().startNew(new_design());
        other->show();
    });
    add(QStringLiteral("open"), tr("Open…"), QKeySequence::Open, [this] {
        const QString path = QFileDialog::getOpenFileName(this, tr("Open a design"), {}, tr(design_filter));
        if (!path.isEmpty()) fresh()->openFile(path.toStdString());
    });
    add(QStringLiteral("save"), tr("Save"), QKeySequence::Save, [this] { save(false); });
    add(QStringLiteral("save-as"), tr("Save as…"), QKeySequence(Qt::CTRL | Qt::SHIFT | Qt::Key_S),
        [this] { save(true); });
    add(QStringLiteral("undo"), tr("Undo"), QKeySequence::Undo, [this] { session_.undoStack().undo(); });
    add(QStringLiteral("redo"), tr("Redo"), {}, [this] {
        session_.undoStack().redo();
    })->setShortcuts({QKeySequence(Qt::CTRL | Qt::SHIFT | Qt::Key_Z), QKeySequence(Qt::CTRL | Qt::Key_Y)});
    add(QStringLiteral("stop"), tr("Stop computing"), QKeySequence(Qt::CTRL | Qt::Key_Period),
        [this] { session_.stopComputing(); });
    add(QStringLiteral("compute"), tr("Compute again"), QKeySequence(Qt::Key_F5),
        [this] { session_.computeAgain(); });
    add(QStringLiteral("print"), tr("Print the stave…"), QKeySequence(Qt::CTRL | Qt::SHIFT | Qt::Key_P),
        [this] {
            QPrinter printer(QPrinter::HighResolution);
            QPrintDialog dialog(&printer, this);
            if (dialog.exec() == QDialog::Accepted) print_stave(session_.staveForPaper(), printer);
        });
    for (const Export& e : exports())
        add(QString::fromStdString(e.id), tr("Write: %1…").arg(QString::fromStdString(e.label)),
            QKeySequence(QString::fromStdString(e.keys)), [this, &e] {
                const QString path = QFileDialog::getSaveFileName(
                    this, QString::fromStdString(e.label),
                    QString::fromStdString(file_name(session_.design().name) + e.pattern.substr(1)),
                    QString::fromStdString(e.kind + " (" + e.pattern + ")"));
                if (!path.isEmpty()) writeExport(QString::fromStdString(e.id), path.toStdString());
            });
    add(QStringLiteral("kit"), tr("Write everything to a folder…"), QKeySequence(Qt::CTRL | Qt::Key_E),
        [this] {
            const QString folder = QFileDialog::getExistingDirectory(this, tr("Folder for the kit's files"));
            if (!folder.isEmpty()) writeKit(folder.toStdString());
        });
    add(QStringLiteral("theme"), tr("Light or dark"), QKeySequence(Qt::CTRL | Qt::Key_D), [] {
        apply_theme(!theme().dark);
        QSettings().setValue(QStringLiteral("dark"), theme().dark);
    });
    for (const int percent : interface_scales)
        add(QStringLiteral("scale-%1").arg(percent), tr("Interface at %1 %").arg(percent), {},
            [this, percent] {
                choose_interface_scale(percent);
                banner(tr("From the next start on, everything is shown at %1 %.").arg(percent));
            });
    add(QStringLiteral("situation-next"), tr("Next situation"), QKeySequence(Qt::Key_F7),
        [this] { strip_->chips().step(1); });
    add(QStringLiteral("situation-before"), tr("Situation before"), QKeySequence(Qt::SHIFT | Qt::Key_F7),
        [this] { strip_->chips().step(-1); });
    add(QStringLiteral("findings"), tr("Show or hide the findings"), QKeySequence(Qt::Key_F8),
        [this] { findings_->setFolded(!findings_->folded()); });
    add(QStringLiteral("working"), tr("Show or hide the working"), QKeySequence(Qt::Key_F9),
        [this] { working_->setVisible(!working_->isVisible()); });
    add(QStringLiteral("do"), tr("Do anything"), QKeySequence(Qt::CTRL | Qt::Key_K),
        [this] { do_panel_->open(); });
    add(QStringLiteral("drawer"), tr("The drawer: parts you own"),
        QKeySequence(Qt::CTRL | Qt::SHIFT | Qt::Key_D), [this] { openDrawer(); });
    add(QStringLiteral("owned"), tr("Only what I own"), QKeySequence(Qt::CTRL | Qt::SHIFT | Qt::Key_O),
        [this] { session_.setOwnedOnly(!session_.ownedOnly()); });
    add(QStringLiteral("guide"), tr("Guide"), QKeySequence(Qt::Key_F1), [this] { openGuide(); });
    add(QStringLiteral("what"), tr("What is this?"), QKeySequence(Qt::SHIFT | Qt::Key_F1),
        [] { QWhatsThis::enterWhatsThisMode(); });
    for (const Demo& demo : demos())
        add(QString::fromStdString("demo-" + demo.id), QString::fromStdString(demo.title), {},
            [this, id = QString::fromStdString(demo.id)] { openDemo(id); });
    add(QStringLiteral("close"), tr("Close"), QKeySequence::Close, [this] { close(); });
    add(QStringLiteral("quit"), tr("Quit"), QKeySequence::Quit, [] { QApplication::closeAllWindows(); });
    int number = 0;
    for (const StationInfo& info : stations())
        add(QStringLiteral("station-") + info.id, info.title,
            QKeySequence(Qt::CTRL | static_cast<Qt::Key>(Qt::Key_1 + number++)),
            [this, id = info.id] { showStation(id); });
    auto& undo = session_.undoStack();
    connect(&undo, &QUndoStack::undoTextChanged, this, [this](const QString& what) {
        action(QStringLiteral("undo"))->setText(what.isEmpty() ? tr("Undo") : tr("Undo: %1").arg(what));
    });
    connect(&undo, &QUndoStack::redoTextChanged, this, [this](const QString& what) {
        action(QStringLiteral("redo"))->setText(what.isEmpty() ? tr("Redo") : tr("Redo: %1").arg(what));
    });
    connect(&undo, &QUndoStack::canUndoChanged, action(QStringLiteral("undo")), &QAction::setEnabled);
    connect(&undo, &QUndoStack::canRedoChanged, action(QStringLiteral("redo")), &QAction::setEnabled);
    action(QStringLiteral("undo"))->setEnabled(false);
    action(QStringLiteral("redo"))->setEnabled(false);
}

DrawerWindow* MainWindow::openDrawer() {
    if (!drawer_) drawer_ = new DrawerWindow(session_.stock(), this);
    drawer_->show();
    drawer_->raise();
    drawer_->activateWindow();
    return drawer_;
}

void MainWindow::tellOfDrawer() {
    const QString& trouble = session_.stock()->trouble();
    setStanding(QStringLiteral("drawer"),
                trouble.isEmpty()
                    ? QString()
                    : tr("The drawer cannot be used, so no part counts as owned. %1").arg(trouble));
}

/// At what belongs to the station in view.
void MainWindow::openGuide() {
    if (!guide_) {
        std::vector<QAction*> list;
        for (const auto& [id, a] : actions_) list.push_back(a);
        guide_ = new Guide(list, this);
    }
    for (const StationInfo& info : stations())
        if (station(info.id)->isVisible()) return guide_->showHeading(QStringLiteral("stations"), info.title);
    guide_->showPage(QStringLiteral("first-gadget"));
}

/// The menu's groups; exports and demos add themselves.
void MainWindow::fillMenu(QMenu* menu) {
    const auto group = [&](std::initializer_list<const char*> ids) {
        for (const char* id : ids) menu->addAction(action(QLatin1String(id)));
    };
    group({"new", "open"});
    for (const Demo& demo : demos()) menu->addAction(action(QString::fromStdString("demo-" + demo.id)));
    menu->addSeparator();
    group({"save", "save-as"});
    menu->addSeparator();
    group({"undo", "redo"});
    menu->addSeparator();
    for (const Export& e : exports()) menu->addAction(action(QString::fromStdString(e.id)));
    group({"kit", "print"});
    menu->addSeparator();
    group({"drawer", "owned"});
    menu->addSeparator();
    group({"guide", "what"});
    menu->addSeparator();
    auto* scales = menu->addMenu(tr("Interface scale"));
    for (const int percent : interface_scales)
        scales->addAction(action(QStringLiteral("scale-%1").arg(percent)));
    group({"theme", "findings", "working", "do", "stop", "compute"});
    menu->addSeparator();
    group({"window", "close", "quit"});
}

void MainWindow::remember(const std::filesystem::path& path) {
    const auto name = std::filesystem::absolute(path);
    QStringList list{for_settings(name)};
    for (const auto& file : recent_files())
        if (file != name && list.size() < 8) list << for_settings(file);
    QSettings().setValue(QStringLiteral("recent"), list);
}

void MainWindow::fillRecent(QMenu* menu) {
    menu->clear();
    for (const auto& path : recent_files())
        menu->addAction(QString::fromStdString(path.string()).replace(QLatin1Char('&'), QLatin1String("&&")),
                        this, [this, path] { fresh()->openFile(path); });
    if (menu->isEmpty()) menu->addAction(tr("nothing yet"))->setEnabled(false);
}

void MainWindow::save(bool as) {
    std::filesystem::path path = session_.path();
    if (as || path.empty()) {
        const QString chosen = QFileDialog::getSaveFileName(
            this, tr("Save the design"),
            QString::fromStdString(file_name(session_.design().name)) + QStringLiteral(".elkit.json"),
            tr(design_filter));
        if (chosen.isEmpty()) return;
        path = chosen.toStdString();
    } else if (session_.changedOnDisk()) {
        return banner(tr("The file was changed on disk by something else since it was opened."),
                      {{tr("Overwrite it"), [this, path] { startSaving(path); }},
                       {tr("Save as…"), [this] { save(true); }},
                       {tr("Not now"), [] {}}});
    }
    startSaving(path);
}

}  // namespace elkit
