#pragma once
#include <QButtonGroup>
#include <QWidget>

class QLabel;
namespace elkit {

class Session;

/// The stations in work order, each with its live key figure and a mark when findings wait there.
class Workline : public QWidget {
    Q_OBJECT
  public:
    explicit Workline(Session& session, QWidget* parent = nullptr);
    void setCurrent(const QString& station);
    QWidget* menuSlot() { return menu_slot_; }
    void refresh();

  signals:
    void chosen(const QString& station);

  private:
    class Entry;
    Session& session_;
    std::vector<Entry*> entries_;
    QWidget* menu_slot_;
    QLabel* name_;
};

/// The key figure of a station, short: "2 × 2 at 11.7 mA".
QString key_figure(const Session& session, const QString& station);

}  // namespace elkit
