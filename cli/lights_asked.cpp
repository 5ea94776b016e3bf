#include "cli/lights_asked.hpp"

#include <fmt/format.h>
#include <fmt/ranges.h>

#include "catalogue/catalogue.hpp"
#include "design/file.hpp"

namespace elkit::cli {
namespace {

/// "3 x LR6" or "12V" as a part.
Result<Part> source_from_words(const std::string& words) {
    Part source{"B1", "battery", {}, {{"+", "V+"}, {"-", "GND"}}, {}};
    const auto times = words.find_first_of("xX");
    int count = 0;
    if (times != std::string::npos && std::sscanf(words.c_str(), "%d", &count) == 1 && count >= 1) {
        std::string cell = words.substr(times + 1);
        cell.erase(0, cell.find_first_not_of(' '));
        for (const CellType& type : known_catalogue().cells)
            if (CLI::detail::to_lower(type.id) == CLI::detail::to_lower(cell)) {
                source.params["cell"] = type.id, source.params["count"] = static_cast<double>(count);
                return source;
            }
        return Error{Fault::usage, "--supply", fmt::format("there is no cell \"{}\"", cell),
                     fmt::format("{}", fmt::join(known_catalogue().ids("cells", {}), ", "))};
    }
    auto volts = quantity_of("--supply", words, Unit::volt);
    if (!volts) return volts.error();
    if (!(volts.value() > 0))
        return Error{Fault::usage, "--supply", format_quantity(volts.value(), Unit::volt), "more than 0 V"};
    source.designator = "PS1", source.kind = "supply";
    source.params["voltage"] = volts.value();
    return source;
}

}  // namespace

Result<ArraysQuery> question(const ArrayOptions& o) {
    ArraysQuery query{};
    if (!o.common.file.empty()) {
        auto design = load(o.common);
        if (!design) return design.error();
        query.design = std::move(design).value();
    }
    if (!o.supply.empty()) {
        auto source = source_from_words(o.supply);
        if (!source) return source.error();
        query.design = {};
        query.design.circuit.parts = {source.value()};
    }
    query.wishes.light = o.light, query.wishes.led = o.led;
    if (o.count > 0) query.wishes.count = o.count;
    if (!o.current.empty()) {
        auto amps = quantity_of("--current", o.current, Unit::ampere);
        if (!amps) return amps.error();
        query.wishes.current = amps.value();
    }
    if (o.owned) {
        auto drawer = drawer_items(o.common);
        if (!drawer) return drawer.error();
        query.wishes.owned = owned_resistors(drawer.value());
        if (query.wishes.owned.empty())
            return Error{Fault::usage, "--owned", "the drawer has no resistor in stock",
                         "resistors with a value and how many there are"};
    }
    return query;
}

}  // namespace elkit::cli
