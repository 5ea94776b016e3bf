#pragma once
#include <QWidget>

#include "app/shell/background.hpp"

class QLabel;
class QVBoxLayout;

namespace elkit {

class Session;
struct Finding;
struct Remedy;

/// The running review: each finding with its numbers, remedies, and "I know, because …".
class FindingsPanel : public QWidget {
    Q_OBJECT
  public:
    explicit FindingsPanel(Session& session, QWidget* parent = nullptr);
    void refresh();

  signals:
    void linkFollowed(const QString& station, const QString& ref);

  private:
    QWidget* card(const Finding& finding);
    void work(const Remedy& remedy);
    void decide(const QString& id, const QString& reason);
    Session& session_;
    Background remedy_;
    QLabel* count_;
    QVBoxLayout* list_;
    std::vector<std::string> shown_;
};

}  // namespace elkit
