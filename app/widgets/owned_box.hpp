#pragma once
#include <QCheckBox>
#include <string>

class QComboBox;

namespace elkit {

class Session;

/// "only what I own", wherever it stands: one choice for the whole program.
class OwnedBox : public QCheckBox {
    Q_OBJECT
  public:
    explicit OwnedBox(Session& session, QWidget* parent = nullptr);
};

/// Fills a box with the types of a list of the catalogue ("leds"), or those in the drawer where only these
/// are wanted, and chooses `now`, which is always among them. Each has its id as its data.
void offer_types(QComboBox& box, const Session& session, const std::string& list, const std::string& now);

/// Fills a box with the catalogue's wires, or with those in the drawer where only these are wanted and it has
/// any, and chooses the nearest to `now` [mm²], which is always among them. Each has its area as its data.
void offer_wires(QComboBox& box, const Session& session, double now);

}  // namespace elkit
