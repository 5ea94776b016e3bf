#pragma once
#include "app/widgets/card.hpp"

class QTableWidgetItem;

namespace elkit {

class DataTable;
class Session;

/// What the gadget takes and gives in each situation; with a plan, how much of a day each takes, to be typed
/// in place. A double click or Enter sets the conditions to a situation.
class SituationCard : public Card {
    Q_OBJECT
  public:
    SituationCard(Session& session, bool plan, QWidget* parent = nullptr);
    bool refresh();  ///< false if what it shows is not of the present design
    DataTable* table() { return table_; }

  private:
    void entered(QTableWidgetItem* item);
    Session& session_;
    bool plan_, filling_ = false;
    DataTable* table_;
    QLabel* sum_;
};

}  // namespace elkit
