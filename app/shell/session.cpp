#include "app/shell/session.hpp"

#include <QCoreApplication>
#include <QElapsedTimer>
#include <QSettings>
#include <QUndoCommand>
#include <algorithm>
#include <utility>

#include "app/shell/writer.hpp"
#include "design/delta.hpp"
#include "design/file.hpp"

namespace elkit {

/// An undoable step from one design value to the next; it holds what changed, not whole designs.
class DesignStep : public QUndoCommand {
  public:
    /// `done`: the session has that design already.
    DesignStep(Session& session, const Design& before, const Design& after, const QString& what, bool done)
        : QUndoCommand(what),
          session_(session),
          back_(delta_between(after, before)),
          forth_(delta_between(before, after)),
          done_(done) {}
    void undo() override { move(back_, Move::undo); }
    void redo() override {
        if (!std::exchange(done_, false)) move(forth_, std::exchange(moved_, true) ? Move::redo : Move::edit);
    }

  private:
    void move(const DesignDelta& delta, Move how) {
        if (session_.replaying_) return;
        auto next = with_delta(session_.design(), delta);
        if (next)
            session_.adopt(std::make_shared<Design>(std::move(next).value()), text(), how);
        else
            session_.reportError(QString::fromStdString(next.error().text()));
    }
    Session& session_;
    DesignDelta back_, forth_;
    bool done_, moved_ = false;
};

// ms that a change may take with waiting for quick results, which then come in the same picture; and the
// least wait
constexpr int frame = 7, least_wait = 2;

Session::Session(std::shared_ptr<Stock> stock, std::shared_ptr<Store> store, QObject* parent)
    : QObject(parent),
      stock_(stock ? std::move(stock) : std::make_shared<Stock>()),
      design_(std::make_shared<Design>()),
      clean_(design_),
      owned_only_(QSettings().value(QStringLiteral("ownedOnly"), false).toBool()),
      autosave_([this](const Error* error) {
          emit keepingChanged(error ? tr("The latest changes cannot be kept safe: %1. Trying again.")
                                          .arg(QString::fromStdString(error->text()))
                                    : QString());
      }),
      store_(store ? std::move(store) : std::make_shared<Store>()) {
    connect(stock_.get(), &Stock::changed, this, [this] { contentChanged(false); });
    connect(stock_.get(), &Stock::failed, this, &Session::reportError);
    connect(&watcher_, &QFileSystemWatcher::fileChanged, this, [this] {
        if (changedOnDisk()) emit fileChangedOnDisk();
    });
    connect(&desk_, &Desk::arrived, this, [this] {
        takeLayout();
        refreshFindings();
        startLit();
        emit arrived();
        emit progressChanged();
    });
    connect(&desk_, &Desk::progressed, this, &Session::progressChanged);
}

Session::~Session() = default;

bool Session::modified() const { return !(*design_ == *clean_); }

void Session::edit(const Design& next, const QString& what) {
    if (next == *design_) return;
    // what no file can hold could not be kept or saved either
    if (auto sound = check_writable(delta_between(*design_, next)); !sound)
        return reportError(QString::fromStdString(sound.error().text()));
    undo_.push(new DesignStep(*this, *design_, next, what, false));
}

bool Session::edit(const Result<Design>& next, const QString& what) {
    if (!next) {
        reportError(QString::fromStdString(next.error().text()));
        return false;
    }
    edit(next.value(), what);
    return true;
}

void Session::adopt(std::shared_ptr<const Design> design, const QString& what, Move move) {
    autosave_.keep(path_, {design_, design, what.toStdString(), move});
    take(std::move(design));
}

void Session::take(std::shared_ptr<const Design> design) {
    if (!(design->circuit == *circuit_)) circuit_ = design->circuit;
    design_ = std::move(design);
    contentChanged(true);
}

/// Everyone asks again; what nobody asked for is dropped; what is quick comes in the same frame.
void Session::contentChanged(bool design_too) {
    QElapsedTimer since;
    since.start();
    desk_.resume();
    desk_.beginRound();
    takeLayout();
    refreshFindings();
    if (design_too) emit designChanged();
    emit changed();
    desk_.endRound();
    desk_.waitQuick(std::max(least_wait, frame - static_cast<int>(since.elapsed())));
    desk_.deliver();
    emit progressChanged();
}

/// The layout of the present circuit, once it is there; it keeps as much as it can of the one before.
void Session::takeLayout() {
    if (layout_of_ == circuit_.digest()) return;
    const auto shown = ask(StaveLayoutQuery{circuit_, layout_before_});
    if (!shown || !shown.current()) return;
    layout_ = layout_before_ = *shown;
    layout_of_ = circuit_.digest();
    layout_circuit_ = circuit_;
}

void Session::setConditions(const Conditions& conditions) {
    if (conditions == conditions_) return;
    placed_ = true;
    conditions_ = conditions;
    contentChanged(false);
}

std::vector<Situation> Session::situations() {
    if (!design_->situations.empty()) return design_->situations;
    std::vector<Situation> list;
    if (const auto found = ask(ProposalsQuery{circuit_}, Urgency::key_figure); found && found.current())
        for (const Placed& placed : *found) list.push_back(placed.situation);
    return list;
}

int Session::situation() {
    const auto seen = [&](Conditions c) {
        c = as_seen(*circuit_, c);
        c.battery = 1, c.as_set = false;
        return c;
    };
    const Conditions now = seen(conditions_);
    const std::vector<Situation> all = situations();
    for (std::size_t k = 0; k < all.size(); ++k)
        if (seen(all[k].under(conditions_)) == now) return static_cast<int>(k);
    return -1;
}

void Session::choose(const Situation& situation) { setConditions(situation.under(conditions_)); }

void Session::resetConditions() {
    setConditions({});
    placed_ = false;
    startLit();
}

/// A design is first seen as it gives light: where that takes a press or the dark, so it is set.
void Session::startLit() {
    if (placed_) return;
    const std::vector<Situation> all = situations();
    if (all.empty()) return;
    placed_ = true;
    if (conditions_ == Conditions{} && situation() != 0) choose(all.front());
}

void Session::setStaveView(const StaveView& view) {
    stave_view_ = view;
    emit viewChanged();
}

void Session::setOwnedOnly(bool only) {
    if (owned_only_ == only) return;
    owned_only_ = only;
    QSettings().setValue(QStringLiteral("ownedOnly"), only);
    emit changed();
    if (only && resistorsToChooseFrom().empty())
        reportError(tr("The drawer has no resistor in stock: values are offered as if all were owned."));
}

void Session::changeDrawer(const std::vector<DrawerChange>& changes, const QString& what) {
    stock_->edit(undo_, changes, what);
}

void Session::putDrawerItem(const DrawerItem& item) {
    changeDrawer({{item.key, item}}, tr("change the drawer"));
}

Drawing Session::drawn(StaveView view, const OperatingPoint& readings) const {
    if (layout_.rows.empty()) return {};
    view.glow = glow_of(*layout_circuit_, readings);
    return draw_stave(*layout_circuit_, layout_, readings, conditions_, view);
}

Drawing Session::staveAt(const OperatingPoint& readings) const { return drawn(stave_view_, readings); }

Drawing Session::staveForPaper() {
    const auto now = ask(restQuery(), Urgency::in_view, "now");
    if (!now) return {};
    StaveView view;
    view.true_height = stave_view_.true_height, view.unfolded = stave_view_.unfolded;
    return drawn(view, *now);
}

Shown<Drawing> Session::stave() {
    const auto now = ask(restQuery(), Urgency::in_view, "now");
    const bool current = now.current() && layout_of_ == circuit_.digest();
    OperatingPoint readings;
    if (now) readings = *now;
    if (!current && layout_of_ != circuit_.digest() && readings.nets.empty())
        return {Answer<Drawing>(), false};
    auto drawing = std::make_shared<const Result<Drawing>>(staveAt(readings));
    return {Answer<Drawing>(drawing), current};
}

/// Asks for every rule's findings; a rule that is not done keeps what it said before.
void Session::refreshFindings() {
    const auto subject = std::make_shared<const Case>(design_, circuit_, conditions_, stock_->items());
    std::vector<Finding> all;
    findings_current_ = true;
    for (const Rule& rule : rules()) {
        const auto shown = ask(JudgementQuery{&rule, subject}, Urgency::review, rule.id.c_str());
        findings_current_ = findings_current_ && shown.current();
        if (shown) all.insert(all.end(), shown->begin(), shown->end());
    }
    findings_ = settled(std::move(all), *design_);
}

void Session::stopComputing() {
    if (!desk_.patientBusy()) return;
    desk_.pause();
    emit progressChanged();
}

void Session::computeAgain() { contentChanged(false); }

void Session::settle() {
    for (int idle = 0; idle < 2;) {  // what arrived may make someone ask for more
        desk_.waitAll();
        QCoreApplication::processEvents();
        idle = desk_.deliver() || desk_.busy() || works_ > 0 ? 0 : idle + 1;
    }
}

void Session::startOver(const Design& design) {
    ++opened_;
    autosave_.forget();
    conditions_ = {};
    placed_ = false;
    undo_.clear();
    layout_ = layout_before_ = {};
    layout_of_ = {};
    last_.clear();
    StaveView view;  // what was folded, lit and probed was of another design
    view.true_height = stave_view_.true_height;
    view.room_width = stave_view_.room_width, view.room_height = stave_view_.room_height;
    stave_view_ = view;
    emit started();
    take(std::make_shared<Design>(design));
}

void Session::startNew(const Design& design) {
    clean_ = std::make_shared<Design>(design);
    setPath({}, {});
    startOver(design);
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
    clean_ = std::make_shared<Design>(design.value());
    setPath(path, std::move(text).value());
    startOver(design.value());
    return success();
}

void Session::save(const std::filesystem::path& path, std::function<void(const Result<void>&)> then) {
    // an unchanged design keeps its file byte by byte, also one written by hand
    const bool same = path == path_ && !modified() && !file_text_.empty();
    if (!watcher_.files().isEmpty()) watcher_.removePaths(watcher_.files());
    ++saving_;
    keeper().run(
        [path, design = design_, kept = same ? file_text_ : std::string()]() -> Result<std::string> {
            std::string text = kept.empty() ? write_design(*design) : kept;
            if (auto done = write_file(path, text); !done) return done.error();
            return text;
        },
        this,
        [this, path, design = design_, opened = opened_,
         then = std::move(then)](Result<std::string> written) {
            --saving_;
            const auto done = written ? Result<void>(success()) : Result<void>(written.error());
            if (opened != opened_) {  // another design is open by now: the file is written, no more
            } else if (written) {
                clean_ = design;
                if (modified())
                    autosave_.restart(path, {design, design_, tr("edits while saving").toStdString()});
                else
                    autosave_.forget();
                setPath(path, std::move(written).value());
                emit changed();
            } else if (!path_.empty()) {
                watcher_.addPath(QString::fromStdString(path_.string()));
            }
            if (then) then(done);
        });
}

bool Session::changedOnDisk() const {
    if (path_.empty() || saving_ > 0) return false;
    auto text = read_file(path_);
    return !text || text.value() != file_text_;
}

void Session::recover(const Unsaved& unsaved) {
    const Kept& kept = unsaved.kept;
    auto clean = kept.file.empty() ? kept.first : std::make_shared<const Design>();
    std::string text;
    if (!kept.file.empty())
        if (auto read = read_file(kept.file)) {
            text = read.value();
            if (auto saved = read_design(text)) clean = std::make_shared<Design>(std::move(saved).value());
        }
    clean_ = std::move(clean);
    setPath(text.empty() ? std::filesystem::path() : kept.file, text);
    startOver(*kept.last);
    for (const KeptStep& step : kept.history)
        undo_.push(new DesignStep(*this, *step.before, *step.after, QString::fromStdString(step.what), true));
    replaying_ = true;
    undo_.setIndex(static_cast<int>(kept.done));
    replaying_ = false;
    autosave_.takeOver(unsaved);
}

/// What is on disk becomes the design, and what was edited stays one step back.
Result<void> Session::reload() {
    auto text = read_file(path_);
    if (!text) return text.error();
    auto design = read_design(text.value());
    if (!design) return design.error();
    clean_ = std::make_shared<Design>(design.value());
    setPath(path_, std::move(text).value());
    edit(design.value(), tr("load from disk"));
    emit changed();
    return success();
}

}  // namespace elkit
