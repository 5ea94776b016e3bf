#pragma once
#include <QWidget>
#include <vector>

class QAction;
class QListWidget;
class QTextBrowser;

namespace elkit {

/// The guide that ships with Elkit: pages of docs/guide, and a sheet of all keys.
class Guide : public QWidget {
    Q_OBJECT
  public:
    /// The keys of these actions stand in the sheet.
    explicit Guide(const std::vector<QAction*>& actions, QWidget* parent = nullptr);
    void showPage(const QString& id);  ///< "first-gadget", "stations", …, "keys"
    void showHeading(const QString& id, const QString& heading);
    QTextBrowser* text() const { return text_; }
    QListWidget* pages() const { return pages_; }

  protected:
    void keyPressEvent(QKeyEvent* event) override;

  private:
    void setPage(const QString& markdown);
    QString keysPage(const std::vector<QAction*>& actions) const;
    QListWidget* pages_;
    QTextBrowser* text_;
    QStringList ids_, contents_;
};

/// Lets "What is this?" (Shift F1) answer for every field from its name, its description and its hint.
void answer_what_is_this();

}  // namespace elkit
