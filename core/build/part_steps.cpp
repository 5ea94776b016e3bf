#include <fmt/format.h>

#include <algorithm>

#include "board/leg_picture.hpp"
#include "build/contributions.hpp"
#include "catalogue/catalogue.hpp"
#include "circuit/part_words.hpp"
#include "quantity/preferred.hpp"

namespace elkit {
namespace {

constexpr double surface_first = 1000;  // mm of height: what lies flat comes before all that stands
constexpr double heat_rank = 100;       // mm of height that one grade of sensitivity to heat counts for

/// Pads of one part, in its own order.
std::vector<const PlacedPin*> pads_of(const Board& board, const std::string& designator) {
    std::vector<const PlacedPin*> pads;
    for (const PlacedPin& p : board.pins)
        if (p.designator == designator) pads.push_back(&p);
    return pads;
}

/// How it is mounted; as by default where the board does not say.
BoardPart mounted_on(const Board& board, const Part& part) {
    if (const BoardPart* mounted = board.part(part.designator)) return *mounted;
    return {part.designator, PartPlace::board, footprint(part)};
}

class PartSteps {
  public:
    PartSteps(const Part& part, const Board& board, std::vector<BuildStep>& steps)
        : part_(part),
          kind_(*part_kind(part.kind)),
          pads_(pads_of(board, part.designator)),
          mounted_(mounted_on(board, part)),
          steps_(steps) {}

    void add() {
        if (kind_.is(Role::bench)) return leads();
        if (!kind_.build.prepare.empty() || !kind_.build.measure.empty()) prepare();
        if (mounted_.place == PartPlace::board)
            solder();
        else
            leads();
        if (!kind_.build.last.empty() && !soldered_in() && !mounted_.footprint.surface) last();
    }

    /// Into a breadboard.
    void plug() {
        if (mounted_.place == PartPlace::board &&
            (!kind_.build.prepare.empty() || !kind_.build.measure.empty()))
            prepare();
        const bool leads = mounted_.place != PartPlace::board;
        const bool source = kind_.is(Role::source), chip = mounted_.footprint.picture == "dip";
        BuildStep& s = step("plug", leads ? Phase::wire : Phase::solder,
                            leads  ? (source ? 20 : 10)
                            : chip ? 0
                                   : mounted_.footprint.height,
                            fmt::format("Plug in {}: {}", part_.designator, named()),
                            legs_into() + (chip     ? " It stands across the channel; press with both thumbs."
                                           : source ? " Leave the cells out."
                                                    : ""));
        turned(s);
        if (chip) s.caution = kind_.build.caution;
    }

  private:
    /// "Legs into 3a and 7a.", "c into 3a, b into 4a, e into 5a."
    std::string legs_into() const {
        const bool two = pads_.size() == 2 && !kind_.polarised;
        std::string where;
        for (const PlacedPin* pad : pads_) {
            if (pad->pin.empty()) continue;
            where += where.empty() ? "" : two ? " and " : ", ";
            where += two ? pad->place : pad->pin + " into " + pad->place;
        }
        return (two ? "Legs into " : "Pins: ") + where + ".";
    }

    /// Patterns of the kind, with holes for pins.
    std::string words(const std::string& pattern) const {
        return fill_words(pattern, part_, [&](const std::string& word) -> std::string {
            for (const PlacedPin* pad : pads_)
                if (pad->pin == word) return pad->place;
            if (word == "span") return span();
            if (word == "bands") {
                const auto bands = colour_bands(part_.number("value"), part_.number("tolerance"));
                return bands ? fmt::format("{}", fmt::join(bands.value().names, ", ")) : "";
            }
            if (word == "common_pin")
                for (const PlacedPin* pad : pads_)
                    if (pad->pin == "common") return pad->place;
            return "";
        });
    }

    /// From the first leg to the last: "10.16 mm, 5 holes".
    std::string span() const {
        const Footprint& f = mounted_.footprint;
        const double mm = f.pads.empty() ? 0 : std::abs(f.pads.back().x - f.pads.front().x);
        return fmt::format("{} mm, {:.0f} holes", format_plain(mm), std::floor(mm / 2.54 + 1.5));
    }

    std::string named() const {
        const std::string value = value_text(part_);
        return value == kind_.name ? value : value + " " + kind_.name;
    }

    BuildStep& step(const char* verb, Phase phase, double rank, std::string title, std::string text) {
        BuildStep& s = add_step(steps_, fmt::format("{}.{}", verb, part_.designator), phase, rank,
                                std::move(title), std::move(text));
        s.ref = "part:" + part_.designator;
        return s;
    }

    void prepare() {
        const BuildWords& w = kind_.build;
        const ParamInfo* info = kind_.param(kind_.value_key);
        const bool flat = mounted_.footprint.surface;  // nothing to bend, often nothing printed on it
        BuildStep& s =
            step(w.measure.empty() ? "prepare" : "measure", Phase::prepare, 1,
                 fmt::format("Sort out {}: {}", part_.designator, value_text(part_)),
                 flat ? "As its strip is labelled: " + mounted_.footprint.name + "." : words(w.prepare));
        if (w.measure.empty() || !info) return;
        const double value = part_.number(kind_.value_key), tolerance = part_.number("tolerance");
        const std::string legs = w.measure_pins.size() == 2
                                     ? fmt::format("leg {}|leg {}", w.measure_pins[0], w.measure_pins[1])
                                     : "one leg|other leg";
        s.check =
            Check{CheckKind::ohms, legs.substr(0, legs.find('|')), legs.substr(legs.find('|') + 1),
                  Figure{"build." + s.id,
                         "resistance of " + part_.designator,
                         value,
                         Unit::ohm,
                         value * (1 - tolerance),
                         value * (1 + tolerance),
                         {fmt::format("{} ± {:.0f} %", format_quantity(value, Unit::ohm), 100 * tolerance)}}};
    }

    void solder() {
        const BuildWords& w = kind_.build;
        std::string text = mounted_.footprint.surface ? on_the_surface()
                           : soldered_in()
                               ? "Its notch as on the picture; two opposite legs first, then one leg "
                                 "after the other with pauses: the heat goes into the chip."
                               : words(w.solder);
        if (text.empty()) {
            text = fmt::format("{} Tack one pin, press flush, then the {}.", legs_into(),
                               pads_.size() > 2 ? "rest" : "other");
        }
        std::string free;
        for (const PlacedPin* pad : pads_)
            if (pad->pin.empty()) free += (free.empty() ? "" : ", ") + pad->place;
        if (!free.empty()) text += fmt::format(" What sits in {} stays free.", free);
        BuildStep& s = step("solder", Phase::solder,
                            mounted_.footprint.surface ? mounted_.footprint.height - surface_first
                                                       : mounted_.footprint.height + heat_rank * w.heat,
                            fmt::format("Solder {}: {}", part_.designator, named()), std::move(text));
        turned(s);
        s.caution = w.caution;
        const LedType* type = kind_.is(Role::light) ? known_catalogue().led(part_.text("type")) : nullptr;
        if (type) s.caution = type->caution;
    }

    /// "Lands at B3 and C3: tin one, …"
    std::string on_the_surface() const {
        std::string where;
        for (const PlacedPin* pad : pads_) where += (where.empty() ? "" : ", ") + pad->place;
        const bool two = pads_.size() == 2;
        return fmt::format(
            "Lands at {}. Tin one {}, hold the part down with tweezers, melt it in; look whether it lies "
            "flat and "
            "straight, then the {}, and the first once more.{}",
            where, two ? "land" : "corner land", two ? "other end" : "opposite corner, then the rest",
            two ? "" : " A bridge goes off with flux and a clean tip, or with braid.");
    }
    /// Which way round, for what has no legs to tell.
    std::string marked_end() const {
        if (pads_.size() == 2 && kind_.polarised)
            return fmt::format(
                "The marked end is −, at {}: makers mark it by a bar, a notch or a dot; if in doubt, "
                "ask a meter.",
                pads_.back()->place);
        if (pads_.size() == 3)
            return "It fits only one way round: the leg that stands alone to the land that does.";
        if (pads_.size() > 3)
            return fmt::format("A dot, a notch or a bevelled edge marks its first leg: to {}.",
                               pads_.front()->place);
        return "";
    }

    /// A chip without a socket.
    bool soldered_in() const { return mounted_.footprint.picture == "dip" && !mounted_.footprint.socket; }

    /// "Red into A1, black into A2"; the pins by name where there are more, or none is plus.
    std::string ends() const {
        if (pads_.size() == 2 && kind_.polarised)
            return fmt::format("Red into {}, black into {}", pads_[0]->place, pads_[1]->place);
        std::string all;
        for (const PlacedPin* pad : pads_)
            if (!pad->pin.empty())
                all += fmt::format("{}{} into {}", all.empty() ? "" : ", ", pad->pin, pad->place);
        return all;
    }

    void leads() {
        if (pads_.empty()) return;
        const double area = part_.number("lead_area") > 0 ? part_.number("lead_area") : 0.14,
                     length = part_.number("lead_length") > 0 ? part_.number("lead_length") : 0.12;
        const bool source = kind_.is(Role::source), plug = mounted_.place == PartPlace::plug;
        const bool usual = mounted_.place == PartPlace::leads && kind_.is(Role::on_leads);
        BuildStep& s =
            step("wire", Phase::wire, source ? 10 : 5,
                 plug ? fmt::format("Solder the pins and make the plug for {}", part_.designator)
                      : fmt::format("Solder the {} leads", usual ? kind_.name : part_.designator),
                 fmt::format(
                     "{}Cut {} leads of {} mm² to {:.0f} mm, strip 4 mm, tin. {}.{}{}",
                     plug ? "Solder a pin header of as many pins; its plug goes on the leads. " : "",
                     pads_.size() == 2 ? "two" : std::to_string(pads_.size()),
                     format_quantity(area, Unit::none), length * 1000, ends(),
                     mounted_.place == PartPlace::panel ? " It sits in the panel: fix it there first." : "",
                     source ? " Leave the cells out." : ""));
        turned(s);
    }

    void last() {
        BuildStep& s =
            step("plug", Phase::wire, 20, fmt::format("Plug in {}: {}", part_.designator, value_text(part_)),
                 words(kind_.build.last));
        s.caution = kind_.build.caution;
        turned(s);
    }

    /// Which way round, in words and as a picture.
    void turned(BuildStep& s) const {
        s.polarity = words(kind_.build.polarity);
        if (mounted_.footprint.surface) {
            s.polarity = marked_end();
            return;
        }
        s.legs = leg_picture(part_, mounted_.footprint,
                             [&](const std::string& pin) { return words("{" + pin + "}"); });
    }

    const Part& part_;
    const PartKind& kind_;
    std::vector<const PlacedPin*> pads_;
    BoardPart mounted_;
    std::vector<BuildStep>& steps_;
};

}  // namespace

void add_plugging_steps(const Circuit& circuit, const Board& board, std::vector<BuildStep>& steps) {
    for (const Part& part : circuit.parts)
        if (part_kind(part.kind)) PartSteps(part, board, steps).plug();
}

void add_part_steps(const Circuit& circuit, const Board& board, std::vector<BuildStep>& steps) {
    for (const Part& part : circuit.parts)
        if (part_kind(part.kind)) PartSteps(part, board, steps).add();
    const auto first =
        std::min_element(steps.begin(), steps.end(), [](const BuildStep& a, const BuildStep& b) {
            return std::pair(a.phase != Phase::solder, a.rank) < std::pair(b.phase != Phase::solder, b.rank);
        });
    if (first != steps.end() && first->phase == Phase::solder && first->caution.empty())
        first->caution =
            "The iron is at 350 °C and the fumes irritate: stand it in its holder, air the room, wash hands "
            "after.";
    add_step(
        steps, "trim", Phase::solder, 1e6, "Cut the legs",
        "Cut each leg just above its joint, then look at every joint through a magnifier: shiny, concave, no "
        "bridge that is not in the plan.")
        .caution = "Cut legs fly: wear glasses, hold the leg while cutting.";
}

}  // namespace elkit
