// G-code for a mill (ISO 6983-1), one process and one tool a file.
#include <fmt/format.h>

#include <algorithm>
#include <cmath>
#include <functional>
#include <map>

#include "fabricate/milling.hpp"
#include "quantity/plain_text.hpp"

namespace elkit {
namespace {

constexpr double safe_height = 5, near_height = 1;  // mm above the copper
constexpr double rapid = 1500;                      // mm/min, for the estimate
constexpr double tool_change = 1.5;                 // minutes
constexpr double through = 0.3;                     // mm below the board
constexpr double tab_width = 3, tab_height = 0.5;   // mm
constexpr int tabs = 4;

/// From the board as drawn to the machine: y up, and mirrored where the other side is up.
struct Machine {
    double width, height;
    bool mirrored;
    Point at(Point p) const { return {mirrored ? width - p.x : p.x, height - p.y}; }
};

class GcodeWriter {
  public:
    GcodeWriter(const std::string& title, const MillTool& tool, const std::vector<std::string>& remarks)
        : tool_(tool) {
        remark(title);
        for (const std::string& r : remarks) remark(r);
        remark(tool.name);
        text_ += "G21 G90 G94 G17\n";
        start();
    }
    void remark(const std::string& words) {
        std::string plain = one_line(words, 200);
        for (char& c : plain)
            if (c == '(' || c == ')' || static_cast<unsigned char>(c) > 126)
                c = ' ';  // as plain as old controls ask
        text_ += "(" + plain + ")\n";
    }
    void start() { text_ += fmt::format("S{:.0f} M3\nG4 P2\nG0 Z{:.3f}\n", tool_.speed, safe_height); }
    /// Stops for the hand to change the tool.
    void change(const std::string& to) {
        text_ += fmt::format("G0 Z{:.3f}\nM5\n", safe_height);
        remark("change to " + to + ", set its height, go on");
        text_ += "M0\n";
        start();
        minutes_ += tool_change;
    }
    void go(Point p) {
        minutes_ += (distance(p, at_) + safe_height) / rapid;
        text_ += fmt::format("G0 X{:.4f} Y{:.4f}\nG0 Z{:.3f}\n", p.x, p.y, near_height);
        at_ = p;
    }
    void plunge(double z) {
        minutes_ += (near_height - z) / tool_.plunge;
        text_ += fmt::format("G1 Z{:.4f} F{:.0f}\n", z, tool_.plunge);
    }
    void cut(Point p) {
        minutes_ += distance(p, at_) / std::max(tool_.feed, 1.0);
        text_ += fmt::format("G1 X{:.4f} Y{:.4f} F{:.0f}\n", p.x, p.y, tool_.feed);
        at_ = p;
    }
    void lift() { text_ += fmt::format("G0 Z{:.3f}\n", safe_height); }
    std::string finish() {
        lift();
        text_ += "M5\nM2\n";
        return std::move(text_);
    }
    double minutes() const { return minutes_; }

  private:
    const MillTool& tool_;
    std::string text_;
    Point at_;
    double minutes_ = 0;
};

/// Next always the nearest.
void visit_nearest(std::vector<Ring> rings, const std::function<void(const Ring&, std::size_t)>& each) {
    Point at;
    while (!rings.empty()) {
        std::size_t ring = 0, start = 0;
        double least = 1e18;
        for (std::size_t r = 0; r < rings.size(); ++r)
            for (std::size_t k = 0; k < rings[r].size(); ++k)
                if (const double far = distance(at, rings[r][k]); far < least)
                    least = far, ring = r, start = k;
        each(rings[ring], start);
        at = rings[ring][start];
        rings.erase(rings.begin() + static_cast<std::ptrdiff_t>(ring));
    }
}

class Milling {
  public:
    Milling(const CopperLayout& l, std::string name, const FabricateOptions& options)
        : l_(l), name_(std::move(name)), options_(options), table_(makings()) {}

    std::vector<FabricatedFile> run() {
        for (int layer = 0; layer < l_.layers; ++layer) isolate(layer);
        drill();
        cut_out();
        test_cut();
        return std::move(files_);
    }
    double minutes() const { return minutes_; }

  private:
    Machine machine(int layer) const { return {l_.width(), l_.height(), layer == solder_side}; }
    std::string side(int layer) const { return layer == solder_side ? "solder-side" : "component-side"; }
    std::string thickness_remark() const {
        return fmt::format("board {:.1f} x {:.1f} mm, lower left corner at 0 0, Z 0 on the copper",
                           l_.width(), l_.height());
    }
    void take(GcodeWriter& w, std::string file, std::string about, bool counts = true) {
        if (counts) minutes_ += w.minutes() + tool_change;
        files_.push_back({name_ + "-" + std::move(file) + ".nc", std::move(about), w.finish()});
    }

    void isolate(int layer) {
        const MillPlan plan = mill_plan(l_, layer, options_.clear);
        const Machine m = machine(layer);
        const auto write = [&](const std::vector<Ring>& rings, const MillTool& tool, double width,
                               const char* file, const char* about) {
            GcodeWriter w(
                fmt::format("{}, {}, {}{}", name_, about, side(layer), m.mirrored ? ", mirrored" : ""), tool,
                {thickness_remark(), fmt::format("cuts {:.3f} mm wide", width)});
            visit_nearest(rings, [&](const Ring& ring, std::size_t start) {
                w.go(m.at(ring[start]));
                w.plunge(-tool.depth);
                for (std::size_t k = 1; k <= ring.size(); ++k) w.cut(m.at(ring[(start + k) % ring.size()]));
                w.lift();
            });
            for (const auto& line : words_) {
                w.go(m.at(line.front()));
                w.plunge(-tool.depth);
                for (std::size_t k = 1; k < line.size(); ++k) w.cut(m.at(line[k]));
                w.lift();
            }
            words_.clear();  // only with the first tool
            take(w, fmt::format("{}-{}", file, side(layer)), fmt::format("{}, {}", about, side(layer)));
        };
        words_ = plan.words;
        write(plan.isolation(), *table_.tool(l_.making.isolate), plan.width, "1-isolate", "isolation");
        if (!plan.clearing.empty())
            write(plan.clearing, *table_.tool(l_.making.clear), plan.clearing_width, "2-clear", "clearing");
    }

    void drill() {
        std::map<double, std::vector<Point>> by_diameter;
        const Machine m = machine(solder_side);
        for (const DrilledHole& h : drilled_holes(l_)) by_diameter[h.diameter].push_back(m.at(h.at));
        const MillTool& tool = *table_.tool(l_.making.drill);
        const double depth = table_.material(l_.making.material)->thickness + through;
        const auto holes = [&](GcodeWriter& w, std::vector<Point> left) {
            Point at;
            while (!left.empty()) {
                const auto next = std::min_element(left.begin(), left.end(), [&](Point a, Point b) {
                    return distance(at, a) < distance(at, b);
                });
                at = *next;
                w.go(at), w.plunge(-depth), w.lift();
                left.erase(next);
            }
        };
        const auto remark = [](double d, std::size_t n) {
            return fmt::format("drill {:.2f} mm, {} holes", d, n);
        };
        if (options_.pause_for_tools && !by_diameter.empty()) {
            const auto& [d0, first] = *by_diameter.begin();
            GcodeWriter w(name_ + ", drilling, copper side up, mirrored", tool,
                          {thickness_remark(), remark(d0, first.size())});
            for (const auto& [d, places] : by_diameter) {
                if (d != d0) w.change(remark(d, places.size()));
                holes(w, places);
            }
            return take(w, "3-drill", "drilling, stops for each drill");
        }
        for (const auto& [d, places] : by_diameter) {
            GcodeWriter w(name_ + ", drilling, copper side up, mirrored", tool,
                          {thickness_remark(), remark(d, places.size())});
            holes(w, places);
            take(w, fmt::format("3-drill-{:.2f}", d), remark(d, places.size()));
        }
    }

    /// Around the outline in steps of the tool's depth; near the bottom the tool rises over the tabs.
    void cut_out() {
        const MillTool& tool = *table_.tool(l_.making.cut);
        const Machine m = machine(solder_side);
        const double bottom = table_.material(l_.making.material)->thickness + through - 0.1;
        GcodeWriter w(name_ + ", outline, copper side up, mirrored", tool,
                      {thickness_remark(), fmt::format("{} tabs of {:.0f} mm", tabs, tab_width)});
        for (const Ring& ring : Region::polygon(l_.outline).grown(tool.width() / 2).outer()) {
            double whole = 0;
            for (std::size_t k = 0; k < ring.size(); ++k)
                whole += distance(ring[k], ring[(k + 1) % ring.size()]);
            w.go(m.at(ring.front()));
            for (double z = tool.depth;; z += tool.depth) {
                z = std::min(z, bottom);
                w.plunge(-z);
                around(w, m, ring, whole, z, bottom, tool.width());
                if (z >= bottom) break;
            }
            w.lift();
        }
        take(w, "4-outline", "outline with tabs");
    }

    void around(GcodeWriter& w, const Machine& m, const Ring& ring, double whole, double z, double bottom,
                double width) {
        const double over = bottom - tab_height;  // depth over a tab
        const double half = (tab_width + width) / 2;
        double gone = 0;
        bool up = false;
        const auto in_tab = [&](double s) {
            for (int t = 0; t < tabs; ++t)
                if (std::abs(s - whole * (t + 0.5) / tabs) < half) return true;
            return false;
        };
        for (std::size_t k = 0; k < ring.size(); ++k) {
            const Point a = ring[k], b = ring[(k + 1) % ring.size()];
            const double length = distance(a, b);
            std::vector<double> stops{length};
            for (int t = 0; t < tabs; ++t)
                for (const double edge : {whole * (t + 0.5) / tabs - half, whole * (t + 0.5) / tabs + half})
                    if (edge > gone && edge < gone + length) stops.push_back(edge - gone);
            std::sort(stops.begin(), stops.end());
            double from = 0;
            for (const double to : stops) {
                const bool tab = z > over && in_tab(gone + (from + to) / 2);
                if (tab != up) w.plunge(tab ? -over : -z), up = tab;
                const double f = length > 0 ? to / length : 1;
                w.cut(m.at({a.x + (b.x - a.x) * f, a.y + (b.y - a.y) * f}));
                from = to;
            }
            gone += length;
        }
        if (up) w.plunge(-z);
    }

    /// Pairs of grooves at known distances and depths: what is left between them shows how wide they are.
    void test_cut() {
        const MillTool& tool = *table_.tool(l_.making.isolate);
        constexpr double length = 10, apart = 1, row = 2.5;
        std::vector<std::string> words{fmt::format(
            "pairs of grooves, {:.0f} mm long, {:.1f} mm from middle to middle: {:.1f} mm less the "
            "copper left between a pair is the width of the cut",
            length, apart, apart)};
        const std::vector<double> shares{0.6, 0.8, 1.0, 1.2, 1.5};
        for (std::size_t k = 0; k < shares.size(); ++k)
            words.push_back(fmt::format("pair {}: {:.3f} mm deep", k + 1, tool.depth * shares[k]));
        GcodeWriter w(name_ + ", test cut", tool, words);
        for (std::size_t k = 0; k < shares.size(); ++k)
            for (const double y : {0.0, apart}) {
                w.go({0, static_cast<double>(k) * row + y});
                w.plunge(-tool.depth * shares[k]);
                w.cut({length, static_cast<double>(k) * row + y});
                w.lift();
            }
        take(w, "0-test-cut", "test cut, to find the true width", false);
    }

    const CopperLayout& l_;
    std::string name_;
    FabricateOptions options_;
    const MakingTable& table_;
    std::vector<FabricatedFile> files_;
    std::vector<std::vector<Point>> words_;  // of the side that is being milled
    double minutes_ = 0;
};

}  // namespace

std::vector<FabricatedFile> gcode_files(const CopperLayout& l, const std::string& name,
                                        const FabricateOptions& options) {
    return Milling(l, name, options).run();
}

double mill_minutes(const CopperLayout& l, const FabricateOptions& options) {
    Milling milling(l, "", options);
    milling.run();
    return milling.minutes();
}

}  // namespace elkit
