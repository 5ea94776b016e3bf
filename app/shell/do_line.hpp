#pragma once
#include <QLineEdit>
#include <QListWidget>

#include "command/command.hpp"

namespace elkit {

class Session;

/// The do-anything line: stations, actions and values in plain words, with completion and a preview of what
/// will happen.
class DoLine : public QLineEdit {
    Q_OBJECT
  public:
    DoLine(Session& session, std::vector<ActionName> actions, QWidget* parent = nullptr);
    QString preview() const { return preview_; }

  signals:
    void stationAsked(const QString& id);
    void actionAsked(const QString& id);

  protected:
    void keyPressEvent(QKeyEvent* event) override;
    void focusOutEvent(QFocusEvent* event) override;

  private:
    void refresh();
    void run();
    Session& session_;
    std::vector<ActionName> actions_;
    QListWidget* popup_;
    QString preview_;
};

}  // namespace elkit
