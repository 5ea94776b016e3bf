#pragma once
#include <QWidget>
#include <vector>

#include "design/design.hpp"

class QHBoxLayout;
class QPushButton;

namespace elkit {

class Session;

/// The situations of the design as chips: one click sets all conditions. What is set by hand can be kept as
/// one more. Those for which there is no room stand in a menu; no name is cut.
class SituationChips : public QWidget {
    Q_OBJECT
  public:
    explicit SituationChips(Session& session, QWidget* parent = nullptr);
    void step(int by);  ///< to the next one, or the one before

  protected:
    void resizeEvent(QResizeEvent* event) override;

  private:
    void fit();
    void openMore();
    void refresh();
    void rebuild();
    QPushButton* chip(const Situation& situation);
    void menuFor(const std::string& name, const QPoint& at);
    void keep();
    Session& session_;
    QHBoxLayout* row_;
    QPushButton *keep_, *more_;
    std::vector<Situation> shown_;
    std::vector<QPushButton*> chips_;
};

}  // namespace elkit
