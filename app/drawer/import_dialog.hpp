#pragma once
#include <QDialog>
#include <vector>

#include "app/shell/background.hpp"
#include "drawer/import.hpp"

class QComboBox;
class QLabel;
class QProgressBar;
class QPushButton;
class QTableWidget;

namespace elkit {

class Stock;

/// What a table would do to the drawer, before it does it: its columns, which a person may mean otherwise,
/// and its rows.
class ImportDialog : public QDialog {
    Q_OBJECT
  public:
    ImportDialog(Stock& stock, DrawerSheet sheet, const QString& file, QWidget* parent = nullptr);
    /// The plan of the columns as they are chosen; nullptr while it is computed.
    const ImportPlan* plan() const { return plan_ ? &*plan_ : nullptr; }
    QTableWidget* table() const { return table_; }
    QComboBox* columnBox(int column) const { return boxes_[static_cast<std::size_t>(column)]; }

  private:
    void compute();
    void show_plan();
    Stock& stock_;
    DrawerSheet sheet_;
    std::optional<ImportPlan> plan_;
    std::vector<QComboBox*> boxes_;
    QComboBox* counts_;
    QTableWidget* table_;
    QLabel* summary_;
    QProgressBar* progress_;
    QPushButton* take_;
    Background work_;
};

}  // namespace elkit
