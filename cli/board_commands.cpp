// The board and how parts meet it: board, trial, mount, footprints.
#include <fmt/format.h>

#include <algorithm>
#include <cmath>
#include <cstdlib>
#include <iostream>

#include "board/board.hpp"
#include "board/by_hand.hpp"
#include "board/compare.hpp"
#include "board/mount.hpp"
#include "board/trial/trial_board.hpp"
#include "build/trial.hpp"
#include "cli/command.hpp"
#include "cli/with_design.hpp"
#include "design/file.hpp"
#include "formats/svg.hpp"

namespace elkit::cli {
namespace {

struct BoardOptions {
    Options common;
    std::string method, svg, shape, area, pass, free, lights;
    double columns = -1, rows = -1, width = -1, height = -1, layers = -1, track = -1, corner_holes = -1;
    std::vector<std::string> lock;
    bool tracks_anew = false, compare = false, write = false;
};

/// "R1=12.7,5.08,90,15.24": a part, mm of its first pad, degrees, mm from leg to leg.
Result<PartSpot> spot_from(const std::string& text) {
    const auto equals = text.find('=');
    PartSpot spot;
    spot.part = text.substr(0, equals);
    std::vector<double> numbers;
    bool read = equals != std::string::npos;
    for (std::size_t from = equals; read && from != std::string::npos;) {
        const auto comma = text.find(',', from + 1);
        const std::string word = text.substr(from + 1, comma == std::string::npos ? comma : comma - from - 1);
        char* end = nullptr;
        numbers.push_back(std::strtod(word.c_str(), &end));
        read = !word.empty() && *end == '\0';
        from = comma;
    }
    read = read && numbers.size() >= 2 && numbers.size() <= 4;
    numbers.resize(4);
    spot.x = numbers[0], spot.y = numbers[1], spot.turn = numbers[2], spot.span = numbers[3];
    const bool near = std::abs(spot.x) <= 500 && std::abs(spot.y) <= 500 && std::abs(spot.turn) <= 360 &&
                      spot.span >= 0 && spot.span <= 500;
    if (spot.part.empty() || !read || !near)
        return Error{Fault::usage, "--lock", "\"" + text + "\"",
                     "part, mm from the left and from above, degrees, on holes mm from leg to leg: "
                     "R1=12.7,5.08,90"};
    return spot;
}

Result<BoardChoices> choices_from(const BoardOptions& o, BoardChoices choices) {
    if (!o.method.empty() && !find_board_method(o.method))
        return Error{Fault::usage, "--method", "\"" + o.method + "\"", "one of " + known_board_methods()};
    if (!o.method.empty()) choices.method = o.method;
    if (o.columns >= 0) choices.columns = o.columns;
    if (o.rows >= 0) choices.rows = o.rows;
    if (o.width >= 0) choices.width = o.width;
    if (o.height >= 0) choices.height = o.height;
    if (o.layers >= 0) choices.layers = o.layers;
    if (o.track >= 0) choices.track = o.track;
    if (o.corner_holes >= 0) choices.corner_holes = o.corner_holes;
    if (!o.shape.empty()) choices.shape = o.shape;
    if (!o.pass.empty()) {
        auto pulls = read_pulls(o.pass == "none" ? "" : o.pass);
        if (!pulls) return pulls.error();
        choices.pulls = std::move(pulls).value();
    }
    if (!o.free.empty()) {
        auto areas = read_keep_out(o.free == "none" ? "" : o.free);
        if (!areas) return areas.error();
        choices.keep_out = std::move(areas).value();
    }
    if (!o.lights.empty()) choices.lights = o.lights == "face" ? "face" : "";
    if (o.tracks_anew) forget_ways(choices);
    if (!o.area.empty()) choices.area = o.area == "none" ? "" : o.area;
    const BoardMethod* method = find_board_method(choices.method);
    if (!o.lock.empty() && !spots_are_for(choices, choices.method)) {  // they lie on another kind of board
        choices.spots.clear(), choices.ways.clear();
        choices.ways_by = method && !method->drawn ? choices.method : "";
    }
    for (const std::string& text : o.lock) {
        auto spot = spot_from(text);
        if (!spot) return spot.error();
        std::erase_if(choices.spots, [&](const PartSpot& s) { return s.part == spot.value().part; });
        choices.spots.push_back(std::move(spot).value());
    }
    return choices;
}

void print_board(const Board& b) {
    fmt::print("{}, {}\n", b.size, b.summary);
    for (const auto& p : b.pins) fmt::print("{:<4} {:<6} {}\n", p.designator, p.pin, p.place);
    if (!b.on_wires().empty()) fmt::print("joined by wires: {}\n", fmt::join(b.on_wires(), ", "));
    for (const BoardWork& work : b.works) fmt::print("{}: {}\n", work.title, work.text);
    fmt::print("{}\n", b.differences.empty() ? "the board equals the circuit"
                                             : fmt::format("{}", fmt::join(b.differences, "\n")));
}

Json board_json(const Board& b) {
    Json parts = Json::object(), mounted = Json::array(), neighbours = Json::array(), works = Json::array();
    for (const auto& p : b.pins) parts[p.designator][p.pin.empty() ? "free" : p.pin] = p.place;
    for (const auto& p : b.parts)
        mounted.push_back(
            {{"part", p.designator}, {"footprint", p.footprint.id}, {"place", place_id(p.place)}});
    for (const auto& n : b.neighbours) neighbours.push_back({{"a", n.a}, {"b", n.b}, {"places", n.places}});
    for (const auto& w : b.works) works.push_back({{"id", w.id}, {"title", w.title}, {"text", w.text}});
    return {{"method", b.method},
            {"size", b.size},
            {"width_mm", b.width},
            {"height_mm", b.height},
            {"parts", parts},
            {"mounted", mounted},
            {"on_wires", b.on_wires()},
            {"works", works},
            {"neighbours", neighbours},
            {"groups", b.groups},
            {"differences", b.differences},
            {"summary", b.summary}};
}

/// Each side at true size: NAME.svg becomes NAME-1.svg and NAME-2.svg.
Result<void> write_sides(const Board& board, const std::string& name) {
    const auto dot = name.ends_with(".svg") ? name.size() - 4 : name.size();
    for (std::size_t k = 0; k < board.sides.size(); ++k) {
        auto written = write_file(fmt::format("{}-{}.svg", name.substr(0, dot), k + 1),
                                  write_svg(side_on_paper(board, k)));
        if (!written) return written;
    }
    return success();
}

int compare(const Design& design, const BoardChoices& choices, bool json) {
    Store store;
    const auto all = Ask(store)(CompareQuery{design.circuit, choices, design.brief.kits});
    if (!all) return fail(all.error());
    Json list = Json::array();
    for (const MethodCompared& m : *all) {
        Json row = {{"method", m.method}, {"name", m.name}, {"tools", m.tools}, {"risk", m.risk}};
        if (!m.error.empty())
            row["error"] = m.error;
        else
            row.update({{"size", m.size},
                        {"summary", m.summary},
                        {"work", figure_json(m.work)},
                        {"cost", figure_json(m.cost)},
                        {"days", m.days},
                        {"differs", m.differs}});
        list.push_back(row);
        if (json) continue;
        fmt::print("{:<14} {}\n", m.method, m.error.empty() ? m.size + ", " + m.summary : m.error);
        if (!m.error.empty()) continue;
        fmt::print("{:<14} work {}, cost {}, {} days to wait\n", "", m.work.text(), m.cost.text(), m.days);
        fmt::print("{:<14} tools: {}. Risk: {}\n", "", m.tools, m.risk);
    }
    if (json) print_json(list);
    return 0;
}

/// The choices into the file that they were made for: what it says of the lights of its face stays there.
int write_choices(const BoardOptions& o, const Design& design) {
    auto choices = choices_from(o, design.board);
    if (!choices) return fail(choices.error());
    Design next = design;
    next.board = std::move(choices).value();
    return put_back(o.common, next, true);
}

int board(const BoardOptions& o) {
    if (o.write)
        if (auto there = check_file_to_write(o.common); !there) return fail(there.error());
    return with_design(o.common, [&](const Design& design, const Conditions&) {
        auto own = choices_from(o, design.board);
        if (!own) return fail(own.error());
        Design chosen = design;
        chosen.board = std::move(own).value();
        const BoardChoices choices = board_choices(chosen);
        if (o.compare) return compare(design, choices, o.common.json);
        Store store;
        const auto made = Ask(store)(BoardQuery{design.circuit, choices});
        if (!made) return fail(made.error());
        if (!o.svg.empty())
            if (auto written = write_sides(*made, o.svg); !written) return fail(written.error());
        if (o.common.json)
            print_json(board_json(*made));
        else
            print_board(*made);
        if (o.write)
            if (const int code = write_choices(o, design); code != 0) return code;
        return made->differences.empty() ? 0 : 1;
    });
}

struct TrialOptions {
    Options common;
    std::string breadboard, wires, svg;
};

int trial(const TrialOptions& o) {
    return with_design(o.common, [&](const Design& design, const Conditions&) {
        BoardChoices choices = board_choices(design);
        if (!o.breadboard.empty()) choices.breadboard = o.breadboard;
        if (!o.wires.empty()) choices.wire_colours = o.wires;
        Store store;
        const auto made = Ask(store)(TrialQuery{design.circuit, choices, design.situations});
        if (!made) return fail(made.error());
        if (!o.svg.empty())
            if (auto written = write_file(o.svg, write_svg(made->board.sides.front().picture)); !written)
                return fail(written.error());
        Json steps = Json::array();
        std::size_t n = 0;
        for (const BuildStep& s : made->steps) {
            const std::string phase = trial_phase_name(s.phase);
            Json step = {{"id", s.id},        {"phase", phase},         {"title", s.title},
                         {"text", s.text},    {"polarity", s.polarity}, {"caution", s.caution},
                         {"learnt", s.learnt}};
            if (s.check && s.check->expected) step["expected"] = figure_json(*s.check->expected);
            steps.push_back(std::move(step));
            if (o.common.json) continue;
            fmt::print("{:>3}  {}: {}. {}{}{}\n", ++n, phase, s.title, s.text, s.caution.empty() ? "" : " ",
                       s.caution);
            if (s.check) fmt::print("     {}\n     {}\n", check_text(*s.check), s.learnt);
        }
        if (o.common.json) {
            Json board = board_json(made->board);
            board["steps"] = steps, board["differs"] = made->differs;
            print_json(board);
        } else {
            for (const std::string& d : made->differs) fmt::print("{}\n", d);
        }
        return made->board.differences.empty() ? 0 : 1;
    });
}

struct MountOptions {
    Options common;
    std::string part, footprint, place, legs;
    bool as_usual = false, write = false;
};

int mount(const MountOptions& o) {
    auto design = load(o.common);
    if (!design) return fail(design.error());
    if (o.write)
        if (auto there = check_file_to_write(o.common); !there) return fail(there.error());
    PartMount m = o.as_usual ? PartMount{o.part, {}, {}, {}, {}} : mount_of(design.value().board, o.part);
    if (!o.footprint.empty()) m.footprint = o.footprint;
    if (!o.place.empty()) m.place = o.place;
    if (!o.legs.empty()) m.legs = o.legs;
    auto next = with_mount(std::move(design).value(), m);
    return next ? put_back(o.common, next.value(), o.write) : fail(next.error());
}

/// Kinds that can have it.
std::vector<std::string> kinds_of(const Footprint& f) {
    std::vector<std::string> kinds;
    for (const PartKind& kind : part_kinds()) {
        const auto choices = footprint_choices(kind);
        if (std::find(choices.begin(), choices.end(), &f) != choices.end()) kinds.push_back(kind.id);
    }
    return kinds;
}

int list_footprints(bool json) {
    Json all = Json::array();
    for (const Footprint* f : footprints()) {
        const auto kinds = kinds_of(*f);
        if (!json) {
            fmt::print("{:<24} {:<40} {:5.1f} × {:5.1f} × {:4.1f} mm  {}\n", f->id, f->name,
                       f->body.x1 - f->body.x0, f->body.y1 - f->body.y0, f->height, fmt::join(kinds, " "));
            continue;
        }
        Json pads = Json::array();
        for (const Pad& pad : f->pads) {
            pads.push_back({{"pin", pad.pin}, {"at", {pad.x, pad.y}}});
            if (f->surface) pads.back()["size"] = {pad.width, pad.height};
        }
        all.push_back({{"id", f->id},
                       {"name", f->name},
                       {"kinds", kinds},
                       {"pads", pads},
                       {"body", {f->body.x0, f->body.y0, f->body.x1, f->body.y1}},
                       {"height", f->height},
                       {"drill", f->drill},
                       {"picture", f->picture},
                       {"edge", f->edge},
                       {"socket", f->socket},
                       {"surface", f->surface},
                       {"usual", f->usual},
                       {"row", f->row},
                       {"own", f->own}});
    }
    if (json) print_json(all);
    return 0;
}

}  // namespace

std::vector<Command> board_commands() {
    return {
        {"board", "the board's layout and the connections extracted from it",
         [](CLI::App& sub) {
             const auto o = std::make_shared<BoardOptions>();
             sub.add_option("FILE", o->common.file, "design")->required();
             sub.add_option("--method", o->method, "pad, strip, milled, ordered, or one of your own");
             sub.add_option("--columns", o->columns, "of holes; 0: as few as it takes")
                 ->check(within(0, 200));
             sub.add_option("--rows", o->rows, "of holes; 0: as few as it takes")->check(within(0, 200));
             sub.add_option("--width", o->width, "mm of a board of copper; 0: as small as it gets")
                 ->check(within(0, 500));
             sub.add_option("--height", o->height, "likewise")->check(within(0, 500));
             sub.add_option("--shape", o->shape, "of a pad board, or a board of copper")
                 ->check(CLI::IsMember({"rectangle", "rounded", "round", "outline"}));
             sub.add_option("--layers", o->layers, "of copper; 0: as the method has it")->check(within(0, 2));
             sub.add_option("--track", o->track, "mm wide where there is room")->check(within(0, 20));
             sub.add_option("--corner-holes", o->corner_holes,
                            "mm of a hole for a screw in each corner of a pad board, or a board of copper")
                 ->check(within(0, 10));
             sub.add_option("--area", o->area, "net that fills what is free, or none");
             sub.add_option("--lock", o->lock,
                            "part=x,y,turn,span: stays there, mm, degrees and, on holes, mm from leg to leg; "
                            "several times");
             sub.add_option("--pass", o->pass,
                            "what tracks, joints or links pass, instead of the design's: \"GND 12.7 8.9; OUT "
                            "20 5 component\", or "
                            "none");
             sub.add_option("--free", o->free, "areas where nothing lies: \"20 10 30 15; …\", or none");
             sub.add_option("--lights", o->lights,
                            "lights stand where the face has them, or anywhere: face, free")
                 ->check(CLI::IsMember({"face", "free"}));
             sub.add_flag("--tracks-anew", o->tracks_anew,
                          "all tracks, or joints of a pad board, are laid again; parts stay where they are");
             sub.add_flag("--compare", o->compare, "all methods beside each other, for this batch");
             sub.add_flag("--write", o->write, "puts these choices into FILE");
             sub.add_option("--svg", o->svg, "writes each side at true size: NAME-1.svg, NAME-2.svg");
             sub.add_flag("--json", o->common.json, "JSON on stdout");
             return [o] { return board(*o); };
         }},
        {"trial", "the trial on a breadboard: plan, wires, steps with readings, what differs from a board",
         [](CLI::App& sub) {
             const auto o = std::make_shared<TrialOptions>();
             std::vector<std::string> sizes, schools;
             for (const BreadboardSize& size : breadboard_sizes()) sizes.push_back(size.id);
             for (const WireSchool& school : wire_schools()) schools.push_back(school.id);
             sub.add_option("FILE", o->common.file, "design")->required();
             sub.add_option("--breadboard", o->breadboard, "instead of the smallest that does")
                 ->check(CLI::IsMember(sizes));
             sub.add_option("--wires", o->wires, "school of their colours")->check(CLI::IsMember(schools));
             sub.add_option("--svg", o->svg, "writes its picture there, at true size");
             sub.add_flag("--json", o->common.json, "JSON on stdout");
             return [o] { return trial(*o); };
         }},
        {"mount", "how a part meets the board: its footprint, its place, the order of its legs",
         [](CLI::App& sub) {
             const auto o = std::make_shared<MountOptions>();
             sub.add_option("FILE", o->common.file, "design")->required();
             sub.add_option("PART", o->part, "designator")->required();
             sub.add_option("--footprint", o->footprint, "one of elkit-cli footprints");
             sub.add_option("--place", o->place, "board, leads, plug or panel");
             sub.add_option("--legs", o->legs, "pins from left to right, seen from its front: \"e b c\"");
             sub.add_flag("--as-usual", o->as_usual, "forgets what was chosen before");
             sub.add_flag("--write", o->write, "into FILE instead of printing it");
             return [o] { return mount(*o); };
         }},
        {"footprints", "every footprint, its size and the kinds that can have it", [](CLI::App& sub) {
             const auto json = std::make_shared<bool>(false);
             sub.add_flag("--json", *json, "JSON on stdout");
             return [json] { return list_footprints(*json); };
         }}};
}

}  // namespace elkit::cli
