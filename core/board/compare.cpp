#include "board/compare.hpp"

#include "design/content.hpp"

namespace elkit {

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
            const Board::Effort& e = board->effort;
            row.size = board->size, row.summary = board->summary, row.differs = !board->differences.empty();
            row.batch_minutes = e.setup_minutes + kits * e.board_minutes;
            row.batch_cost = e.setup_cost + kits * e.board_cost, row.days = e.days;
        }
        all.push_back(std::move(row));
    }
    return all;
}

}  // namespace elkit
