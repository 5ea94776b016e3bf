#pragma once
#include <array>

#include "app/stations/station.hpp"
#include "design/design.hpp"

class QCheckBox;
class QComboBox;
class QGridLayout;
class QRadioButton;

class QLineEdit;
namespace elkit {

class LongRun;

class Card;
class FigureLabel;
class LifePlot;
class PictureView;
class QuantityEdit;

/// Which LEDs, in which strings, at which current; the resistor and its spread.
class LightStation : public Station {
    Q_OBJECT
  public:
    explicit LightStation(Session& session, QWidget* parent = nullptr);
    void focusRef(const QString& ref) override;

  protected:
    void refresh() override;

  private:
    QWidget *goals_, *bins_box_;
    QWidget* goalsCard();
    QWidget* resistorCard();
    void applyGoals(const LightGoals& goals, const QString& what);
    void refreshOptions();
    void refreshBins();
    void refreshMoving(const LongRun& run, const std::string& led);
    QWidget* curveRow();
    void setLeds(const char* key, const std::string& typed, const QString& what);
    PictureView* picture_;
    QComboBox *led_, *rounding_, *series_, *limiter_;
    QuantityEdit *count_, *per_string_, *current_;
    FigureLabel *resistance_, *current_now_, *current_fresh_, *power_, *brightness_;
    QLabel *no_recipe_, *rating_;
    QComboBox* bin_;
    QLineEdit* points_;
    struct OptionRow {
        QRadioButton* button;
        FigureLabel *value, *current;
        QLabel* note;
    };
    std::array<OptionRow, 3> options_;
    std::array<std::array<FigureLabel*, 3>, 3> bins_{};
    LifePlot* life_;
};

}  // namespace elkit
