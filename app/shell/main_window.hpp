#pragma once
#include <QElapsedTimer>
#include <QMainWindow>
#include <QStackedWidget>
#include <map>
#include <memory>

#include "app/shell/session.hpp"
#include "render/export.hpp"

class QFrame;
class QMenu;

class QLabel;
class QHBoxLayout;
namespace elkit {

class ConditionsStrip;
class DoPanel;
class Guide;
class FindingsPanel;
class Station;
class WorkingDrawer;
class DrawerWindow;
class Workline;

/// One design in one window: workline, conditions, bench, findings, working.
class MainWindow : public QMainWindow {
    Q_OBJECT
  public:
    /// `store`: of another window, for what it has computed; its own if there is none.
    explicit MainWindow(std::shared_ptr<Stock> stock, std::shared_ptr<Store> store = {});
    ~MainWindow() override;

    Session& session() { return session_; }
    void showStation(const QString& id);
    Station* station(const QString& id) const;
    DoPanel* doPanel() const { return do_panel_; }
    Guide* guide() const { return guide_; }  ///< nullptr until it was opened
    WorkingDrawer* working() const { return working_; }
    QAction* action(const QString& id) const;
    QString bannerText() const;

    bool openFile(const std::filesystem::path& path);
    void openDemo(const QString& name);
    void openGuide();
    DrawerWindow* openDrawer();  ///< the window of the parts owned
    /// Asks about work that a killed program left; of this file only, if one is named.
    void offerUnsaved(const std::filesystem::path& of = {});
    /// A notice that stays until its `topic` has none any more.
    void setStanding(const QString& topic, const QString& text);
    QString standingText() const;
    void startSaving(const std::filesystem::path& path);  ///< the banner says what went wrong
    bool saveTo(const std::filesystem::path& path);       ///< the same, and waits
    void writeExport(const QString& id,
                     const std::filesystem::path& path);  ///< the banner says when it is done
    void writeKit(const std::filesystem::path& folder);

  protected:
    void closeEvent(QCloseEvent* event) override;
    void resizeEvent(QResizeEvent* event) override;

  private:
    void buildActions();
    void buildFrame();
    QLayout* bannerRow();
    void fillBench();
    void addMenuButton();
    QAction* add(const QString& id, const QString& text, const QKeySequence& keys,
                 const std::function<void()>& run);
    void fillMenu(QMenu* menu);
    void fillRecent(QMenu* menu);
    void work(std::function<Result<void>(const Ask&, const KitSource&)> write, const QString& done);
    void remember(const std::filesystem::path& path);
    using Choices = std::vector<std::pair<QString, std::function<void()>>>;
    void banner(const QString& text, const Choices& choices = {});
    void dropOldNotice();
    Choices waysToOpen(const std::filesystem::path& path);
    void save(bool as);
    void reported(const Result<void>& result, const QString& success);
    MainWindow* fresh();
    void askAboutNext();
    void fitStanding();
    void tellOfDrawer();  ///< why there is none
    void offerFile(const SetAside& damaged);
    bool mayReplace();

    Session session_;
    bool saved_ = false;  ///< the last saving went well
    std::map<QString, QAction*> actions_;
    std::map<QString, Station*> stations_;
    QStackedWidget* bench_ = nullptr;
    ConditionsStrip* strip_ = nullptr;
    Workline* workline_ = nullptr;
    FindingsPanel* findings_ = nullptr;
    WorkingDrawer* working_ = nullptr;
    DoPanel* do_panel_ = nullptr;
    Guide* guide_ = nullptr;
    DrawerWindow* drawer_ = nullptr;
    LeftBehind left_behind_;               ///< not asked about yet
    std::map<QString, QString> standing_;  ///< notices by topic
    QFrame* standing_frame_ = nullptr;
    QLabel* standing_text_ = nullptr;
    QFrame* banner_ = nullptr;
    QLabel* banner_text_ = nullptr;
    bool banner_asks_ = false;  ///< for a decision; otherwise it only tells something
    QElapsedTimer banner_since_;
    QHBoxLayout* banner_buttons_ = nullptr;
};

}  // namespace elkit
