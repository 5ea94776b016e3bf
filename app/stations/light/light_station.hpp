#pragma once
#include <array>
#include <optional>
#include <vector>

#include "app/stations/station.hpp"
#include "recipes/variants.hpp"

class QCheckBox;
class QComboBox;
class QGridLayout;
class QRadioButton;

class QLineEdit;
namespace elkit {

class Card;
class FigureLabel;
class FigureList;
class ArraysPanel;
class LifePlot;
class PictureView;
class SituationCard;
class TabPanel;
class GoalsPanel;
struct LightResult;
struct StringResult;

/// Which LEDs, in which strings, at which current; the resistor and its spread.
class LightStation : public Station {
    Q_OBJECT
  public:
    explicit LightStation(Session& session, QWidget* parent = nullptr);
    void focusRef(const QString& ref) override;
    KeyFigure keyFigure() override;

  protected:
    void refresh() override;

  private:
    GoalsPanel* goals_;
    std::vector<TabPanel*> panels_;  ///< below, besides the plot and the situations
    QWidget *bins_box_, *curve_row_;
    QWidget* resistorCard();
    std::optional<VariantsQuery> variantsQuery();
    void takeVariant(int index);
    void refreshResistor(const StringResult& string);
    void refreshCurve(const std::string& led);
    void refreshLife();
    void refreshOptions();
    void refreshBins();
    void refreshPicture();
    void refreshInside(const LightResult& light);
    QWidget* curveRow();
    void setLeds(const char* key, const std::string& typed, const QString& what);
    PictureView* picture_;
    QLabel* previewed_;
    ArraysPanel* arrays_;
    FigureLabel *resistance_, *current_now_, *current_fresh_, *average_, *power_, *brightness_;
    FigureList* inside_;
    QLabel* rating_;
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
    SituationCard* situations_;
};

StationInfo light_station();

}  // namespace elkit
