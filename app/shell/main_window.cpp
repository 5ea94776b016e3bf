#include "app/shell/main_window.hpp"

#include <QAction>
#include <QCloseEvent>
#include <QFileDialog>
#include <QHBoxLayout>
#include <QLabel>
#include <QMenu>
#include <QMessageBox>
#include <QPushButton>
#include <QScreen>
#include <QScrollArea>
#include <QSettings>
#include <QToolButton>

#include "app/shell/conditions_strip.hpp"
#include "app/shell/do_panel.hpp"
#include "app/shell/findings_panel.hpp"
#include "app/shell/guide.hpp"
#include "app/shell/working_drawer.hpp"
#include "app/shell/workline.hpp"
#include "app/shell/writer.hpp"
#include "app/stations/station.hpp"
#include "app/theme/theme.hpp"
#include "app/widgets/card.hpp"
#include "design/clean.hpp"
#include "design/demo.hpp"
#include "design/file.hpp"
#include "recipes/blocks.hpp"
#include "render/export.hpp"

namespace elkit {
MainWindow::MainWindow(std::shared_ptr<Stock> stock, std::shared_ptr<Store> store)
    : session_(std::move(stock), std::move(store)) {
    setAttribute(Qt::WA_DeleteOnClose);
    setWindowIcon(QIcon(QStringLiteral(":/icons/elkit.svg")));
    setMinimumSize(QSize(px(1024), px(700)).boundedTo(screen()->availableSize()));
    resize(px(1280), px(800));
    answer_what_is_this();
    buildActions();
    buildFrame();
    connect(session_.stock().get(), &Stock::changed, this, &MainWindow::tellOfDrawer);
    tellOfDrawer();
    const auto title = [this] {
        setWindowTitle(QStringLiteral("%1[*] – Elkit").arg(QString::fromStdString(session_.design().name)));
        setWindowModified(session_.modified());
    };
    connect(&session_, &Session::changed, this, title);
    connect(&session_, &Session::designChanged, this, &MainWindow::dropOldNotice);
    connect(&session_, &Session::errorReported, this, [this](const QString& text) { banner(text); });
    connect(&session_, &Session::figureFocused, this, [this](const Figure& f) {
        working_->show_figure(f);
        working_->show();
    });
    connect(&session_, &Session::started, working_, [this] {
        working_->clear();
        working_->hide();  // until a number is chosen
    });
    connect(&session_, &Session::fileChangedOnDisk, this, [this] {
        banner(tr("The file was changed on disk by something else."),
               {{tr("Load it"),
                 [this] {
                     if (auto loaded = session_.reload(); !loaded) reported(loaded, {});
                 }},
                {tr("Keep mine"), [] {}}});
    });
    session_.startNew(new_design());
    for (const StationInfo& info : stations())
        if (info.opens) showStation(info.id);
    bench_->setFocusPolicy(Qt::ClickFocus);
    bench_->setFocus();
}

MainWindow::~MainWindow() {
    // the panels look at the session, and its undo stack speaks once more when it goes
    session_.undoStack().disconnect(this);
    session_.disconnect(this);
    delete centralWidget();
}

void MainWindow::buildFrame() {
    auto* root = new QWidget;
    root->setObjectName(QStringLiteral("bench"));
    setCentralWidget(root);
    auto* across = new QHBoxLayout(root);
    across->setContentsMargins(0, 0, 0, 0);
    across->setSpacing(0);
    for (const StationInfo& info : stations()) stations_[info.id] = info.make(session_);
    workline_ = new Workline(session_, stations_);
    across->addWidget(workline_);
    auto* right = new QVBoxLayout;
    right->setSpacing(0);
    across->addLayout(right, 1);
    strip_ = new ConditionsStrip(session_);
    right->addWidget(strip_);
    std::vector<ActionName> names;
    for (const StationInfo& info : stations())
        names.push_back({info.id.toStdString(), info.title.toStdString(), true});
    for (const auto& [id, a] : actions_)
        if (!id.startsWith(QLatin1String("station-")) && id != QLatin1String("do"))
            names.push_back({id.toStdString(), a->text().remove(QChar(0x2026)).toStdString()});
    do_panel_ = new DoPanel(session_, names, this);
    connect(strip_, &ConditionsStrip::doAsked, do_panel_, &DoPanel::open);
    right->addLayout(bannerRow());
    auto* middle = new QHBoxLayout;
    middle->setSpacing(0);
    right->addLayout(middle, 1);
    bench_ = new QStackedWidget;
    middle->addWidget(bench_, 1);
    findings_ = new FindingsPanel(session_);
    middle->addWidget(findings_);
    working_ = new WorkingDrawer;
    right->addWidget(working_);
    fillBench();
    connect(workline_, &Workline::chosen, this, &MainWindow::showStation);
    connect(do_panel_, &DoPanel::stationAsked, this, &MainWindow::showStation);
    connect(do_panel_, &DoPanel::actionAsked, this, [this](const QString& id) {
        if (QAction* a = action(id)) a->trigger();
    });
    connect(do_panel_, &DoPanel::showAsked, this, [this](const QString& ref) {
        showStation(QStringLiteral("circuit"));
        if (Station* s = station(QStringLiteral("circuit"))) s->focusRef(ref);
    });
    connect(findings_, &FindingsPanel::linkFollowed, this, [this](const QString& id, const QString& ref) {
        showStation(id);
        if (Station* s = station(id)) s->focusRef(ref);
    });
    addMenuButton();
}

/// A strip across the bench that says something in words; hidden while it has nothing to say.
static std::pair<QFrame*, QLabel*> strip() {
    auto* frame = new QFrame;
    frame->setObjectName(QStringLiteral("banner"));
    auto* row = new QHBoxLayout(frame);
    row->setContentsMargins(14, 6, 8, 6);
    QLabel* text = label({}, "bold");
    text->setWordWrap(true);
    row->addWidget(text, 1);
    frame->hide();
    return {frame, text};
}

QLayout* MainWindow::bannerRow() {
    std::tie(banner_, banner_text_) = strip();
    banner_buttons_ = new QHBoxLayout;
    static_cast<QHBoxLayout*>(banner_->layout())->addLayout(banner_buttons_);
    std::tie(standing_frame_, standing_text_) = strip();
    connect(&session_, &Session::keepingChanged, this,
            [this](const QString& trouble) { setStanding(QStringLiteral("keeping"), trouble); });
    auto* margin = new QVBoxLayout;
    margin->setContentsMargins(22, 0, 14, 0);
    margin->addWidget(standing_frame_);
    margin->addWidget(banner_);
    return margin;
}

void MainWindow::fillBench() {
    for (const StationInfo& info : stations()) {
        Station* station = stations_.at(info.id);
        auto* scroll = new QScrollArea;
        scroll->setFrameShape(QFrame::NoFrame);
        scroll->setWidgetResizable(true);
        scroll->setWidget(station);
        scroll->setFocusPolicy(Qt::NoFocus);
        bench_->addWidget(scroll);
        connect(station, &Station::actionAsked, this, [this](const QString& id) { action(id)->trigger(); });
    }
}

void MainWindow::addMenuButton() {
    auto* slot_row = new QHBoxLayout(workline_->menuSlot());
    slot_row->setContentsMargins(0, 0, 0, 0);
    slot_row->setSpacing(0);
    auto* menu_button = new QToolButton;
    menu_button->setIcon(QIcon(QStringLiteral(":/icons/menu.svg")));
    menu_button->setAccessibleName(tr("Menu"));
    menu_button->setToolTip(tr("Files and actions (F10)"));
    menu_button->setShortcut(QKeySequence(Qt::Key_F10));
    menu_button->setPopupMode(QToolButton::InstantPopup);
    menu_button->setStyleSheet(QStringLiteral("QToolButton::menu-indicator { image: none; }"));
    auto* menu = new QMenu(menu_button);
    fillMenu(menu);
    auto* recent = new QMenu(tr("Open recent"), menu);
    menu->insertMenu(action(QString::fromStdString("demo-" + demos().front().id)), recent);
    connect(recent, &QMenu::aboutToShow, this, [this, recent] { fillRecent(recent); });
    menu_button->setMenu(menu);
    slot_row->addWidget(menu_button);
}

void MainWindow::showStation(const QString& id) {
    Station* s = station(id);
    if (!s) return;
    for (int i = 0; i < bench_->count(); ++i)
        if (bench_->widget(i)->isAncestorOf(s)) bench_->setCurrentIndex(i);
    workline_->setCurrent(id);
    dropOldNotice();
}

Station* MainWindow::station(const QString& id) const {
    const auto found = stations_.find(id);
    return found == stations_.end() ? nullptr : found->second;
}

QString MainWindow::bannerText() const {
    return banner_->isVisibleTo(this) ? banner_text_->text() : QString();
}

void MainWindow::banner(const QString& text, const Choices& choices) {
    banner_text_->setText(text);
    while (QLayoutItem* item = banner_buttons_->takeAt(0)) {
        item->widget()->hide();
        item->widget()->deleteLater();
        delete item;
    }
    const auto button = [this](const QString& name, const std::function<void()>& run) {
        auto* b = new QPushButton(name);
        connect(b, &QPushButton::clicked, this, [this, run] {
            banner_->hide();
            run();
        });
        banner_buttons_->addWidget(b);
    };
    for (const auto& [name, run] : choices) button(name, run);
    if (choices.empty()) button(tr("OK"), [] {});
    banner_asks_ = !choices.empty();
    banner_since_.start();
    banner_->show();
}

/// What only tells something goes by itself when the work goes on.
void MainWindow::dropOldNotice() {
    constexpr int to_read = 4000;  // ms
    if (!banner_asks_ && banner_->isVisible() && banner_since_.elapsed() > to_read) banner_->hide();
}

/// A window for another design: this one if nothing would be lost in it.
MainWindow* MainWindow::fresh() {
    if (!session_.modified()) return this;
    auto* other = new MainWindow(session_.stock(), session_.sharedStore());
    other->show();
    return other;
}

bool MainWindow::openFile(const std::filesystem::path& path) {
    if (auto opened = session_.open(path); !opened) {
        banner(QString::fromStdString(opened.error().text()), waysToOpen(path));
        return false;
    }
    banner_->hide();
    remember(path);
    offerUnsaved(path);
    return true;
}

/// What else can be done with a file that does not read: only its names may be wrong.
MainWindow::Choices MainWindow::waysToOpen(const std::filesystem::path& path) {
    const auto text = read_file(path);
    const auto cleaned = text ? cleaned_design(text.value()) : Result<Cleaned>(text.error());
    if (!cleaned) return {};
    return {{tr("Open a cleaned copy"),
             [this, cleaned = cleaned.value()] {
                 MainWindow* window = fresh();
                 window->session().startNew(cleaned.design);
                 QStringList changes;
                 for (const std::string& change : cleaned.changes) changes << QString::fromStdString(change);
                 window->banner(tr("A copy with clean names, not saved yet: %1")
                                    .arg(changes.mid(0, 6).join(QStringLiteral("; "))));
             }},
            {tr("Not now"), [] {}}};
}

void MainWindow::openDemo(const QString& name) {
    const Demo* demo = find_demo(name.toStdString());
    auto design = read_design(demo ? demo->text : demos().front().text);
    if (design) fresh()->session().startNew(design.value());
}

void MainWindow::offerUnsaved(const std::filesystem::path& of) {
    left_behind_ = Autosave::left_behind();
    if (!of.empty()) {
        std::error_code code;
        std::erase_if(left_behind_.work, [&](const Unsaved& u) {
            return u.kept.file.empty() || !std::filesystem::equivalent(u.kept.file, of, code);
        });
    }
    askAboutNext();
}

/// One question at a time: work to open first, then copies that cannot be read.
void MainWindow::askAboutNext() {
    if (!left_behind_.work.empty()) {
        const Unsaved unsaved = std::move(left_behind_.work.front());
        left_behind_.work.erase(left_behind_.work.begin());
        QString text = tr("Unsaved work on \"%1\" was left behind.")
                           .arg(QString::fromStdString(unsaved.kept.last->name));
        if (!unsaved.kept.lost.empty())
            text += tr(" Not all of it can be read (%1).").arg(QString::fromStdString(unsaved.kept.lost));
        banner(text, {{tr("Open it"),
                       [this, unsaved] {
                           fresh()->session().recover(unsaved);
                           askAboutNext();
                       }},
                      {tr("Discard it"),
                       [this, unsaved] {
                           Autosave::discard(unsaved);
                           askAboutNext();
                       }},
                      {tr("Later"), [this] { askAboutNext(); }}});
    } else if (!left_behind_.damaged.empty()) {
        const SetAside damaged = std::move(left_behind_.damaged.front());
        left_behind_.damaged.erase(left_behind_.damaged.begin());
        offerFile(damaged);
    }
}

void MainWindow::offerFile(const SetAside& damaged) {
    banner(tr("A copy of unsaved work cannot be read (%1). It is set aside as %2")
               .arg(QString::fromStdString(damaged.reason), QString::fromStdString(damaged.file.string())),
           {{tr("Keep it as…"),
             [this, damaged] {
                 const QString chosen =
                     QFileDialog::getSaveFileName(this, tr("Keep the damaged copy"),
                                                  QString::fromStdString(damaged.file.filename().string()));
                 if (!chosen.isEmpty()) {
                     auto text = read_file(damaged.file, largest_kept);
                     reported(text ? write_file(chosen.toStdString(), text.value()) : text.error(),
                              tr("The copy is kept as %1").arg(chosen));
                 }
                 askAboutNext();
             }},
            {tr("OK"), [this] { askAboutNext(); }}});
}

void MainWindow::setStanding(const QString& topic, const QString& text) {
    standing_[topic] = text;
    QStringList lines;
    for (const auto& [about, line] : standing_)
        if (!line.isEmpty()) lines << line;
    standing_text_->setText(lines.join(QLatin1Char('\n')));
    standing_frame_->setVisible(!lines.isEmpty());
    fitStanding();
}

/// A wrapped text is given less room than it needs where the window is short; this one is to be read.
void MainWindow::fitStanding() {
    constexpr int margins = 80;
    const int across = std::max(px(300), width() - workline_->width() - margins);
    standing_text_->setMinimumHeight(std::max(0, standing_text_->heightForWidth(across)));
}

void MainWindow::resizeEvent(QResizeEvent* event) {
    constexpr int both = 1200;  // room for the bench and the findings
    findings_->setShortOfRoom(event->size().width() < px(both));
    QMainWindow::resizeEvent(event);
    fitStanding();
}

QString MainWindow::standingText() const {
    return standing_frame_->isVisibleTo(this) ? standing_text_->text() : QString();
}

void MainWindow::reported(const Result<void>& result, const QString& success) {
    banner(result ? success : QString::fromStdString(result.error().text()));
}

void MainWindow::startSaving(const std::filesystem::path& path) {
    session_.save(path, [this, path](const Result<void>& saved) {
        saved_ = saved.has_value();
        if (!saved) return reported(saved, {});
        remember(path);
        banner_->hide();
    });
}

bool MainWindow::saveTo(const std::filesystem::path& path) {
    startSaving(path);
    keeper().wait();
    return saved_;
}

void MainWindow::writeExport(const QString& id, const std::filesystem::path& path) {
    const Export* what = find_export(id.toStdString());
    if (!what) return;
    work(
        [what, path](const Ask& ask, const KitSource& kit) { return what->write(ask, kit, path); },
        tr("%1 written: %2").arg(QString::fromStdString(what->label), QString::fromStdString(path.string())));
}

void MainWindow::writeKit(const std::filesystem::path& folder) {
    work(
        [folder](const Ask& ask, const KitSource& kit) -> Result<void> {
            const auto files = export_kit(ask, kit, folder);
            if (!files) return files.error();
            if (files.value().refused.empty()) return success();
            const auto& [what, why] = files.value().refused.front();
            Error e = why;
            e.found = tr("%1 files are written; not %2: %3")
                          .arg(files.value().written.size())
                          .arg(QString::fromStdString(what), QString::fromStdString(why.found))
                          .toStdString();
            return e;
        },
        tr("The kit's files are written to %1").arg(QString::fromStdString(folder.string())));
}

/// Writes off the interface's thread, from the store; says how it went. It ends its work also if the window
/// is closed, but not if it is told to stop.
void MainWindow::work(std::function<Result<void>(const Ask&, const KitSource&)> write, const QString& done) {
    const auto stop = std::make_shared<std::atomic<bool>>(false);
    banner(tr("writing …"), {{tr("Stop"), [stop] { *stop = true; }}});
    exporter().run(
        [write = std::move(write), stop, store = session_.sharedStore(),
         kit = KitSource{session_.design(), session_.conditions(), session_.drawer()}]() -> Result<void> {
            try {
                const StopScope scope(stop.get());
                return write(Ask(*store), kit);
            } catch (const Stopped&) {
                return Error{Fault::usage, "", tr("stopped before it was written").toStdString(), ""};
            }
        },
        this, [this, done](const Result<void>& result) { reported(result, done); });
}

bool MainWindow::mayReplace() {
    keeper().wait();  // what is being saved is not unsaved
    if (!session_.modified()) return session_.forgetUnsaved(), true;
    const auto answer = QMessageBox::question(
        this, tr("Unsaved work"),
        tr("Save the changes to \"%1\"?").arg(QString::fromStdString(session_.design().name)),
        QMessageBox::Save | QMessageBox::Discard | QMessageBox::Cancel);
    if (answer == QMessageBox::Save) save(false), keeper().wait();
    if (answer == QMessageBox::Discard) session_.forgetUnsaved();
    return answer == QMessageBox::Discard || (answer == QMessageBox::Save && !session_.modified());
}

void MainWindow::closeEvent(QCloseEvent* event) {
    if (mayReplace())
        event->accept();
    else
        event->ignore();
}

}  // namespace elkit
