#pragma once
#include <QFileSystemWatcher>
#include <QObject>
#include <QUndoStack>
#include <functional>
#include <map>
#include <memory>
#include <optional>

#include "app/drawer/stock.hpp"
#include "app/shell/autosave.hpp"
#include "app/shell/desk.hpp"
#include "build/trial.hpp"
#include "design/design.hpp"
#include "drawing/layout_query.hpp"
#include "light/light.hpp"
#include "power/life.hpp"
#include "power/supplies.hpp"
#include "review/findings.hpp"

namespace elkit {

/// A result to show: of the present content, or the one before while that is computed (to be shown dimmed).
template <class T>
class Shown {
  public:
    Shown(Answer<T> answer, bool current) : answer_(std::move(answer)), current_(current) {}
    bool current() const { return current_; }
    bool there() const { return answer_.there(); }
    explicit operator bool() const { return bool(answer_); }
    const T& operator*() const { return *answer_; }
    const T* operator->() const { return &*answer_; }
    const Error& error() const { return answer_.error(); }

  private:
    Answer<T> answer_;
    bool current_;
};

/// How soon a result is wanted: what is in view first, then what the workline shows, then the review.
enum class Urgency { in_view, key_figure, review };

/// One open design: its value, undo history, file, conditions, and the store of everything computed from
/// them. Nothing is pushed: who shows a result asks for it when something changed or arrived, and gets the
/// one before until it is there.
class Session : public QObject {
    Q_OBJECT
  public:
    /// Without a stock nothing is owned.
    /// `store`: of another window, for what it has computed; its own if there is none.
    explicit Session(std::shared_ptr<Stock> stock, std::shared_ptr<Store> store = {},
                     QObject* parent = nullptr);
    ~Session() override;

    const Design& design() const { return *design_; }
    const Keyed<Circuit>& circuit() const { return circuit_; }
    const Conditions& conditions() const { return conditions_; }
    const std::vector<DrawerItem>& drawerItems() const { return *stock_->items(); }
    const Keyed<std::vector<DrawerItem>>& drawer() const { return stock_->items(); }
    const std::shared_ptr<Stock>& stock() const { return stock_; }
    Store& store() { return *store_; }
    /// What an export under way keeps, also when the window is closed.
    const std::shared_ptr<Store>& sharedStore() const { return store_; }

    /// The result of a query, or what it was before. Results of one kind that differ in purpose have a `slot`
    /// each.
    template <class Query>
    Shown<typename Query::Value> ask(const Query& query, Urgency urgency = Urgency::in_view,
                                     const char* slot = "") {
        using T = typename Query::Value;
        std::shared_ptr<void>& last = last_[std::string(Query::name) + slot];
        const auto answer = store_->find(query);
        if (answer.there()) {
            last = std::make_shared<Answer<T>>(answer);
            return {answer, true};
        }
        desk_.want(query, static_cast<int>(urgency));
        return {last ? *std::static_pointer_cast<Answer<T>>(last) : Answer<T>(), false};
    }
    /// The same, computed now if it is not there: for tests and what cannot wait.
    template <class Query>
    Answer<typename Query::Value> compute(const Query& query) {
        return store_->ask(query);
    }

    // the queries that several ask for
    RestQuery restQuery() const { return {circuit_, conditions_}; }  ///< as the conditions are
    RunQuery runQuery() const { return {circuit_, conditions_}; }    ///< likewise, in the long run
    RunQuery freshRunQuery() const { return {circuit_, fresh(*circuit_, conditions_)}; }
    LightQuery lightQuery() const { return {circuit_, conditions_}; }
    LifeQuery powerQuery() const { return {*design_, circuit_, conditions_}; }
    BoardQuery boardQuery() const { return {circuit_, board_choices(*design_)}; }
    TrialQuery trialQuery() const { return {circuit_, board_choices(*design_), design_->situations}; }
    StepsQuery stepsQuery() const {
        return {circuit_, board_choices(*design_), design_->brief.for_children, design_->situations};
    }
    PartsQuery partsQuery() const { return parts_query(*design_, stock_->items()); }
    SuppliesQuery suppliesQuery(SupplyPolicy policy, SupplyScope scope = SupplyScope::usual) const {
        return {*design_, conditions_, policy, scope};
    }

    /// The findings of the rules that are done; of the others what they found before.
    const std::vector<Finding>& findings() const { return findings_; }
    bool findingsCurrent() const { return findings_current_; }

    /// The stave as the conditions are; dimmed while its layout or its readings are computed.
    Shown<Drawing> stave();
    /// The stave at other readings, such as a moment of a recording; empty while it has no layout.
    Drawing staveAt(const OperatingPoint& readings) const;
    /// As it is now, in the room that it needs rather than that of the window.
    Drawing staveForPaper();
    const StaveView& staveView() const { return stave_view_; }
    const StaveLayout& staveLayout() const { return layout_; }

    bool computing() const { return desk_.patientBusy(); }  ///< something takes long
    bool stopped() const { return desk_.paused(); }         ///< the user stopped it
    QString progressStage() const { return desk_.stage(); }
    double progressFraction() const { return desk_.fraction(); }
    void stopComputing();
    void computeAgain();
    void beginWork() { ++works_; }  ///< something else than a query is under way, such as a remedy
    void endWork() { --works_; }
    void settle();  ///< until all that is wanted is there and shown: for tests and pictures

    QUndoStack& undoStack() { return undo_; }
    std::filesystem::path path() const { return path_; }
    bool modified() const;

    /// Makes `next` the design, as one undoable step named `what`. Nothing happens if it equals the present
    /// one.
    void edit(const Design& next, const QString& what);
    /// The same from a result: an error is reported.
    bool edit(const Result<Design>& next, const QString& what);
    void setConditions(const Conditions& conditions);
    /// The situations of the design: its own, or those that its circuit suggests, once they are found.
    std::vector<Situation> situations();
    int situation();  ///< which of them the conditions are, whatever the battery; −1: none
    void choose(const Situation& situation);
    void resetConditions();  ///< as the design was first seen
    void setStaveView(const StaveView& view);
    /// One undoable step.
    void changeDrawer(const std::vector<DrawerChange>& changes, const QString& what);
    void putDrawerItem(const DrawerItem& item);  ///< likewise
    /// Choosers offer only what is in the drawer; kept for the next start.
    bool ownedOnly() const { return owned_only_; }
    void setOwnedOnly(bool only);
    /// The resistors that may be chosen: those in stock where only those are wanted; else empty.
    std::vector<double> resistorsToChooseFrom() const {
        return owned_only_ ? owned_resistors(drawerItems()) : std::vector<double>();
    }
    /// Shows the figure in the working drawer.
    void focusFigure(const Figure& figure) { emit figureFocused(figure); }
    void reportError(const QString& text) { emit errorReported(text); }

    void startNew(const Design& design);                   ///< an unsaved design
    Result<void> open(const std::filesystem::path& path);  ///< the open design stays as it is on error
    /// Writes atomically, on the keeper's thread; then says how it went.
    void save(const std::filesystem::path& path, std::function<void(const Result<void>&)> then = {});
    bool changedOnDisk() const;                   ///< the file is not what was loaded or saved last
    Result<void> reload();                        ///< the file as it is on disk now, as an undoable step
    void recover(const Unsaved& unsaved);         ///< with its history
    void forgetUnsaved() { autosave_.forget(); }  ///< the work is given up

  signals:
    void started();        ///< another design is open
    void designChanged();  ///< the design is another value
    void changed();        ///< design, conditions or drawer are others: ask again
    void viewChanged();    ///< only how the stave is looked at
    void arrived();        ///< results came in: ask again
    void progressChanged();
    void figureFocused(const elkit::Figure& figure);
    void errorReported(const QString& text);
    void keepingChanged(const QString& trouble);  ///< edits cannot be kept safe; empty: they can again
    void fileChangedOnDisk();
    void pathChanged();

  private:
    friend class DesignStep;
    void adopt(std::shared_ptr<const Design> design, const QString& what, Move move);
    void take(std::shared_ptr<const Design> design);
    void startOver(const Design& design);
    void contentChanged(bool design_too);
    void refreshFindings();
    void setPath(const std::filesystem::path& path, std::string text);
    void takeLayout();
    Drawing drawn(StaveView view, const OperatingPoint& readings) const;
    void startLit();

    std::shared_ptr<Stock> stock_;
    std::shared_ptr<const Design> design_;
    Keyed<Circuit> circuit_;
    std::shared_ptr<const Design> clean_;  ///< as loaded or saved last
    std::string file_text_;                ///< what the file holds, byte by byte
    std::filesystem::path path_;
    Conditions conditions_;
    StaveLayout layout_, layout_before_;  ///< the present one, and what it keeps as much of as it can
    Digest layout_of_;                    ///< the circuit that `layout_` is of
    Keyed<Circuit> layout_circuit_;
    StaveView stave_view_;
    std::map<std::string, std::shared_ptr<void>> last_;
    std::vector<Finding> findings_;
    bool findings_current_ = false, replaying_ = false;
    bool owned_only_;
    bool placed_ = false;  ///< the conditions were set since the design was opened
    int works_ = 0, saving_ = 0;
    long opened_ = 0;  ///< designs so far: what was begun for an earlier one changes nothing here
    QUndoStack undo_;
    Autosave autosave_;
    QFileSystemWatcher watcher_;
    std::shared_ptr<Store> store_;
    Desk desk_{*store_};
};

}  // namespace elkit
