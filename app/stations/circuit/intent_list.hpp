#pragma once
#include <QElapsedTimer>
#include <QListWidget>

class QTimer;

namespace elkit {

class Session;

/// What a gadget can be made to do, each with its light as it goes; before them the blocks of the design.
class IntentList : public QListWidget {
    Q_OBJECT
  public:
    explicit IntentList(Session& session, QWidget* parent = nullptr);
    void refresh();
    void choose(const QString& id);  ///< "timer-flasher", or "#0" for a block

  signals:
    void chosen(const QString& id);

  protected:
    void showEvent(QShowEvent* event) override;
    void hideEvent(QHideEvent* event) override;

  private:
    void heading(const QString& text);
    Session& session_;
    QStringList shown_;
    QTimer* timer_;
};

}  // namespace elkit
