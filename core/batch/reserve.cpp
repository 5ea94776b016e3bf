#include "batch/reserve.hpp"

#include <fmt/format.h>

#include <algorithm>

namespace elkit {
namespace {

/// What each line of the list does to its item: `take(item, needed)` gives how many it got.
template <class Take>
BatchMove for_each_line(const std::vector<DrawerItem>& items, const PartsList& list, const std::string& batch,
                        Take take) {
    BatchMove move = release(items, batch);
    for (const PartsLine& line : list.lines) {
        const DrawerItem* known = find_item(items, line.key);
        DrawerItem item = known ? *known : DrawerItem{line.key, line.name};
        item.reserved.erase(batch);
        const double needed = line.needed.value, got = take(item, needed);
        if (got < needed)
            move.short_of.push_back(fmt::format("{}{}{}: {:.6g} of {:.6g}", line.designators,
                                                line.designators.empty() ? "" : ", ", line.name, got,
                                                needed));
        std::erase_if(move.changes, [&](const DrawerChange& change) { return change.key == line.key; });
        if (known && !(item == *known)) move.changes.push_back({line.key, item});
    }
    return move;
}

}  // namespace

BatchMove release(const std::vector<DrawerItem>& items, const std::string& batch) {
    BatchMove move;
    for (const DrawerItem& item : items)
        if (item.reserved.contains(batch)) {
            move.changes.push_back({item.key, item});
            move.changes.back().item->reserved.erase(batch);
        }
    return move;
}

BatchMove reserve(const std::vector<DrawerItem>& items, const PartsList& list, const std::string& batch) {
    return for_each_line(items, list, batch, [&](DrawerItem& item, double needed) {
        const double got = std::min(needed, item.free_for(batch));
        if (got > 0) item.reserved[batch] = got;
        return got;
    });
}

BatchMove use_up(const std::vector<DrawerItem>& items, const PartsList& list, const std::string& batch) {
    return for_each_line(items, list, batch, [&](DrawerItem& item, double needed) {
        const double got = std::min(needed, item.stock);
        item.stock -= got;
        return got;
    });
}

std::map<std::string, std::size_t> batches_reserved(const std::vector<DrawerItem>& items) {
    std::map<std::string, std::size_t> batches;
    for (const DrawerItem& item : items)
        for (const auto& [batch, pieces] : item.reserved) ++batches[batch];
    return batches;
}

}  // namespace elkit
