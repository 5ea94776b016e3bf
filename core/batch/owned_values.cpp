#include "batch/owned_values.hpp"

#include <algorithm>
#include <cmath>
#include <regex>

#include "circuit/part_kind.hpp"
#include "drawer/identity.hpp"
#include "drawer/sheet.hpp"
#include "quantity/plain_text.hpp"

namespace elkit {
namespace {

constexpr double same = 1e-9;  // relative
constexpr const char* wire_words[]{"wire", "cable", "litze", "draht"};

/// Whether one may do what the other does, its value aside.
bool bears_as_much(const Part& owned, const Part& asked, const PartKind& kind) {
    if (kind.param("rating") && owned.number("rating") < asked.number("rating") * (1 - same)) return false;
    return !kind.param("tolerance") || owned.number("tolerance") <= asked.number("tolerance") * (1 + same);
}

}  // namespace

std::vector<OwnedValue> owned_values(const std::vector<DrawerItem>& items, const Part& part,
                                     const std::string& batch, double pieces) {
    const PartKind* kind = part_kind(part.kind);
    const ParamInfo* info = kind ? kind->param(kind->value_key) : nullptr;
    std::vector<OwnedValue> out;
    if (!info || !std::holds_alternative<double>(info->standard)) return out;
    const double asked = part.number(info->key);
    const std::string family = kind->identity.family + "/";
    for (auto item = std::lower_bound(items.begin(), items.end(), family,
                                      [](const DrawerItem&i, const std::string&f) { return i.key < f; });
         item != items.end() && item->key.starts_with(family); ++item) {
        const double free = item->free_for(batch);
        if (free < std::max(1.0, pieces)) continue;
        const auto owned = part_of_key(item->key);
        if (!owned || owned->kind != part.kind || !bears_as_much(*owned, part, *kind)) continue;
        OwnedValue value{part, item->name, owned->number(info->key), free};
        for (const char* key : {"tolerance", "rating"}) value.part.params.erase(key);
        for (const auto& [key, is] : owned->params) value.part.params[key] = is;
        if (value.value > 0) out.push_back(std::move(value));
    }
    std::stable_sort(out.begin(), out.end(), [asked](const OwnedValue& a, const OwnedValue& b) {
        return std::abs(std::log(a.value / asked)) < std::abs(std::log(b.value / asked));
    });
    return out;
}

const OwnedValue* next_owned(const std::vector<OwnedValue>& owned, double value, int direction) {
    const OwnedValue* found = nullptr;
    for (const OwnedValue& one : owned) {
        const bool beyond = direction > 0 ? one.value > value * (1 + same) : one.value < value * (1 - same);
        if (!beyond) continue;
        if (!found || (direction > 0 ? one.value < found->value : one.value > found->value)) found = &one;
    }
    return found;
}

bool owns_choice(const std::vector<DrawerItem>& items, std::string_view choices_of, const std::string& id) {
    if (choices_of.empty()) return true;
    bool listed = false;
    for (const PartKind& kind : part_kinds()) {
        const bool chooses = std::any_of(kind.params.begin(), kind.params.end(), [&](const ParamInfo& info) {
            return info.choices_of == choices_of;
        });
        if (!chooses || choices_of == "types") continue;
        listed = true;
        const DrawerItem* item = find_item(items, kind.identity.family + "/" + id);
        if (item && item->stock >= 1) return true;
    }
    return !listed;
}

std::vector<double> owned_wires(const std::vector<DrawerItem>& items) {
    static const std::regex metric("([0-9]+(?:[.,][0-9]+)?) ?(?:mm²|mm2|mm\\^2|qmm)"),
        gauge("awg ?([0-9]{1,2})\\b");
    const auto number = [](const std::string& digits) {
        return loose_number(digits, digits.find(',') != std::string::npos).value_or(0);
    };
    std::vector<double> areas;
    for (const DrawerItem& item : items) {
        if (!(item.stock > 0)) continue;
        const std::string name = lower_case(item.name);
        const bool wire = std::any_of(std::begin(wire_words), std::end(wire_words),
                                      [&](const char* word) { return name.find(word) != std::string::npos; });
        std::smatch found;
        if (!wire) continue;
        if (std::regex_search(name, found, metric))
            areas.push_back(number(found[1].str()));
        else if (std::regex_search(name, found, gauge))  // ASTM B258: 92 to the 1/39 a step of diameter
            areas.push_back(0.012668 * std::pow(92, (36 - number(found[1].str())) / 19.5));
    }
    std::erase_if(areas, [](double area) { return !(area > 0); });
    std::sort(areas.begin(), areas.end());
    return areas;
}

}  // namespace elkit
