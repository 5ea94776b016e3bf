#include "board/compare.hpp"

#include <fmt/format.h>

#include "design/content.hpp"

namespace elkit {
namespace {

constexpr double minutes_an_hour = 60;

Figure work_of(const Board& board, double kits) {
    const Board::Effort& e = board.effort;
    Figure f{"board.work",
             "work on the boards",
             (e.setup_minutes + kits * e.board_minutes) / minutes_an_hour,
             Unit::hour,
             {},
             {},
             {}};
    f.working = {fmt::format("{:.0f} min to prepare + {:.0f} × {:.0f} min a board = {}", e.setup_minutes,
                             kits, e.board_minutes, f.text())};
    return f;
}

Figure cost_of(const Board& board, double kits) {
    const Board::Effort& e = board.effort;
    Figure f{"board.cost", "cost of the boards", e.setup_cost + kits * e.board_cost, Unit::money, {}, {}, {}};
    f.working = {fmt::format("{:.2f} for all + {:.0f} × {:.2f} = {}; material is in the parts list",
                             e.setup_cost, kits, e.board_cost, f.text())};
    return f;
}

}  // namespace

Digest CompareQuery::key() const {
    Digester d;
    d << circuit.digest() << content_digest(choices) << kits;
    return d.digest();
}

Result<std::vector<MethodCompared>> CompareQuery::compute(const Ask& ask) const {
    std::vector<MethodCompared> all;
    for (const BoardMethod& m : board_methods()) {
        MethodCompared row;
        row.method = m.id, row.name = m.name, row.tools = m.tools, row.risk = m.risk;
        BoardChoices with = choices;
        with.method = m.id;
        const auto board = ask(BoardQuery{circuit, with});
        if (!board) {
            row.error = board.error().text();
        } else {
            row.size = board->size, row.summary = board->summary, row.differs = !board->differences.empty();
            row.work = work_of(*board, kits), row.cost = cost_of(*board, kits), row.days = board->effort.days;
        }
        all.push_back(std::move(row));
    }
    return all;
}

}  // namespace elkit
