#pragma once
#include <string>
#include <vector>

#include "design/design.hpp"
#include "engine/queries.hpp"
#include "formats/csv.hpp"
#include "quantity/figure.hpp"

/// Which wires join what sits off the board: sources, modules, controller boards, lamps, contacts.
namespace elkit {

/// What a wire is for, in the order in which they are joined: supply pins first.
enum class WireUse { ground, plus, data, signal, load };

/// One end: a pin of a part off the board, or the place on the board where a net is to be had.
struct WireEnd {
    std::string part, pin;
    bool on_board = false;
    std::string text() const;  ///< "K1 vcc", "board, at R5 a"
    bool operator==(const WireEnd&) const = default;
};

struct ListedWire {
    WireUse use = WireUse::load;
    WireEnd from, to;
    std::string net;
    std::string purpose;  ///< "5 V for K1", "P0 switches K1", "data on to the next"
    Figure current;       ///< A, the most in any situation
    double area = 0;      ///< mm², the thinnest of the catalogue that carries it
    std::string colour;   ///< by which use and net are told apart
};

/// What each pin in use of a controller does.
struct PinFunction {
    std::string part, pin, function, net;
};

struct WireList {
    std::vector<ListedWire> wires;   ///< in the order of joining
    std::vector<PinFunction> pins;   ///< of controllers and controller boards
    Figure total;                    ///< A from the first source, the most in any situation
    std::vector<std::string> notes;  ///< what to mind while joining them
};

/// True if a circuit has more off its board than one source and its switch.
bool joined_by_wires(const Circuit& circuit);

/// A name for people: "ground", "plus".
const char* use_name(WireUse use);

/// The wires of a circuit, each net joined at one point, from there to each pin. Errors as RunQuery.
struct WireListQuery {
    Keyed<Circuit> circuit;
    std::vector<Situation> situations = {};  ///< none: those that the circuit suggests
    using Value = WireList;
    static constexpr std::string_view name = "wire list";
    static constexpr std::size_t weight = 4;
    Digest key() const;
    Result<Value> compute(const Ask& ask) const;
};
CsvTable wires_csv(const WireList& list);

}  // namespace elkit
