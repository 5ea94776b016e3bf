#pragma once
#include "app/widgets/tab_panel.hpp"
#include "kit/wire_list.hpp"

class QLabel;
class QPushButton;

namespace elkit {

class FigureLabel;

/// The wires between what sits off the board, in the order of joining, and what each pin of a controller
/// does.
class WiringPanel : public TabPanel {
    Q_OBJECT
  public:
    explicit WiringPanel(Session& session, QWidget* parent = nullptr);
    void refresh() override;
    void copy();  ///< the wires as CSV to the clipboard
    DataTable* wires() const { return wires_; }
    DataTable* pins() const { return pins_; }

  signals:
    void partChosen(const QString& designator);

  private:
    WireListQuery query() const;
    void fill(const WireList& list);
    QPushButton* copy_;
    DataTable *wires_, *pins_;
    FigureLabel* total_;
    QLabel* notes_;
};

}  // namespace elkit
