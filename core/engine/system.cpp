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
        return at->second;
    }
    int memory() override { return s_.memories_++; }
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
        s.pins_.push_back(std::move(pins));
        s.designators_.push_back(part.designator);
        s.devices_.push_back(std::move(device).value());
        if (s.devices_.back()) s.devices_.back()->bind(part, numbering);
    }
    for (int n = 1; n <= s.unknowns(); ++n) s.diagonal_.push_back(numbering.entry(n, n));
    s.prepare();
    return s;
}

void System::prepare() {
    const std::size_t n = names_.size(), entries = rows_.size();
    for (auto* v : {&f0_, &f_, &q_, &scratch_f_, &scratch_q_}) v->assign(n, 0);
    for (auto* v : {&conductances_, &capacitances_, &matrix_, &scratch_matrix_}) v->assign(entries, 0);
    memory_.assign(static_cast<std::size_t>(memories_), 0);
    scratch_memory_ = memory_;
    voltages_.assign(n, false);
    for (const auto* nodes : {&leaking_, &inner_})
        for (const int node : *nodes) voltages_[static_cast<std::size_t>(node)] = true;
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

/// Sums up all linear devices: constant part, conductances, capacitances. A capacitance is the difference
/// that a rate makes, which must be so large that no conductance hides it; a power of two loses no digit.
void System::linearise() {
    std::fill(f0_.begin(), f0_.end(), 0.0);
    std::fill(conductances_.begin(), conductances_.end(), 0.0);
    std::fill(capacitances_.begin(), capacitances_.end(), 0.0);
    const std::vector<double> nothing(names_.size(), 0);
    Load at_rest, moving;
    at_rest.x = moving.x = nothing.data();
    at_rest.f = f0_.data(), at_rest.q = moving.q = scratch_q_.data(), moving.f = scratch_f_.data();
    at_rest.matrix = conductances_.data(), moving.matrix = capacitances_.data();
    at_rest.memory = moving.memory = scratch_memory_.data();
    constexpr double fast = 0x1p60;  // 1/s
    moving.rate = fast;
    for (const auto& device : devices_)
        if (device && device->nature() == Nature::linear) device->load(at_rest), device->load(moving);
    conducting_.clear(), storing_.clear();
    for (std::size_t k = 1; k < rows_.size(); ++k) {
        capacitances_[k] = (capacitances_[k] - conductances_[k]) / fast;
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
        for (const int node : leaking_) matrix_[diagonal(node)] += more - leak_;
        leak_ = more;
    }
    return true;
}

bool System::evaluate(const double* x, double time, double rate, double drive, double gmin) {
    gmin = std::max(gmin, leak_);
    double *f = f_.data(), *q = q_.data(), *a = matrix_.data();
    const std::size_t n = f_.size();
    for (std::size_t k = 0; k < n; ++k) f[k] = drive * f0_[k], q[k] = 0;
    std::copy(conductances_.begin(), conductances_.end(), a);
    for (const Term& t : conducting_)
        f[t.row] += conductances_[static_cast<std::size_t>(t.entry)] * x[t.column];
    for (const Term& t : storing_) {
        const double c = capacitances_[static_cast<std::size_t>(t.entry)];
        q[t.row] += c * x[t.column];
        a[t.entry] += rate * c;
    }
    for (const int node : leaking_) {
        f[node] += gmin * x[node];
        a[diagonal(node)] += gmin;
    }
    Load l{x, time, drive, rate, f, q, a, memory_.data(), false, limiting_};
    for (const Device* device : active_) device->load(l);
    f[0] = q[0] = 0;
    return l.limited;
}

void System::forget_junctions() { std::fill(memory_.begin(), memory_.end(), 0.0); }

void System::watch(const double* x, double* values) const {
    for (std::size_t k = 0; k < watched_.size();
         k += static_cast<std::size_t>(devices_[watched_[k].part]->monitors()))
        devices_[watched_[k].part]->watch(x, values + k);
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
    return std::none_of(active_.begin(), active_.end(),
                        [](const Device* d) { return d->nature() == Nature::varying; });
}

bool System::can_store() const {
    if (!storing_.empty()) return true;
    // junctions alone have charges too small to matter for what settles; sources and coils do not
    return std::any_of(active_.begin(), active_.end(), [](const Device* d) { return d->keeps_state(); });
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

void System::pin_currents(std::size_t part, const Moment& moment, std::vector<double>& out) const {
    const auto& pins = pins_[part];
    out.assign(pins.size(), 0.0);
    const Device* device = devices_[part].get();
    if (!device) return;
    const auto load = [&](const double* at) {
        std::copy(memory_.begin(), memory_.end(), scratch_memory_.begin());
        for (const int pin : pins)
            scratch_f_[static_cast<std::size_t>(pin)] = scratch_q_[static_cast<std::size_t>(pin)] = 0;
        Load l{at,
               moment.time,
               1,
               0,
               scratch_f_.data(),
               scratch_q_.data(),
               scratch_matrix_.data(),
               scratch_memory_.data(),
               false,
               false};
        device->load(l);
    };
    const auto gather = [&](const std::vector<double>& values, double weight) {
        for (std::size_t p = 0; p < pins.size(); ++p)
            if (std::find(pins.begin(), pins.end(), pins[p]) - pins.begin() == static_cast<std::ptrdiff_t>(p))
                out[p] += weight * values[static_cast<std::size_t>(pins[p])];
    };
    load(moment.x);
    gather(scratch_f_, 1);
    for (const Moment::Term& term : moment.change) {
        if (!term.at) break;
        load(term.at);
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
