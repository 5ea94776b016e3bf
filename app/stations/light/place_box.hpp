#pragma once
#include <QComboBox>
#include <string>
#include <vector>

#include "planning/lights_place.hpp"

namespace elkit {

/// Which lights of a circuit are meant, by where they hang; hidden where there is no choice.
class PlaceBox : public QComboBox {
    Q_OBJECT
  public:
    explicit PlaceBox(QWidget* parent = nullptr);
    /// Offers these, and chooses those of which `light` is one.
    void offer(const std::vector<HungLights>& places, const std::string& light);

  signals:
    void chosen(const std::string& light);  ///< by a person: the first LED of the lights
};

/// The light that stands now where lights of another design hang; empty if none does.
std::string light_at(const Circuit& now, const Circuit& before, const std::string& light);

}  // namespace elkit
