#pragma once
#include <array>
#include <optional>
#include <string>
#include <string_view>
#include <utility>
#include <vector>

#include "behaviour/program.hpp"
#include "circuit/module.hpp"
#include "circuit/part.hpp"
#include "quantity/result.hpp"
#include "quantity/unit.hpp"

namespace elkit {

struct LedType;

/// What a part is to the rest of the program. A kind has any number of roles; code asks for a role, never for
/// a kind's name.
enum class Role {
    source,        ///< feeds the circuit between + and −
    energy,        ///< drives current or voltage at all; lifted when ohms are measured
    cells,         ///< empties
    on_leads,      ///< not on the board: joined by two wires
    bench,         ///< a thought of the bench, not a part of the kit
    contact,       ///< a hand opens and closes it
    momentary,     ///< only while it is pressed
    stays,         ///< stays as the hand left it
    plugged,       ///< moved once, while it is built
    resistor,      ///< limits a current by its value
    light,         ///< gives light, or is bought for it
    diode_light,   ///< an LED with nothing before it: its current is set from outside
    blocks,        ///< lets current through one way
    junction,      ///< two pins with a diode's curve
    bins,          ///< spreads though it states no tolerance
    capacitor,     ///< holds a charge between its pins
    polar,         ///< a capacitor that must not be turned round
    stores,        ///< keeps a net where it was
    swings,        ///< with gain it can make a circuit move by itself
    gain,          ///< a little current or voltage moves more
    transistor,    ///< gain with three pins
    chip,          ///< gain in a case with supply pins
    coil,          ///< drives its voltage up when it is switched off
    sensor,        ///< follows the world
    light_sensor,  ///< follows light: daylight can turn it off
    usual,         ///< what its designator's letter means when nothing else is said
    no_current,    ///< only holds a net: it has no equations
    protects,      ///< cuts a cell off when it is empty, full or shorted
    charges,       ///< charges a cell
    legs_differ,   ///< the order of its legs is another from maker to maker
};

struct ParamInfo {
    std::string key, label;
    Unit unit = Unit::none;
    ParamValue standard;  ///< used when a part does not set it; NaN: the catalogue entry of its type says
    double low = 0, high = 0;  ///< allowed range of a number
    std::string meaning;
    std::array<Unit, 2> axes{Unit::none, Unit::none};  ///< of a list of points
    std::vector<std::string> choices;                  ///< of a text; or a list of the catalogue:
    std::string choices_of;          ///< "cells", "leds", "diodes", "types" of this kind; empty
    std::string with;                ///< it only means something where this other number is above zero
    std::vector<std::string> usual;  ///< of the choices: which are meant where words leave several
    /// A text that is written and not chosen: a controller's table (behaviour/behaviour.hpp), the pictures of
    /// a matrix (matrix/frames.hpp).
    enum class Written { no, behaviour, frames } written = Written::no;
};

/// What a part may bear, and how that is read.
struct Limit {
    /// `lasting` and `rms` of each pin's current, that of several pins `together`, the part's `mean`, the
    /// voltage `across` two pins, the part's `power`.
    enum class Reading { lasting, rms, together, mean, across, power } reading = Reading::rms;
    std::string what;               ///< "collector current"
    std::vector<std::string> pins;  ///< "*": each pin by itself
    std::string param;              ///< the parameter that says how much
    bool serious = true;            ///< false: a warning
    std::string station = "circuit", advice;
};

/// What a kind wants around it.
struct Need {
    enum class What {
        capacitor,  ///< between two pins, of `value` at least
        diode,      ///< across two pins, the other way round
        hold,       ///< a path for direct current at `pin`, else a resistor to `to`
        held,       ///< `pin` joined to something, else to `partner`'s net
        tied,       ///< `pin` joined to something, else to `to`
        quiet,      ///< a capacitor at `pin` if it is left open; many leave it out
        used,       ///< each of `pins` joined to something
        used_one    ///< one of `pins` joined to something
    } what = What::used;
    std::string pin, to, partner, words, advice;
    std::vector<std::string> pins;  ///< two for a capacitor or diode
    std::string inductance;         ///< the parameter [H] of what a diode is wanted across
    double value = 0;               ///< F
};

/// The voltage that a kind wants between two of its pins.
struct SupplyPins {
    std::string plus, minus;
    std::vector<std::string> low;  ///< parameters that add up to the lowest
    std::string high;              ///< parameter of the highest
    bool stops = false;            ///< below the lowest it stops working, rather than working worse
};

/// How the parts list and the drawer tell one part from another.
struct Identity {
    std::string family, id;                 ///< "resistor"; a fixed second half such as "slide"
    std::vector<std::string> by;            ///< parameters that make another part
    std::vector<std::string> unless_usual;  ///< likewise, where they are not the kind's usual ones
    std::string pieces;                     ///< parameter that counts pieces; empty: one
    std::string name;                       ///< pattern, "{value} resistor {rating}"
    std::string also_key, also_name;        ///< patterns of what comes with it: a holder for cells
    bool by_pins = false;                   ///< the number of pins in use makes another part
    bool spare = false;                     ///< small things that break or get lost: bought with spares
};

/// Words for the bench; patterns with {pin} for the hole of a pin and {parameter}.
struct BuildWords {
    std::string prepare, solder, polarity, caution, last, hint;
    std::string measure;                    ///< "ohms": measured before it goes in; empty: not
    std::vector<std::string> measure_pins;  ///< between which pins; empty: the first two
    bool check = false;                     ///< its voltage is measured with power on
    int heat = 0;                           ///< later for what suffers from the iron
};

/// A controller: what its pins can do, and with how many bits it measures.
struct ControllerSpec {
    std::vector<PinAbility> pins;
    int bits = 10;
};

/// How one tells the legs apart with the part in the hand.
struct Legs {
    std::string view;  ///< "side", "lying", "above", "leads"; empty: they are alike
    struct Mark {
        std::string pin;
        std::string mark;   ///< "long", "flat", "stripe", "red", "black", "first", "pair"
        std::string words;  ///< beside it
    };
    std::vector<Mark> marks;
    const Mark* of(std::string_view pin) const;  ///< nullptr if that leg looks like any
};

/// A footprint of the catalogue, for parts whose `param` lies between two values.
struct FootprintChoice {
    std::string id, param;
    double from = 0, to = 0;  ///< from inclusive, to exclusive
};

/// What there is to know about a kind of part before any is placed. From data/catalogue/kinds.json.
struct PartKind {
    using Joint = std::pair<std::string, std::string>;
    std::string id, name, prefix;
    std::vector<std::string> words;       ///< what else people call it
    std::vector<std::string> adjectives;  ///< what people add without changing anything
    std::vector<std::string> pins;
    std::vector<std::string> optional_pins;  ///< may be left without a net
    std::vector<ParamInfo> params;
    std::string value_key;  ///< the parameter that is printed on the drawing
    bool polarised = false;
    std::vector<Role> roles;
    std::vector<std::string> reads;  ///< conditions that its equations look at: "battery", "celsius", "lux",
                                     ///< "infrared", "switch", "knob", "level"
    std::string control;             ///< in the strip: "contact", "push", "knob", "level"; empty: none
    std::string level;               ///< parameter that a level control sets
    std::string waveform;            ///< parameter that names its course in time; "dc" is steady
    std::string shows;               ///< pattern of its value text; empty: `value_key`
    std::array<std::string, 2> states{"open", "closed"};
    std::string symbol, marking, side_pin, against;
    /// A filament, that glows more than in proportion to its current: the LED type whose colour it has.
    std::string filament_light;
    std::vector<Joint> dies;  ///< pins of a light with several, and the parameter that names each one's type
    std::vector<std::string> drives;  ///< pins that switch what hangs on them
    std::vector<std::string> traces;  ///< what one wants to see of it in time
    struct Rest {
        std::string param, equals;
        double above = 0;
    } rest;                                         ///< how a contact stands before anyone touches it
    std::vector<Joint> joined_open, joined_closed;  ///< pins that a contact joins in either state
    std::vector<Joint> joined;                      ///< pins with next to nothing between them,
    std::string joined_param;                       ///< if this parameter is below
    double joined_below = 0;
    /// Groups of pins between which a direct current can flow; none given: all pins are one group.
    std::optional<std::vector<std::vector<std::string>>> direct_current;
    std::optional<SupplyPins> supply;
    std::vector<Limit> limits;
    std::vector<Need> needs;
    Identity identity;
    BuildWords build;
    Legs legs;
    std::vector<FootprintChoice> footprints;
    std::optional<ModuleSpec> module;  ///< a box that is known by its pins alone
    std::optional<ControllerSpec> controller;
    bool own = false;  ///< added by the user

    const ParamInfo* param(std::string_view key) const;
    bool optional(std::string_view pin) const;
    bool is(Role role) const;
    bool reads_condition(std::string_view condition) const;
};

/// All kinds, from data/catalogue/kinds.json, modules.json and the user's own.
const std::vector<PartKind>& part_kinds();
/// Takes up the user's own kinds behind Elkit's. To be called before a kind is asked for, as at the start.
/// Usage error if one has the id of another.
Result<void> add_own_kinds(std::vector<PartKind> own);
const PartKind* part_kind(std::string_view id);  ///< nullptr if unknown
/// A kind by its id, its name or what people call it: "r", "cap", "pot"; nullptr if unknown.
const PartKind* part_kind_from_word(std::string_view typed);
std::string known_kinds();  ///< "battery, supply, …" for messages
/// Reads a table of kinds; file error with what is missing where.
Result<std::vector<PartKind>> read_kinds(std::string_view json);
/// Reads a list of modules, each of which becomes a kind; file error with the place.
Result<std::vector<PartKind>> read_modules(std::string_view json);

/// The texts that a text parameter may hold, e.g. the ids of the catalogue for "type".
std::vector<std::string> text_choices(std::string_view kind, std::string_view key);
/// Why a text cannot stand for this parameter, and what can; nothing if it can.
std::optional<Error> trouble_of_choice(const PartKind& kind, const ParamInfo& info, const std::string& text);
/// What a controller is told to do. Errors as behaviour_of() and program_of(), in the part's name; design
/// error for a part that is no controller.
Result<Program> program_of(const Part& part);

/// True if the part's kind has the role; false for an unknown kind.
bool is(const Part& part, Role role);
/// True if any part of the circuit has it.
bool any(const Circuit& circuit, Role role);

/// The text printed beside a part: "75 Ω", "3 × LR6", "amber-5mm".
std::string value_text(const Part& part);
/// What a person edits when they change the value: the printed parameter alone.
std::string editable_value(const Part& part);
/// A parameter in words: "75 Ω", "5 %", "amber-5mm".
std::string param_text(const Part& part, const ParamInfo& info);

/// The LED type whose light a part gives, that of its first colour where it has several; nullptr if it gives
/// none or the catalogue does not know its type.
const LedType* light_type(const Part& part);

/// True if the contact conducts before anyone touches it (of a changeover: joins b).
bool closed_as_drawn(const Part& contact);
/// True for a source that changes in time by itself.
bool follows_waveform(const Part& part);
/// True for that, and for a module with a pattern of its own.
bool moves_by_itself(const Part& part);
/// True if the pictures of a matrix of lights do not all have as many lights on.
bool frames_change(const Part& matrix);
/// True for what a hand turns: a potentiometer.
bool is_knob(const Part& part);
/// Whether a parameter means something for this part.
bool applies(const Part& part, const ParamInfo& info);

}  // namespace elkit
