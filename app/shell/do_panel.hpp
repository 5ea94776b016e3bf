#pragma once
#include <QFrame>
#include <QLineEdit>
#include <QPointer>

#include "command/suggestions.hpp"

class QLabel;
class QListWidget;

namespace elkit {

class Session;

/// The do-anything panel: stations, actions, parts, nets and values in plain words, with what can be said and
/// what it will do. It opens over the middle of the window and closes when it is done.
class DoPanel : public QFrame {
    Q_OBJECT
  public:
    DoPanel(Session& session, std::vector<ActionName> actions, QWidget* window);
    void open();
    void close();
    QLineEdit* line() const { return line_; }
    QListWidget* list() const { return list_; }
    QString preview() const { return preview_; }

  signals:
    void stationAsked(const QString& id);
    void actionAsked(const QString& id);
    void showAsked(const QString& ref);

  protected:
    bool eventFilter(QObject* watched, QEvent* event) override;

  private:
    void refresh();
    const std::vector<Suggestion>& everything();
    void offer(const QString& line, const QString& about);
    int offerOwned(const std::string& typed);
    bool showPreview();  ///< false if the line is not understood
    void run();
    bool lineKey(int key);
    void place();
    Session& session_;
    std::vector<ActionName> actions_;
    std::vector<Suggestion> everything_;  ///< that can be said of this design; empty: to be found anew
    QLineEdit* line_;
    QLabel* what_;
    QLabel* heading_;
    QListWidget* list_;
    QString preview_;
    QPointer<QWidget> back_;  ///< where the keyboard was; it may be gone by then
};

}  // namespace elkit
