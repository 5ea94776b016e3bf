#pragma once
#include "app/widgets/tab_panel.hpp"
#include "board/board.hpp"

class QCheckBox;
class QComboBox;
class QLineEdit;
class QPushButton;

namespace elkit {

class Form;

/// Boards on which parts can be put anywhere: where each lies, moved, turned and kept by hand; the shape of
/// the board, the net that fills it, and whether its lights stand where the face has them.
class HandPanel : public TabPanel {
    Q_OBJECT
  public:
    explicit HandPanel(Session& session, QWidget* parent = nullptr);
    void refresh() override;
    void choose(const QString& ref);  ///< "part:R1"
    /// By so many mm, as seen from the component side.
    void move(const QString& part, double dx, double dy);
    void turn(const QString& part);
    /// A track, joint or link ("net:GND") or a place it was pulled to ("pull:0") to here [mm].
    void pull(const QString& ref, double x, double y, bool component_side);
    void keepFree(const QRectF& area);  ///< [mm]
    void remove(const QString& ref);    ///< "pull:0", "free:0"; nothing else
    DataTable* table() const { return table_; }

  private:
    void buildChoices(QBoxLayout* column);
    void fill(const Board& board);
    void followHand(const BoardQuery& query);
    void keep(bool locked);
    void bend(double span);
    void showPart();  ///< what can be done to the picked one
    QString part() const;
    /// What a by-hand change needs: the board as it lies now, or as it was put; nullptr while there is none.
    const Board* board() const { return board_ ? &*board_ : nullptr; }

    DataTable* table_;
    QPushButton *turn_, *anew_, *tracks_;
    QWidget* choices_;
    Form* form_;  ///< of these; some are only of boards whose copper is drawn
    QCheckBox* keep_;
    QComboBox* span_;  ///< how far the picked part's legs are bent apart [mm]
    QComboBox *shape_, *area_, *lights_, *parting_;
    QLineEdit *free_, *passed_, *words_;
    QStringList nets_;  ///< that can fill the board
    std::optional<Board> board_;
    BoardChoices made_of_;  ///< of the design that it is the board of
    Digest filled_;
    bool filling_ = false;
};

}  // namespace elkit
