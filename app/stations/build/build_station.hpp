#pragma once
#include "app/stations/station.hpp"
#include "build/steps.hpp"

class QCheckBox;
class QComboBox;
class QLineEdit;
class QTreeWidget;
class QTreeWidgetItem;

namespace elkit {

class FigureLabel;
class PictureView;

/// The ordered steps with their checks; ticks, notes and readings are stored in the design.
class BuildStation : public Station {
    Q_OBJECT
  public:
    explicit BuildStation(Session& session, QWidget* parent = nullptr);
    void focusRef(const QString& ref) override;
    KeyFigure keyFigure() override;

  protected:
    void refresh() override;

  private:
    QWidget* detail();
    void fillTree();
    void showStep();
    const BuildStep* current() const;
    void record(const QString& what, const std::function<void(StepRecord&)>& change);
    QTreeWidget* tree_;
    QLabel *title_, *text_, *polarity_, *caution_, *probes_, *verdict_;
    FigureLabel* expected_;
    QLineEdit *measured_, *note_;
    QComboBox* heard_;
    QCheckBox* done_;
    PictureView *picture_, *legs_;
    QString current_;
    std::vector<std::string> shown_;
    std::optional<std::vector<BuildStep>> steps_;  ///< as shown
    bool filling_ = false;
};

StationInfo build_station();

}  // namespace elkit
