#include "engine/linear_solver.hpp"

#include <klu.h>

#include <algorithm>
#include <cmath>

namespace elkit {
namespace {

constexpr double lost_pivot = 1e-14;  // of the column's largest entry: nothing but rounding is left
constexpr double weak_pivot = 1e-11;  // below it the factors are tried on a known vector
constexpr double most_error = 100;    // of that vector: more, and what comes out says nothing
constexpr double most_growth = 1e8;   // multiplier of a replayed order; half of the digits are left then

}  // namespace

/// One pivot: its own entry, the rest of its row, and the rows below that have an entry in its column.
struct LinearSolver::Steps {
    struct Pivot {
        int row, column, entry;
        int row_first, row_count;      // into row_entries, row_columns
        int below_first, below_count;  // into below_entries, below_rows
        int update_first;              // into updates: row_count for each row below
    };
    std::vector<Pivot> pivots;
    std::vector<int> row_entries, row_columns, below_entries, below_rows, updates;
    std::vector<double> work;     // values with fill; pivots inverted
    std::vector<double> largest;  // of each column when the order was chosen
    std::vector<double> per_largest;
    mutable std::vector<double> x;
};

struct LinearSolver::Klu {
    klu_common common{};
    klu_symbolic* symbolic = nullptr;
    klu_numeric* numeric = nullptr;
    std::vector<int> starts, row_index, place;  // compressed columns; place of each of our entries
    std::vector<double> values;
    Klu() { klu_defaults(&common); }
    ~Klu() {
        if (numeric) klu_free_numeric(&numeric, &common);
        if (symbolic) klu_free_symbolic(&symbolic, &common);
    }
    Klu(const Klu&) = delete;
    Klu& operator=(const Klu&) = delete;
};

LinearSolver::LinearSolver(int size, std::vector<int> rows, std::vector<int> columns, int own_up_to)
    : size_(size), rows_(std::move(rows)), columns_(std::move(columns)) {
    if (size_ <= own_up_to) {
        steps_ = std::make_unique<Steps>();
        return;
    }
    klu_ = std::make_unique<Klu>();
    const std::size_t n = rows_.size();
    std::vector<std::size_t> by_column(n);
    for (std::size_t k = 0; k < n; ++k) by_column[k] = k;
    std::sort(by_column.begin(), by_column.end(), [&](std::size_t a, std::size_t b) {
        return std::pair(columns_[a], rows_[a]) < std::pair(columns_[b], rows_[b]);
    });
    klu_->starts.assign(static_cast<std::size_t>(size_) + 1, 0);
    klu_->place.resize(n), klu_->row_index.resize(n), klu_->values.resize(n);
    for (std::size_t k = 0; k < n; ++k) {
        klu_->place[by_column[k]] = static_cast<int>(k);
        klu_->row_index[k] = rows_[by_column[k]];
        ++klu_->starts[static_cast<std::size_t>(columns_[by_column[k]]) + 1];
    }
    for (std::size_t c = 0; c < static_cast<std::size_t>(size_); ++c) klu_->starts[c + 1] += klu_->starts[c];
    klu_->symbolic = klu_analyze(size_, klu_->starts.data(), klu_->row_index.data(), &klu_->common);
}

LinearSolver::~LinearSolver() = default;
LinearSolver::LinearSolver(LinearSolver&&) noexcept = default;

/// Gauss elimination with the numbers at hand, which writes down each of its steps.
class LinearSolver::Elimination {
  public:
    Elimination(Steps& steps, std::size_t n, const std::vector<int>& rows, const std::vector<int>& columns,
                const double* values)
        : s_(steps),
          n_(n),
          a_(values, values + rows.size()),
          place_(n * n, -1),
          row_(n),
          in_column_(n),
          row_done_(n),
          column_done_(n),
          live_(n) {
        s_.largest.assign(n, 0);
        for (std::size_t k = 0; k < rows.size(); ++k) {
            const auto r = static_cast<std::size_t>(rows[k]), c = static_cast<std::size_t>(columns[k]);
            place_[r * n + c] = static_cast<int>(k);
            row_[r].push_back(columns[k]);
            in_column_[c].push_back(rows[k]);
            s_.largest[c] = std::max(s_.largest[c], std::abs(a_[k]));
        }
        for (std::size_t c = 0; c < n; ++c) live_[c] = in_column_[c].size();
    }

    /// False where a column has nothing but rounding left.
    bool run() {
        for (std::size_t step = 0; step < n_; ++step) {
            int row = -1, column = -1;
            if (!choose(row, column) || row < 0) return false;
            eliminate(row, column);
        }
        return true;
    }
    std::size_t entries() const { return a_.size(); }  ///< with fill

  private:
    double& entry(int row, std::size_t column) {
        return a_[static_cast<std::size_t>(place_[static_cast<std::size_t>(row) * n_ + column])];
    }

    /// The entry with the least (row count − 1)(column count − 1) among those not below 1/20 of the largest
    /// in their column (Markowitz, Management Science 3, 1957).
    bool choose(int& best_row, int& best_column) {
        double best_value = 0;
        std::size_t best_cost = n_ * n_ + 1;
        for (std::size_t c = 0; c < n_; ++c) {
            if (column_done_[c] || live_[c] - 1 > best_cost) continue;
            double largest = 0;
            for (const int r : in_column_[c])
                if (!row_done_[static_cast<std::size_t>(r)])
                    largest = std::max(largest, std::abs(entry(r, c)));
            if (!(largest > lost_pivot * s_.largest[c])) return false;
            for (const int r : in_column_[c]) {
                if (row_done_[static_cast<std::size_t>(r)]) continue;
                const double value = std::abs(entry(r, c));
                if (value < largest / 20) continue;
                const std::size_t cost = (live_[c] - 1) * (row_[static_cast<std::size_t>(r)].size() - 1);
                if (cost < best_cost || (cost == best_cost && value > best_value))
                    best_cost = cost, best_row = r, best_column = static_cast<int>(c), best_value = value;
            }
        }
        return true;
    }

    void eliminate(int pivot_at, int column) {
        auto& pivot_row = row_[static_cast<std::size_t>(pivot_at)];
        const auto c = static_cast<std::size_t>(column);
        const int pivot_entry = place_[static_cast<std::size_t>(pivot_at) * n_ + c];
        Steps::Pivot p{pivot_at,    column,
                       pivot_entry, static_cast<int>(s_.row_entries.size()),
                       0,           static_cast<int>(s_.below_entries.size()),
                       0,           static_cast<int>(s_.updates.size())};
        row_done_[static_cast<std::size_t>(pivot_at)] = true;
        for (const int other : pivot_row) --live_[static_cast<std::size_t>(other)];
        column_done_[c] = true;
        std::erase(pivot_row, column);
        for (const int other : pivot_row) {
            s_.row_entries.push_back(
                place_[static_cast<std::size_t>(pivot_at) * n_ + static_cast<std::size_t>(other)]);
            s_.row_columns.push_back(other), ++p.row_count;
        }
        const std::vector<int> rows = in_column_[c];
        for (const int r : rows)
            if (!row_done_[static_cast<std::size_t>(r)]) subtract(p, r, column);
        s_.pivots.push_back(p);
    }

    /// Takes the pivot's row off row `r`, so that nothing is left of it in the pivot's column.
    void subtract(Steps::Pivot& p, int r, int column) {
        auto& target = row_[static_cast<std::size_t>(r)];
        const std::size_t start = static_cast<std::size_t>(r) * n_;
        const int below = place_[start + static_cast<std::size_t>(column)];
        s_.below_entries.push_back(below), s_.below_rows.push_back(r), ++p.below_count;
        const double factor = a_[static_cast<std::size_t>(below)] / a_[static_cast<std::size_t>(p.entry)];
        std::erase(target, column);
        for (int k = 0; k < p.row_count; ++k) {
            const auto at = static_cast<std::size_t>(p.row_first + k);
            const auto other = static_cast<std::size_t>(s_.row_columns[at]);
            int& entry = place_[start + other];
            if (entry < 0) {  // fill
                entry = static_cast<int>(a_.size());
                target.push_back(s_.row_columns[at]);
                a_.push_back(0);
                in_column_[other].push_back(r);
                ++live_[other];
            }
            s_.updates.push_back(entry);
            a_[static_cast<std::size_t>(entry)] -= factor * a_[static_cast<std::size_t>(s_.row_entries[at])];
        }
    }

    Steps& s_;
    std::size_t n_;
    std::vector<double> a_;
    std::vector<int> place_;                   // entry at row × n + column; −1: none
    std::vector<std::vector<int>> row_;        // columns with an entry that are not yet eliminated
    std::vector<std::vector<int>> in_column_;  // rows with an entry, eliminated ones left in
    std::vector<bool> row_done_, column_done_;
    std::vector<std::size_t> live_;  // rows not yet eliminated that have an entry in each column
};

/// Eliminates once and keeps the steps, to be replayed with other numbers.
bool LinearSolver::order(const double* values) {
    Steps& s = *steps_;
    s = Steps{};
    const auto n = static_cast<std::size_t>(size_);
    Elimination elimination(s, n, rows_, columns_, values);
    if (!elimination.run()) return false;
    for (const double largest : s.largest) s.per_largest.push_back(1 / largest);
    s.work.resize(elimination.entries());
    s.x.resize(n);
    ++orderings_;
    return true;
}

/// The written-down elimination with new numbers; false when a pivot is lost in rounding.
bool LinearSolver::replay(const double* values) {
    Steps& s = *steps_;
    double weakest = 1, growth = 0;
    double* a = s.work.data();
    std::copy(values, values + rows_.size(), a);
    std::fill(a + rows_.size(), a + s.work.size(), 0.0);
    for (const Steps::Pivot& p : s.pivots) {
        const double pivot = a[p.entry];
        const double share = std::abs(pivot) * s.per_largest[static_cast<std::size_t>(p.column)];
        if (!(share > lost_pivot)) return false;
        weakest = std::min(weakest, share);
        const double inverse = 1 / pivot;
        a[p.entry] = inverse;
        const int* update = s.updates.data() + p.update_first;
        const int* source = s.row_entries.data() + p.row_first;
        for (int b = 0; b < p.below_count; ++b) {
            double& below = a[s.below_entries[static_cast<std::size_t>(p.below_first + b)]];
            const double factor = below *= inverse;
            growth = std::max(growth, std::abs(factor));
            for (int k = 0; k < p.row_count; ++k) a[*update++] -= factor * a[source[k]];
        }
    }
    if (growth > most_growth) return false;  // the order suits other numbers: it is chosen anew
    return weakest > weak_pivot || tells_apart(values);
}

/// Whether the factors still solve the matrix: a known vector has to come back. Asked where a pivot is so
/// small that it may be nothing but rounding.
bool LinearSolver::tells_apart(const double* values) {
    const auto n = static_cast<std::size_t>(size_);
    std::vector<double> known(n), right(n, 0.0);
    for (std::size_t k = 0; k < n; ++k) known[k] = 1 + 0.25 * static_cast<double>(k % 3);
    for (std::size_t k = 0; k < rows_.size(); ++k)
        right[static_cast<std::size_t>(rows_[k])] += values[k] * known[static_cast<std::size_t>(columns_[k])];
    solve(right.data());
    blur_.resize(n);
    for (std::size_t k = 0; k < n; ++k) {
        blur_[k] = std::abs(right[k] - known[k]);
        if (!(blur_[k] < most_error)) return false;
    }
    return true;
}

bool LinearSolver::factor(const double* values) {
    blur_.clear();
    if (size_ == 0) return true;
    if (steps_) {
        if (!steps_->pivots.empty() && replay(values)) return true;
        if (order(values)) return replay(values);
        steps_->pivots.clear();  // half an order is none
        return false;
    }
    Klu& k = *klu_;
    if (!k.symbolic) return false;
    for (std::size_t i = 0; i < rows_.size(); ++i) k.values[static_cast<std::size_t>(k.place[i])] = values[i];
    const auto sound = [&] {  // KLU's cheap estimate: least against largest pivot
        return klu_rcond(k.symbolic, k.numeric, &k.common) && k.common.rcond > 0 &&
               (k.common.rcond > weak_pivot || tells_apart(values));
    };
    if (k.numeric) {
        if (klu_refactor(k.starts.data(), k.row_index.data(), k.values.data(), k.symbolic, k.numeric,
                         &k.common) &&
            sound())
            return true;
        klu_free_numeric(&k.numeric, &k.common);
    }
    ++orderings_;
    k.numeric = klu_factor(k.starts.data(), k.row_index.data(), k.values.data(), k.symbolic, &k.common);
    return k.numeric && sound();
}

void LinearSolver::solve(double* right) const {
    if (size_ == 0) return;
    if (klu_) {
        klu_solve(klu_->symbolic, klu_->numeric, size_, 1, right, &klu_->common);
        return;
    }
    const Steps& s = *steps_;
    const double* a = s.work.data();
    for (const Steps::Pivot& p : s.pivots) {
        const double value = right[p.row];
        const int* entry = s.below_entries.data() + p.below_first;
        const int* row = s.below_rows.data() + p.below_first;
        for (int b = 0; b < p.below_count; ++b) right[row[b]] -= a[entry[b]] * value;
    }
    for (auto p = s.pivots.rbegin(); p != s.pivots.rend(); ++p) {
        double value = right[p->row];
        const int* entry = s.row_entries.data() + p->row_first;
        const int* column = s.row_columns.data() + p->row_first;
        for (int k = 0; k < p->row_count; ++k)
            value -= a[entry[k]] * s.x[static_cast<std::size_t>(column[k])];
        s.x[static_cast<std::size_t>(p->column)] = value * a[p->entry];
    }
    std::copy(s.x.begin(), s.x.end(), right);
}

}  // namespace elkit
