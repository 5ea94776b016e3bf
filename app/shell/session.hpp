#pragma once
#include <QFileSystemWatcher>
#include <QObject>
#include <QTimer>
#include <QUndoStack>
#include <atomic>
#include <memory>
#include <optional>

#include "app/shell/autosave.hpp"
#include "batch/drawer.hpp"
#include "design/design.hpp"
#include "review/findings.hpp"
#include "review/survey.hpp"

namespace elkit {

/// One open design: its value, undo history, file, conditions, and everything computed from them.
/// Live results follow at once; deep results are computed on another thread and superseded by newer ones.
class Session : public QObject {
    Q_OBJECT
  public:
    explicit Session(std::shared_ptr<Drawer> drawer, QObject* parent = nullptr);
    ~Session() override;

    const Design& design() const { return *design_; }
    const Conditions& conditions() const { return conditions_; }
    const LiveSurvey& live() const { return live_; }
    const DeepSurvey* deep() const { return deep_ ? deep_.get() : nullptr; }
    bool deepPending() const { return pending_; }
    bool deepStopped() const { return stopped_; }  ///< the user stopped it; deep() is of an earlier design
    QString progressStage() const { return stage_; }
    double progressFraction() const { return fraction_; }
    void stopDeep();
    void computeAgain();
    int deepStamp() const { return stamp_; }  ///< another number for each deep result
    const std::vector<Finding>& findings() const { return findings_; }
    const std::vector<DrawerItem>& drawerItems() const { return drawer_items_; }
    /// The stave as it looks at other readings than the present ones, such as a moment of a recording.
    Drawing staveAt(const OperatingPoint& readings) const;
    const StaveView& staveView() const { return stave_view_; }
    QUndoStack& undoStack() { return undo_; }
    std::filesystem::path path() const { return path_; }
    bool modified() const;

    /// Makes `next` the design, as one undoable step named `what`. Nothing happens if it equals the present
    /// one.
    void edit(Design next, const QString& what);
    void setConditions(const Conditions& conditions);
    void setStaveView(const StaveView& view);
    void putDrawerItem(const DrawerItem& item);  ///< one undoable step
    /// Shows the figure in the working drawer.
    void focusFigure(const Figure& figure) { emit figureFocused(figure); }
    void reportError(const QString& text) { emit errorReported(text); }

    void startNew(const Design& design);                   ///< an unsaved design
    Result<void> open(const std::filesystem::path& path);  ///< the open design stays as it is on error
    Result<void> save(const std::filesystem::path& path);  ///< writes atomically
    bool changedOnDisk() const;                            ///< the file is not what was loaded or saved last
    void recover(const Unsaved& unsaved);
    void flushAutosave();
    void forgetUnsaved() { autosave_.forget(); }  ///< the work is given up
    void waitForDeep();                           ///< for exports and tests

  signals:
    void designChanged();  ///< the design is another value; live results are already new
    void liveChanged();    ///< conditions or design changed
    void deepChanged();    ///< deep results arrived, or became outdated
    void progressChanged();
    void figureFocused(const elkit::Figure& figure);
    void errorReported(const QString& text);
    void fileChangedOnDisk();
    void pathChanged();

  private:
    friend class DesignStep;
    friend class DrawerStep;
    void adopt(std::shared_ptr<const Design> design);
    void adoptDrawerItem(const std::string& key, const std::optional<DrawerItem>& item);
    void outdateDeep();
    void setProgress(const QString& stage, double fraction);
    void refreshLive();
    void startDeep();
    void deepArrived(int generation, std::shared_ptr<DeepSurvey> deep);
    void refreshFindings();
    void setPath(const std::filesystem::path& path, std::string text);

    std::shared_ptr<Drawer> drawer_;
    std::vector<DrawerItem> drawer_items_;
    std::shared_ptr<const Design> design_;
    Design clean_;           ///< as loaded or saved last
    std::string file_text_;  ///< what the file holds, byte by byte
    std::filesystem::path path_;
    Conditions conditions_;
    StaveLayout stave_layout_;
    StaveView stave_view_;
    LiveSurvey live_;
    std::shared_ptr<DeepSurvey> deep_;
    std::vector<Finding> findings_;
    QUndoStack undo_;
    QTimer deep_timer_;
    Autosave autosave_;
    QFileSystemWatcher watcher_;
    bool pending_ = false, stopped_ = false;
    QString stage_;
    double fraction_ = 0;
    int stamp_ = 0;
    std::shared_ptr<std::atomic<int>> generation_;
};

}  // namespace elkit
