// Readers of written files that share nothing with Elkit's own.
#include "support/board_files.hpp"

#include <boost/geometry.hpp>
#include <boost/geometry/geometries/point_xy.hpp>
#include <boost/geometry/geometries/polygon.hpp>
#include <cmath>
#include <map>
#include <numeric>
#include <sstream>

namespace elkit::test {
namespace {
namespace bg = boost::geometry;
using GeoPoint = bg::model::d2::point_xy<double>;
using GeoPolygon = bg::model::polygon<GeoPoint>;
using GeoMulti = bg::model::multi_polygon<GeoPolygon>;
using GeoLine = bg::model::linestring<GeoPoint>;

struct NetPin {
    std::string name, net;
    double x, y, hole;
    bool link, via;
};

std::vector<NetPin> pins_of(const std::vector<FabricatedFile>& files) {
    std::vector<NetPin> pins;
    const FabricatedFile* file = file_ending(files, ".ipc");
    if (!file) return pins;
    std::istringstream in(file->content);
    for (std::string line; std::getline(in, line);) {
        if (line.compare(0, 3, "317") != 0) continue;
        const auto field = [&](std::size_t from, std::size_t n) {
            std::string s = line.substr(from - 1, n);
            return s.substr(0, s.find_last_not_of(' ') + 1);
        };
        const std::string part = field(21, 6), pin = field(28, 4);
        pins.push_back({part + "." + pin, field(4, 14), std::stod(field(43, 7)) / 1000,
                        std::stod(field(51, 7)) / 1000, std::stod(field(34, 4)) / 1000, part == "LINK",
                        part == "VIA"});
    }
    return pins;
}

GeoMulti thick(const GeoLine& line, double width) {
    GeoMulti out;
    const bg::strategy::buffer::distance_symmetric<double> far(width / 2);
    const bg::strategy::buffer::side_straight side;
    const bg::strategy::buffer::join_round join(36);
    const bg::strategy::buffer::end_round end(36);
    const bg::strategy::buffer::point_circle circle(36);
    if (line.size() < 2 || bg::distance(line.front(), line.back()) < 1e-9)
        bg::buffer(line.front(), out, far, side, join, end, circle);
    else
        bg::buffer(line, out, far, side, join, end, circle);
    return out;
}

struct GeoShape {
    GeoMulti copper;
    bg::model::box<GeoPoint> box;
    int layer;
};

void add_shape(std::vector<GeoShape>& shapes, GeoMulti copper, int layer) {
    bg::model::box<GeoPoint> box;
    bg::envelope(copper, box);
    shapes.push_back({std::move(copper), box, layer});
}

/// Only what is drawn dark, and what is cleared of it.
void read_layer(const std::string& text, int layer, std::vector<GeoShape>& shapes) {
    std::map<int, std::string> apertures;
    std::string tool;
    double x = 0, y = 0;
    bool clear = false, region = false;
    GeoPolygon contour;
    std::istringstream in(text);
    for (std::string line; std::getline(in, line);) {
        if (line.compare(0, 4, "%ADD") == 0) {
            std::size_t used = 0;
            const int number = std::stoi(line.substr(4), &used);
            apertures[number] = line.substr(4 + used);
        } else if (line == "%LPC*%") {
            clear = true;
        } else if (line == "%LPD*%") {
            clear = false;
        } else if (line == "G36*") {
            region = true, contour.clear();
        } else if (line == "G37*") {
            region = false;
            bg::correct(contour);
            if (!clear) {
                GeoMulti whole;
                whole.push_back(contour);
                add_shape(shapes, whole, layer);
            } else {
                for (GeoShape& s : shapes) {
                    if (s.layer != layer) continue;
                    GeoMulti rest;
                    bg::difference(s.copper, contour, rest);
                    s.copper = rest;
                }
            }
        } else if (line[0] == 'D') {
            tool = apertures[std::stoi(line.substr(1))];
        } else if (line[0] == 'X') {
            long long nx = 0, ny = 0;
            int code = 0;
            if (std::sscanf(line.c_str(), "X%lldY%lldD%d", &nx, &ny, &code) != 3) continue;
            const double tx = static_cast<double>(nx) / 1e6, ty = static_cast<double>(ny) / 1e6;
            if (region) {
                bg::append(contour, GeoPoint(tx, ty));
            } else if (code == 1) {
                add_shape(shapes, thick({{x, y}, {tx, ty}}, std::stod(tool.substr(2))), layer);
            } else if (code == 3 && tool[0] == 'C') {
                add_shape(shapes, thick({{tx, ty}}, std::stod(tool.substr(2))), layer);
            } else if (code == 3) {
                const double h = std::stod(tool.substr(2)) / 2;
                GeoPolygon square;
                bg::read_wkt("POLYGON((0 0,0 1,1 1,1 0,0 0))", square);
                square.outer() = {
                    {tx - h, ty - h}, {tx - h, ty + h}, {tx + h, ty + h}, {tx + h, ty - h}, {tx - h, ty - h}};
                GeoMulti whole;
                whole.push_back(square);
                add_shape(shapes, whole, layer);
            }
            x = tx, y = ty;
        }
    }
}

class PinSets {
  public:
    explicit PinSets(std::size_t n) : root_(n) { std::iota(root_.begin(), root_.end(), std::size_t{0}); }
    std::size_t root(std::size_t k) { return root_[k] == k ? k : root_[k] = root(root_[k]); }
    void join(std::size_t a, std::size_t b) { root_[root(a)] = root(b); }

  private:
    std::vector<std::size_t> root_;
};

PinGroups named(const std::vector<NetPin>& pins, PinSets& sets, std::size_t offset) {
    std::map<std::size_t, std::set<std::string>> groups;
    for (std::size_t i = 0; i < pins.size(); ++i)
        if (!pins[i].link && !pins[i].via && pins[i].net != "N/C")
            groups[sets.root(offset + i)].insert(pins[i].name);
    PinGroups all;
    for (auto& [root, names] : groups) all.insert(names);
    return all;
}

}  // namespace

const FabricatedFile* file_ending(const std::vector<FabricatedFile>& files, const std::string& end) {
    for (const FabricatedFile& f : files)
        if (f.name.size() >= end.size() && f.name.compare(f.name.size() - end.size(), end.size(), end) == 0)
            return &f;
    return nullptr;
}

PinGroups circuit_groups(const Circuit& circuit) {
    std::map<std::string, std::set<std::string>> nets;
    for (const Part& part : circuit.parts)
        for (const elkit::Pin& pin : part.pins)
            if (!pin.net.empty())
                nets[pin.net].insert(part.designator.substr(0, 6) + "." + pin.name.substr(0, 4));
    PinGroups all;
    for (auto& [net, pins] : nets) all.insert(pins);
    return all;
}

PinGroups gerber_groups(const std::vector<FabricatedFile>& files) {
    std::vector<GeoShape> shapes;
    int layers = 0;
    for (const FabricatedFile& f : files)
        if (f.content.find("FileFunction,Copper") != std::string::npos)
            read_layer(f.content, layers++, shapes);
    const std::vector<NetPin> pins = pins_of(files);
    PinSets sets(shapes.size() + pins.size());
    const auto touch = [](const GeoShape& a, const GeoShape& b) {
        return bg::intersects(a.box, b.box) && bg::intersects(a.copper, b.copper);
    };
    for (std::size_t i = 0; i < shapes.size(); ++i)
        for (std::size_t k = 0; k < i; ++k)
            if (shapes[i].layer == shapes[k].layer && touch(shapes[i], shapes[k])) sets.join(i, k);
    for (std::size_t i = 0; i < pins.size(); ++i)
        for (std::size_t k = 0; k < shapes.size(); ++k)
            if (bg::intersects(GeoPoint(pins[i].x, pins[i].y), shapes[k].copper))
                sets.join(shapes.size() + i, k);
    return named(pins, sets, shapes.size());
}

PinGroups milled_groups(const std::vector<FabricatedFile>& files, double width, double board_width,
                        double board_height) {
    constexpr double cell = 0.03;  // mm
    const int columns = static_cast<int>(board_width / cell), rows = static_cast<int>(board_height / cell);
    std::vector<char> copper(static_cast<std::size_t>(columns * rows), 1);
    const auto at = [&](int c, int r) { return static_cast<std::size_t>(r * columns + c); };
    const auto erase = [&](double x, double y) {
        const double r = width / 2;
        for (int row = std::max(0, static_cast<int>((y - r) / cell));
             row <= std::min(rows - 1, static_cast<int>((y + r) / cell)); ++row)
            for (int c = std::max(0, static_cast<int>((x - r) / cell));
                 c <= std::min(columns - 1, static_cast<int>((x + r) / cell)); ++c)
                if (std::hypot((c + 0.5) * cell - x, (row + 0.5) * cell - y) <= r) copper[at(c, row)] = 0;
    };
    std::istringstream in(file_ending(files, "isolate-solder-side.nc")->content);
    double x = 0, y = 0, z = 1;
    for (std::string line; std::getline(in, line);) {
        double nx = x, ny = y;
        if (std::sscanf(line.c_str(), "G1 Z%lf", &z) == 1 || std::sscanf(line.c_str(), "G0 Z%lf", &z) == 1)
            continue;
        if (std::sscanf(line.c_str(), "G%*d X%lf Y%lf", &nx, &ny) != 2) continue;
        if (z < 0)
            for (double s = 0, far = std::hypot(nx - x, ny - y); s <= far; s += cell / 2)
                erase(x + (nx - x) * s / std::max(far, 1e-9), y + (ny - y) * s / std::max(far, 1e-9));
        x = nx, y = ny;
    }
    std::vector<int> piece(copper.size(), -1);
    int pieces = 0;
    for (std::size_t start = 0; start < copper.size(); ++start) {
        if (!copper[start] || piece[start] >= 0) continue;
        std::vector<std::size_t> todo{start};
        piece[start] = pieces;
        while (!todo.empty()) {
            const std::size_t p = todo.back();
            todo.pop_back();
            const int c = static_cast<int>(p) % columns, r = static_cast<int>(p) / columns;
            for (const auto& [nc, nr] : {std::pair{c + 1, r}, {c - 1, r}, {c, r + 1}, {c, r - 1}})
                if (nc >= 0 && nr >= 0 && nc < columns && nr < rows && copper[at(nc, nr)] &&
                    piece[at(nc, nr)] < 0)
                    piece[at(nc, nr)] = pieces, todo.push_back(at(nc, nr));
        }
        ++pieces;
    }
    const std::vector<NetPin> pins = pins_of(files);
    PinSets sets(static_cast<std::size_t>(pieces) + pins.size());
    std::vector<std::size_t> ends;
    for (std::size_t i = 0; i < pins.size(); ++i) {
        // the board lies with its copper up: mirrored; its leg is soldered around the hole
        for (int step = 0; step < 24; ++step) {
            const double a = step * 0.2618, r = pins[i].hole / 2 + 0.06;
            const int c = static_cast<int>((board_width - pins[i].x + r * std::cos(a)) / cell),
                      row = static_cast<int>((pins[i].y + r * std::sin(a)) / cell);
            if (c >= 0 && row >= 0 && c < columns && row < rows && piece[at(c, row)] >= 0)
                sets.join(static_cast<std::size_t>(pieces) + i, static_cast<std::size_t>(piece[at(c, row)]));
        }
        if (pins[i].link) ends.push_back(static_cast<std::size_t>(pieces) + i);
    }
    for (std::size_t k = 0; k + 1 < ends.size(); k += 2) sets.join(ends[k], ends[k + 1]);
    return named(pins, sets, static_cast<std::size_t>(pieces));
}

}  // namespace elkit::test
