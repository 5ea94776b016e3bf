#include "fabricate/gerber.hpp"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>
#include <map>

#include "board/copper/words.hpp"
#include "circuit/part_kind.hpp"
#include "quantity/plain_text.hpp"

namespace elkit {
namespace {

constexpr double mask_around = 0.05, paste_within = 0.05, legend_line = 0.15, profile_line = 0.1;  // mm
constexpr double legend_size = 1.0;  // mm, height of designators

class GerberWriter {
  public:
    GerberWriter(const PanelPlan& panel, double height, std::string function, bool positive,
                 const std::vector<std::string>& remarks)
        : panel_(panel), height_(height) {
        for (const std::string& r : remarks) head_ += "G04 " + plain_name(r) + "*\n";
        head_ += "%TF.GenerationSoftware,Elkit,Elkit,1*%\n%TF.FileFunction," + std::move(function) +
                 "*%\n%TF.FilePolarity," + (positive ? "Positive" : "Negative") +
                 "*%\n%FSLAX46Y46*%\n%MOMM*%\nG01*\n";
    }
    /// What follows belongs to this net, part and pin; empty ones say nothing.
    void about(const std::string& net, const std::string& part = {}, const std::string& pin = {}) {
        std::string next;
        if (!net.empty()) next += "%TO.N," + plain_name(net) + "*%\n";
        if (!part.empty()) next += "%TO.C," + plain_name(part) + "*%\n";
        if (!part.empty() && !pin.empty())
            next += "%TO.P," + plain_name(part) + "," + plain_name(pin) + "*%\n";
        if (next == about_) return;
        body_ += about_.empty() ? "" : "%TD*%\n";
        body_ += next;
        about_ = std::move(next);
    }
    void flash_round(Point at, double diameter, const std::string& function) {
        use(fmt::format("C,{:.6f}", diameter), function);
        each([&](Point origin) { body_ += place(at, origin) + "D03*\n"; });
    }
    void flash_box(Point at, double width, double height, const std::string& function) {
        use(fmt::format("R,{:.6f}X{:.6f}", width, height), function);
        each([&](Point origin) { body_ += place(at, origin) + "D03*\n"; });
    }
    /// The land of a pad, so much larger; an area where it stands at an angle.
    void land(const CopperPad& p, double more, const char* function) {
        if (!p.surface() && !p.square) return flash_round(p.at, p.land + 2 * more, function);
        if (!p.surface()) return flash_box(p.at, p.land + 2 * more, p.land + 2 * more, function);
        const double quarters = p.turn / 90;
        if (std::abs(quarters - std::round(quarters)) > 1e-9) return region(p.copper(more));
        const bool upright = std::lround(quarters) % 2 != 0;
        const double w = (upright ? p.height : p.width) + 2 * more,
                     h = (upright ? p.width : p.height) + 2 * more;
        flash_box(p.at, w, h, *function ? "SMDPad,CuDef" : "");
    }
    void line(const std::vector<Point>& points, double width, const std::string& function,
              bool closed = false) {
        use(fmt::format("C,{:.6f}", width), function);
        each([&](Point origin) {
            for (std::size_t k = 0; k < points.size() + (closed ? 1 : 0); ++k)
                body_ += place(points[k % points.size()], origin) + (k == 0 ? "D02*\n" : "D01*\n");
        });
    }
    /// Areas with holes: what lies inside a hole comes after it.
    void region(const Region& region) {
        for (const Region& piece : region.pieces()) {
            bool first = true;
            for (const Ring& ring : piece.rings()) {
                const bool hole = !first;
                first = false;
                each([&](Point origin) {
                    body_ += hole ? "%LPC*%\nG36*\n" : "G36*\n";
                    for (std::size_t k = 0; k <= ring.size(); ++k)
                        body_ += place(ring[k % ring.size()], origin) + (k == 0 ? "D02*\n" : "D01*\n");
                    body_ += hole ? "G37*\n%LPD*%\n" : "G37*\n";
                });
            }
        }
    }
    void words(const CopperLayout& l, const BoardText& text) {
        for (const auto& stroke : word_strokes(l, text)) line(stroke, legend_line, "");
    }
    std::string finish() {
        about({});
        std::string apertures;
        for (const auto& [shape, number] : numbers_) {
            const auto& [geometry, function] = shape;
            if (!function.empty()) apertures += "%TA.AperFunction," + function + "*%\n";
            apertures += fmt::format("%ADD{}{}*%\n", number, geometry);
            if (!function.empty()) apertures += "%TD*%\n";
        }
        return head_ + apertures + "%LPD*%\n" + body_ + "M02*\n";
    }

  private:
    template <class Draw>
    void each(Draw draw) {
        for (const Point origin : panel_.boards) draw(origin);
    }
    std::string place(Point p, Point origin) const {
        return fmt::format("X{}Y{}", std::llround((p.x + origin.x) * 1e6),
                           std::llround((height_ - p.y - origin.y) * 1e6));
    }
    void use(const std::string& shape, const std::string& function) {
        const auto [at, fresh] =
            numbers_.emplace(std::pair(shape, function), 10 + static_cast<int>(numbers_.size()));
        if (at->second == current_) return;
        current_ = at->second;
        body_ += fmt::format("D{}*\n", current_);
    }

    const PanelPlan& panel_;
    double height_;  // of the panel: y runs up
    std::string head_, body_, about_;
    std::map<std::pair<std::string, std::string>, int> numbers_;
    int current_ = 0;
};

class GerberLayers {
  public:
    GerberLayers(const CopperLayout& l, std::string name, const PanelPlan& panel,
                 const std::vector<std::string>& remarks)
        : l_(l), name_(std::move(name)), panel_(panel), remarks_(remarks) {}

    std::vector<FabricatedFile> run() {
        if (l_.layers > 1) {
            copper(component_side, "Copper,L1,Top", "copper-component-side");
            copper(solder_side, "Copper,L2,Bot", "copper-solder-side");
        } else {
            copper(solder_side, "Copper,L1,Bot", "copper-solder-side");
        }
        if (l_.making.mask)
            mask("Soldermask,Top", "mask-component-side", component_side),
                mask("Soldermask,Bot", "mask-solder-side", solder_side);
        if (has_surface_parts(l_)) paste();
        if (l_.making.legend) legend();
        profile();
        return std::move(files_);
    }

  private:
    GerberWriter writer(const std::string& function, bool positive = true) const {
        return {panel_, panel_.height, function, positive, remarks_};
    }
    void take(GerberWriter& w, const std::string& file, std::string about) {
        files_.push_back({name_ + "-" + file + ".gbr", std::move(about), w.finish()});
    }

    void copper(int layer, const std::string& function, const std::string& file) {
        GerberWriter w = writer(function);
        for (const CopperArea& a : l_.areas)
            if (a.layer == layer) w.about(a.net), w.region(a.copper);
        for (const Track& t : l_.tracks)
            if (t.layer == layer) w.about(t.net), w.line({t.a, t.b}, t.width, "Conductor");
        for (const Teardrop& t : l_.teardrops)
            if (t.layer == layer) w.about(t.net), w.region(Region::polygon(t.ring));
        for (const CopperPad& p : l_.pads) {
            if (!p.on(layer, l_.making.plated)) continue;
            w.about(p.net, p.designator, p.pin);
            w.land(p, 0, "ComponentPad");
        }
        for (const Via& v : l_.vias) w.about(v.net), w.flash_round(v.at, v.land, "ViaPad");
        if (layer == solder_side)
            for (const WireLink& k : l_.links)
                for (const Point end : {k.a, k.b}) w.about(k.net), w.flash_round(end, k.land, "ComponentPad");
        take(w, file, layer == solder_side ? "copper, solder side" : "copper, component side");
    }
    /// Openings: vias stay covered.
    void mask(const std::string& function, const std::string& file, int layer) {
        GerberWriter w = writer(function, false);
        for (const CopperPad& p : l_.pads)
            if (p.on(layer, true)) w.land(p, mask_around, "");
        for (const WireLink& k : l_.links)
            for (const Point end : {k.a, k.b}) w.flash_round(end, k.land + 2 * mask_around, "");
        take(w, file, "openings of the mask");
    }
    /// Openings of the stencil.
    void paste() {
        GerberWriter w = writer("Paste,Top");
        for (const CopperPad& p : l_.pads)
            if (p.surface()) w.land(p, -paste_within, "");
        take(w, "paste-component-side", "openings of the stencil");
    }
    bool on_land(Point p, double around) const {
        return std::any_of(l_.pads.begin(), l_.pads.end(),
                           [&](const CopperPad& pad) { return pad.from(p, p) < around; });
    }
    /// Outlines of the parts where no land is, their names, plus signs, words of the design.
    void legend() {
        GerberWriter w = writer("Legend,Top");
        for (const CopperPart& p : l_.parts) {
            const Ring body = p.body();
            for (std::size_t k = 0; k < body.size(); ++k) {
                const Point a = body[k], b = body[(k + 1) % body.size()];
                const int steps = std::max(1, static_cast<int>(distance(a, b) / 0.4));
                std::vector<Point> run;
                for (int s = 0; s <= steps; ++s) {
                    const Point q{a.x + (b.x - a.x) * s / steps, a.y + (b.y - a.y) * s / steps};
                    const bool inside =
                        q.x > 0.3 && q.y > 0.3 && q.x < l_.width() - 0.3 && q.y < l_.height() - 0.3;
                    if (inside && !on_land(q, 0.25)) run.push_back(q);
                    if ((s == steps || !inside || on_land(q, 0.25)) && run.size() > 1)
                        w.line({run.front(), run.back()}, legend_line, "");
                    if (!inside || on_land(q, 0.25)) run.clear();
                }
            }
            name(w, p);
            mark(w, p);
        }
        for (const BoardText& t : l_.texts) w.words(l_, t);
        take(w, "legend-component-side", "legend");
    }
    /// A plus or, of what has more legs, a 1 beside its first pad, where that covers no land.
    void mark(GerberWriter& w, const CopperPart& p) const {
        const PartKind* kind = part_kind(p.part->kind);
        const auto& pads = p.footprint.pads;
        if (!kind || pads.size() < 2 || (!kind->polarised && pads.size() == 2)) return;
        const Point at = p.pad(pads.front());
        constexpr double size = 0.9, far = 1.35;
        for (const Point off : {Point{-far, 0}, Point{far, 0}, Point{0, -far}, Point{0, far}}) {
            const Point middle = at + off;
            const bool inside = middle.x > 0.8 && middle.y > 0.8 && middle.x < l_.width() - 0.8 &&
                                middle.y < l_.height() - 0.8;
            if (!inside || on_land(middle, 0.45)) continue;
            w.about({}, p.part->designator);
            return w.words(l_,
                           {middle.x - 0.3 * size, middle.y + size / 2, size, pads.size() == 2 ? "+" : "1"});
        }
    }
    /// The designator in or beside its part, in the first place where it covers no land.
    void name(GerberWriter& w, const CopperPart& p) const {
        const Box b = p.bounds();
        const std::string& text = p.part->designator;
        const double length = stroke_advance * static_cast<double>(text.size()) * legend_size;
        const double cx = (b.x0 + b.x1) / 2 - length / 2, cy = (b.y0 + b.y1) / 2 + legend_size / 2;
        for (const Point at : {Point{cx, cy}, Point{cx, b.y0 - 0.4}, Point{cx, b.y1 + 0.4 + legend_size},
                               Point{b.x1 + 0.4, cy}, Point{b.x0 - 0.4 - length, cy}}) {
            bool free = at.x > 0.3 && at.x + length < l_.width() - 0.3 && at.y - legend_size > 0.3 &&
                        at.y < l_.height() - 0.3;
            for (double x = at.x; x <= at.x + length && free; x += 0.3)
                free = !on_land({x, at.y}, 0.15) && !on_land({x, at.y - legend_size / 2}, 0.15) &&
                       !on_land({x, at.y - legend_size}, 0.15);
            if (!free) continue;
            w.about({}, text);
            return w.words(l_, {at.x, at.y, legend_size, text});
        }
    }
    /// The rim of all that stays in one piece, and where it is grooved.
    void profile() {
        PanelPlan whole;
        whole.boards = {{0, 0}}, whole.height = panel_.height;
        GerberWriter w{whole, whole.height, "Profile,NP", true, remarks_};
        if (panel_.boards.size() == 1) {
            w.line(l_.outline, profile_line, "Profile", true);
        } else {
            Region rim = Region::box(0, 0, panel_.width, panel_.height);
            if (!panel_.tabs.empty()) rim = with_slots(rim);
            for (const Ring& ring : rim.rings()) w.line(ring, profile_line, "Profile", true);
        }
        take(w, "profile", "outline");
        if (panel_.scores.empty()) return;
        GerberWriter grooves{whole, whole.height, "Vcut", true, remarks_};
        for (const auto& [a, b] : panel_.scores) grooves.line({a, b}, profile_line, "");
        take(grooves, "grooves", "V score");
    }
    Region with_slots(const Region& rim) const {
        constexpr double slot = 2, bridge = 3;  // mm
        std::vector<Region> boards, bridges;
        for (const Point origin : panel_.boards) {
            Ring ring;
            for (const Point p : l_.outline) ring.push_back(p + origin);
            boards.push_back(Region::polygon(ring));
        }
        for (const auto& [a, b] : panel_.tabs) {
            const bool down = a.x == b.x;
            const double h = bridge / 2, more = 0.01;  // into what it joins
            bridges.push_back(down ? Region::box(a.x - h, a.y - more, a.x + h, b.y + more)
                                   : Region::box(a.x - more, a.y - h, b.x + more, a.y + h));
        }
        const Region all = Region::united(boards);
        return rim.without(all.grown(slot)).with(all).with(Region::united(bridges));
    }

    const CopperLayout& l_;
    std::string name_;
    const PanelPlan& panel_;
    const std::vector<std::string>& remarks_;
    std::vector<FabricatedFile> files_;
};

}  // namespace

std::vector<FabricatedFile> gerber_files(const CopperLayout& l, const std::string& name,
                                         const PanelPlan& panel, const std::vector<std::string>& remarks) {
    return GerberLayers(l, name, panel, remarks).run();
}

std::vector<FabricatedFile> drill_files(const CopperLayout& l, const std::string& name,
                                        const PanelPlan& panel) {
    std::vector<FabricatedFile> files;
    for (const bool plated : {true, false}) {
        std::map<double, std::vector<Point>> by_diameter;
        for (const DrilledHole& h : drilled_holes(l))
            if (h.plated == plated) by_diameter[h.diameter].push_back(h.at);
        if (!plated && !panel.bites.empty()) by_diameter[0.5];
        if (by_diameter.empty()) continue;
        std::string text = fmt::format(
            "M48\n; #@! TF.GenerationSoftware,Elkit,Elkit,1\n; #@! TF.FileFunction,{},1,{},{}\nMETRIC\n",
            plated ? "Plated" : "NonPlated", l.layers, plated ? "PTH" : "NPTH");
        int tool = 0;
        for (const auto& [d, places] : by_diameter) text += fmt::format("T{:02}C{:.3f}\n", ++tool, d);
        text += "%\nG05\nG90\n";
        tool = 0;
        const auto hole = [&](double x, double y) {
            text += fmt::format("X{:.4f}Y{:.4f}\n", x, panel.height - y);
        };
        for (const auto& [d, places] : by_diameter) {
            text += fmt::format("T{:02}\n", ++tool);
            for (const Point origin : panel.boards)
                for (const Point p : places) hole(p.x + origin.x, p.y + origin.y);
            if (!plated && d == 0.5)
                for (const Point p : panel.bites) hole(p.x, p.y);
        }
        files.push_back({fmt::format("{}-{}.xnc", name, plated ? "plated" : "unplated"),
                         plated ? "plated holes" : "unplated holes", text + "M30\n"});
    }
    return files;
}

}  // namespace elkit
