#include "drawing/stave_columns.hpp"

#include <map>
#include <optional>

#include "circuit/part_kind.hpp"
#include "store/digest.hpp"

namespace elkit {
namespace {

/// What two columns have in common when they differ in their designators only; nothing if a hand is wanted at
/// one of them, or if it stands on a third net.
std::optional<Digest> likeness(const StaveRun& run) {
    Digester all;
    all << run.from << run.to;
    std::string net = run.from;
    for (const Part* part : run.parts) {
        if (part->pins.size() != 2 || is(*part, Role::contact) || is(*part, Role::source))
            return std::nullopt;
        const bool turned = part->pins[0].net != net;
        net = part->pins[turned ? 0 : 1].net;
        all << part->kind << turned << part->params;
    }
    return all.digest();
}

std::vector<std::string> names(const StaveRun& run) {
    std::vector<std::string> all;
    for (const Part* part : run.parts) all.push_back(part->designator);
    return all;
}

/// The columns in the circuit's order: sources, bodies with what hangs on their legs, then all other runs.
class ColumnMaker {
  public:
    ColumnMaker(const Circuit& circuit, std::vector<StaveRun> runs, const StaveLayout& layout)
        : circuit_(circuit), runs_(std::move(runs)), layout_(layout) {
        for (StaveRun& run : runs_)  // each hangs from high to low
            if (!run.host && layout.row(run.from) > layout.row(run.to)) {
                std::reverse(run.parts.begin(), run.parts.end());
                std::swap(run.from, run.to);
            }
    }

    std::vector<PlacedColumn> columns() {
        for (const StaveRun& run : runs_)
            if (!run.host && is(*run.parts.front(), Role::source)) add_run(run);
        sources_ = all_.size();
        for (const Part& part : circuit_.parts)
            if (stance_of(part) == Stance::body) add_body(part);
        count_alike();
        for (const StaveRun& run : runs_)
            if (!run.host && !is(*run.parts.front(), Role::source)) add_run(run);
        return std::move(all_);
    }
    std::size_t sources() const { return sources_; }

  private:
    static constexpr std::size_t worth_folding = 3;

    void add_run(const StaveRun& run) {
        const std::optional<Digest> alike = likeness(run);
        Group* group = alike ? &groups_[*alike] : nullptr;
        if (group && group->column) {
            all_[*group->column].drawn.alike.push_back(names(run));
            return;
        }
        const bool folds = group && group->members >= worth_folding;
        if (folds) group->column = all_.size();
        PlacedColumn column;
        column.drawn.parts = names(run);
        column.rows = {layout_.row(run.from), layout_.row(run.to)};
        for (const Part* part : run.parts)
            if (stance_of(*part) == Stance::three_legs) {
                column.alone = true;
                add_row(part->pins[1].net, column);
            }
        column.alone = column.alone || folds;
        all_.push_back(std::move(column));
    }

    void add_body(const Part& part) {
        PlacedColumn column;
        column.drawn.parts = {part.designator};
        column.alone = true;
        for (const Pin& pin : part.pins) add_row(pin.net, column);
        for (const StaveRun& run : runs_) {
            if (run.host != &part) continue;
            column.drawn.hung.push_back({run.host_pin, names(run)});
            add_row(run.to, column);
            for (const Part* hung : run.parts)
                if (stance_of(*hung) == Stance::three_legs) add_row(hung->pins[1].net, column);
        }
        if (column.rows.empty()) column.rows = {0};
        all_.push_back(std::move(column));
    }

    void add_row(const std::string& net, PlacedColumn& column) const {
        if (const int row = layout_.row(net); row >= 0) column.rows.push_back(row);
    }

    /// How many columns are like each.
    void count_alike() {
        for (const StaveRun& run : runs_)
            if (const auto alike = run.host ? std::nullopt : likeness(run)) ++groups_[*alike].members;
    }

    struct Group {
        std::size_t members = 0;
        std::optional<std::size_t> column;  // the one that stands for all
    };
    const Circuit& circuit_;
    std::vector<StaveRun> runs_;
    const StaveLayout& layout_;
    std::vector<PlacedColumn> all_;
    std::size_t sources_ = 0;
    std::map<Digest, Group> groups_;
};

}  // namespace

StaveColumns stave_columns(const Circuit& circuit, std::vector<StaveRun> runs, const StaveLayout& layout) {
    ColumnMaker maker(circuit, std::move(runs), layout);
    StaveColumns made;
    made.columns = maker.columns();
    made.sources = maker.sources();
    return made;
}

}  // namespace elkit
