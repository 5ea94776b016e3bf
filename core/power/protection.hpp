#pragma once
#include <optional>
#include <string>
#include <vector>

#include "power/life.hpp"
#include "quantity/figure.hpp"

namespace elkit {

/// One way to live with cells that are put in the wrong way round, or with a short.
struct ProtectionWay {
    std::string id, name;
    std::optional<Circuit> circuit;  ///< with its part; nothing where it is no part (a keyed plug)
    Figure drop;                     ///< V lost in it, fresh cells
    Figure current;                  ///< A from the cells, fresh: what the gadget then gets
    Figure run_time;                 ///< h; infinity if nothing empties
    Figure reversed;  ///< A from the cells when they are put in the wrong way round; NaN: unknown
    std::string remark;
    bool lasts = true;  ///< a run time could be computed
};

/// What a short would draw, and whether a fuse opens.
struct FuseWay {
    std::string type, name;
    Circuit circuit;
    Figure drop;           ///< V at the gadget's current
    Figure hold;           ///< A that it carries for ever at 20 °C
    Figure short_circuit;  ///< A with the leads shorted behind it
    bool holds = false, opens = false;
    std::string remark;
};

struct Protection {
    std::vector<ProtectionWay> ways;    ///< the first: as it is
    std::vector<FuseWay> fuses;         ///< of the catalogue
    std::vector<std::string> cautions;  ///< a power bank that switches off, a cell without a cut-off, …
};

/// Protection of a design with cells: ways against reversed cells, each computed with its part in the
/// circuit; fuses against its current and a short; power banks. Design error without a source.
struct ProtectionQuery {
    Design design;
    Conditions now;
    using Value = Protection;
    static constexpr std::string_view name = "protection";
    static constexpr std::size_t weight = 60;
    Digest key() const;
    Result<Value> compute(const Ask& ask) const;
};

}  // namespace elkit
