#pragma once
#include <QTabWidget>

class QToolButton;

namespace elkit {

/// Tabs below something larger that fold to their tab bar (Shift F6): by the button at their right, or by a
/// second click on the tab that is open. Another button makes them tall for a while (F6), for a plot to be
/// read closely. Remembers across starts whether they are folded and how high they were.
class FoldingTabs : public QTabWidget {
    Q_OBJECT
  public:
    /// `name` tells these tabs from others in the settings; where nothing is remembered they are `folded`.
    explicit FoldingTabs(const QString& name, bool folded = false, QWidget* parent = nullptr);
    void setFolded(bool folded);
    bool folded() const { return folded_; }
    /// Most of the height, until it is taken back or the window closes.
    void setTall(bool tall);
    bool tall() const { return tall_; }
    /// Adds a page that scrolls where it has too little room; its tables and pictures give way first.
    void addScrolling(QWidget* page, const QString& title);
    /// Opens them, and the tab of this page or of what stands on it.
    void showPage(QWidget* page);

  protected:
    bool eventFilter(QObject* watched, QEvent* event) override;
    void resizeEvent(QResizeEvent* event) override;
    void showEvent(QShowEvent* event) override;

  private:
    void applyHeight();
    void keepHeight();
    QString name_;
    QToolButton *fold_, *tall_button_;
    bool folded_ = false, tall_ = false;
    int height_ = 0;  // while open
};

/// What a station shows above, and tabs that fold below, with a handle between them; heights to begin with.
QWidget* halves(QWidget* above, FoldingTabs* below, const QList<int>& heights);

}  // namespace elkit
