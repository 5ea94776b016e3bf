#include "kit/wire_list.hpp"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>
#include <map>

#include "catalogue/catalogue.hpp"
#include "circuit/connectivity.hpp"
#include "design/content.hpp"
#include "power/wiring.hpp"
#include "quantity/preferred.hpp"
#include "situations/propose.hpp"

namespace elkit {
namespace {

constexpr double usual_length = 0.3;  // m between two boxes
constexpr double leaks_only = 1e-6;   // A, below which a wire carries nothing worth a word
constexpr std::size_t crowded = 4;    // wires at one pin, from which a terminal is better

struct Touch {
    const Part* part;
    const PartKind* kind;
    std::string pin;
    WireEnd end(bool on_board = false) const { return {part->designator, pin, on_board}; }
};

bool has_header(const PartKind& kind) {
    return !kind.footprints.empty() && kind.footprints.front().id == "header" && !kind.is(Role::no_current);
}

bool ready_light(const PartKind& kind) {
    return kind.is(Role::light) && !kind.is(Role::diode_light) && kind.dies.empty();
}

/// What joins a net on the board, or would if there were one; a capacitor sits at what it steadies.
bool is_small(const PartKind& kind) {
    return !kind.is(Role::on_leads) && !kind.is(Role::contact) && !kind.is(Role::capacitor) &&
           !has_header(kind) && !ready_light(kind) && !kind.is(Role::no_current);
}

const ModuleSpec::Output* output_at(const Touch& t) {
    if (!t.kind->module) return nullptr;
    const auto& all = t.kind->module->outputs;
    const auto found = std::find_if(all.begin(), all.end(), [&](const auto& o) { return o.pin == t.pin; });
    return found == all.end() ? nullptr : &*found;
}

bool makes_volts(const Touch& t) {
    const auto* output = output_at(t);
    return output &&
           (output->gives == ModuleSpec::Gives::steps_up || output->gives == ModuleSpec::Gives::steps_down);
}

bool is_supply_plus(const Touch& t) {
    if (t.kind->is(Role::light)) return false;
    return (t.kind->module || t.kind->controller) && t.kind->supply && t.kind->supply->plus == t.pin;
}

bool is_controller_pin(const Touch& t) {
    return t.kind->controller && std::any_of(t.kind->controller->pins.begin(), t.kind->controller->pins.end(),
                                             [&](const PinAbility& p) { return p.pin == t.pin; });
}

bool carries_data(const Touch& t) {
    const auto& module = t.kind->module;
    return module && !module->chain_in.empty() && t.pin != module->plus && t.pin != module->minus;
}

/// What a pin of a controller does by its table; empty for one that does nothing.
std::string function_of(const Program& program, const ControllerSpec& controller, const std::string& pin) {
    for (std::size_t k = 0; k < program.outputs.size(); ++k)
        if (program.outputs[k] == pin) {
            const auto fades = [k](const ProgramState& s) {
                const Drive& d = s.drives[k];
                return std::any_of(d.points.begin(), d.points.end(),
                                   [](std::uint8_t level) { return level > 0 && level < 255; }) ||
                       d.kind == Drive::Kind::path || d.kind == Drive::Kind::flicker;
            };
            const bool dims = std::any_of(program.states.begin(), program.states.end(), fades);
            return std::string(dims ? "output that dims" : "output") +
                   (program.sinks[k] ? ", low lights" : "");
        }
    for (std::size_t k = 0; k < program.inputs.size(); ++k)
        if (program.inputs[k] == pin) return program.pulled_up[k] ? "input with its pull-up" : "input";
    for (const std::string& sensor : program.sensors)
        if (sensor == pin) return fmt::format("measures, {} bits", controller.bits);
    return {};
}

class Lister {
  public:
    Lister(const Circuit& circuit, const std::vector<std::pair<std::string, Answer<LongRun>>>& runs)
        : circuit_(circuit), runs_(runs) {
        for (const Part& part : circuit.parts)
            if (const PartKind* kind = part_kind(part.kind)) {
                has_board_ |= is_small(*kind);
                for (const Pin& pin : part.pins)
                    if (!pin.net.empty()) nets_[pin.net].push_back({&part, kind, pin.name});
                if (kind->is(Role::source) && !kind->is(Role::bench) && !source_) source_ = &part;
            }
        if (const auto main = main_switch(circuit))
            behind_switch_ = circuit.find(main->designator)->net(main->pin);
    }

    WireList list() {
        for (const std::string& net : circuit_.nets()) join(net);
        std::stable_sort(out_.wires.begin(), out_.wires.end(),
                         [](const ListedWire& a, const ListedWire& b) { return a.use < b.use; });
        pins();
        notes();
        out_.total = amps("wires.total", "current from the supply, at most", [&](const LongRun& run) {
            return source_ ? run.lasting(source_->designator, source_->pins.front().name) : 0;
        });
        return std::move(out_);
    }

  private:
    bool off_board(const Touch& t) const {
        if (t.kind->is(Role::plugged) || t.kind->is(Role::capacitor)) return false;
        if (t.kind->is(Role::on_leads) || has_header(*t.kind) || ready_light(*t.kind)) return true;
        return t.kind->is(Role::contact) && !has_board_;
    }
    int rank(const Touch& t) const {
        if (t.kind->is(Role::source)) return 0;
        if (t.kind->is(Role::contact) || makes_volts(t)) return 1;
        const bool hands_on = t.kind->module && t.pin == t.kind->module->chain_out;
        return is_controller_pin(t) || output_at(t) || hands_on ? 2 : 3;
    }
    WireUse use_of(const std::string& net) const {
        const auto& touches = nets_.at(net);
        const auto any = [&](auto holds) { return std::any_of(touches.begin(), touches.end(), holds); };
        const auto source_pin = [](const char* pin) {
            return [pin](const Touch& t) { return t.kind->is(Role::source) && t.pin == pin; };
        };
        if (source_ && source_->net("-") == net) return WireUse::ground;
        if (any(source_pin("+")) || net == behind_switch_ || any(is_supply_plus) || any(makes_volts))
            return WireUse::plus;
        if (any(source_pin("-"))) return WireUse::ground;
        if (any(carries_data)) return WireUse::data;
        const auto input = [](const Touch& t) { return t.kind->module && t.pin == t.kind->module->input; };
        return any(is_controller_pin) || any(input) ? WireUse::signal : WireUse::load;
    }

    /// From one point to all other pins of a net off the board.
    void join(const std::string& net) {
        std::vector<Touch> ends, placed;
        for (const Touch& t : nets_.at(net)) (off_board(t) ? ends : placed).push_back(t);
        std::erase_if(placed, [&](const Touch& t) { return !has_board_ || t.kind->is(Role::no_current); });
        if (ends.empty() || ends.size() + placed.size() < 2) return;
        std::stable_sort(ends.begin(), ends.end(),
                         [&](const Touch& a, const Touch& b) { return rank(a) < rank(b); });
        const bool from_board = !placed.empty();
        const WireEnd hub = from_board ? placed.front().end(true) : ends.front().end();
        const WireUse use = use_of(net);
        if (!from_board && ends.size() > crowded)
            out_.notes.push_back(
                fmt::format("{} wires meet at {}: a terminal block or a strip of tinned wire.",
                            ends.size() - 1, hub.text()));
        for (std::size_t k = from_board ? 0 : 1; k < ends.size(); ++k) {
            ListedWire w{use, hub, ends[k].end(),   net, purpose(use, net, ends[k], hub),
                         {},  0,   colour(use, net)};
            w.current = amps("wires." + w.to.text(), "through " + w.to.text(),
                             [&](const LongRun& run) { return run.lasting(w.to.part, w.to.pin); });
            w.area = area_for(w.current.value);
            out_.wires.push_back(std::move(w));
        }
    }

    std::string volts_of(const std::string& net) const {
        for (const auto& [situation, run] : runs_)
            if (source_ && !source_->net("-").empty())
                return format_quantity(run->between(net, source_->net("-")).second, Unit::volt, 2);
        return "plus";
    }
    std::string purpose(WireUse use, const std::string& net, const Touch& to, const WireEnd& hub) const {
        const std::string& name = to.part->designator;
        if (to.kind->is(Role::source)) return to.pin == "+" ? "plus of " + name : "minus of " + name;
        switch (use) {
            case WireUse::ground:
                return "ground of " + name;
            case WireUse::plus:
                return volts_of(net) + (makes_volts(to) ? " made by " : " for ") + name;
            case WireUse::data:
                return carries_data(to) && to.pin == to.kind->module->chain_in
                           ? (handed_on(net) ? "data on to " + name : "data into " + name)
                           : to.pin + " of " + name;
            case WireUse::signal:
                return of_signal(net, to, hub);
            case WireUse::load:
                break;
        }
        for (const Touch& t : nets_.at(net))
            if (const auto* output = output_at(t); output && t.part != to.part)
                return fmt::format("{} switches {}{}", t.part->designator, name,
                                   output->inverted ? " at rest" : "");
        return "current for " + name;
    }
    bool handed_on(const std::string& net) const {
        const auto& touches = nets_.at(net);
        return std::any_of(touches.begin(), touches.end(), [](const Touch& t) {
            return carries_data(t) && t.pin == t.kind->module->chain_out;
        });
    }
    std::string of_signal(const std::string& net, const Touch& to, const WireEnd& hub) const {
        for (const Touch& t : nets_.at(net)) {
            if (!is_controller_pin(t)) continue;
            const auto program = program_of(*t.part);
            const bool drives = program && std::count(program.value().outputs.begin(),
                                                      program.value().outputs.end(), t.pin) > 0;
            const std::string pin = t.part->designator + " " + t.pin;
            const bool itself = t.part == to.part && t.pin == to.pin;
            return fmt::format("{} {} {}", pin, drives ? "switches" : "reads",
                               itself ? hub.part : to.part->designator);
        }
        return "signal of " + to.part->designator;
    }
    std::string colour(WireUse use, const std::string& net) {
        static constexpr const char* usual[]{"black", "red", "blue", "yellow", "white"};
        const bool first_plus = source_ && (net == source_->net("+") || net == behind_switch_);
        return use == WireUse::plus && !first_plus ? "orange" : usual[static_cast<int>(use)];
    }

    template <class Read>
    Figure amps(std::string id, std::string label, Read read) const {
        Figure f{std::move(id), std::move(label), 0, Unit::ampere, {}, {}, {}};
        for (const auto& [situation, run] : runs_) {
            double now = std::abs(read(*run));
            if (now < leaks_only) now = 0;
            f.working.push_back(fmt::format("{}: {}{}", situation, format_quantity(now, Unit::ampere),
                                            run->moves() ? " at its most" : ""));
            f.value = std::max(f.value, now);
        }
        return f;
    }
    double area_for(double amps) const {
        const double volts = source_ ? std::max(1.0, source_volts()) : 5;
        if (const auto planned = plan_wires({volts, std::max(amps, 1e-3), usual_length}); planned) {
            const Wiring& w = planned.value();
            return w.rows[w.best < 0 ? w.rows.size() - 1 : static_cast<std::size_t>(w.best)].area;
        }
        return known_catalogue().wires.front().area;
    }
    double source_volts() const {
        for (const auto& [situation, run] : runs_)
            return run->between(source_->net("+"), source_->net("-")).second;
        return 5;
    }

    void pins() {
        for (const Part& part : circuit_.parts) {
            const PartKind* kind = part_kind(part.kind);
            if (!kind || !kind->controller) continue;
            const auto program = program_of(part);
            if (!program) continue;
            for (const Pin& pin : part.pins)
                if (std::string does = function_of(program.value(), *kind->controller, pin.name);
                    !does.empty())
                    out_.pins.push_back({part.designator, pin.name, std::move(does), pin.net});
        }
    }
    void notes() {
        if (std::count_if(out_.wires.begin(), out_.wires.end(),
                          [](const ListedWire& w) { return w.use == WireUse::ground; }) > 1)
            out_.notes.insert(out_.notes.begin(),
                              "Join all grounds first, with the supply off: a signal without a common ground "
                              "means nothing, and finds its way back through a pin.");
        for (const Part& part : circuit_.parts) {
            const PartKind* kind = part_kind(part.kind);
            if (!kind) continue;
            if (kind->param("highest_input"))
                out_.notes.push_back(
                    fmt::format("The pins of {} give {} and bear {}: nothing of the supply may touch them.",
                                part.designator, format_quantity(part.number("pin_voltage"), Unit::volt),
                                format_quantity(part.number("highest_input"), Unit::volt)));
            if (kind->is(Role::capacitor) && !has_board_) beside(part);
        }
    }
    /// A capacitor of a design without a board: at the part off the board that it steadies.
    void beside(const Part& capacitor) {
        for (const Part& part : circuit_.parts) {
            const PartKind* kind = part_kind(part.kind);
            if (!kind || !kind->supply || kind->is(Role::light)) continue;
            const std::string plus = part.net(kind->supply->plus), minus = part.net(kind->supply->minus);
            const auto touches = [&](const std::string& net) {
                return capacitor.pins[0].net == net || capacitor.pins[1].net == net;
            };
            if (!touches(plus) || !touches(minus)) continue;
            out_.notes.push_back(fmt::format("{}, {}: right at {} and {} of {}.", capacitor.designator,
                                             value_text(capacitor), kind->supply->plus, kind->supply->minus,
                                             part.designator));
            return;
        }
    }

    const Circuit& circuit_;
    const std::vector<std::pair<std::string, Answer<LongRun>>>& runs_;
    std::map<std::string, std::vector<Touch>> nets_;
    const Part* source_ = nullptr;
    std::string behind_switch_;
    bool has_board_ = false;
    WireList out_;
};

}  // namespace

std::string WireEnd::text() const { return (on_board ? "board, at " : "") + part + " " + pin; }

bool joined_by_wires(const Circuit& circuit) {
    return std::any_of(circuit.parts.begin(), circuit.parts.end(), [](const Part& part) {
        const PartKind* kind = part_kind(part.kind);
        return kind && !kind->is(Role::source) &&
               (kind->is(Role::on_leads) || has_header(*kind) || ready_light(*kind));
    });
}

const char* use_name(WireUse use) {
    static constexpr const char* names[]{"ground", "plus", "data", "signal", "load"};
    return names[static_cast<int>(use)];
}

Digest WireListQuery::key() const {
    Digester d;
    d << circuit.digest() << content_digest(situations);
    return d.digest();
}

Result<WireList> WireListQuery::compute(const Ask& ask) const {
    std::vector<std::pair<std::string, Answer<LongRun>>> runs;
    const auto run_in = [&](const std::string& situation, const Conditions& conditions) -> Result<void> {
        auto run = ask(RunQuery(circuit, fresh(*circuit, conditions)));
        if (!run) return run.error();
        runs.emplace_back(situation, std::move(run));
        return success();
    };
    Design design;
    design.situations = situations;
    for (const Situation& s : situations_of(ask, design, circuit))
        if (auto ran = run_in(s.name, s.under({})); !ran) return ran.error();
    if (runs.empty())
        if (auto ran = run_in("fresh", {}); !ran) return ran.error();
    return Lister(*circuit, runs).list();
}

CsvTable wires_csv(const WireList& list) {
    CsvTable table{{"number", "use", "from", "to", "net", "purpose", "current_A", "wire_mm2", "colour"}};
    int number = 0;
    for (const ListedWire& w : list.wires)
        table.push_back({std::to_string(++number), use_name(w.use), w.from.text(), w.to.text(), w.net,
                         w.purpose, fmt::format("{:.6g}", w.current.value), fmt::format("{:g}", w.area),
                         w.colour});
    return table;
}

}  // namespace elkit
