#include "app/drawer/drawer_model.hpp"

#include <QCollator>
#include <algorithm>
#include <tuple>

#include "app/drawer/stock.hpp"
#include "app/theme/theme.hpp"
#include "drawer/sheet.hpp"

namespace elkit {
namespace {

QString plain(double number) { return QString::number(number, 'g', 7); }

bool is_number(int column) {
    using M = DrawerModel;
    return column == M::stock || column == M::free || column == M::least || column == M::pack ||
           column == M::price;
}

}  // namespace

DrawerModel::DrawerModel(Stock& of, QObject* parent) : QAbstractTableModel(parent), stock_(of) { read(); }

void DrawerModel::read() {
    index_ = DrawerIndex(*stock_.items(), index_);
    find();
}

void DrawerModel::setFilter(const DrawerFilter& filter) {
    filter_ = filter;
    find();
}

void DrawerModel::find() {
    beginResetModel();
    const auto& items = *stock_.items();
    rows_ = index_.find(items, filter_);
    if (sorted_by_ < 0) {  // as one looks for them: by kind, then by value
        std::stable_sort(rows_.begin(), rows_.end(), [&](std::size_t a, std::size_t b) {
            const ItemWords &x = index_.words(a), &y = index_.words(b);
            return std::tie(x.kind, x.number) < std::tie(y.kind, y.number);
        });
    } else {
        QCollator natural;
        natural.setNumericMode(true);
        const bool up = order_ == Qt::AscendingOrder;
        if (is_number(sorted_by_) || sorted_by_ == value) {
            std::stable_sort(rows_.begin(), rows_.end(), [&](std::size_t a, std::size_t b) {
                const auto x = number(items[a], index_.words(a), sorted_by_),
                           y = number(items[b], index_.words(b), sorted_by_);
                return up ? x < y : y < x;
            });
        } else {
            std::vector<std::pair<QCollatorSortKey, std::size_t>> keyed;
            for (const std::size_t at : rows_)
                keyed.emplace_back(natural.sortKey(text(items[at], index_.words(at), sorted_by_)), at);
            std::stable_sort(keyed.begin(), keyed.end(), [up](const auto& a, const auto& b) {
                return up ? a.first < b.first : b.first < a.first;
            });
            std::transform(keyed.begin(), keyed.end(), rows_.begin(),
                           [](const auto& row) { return row.second; });
        }
    }
    endResetModel();
}

void DrawerModel::sort(int column, Qt::SortOrder order) {
    sorted_by_ = column, order_ = order;
    find();
}

const DrawerItem* DrawerModel::item(int row) const {
    if (row < 0 || row >= rowCount()) return nullptr;
    return &(*stock_.items())[rows_[static_cast<std::size_t>(row)]];
}

int DrawerModel::rowOf(const std::string& key) const {
    for (int row = 0; row < rowCount(); ++row)
        if (item(row)->key == key) return row;
    return -1;
}

int DrawerModel::rowCount(const QModelIndex& parent) const {
    return parent.isValid() ? 0 : static_cast<int>(rows_.size());
}

int DrawerModel::columnCount(const QModelIndex& parent) const { return parent.isValid() ? 0 : columns; }

std::optional<double> DrawerModel::number(const DrawerItem& item, const ItemWords& words, int column) const {
    switch (column) {
        case value:
            return words.number;
        case stock:
            return item.stock;
        case free:
            return item.free_for({});
        case least:
            return item.least;
        case pack:
            return item.pack;
        case price:
            return item.price;
        default:
            return std::nullopt;
    }
}

QString DrawerModel::text(const DrawerItem& item, const ItemWords& words, int column) const {
    const auto q = [](const std::string& text) { return QString::fromStdString(text); };
    switch (column) {
        case name:
            return q(item.name);
        case kind:
            return q(words.kind);
        case value: {
            QString all = q(words.value);
            for (const std::string* more : {&words.tolerance, &words.rating})
                if (!more->empty()) all += QStringLiteral(" · ") + q(*more);
            return all;
        }
        case stock:
            return plain(item.stock);
        case free:
            return item.reserved.empty() ? QString() : plain(item.free_for({}));
        case place:
            return q(item.place);
        case least:
            return item.least > 0 ? plain(item.least) : QString();
        case pack:
            return plain(item.pack);
        case price:
            return QString::number(item.price, 'f', 2);
        case counted:
            return q(item.counted);
        default:
            return {};
    }
}

QVariant DrawerModel::data(const QModelIndex& index, int role) const {
    const DrawerItem* of = item(index.row());
    if (!of) return {};
    const std::size_t at = rows_[static_cast<std::size_t>(index.row())];
    switch (role) {
        case Qt::DisplayRole:
        case Qt::EditRole:
        case Qt::ToolTipRole:
            return text(*of, index_.words(at), index.column());
        case Qt::TextAlignmentRole:
            return QVariant::fromValue(Qt::Alignment(
                (is_number(index.column()) ? Qt::AlignRight : Qt::AlignLeft) | Qt::AlignVCenter));
        case Qt::ForegroundRole:
            if (of->low() && (index.column() == stock || index.column() == least)) return theme().rust;
            return {};
        default:
            return {};
    }
}

QVariant DrawerModel::headerData(int section, Qt::Orientation orientation, int role) const {
    if (orientation != Qt::Horizontal) return {};
    if (role == Qt::TextAlignmentRole)
        return QVariant::fromValue(
            Qt::Alignment((is_number(section) ? Qt::AlignRight : Qt::AlignLeft) | Qt::AlignVCenter));
    if (role != Qt::DisplayRole) return {};
    const QString names[] = {tr("part"), tr("kind"),  tr("value"),   tr("place"),      tr("in stock"),
                             tr("free"), tr("least"), tr("pack of"), tr("pack price"), tr("counted")};
    return names[section];
}

Qt::ItemFlags DrawerModel::flags(const QModelIndex& index) const {
    const Qt::ItemFlags usual = QAbstractTableModel::flags(index);
    const int c = index.column();
    return c == kind || c == value || c == free || c == counted ? usual : usual | Qt::ItemIsEditable;
}

bool DrawerModel::setData(const QModelIndex& index, const QVariant& typed, int role) {
    const DrawerItem* of = item(index.row());
    if (!of || role != Qt::EditRole) return false;
    DrawerItem next = *of;
    const std::string words = typed.toString().trimmed().toStdString();
    const auto number = loose_number(words, false);
    if (is_number(index.column()) && !number && !(index.column() == least && words.empty())) {
        emit refused(tr("%1: “%2” is no number").arg(QString::fromStdString(of->name), typed.toString()));
        return false;
    }
    switch (index.column()) {
        case name:
            next.name = words;
            break;
        case stock:
            next.stock = *number;
            break;
        case place:
            next.place = words;
            break;
        case least:
            next.least = number.value_or(0);
            break;
        case pack:
            next.pack = *number;
            break;
        case price:
            next.price = *number;
            break;
        default:
            return false;
    }
    emit edited(next);
    return true;
}

}  // namespace elkit
