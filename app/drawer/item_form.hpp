#pragma once
#include <QWidget>
#include <functional>
#include <optional>
#include <vector>

#include "drawer/item.hpp"

class QLabel;
class QLineEdit;
class QPushButton;

namespace elkit {

/// Everything about one item of the drawer, to be changed.
class ItemForm : public QWidget {
    Q_OBJECT
  public:
    explicit ItemForm(QWidget* parent = nullptr);
    void show_item(const std::optional<DrawerItem>& item);
    const std::optional<DrawerItem>& item() const { return item_; }

  signals:
    /// Another in the place of the item of this key; the keys may differ.
    void edited(const std::string& key, const elkit::DrawerItem& next);
    void removed(const std::string& key);
    void refused(const QString& why);

  private:
    struct Field {
        QLineEdit* line;
        std::function<QString(const DrawerItem&)> get;
        std::function<bool(DrawerItem&, const QString&)> set;
    };
    void add(const QString& name, std::function<QString(const DrawerItem&)> get,
             std::function<bool(DrawerItem&, const QString&)> set);
    void addText(const QString& name, std::string DrawerItem::*member);
    void addNumber(const QString& name, double DrawerItem::*member);
    void choosePhoto();
    void showPhoto();
    std::optional<DrawerItem> item_;
    std::vector<Field> fields_;
    QLabel *title_, *promised_, *photo_;
    QPushButton *choose_, *remove_;
    class Form* form_;
};

}  // namespace elkit
