#pragma once
#include <QLineEdit>

#include "app/widgets/picture_view.hpp"

namespace elkit {

class Session;

/// The live stave: values are edited in place, switches toggled, nets lit up under the mouse.
class StaveWidget : public PictureView {
    Q_OBJECT
  public:
    explicit StaveWidget(Session& session, QWidget* parent = nullptr);
    void editValue(const QString& designator);  ///< opens the field over the value
    QLineEdit* editor() const { return editor_; }

  private:
    void refresh();
    void activate(const QString& ref);
    void step(const QString& ref, int steps);
    void commit();
    Session& session_;
    QLineEdit* editor_;
    std::string editing_;
};

}  // namespace elkit
