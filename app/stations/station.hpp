#pragma once
#include <QLabel>
#include <QVBoxLayout>
#include <QWidget>

namespace elkit {

class Session;

/// A station of the bench: a title, one line that says what it shows, and its panels.
class Station : public QWidget {
    Q_OBJECT
  public:
    Station(Session& session, const QString& title, QWidget* parent = nullptr);
    /// Puts the keyboard on the field or part that a finding names.
    virtual void focusRef(const QString& ref) { (void)ref; }

  protected:
    /// Called when something changed and the station is visible.
    virtual void refresh() = 0;
    void setSubtitle(const QString& text) { subtitle_->setText(text); }
    Session& session() { return session_; }
    QVBoxLayout* body() { return body_; }
    QHBoxLayout* head() { return head_; }  ///< the title's row, for a few readings at its right
    /// Shows a view dimmed while what it shows is being computed again.
    static void dim(QWidget* view, bool dimmed);
    void showEvent(QShowEvent*) override { refresh(); }
    void changeEvent(QEvent* event) override;
    /// True once for each new deep result and each change of theme: time to fill tables anew.
    bool tableOutdated();

  private:
    Session& session_;
    QVBoxLayout* body_;
    QHBoxLayout* head_;
    QLabel* subtitle_;
    int table_stamp_ = -1;
};

}  // namespace elkit
