#include "kit/timer_or_controller.hpp"

#include <fmt/format.h>

#include <algorithm>
#include <array>
#include <cmath>
#include <limits>

#include "board/board.hpp"
#include "circuit/connectivity.hpp"
#include "design/content.hpp"
#include "engine/models.hpp"
#include "power/discharge.hpp"
#include "power/standby.hpp"
#include "recipes/blocks.hpp"
#include "recipes/measured.hpp"
#include "recipes/recipe.hpp"

namespace elkit {
namespace {
using Said = std::map<std::string, ParamValue>;

/// What a block does, whoever does it.
struct Task {
    bool once = false;            ///< shines for a time after a press; else it blinks
    double rate = 1, share = 50;  ///< Hz, %
    double time = 10;             ///< s
    std::string led;
    double strings = 1, per_string = 1, amps = 0.005;
};

std::optional<Task> task_of(const Design& design, std::size_t block) {
    if (block >= design.blocks.size()) return std::nullopt;
    const Block& b = design.blocks[block];
    const Recipe* recipe = find_recipe(b.recipe);
    if (!recipe) return std::nullopt;
    const Goals g = goals_of(design, b);
    Task task;
    if (b.recipe == "pattern-lights") {
        const std::string effect = g.text("effect"), begins = g.text("begins");
        task.once = effect == "on" && begins == "press";
        if (!task.once && !(effect == "blink" && begins == "power")) return std::nullopt;
        task.rate = 1 / g.number("every"), task.share = g.number("share"), task.time = g.number("lasts");
        task.strings = g.number("count");
    } else if (b.recipe == "timer-flasher" || b.recipe == "timer-one-shot") {
        task.once = b.recipe == "timer-one-shot";
        if (g.text("drives") == "nothing") return std::nullopt;
        if (task.once ? g.text("input") != "button" : g.text("runs") != "always") return std::nullopt;
        if (task.once)
            task.time = g.number("time");
        else
            task.rate = g.number("rate"), task.share = g.number("share");
        task.per_string = g.number("per_string"),
        task.strings = std::ceil(g.number("count") / task.per_string);
    } else {
        return std::nullopt;
    }
    task.led = g.text("led"), task.amps = g.number("current");
    return task;
}

Said said_for(const std::string& recipe, const Task& task) {
    Said said{{"led", task.led}, {"current", task.amps}};
    if (recipe == "pattern-lights") {
        said["count"] = task.strings;
        said["effect"] = std::string(task.once ? "on" : "blink");
        said["begins"] = std::string(task.once ? "press" : "power");
        if (task.once)
            said["lasts"] = task.time;
        else
            said["every"] = 1 / task.rate, said["share"] = task.share;
        return said;
    }
    said["count"] = task.strings * task.per_string, said["per_string"] = task.per_string;
    if (task.once)
        said["time"] = task.time;
    else
        said["rate"] = task.rate, said["share"] = task.share;
    return said;
}

std::vector<MadeBy> ways_of(const Task& task) {
    const std::string timed = task.once ? "timer-one-shot" : "timer-flasher";
    std::vector<MadeBy> all;
    for (const char* chip : {"timer-cmos", "timer-bipolar"}) {
        MadeBy way;
        way.name = known_catalogue().type("timer", chip)->name, way.recipe = timed;
        way.brief = chip == std::string("timer-cmos") ? "CMOS timer" : "bipolar timer";
        way.said = said_for(timed, task), way.said["chip"] = std::string(chip);
        all.push_back(std::move(way));
    }
    MadeBy controller;
    controller.name = part_kind("controller_8")->name, controller.recipe = "pattern-lights";
    controller.brief = "controller", controller.programmed = true,
    controller.said = said_for(controller.recipe, task);
    if (task.per_string > 1)
        controller.reason = "its recipe has a resistor for each light, and none in a row";
    all.push_back(std::move(controller));
    return all;
}

bool is_own(const Design& design, const Block& block, const MadeBy& way) {
    if (block.recipe != way.recipe) return false;
    const auto chip = way.said.find("chip");
    return chip == way.said.end() ||
           goals_of(design, block).text("chip") == std::get<std::string>(chip->second);
}

/// Source and main switch of a design, for another way to hang on.
Design fed_alike(const Design& design) {
    Design base;
    base.brief.end_brightness = design.brief.end_brightness, base.board = design.board;
    const Part* source = design.circuit.source();
    if (!source) return base;
    base.circuit.parts.push_back(*source);
    if (const auto behind = main_switch(design.circuit))
        base.circuit.parts.push_back(*design.circuit.find(behind->designator));
    return base;
}

Result<Design> alone(const Design& base, const MadeBy& way) {
    const Recipe& recipe = *find_recipe(way.recipe);
    return with_block(base, recipe.id, planned_in(base, recipe, way.said));
}

/// Measures one way, of a design that is nothing else.
class Measuring {
  public:
    Measuring(const Ask& ask, const Design& design, const Task& task,
              const Keyed<std::vector<DrawerItem>>& drawer)
        : ask_(ask),
          design_(design),
          circuit_(design.circuit),
          task_(task),
          drawer_(drawer),
          on_(fresh(design.circuit, {})) {}

    Result<void> into(MadeBy& way) {
        for (auto step :
             {&Measuring::bag, &Measuring::current, &Measuring::life, &Measuring::board, &Measuring::pace})
            if (auto done = (this->*step)(way); !done) return done;
        return success();
    }

  private:
    static Figure figure(const char* id, const char* label, double value, Unit unit,
                         std::vector<std::string> working) {
        return {std::string("way.") + id, label, value, unit, {}, {}, std::move(working)};
    }

    Result<void> bag(MadeBy& way) {
        std::vector<std::string> names;
        for (const Part& part : design_.circuit.parts)
            if (!is(part, Role::source)) names.push_back(part.designator + ": " + part_kind(part.kind)->name);
        way.parts = figure("parts", "parts", static_cast<double>(names.size()), Unit::count, names);
        const auto list = ask_(parts_query(design_, drawer_));
        if (!list) return list.error();
        way.cost = list->cost_per_kit, way.cost.id = "way.cost", way.cost.label = "parts of a kit";
        if (list->unknown > 0)
            way.cost.working.push_back(fmt::format("{} without a price in the drawer", list->unknown));
        return success();
    }

    /// A button of the block, in the design's name; empty if it has none.
    std::string button() const {
        for (const char* local : {"Spress", "Sgo"})
            if (const auto at = design_.blocks[0].parts.find(local); at != design_.blocks[0].parts.end())
                return at->second;
        return {};
    }
    /// The current of its first light, as a probe.
    std::string light() const {
        const std::string& designator = design_.blocks[0].parts.at("L1");
        return "part:" + designator + "." + design_.circuit.find(designator)->pins.front().name;
    }

    Result<void> current(MadeBy& way) {
        const auto run = ask_(RunQuery(circuit_, on_));
        if (!run) return run.error();
        const double taken = run->mean().supply_current();
        if (!task_.once) {
            way.lit = figure("lit", "on average, blinking", taken, Unit::ampere,
                             {"the engine's, from fresh cells"});
            return success();
        }
        way.waits =
            figure("waits", "waiting for a press", taken, Unit::ampere, {"the engine's, from fresh cells"});
        Expectation x{"lit", "part:" + circuit_->source()->designator, 0, 0, 0, "after", Unit::ampere};
        x.presses = {button()}, x.pressed = std::min(0.2, task_.time / 4), x.wait = 0.8 * task_.time;
        const auto lit = measured(ask_, circuit_, x, on_);
        if (!lit) return lit.error();
        way.lit = figure("lit", "lit, after a press", lit.value(), Unit::ampere,
                         {"the engine's, from fresh cells"});
        return success();
    }

    Result<void> life(MadeBy& way) {
        way.lasts = figure("lasts", task_.once ? "waits" : "blinks", std::numeric_limits<double>::infinity(),
                           Unit::hour, {"its supply does not empty"});
        if (!emptying_cell(*circuit_->source())) return success();
        if (task_.once) {
            way.lasts = standby_life(*circuit_->source(), way.waits.value, room);
            way.lasts.id = "way.lasts", way.lasts.label = "waits";
            way.lasts.working.push_back("while nobody presses");
            return success();
        }
        const auto run = ask_(DischargeQuery(circuit_, on_, design_.brief.end_brightness));
        if (!run) return run.error();
        way.lasts.value = run->hours,
        way.lasts.working = {"from fresh cells, without a pause", run->ended_by};
        return success();
    }

    Result<void> board(MadeBy& way) {
        const auto made = ask_(BoardQuery{circuit_, board_choices(design_)});
        if (!made) return made.error();
        way.area = figure("area", "board", made->width * made->height, Unit::square_metre,
                          {fmt::format("{}, {:.0f} × {:.0f} mm", made->size, made->width, made->height)});
        return success();
    }

    /// With every part in the middle, and at either end of its tolerance.
    Result<void> pace(MadeBy& way) {
        Expectation x{"pace", light(), task_.rate, 0, 10 * task_.rate, "frequency", Unit::hertz};
        if (task_.once) {
            x = {"time", light(), task_.time, 0, 2 * task_.time, "lasts", Unit::second};
            x.presses = {button()}, x.pressed = std::min(0.2, task_.time / 4);
        }
        std::array<double, 3> found{};
        for (int end = -1; end <= 1; ++end) {
            Corner corner;
            corner.resistance = end;
            for (const Part& part : circuit_->parts)
                if (end != 0 && !is(part, Role::light)) corner.parts[part.designator] = end;
            const auto value = measured(ask_, circuit_, x, on_, corner);
            if (!value) return value.error();
            found[static_cast<std::size_t>(end + 1)] = value.value();
        }
        const auto [low, high] = std::minmax({found[0], found[2]});
        way.pace =
            figure("pace", task_.once ? "time" : "rate", found[1], x.unit,
                   {"the engine's; the band with every part at one end of its tolerance, all the same way"});
        way.pace.low = low, way.pace.high = high;
        return success();
    }

    static constexpr double room = 21;  // °C
    const Ask& ask_;
    const Design& design_;
    Keyed<Circuit> circuit_;
    const Task& task_;
    const Keyed<std::vector<DrawerItem>>& drawer_;
    Conditions on_;
};

}  // namespace

bool both_can(const Design& design, std::size_t block) {
    return design.circuit.source() && task_of(design, block).has_value();
}

MadeByQuery::MadeByQuery(const Design& of, std::size_t which, const Keyed<std::vector<DrawerItem>>& items)
    : block(which), drawer(items) {
    design.circuit = of.circuit, design.blocks = of.blocks, design.board = of.board;
    design.brief.end_brightness = of.brief.end_brightness;
}

Digest MadeByQuery::key() const {
    Digester d;
    d << content_digest(design.circuit) << content_digest(design.blocks) << content_digest(design.board)
      << block << design.brief.end_brightness << drawer.digest();
    return d.digest();
}

Result<std::vector<MadeBy>> MadeByQuery::compute(const Ask& ask) const {
    const auto task = task_of(design, block);
    if (!task || !both_can(design, block))
        return Error{Fault::design, "/blocks", "a timer and a controller cannot both do this",
                     "a block that blinks, or shines for a time after a press"};
    Design own = fed_alike(design);
    own.circuit = circuit_of_block(design, block), own.blocks = {design.blocks[block]};
    const Design base = fed_alike(design);
    std::vector<MadeBy> all = ways_of(*task);
    for (MadeBy& way : all) {
        way.present = is_own(design, design.blocks[block], way);
        if (way.present) way.reason.clear();
        if (!way.reason.empty()) continue;
        auto made = way.present ? Result<Design>(own) : alone(base, way);
        if (!made) {
            way.reason = made.error().found;
            continue;
        }
        if (auto done = Measuring(ask, made.value(), *task, drawer).into(way); !done) {
            if (way.present) return done.error();
            way.reason = done.error().found;
        }
    }
    return all;
}

Result<Design> made_by(const Design& design, std::size_t block, const MadeBy& way) {
    for (const OfferedNet& offer : offered_nets(design))
        for (std::size_t k = 0; offer.block == block && k < design.blocks.size(); ++k)
            for (const auto& [local, net] : design.blocks[k].nets)
                if (k != block && net == offer.net)
                    return Error{Fault::design, fmt::format("/blocks/{}", k),
                                 fmt::format("it hangs on {}", offer.label),
                                 "no block that hangs on the one to change"};
    auto without = without_block(design, block);
    if (!without) return without;
    const Recipe& recipe = *find_recipe(way.recipe);
    Said said = way.said;
    if (!without.value().circuit.source()) {  // it went with the block
        const Part& source = *design.circuit.source();
        said["cell"] = source.text("cell"), said["cells"] = source.number("count");
        said["switch"] = std::string(main_switch(design.circuit) ? "yes" : "no");
    }
    return with_block(without.value(), recipe.id, planned_in(without.value(), recipe, said));
}

}  // namespace elkit
