#pragma once
#include <optional>

#include "app/widgets/tab_panel.hpp"
#include "planning/arrays_of_design.hpp"

class QComboBox;
class QPushButton;

namespace elkit {

class PlaceRow;
class QuantityEdit;

/// All ways to arrange the lights on the supply, the best first, to take one of them.
class ArraysPanel : public TabPanel {
    Q_OBJECT
  public:
    explicit ArraysPanel(Session& session, QWidget* parent = nullptr);
    void refresh() override;
    DataTable* table() { return table_; }
    void use(int row);                        ///< takes the arrangement of this row into the design
    void setLight(const std::string& light);  ///< asks for the lights of which this is one
    /// The circuit with the chosen arrangement, and its name; nothing where the design has it already.
    struct Preview {
        Keyed<Circuit> circuit;
        QString name;
    };
    const std::optional<Preview>& preview() const { return preview_; }

  signals:
    void looked();                               ///< the preview is another
    void lightChosen(const std::string& light);  ///< of other lights, by a person

  private:
    ArraysQuery query() const;
    void fill(const ArraysOfDesign& found);
    void wish();
    void explain(int row);
    PlaceRow* place_;
    QComboBox* led_;
    QuantityEdit *count_, *current_;
    QPushButton* use_;
    DataTable* table_;
    std::optional<Preview> preview_;
    ArrayWishes wishes_;  ///< what was asked here otherwise than the design does
};

}  // namespace elkit
