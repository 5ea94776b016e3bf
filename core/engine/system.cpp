#include "engine/system.hpp"

#include <algorithm>
#include <cmath>
#include <limits>
#include <map>
#include <unordered_map>

namespace elkit {

/// Numbers nets first, then what devices ask for.
class System::Numbering final : public Binder {
  public:
    explicit Numbering(System& system) : s_(system) {}
    int net(const Part& part, std::string_view pin) override {
        const std::string& name = part.net(pin);
        if (!name.empty()) return nets_.at(name);
        int& open = open_[part.designator + " " + std::string(pin)];  // a pin left open has a node of its own
        if (open == 0) {
            open = add("open pin " + std::string(pin) + " of " + part.designator);
            s_.leaking_.push_back(open);
        }
        return open;
    }
    int unknown(std::string name) override { return add(std::move(name)); }
    int inner_node(std::string name) override {
        s_.inner_.push_back(add(std::move(name)));
        return s_.inner_.back();
    }
    int entry(int row, int column) override {
        if (row == 0 || column == 0) return 0;
        const auto [at, fresh] = entries_.emplace(std::pair(row, column), static_cast<int>(s_.rows_.size()));
        if (fresh) s_.rows_.push_back(row), s_.columns_.push_back(column);
        if (curved) s_.curved_.push_back({row, column, at->second});
        return at->second;
    }
    int memory() override { return s_.memories_++; }
    bool curved = false;  ///< the device that asks is not linear
    void name_net(const std::string& name) {
        if (!nets_.emplace(name, static_cast<int>(s_.names_.size())).second) return;
        s_.names_.push_back("net " + name);
        s_.nets_.push_back(name);
    }

  private:
    int add(std::string name) {
        s_.names_.push_back(std::move(name));
        return static_cast<int>(s_.names_.size()) - 1;
    }
    System& s_;
    std::unordered_map<std::string, int> nets_;
    std::map<std::string, int> open_;
    std::map<std::pair<int, int>, int> entries_;
};

Result<System> System::build(const Circuit& circuit, const Catalogue& catalogue, const Conditions& conditions,
                             const Corner& corner) {
    System s;
    s.rows_.push_back(0), s.columns_.push_back(0);
    Numbering numbering(s);
    numbering.name_net(circuit.negative_rail());
    for (const Part& part : circuit.parts)
        for (const Pin& pin : part.pins) numbering.name_net(pin.net);
    s.nodes_ = static_cast<int>(s.names_.size()) - 1;
    for (int n = 1; n <= s.nodes_; ++n) s.leaking_.push_back(n);
    const bool coils = any(circuit, Role::coil);
    for (const Part& part : circuit.parts) {
        auto device = make_device(part, catalogue, conditions, corner, coils);
        if (!device) return device.error();
        std::vector<int> pins;
        for (const Pin& pin : part.pins) pins.push_back(numbering.net(part, pin.name));
        s.first_pins_.emplace_back();
        for (std::size_t p = 0; p < pins.size(); ++p)
            if (std::find(pins.begin(), pins.end(), pins[p]) - pins.begin() == static_cast<std::ptrdiff_t>(p))
                s.first_pins_.back().push_back(p);
        s.pins_.push_back(std::move(pins));
        s.designators_.push_back(part.designator);
        s.devices_.push_back(std::move(device).value());
        if (!s.devices_.back()) continue;
        numbering.curved = s.devices_.back()->nature() == Nature::nonlinear;
        s.devices_.back()->bind(part, numbering);
    }
    numbering.curved = false;
    for (int n = 1; n <= s.unknowns(); ++n) s.diagonal_.push_back(numbering.entry(n, n));
    s.prepare();
    return s;
}

void System::prepare() {
    const std::size_t n = names_.size(), entries = rows_.size();
    for (auto* v : {&f0_, &f_, &q_, &scratch_f_, &scratch_q_}) v->assign(n, 0);
    for (auto* v : {&conductances_, &capacitances_, &df_, &dq_, &matrix_, &scratch_entries_})
        v->assign(entries, 0);
    memory_.assign(static_cast<std::size_t>(memories_), 0);
    scratch_memory_ = memory_;
    voltages_.assign(n, false);
    for (const auto* nodes : {&leaking_, &inner_})
        for (const int node : *nodes) voltages_[static_cast<std::size_t>(node)] = true;
    std::erase_if(curved_, [&](const Term& t) { return !is_voltage(t.row) || !is_voltage(t.column); });
    std::sort(curved_.begin(), curved_.end(), [](const Term& a, const Term& b) {
        return std::pair(a.row, a.entry) < std::pair(b.row, b.entry);
    });
    curved_.erase(std::unique(curved_.begin(), curved_.end(),
                              [](const Term& a, const Term& b) { return a.entry == b.entry; }),
                  curved_.end());
    std::vector<int> rows, columns;
    for (std::size_t k = 1; k < entries; ++k)
        rows.push_back(rows_[k] - 1), columns.push_back(columns_[k] - 1);
    solver_ = std::make_unique<LinearSolver>(unknowns(), std::move(rows), std::move(columns));
    for (std::size_t k = 0; k < devices_.size(); ++k) {
        if (!devices_[k]) continue;
        if (devices_[k]->nature() != Nature::linear) active_.push_back(devices_[k].get());
        if (devices_[k]->nature() == Nature::varying || devices_[k]->monitors() > 0)
            timed_.push_back(devices_[k].get());
        for (int m = 0; m < devices_[k]->monitors(); ++m) watched_.push_back({k, m});
    }
    linearise();
}

/// Sums up all linear devices: constant part, conductances, capacitances.
void System::linearise() {
    for (auto* v : {&f0_, &conductances_, &capacitances_}) std::fill(v->begin(), v->end(), 0.0);
    const std::vector<double> nothing(names_.size(), 0);
    Load l;
    l.x = nothing.data(), l.memory = scratch_memory_.data();
    l.f = f0_.data(), l.q = scratch_q_.data(), l.df = conductances_.data(), l.dq = capacitances_.data();
    for (const auto& device : devices_)
        if (device && device->nature() == Nature::linear) device->load(l);
    conducting_.clear(), storing_.clear();
    for (std::size_t k = 1; k < rows_.size(); ++k) {
        if (conductances_[k] != 0) conducting_.push_back({rows_[k], columns_[k], static_cast<int>(k)});
        if (capacitances_[k] != 0) storing_.push_back({rows_[k], columns_[k], static_cast<int>(k)});
    }
    f0_[0] = 0;
}

bool System::only_rounding(const double* x, const double* left) const {
    constexpr double epsilon = std::numeric_limits<double>::epsilon();
    std::vector<double> terms(names_.size(), 0);
    for (std::size_t k = 1; k < rows_.size(); ++k)
        terms[static_cast<std::size_t>(rows_[k])] += std::abs(matrix_[k] * x[columns_[k]]);
    for (std::size_t k = 1; k < terms.size(); ++k)
        if (!(std::abs(left[k]) <= 8 * epsilon * terms[k])) return false;
    return true;
}

int System::net(std::string_view name) const {
    const auto found = std::find(nets_.begin(), nets_.end(), name);
    return found == nets_.end() ? -1 : static_cast<int>(found - nets_.begin());
}

bool System::configure(const Conditions& conditions) {
    bool changed = false;
    for (std::size_t k = 0; k < devices_.size(); ++k) {
        if (!devices_[k]) continue;
        Conditions own = conditions;
        own.celsius = conditions.celsius_of(designators_[k]);
        changed = devices_[k]->configure(own) || changed;
    }
    if (changed) linearise();
    return changed;
}

bool System::hasten(double longest) {
    bool changed = false;
    for (const auto& device : devices_) changed = (device && device->hasten(longest)) || changed;
    if (changed) linearise();
    return changed;
}

bool System::factor() {
    while (!solver_->factor(matrix_.data() + 1)) {
        if (leak_ >= most_leak) return false;
        const double more = std::clamp(10 * leak_, 1e-12, most_leak);
        for (const int node : leaking_)
            matrix_[diagonal(node)] += more - leak_, df_[diagonal(node)] += more - leak_;
        leak_ = more;
    }
    return true;
}

bool System::evaluate(const double* x, double time, double rate, double drive, double gmin) {
    gmin = std::max(gmin, leak_);
    double *f = f_.data(), *q = q_.data();
    const std::size_t n = f_.size();
    for (std::size_t k = 0; k < n; ++k) f[k] = drive * f0_[k], q[k] = 0;
    std::copy(conductances_.begin(), conductances_.end(), df_.begin());
    std::copy(capacitances_.begin(), capacitances_.end(), dq_.begin());
    for (const Term& t : conducting_)
        f[t.row] += conductances_[static_cast<std::size_t>(t.entry)] * x[t.column];
    for (const Term& t : storing_) q[t.row] += capacitances_[static_cast<std::size_t>(t.entry)] * x[t.column];
    for (const int node : leaking_) {
        f[node] += gmin * x[node];
        df_[diagonal(node)] += gmin;
    }
    Load l{x, time, drive, f, q, df_.data(), dq_.data(), memory_.data(), false, limiting_, false};
    for (const Device* device : active_) device->load(l);
    f[0] = q[0] = 0;
    for (std::size_t k = 0; k < matrix_.size(); ++k) matrix_[k] = df_[k] + rate * dq_[k];
    return l.limited;
}

double System::bend(const double* step, double rate) const {
    double most = 0, left = 0, largest = 0;
    for (int k = 1; k <= nodes_; ++k) largest = std::max(largest, std::abs(f_[static_cast<std::size_t>(k)]));
    int row = 0;
    for (const Term& t : curved_) {
        const auto k = static_cast<std::size_t>(t.entry);
        const double slope = std::abs(df_[k] - conductances_[k]);
        const double charging = rate * std::abs(dq_[k] - capacitances_[k]);
        if (t.row != row) row = t.row, left = 0;
        left += (slope + charging) * step[t.column] * step[t.column];
        most = std::max(most, left), largest = std::max(largest, slope * sharpest);
    }
    return most > 0 ? most / (sharpest * largest) : 0;
}

void System::follow(const double* step) {
    double *f = f_.data(), *q = q_.data();
    for (std::size_t k = 1; k < rows_.size(); ++k) {
        const double along = step[columns_[k]];
        f[rows_[k]] += df_[k] * along, q[rows_[k]] += dq_[k] * along;
    }
}

void System::forget_junctions() { std::fill(memory_.begin(), memory_.end(), 0.0); }

void System::watch(const double* x, double* values) const {
    for (std::size_t k = 0; k < watched_.size();
         k += static_cast<std::size_t>(devices_[watched_[k].part]->monitors()))
        devices_[watched_[k].part]->watch(x, values + k);
}

std::optional<Device::Clock> System::clock() const {
    constexpr int most_turns = 12;
    constexpr double together = 1e-6;  // of a period
    std::vector<Device::Clock> all;
    for (std::size_t w = 0; w < watched_.size(); ++w) {
        auto clock = devices_[watched_[w].part]->clock();
        if (!clock || clock->monitor != watched_[w].monitor) continue;
        clock->monitor = static_cast<int>(w);
        all.push_back(*clock);
    }
    if (all.empty()) return std::nullopt;
    Device::Clock slowest = *std::max_element(
        all.begin(), all.end(), [](const auto& a, const auto& b) { return a.period < b.period; });
    const auto comes_round = [&](const Device::Clock& c) {
        if (!(c.period > 0)) return true;
        const double times = slowest.turns * slowest.period / c.period;
        return std::abs(times - std::round(times)) < together * times;
    };
    while (!std::all_of(all.begin(), all.end(), comes_round) && slowest.turns < most_turns) ++slowest.turns;
    slowest.repeats = std::all_of(all.begin(), all.end(),
                                  [&](const Device::Clock& c) { return c.repeats && comes_round(c); });
    if (!slowest.repeats) slowest.turns = 1;
    for (const Device::Clock& c : all) slowest.begins = std::max(slowest.begins, c.begins);
    return slowest;
}

bool System::fire(int monitor, double now) {
    const Watched& w = watched_[static_cast<std::size_t>(monitor)];
    const bool changed = devices_[w.part]->fire(w.monitor, now);
    if (changed) linearise();
    return changed;
}

bool System::due(double now) const {
    return std::any_of(timed_.begin(), timed_.end(), [now](const Device* d) { return d->due(now); });
}

void System::arrive(double now) {
    for (Device* device : timed_) device->arrive(now);
    linearise();
}

void System::skip(double span) {
    for (Device* device : timed_) device->skip(span);
}

std::optional<double> System::round() const {
    std::optional<double> longest;
    for (const Device* device : timed_)
        if (const auto seconds = device->round()) longest = std::max(longest.value_or(0), *seconds);
    return longest;
}

std::optional<Device::Pulses> System::pulses() const {
    std::optional<Device::Pulses> found;
    for (const Device* device : timed_) {
        if (device->nature() == Nature::varying) return std::nullopt;
        const auto pulses = device->pulses();
        if (pulses && found) return std::nullopt;
        if (pulses) found = pulses;
    }
    if (!found) return found;
    for (const Device* device : timed_)
        if (!device->pulses()) found->until = std::min(found->until, device->next_corner(found->begin));
    return found;
}

void System::skip_pulses(double span) {
    for (Device* device : timed_) device->skip_pulses(span);
}

double System::delay(int monitor) const {
    return devices_[watched_[static_cast<std::size_t>(monitor)].part]->delay();
}

std::size_t System::monitor_part(int monitor) const {
    return watched_[static_cast<std::size_t>(monitor)].part;
}

std::vector<int> System::voltages() const {
    std::vector<int> all;
    for (int k = 1; k <= unknowns(); ++k)
        if (k <= nodes_ || is_voltage(k)) all.push_back(k);
    return all;
}

std::vector<int> System::watched_unknowns() const {
    std::vector<int> all;
    for (const auto& device : devices_)
        if (device)
            for (const int k : device->watched())
                if (k > 0) all.push_back(k);
    return all;
}

bool System::autonomous() const {
    return std::none_of(devices_.begin(), devices_.end(),
                        [](const auto& d) { return d && d->follows_clock(); });
}

bool System::can_store() const {
    if (!storing_.empty()) return true;
    // junctions alone have charges too small to matter for what settles; sources and coils do not
    return !autonomous() ||
           std::any_of(active_.begin(), active_.end(), [](const Device* d) { return d->keeps_state(); });
}

double System::next_corner(double t) const {
    double next = std::numeric_limits<double>::infinity();
    for (const Device* device : timed_) next = std::min(next, device->next_corner(t));
    return next;
}

void System::initial_charges(double* q) const {
    std::fill(q, q + names_.size(), 0.0);
    for (const auto& device : devices_)
        if (device) device->initial(q);
    q[0] = 0;
}

int System::main_pin(std::size_t part) const { return devices_[part] ? devices_[part]->main_pin() : 0; }

std::optional<double> System::glow(std::size_t part, const double* x) const {
    return devices_[part] ? devices_[part]->glow(x) : std::nullopt;
}

void System::pin_currents(std::size_t part, const Moment& moment, std::vector<double>& out) const {
    const auto& pins = pins_[part];
    out.assign(pins.size(), 0.0);
    const Device* device = devices_[part].get();
    if (!device) return;
    const auto load = [&](const double* at, bool charges_only) {
        for (const int pin : pins)
            scratch_f_[static_cast<std::size_t>(pin)] = scratch_q_[static_cast<std::size_t>(pin)] = 0;
        Load l{at,
               moment.time,
               1,
               scratch_f_.data(),
               scratch_q_.data(),
               scratch_entries_.data(),
               scratch_entries_.data(),
               scratch_memory_.data(),
               false,
               false,
               charges_only};
        device->load(l);
    };
    const auto gather = [&](const std::vector<double>& values, double weight) {
        for (const std::size_t p : first_pins_[part])
            out[p] += weight * values[static_cast<std::size_t>(pins[p])];
    };
    load(moment.x, false);
    gather(scratch_f_, 1);
    for (const Moment::Term& term : moment.change) {
        if (!term.at) break;
        load(term.at, true);
        gather(scratch_q_, term.weight);
    }
    // the rail's row is dropped by the solver: what enters there is what leaves elsewhere
    const auto rail = std::find(pins.begin(), pins.end(), 0);
    if (rail == pins.end()) return;
    double sum = 0;
    for (std::size_t p = 0; p < pins.size(); ++p)
        if (pins[p] != 0) sum += out[p];
    out[static_cast<std::size_t>(rail - pins.begin())] = -sum;
}

}  // namespace elkit
