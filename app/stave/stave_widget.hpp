#pragma once
#include <QLineEdit>

#include "app/widgets/picture_view.hpp"
#include "design/design.hpp"
#include "engine/operating_point.hpp"
#include "quantity/result.hpp"

class QMenu;

namespace elkit {

class OverviewStrip;
class Session;

/// The live stave: values are edited in place, switches toggled, nets lit up under the mouse.
class StaveWidget : public PictureView {
    Q_OBJECT
  public:
    explicit StaveWidget(Session& session, QWidget* parent = nullptr);
    void editValue(const QString& designator);  ///< opens the field over the value
    void renameNet(const QString& net);         ///< opens the field over the line's name
    void copyPart();                            ///< the chosen part as rows, to the clipboard
    void pasteParts();                          ///< parts of the clipboard under free designators
    QLineEdit* editor() const { return editor_; }
    /// Shows this in place of the live picture, such as a moment of a recording; an empty one goes back.
    void showMoment(std::optional<Drawing> moment);
    void zoom(double factor, QPointF around) override;
    void fit() override;
    void toggleFold(const std::string& first);  ///< of the group of alike columns that begins with this part
    /// Chooses an item; a part that is folded away is unfolded first.
    void reveal(const QString& ref);
    OverviewStrip* overview() const { return overview_; }

  signals:
    void netTouched(const QString& net);             ///< clicked, as with a probe
    void traceWanted(const QString& probe);          ///< "net:OUT", "part:L1", "light:L1": to see in time
    void probeWanted(const QString& net, bool red);  ///< a meter's probe put on a line

  protected:
    bool event(QEvent* event) override;
    void showEvent(QShowEvent* event) override;
    void keyPressEvent(QKeyEvent* event) override;
    void contextMenuEvent(QContextMenuEvent* event) override;
    void resizeEvent(QResizeEvent* event) override;
    /// The drawing is made for the room and the zoom; one that is a little too wide is shown a little
    /// smaller.
    double scale() const override;
    QSize viewSize() const override;

  private:
    void openEditor(const QString& ref, const QString& text, const QString& name);
    bool netKey(int key, const QString& net);
    bool partKey(QKeyEvent* event, const std::string& part);
    QMenu* netMenu(const QString& net);
    QMenu* partMenu(const QString& part);
    void refresh();
    void takeRoom();
    void lightNet(const QString& ref);
    OperatingPoint readings();
    void reconnect(const QString& ref, QPointF at);
    void say(const std::string& words);  ///< does what the do-anything line would
    void activate(const QString& ref);
    void step(const QString& ref, int steps);
    std::vector<std::string> drawnAs(const std::string& part) const;
    Result<Design> edited() const;
    void commit();
    Session& session_;
    QLineEdit* editor_;
    OverviewStrip* overview_;
    std::string editing_;   ///< the part whose value, or
    std::string renaming_;  ///< the net whose name is in the field
    std::optional<Drawing> moment_;
};

}  // namespace elkit
