#include "planning/strip_run.hpp"

#include <fmt/format.h>

#include <Eigen/SparseLU>
#include <algorithm>
#include <cmath>

#include "catalogue/catalogue.hpp"
#include "catalogue/copper.hpp"
#include "circuit/part_kind.hpp"
#include "design/content.hpp"
#include "engine/models.hpp"
#include "planning/comparison.hpp"
#include "power/wiring.hpp"
#include "quantity/brightness.hpp"
#include "recipes/blocks.hpp"

namespace elkit {
namespace {

constexpr double longest_strip = 50;  // m
constexpr double evenly_seen = 90;    // %, perceived: less is seen along a strip
constexpr double least_ohms = 1e-6;

/// Voltages along the strip, Kirchhoff's current law at each cut length and at the source's leads.
class StripLadder {
  public:
    StripLadder(const Junction& piece, int count, double track, const Thevenin& source)
        : piece_(piece), count_(count), track_(std::max(track, least_ohms)), source_(source) {}

    void feed(int at, double ohms) { feeds_.push_back({at, std::max(ohms, least_ohms)}); }

    /// Volts of each cut length, then of the source's leads.
    Eigen::VectorXd solve() const {
        const int n = count_ + 1;
        Eigen::VectorXd v = Eigen::VectorXd::Constant(n, source_.voltage);
        for (int round = 0; round < 100; ++round) {
            std::vector<Eigen::Triplet<double>> slope;
            Eigen::VectorXd off = Eigen::VectorXd::Zero(n);  // A that flow in
            const auto join = [&](int a, int b, double ohms) {
                const double g = 1 / ohms, amps = g * (v[b] - v[a]);
                off[a] += amps, off[b] -= amps;
                slope.insert(slope.end(), {{a, a, -g}, {b, b, -g}, {a, b, g}, {b, a, g}});
            };
            for (int k = 0; k + 1 < count_; ++k) join(k, k + 1, track_);
            for (const auto& [at, ohms] : feeds_) join(at, count_, ohms);
            for (int k = 0; k < count_; ++k) {
                const auto point = piece_.at(v[k]);
                off[k] -= point.current, slope.emplace_back(k, k, -point.conductance);
            }
            const double inside = std::max(source_.lasting(), least_ohms);
            off[count_] += (source_.voltage - v[count_]) / inside;
            slope.emplace_back(count_, count_, -1 / inside);
            Eigen::SparseMatrix<double> matrix(n, n);
            matrix.setFromTriplets(slope.begin(), slope.end());
            const Eigen::SparseLU<Eigen::SparseMatrix<double>> lu(matrix);
            const Eigen::VectorXd step = lu.solve(-off);
            v += step;
            if (step.cwiseAbs().maxCoeff() < 1e-9) break;
        }
        return v;
    }

  private:
    struct Fed {
        int at;
        double ohms;
    };
    const Junction& piece_;
    int count_;
    double track_;
    const Thevenin& source_;
    std::vector<Fed> feeds_;
};

class StripPlanner {
  public:
    explicit StripPlanner(const StripQuestion& q) : q_(q) {}

    Result<StripAnswer> plan() {
        const double cut = q_.strip.number("cut");
        answer_.pieces = static_cast<int>(std::floor(q_.length / cut + 1e-6));
        if (!(q_.length <= longest_strip) || answer_.pieces < 1)
            return Error{Fault::usage, "length of the strip", format_quantity(q_.length, Unit::metre),
                         fmt::format("a cut length of {} to {:.0f} m", format_quantity(cut, Unit::metre),
                                     longest_strip)};
        if (!(q_.lead_area > 0) || !(q_.lead_length >= 0))
            return Error{Fault::usage, "leads", "found no cross-section", "one of more than 0 mm²"};
        answer_.length = answer_.pieces * cut;
        answer_.left_over = std::max(0.0, q_.length - answer_.length);
        const double chains = q_.strip.number("chains"), in_series = q_.strip.number("in_series");
        answer_.leds = static_cast<int>(answer_.pieces * chains * in_series);
        Part bare = q_.source;
        bare.params["lead_length"] = 0.0;
        Conditions c;
        c.celsius = q_.celsius;
        auto source = source_model(bare, known_catalogue(), c);
        if (!source) return source.error();
        source_ = source.value();
        const LedType* type = known_catalogue().led(q_.strip.text("type"));
        if (!type)
            return Error{Fault::design, "part " + q_.strip.designator, "its LED is not known",
                         "an LED of the catalogue"};
        auto led = led_junction(*type, q_.celsius, 0);
        if (!led) return led.error();
        piece_ = {led.value().saturation * chains, led.value().slope * in_series,
                  (led.value().resistance * in_series + q_.strip.number("resistance")) / chains};
        most_each_ = type->max_current * chains;
        for (const StripFeed feed : {StripFeed::one_end, StripFeed::both_ends, StripFeed::middle})
            answer_.runs.push_back(run(feed));
        remark();
        return std::move(answer_);
    }

  private:
    double lead(double metres) const { return copper_resistance(2 * metres, q_.lead_area, q_.celsius); }

    StripRun run(StripFeed feed) const {
        StripLadder ladder(piece_, answer_.pieces, q_.strip.number("track") * q_.strip.number("cut"),
                           source_);
        StripRun r;
        r.feed = feed;
        const int last = answer_.pieces - 1, middle = last / 2;
        const double length = answer_.length;
        switch (feed) {
            case StripFeed::one_end:
                r.name = "from one end", r.wire = 2 * q_.lead_length;
                ladder.feed(0, lead(q_.lead_length));
                break;
            case StripFeed::both_ends:
                r.name = "from both ends", r.wire = 2 * (2 * q_.lead_length + length);
                ladder.feed(0, lead(q_.lead_length));
                ladder.feed(last, lead(q_.lead_length + length));
                break;
            case StripFeed::middle:
                r.name = "in the middle", r.wire = 2 * (q_.lead_length + length / 2);
                ladder.feed(middle, lead(q_.lead_length + length / 2));
                break;
        }
        const Eigen::VectorXd v = ladder.solve();
        double sum = 0, least = HUGE_VAL, most = 0;
        for (int k = 0; k < answer_.pieces; ++k) {
            const double amps = std::max(0.0, piece_.at(v[k]).current);
            r.amps.push_back(amps), r.volts.push_back(v[k]);
            sum += amps, least = std::min(least, amps), most = std::max(most, amps);
        }
        figures(r, v[answer_.pieces], sum, least, most);
        return r;
    }

    void figures(StripRun& r, double at_source, double sum, double least, double most) const {
        const std::string id = fmt::format("strip.{}.", static_cast<int>(r.feed));
        const double best = *std::max_element(r.volts.begin(), r.volts.end()),
                     worst = *std::min_element(r.volts.begin(), r.volts.end());
        r.total = {id + "total",
                   "current of the strip, fed " + r.name,
                   sum,
                   Unit::ampere,
                   {},
                   {},
                   {fmt::format("{} cut lengths of {}–{}", answer_.pieces,
                                format_quantity(least, Unit::ampere), format_quantity(most, Unit::ampere))}};
        r.lead_drop = {id + "lead_drop",
                       "volts lost in the leads, fed " + r.name,
                       at_source - best,
                       Unit::volt,
                       {},
                       {},
                       {fmt::format("{} at the source, {} where the strip has most; {:.1f} m of {:.2f} mm²",
                                    format_quantity(at_source, Unit::volt), format_quantity(best, Unit::volt),
                                    r.wire, q_.lead_area)}};
        r.strip_drop = {id + "strip_drop",
                        "volts lost along the strip, fed " + r.name,
                        best - worst,
                        Unit::volt,
                        {},
                        {},
                        {fmt::format("{} where it has most, {} where it has least",
                                     format_quantity(best, Unit::volt), format_quantity(worst, Unit::volt))}};
        r.dimmest = seen_share(id + "dimmest", "dimmest place of the strip, fed " + r.name,
                               most > 0 ? least / most : 0);
        r.dimmest.working.insert(r.dimmest.working.begin(), "against the brightest place of the same strip");
    }

    void remark() {
        const StripRun& one = answer_.runs.front();
        const double rated = most_current(q_.source);
        if (rated > 0 && one.total.value > rated)
            answer_.remarks.push_back(fmt::format("it takes {}, the source gives {} well", one.total.text(),
                                                  format_quantity(rated, Unit::ampere)));
        if (*std::max_element(one.amps.begin(), one.amps.end()) > 1.001 * most_each_)
            answer_.remarks.push_back("its LEDs get more than they bear: too many volts for this strip");
        if (one.total.value < 1e-3)
            answer_.remarks.push_back(
                fmt::format("{} are too few for this strip", format_quantity(source_.voltage, Unit::volt)));
        if (answer_.left_over > 1e-3)
            answer_.remarks.push_back(fmt::format("cut only at the marks: {} are left over",
                                                  format_quantity(answer_.left_over, Unit::metre)));
        const StripRun& best = *std::max_element(
            answer_.runs.begin(), answer_.runs.end(),
            [](const StripRun& a, const StripRun& b) { return a.dimmest.value < b.dimmest.value; });
        if (one.dimmest.value < evenly_seen && best.feed != StripFeed::one_end)
            answer_.remarks.push_back(
                fmt::format("fed from one end its far end looks {} as bright, fed {} {}", one.dimmest.text(2),
                            best.name, best.dimmest.text(2)));
        remark_on_leads(one);
    }

    /// Leads that lose too much or carry too much, and the gauge that would do.
    void remark_on_leads(const StripRun& one) {
        const double bears = known_catalogue().wire_at_least(q_.lead_area).max_current;
        const bool loses = one.lead_drop.value > drop_nobody_minds * source_.voltage;
        if (!loses && one.total.value <= bears) return;
        auto wiring = plan_wires({.volts = source_.voltage,
                                  .amps = one.total.value,
                                  .metres = q_.lead_length,
                                  .celsius = q_.celsius});
        const bool found = wiring && wiring.value().best >= 0;
        if (found) answer_.thicker = wiring.value().rows[static_cast<std::size_t>(wiring.value().best)].area;
        const std::string trouble = loses ? "lose " + one.lead_drop.text()
                                          : "carry " + format_quantity(bears, Unit::ampere) + " well";
        answer_.remarks.push_back(
            fmt::format("leads of {:.2f} mm² {}: {}", q_.lead_area, trouble,
                        found ? fmt::format("take {:.2f} mm²", answer_.thicker)
                              : std::string("no wire of the catalogue is enough, feed it in pieces")));
    }

    const StripQuestion& q_;
    StripAnswer answer_;
    Thevenin source_;
    Junction piece_;
    double most_each_ = 0;
};

Part* first_strip(Circuit& circuit) {
    for (Part& part : circuit.parts)
        if (part.kind == "strip") return &part;
    return nullptr;
}

}  // namespace

Result<StripAnswer> plan_strip(const StripQuestion& question) { return StripPlanner(question).plan(); }

Drawing draw_strip(const StripAnswer& answer, unsigned rgb, double width) {
    constexpr double words = 12, row = 34, bar = 14;
    Drawing d;
    d.width = width, d.title = "light along the strip";
    double y = 4;
    for (const StripRun& run : answer.runs) {
        const double most = std::max(1e-12, *std::max_element(run.amps.begin(), run.amps.end()));
        const std::string ref = fmt::format("feed:{}", static_cast<int>(run.feed));
        d.text(0, y + words, run.name, words, Ink::muted);
        d.text(width, y + words, run.dimmest.text(2) + " at the dimmest", words, Ink::muted, false,
               Anchor::end);
        const double each = width / static_cast<double>(run.amps.size()), top = y + words + 4;
        d.add(Rect{0, top, width, bar, 2}, {Ink::ink, 1, Ink::ink, 1, 0, false}, ref);
        for (std::size_t k = 0; k < run.amps.size(); ++k)
            d.add(Rect{each * static_cast<double>(k), top, each, bar, 0},
                  {Ink::none, 0, Ink::rgb, perceived(run.amps[k] / most), rgb, false}, ref);
        const double fed = run.feed == StripFeed::middle ? width / 2 : 0;
        for (const double x : {fed, run.feed == StripFeed::both_ends ? width : fed})
            d.add(Line{x, top - 2, x, top + bar + 3}, {Ink::structure, 3, Ink::none, 1, 0, false}, ref);
        y += row;
    }
    d.height = y;
    return d;
}

Result<StripQuestion> strip_question(const Design& design) {
    const Part* source = design.circuit.source();
    if (!source)
        return Error{Fault::design, "circuit", "it has no source", "cells or a supply, such as supply 12 V"};
    Circuit copy = design.circuit;
    StripQuestion q;
    const Part* strip = first_strip(copy);
    q.strip = strip ? *strip : Part{"L1", "strip", {}, {}, {}};
    q.source = *source;
    q.length = q.strip.number("length");
    q.lead_length = source->number("lead_length"), q.lead_area = source->number("lead_area");
    return q;
}

Design with_strip(const Design& design, const StripQuestion& question, const StripAnswer& answer) {
    Circuit next = design.circuit;
    Part* strip = first_strip(next);
    if (const Part* source = next.source(); !strip && source) {
        Part added = question.strip;
        added.designator = next.free_designator(part_kind("strip")->prefix);
        added.pins = {{"+", source->net("+")}, {"-", source->net("-")}};
        next.parts.push_back(std::move(added));
        strip = &next.parts.back();
    }
    if (strip) strip->params["length"] = answer.length;
    if (const Part* source = next.source()) {
        Part& fed = *next.find(source->designator);
        fed.params["lead_length"] = question.lead_length, fed.params["lead_area"] = question.lead_area;
    }
    return with_circuit(design, std::move(next));
}

Digest StripQuery::key() const {
    Digester d;
    d << content_digest(design.circuit) << length << lead_length << lead_area;
    return d.digest();
}

Result<StripQuery::Value> StripQuery::compute(const Ask&) const {
    auto question = strip_question(design);
    if (!question) return question.error();
    StripQuestion& q = question.value();
    if (length > 0) q.length = length;
    if (lead_length > 0) q.lead_length = lead_length;
    if (lead_area > 0) q.lead_area = lead_area;
    auto answer = plan_strip(q);
    if (!answer) return answer.error();
    return Value{std::move(question).value(), std::move(answer).value()};
}

}  // namespace elkit
