// protection: reversed cells, shorts; charging
#include <fmt/format.h>

#include <iostream>

#include "cli/command.hpp"
#include "cli/with_design.hpp"
#include "design/file.hpp"
#include "power/charging.hpp"
#include "power/protection.hpp"
#include "recipes/blocks.hpp"

namespace elkit::cli {
namespace {

int use_protection(const Design& design, const Protection& found, const std::string& id) {
    for (const ProtectionWay& way : found.ways)
        if (way.id == id && way.circuit)
            return std::cout << write_design(with_circuit(design, *way.circuit)), 0;
    for (const FuseWay& fuse : found.fuses)
        if (fuse.type == id) return std::cout << write_design(with_circuit(design, fuse.circuit)), 0;
    return fail({Fault::usage, "--use", "\"" + id + "\" is none",
                 "schottky, silicon, pmos, lock, or a fuse of the list"});
}

int protection(const Options& o, const std::string& use) {
    return with_design(o, [&](const Design& design, const Conditions& now) {
        Store store;
        const auto found = Ask(store)(ProtectionQuery{design, now});
        if (!found) return fail(found.error());
        if (!use.empty()) return use_protection(design, *found, use);
        Json ways = Json::array(), fuses = Json::array();
        for (const ProtectionWay& w : found->ways) {
            ways.push_back({{"id", w.id},
                            {"name", w.name},
                            {"drop", figure_json(w.drop)},
                            {"current", figure_json(w.current)},
                            {"run_time", w.lasts ? figure_json(w.run_time) : Json()},
                            {"reversed", figure_json(w.reversed)},
                            {"remark", w.remark}});
            if (!o.json)
                fmt::print("{:<22} loses {:>8}, {:>8} from the cells, runs {:>8}, reversed {:>8}; {}\n",
                           w.name, w.drop.text(), w.current.text(), w.lasts ? w.run_time.text() : "–",
                           w.reversed.text(), w.remark);
        }
        for (const FuseWay& f : found->fuses) {
            fuses.push_back({{"id", f.type},
                             {"name", f.name},
                             {"drop", figure_json(f.drop)},
                             {"hold", figure_json(f.hold)},
                             {"short_circuit", figure_json(f.short_circuit)},
                             {"holds", f.holds},
                             {"opens", f.opens},
                             {"remark", f.remark}});
            if (!o.json)
                fmt::print("{:<22} loses {:>8}, holds {:>8}, a short draws {:>8}; {}\n", f.name,
                           f.drop.text(), f.hold.text(), f.short_circuit.text(), f.remark);
        }
        if (o.json)
            print_json({{"ways", ways}, {"fuses", fuses}, {"cautions", found->cautions}});
        else
            for (const std::string& caution : found->cautions) fmt::print("{}\n", caution);
        return 0;
    });
}

int charging(const Options& o, double use) {
    return with_design(o, [&](const Design& design, const Conditions& now) {
        if (use > 0) {
            auto next = with_charger(design, use);
            if (!next) return fail(next.error());
            return std::cout << write_design(next.value()), 0;
        }
        Store store;
        const auto found = Ask(store)(ChargingQuery{design, now});
        if (!found) return fail(found.error());
        Json rows = Json::array();
        for (const ChargeRow& r : found->rows) {
            rows.push_back({{"current_A", r.current},
                            {"present", r.present},
                            {"allowed", r.verdict != ChargeRow::Verdict::no},
                            {"rate", figure_json(r.rate)},
                            {"time", figure_json(r.time)},
                            {"heat", figure_json(r.heat)},
                            {"warmth", figure_json(r.warmth)},
                            {"remark", r.remark}});
            if (!o.json)
                fmt::print("{:>8}{} {:>5} C, full after {:>8}, {:>8} of heat, {:>6}; {}\n",
                           format_quantity(r.current, Unit::ampere), r.present ? "*" : " ", r.rate.text(2),
                           r.time.text(2), r.heat.text(2), r.warmth.text(2), r.remark);
        }
        if (o.json)
            return print_json({{"cell", found->cell},
                               {"charger", found->charger},
                               {"rows", rows},
                               {"full", figure_json(found->full)},
                               {"lock", figure_json(found->lock)},
                               {"reached", figure_json(found->reached)},
                               {"cautions", found->cautions}}),
                   0;
        fmt::print("full at {}, nothing may be taken below {}, the run ends at {}\n", found->full.text(),
                   found->lock.text(), found->reached.text());
        for (const std::string& caution : found->cautions) fmt::print("{}\n", caution);
        return 0;
    });
}

}  // namespace

std::vector<Command> protection_commands() {
    return {{"protection", "cells put in the wrong way, shorts: what each part against them costs",
             [](CLI::App& sub) {
                 const auto o = options(sub, {add_conditions});
                 const auto use = std::make_shared<std::string>();
                 sub.add_option("--use", *use,
                                "prints the design with this part: schottky, silicon, pmos, lock, or a fuse");
                 return [o, use] { return protection(*o, *use); };
             }},
            {"charging", "the lithium cell charged: by which current, how long, how warm", [](CLI::App& sub) {
                 const auto o = options(sub, {add_conditions});
                 const auto use = std::make_shared<double>(0);
                 sub.add_option("--use", *use, "prints the design with a charger of so many amperes")
                     ->check(within(0.001, 10));
                 return [o, use] { return charging(*o, *use); };
             }}};
}

}  // namespace elkit::cli
