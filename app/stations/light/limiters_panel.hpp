#pragma once
#include <string>

#include "app/widgets/tab_panel.hpp"
#include "planning/limiters.hpp"

class QPushButton;

namespace elkit {

class PlaceRow;

/// Ways to keep the current of the design's strings: resistors, diodes, the cell itself, current sources.
class LimitersPanel : public TabPanel {
    Q_OBJECT
  public:
    explicit LimitersPanel(Session& session, QWidget* parent = nullptr);
    void refresh() override;
    DataTable* table() { return table_; }
    void use(int row);                        ///< takes the limiter of this row into the design
    void setLight(const std::string& light);  ///< asks for the lights of which this is one

  signals:
    void lightChosen(const std::string& light);  ///< of other lights, by a person

  private:
    LimitersQuery query() const;
    void fill(const LimitersQuery::Value& found);
    void explain(int row);
    DataTable* table_;
    QPushButton* use_;
    PlaceRow* place_;
    std::string light_;  ///< of those that are meant; empty: the first ones
};

}  // namespace elkit
