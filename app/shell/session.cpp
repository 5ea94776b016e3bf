#include "app/shell/session.hpp"

#include <QCoreApplication>
#include <QThreadPool>
#include <QUndoCommand>

#include "design/file.hpp"

namespace elkit {

/// An undoable step from one design value to the next.
class DesignStep : public QUndoCommand {
  public:
    DesignStep(Session& session, std::shared_ptr<const Design> before, std::shared_ptr<const Design> after,
               const QString& what)
        : QUndoCommand(what), session_(session), before_(std::move(before)), after_(std::move(after)) {}
    void undo() override { session_.adopt(before_); }
    void redo() override { session_.adopt(after_); }

  private:
    Session& session_;
    std::shared_ptr<const Design> before_, after_;
};

/// An undoable change of the drawer; nothing in place of an item that was not known before.
class DrawerStep : public QUndoCommand {
  public:
    DrawerStep(Session& session, std::optional<DrawerItem> before, DrawerItem after)
        : QUndoCommand(QObject::tr("change the drawer")),
          session_(session),
          before_(std::move(before)),
          after_(std::move(after)) {}
    void undo() override { session_.adoptDrawerItem(after_.key, before_); }
    void redo() override { session_.adoptDrawerItem(after_.key, after_); }

  private:
    Session& session_;
    std::optional<DrawerItem> before_;
    DrawerItem after_;
};

Session::Session(std::shared_ptr<Drawer> drawer, QObject* parent)
    : QObject(parent),
      drawer_(std::move(drawer)),
      design_(std::make_shared<Design>()),
      generation_(std::make_shared<std::atomic<int>>(0)) {
    drawer_items_ = demo_stock();
    if (drawer_)
        if (auto items = drawer_->items()) drawer_items_ = std::move(items).value();
    deep_timer_.setSingleShot(true);
    deep_timer_.setInterval(60);
    connect(&deep_timer_, &QTimer::timeout, this, &Session::startDeep);
    connect(&watcher_, &QFileSystemWatcher::fileChanged, this, [this] {
        if (changedOnDisk()) emit fileChangedOnDisk();
    });
}

Session::~Session() { ++*generation_; }

bool Session::modified() const { return !(*design_ == clean_); }

void Session::edit(Design next, const QString& what) {
    if (next == *design_) return;
    undo_.push(new DesignStep(*this, design_, std::make_shared<Design>(std::move(next)), what));
}

void Session::adopt(std::shared_ptr<const Design> design) {
    const bool circuit_changed = !(design->circuit == design_->circuit);
    design_ = std::move(design);
    if (circuit_changed || stave_layout_.rows.empty())
        stave_layout_ = stave_layout(design_->circuit, &stave_layout_);
    if (modified())
        autosave_.keep(*design_, path_);
    else
        autosave_.forget();
    outdateDeep();
    refreshLive();
    emit designChanged();
}

/// What is on show belongs to an earlier state: computes anew once the edits pause.
void Session::outdateDeep() {
    pending_ = true, stopped_ = false;
    ++*generation_;
    deep_timer_.start();
}

void Session::setConditions(const Conditions& conditions) {
    if (conditions == conditions_) return;
    // How full the cells are, and what is switched on, matters to the long run only where a circuit moves or
    // latches; the rest of the deep results take cells from fresh to flat with everything on.
    Conditions same = conditions;
    same.battery = conditions_.battery, same.switches = conditions_.switches;
    const bool world = !(same == conditions_);
    conditions_ = conditions;
    if (world || may_move(design_->circuit)) outdateDeep();
    refreshLive();
}

void Session::setStaveView(const StaveView& view) {
    stave_view_ = view;
    refreshLive();
}

void Session::putDrawerItem(const DrawerItem& item) {
    if (!drawer_)
        return emit errorReported(tr("The drawer could not be opened; its stock cannot be changed."));
    const DrawerItem* known = find_item(drawer_items_, item.key);
    if (known && *known == item) return;
    const auto before = known ? std::optional(*known) : std::nullopt;
    if (auto put = drawer_->put(item); !put)  // a bad item leaves no step behind
        return emit errorReported(QString::fromStdString(put.error().text()));
    undo_.push(new DrawerStep(*this, before, item));
}

void Session::adoptDrawerItem(const std::string& key, const std::optional<DrawerItem>& item) {
    if (auto done = item ? drawer_->put(*item) : drawer_->remove(key); !done)
        return emit errorReported(QString::fromStdString(done.error().text()));
    if (auto items = drawer_->items()) drawer_items_ = std::move(items).value();
    outdateDeep();
    refreshLive();
}

Drawing Session::staveAt(const OperatingPoint& readings) const {
    StaveView view = stave_view_;
    view.glow = glow_of(*design_, readings);
    return draw_stave(design_->circuit, stave_layout_, readings, conditions_, view);
}

void Session::refreshLive() {
    live_ = live_survey(*design_, conditions_, stave_layout_, owned_resistors(drawer_items_), stave_view_);
    refreshFindings();
    emit liveChanged();
}

void Session::refreshFindings() { findings_ = review({*design_, conditions_, live_, deep_.get()}); }

void Session::startDeep() {
    const int generation = ++*generation_;
    const auto current = generation_;
    QThreadPool::globalInstance()->start(
        [this, generation, current, design = design_, conditions = conditions_, items = drawer_items_] {
            const auto go_on = [&](std::string_view stage, double fraction) {
                const QString words = QString::fromUtf8(stage.data(), static_cast<qsizetype>(stage.size()));
                QMetaObject::invokeMethod(qApp, [this, generation, current, words, fraction] {
                    if (current->load() == generation) setProgress(words, fraction);
                });
                return current->load() == generation;
            };
            auto deep = std::make_shared<DeepSurvey>(deep_survey(*design, conditions, items, go_on));
            if (!deep->complete || current->load() != generation) return;
            QMetaObject::invokeMethod(qApp, [this, generation, current, deep] {
                if (current->load() == generation)
                    deepArrived(generation, deep);  // a closed session has moved on
            });
        });
}

void Session::deepArrived(int, std::shared_ptr<DeepSurvey> deep) {
    deep_ = std::move(deep);
    ++stamp_;
    pending_ = stopped_ = false;
    refreshFindings();
    emit deepChanged();
    setProgress({}, 1);
}

void Session::setProgress(const QString& stage, double fraction) {
    stage_ = stage, fraction_ = fraction;
    emit progressChanged();
}

void Session::stopDeep() {
    if (!pending_) return;
    deep_timer_.stop();
    ++*generation_;
    stopped_ = true;
    emit progressChanged();
}

void Session::computeAgain() {
    outdateDeep();
    setProgress(tr("starting"), 0);
}

void Session::waitForDeep() {
    if (!pending_) return;
    deep_timer_.stop();
    ++*generation_;
    deepArrived(*generation_,
                std::make_shared<DeepSurvey>(deep_survey(*design_, conditions_, drawer_items_)));
}

void Session::startNew(const Design& design) {
    clean_ = design;
    setPath({}, {});
    conditions_ = {};
    undo_.clear();
    stave_layout_ = {};
    adopt(std::make_shared<Design>(design));
}

void Session::setPath(const std::filesystem::path& path, std::string text) {
    if (!watcher_.files().isEmpty()) watcher_.removePaths(watcher_.files());
    path_ = path;
    file_text_ = std::move(text);
    if (!path_.empty()) watcher_.addPath(QString::fromStdString(path_.string()));
    emit pathChanged();
}

Result<void> Session::open(const std::filesystem::path& path) {
    auto text = read_file(path);
    if (!text) return text.error();
    auto design = read_design(text.value());
    if (!design) {
        Error error = design.error();
        error.place = path.filename().string() + ", " + error.place;
        return error;
    }
    clean_ = design.value();
    setPath(path, std::move(text).value());
    conditions_ = {};
    undo_.clear();
    stave_layout_ = {};
    adopt(std::make_shared<Design>(std::move(design).value()));
    return success();
}

Result<void> Session::save(const std::filesystem::path& path) {
    // an unchanged design keeps its file byte by byte, also one written by hand
    const bool same = path == path_ && !modified() && !file_text_.empty();
    std::string text = same ? file_text_ : write_design(*design_);
    if (!watcher_.files().isEmpty()) watcher_.removePaths(watcher_.files());
    auto written = write_file(path, text);
    if (!written) {
        if (!path_.empty()) watcher_.addPath(QString::fromStdString(path_.string()));
        return written;
    }
    clean_ = *design_;
    autosave_.forget();
    setPath(path, std::move(text));
    emit liveChanged();
    return success();
}

bool Session::changedOnDisk() const {
    if (path_.empty()) return false;
    auto text = read_file(path_);
    return !text || text.value() != file_text_;
}

void Session::recover(const Unsaved& unsaved) {
    clean_ = {};
    std::string text;
    if (!unsaved.original.empty())
        if (auto read = read_file(unsaved.original)) {
            text = read.value();
            if (auto saved = read_design(text)) clean_ = std::move(saved).value();
        }
    setPath(text.empty() ? std::filesystem::path() : unsaved.original, text);
    conditions_ = {};
    undo_.clear();
    stave_layout_ = {};
    adopt(std::make_shared<Design>(unsaved.design));
    autosave_.flush();
    Autosave::discard(unsaved);
}

void Session::flushAutosave() {
    if (modified()) autosave_.flush();
}

}  // namespace elkit
