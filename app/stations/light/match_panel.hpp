#pragma once

#include "app/widgets/tab_panel.hpp"
#include "planning/trials.hpp"

class QCheckBox;
class QComboBox;
class QLabel;
class QPushButton;

namespace elkit {

class FigureLabel;

/// Resistors with which the design's colours look equally bright.
class MatchPanel : public TabPanel {
    Q_OBJECT
  public:
    explicit MatchPanel(Session& session, QWidget* parent = nullptr);
    void refresh() override;
    DataTable* table() { return table_; }
    void use();                           ///< takes the resistors into the design
    void looked(LightTrial::Looked how);  ///< what the eye says of the resistor on trial

  private:
    MatchQuery query() const;
    QWidget* trialRow();
    void refreshTrial();
    void fill(const Match& match);
    std::size_t kindOnTrial(const TrialsState& state) const;
    QWidget* trial_row_;
    QComboBox* kind_;
    FigureLabel *try_, *seen_;
    QLabel* trial_note_;
    QPushButton *dimmer_, *same_, *brighter_, *forget_, *take_;
    QCheckBox* diffuse_;
    QPushButton* use_;
    DataTable* table_;
    Digest trials_shown_;
};

}  // namespace elkit
