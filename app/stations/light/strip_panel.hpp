#pragma once
#include "app/widgets/tab_panel.hpp"
#include "planning/strip_run.hpp"

class QComboBox;
class QPushButton;

namespace elkit {

class PictureView;
class QuantityEdit;

/// A strip cut to length, on leads: what is lost on the way, and from which side to feed it.
class StripPanel : public TabPanel {
    Q_OBJECT
  public:
    explicit StripPanel(Session& session, QWidget* parent = nullptr);
    void refresh() override;
    void use();  ///< takes length and leads into the design
    DataTable* table() { return table_; }

  private:
    StripQuery query() const;
    void ask();
    void forget();
    void fill(const StripQuery::Value& found);
    void draw();
    QuantityEdit *length_, *lead_length_;
    QComboBox* lead_area_;
    QPushButton* use_;
    PictureView* picture_;
    DataTable* table_;
    double lead_area_asked_ = 0;  ///< mm²; 0: the design's own, which need not be in the list
    bool asked_ = false;          ///< something was asked here otherwise than the design does
};

}  // namespace elkit
