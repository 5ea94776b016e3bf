#pragma once
#include <array>

#include "app/widgets/tab_panel.hpp"

class QCustomPlot;
class QLineEdit;

namespace elkit {

/// The curves of the design's cell: voltage and resistance by charge, capacity by current; where they are
/// from, and points in their place.
class CellPanel : public TabPanel {
    Q_OBJECT
  public:
    explicit CellPanel(Session& session, QWidget* parent = nullptr);
    void refresh() override;

  private:
    void change(const char* key, QLineEdit* field);
    void draw();
    QCustomPlot* plot_;
    std::array<QLineEdit*, 3> fields_{};
};

}  // namespace elkit
