#pragma once
#include <QTabWidget>

class QToolButton;

namespace elkit {

/// Tabs below something larger that fold to their tab bar: by the button at their right, or by a second click
/// on the tab that is open. Remembers across starts whether they are folded and how high they were.
class FoldingTabs : public QTabWidget {
    Q_OBJECT
  public:
    /// `name` tells these tabs from others in the settings.
    explicit FoldingTabs(const QString& name, QWidget* parent = nullptr);
    void setFolded(bool folded);
    bool folded() const { return folded_; }
    /// Opens them, and the tab of this page.
    void showPage(QWidget* page);

  protected:
    bool eventFilter(QObject* watched, QEvent* event) override;
    void resizeEvent(QResizeEvent* event) override;
    void showEvent(QShowEvent* event) override;

  private:
    void applyHeight();
    QString name_;
    QToolButton* button_;
    bool folded_ = false;
    int height_ = 0;  // while open
};

/// What a station shows above, and tabs that fold below, with a handle between them; heights to begin with.
QWidget* halves(QWidget* above, FoldingTabs* below, const QList<int>& heights);

}  // namespace elkit
