#pragma once
#include <QTimer>
#include <QWidget>
#include <memory>
#include <optional>

#include "app/shell/background.hpp"
#include "behaviour/rows.hpp"
#include "engine/conditions.hpp"
#include "engine/pictures.hpp"

class QCheckBox;
class QComboBox;
class QLabel;
class QPushButton;
class QTableWidget;

namespace elkit {

class Session;

/// What a controller does, state by state, as rows that are edited in place. The state of the current row is
/// played on the stave meanwhile, as the circuit engine has it.
class BehaviourPanel : public QWidget {
    Q_OBJECT
  public:
    explicit BehaviourPanel(Session& session, QWidget* parent = nullptr);
    QTableWidget* rows() const { return rows_; }
    QLabel* trouble() const { return trouble_; }
    void add(BehaviourLine::Is is);  ///< a row behind the current one
    void removeRow();
    void moveRow(int by);
    void watch(bool on);
    void showAt(double share);  ///< stops playing at this share of what it plays
    bool computing() const { return work_.running(); }
    bool playing() const { return clock_.isActive(); }
    bool writeFirmware(const QString& folder);  ///< false if it could not

  signals:
    void pictureShown(const OperatingPoint* readings);  ///< nullptr: the present again

  protected:
    void showEvent(QShowEvent* event) override;
    void hideEvent(QHideEvent* event) override;

  private:
    QWidget* tools();
    const Part* controller() const;
    void refresh();
    void fill();
    void fillRow(int row, const BehaviourLine& line);
    void taken();  ///< from the rows to the design
    void preview();
    void stop();
    void advance();
    std::string currentState() const;
    Session& session_;
    QComboBox* which_;
    QTableWidget* rows_;
    QLabel *trouble_, *abilities_, *watched_;
    QCheckBox* watch_;
    std::vector<BehaviourLine> lines_;  ///< as they stand, also while they make no sense
    std::vector<std::string> sinks_;
    std::string shown_;                                        ///< the table in the rows
    std::optional<std::pair<Circuit, Conditions>> previewed_;  ///< what is played
    std::shared_ptr<const Pictures> pictures_;
    std::size_t picture_ = 0;
    QTimer clock_;
    Background work_;
    bool filling_ = false;
};

}  // namespace elkit
