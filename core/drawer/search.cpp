#include "drawer/search.hpp"

#include <algorithm>
#include <cmath>
#include <sstream>

#include "quantity/parse.hpp"
#include "quantity/plain_text.hpp"

namespace elkit {
namespace {

constexpr double same_value = 1e-6;  // relative: written in two ways

struct Sought {
    std::string text;
    double ohms = 0, farads = 0, henries = 0;  ///< what it would be as a value; 0: none
    double as(Unit unit) const {
        return unit == Unit::ohm ? ohms : unit == Unit::farad ? farads : unit == Unit::henry ? henries : 0;
    }
};

std::vector<Sought> sought_in(const std::string& words) {
    std::vector<Sought> out;
    std::istringstream in(words);
    for (std::string word; in >> word;) {
        Sought sought{lower_case(word)};
        const auto value = [&word](Unit unit) {
            const auto read = parse_quantity(word, unit);
            return read ? read.value() : 0;
        };
        sought.ohms = value(Unit::ohm), sought.farads = value(Unit::farad),
        sought.henries = value(Unit::henry);
        out.push_back(std::move(sought));
    }
    return out;
}

bool fits(const Sought& sought, const ItemWords& words, const std::string& text) {
    if (text.find(sought.text) != std::string::npos) return true;
    const double value = sought.as(words.unit);
    return value > 0 && std::abs(value - words.number) <= same_value * value;
}

bool fits(const DrawerItem& item, const DrawerFilter& filter) {
    return (!filter.in_stock || item.stock >= 1) && (!filter.low || item.low()) &&
           (!filter.reserved || !item.reserved.empty());
}

}  // namespace

DrawerIndex::DrawerIndex(const std::vector<DrawerItem>& items, const DrawerIndex& before) {
    rows_.reserve(items.size());
    auto known = before.rows_.begin();
    for (const DrawerItem& item : items) {
        while (known != before.rows_.end() && known->key < item.key) ++known;
        const bool same = known != before.rows_.end() && known->key == item.key;
        Row row{item.key, same ? known->words : words_of_key(item.key), {}};
        for (const std::string* text : std::initializer_list<const std::string*>{
                 &item.key, &item.name, &item.place, &item.note, &item.package, &item.supplier,
                 &row.words.kind, &row.words.value, &row.words.tolerance, &row.words.rating})
            row.text += *text, row.text += '\n';
        for (const auto& [batch, pieces] : item.reserved) row.text += batch, row.text += '\n';
        row.text = lower_case(row.text);
        rows_.push_back(std::move(row));
    }
}

std::vector<std::size_t> DrawerIndex::find(const std::vector<DrawerItem>& items,
                                           const DrawerFilter& filter) const {
    const std::vector<Sought> sought = sought_in(filter.words);
    std::vector<std::size_t> found;
    for (std::size_t at = 0; at < items.size() && at < rows_.size(); ++at)
        if (fits(items[at], filter) && std::all_of(sought.begin(), sought.end(), [&](const Sought& word) {
                return fits(word, rows_[at].words, rows_[at].text);
            }))
            found.push_back(at);
    return found;
}

std::vector<DrawerItem> found_items(const std::vector<DrawerItem>& items, const DrawerFilter& filter) {
    std::vector<DrawerItem> out;
    for (const std::size_t at : DrawerIndex(items).find(items, filter)) out.push_back(items[at]);
    return out;
}

DrawerTotals totals(const std::vector<DrawerItem>& items) {
    DrawerTotals sum{items.size()};
    for (const DrawerItem& item : items)
        sum.pieces += item.stock, sum.worth += item.stock * item.unit_price(), sum.low += item.low() ? 1 : 0;
    return sum;
}

}  // namespace elkit
