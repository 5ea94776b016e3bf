#pragma once
#include <QWidget>

#include "planning/match.hpp"

class QCheckBox;
class QLabel;
class QPushButton;

namespace elkit {

class DataTable;
class Session;

/// Resistors with which the design's colours look equally bright.
class MatchPanel : public QWidget {
    Q_OBJECT
  public:
    explicit MatchPanel(Session& session, QWidget* parent = nullptr);
    void refresh();
    DataTable* table() { return table_; }
    void use();  ///< takes the resistors into the design

  private:
    MatchQuery query() const;
    Session& session_;
    QCheckBox *diffuse_, *owned_;
    QPushButton* use_;
    DataTable* table_;
    QLabel* note_;
    Digest shown_;
};

}  // namespace elkit
