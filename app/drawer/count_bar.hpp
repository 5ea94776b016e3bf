#pragma once
#include <QFrame>
#include <string>
#include <vector>

#include "drawer/item.hpp"

class QLabel;
class QLineEdit;

namespace elkit {

class Stock;

/// Counting again: one item after another, its place and what the drawer says, and a field for what is there.
class CountBar : public QFrame {
    Q_OBJECT
  public:
    explicit CountBar(Stock& stock, QWidget* parent = nullptr);
    void begin(std::vector<std::string> keys);  ///< those that are gone by then are passed over

  signals:
    void at(const std::string& key);
    void counted(const elkit::DrawerItem& next);
    void refused(const QString& why);

  private:
    void step();  ///< to the next, or to the end
    Stock& stock_;
    std::vector<std::string> keys_;
    std::size_t now_ = 0;
    QLabel* asked_;
    QLineEdit* pieces_;
};

}  // namespace elkit
