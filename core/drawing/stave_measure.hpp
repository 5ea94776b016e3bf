#pragma once
#include <string>
#include <string_view>
#include <unordered_map>
#include <utility>
#include <vector>

#include "drawing/stave_room.hpp"
#include "drawing/stave_slots.hpp"

namespace elkit {

/// Works out a StaveRoom: what is shown, how much height and width it needs, where everything stands. One
/// step after the other, each in a file of its own.
class StaveMeasure {
  public:
    StaveMeasure(const Circuit& circuit, const StaveLayout& layout, const OperatingPoint& op,
                 const StaveView& view);
    StaveRoom measured();

  private:
    /// Parts that hang one below the other, from a line or from a body's leg.
    struct Hanging {
        std::vector<const Part*> parts;  // top to bottom
        int top_row = 0, bottom_row = 0;
        std::size_t column = 0;
        const Part* body = nullptr;  // from whose leg it hangs
        std::size_t leg = 0;
        bool up = false;  // on that leg, away from the body
        std::size_t stands_for = 1;
        const StaveColumn* group = nullptr;
    };
    /// A chip or module, in which gap between two tracks it stands, and the runs that hang on its legs.
    struct Body {
        const Part* part;
        std::size_t column, gap = 0;
        std::vector<std::size_t> hung;
    };
    /// What a column needs left and right of its axis.
    struct Width {
        double left = 0, right = 0;
    };

    const Part& part_of(std::string_view designator) const;
    int row_of(std::string_view net) const;
    int track(int row) const;

    // what is shown: stave_measure_shown.cpp
    void show(const StaveColumn& column);
    /// A column may hold several runs that have nothing to do with each other.
    void show_runs(const std::vector<std::string>& parts, const StaveColumn* group, std::size_t stands_for);
    /// The nets at both ends of a run, as it hangs.
    static std::pair<std::string_view, std::string_view> ends(const std::vector<const Part*>& parts);
    void end_run();
    void show_body(const Part& part, const StaveColumn& column);
    void need_slots(const Body& body);

    // heights: stave_room.cpp
    void choose_density();
    void place_rows();
    double true_y(std::string_view net, double bottom) const;

    // widths: stave_measure_columns.cpp
    double caption_width(const Hanging& run, const Part& part) const;
    /// The parts of the other columns of the group that stand where this one does.
    static std::vector<std::string_view> others_of(const Hanging& run, const Part& part);
    double axis_gap(const Part& part) const;
    Width width_of(const Hanging& run) const;
    double pin_width(const Part& part, std::size_t pin) const;
    /// The legs of a body from its left edge, upper and lower ones each in a row of their own; those on which
    /// something hangs stand last.
    double lay_out_legs(const Body& body, StavePlace& place) const;
    void place_columns();
    static double tag_words(const std::string& net);
    void place_legs(const Body& body);

    // lines: stave_measure_columns.cpp
    double flow(std::string_view designator, std::size_t pin) const;
    void touch(int row, double x, double amps);
    double axis_of(const Hanging& run) const;
    void measure_lines(const Hanging& run);
    void measure_lines(const Part& body);
    /// Where a part's lead or a body's leg crosses or meets a height.
    std::vector<double> uprights_at(double y) const;
    /// A line that shares its height with others carries its tag itself: between two leads where there is
    /// room, else behind its end.
    void place_tags();

    // parts in their columns: stave_measure_parts.cpp
    double y_of(int row) const;
    /// In true height a run may hang the other way round than the layout has it.
    static void turn(Hanging& run);
    void hang(Hanging run);
    /// A joint stays off lines that pass by: it would look as if it joined them.
    double clear_of(const std::vector<double>& lines, double y, double above) const;
    /// In true height joints stand at their volts too: symbols become smaller where there are few.
    void stand_by_volts(const Hanging& run, std::vector<double>& joints, std::vector<double>& middles) const;
    /// Words stand beside their symbols, but not over each other.
    std::vector<double> words_beside(const std::vector<double>& middles) const;
    void stand(const Hanging& run, std::size_t k, double x, double top, double bottom, double middle);
    /// Whether the part's first pin is the one below.
    bool lower_first(const Hanging& run, std::size_t k) const;
    void add_joint(const Hanging& run, std::size_t k, double x, double y, const std::vector<double>& middles,
                   const std::vector<double>& lines);
    /// Between a body and the first part on its leg.
    void join_leg(const Hanging& run, double x, const std::vector<double>& middles);

    const StaveLayout& layout_;
    const StaveView& view_;
    std::unordered_map<std::string_view, const Part*> parts_;
    std::unordered_map<std::string_view, const PartState*> states_;
    std::unordered_map<std::string_view, double> volts_;
    std::unordered_map<std::string_view, int> rows_;
    std::vector<Hanging> runs_;
    std::vector<Body> bodies_;
    StaveSlots slots_{0};
    std::size_t columns_ = 0;
    double height_ = 0, body_height_ = 46;
    StaveHeights least_;
    std::vector<double> column_x_, track_y_;
    StaveRoom room_;
};

}  // namespace elkit
