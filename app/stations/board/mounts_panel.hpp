#pragma once
#include "app/widgets/tab_panel.hpp"
#include "board/mount.hpp"

class QComboBox;

namespace elkit {

class PictureView;

/// How each part meets the board: its footprint, its place, the order of its legs; chosen for the row that is
/// picked.
class MountsPanel : public TabPanel {
    Q_OBJECT
  public:
    explicit MountsPanel(Session& session, QWidget* parent = nullptr);
    void refresh() override;
    void choose(const QString& ref);  ///< "part:R1"
    DataTable* table() const { return table_; }

  private:
    void fill();
    void showPart();
    void change(const std::function<void(PartMount&)>& what, const QString& name);
    QString part() const;
    DataTable* table_;
    QComboBox *footprint_, *place_, *legs_;
    QLabel *name_, *legs_name_;
    PictureView* picture_;
    Digest filled_;
    bool filling_ = false;
};

}  // namespace elkit
