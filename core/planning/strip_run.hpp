#pragma once
#include <string>
#include <vector>

#include "design/design.hpp"
#include "drawing/drawing.hpp"
#include "engine/queries.hpp"
#include "quantity/figure.hpp"

namespace elkit {

enum class StripFeed { one_end, both_ends, middle };

/// A strip of cut lengths on leads.
struct StripQuestion {
    Part source;              ///< a battery or supply, with leads of its own
    Part strip;               ///< its type, cut length, resistors and tracks
    double length = 0;        ///< m that is wanted
    double lead_length = 0;   ///< m, one way, of each pair of leads
    double lead_area = 0.14;  ///< mm²
    double celsius = 21;
};

/// One way to feed it.
struct StripRun {
    StripFeed feed = StripFeed::one_end;
    std::string name;           ///< "from one end"
    std::vector<double> amps;   ///< A through each cut length, from the fed end on
    std::vector<double> volts;  ///< V across each
    Figure total;               ///< A out of the source
    Figure lead_drop;           ///< V lost in the leads
    Figure strip_drop;          ///< V lost in the strip's tracks, to where it has least
    Figure dimmest;             ///< perceived brightness of the dimmest cut length, % of the brightest
    double wire = 0;            ///< m of wire that its leads take, both ways
};

struct StripAnswer {
    int pieces = 0;        ///< cut lengths
    double length = 0;     ///< m, whole cut lengths only
    double left_over = 0;  ///< m
    int leds = 0;
    std::vector<StripRun> runs;  ///< from one end, both ends, the middle
    std::vector<std::string> remarks;
    double thicker = 0;  ///< mm² of the leads that would be enough, fed from one end; 0: as they are, or none
};

/// Each cut length is a chain of LEDs with its resistor, the tracks between them are resistances, the leads
/// and the source feed the first, both ends or the middle; solved by Newton's method on Kirchhoff's current
/// law at every cut length. With both ends or the middle fed the leads reach there: the strip's whole length
/// or half of it is added to one pair. Usage errors: no whole cut length, more than 50 m, leads without a
/// cross-section; those of the models.
Result<StripAnswer> plan_strip(const StripQuestion& question);

/// The strip as it will look, brightness along it fed from each side, on `width` units.
Drawing draw_strip(const StripAnswer& answer, unsigned rgb, double width);

/// The question that a design asks: its first strip and its source with its leads; a usual strip on the
/// source otherwise. Design error without a source.
Result<StripQuestion> strip_question(const Design& design);

/// The design with this strip's length, put between the source's nets if it has none, and these leads.
Design with_strip(const Design& design, const StripQuestion& question, const StripAnswer& answer);

/// The strip of a design, with what is asked otherwise; nothing of it if it is 0.
struct StripQuery {
    Design design;
    double length = 0, lead_length = 0, lead_area = 0;  ///< m, m, mm²
    struct Value {
        StripQuestion question;
        StripAnswer answer;
    };
    static constexpr std::string_view name = "strip";
    static constexpr bool quick = true;
    Digest key() const;
    Result<Value> compute(const Ask& ask) const;
};

}  // namespace elkit
