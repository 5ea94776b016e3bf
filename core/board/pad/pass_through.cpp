#include <algorithm>
#include <map>
#include <queue>

#include "board/pad/pad_board.hpp"
#include "board/pad/pad_nets.hpp"

namespace elkit {
namespace {

class PassThrough {
  public:
    explicit PassThrough(HoleLayout& layout) : l_(layout), nets_(layout), grid_(nets_.grid) {
        for (const auto& [hole, net] : hole_nets(layout)) {
            const auto name = std::find(nets_.names.begin(), nets_.names.end(), net);
            if (name != nets_.names.end()) grid_.at(hole) = static_cast<int>(name - nets_.names.begin());
        }
    }

    void pull(const HolePull& p) {
        const auto beside = neighbours();
        const auto at = beside.find(p.hole);
        if (at == beside.end() || at->second.size() != 1 || is_end(p.hole)) return;
        const int net = grid_.at(p.hole);
        // the spur, from its end to where it leaves the rest
        std::vector<Hole> spur{p.hole, at->second.front()};
        while (beside.at(spur.back()).size() == 2 && !is_end(spur.back())) {
            const auto& two = beside.at(spur.back());
            spur.push_back(two[0] == spur[spur.size() - 2] ? two[1] : two[0]);
        }
        const Hole root = spur.back();
        const auto before = steps_from(root, spur[spur.size() - 2], beside);
        std::vector<Mark> marks(grid_.size(), Mark::none);
        for (const auto& [hole, from] : before)
            if (hole != root) marks[grid_.index(hole)] = Mark::wanted;
        marks[grid_.index(p.hole)] = Mark::joined;
        PadGrid shut = grid_;
        for (const Hole h : spur)
            if (h != p.hole) shut.at(h) = PadGrid::nobody;
        auto way = find_way(shut, net, marks, {}, scratch_);
        if (way.empty()) return;
        if (way.front() == p.hole) std::reverse(way.begin(), way.end());
        drop_run(root, way.front(), before, beside);
        for (std::size_t k = 1; k < way.size(); ++k) l_.bridges.push_back({way[k - 1], way[k]});
        for (const Hole h : way) grid_.at(h) = net;
    }

  private:
    using Neighbours = std::map<Hole, std::vector<Hole>>;

    Neighbours neighbours() const {
        Neighbours all;
        for (const Bridge& b : l_.bridges) all[b.a].push_back(b.b), all[b.b].push_back(b.a);
        return all;
    }
    /// A leg, or a wire's end: what hangs there needs its joints.
    bool is_end(Hole h) const {
        return std::any_of(l_.pins.begin(), l_.pins.end(), [&](const PinHole& p) { return p.hole == h; }) ||
               std::any_of(l_.wires.begin(), l_.wires.end(),
                           [&](const Wire& w) { return w.a == h || w.b == h; });
    }
    /// All that hangs on `root` by joints but for what lies beyond `without`, each with the hole before it.
    static std::map<Hole, Hole> steps_from(Hole root, Hole without, const Neighbours& beside) {
        std::map<Hole, Hole> before{{root, root}};
        std::queue<Hole> open;
        for (open.push(root); !open.empty(); open.pop())
            for (const Hole next : beside.at(open.front()))
                if (!(open.front() == root && next == without) && before.emplace(next, open.front()).second)
                    open.push(next);
        return before;
    }
    /// The joints from `root` towards `end`, as far as nothing else hangs on them.
    void drop_run(Hole root, Hole end, const std::map<Hole, Hole>& before, const Neighbours& beside) {
        std::vector<Hole> run{end};
        while (run.back() != root) run.push_back(before.at(run.back()));
        for (std::size_t k = run.size() - 1; k > 0; --k) {
            const Hole a = run[k], b = run[k - 1];
            std::erase_if(l_.bridges,
                          [&](const Bridge& j) { return (j.a == a && j.b == b) || (j.a == b && j.b == a); });
            if (b != end) {
                if (is_end(b) || beside.at(b).size() > 2) return;
                grid_.at(b) = PadGrid::free_pad;
            }
        }
    }

    HoleLayout& l_;
    PadNets nets_;
    PadGrid grid_;
    WayScratch scratch_;
};

}  // namespace

void pass_through(HoleLayout& layout) {
    if (layout.wishes.pulls.empty()) return;
    PassThrough passing(layout);
    for (const HolePull& p : layout.wishes.pulls) passing.pull(p);
}

}  // namespace elkit
