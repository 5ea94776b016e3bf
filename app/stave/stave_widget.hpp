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
    /// Shows this in place of the live picture, such as a moment of a recording; an empty one goes back.
    void showMoment(std::optional<Drawing> moment);

  signals:
    void netChosen(const QString& net);  ///< double click on a line

  protected:
    void keyPressEvent(QKeyEvent* event) override;

  private:
    void refresh();
    void reconnect(const QString& ref, QPointF at);
    void say(const std::string& words);  ///< does what the do-anything line would
    void activate(const QString& ref);
    void step(const QString& ref, int steps);
    void commit();
    Session& session_;
    QLineEdit* editor_;
    std::string editing_;
    std::optional<Drawing> moment_;
};

}  // namespace elkit
