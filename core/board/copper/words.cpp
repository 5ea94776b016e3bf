// Words on a board, and where they fit.
#include "board/copper/words.hpp"

#include <algorithm>
#include <cmath>
#include <optional>

#include "board/copper/mill_plan.hpp"

namespace elkit {
namespace {

constexpr double cell = 0.4;        // mm of the map of what is taken
constexpr double clear = 0.3;       // mm around words
constexpr double least_size = 0.8;  // mm: what is still read

/// What words may not cover, in cells; sums over all cells up to each one, so that any box is looked up at
/// once.
class TakenMap {
  public:
    explicit TakenMap(const CopperLayout& l) : l_(l) {
        columns_ = static_cast<int>(l.width() / cell) + 1, rows_ = static_cast<int>(l.height() / cell) + 1;
        taken_.assign(static_cast<std::size_t>(columns_ * rows_), 0);
        const Region board = board_region(l).grown(-0.5);
        each({0, 0, l.width(), l.height()}, [&](Point p) { return !board.contains(p); });
        if (l.making.legend)
            for_legend();
        else
            for_milling();
        for (const KeepOut& k : l.keep_out) box({k.x, k.y, k.x + k.width, k.y + k.height});
        for (const BoardText& t : l.texts)
            if (!t.anywhere) words(t);
        sum();
    }
    void words(const BoardText& t) {
        box({t.x - clear, t.y - t.size - clear, t.x + words_width(t) + clear, t.y + clear});
    }
    void sum() {
        sums_.assign(static_cast<std::size_t>((columns_ + 1) * (rows_ + 1)), 0);
        for (int r = 0; r < rows_; ++r)
            for (int c = 0; c < columns_; ++c)
                at(c + 1, r + 1) = taken_[static_cast<std::size_t>(r * columns_ + c)] + at(c, r + 1) +
                                   at(c + 1, r) - at(c, r);
    }
    bool free(const Box& b) {
        const int c0 = static_cast<int>(b.x0 / cell), c1 = static_cast<int>(b.x1 / cell) + 1,
                  r0 = static_cast<int>(b.y0 / cell), r1 = static_cast<int>(b.y1 / cell) + 1;
        if (b.x0 < 0 || b.y0 < 0 || c1 > columns_ || r1 > rows_) return false;
        return at(c1, r1) - at(c0, r1) - at(c1, r0) + at(c0, r0) == 0;
    }

  private:
    int& at(int c, int r) { return sums_[static_cast<std::size_t>(r * (columns_ + 1) + c)]; }
    template <class Covered>
    void each(const Box& b, Covered covered) {
        for (int r = std::max(0, static_cast<int>(b.y0 / cell)); r < rows_ && r * cell <= b.y1; ++r)
            for (int c = std::max(0, static_cast<int>(b.x0 / cell)); c < columns_ && c * cell <= b.x1; ++c)
                if (covered(Point{(c + 0.5) * cell, (r + 0.5) * cell}))
                    taken_[static_cast<std::size_t>(r * columns_ + c)] = 1;
    }
    void box(const Box& b) {
        each(b, [&](Point p) { return p.x >= b.x0 && p.x <= b.x1 && p.y >= b.y0 && p.y <= b.y1; });
    }
    void line(Point a, Point b, double half) {
        each({std::min(a.x, b.x) - half, std::min(a.y, b.y) - half, std::max(a.x, b.x) + half,
              std::max(a.y, b.y) + half},
             [&](Point p) { return distance(p, a, b) < half; });
    }
    void for_legend() {
        for (const CopperPad& p : l_.pads) line(p.at, p.at, p.land / 2 * 1.42 + clear);
        for (const CopperPart& p : l_.parts) {
            const Box b = p.bounds();
            box({b.x0 - clear, b.y0 - clear, b.x1 + clear, b.y1 + clear});
        }
        for (const Via& v : l_.vias) line(v.at, v.at, v.hole / 2 + clear);
    }
    void for_milling() {
        const MillTool& tool = *makings().tool(l_.making.isolate);
        const double passes = tool.width() * (1 + (l_.making.passes - 1) * (1 - l_.making.overlap)),
                     around = passes + tool.width() / 2 + clear;
        for (const CopperShape& s : copper_on(l_, solder_side)) {
            if (s.width > 0) {
                line(s.a, s.b, s.width / 2 + around);
            } else {
                const Region wide = s.region.grown(around);
                each(wide.bounds(), [&](Point p) { return wide.contains(p); });
            }
        }
    }

    const CopperLayout& l_;
    int columns_ = 0, rows_ = 0;
    std::vector<char> taken_;
    std::vector<int> sums_;
};

/// The lowest line where the words fit, as far left as they do.
bool find_place(TakenMap& map, const CopperLayout& l, BoardText& t) {
    const double width = words_width(t);
    constexpr double rim = 0.8;  // mm
    const auto cells = [](double mm) { return static_cast<int>(std::max(0.0, std::ceil(mm / cell))); };
    const int rows = cells(l.height() - rim - t.size), columns = cells(l.width() - width - rim);
    for (int row = 0; row < rows; ++row)
        for (int column = 0; column < columns; ++column) {
            const double x = rim + column * cell, y = l.height() - rim - row * cell;
            if (!map.free({x, y - t.size, x + width, y})) continue;
            t.x = x, t.y = y, t.anywhere = false;
            return true;
        }
    return false;
}

}  // namespace

double words_width(const BoardText& t) {
    return (stroke_advance * static_cast<double>(in_stroke_letters(t.text).size()) - 0.25) * t.size;
}

std::vector<std::vector<Point>> word_strokes(const CopperLayout& l, const BoardText& t) {
    const bool mirrored = l.making.milled();
    const double right = t.x + words_width(t);
    std::vector<std::vector<Point>> lines;
    double x = 0;
    for (const char c : in_stroke_letters(t.text)) {
        for (const auto& stroke : stroke_letter(c)) {
            lines.emplace_back();
            for (const Point p : stroke) {
                const double along = (x + p.x) * t.size;
                lines.back().push_back({mirrored ? right - along : t.x + along, t.y - p.y * t.size});
            }
        }
        x += stroke_advance;
    }
    return lines;
}

void place_words(CopperLayout& l) {
    if (std::none_of(l.texts.begin(), l.texts.end(), [](const BoardText& t) { return t.anywhere; })) return;
    const bool written = l.making.legend || l.making.milled();  // else there is nothing to write them with
    std::optional<TakenMap> map;
    if (written) map.emplace(l);
    for (BoardText& t : l.texts) {
        if (!t.anywhere || !written) continue;
        for (; t.size >= least_size - 1e-9; t.size -= 0.1)
            if (find_place(*map, l, t)) break;
        if (t.anywhere) continue;
        map->words(t), map->sum();
    }
    for (const BoardText& t : l.texts)
        if (t.anywhere) l.unplaced.push_back(t.text);
    std::erase_if(l.texts, [](const BoardText& t) { return t.anywhere; });
}

}  // namespace elkit
