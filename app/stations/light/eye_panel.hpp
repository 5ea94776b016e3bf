#pragma once
#include "app/widgets/tab_panel.hpp"
#include "light/dimming.hpp"
#include "light/sight.hpp"

class QLineEdit;
class QPushButton;

namespace elkit {

class FieldForm;
class FigureLabel;

/// What the eye gets of each light: on average, in pulses, at a distance, behind diffuser and lens.
class EyePanel : public TabPanel {
    Q_OBJECT
  public:
    explicit EyePanel(Session& session, QWidget* parent = nullptr);
    void refresh() override;
    void dim();  ///< larger resistors, until the light is calm to look at

  private:
    SightQuery query() const;
    ScaledLightQuery dimmed(const Sight& sight) const;
    void fill(const Sight& sight);
    void setOptics();
    FieldForm* form_;
    QLineEdit* optics_;
    FigureLabel* together_;
    QPushButton* dim_;
    DataTable* table_;
};

}  // namespace elkit
