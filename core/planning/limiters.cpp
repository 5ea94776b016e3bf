#include "planning/limiters.hpp"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>
#include <limits>
#include <map>

#include "catalogue/catalogue.hpp"
#include "circuit/part_kind.hpp"
#include "circuit/part_words.hpp"
#include "engine/models.hpp"
#include "engine/operating_point.hpp"
#include "light/strings.hpp"
#include "planning/comparison.hpp"
#include "quantity/preferred.hpp"
#include "recipes/series_resistor.hpp"
#include "situations/propose.hpp"

namespace elkit {
namespace {

constexpr const char *plus_rail = "PLUS", *minus_rail = "GND";
constexpr double base_emitter = 0.65;  // V, of a small transistor at some milliamperes

/// A circuit that grows: the source is there, LEDs and limiters are hung between nets.
class Bench {
  public:
    explicit Bench(const ArrayQuestion& q) : q_(q) {
        Part source = q.source;
        source.pins = {{"+", plus_rail}, {"-", minus_rail}};
        source.designator = is(source, Role::cells) ? "B1" : "PS1";
        circuit_.parts.push_back(std::move(source));
    }
    const Part& add(const std::string& kind, std::vector<Pin> pins,
                    std::map<std::string, ParamValue> params) {
        Part part{
            circuit_.free_designator(part_kind(kind)->prefix), kind, std::move(params), std::move(pins), {}};
        circuit_.parts.push_back(std::move(part));
        return circuit_.parts.back();
    }
    void resistor(const std::string& a, const std::string& b, double ohms) {
        add("resistor", {{"a", a}, {"b", b}}, {{"value", ohms}, {"tolerance", q_.tolerance}});
    }
    void leds(const std::string& from, const std::string& to, int count) {
        std::string net = from;
        for (int k = 1; k <= count; ++k) {
            const std::string next = k == count ? to : net_name("M");
            add("led", {{"a", net}, {"k", next}}, q_.led.params);
            net = next;
        }
    }
    std::string net_name(const char* prefix) { return fmt::format("{}{}", prefix, ++nets_); }
    Circuit take() { return std::move(circuit_); }

  private:
    const ArrayQuestion& q_;
    Circuit circuit_;
    int nets_ = 0;
};

class LimiterMaker {
  public:
    explicit LimiterMaker(const LimiterQuestion& question) : l_(question), q_(question.array) {
        const int full = q_.count / l_.per_string, rest = q_.count % l_.per_string;
        lengths_.assign(static_cast<std::size_t>(full), l_.per_string);
        if (rest > 0) lengths_.push_back(rest);
    }

    Result<std::vector<LimiterRow>> all() {
        if (l_.per_string < 1 || l_.per_string > q_.count)
            return Error{Fault::usage, "in series", fmt::format("{}", l_.per_string),
                         fmt::format("1 to {}", q_.count)};
        if (!(q_.current > 0))
            return Error{Fault::usage, "current", format_quantity(q_.current, Unit::ampere), "more than 0"};
        auto feeds =
            q_.feeds ? Result<LightsFeeds>(*q_.feeds) : feeds_of(q_.source, q_.contact, q_.cold, q_.hot);
        if (!feeds) return feeds.error();
        feeds_ = std::move(feeds).value();
        auto led = junction_model(q_.led, known_catalogue(), q_.usual, 0);
        if (!led) return led.error();
        led_volts_ = led.value().voltage_at(q_.current);
        supply_ = feeds_.usual.volts(total());
        std::vector<LimiterRow> rows;
        rows.push_back(make("each", "a resistor each", &LimiterMaker::each));
        rows.push_back(make("shared", "one shared resistor", &LimiterMaker::shared));
        rows.push_back(make("pairs", "two in parallel each", &LimiterMaker::pairs));
        rows.push_back(make("diodes", "series diodes", &LimiterMaker::diodes));
        rows.push_back(make("source", "the source itself", &LimiterMaker::nothing));
        rows.push_back(make("transistors", "two-transistor source", &LimiterMaker::transistors));
        rows.push_back(make("regulator", "regulator as source", &LimiterMaker::regulator));
        return rows;
    }

  private:
    using Maker = std::string (LimiterMaker::*)(Bench&);  ///< why it cannot be, or empty

    double total() const { return q_.current * static_cast<double>(lengths_.size()); }
    double left_over(int leds) const { return supply_ - leds * led_volts_; }
    std::string too_little(int leds) const {
        return fmt::format("{} feed, {} needed by the LEDs", format_quantity(supply_, Unit::volt),
                           format_quantity(leds * led_volts_, Unit::volt));
    }
    double preferred(double ohms) const {
        if (!q_.owned.empty()) {  // ascending
            const auto above = std::lower_bound(q_.owned.begin(), q_.owned.end(), ohms);
            if (above == q_.owned.begin()) return *above;
            if (above == q_.owned.end()) return q_.owned.back();
            const bool nearer_below = ohms / above[-1] < *above / ohms;
            return q_.rounding == Rounding::under || !nearer_below ? *above : above[-1];
        }
        return q_.rounding == Rounding::under ? preferred_at_least(ohms, q_.series)
                                              : nearest_preferred(ohms, q_.series);
    }

    std::string each(Bench& bench) {
        for (const int leds : lengths_) {
            if (left_over(leds) <= 0) return too_little(leds);
            const std::string net = bench.net_name("A");
            bench.resistor(plus_rail, net, preferred(left_over(leds) / q_.current));
            bench.leds(net, minus_rail, leds);
        }
        return {};
    }
    std::string shared(Bench& bench) {
        if (lengths_.size() < 2) return "there is one string only";
        if (left_over(lengths_.front()) <= 0) return too_little(lengths_.front());
        bench.resistor(plus_rail, "LEDS", preferred(left_over(lengths_.front()) / total()));
        for (const int leds : lengths_) bench.leds("LEDS", minus_rail, leds);
        return {};
    }
    std::string pairs(Bench& bench) {
        for (const int leds : lengths_) {
            if (left_over(leds) <= 0) return too_little(leds);
            const std::string net = bench.net_name("A");
            for (int k = 0; k < 2; ++k)
                bench.resistor(plus_rail, net, preferred(2 * left_over(leds) / q_.current));
            bench.leds(net, minus_rail, leds);
        }
        return {};
    }
    std::string diodes(Bench& bench) {
        const Part diode{"D1", "diode", {}, {}, {}};
        auto law = junction_model(diode, known_catalogue(), q_.usual, 0);
        if (!law) return law.error().text();
        const double drop = law.value().voltage_at(total());
        const int count = static_cast<int>(std::lround(left_over(lengths_.front()) / drop));
        if (count < 1)
            return fmt::format("{} is left, a diode takes {}",
                               format_quantity(std::max(0.0, left_over(lengths_.front())), Unit::volt),
                               format_quantity(drop, Unit::volt));
        if (count > 6) return fmt::format("it would take {} of them", count);
        std::string net = plus_rail;
        for (int k = 1; k <= count; ++k) {
            const std::string next = k == count ? "LEDS" : bench.net_name("D");
            bench.add("diode", {{"a", net}, {"k", next}}, {});
            net = next;
        }
        for (const int leds : lengths_) bench.leds(net, minus_rail, leds);
        return {};
    }
    std::string nothing(Bench& bench) {
        for (const int leds : lengths_) bench.leds(plus_rail, minus_rail, leds);
        return {};
    }
    /// The second transistor takes the first one's base drive away as soon as R has a base-emitter voltage.
    std::string transistors(Bench& bench) {
        for (const int leds : lengths_) {
            if (left_over(leds) < base_emitter + 0.1) return too_little(leds) + ", and 0.75 V by it";
            const std::string low = bench.net_name("C"), base = bench.net_name("Q"),
                              sense = bench.net_name("E");
            bench.leds(plus_rail, low, leds);
            bench.resistor(sense, minus_rail, nearest_preferred(base_emitter / q_.current, q_.series));
            const double drive = std::max(q_.current / 50, 20e-6);
            bench.resistor(plus_rail, base,
                           nearest_preferred((supply_ - 2 * base_emitter) / drive, q_.series));
            bench.add("npn", {{"c", low}, {"b", base}, {"e", sense}}, {});
            bench.add("npn", {{"c", base}, {"b", sense}, {"e", minus_rail}}, {});
        }
        return {};
    }
    /// It keeps its own voltage across R: I = V/R, and what it takes itself. It swings without its
    /// capacitors.
    std::string regulator(Bench& bench) {
        const PartType* type = nullptr;
        for (const PartType& t : known_catalogue().types)
            if (t.kind == "regulator" && (!type || t.value("voltage") < type->value("voltage"))) type = &t;
        if (!type) return "the catalogue has none";
        if (q_.pulsed) return "the lights are pulsed, and a regulator takes its time";
        constexpr double at_input = 1e-7, at_output = 1e-6;  // F, typical datasheets
        const double holds = type->value("voltage"), needs = holds + type->value("dropout");
        for (const int leds : lengths_) {
            if (left_over(leds) < needs)
                return fmt::format("{} are left above the LEDs, a regulator of {} needs {}",
                                   format_quantity(std::max(0.0, left_over(leds)), Unit::volt),
                                   format_quantity(holds, Unit::volt), format_quantity(needs, Unit::volt));
            if (supply_ > type->value("highest_supply") + leds * led_volts_)
                return fmt::format("it bears {}", format_quantity(type->value("highest_supply"), Unit::volt));
            if (q_.current > type->value("max_current"))
                return fmt::format("it gives {}", format_quantity(type->value("max_current"), Unit::ampere));
            const std::string out = bench.net_name("O"), net = bench.net_name("A");
            bench.add("regulator", {{"in", plus_rail}, {"gnd", net}, {"out", out}}, {{"type", type->id}});
            bench.add("capacitor", {{"a", out}, {"b", minus_rail}}, {{"value", at_output}});
            bench.resistor(out, net, nearest_preferred(holds / q_.current, q_.series));
            bench.leds(net, minus_rail, leds);
        }
        bench.add("capacitor", {{"a", plus_rail}, {"b", minus_rail}}, {{"value", at_input}});
        return {};
    }

    LimiterRow make(const char* id, const char* name, Maker maker) {
        LimiterRow row;
        row.id = id, row.name = name;
        Bench bench(q_);
        row.reason = (this->*maker)(bench);
        if (!row.reason.empty()) return row;
        row.circuit = bench.take();
        measure(row);
        return row;
    }

    Result<OperatingPoint> on_line(const Circuit& circuit, const Thevenin& line, double celsius,
                                   const Corner& corner) const {
        Conditions c;
        c.celsius = celsius;
        Circuit fed = circuit;
        Part& source = fed.parts.front();
        source.kind = "supply";
        source.params = {{"voltage", std::max(line.voltage, 1e-6)},
                         {"resistance", std::max(line.resistance, 1e-6)},
                         {"lead_length", 0.0}};
        return operating_point(fed, known_catalogue(), c, corner);
    }

    /// On a feed, as a supply along the line that it follows about the current that flows.
    Result<OperatingPoint> solve(const Circuit& circuit, const LightsFeed& feed, double celsius,
                                 const Corner& corner = {}) const {
        Thevenin line = feed.at(total());
        for (int step = 0; step < 8 && line.voltage < highest_supply; ++step) {
            auto op = on_line(circuit, line, celsius, corner);
            if (!op) return op;
            const Thevenin next = feed.at(op.value().supply_current());
            if (next == line) return op;
            line = next;
        }
        // where it bends: the more is taken, the less volts there are
        double low = 0, high = std::min(feed.highest(), 1000 * total());
        for (int step = 0;; ++step) {
            const double amps = (low + high) / 2;
            auto op = on_line(circuit, {feed.volts(amps), 0}, celsius, corner);
            if (!op || step == 40) return op;
            (op.value().supply_current() > amps ? low : high) = amps;
        }
    }

    void measure(LimiterRow& row) const {
        auto measured = try_to_measure(row);
        row.possible = bool(measured);
        if (!measured) row.reason = measured.error().text();
    }

    Result<void> try_to_measure(LimiterRow& row) const {
        const auto typical = solve(row.circuit, feeds_.usual, q_.usual);
        if (!typical) return typical.error();
        const auto amps = [](const OperatingPoint& op) { return op.part("L1").current; };
        if (amps(typical.value()) < gives_light)
            return Error{Fault::design, row.name,
                         "the lights stay dark at " + format_quantity(amps(typical.value()), Unit::ampere),
                         "more volts"};
        double low = amps(typical.value()), high = low;
        std::map<std::string, PartState> worst;  // of each part, where it takes up most
        for (const auto& [feed, celsius] : {std::pair(&feeds_.cold, q_.cold), std::pair(&feeds_.hot, q_.hot)})
            for (const double bin : {-1.0, 1.0})
                for (const double tolerance : {-1.0, 1.0}) {
                    Corner corner;
                    corner.led_vf = bin, corner.resistance = tolerance;
                    const auto op = solve(row.circuit, *feed, celsius, corner);
                    if (!op) return op.error();
                    low = std::min(low, amps(op.value())), high = std::max(high, amps(op.value()));
                    for (const PartState& state : op.value().parts)
                        if (PartState& most = worst[state.designator]; state.power() >= most.power())
                            most = state;
                }
        row.current = {
            "limiter." + row.id + ".current",
            "current of a string with " + row.name,
            amps(typical.value()),
            Unit::ampere,
            low,
            high,
            {fmt::format("the engine's answer for {} parts, fresh", row.circuit.parts.size()),
             fmt::format("over LED bins, tolerances, {} to {} °C: {}–{}", q_.cold, q_.hot,
                         format_quantity(low, Unit::ampere), format_quantity(high, Unit::ampere))}};
        row.spread = spread_ratio(row.current);
        remark(row);
        rate_parts(row, worst);
        efficiency(row, typical.value());
        headroom(row, amps(typical.value()));
        list_parts(row);
        return share_of_light(row, typical.value());
    }

    /// Resistors for the heat at their worst corner; what another part does not bear is told.
    void rate_parts(LimiterRow& row, const std::map<std::string, PartState>& worst) const {
        const auto told = [&row](std::string words) {
            if (row.reason.empty()) row.reason = std::move(words);
        };
        for (Part& part : row.circuit.parts) {
            const PartState& most = worst.at(part.designator);
            const std::string name = shop_name(part);
            if (is(part, Role::diode_light) || is(part, Role::source)) continue;
            if (is(part, Role::resistor)) {
                const double rating = rating_for(most.power());
                if (std::isfinite(rating))
                    part.params["rating"] = rating;
                else
                    told(fmt::format("up to {} of heat in the {}", format_quantity(most.power(), Unit::watt),
                                     name));
                continue;
            }
            const double amps = part.number("max_current"), watts = part.number("max_power");
            if (amps > 0 && std::abs(most.current) > amps)
                told(fmt::format("{} through a {} that bears {}", format_quantity(most.current, Unit::ampere),
                                 name, format_quantity(amps, Unit::ampere)));
            else if (watts > 0 && most.power() > watts)
                told(fmt::format("up to {} in a {} that bears {}", format_quantity(most.power(), Unit::watt),
                                 name, format_quantity(watts, Unit::watt)));
        }
    }

    Result<void> share_of_light(LimiterRow& row, const OperatingPoint& fresh) const {
        const double whole = total_intensity(row.circuit, known_catalogue(), fresh);
        for (const auto& [feed, figure, words] :
             {std::tuple(&feeds_.half, &row.half, "half"), std::tuple(&feeds_.flat, &row.flat, "a tenth")}) {
            const auto op = solve(row.circuit, *feed, q_.usual);
            if (!op) return op.error();
            const double now = total_intensity(row.circuit, known_catalogue(), op.value());
            *figure = seen_share(fmt::format("limiter.{}.{}", row.id, words),
                                 fmt::format("light at {} of the charge with {}", words, row.name),
                                 whole > 0 ? now / whole : 0);
        }
        return success();
    }

    void efficiency(LimiterRow& row, const OperatingPoint& fresh) const {
        double leds = 0;
        for (const Part& part : row.circuit.parts)
            if (is(part, Role::diode_light)) leds += fresh.part(part.designator).power();
        const double drawn = feeds_.usual.source_volts() * feeds_.usual.drawn(fresh.supply_current());
        row.efficiency = {
            "limiter." + row.id + ".efficiency",
            "share of the source's power that reaches the LEDs with " + row.name,
            drawn > 0 ? 100 * leds / drawn : 0,
            Unit::percent,
            {},
            {},
            {fmt::format("{} in the LEDs of {} from the source", format_quantity(leds, Unit::watt),
                         format_quantity(drawn, Unit::watt))}};
    }

    /// The least supply, without resistance of its own, that still gives 90 % of the current.
    void headroom(LimiterRow& row, double wanted) const {
        double low = 0, high = std::min(highest_supply, 2 * supply_ + 2);
        for (int step = 0; step < 24; ++step) {
            const double volts = (low + high) / 2;
            const auto op = solve(row.circuit, LightsFeed({volts, 1e-3}, 0), q_.usual);
            (op && op.value().part("L1").current >= 0.9 * wanted ? high : low) = volts;
        }
        const double own = lengths_.front() * led_volts_;
        row.headroom = {"limiter." + row.id + ".headroom",
                        "headroom of " + row.name,
                        std::max(0.0, high - own),
                        Unit::volt,
                        {},
                        {},
                        {fmt::format("90 % of {} from {}, of which the LEDs take {}",
                                     format_quantity(wanted, Unit::ampere), format_quantity(high, Unit::volt),
                                     format_quantity(own, Unit::volt))}};
    }

    void list_parts(LimiterRow& row) const {
        std::map<std::string, int> names;
        double cost = 0;
        for (const Part& part : row.circuit.parts) {
            if (is(part, Role::diode_light) || is(part, Role::source)) continue;
            ++names[shop_name(part)];
            const DrawerItem* item = find_item(l_.drawer, drawer_key(part));
            cost += item ? item->unit_price() : std::numeric_limits<double>::quiet_NaN();
        }
        for (const auto& [name, count] : names) row.parts.push_back(fmt::format("{} × {}", count, name));
        row.cost = {
            "limiter." + row.id + ".cost", "cost of " + row.name, cost, Unit::money, {}, {}, row.parts};
    }

    void remark(LimiterRow& row) const {
        const double limit = q_.led.number("max_current");
        const auto cell = cell_of(q_.source, known_catalogue());
        if (limit > 0 && *row.current.high > 1.0001 * limit)
            row.reason = fmt::format("up to {} in an LED that bears {}",
                                     format_quantity(*row.current.high, Unit::ampere),
                                     format_quantity(limit, Unit::ampere));
        else if (row.id == "source" && cell && !cell->limits_itself)
            row.reason = "these cells do not limit themselves";
        else if (row.id == "shared" && lengths_.front() != lengths_.back())
            row.reason = "strings of unequal length share unequally";
        else if (row.id == "shared")
            row.reason = "strings share by their LEDs' bins";
        else if (row.current.value < 0.67 * q_.current)
            row.reason = fmt::format("{} instead of {}", row.current.text(),
                                     format_quantity(q_.current, Unit::ampere));
    }

    const LimiterQuestion& l_;
    const ArrayQuestion& q_;
    std::vector<int> lengths_;
    LightsFeeds feeds_;
    double led_volts_ = 0, supply_ = 0;  // V of one LED at the wanted current; fresh, under the load of all
};

}  // namespace

Result<std::vector<LimiterRow>> limiters(const LimiterQuestion& question) {
    return LimiterMaker(question).all();
}

}  // namespace elkit
