#pragma once
#include <functional>
#include <string>
#include <vector>

#include "board/mount.hpp"
#include "circuit/part_kind.hpp"
#include "design/content.hpp"
#include "drawing/drawing.hpp"
#include "quantity/figure.hpp"
#include "store/store.hpp"

namespace elkit {

/// Where a pin of a part ended up.
struct PlacedPin {
    std::string designator, pin, net;  ///< pin and net empty for a leg that leads nowhere
    std::string place;                 ///< "C4", as printed beside the board
};

/// Work that making this board asks for, in the words of the bench.
struct BoardWork {
    enum class When { first, link, join, wire } when = When::join;  ///< link: before any part goes in
    std::string id, title, text, caution, ref;
};

/// Two nets that lie side by side, and where.
struct Neighbours {
    std::string a, b;
    std::vector<std::string> places;
};

/// How a part is mounted on this board.
struct BoardPart {
    std::string designator;
    PartPlace place = PartPlace::board;
    Footprint footprint;
    double x = 0, y = 0,
           turn = 0;  ///< of its first pad [mm from the upper left corner, degrees]; 0 where it has none
    double span = 0;  ///< mm from leg to leg, where they are bent otherwise than the footprint is sold
    std::vector<double> spans{};  ///< mm that they can be bent to, its own first; empty: there is no choice
};

/// A wire that joins two places of the board.
struct BoardWire {
    std::string what;  ///< "jumper", "link", "wire"
    std::string from, to, net, colour;
    double length = 0;  ///< mm to cut
};

/// What the board itself adds to the parts list.
struct BoardMaterial {
    std::string key, name, marking;
    double amount = 1;  ///< of what one buys
};

/// Copper of a net on a board that has tracks.
struct NetCopper {
    std::string net;
    double narrowest = 0;  ///< mm
    double thickness = 0;  ///< µm
    std::string place;     ///< of the narrowest
};

/// A chip, the capacitor nearest to it across its supply, and the copper between them.
struct SupplyPath {
    std::string chip, capacitor;
    double length = 0;  ///< mm, of the longer of its two ways
    double limit = 0;   ///< mm that are good: more where the supply pins are at far corners of the chip
};

/// A side of the board to look at.
struct BoardSide {
    std::string title;
    Drawing picture;  ///< mm; refs part:D, net:N, hole:PLACE
};

/// A finished board, whatever made it. Stations, findings, steps and leaflet know this and no method.
struct Board {
    std::string method;                 ///< id
    double width = 0, height = 0;       ///< mm
    int layers = 0;                     ///< of copper; 0 on boards of holes
    double origin_x = 0, origin_y = 0;  ///< mm from its corner to where places of the design begin
    std::string size;                   ///< "18 × 12 holes"
    std::vector<PlacedPin> pins;
    std::vector<BoardPart> parts;                  ///< of the circuit, in its order
    std::vector<std::vector<std::string>> groups;  ///< pins that the finished board joins, read back from it
    std::vector<std::string> differences;  ///< from the circuit, in words; empty: the board is the circuit
    std::vector<Neighbours> neighbours;    ///< nets between which solder must not flow
    std::vector<NetCopper> copper;         ///< empty on boards of holes
    std::vector<SupplyPath> supplies;      ///< likewise
    std::vector<TrackWay> ways;            ///< tracks, or joints of pads, so that they can be kept
    std::vector<BoardSide> sides;
    std::vector<BoardWire> wires;
    std::vector<BoardWork> works;
    std::vector<BoardMaterial> materials;
    /// What it takes beside the parts: once for the batch, and for each board.
    struct Effort {
        double setup_minutes = 0, board_minutes = 0, setup_cost = 0, board_cost = 0, days = 0;
    } effort;
    std::string summary;  ///< "23 joints, 1 jumper, 4 gaps to keep clear"

    Figure width_figure() const;   ///< m
    Figure height_figure() const;  ///< m
    /// True if it goes into a room of this size [mm], turned if need be; a room of 0 sets no limit that way.
    bool fits(double room_width, double room_height) const;
    /// mm from the ends of its legs to the top of its highest part.
    double depth() const;
    const BoardPart* highest() const;                          ///< of those on it; nullptr if there are none
    const BoardPart* part(std::string_view designator) const;  ///< nullptr if none
    std::vector<std::string> on_wires() const;                 ///< parts beside the board, joined by wires
    const PlacedPin* pin_of(std::string_view designator, std::string_view pin) const;  ///< nullptr if none
    /// A place to hold a probe on this net: "C4 (R1 a)"; the net's name if no pin is on the board.
    std::string probe(std::string_view net) const;
};

/// A room for a board [mm] in words: "30 × 20 mm", "30 mm wide", "20 mm high", "no limit".
std::string room_text(double width, double height);

/// The choices of a design, with its lights where its face has them and the face's outline, if so chosen.
BoardChoices board_choices(const Design& design);

/// True if parts were put by hand on a board of this method: places among holes hold for the method they were
/// put on, others for all whose copper is drawn.
bool spots_are_for(const BoardChoices& choices, std::string_view method);

/// Tracks or joints are laid anew; parts stay.
void forget_ways(BoardChoices& choices);

/// A side for a file or print: what differs from the circuit stands on it.
Drawing side_on_paper(const Board& board, std::size_t side);

/// A way to make a board: registered in board_methods().
struct BoardMethod {
    std::string id, name, about;
    std::vector<std::string> choices;  ///< that it reads, ids of design_fields()
    std::function<Result<Board>(const Keyed<Circuit>&, const BoardChoices&, const Ask&)> make;
    std::string tools, risk;  ///< in words, to compare
    bool by_hand = false;     ///< parts can be put where one wants them
    bool drawn = false;       ///< tracks, areas and outline too: its copper is not there from the start
    bool shaped = false;      ///< sawn to any outline
    /// The board at a glance, while someone moves a part; none where the board itself is there at once.
    std::function<Result<Board>(const Circuit&, const BoardChoices&)> glance{};
};
/// Pads, strips, and all that makings() has; to be asked for once a user's own are taken up.
const std::vector<BoardMethod>& board_methods();
const BoardMethod* find_board_method(std::string_view id);  ///< also "trial"; nullptr if unknown
std::string known_board_methods();                          ///< "pad, strip, …" for messages

/// The board of a circuit. Errors: unknown method; what the method says.
struct BoardQuery {
    Keyed<Circuit> circuit;
    BoardChoices choices;
    using Value = Board;
    static constexpr std::string_view name = "board";
    static constexpr std::size_t weight = 60;
    Digest key() const;
    Result<Value> compute(const Ask& ask) const;
};

/// The same at a glance, in less than it takes to notice: where parts lie that were put by hand, its pictures
/// and the ways found so far, but not whether it is the circuit. Errors: where not all parts were put, or the
/// method has no such glance.
struct BoardGlanceQuery {
    BoardQuery board;
    using Value = Board;
    static constexpr std::string_view name = "board at a glance";
    static constexpr std::size_t weight = 60;
    static constexpr bool quick = true;
    Digest key() const { return board.key(); }
    Result<Value> compute(const Ask& ask) const;
};

}  // namespace elkit
