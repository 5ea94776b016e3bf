// Any bytes as a table of parts owned: an error, or a plan whose changes a drawer can keep and whose items
// read back as they were written.
#include "drawer/import.hpp"
#include "fuzz.hpp"

using namespace elkit;

int LLVMFuzzerTestOneInput(const std::uint8_t* data, std::size_t size) {
    const auto sheet = read_drawer_sheet(fuzz::text_of(data, size));
    if (!sheet) {
        fuzz::require_good_error(sheet.error());
        return 0;
    }
    static const std::vector<DrawerItem> known = demo_stock();
    const ImportPlan plan = plan_import(sheet.value(), known, ImportCounts::add);
    fuzz::require(plan.fresh + plan.changed + plan.same + plan.left_out == plan.rows.size(),
                  "every row is told of");
    const std::vector<DrawerChange> changes = plan.changes();
    for (const DrawerChange& change : changes)
        fuzz::require(change.item && check(*change.item), "what is planned can be kept");
    const auto items = with_changes(known, changes);
    fuzz::require(with_changes(items, inverse(known, changes)) == known, "a step leads back");
    return 0;
}
