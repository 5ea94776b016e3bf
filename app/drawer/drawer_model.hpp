#pragma once
#include <QAbstractTableModel>
#include <optional>

#include "drawer/search.hpp"

namespace elkit {

class Stock;

/// The items of the drawer that a filter finds, as rows of a table; the cells that are no words of its kind
/// can be typed in.
class DrawerModel : public QAbstractTableModel {
    Q_OBJECT
  public:
    enum Column { name, kind, value, place, stock, free, least, pack, price, counted, columns };
    explicit DrawerModel(Stock& stock, QObject* parent = nullptr);

    void setFilter(const DrawerFilter& filter);
    const DrawerItem* item(int row) const;    ///< nullptr out of range
    int rowOf(const std::string& key) const;  ///< −1 if the filter does not find it
    void read();                              ///< the drawer is another

    int rowCount(const QModelIndex& parent = {}) const override;
    int columnCount(const QModelIndex& parent = {}) const override;
    QVariant data(const QModelIndex& index, int role) const override;
    QVariant headerData(int section, Qt::Orientation orientation, int role) const override;
    Qt::ItemFlags flags(const QModelIndex& index) const override;
    bool setData(const QModelIndex& index, const QVariant& value, int role) override;
    void sort(int column, Qt::SortOrder order) override;

  signals:
    void edited(const elkit::DrawerItem& next);
    void refused(const QString& why);

  private:
    void find();
    QString text(const DrawerItem& item, const ItemWords& words, int column) const;
    std::optional<double> number(const DrawerItem& item, const ItemWords& words, int column) const;
    Stock& stock_;
    DrawerIndex index_;
    DrawerFilter filter_;
    std::vector<std::size_t> rows_;
    int sorted_by_ = -1;
    Qt::SortOrder order_ = Qt::AscendingOrder;
};

}  // namespace elkit
