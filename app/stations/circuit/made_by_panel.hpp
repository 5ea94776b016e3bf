#pragma once
#include <QWidget>

#include "app/shell/session.hpp"
#include "kit/timer_or_controller.hpp"

class QPushButton;

namespace elkit {

class DataTable;

/// What a block does, made by timers and by a small controller: a column each, and the chosen one can take
/// its place.
class MadeByPanel : public QWidget {
    Q_OBJECT
  public:
    explicit MadeByPanel(Session& session, QWidget* parent = nullptr);
    /// Of a block of the design, or of one that would come into it.
    void show_block(const Design& design, std::size_t block, bool there);
    DataTable* table() const { return table_; }
    void take(int column);  ///< makes the block that way

  private:
    bool can_take(int column) const;
    void offer();
    Session& session_;
    DataTable* table_;
    QPushButton* take_;
    std::vector<MadeBy> shown_;
    std::optional<std::size_t> block_;  ///< of the session's design
};

}  // namespace elkit
