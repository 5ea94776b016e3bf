#pragma once
#include <QWidget>
#include <map>

#include "app/shell/background.hpp"

class QLabel;
class QPushButton;
class QVBoxLayout;

namespace elkit {

class Session;
struct Finding;

/// The running review: each finding with its numbers, remedies, and "I know, because …". It folds to its
/// count, and stays so between starts.
class FindingsPanel : public QWidget {
    Q_OBJECT
  public:
    explicit FindingsPanel(Session& session, QWidget* parent = nullptr);
    void refresh();
    void setFolded(bool folded);
    bool folded() const { return folded_; }
    /// In a window too narrow for both, the bench comes first; the findings open when asked for.
    void setShortOfRoom(bool is_short);

  signals:
    void linkFollowed(const QString& station, const QString& ref);

  private:
    QWidget* card(const Finding& finding);
    void work(const std::string& id, const std::string& remedy);
    void decide(const QString& id, const QString& reason);
    Session& session_;
    Background remedy_;
    QLabel* count_;
    QWidget* open_;        ///< all of it
    QPushButton* narrow_;  ///< the count alone
    bool folded_ = false, short_of_room_ = false;
    void apply();
    QVBoxLayout* list_;
    QLabel* nothing_;  ///< said where there is none
    std::vector<std::string> shown_;
    std::map<std::string, QWidget*> cards_;  ///< by what they show
};

}  // namespace elkit
