#pragma once
#include <QWidget>
#include <string>
#include <vector>

#include "planning/lights_place.hpp"

class QComboBox;
class QLabel;

namespace elkit {

/// A row that says which lights of a circuit are meant, by where they hang, and what feeds them there; hidden
/// where there is no choice.
class PlaceRow : public QWidget {
    Q_OBJECT
  public:
    explicit PlaceRow(QWidget* parent = nullptr);
    /// Offers these, and chooses those of which `light` is one.
    void offer(const std::vector<HungLights>& places, const std::string& light, const std::string& fed);
    QComboBox* box() { return box_; }

  signals:
    void chosen(const std::string& light);  ///< by a person: the first LED of the lights

  private:
    QComboBox* box_;
    QLabel* fed_;
};

}  // namespace elkit
