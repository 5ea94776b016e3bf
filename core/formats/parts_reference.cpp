#include "formats/parts_reference.hpp"

#include <fmt/format.h>

#include <cmath>

#include "catalogue/catalogue.hpp"
#include "circuit/part_kind.hpp"
#include "quantity/format.hpp"

namespace elkit {
namespace {

std::string standard_text(const ParamInfo& p) {
    if (const auto* text = std::get_if<std::string>(&p.standard)) return "`" + *text + "`";
    if (std::holds_alternative<PointList>(p.standard)) return "none";
    const double value = std::get<double>(p.standard);
    return std::isnan(value) ? "of its type" : fmt::format("{}", value);
}

std::string range_text(const ParamInfo& p) {
    return std::holds_alternative<double>(p.standard) ? fmt::format("{} … {}", p.low, p.high) : "";
}

std::string values_text(const PartType& type) {
    std::string out;
    for (const auto& [key, value] : type.values)
        out += fmt::format("{}`{}` {}", out.empty() ? "" : ", ", key, value);
    return out;
}

}  // namespace

std::string parts_markdown() {
    std::string out =
        "# Parts\n\nMade by `elkit-cli parts`; do not edit by hand. Numbers are in SI units; what each kind "
        "computes is in\n[engine.md](engine.md). A parameter that is \"of its type\" comes from the "
        "catalogue "
        "entry that `type` names, unless the part sets it.\n";
    for (const PartKind& kind : part_kinds()) {
        std::string pins;
        for (const auto& pin : kind.pins)
            pins += (pins.empty() ? "`" : ", `") + pin + "`" + (kind.optional(pin) ? " (may be open)" : "");
        out += fmt::format("\n## {}: `{}`\n\nDesignators {}1, {}2 …; pins {}.\n", kind.name, kind.id,
                           kind.prefix, kind.prefix, pins);
        if (!kind.params.empty())
            out += "\n| parameter | unit | default | range | meaning |\n|---|---|---|---|---|\n";
        for (const ParamInfo& p : kind.params)
            out += fmt::format("| `{}` | {} | {} | {} | {}: {} |\n", p.key, symbol(p.unit), standard_text(p),
                               range_text(p), p.label, p.meaning);
        bool first = true;
        for (const PartType& type : known_catalogue().types) {
            if (type.kind != kind.id) continue;
            if (first) out += "\n| type | name | values | source |\n|---|---|---|---|\n";
            first = false;
            out +=
                fmt::format("| `{}` | {} | {} | {} |\n", type.id, type.name, values_text(type), type.source);
        }
    }
    return out;
}

}  // namespace elkit
