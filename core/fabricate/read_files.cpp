// Drill files, netlists and G-code back into places.
#include <fmt/format.h>

#include <algorithm>
#include <cmath>
#include <cstdio>
#include <cstdlib>
#include <map>
#include <optional>

#include "fabricate/read_back.hpp"
#include "formats/csv.hpp"
#include "formats/escape.hpp"

namespace elkit {
namespace {

constexpr double farthest_read = 10000, widest_read = 100;  // mm: places; tools and holes

/// Calls `each(line)`; stops at the first error.
template <class Each>
std::optional<Error> lines_of(std::string_view text, const std::string& file, Each each) {
    int number = 0;
    while (!text.empty()) {
        ++number;
        const auto end = text.find('\n');
        std::string line(text.substr(0, end));
        text = end == std::string_view::npos ? std::string_view() : text.substr(end + 1);
        while (!line.empty() && (line.back() == '\r' || line.back() == ' ')) line.pop_back();
        if (const char* expected = each(line))
            return Error{Fault::file, fmt::format("{}, line {}", file, number), line.substr(0, 60), expected};
    }
    return {};
}

/// The number behind a letter; nothing if there is no such letter or no number.
std::optional<double> number_after(const std::string& line, char letter) {
    const auto at = line.find(letter);
    if (at == std::string::npos) return {};
    char* end = nullptr;
    const double value = std::strtod(line.c_str() + at + 1, &end);
    if (end == line.c_str() + at + 1 || !(std::abs(value) <= 1e7)) return {};
    return value;
}

}  // namespace

Result<std::vector<ReadHole>> read_xnc(std::string_view text, const std::string& file) {
    std::map<int, double> tools;
    std::vector<ReadHole> holes;
    bool header = false, metric = false, plated = true, ended = false;
    double diameter = 0;
    const auto error = lines_of(text, file, [&](const std::string& line) -> const char* {
        if (line.find("TF.FileFunction,NonPlated") != std::string::npos) plated = false;
        if (line.empty() || line.front() == ';') return nullptr;
        if (line == "M48") return void(header = true), nullptr;
        if (line == "%") return void(header = false), nullptr;
        if (line == "M30") return void(ended = true), nullptr;
        if (line.starts_with("METRIC")) return void(metric = true), nullptr;
        if (line == "G05" || line == "G90") return nullptr;
        if (line.front() == 'T') {
            const int tool = std::atoi(line.c_str() + 1);
            if (header) {
                const auto d = number_after(line, 'C');
                if (!d || !(*d > 0 && *d <= widest_read)) return "a tool with its diameter, as T01C0.800";
                tools[tool] = *d;
                return nullptr;
            }
            if (!tools.contains(tool)) return "a tool of the head";
            return void(diameter = tools[tool]), nullptr;
        }
        if (line.front() != 'X') return "a command that is read here";
        const auto x = number_after(line, 'X'), y = number_after(line, 'Y');
        if (!x || !y || !metric || diameter <= 0) return "X and Y in mm, behind METRIC and a tool";
        if (std::abs(*x) > farthest_read || std::abs(*y) > farthest_read) return "places within 10 m";
        holes.push_back({{*x, *y}, diameter, plated});
        return nullptr;
    });
    if (error) return *error;
    if (!ended) return Error{Fault::file, file, "the file ends in the middle", "M30 at its end"};
    return holes;
}

Result<std::vector<ReadPin>> read_netlist(std::string_view text, const std::string& file) {
    std::map<std::string, std::string> names;
    std::vector<ReadPin> pins;
    bool ended = false;
    const auto trimmed = [](std::string s) {
        while (!s.empty() && s.back() == ' ') s.pop_back();
        return s;
    };
    const auto error = lines_of(text, file, [&](const std::string& line) -> const char* {
        if (line.empty() || line.front() == 'C') return nullptr;
        if (line.starts_with("999")) return void(ended = true), nullptr;
        if (line.front() == 'P') {
            if (const auto at = line.find("NNAME"); at != std::string::npos)
                if (const auto blank = line.find(' ', at); blank != std::string::npos)
                    names[line.substr(at, blank - at)] = line.substr(blank + 1);
            return nullptr;
        }
        if (!line.starts_with("317") && !line.starts_with("327")) return "a record 317, 327 or 999";
        if (line.size() < 57) return "a record of at least 57 characters";
        ReadPin pin;
        pin.net = trimmed(line.substr(3, 14));
        if (names.contains(pin.net)) pin.net = names[pin.net];
        if (pin.net == "N/C") pin.net.clear();
        pin.part = trimmed(line.substr(20, 6)), pin.pin = trimmed(line.substr(27, 4));
        pin.surface = line.starts_with("327");
        pin.hole = std::atof(line.substr(33, 4).c_str()) / 1000, pin.plated = line[37] == 'P';
        if (!(pin.hole >= 0 && pin.hole <= widest_read)) return "a hole in columns 34 to 37";
        const auto x = number_after(line.substr(41, 8), 'X'), y = number_after(line.substr(49, 8), 'Y');
        if (!x || !y) return "X and Y in columns 42 and 50";
        pin.at = {*x / 1000, *y / 1000};
        pins.push_back(std::move(pin));
        return nullptr;
    });
    if (error) return *error;
    if (!ended) return Error{Fault::file, file, "the file ends in the middle", "999 at its end"};
    return pins;
}

Result<std::vector<ReadPlacement>> read_placement(std::string_view text, const std::string& file) {
    const auto table = parse_csv(text);
    if (!table) return Error{table.error().fault, file, table.error().found, table.error().expected};
    std::vector<ReadPlacement> all;
    const auto& rows = table.value();
    const std::vector<std::string> header = rows.empty() ? std::vector<std::string>{} : rows.front();
    const auto column = [&](std::string_view name) {
        return static_cast<std::size_t>(std::find(header.begin(), header.end(), name) - header.begin());
    };
    const std::size_t part = column("Designator"), x = column("X mm"), y = column("Y mm"),
                      turn = column("Rotation");
    if (std::max({part, x, y, turn}) >= header.size())
        return Error{Fault::file, file, "a column is missing", "Designator, X mm, Y mm, Rotation"};
    for (std::size_t k = 1; k < rows.size(); ++k) {
        const auto& row = rows[k];
        if (row.size() == 1 && row.front().empty()) continue;
        const auto number = [&](std::size_t c) {
            return c < row.size() ? number_after("N" + row[c], 'N') : std::nullopt;
        };
        const auto nx = number(x), ny = number(y), nt = number(turn);
        if (part >= row.size() || !nx || !ny || !nt || std::abs(*nx) > farthest_read ||
            std::abs(*ny) > farthest_read)
            return Error{Fault::file, fmt::format("{}, line {}", file, k + 1), "no place",
                         "X, Y in mm within 10 m, degrees"};
        all.push_back({from_csv_field(row[part]), {*nx, *ny}, *nt});
    }
    return all;
}

Result<ReadMilling> read_gcode(std::string_view text, const std::string& file) {
    ReadMilling m;
    Point at;
    double z = 1;
    bool millimetres = false, absolute = false, ended = false, went_down = false;
    std::vector<std::pair<Point, Point>> cuts;
    const auto rise = [&] {
        if (went_down) m.plunges.push_back(at), m.holes.emplace_back(m.drill, at);
        went_down = false;
    };
    const auto error = lines_of(text, file, [&](const std::string& line) -> const char* {
        if (line.empty()) return nullptr;
        if (line.front() == '(') {
            double a = 0, b = 0;
            const auto sized = [](double mm, double most) { return mm > 0 && mm <= most; };
            if (std::sscanf(line.c_str(), "(cuts %lf mm wide)", &a) == 1 && sized(a, widest_read))
                m.width = a;
            if (const auto drill = line.find("drill "); drill != std::string::npos)
                if (std::sscanf(line.c_str() + drill, "drill %lf mm", &a) == 1 && sized(a, widest_read))
                    m.drill = a;
            if (std::sscanf(line.c_str(), "(board %lf x %lf mm", &a, &b) == 2 && sized(a, farthest_read) &&
                sized(b, farthest_read))
                m.board_width = a, m.board_height = b;
            if (line.find("mirrored") != std::string::npos) m.mirrored = true;
            return nullptr;
        }
        if (line.find("G21") != std::string::npos) millimetres = true;
        if (line.find("G90") != std::string::npos) absolute = true;
        if (line.starts_with("G2") && !line.starts_with("G21")) return "straight moves: arcs are not read";
        if (line == "M2" || line == "M30") return void(ended = true), nullptr;
        if (line.front() == 'S' || line.front() == 'M' || line.starts_with("G4") || line.starts_with("G21"))
            return nullptr;
        if (!line.starts_with("G0 ") && !line.starts_with("G1 ")) return "G0, G1, S or M";
        if (!millimetres || !absolute) return "G21 and G90 before the first move";
        if (const auto nz = number_after(line, 'Z')) {
            if (*nz < 0 && z >= 0) went_down = true;
            if (*nz >= 0 && z < 0) rise();
            z = *nz;
        }
        const auto x = number_after(line, 'X'), y = number_after(line, 'Y');
        const Point to{x.value_or(at.x), y.value_or(at.y)};
        if (!(std::abs(to.x) <= farthest_read && std::abs(to.y) <= farthest_read))
            return "places within 10 m";
        if ((x || y) && z < 0) {
            if (line.starts_with("G0 ")) return "no rapid move below the surface";
            cuts.emplace_back(at, to), went_down = false;
        }
        at = to;
        return nullptr;
    });
    if (error) return *error;
    if (!ended) return Error{Fault::file, file, "the file ends in the middle", "M2 at its end"};
    if (m.width > 0) {
        std::vector<Region> all;
        for (const auto& [a, b] : cuts) all.push_back(Region::stroke(a, b, m.width));
        m.swept = Region::united(all);
    }
    return m;
}

Result<ReadBoard> read_fabricated(const std::vector<std::pair<std::string, std::string>>& files) {
    ReadBoard board;
    std::map<int, Region> swept;
    for (const auto& [name, text] : files) {
        if (name.ends_with(".gbr")) {
            auto layer = read_gerber(text, name);
            if (!layer) return layer.error();
            const std::string& function = layer.value().function;
            if (!function.starts_with("Copper,")) continue;
            board.copper[function.ends_with("Top") ? 1 : 0] = std::move(layer.value().copper);
        } else if (name.ends_with(".xnc")) {
            auto holes = read_xnc(text, name);
            if (!holes) return holes.error();
            board.holes.insert(board.holes.end(), holes.value().begin(), holes.value().end());
        } else if (name.ends_with(".ipc")) {
            auto pins = read_netlist(text, name);
            if (!pins) return pins.error();
            board.pins = std::move(pins).value();
        } else if (name.ends_with("-placement.csv")) {
            auto placed = read_placement(text, name);
            if (!placed) return placed.error();
            board.placed = std::move(placed).value();
        } else if (name.ends_with(".nc") && name.find("test-cut") == std::string::npos &&
                   name.find("outline") == std::string::npos) {
            auto milling = read_gcode(text, name);
            if (!milling) return milling.error();
            ReadMilling& m = milling.value();
            board.milled = true;
            board.width = std::max(board.width, m.board_width),
            board.height = std::max(board.height, m.board_height);
            if (name.find("drill") != std::string::npos) {
                for (const auto& [d, p] : m.holes)
                    board.holes.push_back({{m.mirrored ? board.width - p.x : p.x, p.y}, d, false});
            } else {
                Region& all = swept[name.find("component-side") != std::string::npos ? 1 : 0];
                Region seen = m.swept;
                if (m.mirrored) seen = seen.mirrored(board.width / 2);  // as seen from the component side
                all = all.with(seen);
            }
        } else {
            continue;
        }
        board.files.push_back(name);
    }
    if (board.milled && !board.copper.empty())
        return Error{Fault::file, "the files", "those of a mill and those of a board house lie together",
                     "the files of one board"};
    for (auto& [layer, gone] : swept)
        board.copper[layer] = Region::box(0, 0, board.width, board.height).without(gone);
    return board;
}

}  // namespace elkit
