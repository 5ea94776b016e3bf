#include "app/shell/session.hpp"

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
    if (circuit_changed || stave_layout_.rows.empty()) stave_layout_ = stave_layout(design_->circuit);
    if (modified())
        autosave_.keep(*design_, path_);
    else
        autosave_.forget();
    pending_ = true;
    ++*generation_;
    refreshLive();
    emit designChanged();
    deep_timer_.start();
}

void Session::setConditions(const Conditions& conditions) {
    if (conditions == conditions_) return;
    const bool temperature = conditions.celsius != conditions_.celsius;
    conditions_ = conditions;
    if (temperature) pending_ = true, ++*generation_, deep_timer_.start();
    refreshLive();
}

void Session::setStaveView(const StaveView& view) {
    stave_view_ = view;
    refreshLive();
}

void Session::putDrawerItem(const DrawerItem& item) {
    if (!drawer_) return;
    if (auto put = drawer_->put(item); !put) {
        emit errorReported(QString::fromStdString(put.error().text()));
        return;
    }
    if (auto items = drawer_->items()) drawer_items_ = std::move(items).value();
    pending_ = true;
    ++*generation_;
    refreshLive();
    deep_timer_.start();
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
            const auto outdated = [&] { return current->load() != generation; };
            auto deep = std::make_shared<DeepSurvey>(deep_survey(*design, conditions, items, outdated));
            if (outdated()) return;
            QMetaObject::invokeMethod(qApp, [this, generation, current, deep] {
                if (current->load() == generation)
                    deepArrived(generation, deep);  // a closed session has moved on
            });
        });
}

void Session::deepArrived(int, std::shared_ptr<DeepSurvey> deep) {
    deep_ = std::move(deep);
    ++stamp_;
    pending_ = false;
    refreshFindings();
    emit deepChanged();
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
    adopt(std::make_shared<Design>(unsaved.design));
    autosave_.flush();
    Autosave::discard(unsaved);
}

void Session::flushAutosave() {
    if (modified()) autosave_.flush();
}

}  // namespace elkit
