// What was read from files against the circuit: by polygons, holes and the netlist's places.
#include <fmt/format.h>

#include <algorithm>
#include <cmath>
#include <map>
#include <numeric>
#include <set>

#include "fabricate/read_back.hpp"

namespace elkit {
namespace {

std::string place_text(Point p) { return fmt::format("{:.2f}, {:.2f} mm", p.x, p.y); }

class FileCheck {
  public:
    FileCheck(const ReadBoard& b, const Circuit& circuit) : b_(b), circuit_(circuit) {
        for (const auto& [layer, copper] : b.copper)
            for (Region& piece : copper.pieces()) {
                const Box box = piece.bounds();
                pieces_.push_back({std::move(piece), layer, box});
            }
        root_.resize(pieces_.size() + b.pins.size());
        std::iota(root_.begin(), root_.end(), std::size_t{0});
    }

    std::vector<std::string> run() {
        if (b_.pins.empty()) return {"there is no netlist among the files: no pin has a place"};
        if (b_.copper.empty()) return {"there is no layer of copper among the files"};
        join();
        holes();
        surface();
        nets();
        pins_of_circuit();
        return std::move(found_);
    }

  private:
    struct Piece {
        Region region;
        int layer;
        Box box;
    };

    std::size_t root(std::size_t k) {
        while (root_[k] != k) k = root_[k] = root_[root_[k]];
        return k;
    }

    /// A leg or via joins what its hole touches: solder on the solder side, plating through the board.
    void join() {
        std::vector<std::size_t> ends;  // of links
        for (std::size_t i = 0; i < b_.pins.size(); ++i) {
            const ReadPin& pin = b_.pins[i];
            constexpr double solder = 0.1;
            const double r = pin.hole / 2 + solder;
            const Region rim = Region::disc(pin.at, 2 * r);
            const bool through = pin.plated || pin.part == "VIA";
            for (std::size_t k = 0; k < pieces_.size(); ++k) {
                const Piece& p = pieces_[k];
                if (pin.surface ? p.layer != 1 : !through && p.layer != 0) continue;
                if (p.box.x0 > pin.at.x + r || p.box.x1 < pin.at.x - r || p.box.y0 > pin.at.y + r ||
                    p.box.y1 < pin.at.y - r)
                    continue;
                if (p.region.touches(rim)) root_[root(pieces_.size() + i)] = root(k);
            }
            if (pin.part == "LINK") ends.push_back(i);
        }
        for (std::size_t k = 0; k + 1 < ends.size(); k += 2)  // both ends of a wire follow each other
            root_[root(pieces_.size() + ends[k])] = root(pieces_.size() + ends[k + 1]);
    }

    void holes() {
        for (const ReadPin& pin : b_.pins) {
            if (pin.surface) continue;
            const bool drilled = std::any_of(b_.holes.begin(), b_.holes.end(), [&](const ReadHole& h) {
                return distance(h.at, pin.at) < 0.02 && std::abs(h.diameter - pin.hole) < 0.02 &&
                       h.plated == pin.plated;
            });
            if (!drilled)
                found_.push_back(fmt::format("no {}hole of {:.2f} mm for {} {} at {}",
                                             pin.plated ? "plated " : "", pin.hole, pin.part, pin.pin,
                                             place_text(pin.at)));
        }
    }

    /// Each part on the surface is in the placement list, between its lands.
    void surface() {
        std::map<std::string, Box> lands;
        std::map<std::string, std::map<std::string, std::size_t>> times;  // part → pin → boards of the panel
        for (const ReadPin& pin : b_.pins) {
            if (!pin.surface) continue;
            widen(lands.emplace(pin.part, no_box).first->second, pin.at);
            if (!pin.pin.empty()) ++times[pin.part][pin.pin];  // a free leg has no name
        }
        for (const auto& [part, box] : lands) {
            constexpr double off = 0.3;  // mm
            const auto named = [&name = part](const ReadPlacement& p) { return p.part.substr(0, 6) == name; };
            const auto count =
                static_cast<std::size_t>(std::count_if(b_.placed.begin(), b_.placed.end(), named));
            if (const auto& pins = times[part]; !pins.empty() && count < pins.begin()->second)
                found_.push_back(fmt::format("{} is {} in the placement list", part,
                                             count == 0 ? "not" : fmt::format("only {} times", count)));
            for (const ReadPlacement& p : b_.placed)
                if (named(p) && (p.at.x < box.x0 - off || p.at.x > box.x1 + off || p.at.y < box.y0 - off ||
                                 p.at.y > box.y1 + off))
                    found_.push_back(
                        fmt::format("{} is placed at {}, away from its lands", part, place_text(p.at)));
        }
    }

    void nets() {
        std::map<std::size_t, std::set<std::string>> nets_of;
        std::map<std::string, std::map<std::size_t, std::size_t>> first_of;  // net → root → pin
        for (std::size_t i = 0; i < b_.pins.size(); ++i) {
            const std::string net = b_.pins[i].net.empty()
                                        ? fmt::format("the free leg at {}", place_text(b_.pins[i].at))
                                        : b_.pins[i].net;
            const std::size_t r = root(pieces_.size() + i);
            nets_of[r].insert(net);
            first_of[net].emplace(r, i);
        }
        for (const auto& [r, nets] : nets_of)
            for (auto net = std::next(nets.begin()); net != nets.end(); ++net)
                found_.push_back(fmt::format("{} and {} are joined, at {}", *nets.begin(), *net,
                                             place_text(b_.pins[first_of[*net].at(r)].at)));
        for (const auto& [net, roots] : first_of)
            for (auto r = roots.begin(); r != roots.end(); ++r)
                if (r != roots.begin()) {
                    const ReadPin &a = b_.pins[roots.begin()->second], &b = b_.pins[r->second];
                    found_.push_back(fmt::format("{} is open between {} {} at {} and {} {} at {}", net,
                                                 a.part, a.pin, place_text(a.at), b.part, b.pin,
                                                 place_text(b.at)));
                }
    }

    /// The netlist itself: its fields are shorter than names may be.
    void pins_of_circuit() {
        for (const Part& part : circuit_.parts)
            for (const Pin& pin : part.pins) {
                if (pin.net.empty()) continue;
                bool there = false;
                for (const ReadPin& p : b_.pins) {
                    if (p.part != part.designator.substr(0, 6) || p.pin != pin.name.substr(0, 4)) continue;
                    const std::string net = p.net.substr(0, p.net.find('#'));
                    there |= net == pin.net || net == cleaned(pin.net) || p.net == cleaned(pin.net);
                }
                if (!there)
                    found_.push_back(
                        fmt::format("{} {} is not on {} in the netlist", part.designator, pin.name, pin.net));
            }
    }
    static std::string cleaned(std::string net) {
        for (char& c : net)
            if (std::string_view("%*,\\").find(c) != std::string_view::npos) c = '_';
        return net;
    }

    const ReadBoard& b_;
    const Circuit& circuit_;
    std::vector<Piece> pieces_;
    std::vector<std::size_t> root_;
    std::vector<std::string> found_;
};

}  // namespace

std::vector<std::string> read_differences(const ReadBoard& board, const Circuit& circuit) {
    return FileCheck(board, circuit).run();
}

}  // namespace elkit
