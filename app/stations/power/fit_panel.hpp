#pragma once
#include <memory>
#include <optional>
#include <string>

#include "app/widgets/tab_panel.hpp"
#include "formats/discharge_file.hpp"

class QComboBox;
class QLineEdit;
class QPushButton;

namespace elkit {

class FigureLabel;
class Plot;
class QuantityEdit;

/// A discharge that was measured, the cell that it was, and the curves of such a cell in the design.
class FitPanel : public TabPanel {
    Q_OBJECT
  public:
    explicit FitPanel(Session& session, QWidget* parent = nullptr);
    void refresh() override;
    void read(const QString& path);  ///< the logger's file
    void use();                      ///< takes the measured cell into the design

  private:
    void choose();
    std::optional<CellFitQuery> query() const;  ///< nothing without a file or a load
    void fill(const CellFitQuery::Value& found);
    std::shared_ptr<const std::string> csv_;
    QComboBox* cell_;
    QuantityEdit* count_;
    QLineEdit* load_;
    QPushButton *read_, *use_;
    Plot* plot_;
    FigureLabel *capacity_, *volts_, *ohms_;
};

}  // namespace elkit
