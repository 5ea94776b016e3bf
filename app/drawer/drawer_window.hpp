#pragma once
#include <QUndoStack>
#include <QWidget>
#include <filesystem>
#include <memory>

#include "app/drawer/stock.hpp"
#include "app/shell/background.hpp"

class QLabel;
class QLineEdit;
class QPushButton;
class QTableView;

namespace elkit {

class CountBar;
class DrawerModel;
class ImportDialog;
class ItemForm;

/// The parts that the workshop owns: found as one types, changed in place, counted, read from tables and
/// written to them. Its edits undo in this window.
class DrawerWindow : public QWidget {
    Q_OBJECT
  public:
    explicit DrawerWindow(std::shared_ptr<Stock> stock, QWidget* parent = nullptr);

    QUndoStack& undoStack() { return undo_; }
    DrawerModel* model() const { return model_; }
    QTableView* table() const { return table_; }
    ItemForm* form() const { return form_; }
    QString told() const;
    void search(const QString& words);
    void choose(const std::string& key);
    /// Reads a table and shows what it would do; told() says why if it cannot be read.
    void import(const std::filesystem::path& file);
    ImportDialog* importDialog() const { return import_; }  ///< nullptr when there is none
    void exportTo(const std::filesystem::path& file);

  private:
    QLayout* tools();
    QLayout* below();
    void filter();
    void stockChanged();
    void put(const std::string& key, const DrawerItem& next, const QString& what);
    void addPart();
    void tell(const QString& words, bool trouble = false);
    void showTotals();
    std::shared_ptr<Stock> stock_;
    QUndoStack undo_;
    DrawerModel* model_;
    QTableView* table_;
    ItemForm* form_;
    CountBar* count_;
    ImportDialog* import_ = nullptr;
    QLineEdit *search_, *add_;
    QPushButton *in_stock_, *low_, *reserved_, *anew_;
    QLabel *totals_, *told_;
    Background reading_;
};

}  // namespace elkit
