#include "drawer/item.hpp"

#include <algorithm>

#include "drawer/identity.hpp"
#include "quantity/plain_text.hpp"

namespace elkit {
namespace {

constexpr std::size_t longest_text = 200, longest_note = 1000;
constexpr double most_pieces = 1e9, least_pack = 0.01;

bool before(const DrawerItem& a, const DrawerItem& b) { return a.key < b.key; }

/// "2026-11-27"
bool is_day(const std::string& text) {
    if (text.size() != 10 || text[4] != '-' || text[7] != '-') return false;
    for (std::size_t at = 0; at < text.size(); ++at)
        if (at != 4 && at != 7 && (text[at] < '0' || text[at] > '9')) return false;
    const int month = std::stoi(text.substr(5, 2)), day = std::stoi(text.substr(8, 2));
    return month >= 1 && month <= 12 && day >= 1 && day <= 31;
}

}  // namespace

double DrawerItem::promised(std::string_view but_to) const {
    double sum = 0;
    for (const auto& [batch, pieces] : reserved)
        if (batch != but_to) sum += pieces;
    return sum;
}

double DrawerItem::free_for(std::string_view batch) const { return std::max(0.0, stock - promised(batch)); }

Result<void> check(const DrawerItem& item) {
    if (item.key.empty())
        return Error{Fault::usage, "drawer", "the part has no key", "kind/value, such as resistor/75"};
    const std::string place = "drawer, " + one_line(item.key, 60);
    const auto plain = [&](const std::string& text, std::size_t most) -> Result<void> {
        if (std::string trouble = trouble_of_text(text, most); !trouble.empty())
            return Error{Fault::usage, place, "the text \"" + one_line(text, 40) + "\" " + trouble,
                         "at most " + std::to_string(most) + " visible characters"};
        return success();
    };
    for (const std::string* text : {&item.key, &item.name, &item.package, &item.place, &item.supplier})
        if (auto sound = plain(*text, longest_text); !sound) return sound;
    for (const std::string* text : {&item.note, &item.photo})
        if (auto sound = plain(*text, longest_note); !sound) return sound;
    const auto in = [&](double value, double least) { return value >= least && value <= most_pieces; };
    if (!in(item.stock, 0) || !in(item.pack, least_pack) || !in(item.price, 0) || !in(item.least, 0))
        return Error{Fault::usage, place, "stock, pack, price or the least wanted is out of range",
                     "stock, price and least from 0 to 1e9, pack from 0.01"};
    for (const auto& [batch, pieces] : item.reserved) {
        if (auto sound = plain(batch, longest_text); !sound) return sound;
        if (batch.empty() || !in(pieces, 0))
            return Error{Fault::usage, place, "what is reserved is out of range",
                         "a batch, and 0 to 1e9 pieces"};
    }
    if (!item.counted.empty() && !is_day(item.counted))
        return Error{Fault::usage, place, "\"" + one_line(item.counted, 40) + "\" is no day",
                     "year-month-day, such as 2026-03-01"};
    return success();
}

std::vector<DrawerItem> with_changes(std::vector<DrawerItem> items,
                                     const std::vector<DrawerChange>& changes) {
    std::map<std::string_view, const DrawerChange*> last;  // of a key that changes twice
    for (const DrawerChange& change : changes) last[change.key] = &change;
    std::erase_if(items, [&](const DrawerItem& item) { return last.contains(item.key); });
    const auto kept = static_cast<std::ptrdiff_t>(items.size());
    for (const auto& [key, change] : last)
        if (change->item) items.push_back(*change->item);
    std::stable_sort(items.begin() + kept, items.end(), before);
    std::inplace_merge(items.begin(), items.begin() + kept, items.end(), before);
    return items;
}

std::vector<DrawerChange> inverse(const std::vector<DrawerItem>& items,
                                  const std::vector<DrawerChange>& changes) {
    std::vector<DrawerChange> back;
    for (const DrawerChange& change : changes) {
        const DrawerItem* known = find_item(items, change.key);
        back.push_back({change.key, known ? std::optional(*known) : std::nullopt});
    }
    return back;
}

Digest content_digest(const std::vector<DrawerItem>& items) {
    Digester d;
    for (const DrawerItem& i : items) {
        d << i.key << i.name << i.stock << i.pack << i.price << i.least << i.package << i.place << i.note
          << i.supplier << i.photo << i.counted << i.reserved.size();
        for (const auto& [batch, pieces] : i.reserved) d << batch << pieces;
    }
    return d.digest();
}

const DrawerItem* find_item(const std::vector<DrawerItem>& items, std::string_view key) {
    const auto found =
        std::lower_bound(items.begin(), items.end(), key,
                         [](const DrawerItem& item, std::string_view k) { return item.key < k; });
    return found == items.end() || found->key != key ? nullptr : &*found;
}

/// Values of what is in stock under keys that begin so, ascending.
static std::vector<double> owned(const std::vector<DrawerItem>& items,
                                 std::initializer_list<std::string_view> families) {
    std::vector<double> values;
    for (const DrawerItem& item : items) {
        const bool wanted = std::any_of(families.begin(), families.end(), [&](std::string_view family) {
            return item.key.starts_with(family);
        });
        if (!wanted || item.stock < 1) continue;
        if (const auto part = part_of_key(item.key)) values.push_back(part->number("value"));
    }
    std::sort(values.begin(), values.end());
    values.erase(std::unique(values.begin(), values.end()), values.end());
    return values;
}

std::vector<double> owned_resistors(const std::vector<DrawerItem>& items) {
    return owned(items, {"resistor/"});
}

std::vector<double> owned_capacitors(const std::vector<DrawerItem>& items) {
    return owned(items, {"capacitor/", "electrolytic/"});
}

}  // namespace elkit
