#pragma once
#include <QWidget>
#include <map>
#include <optional>

#include "app/shell/session.hpp"
#include "recipes/asking.hpp"
#include "recipes/measured.hpp"

class QBoxLayout;
class QLabel;
class QPushButton;
class QTabWidget;
class QVBoxLayout;

namespace elkit {

class CellsPanel;
class MadeByPanel;
class DataTable;
class EffectView;
class GoalsForm;
class IntentList;
class PictureView;

/// "What should it do?": intents at the left, at the right the goals of the one that is chosen, what the
/// engine finds of the circuit that would come of them, what would change, and a button that does it.
class RecipePage : public QWidget {
    Q_OBJECT
  public:
    explicit RecipePage(Session& session, QWidget* parent = nullptr);
    void refresh();
    void choose(const QString& id);  ///< a recipe, or "#0" for a block of the design
    /// A goal as if it was entered in its field.
    void setGoal(const QString& key, const ParamValue& value);
    IntentList* intents() const { return intents_; }
    QPushButton* putIn() const { return put_in_; }
    QPushButton* remove() const { return remove_; }
    DataTable* otherWays() const { return others_; }
    QTabWidget* lower() const { return lower_; }

  signals:
    void done();           ///< something was put in: back to the circuit
    void anythingAsked();  ///< the do-anything line

  private:
    QWidget* buildRight();
    void take(const QString& id);
    void forget();  ///< nothing is chosen, and nothing said
    void rebuildForm();
    QStringList around() const;
    void showTrial();
    void showFound(const Design& trial);
    void showOtherWays(const Design& trial);
    void showBeside(const Design& trial, const Goals& goals);
    void takeWay(int row);
    void offerWays(const Error& error);
    void apply();
    void takeOut();
    Result<Design> trial() const;
    Goals goals() const;
    std::size_t blockOf(const Design& trial) const;

    Session& session_;
    const Recipe* recipe_ = nullptr;
    std::optional<std::size_t> block_;  ///< of the design; else a new one
    std::map<std::string, ParamValue> said_;
    Joins joins_;
    QStringList around_;  ///< what of the design the form depends on
    IntentList* intents_;
    EffectView* effect_;
    QLabel *title_, *about_, *trouble_, *changes_;
    QVBoxLayout* form_room_;
    QBoxLayout* ways_;
    GoalsForm* form_ = nullptr;
    DataTable *found_, *others_;
    QTabWidget* lower_;
    PictureView* picture_;
    CellsPanel* cells_;
    MadeByPanel* made_by_;
    std::vector<Goals> other_goals_;  ///< of the rows of `others_`
    QPushButton *put_in_, *remove_;
};

}  // namespace elkit
