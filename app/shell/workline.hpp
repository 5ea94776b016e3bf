#pragma once
#include <QButtonGroup>
#include <QWidget>
#include <map>

class QLabel;
namespace elkit {

class Session;
class Station;

/// The stations in work order, each with its live key figure and a mark when findings wait there.
class Workline : public QWidget {
    Q_OBJECT
  public:
    Workline(Session& session, const std::map<QString, Station*>& stations, QWidget* parent = nullptr);
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

}  // namespace elkit
