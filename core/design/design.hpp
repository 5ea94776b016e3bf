#pragma once
#include <map>
#include <optional>
#include <set>
#include <string>
#include <vector>

#include "circuit/part.hpp"
#include "engine/conditions.hpp"

namespace elkit {

/// What stands between the lights and the eye, and what it makes of the light straight ahead, as measured.
struct Optic {
    std::string name;
    double factor = 1;  ///< of the candela without it: 0.55 for paper, 2.4 for a lens
    Extra extra;
    bool operator==(const Optic&) const = default;
};

/// What the gadget must do; the rest of the design is judged against it.
struct Brief {
    std::string purpose;
    double run_time = 0;           ///< h, wanted from fresh cells; 0: none
    double end_brightness = 0.5;   ///< perceived, as a fraction of fresh; below it the light counts as spent
    double kits = 10;              ///< batch size
    double cost_ceiling = 0;       ///< parts for one kit, workshop's currency; 0: none
    double width = 0, height = 0;  ///< mm, room for the board; 0: no limit
    double depth = 0;              ///< mm, room from under the board to above its parts; 0: no limit
    bool for_children = false;
    double distance = 0;  ///< m, from which the lights are looked at; 0: not said
    std::vector<Optic> optics;
    Extra extra;
    bool operator==(const Brief&) const = default;
};

/// A recipe at work: its goals, what it owns, and what was set by hand since. recipes/blocks.hpp runs it.
struct Block {
    std::string recipe;                        ///< id
    std::map<std::string, ParamValue> goals;   ///< but for those that parts say
    std::map<std::string, std::string> parts;  ///< the recipe's name of a part → its designator here
    std::map<std::string, std::string> uses;   ///< likewise, of parts that it builds on and does not own
    std::map<std::string, std::string> nets;   ///< the recipe's name of a net → its name here
    std::set<std::string> by_hand;             ///< "R1.value" and "R1:a", numbers and pins that a person set
    Extra extra;
    bool operator==(const Block&) const = default;
};

/// A fact from the bench: what was done, written or measured at a build step.
struct StepRecord {
    std::string step;
    bool done = false;
    std::string note;
    std::optional<double> measured;  ///< SI unit of the step's check
    double unit = 1;                 ///< which kit of the batch
    std::string time;                ///< when, ISO 8601; may be empty
    Extra extra;
    bool operator==(const StepRecord&) const = default;
};

/// A fact from the bench: how a light of one type looked beside those of another.
struct LightTrial {
    std::string led, reference;    ///< types
    double resistor = 0;           ///< Ω that was tried
    double current = 0;            ///< A that it gave then
    double reference_current = 0;  ///< A in the other one
    enum class Looked { dimmer, same, brighter } looked = Looked::same;
    Extra extra;
    bool operator==(const LightTrial&) const = default;
};

/// A finding the designer knows about and accepts.
struct Decision {
    std::string finding, reason;
    Extra extra;
    bool operator==(const Decision&) const = default;
};

/// How a part meets the board: board/mount.hpp. An empty word leaves it to the part's kind and values.
struct PartMount {
    std::string part;       ///< designator
    std::string footprint;  ///< id
    std::string place;      ///< "board", "leads", "plug" or "panel"
    std::string legs;       ///< its pins from left to right, seen from its front: "e b c"
    Extra extra;
    bool operator==(const PartMount&) const = default;
};

/// Where a part lies on a board of copper: mm of its first pad from the upper left corner, turned clockwise.
struct PartSpot {
    std::string part;
    double x = 0, y = 0, turn = 0;  ///< degrees
    bool locked = true;             ///< false: only where to begin
    bool of_face = false;           ///< never in a file: the middle of its body, where the face has it
    double span = 0;                ///< mm from leg to leg, on boards of holes; 0: as its footprint says
    Extra extra;
    bool operator==(const PartSpot&) const = default;
};

/// A part of a board that stays free of parts and tracks [mm].
struct KeepOut {
    double x = 0, y = 0, width = 0, height = 0;
    Extra extra;
    bool operator==(const KeepOut&) const = default;
};

/// A place that the tracks of a net pass, pulled there by hand [mm].
struct TrackPull {
    std::string net;
    double x = 0, y = 0;
    bool component_side = false;  ///< of the two copper layers; the solder side where there is one
    Extra extra;
    bool operator==(const TrackPull&) const = default;
};

/// A corner of a track [mm]; two in one place lead from one side to another.
struct WayCorner {
    enum class On { solder, component, link } on = On::solder;
    double x = 0, y = 0;
    bool operator==(const WayCorner&) const = default;
};

/// The way of a track as it was laid, which stays while parts are moved by hand.
struct TrackWay {
    std::string net;
    std::vector<WayCorner> corners;
    Extra extra{};
    bool operator==(const TrackWay&) const = default;
};

/// Words on a board, from the left end of their baseline [mm], or anywhere.
struct BoardText {
    double x = 0, y = 0, size = 1.5;
    std::string text;
    Extra extra{};
    bool anywhere = false;  ///< where they cover nothing
    bool operator==(const BoardText&) const = default;
};

struct BoardChoices {
    std::string method = "pad";    ///< how it is made, an id of board_methods()
    double columns = 0, rows = 0;  ///< holes; 0: as small as it gets
    std::string breadboard;    ///< of the trial, an id of breadboard_sizes(); empty: the smallest that does
    std::string wire_colours;  ///< of the trial: "use" or "length"; empty: by use
    std::vector<PartMount> parts;  ///< those with a choice of their own
    double width = 0, height = 0;  ///< mm of a board of copper; 0: as small as it gets
    std::string shape;             ///< "rectangle", "rounded", "round", "outline"; empty: a rectangle
    std::string outline;           ///< where the shape is one: SVG path data in mm; empty: the face's
    double layers = 0;             ///< of copper; 0: as its method has it
    double track = 0;              ///< mm wide where there is room; 0: as its method has it
    double corner_holes = 0;       ///< mm, of a hole in each corner; 0: none
    std::string area;              ///< the net that fills what is free; empty: none
    std::string lights;            ///< "face": where the face has them; empty: where they suit the board
    double panel_across = 1, panel_down = 1;  ///< boards in one piece, where they are ordered
    std::string panel_parting;                ///< "score" or "tabs"; empty: score
    std::vector<PartSpot> spots;              ///< parts put by hand
    std::vector<KeepOut> keep_out;
    std::vector<TrackPull> pulls;
    std::string ways_by;  ///< the method that laid the ways, or whose holes the spots are: for no other kind
    std::vector<TrackWay> ways;
    std::vector<BoardText> texts;
    Extra extra;
    bool operator==(const BoardChoices&) const = default;
};

/// Where a light is on the face, mm from its left and upper edge.
struct FacePlace {
    std::string light;  ///< designator
    double x = 0, y = 0;
    Extra extra;
    bool operator==(const FacePlace&) const = default;
};

/// A fact from the bench: the hole [mm] that holds a light of this body.
struct FaceHole {
    double body = 5, hole = 5;
    Extra extra;
    bool operator==(const FaceHole&) const = default;
};

/// What the lights look out of: face/holes.hpp, face/places.hpp.
struct Face {
    std::string material = "plywood", fit = "push";
    double thickness = 3;          ///< mm
    double width = 0, height = 0;  ///< mm of a rectangle; 0: as large as the lights need
    std::string outline;           ///< one drawn elsewhere, SVG path data in mm; empty: the rectangle
    std::vector<FacePlace> places;
    std::vector<FaceHole> measured;
    Extra extra;
    bool operator==(const Face&) const = default;
};

struct BatchChoices {
    double spares = 0.05;  ///< fraction bought on top
    Extra extra;
    bool operator==(const BatchChoices&) const = default;
};

/// A named state of the gadget's life: its conditions, and what happened since power-up.
struct Situation {
    std::string name;
    std::optional<double> battery;  ///< state of charge; else as the conditions strip has it
    Conditions conditions;          ///< without the battery
    Extra extra;
    /// The conditions in this situation; `now` are those of the strip.
    Conditions under(const Conditions& now) const;
    bool operator==(const Situation&) const = default;
};

/// How much of a day a situation takes: so many hours, or so many times so many seconds; neither: all the
/// rest.
struct DayUse {
    std::string situation;
    double hours = 0, times = 0, seconds = 0;
    Extra extra;
    bool rest() const { return !(hours > 0) && !(times > 0); }
    double share() const { return hours / 24 + times * seconds / 86400; }
    bool operator==(const DayUse&) const = default;
};

/// The whole document, a value: copied, compared, saved. Nothing in it is derived from anything else in it.
struct Design {
    int version = 2;
    std::string name = "Untitled";
    Brief brief;
    std::vector<Block> blocks;  ///< recipes at work in the circuit
    Circuit circuit;
    BoardChoices board;
    BatchChoices batch;
    Face face;
    std::vector<Situation> situations;  ///< empty: those that the circuit suggests (situations/propose.hpp)
    std::vector<DayUse> use;            ///< empty: lit without a pause
    std::vector<StepRecord> records;
    std::vector<LightTrial> trials;
    std::vector<Decision> decisions;
    Extra extra;  ///< keys of newer versions, kept on saving

    const StepRecord* record(std::string_view step) const;
    StepRecord& record_for(const std::string& step);  ///< made if missing
    const Decision* decision(std::string_view finding) const;
    bool operator==(const Design&) const = default;
};

inline constexpr int current_version = 2;

}  // namespace elkit
