// How blocks follow what a person changes in the circuit.
#include <algorithm>

#include "recipes/block_parts.hpp"
#include "recipes/blocks.hpp"
#include "situations/edit.hpp"

namespace elkit {
namespace {

/// A part that went while another of the same kind and joints came in its place: it was renamed.
std::map<std::string, std::string> renamed_parts(const Circuit& before, const Circuit& after) {
    std::map<std::string, std::string> names;
    if (before.parts.size() != after.parts.size()) return names;
    for (std::size_t k = 0; k < before.parts.size(); ++k) {
        const Part &a = before.parts[k], &b = after.parts[k];
        if (a.designator != b.designator && a.kind == b.kind && a.pins == b.pins &&
            !after.find(a.designator) && !before.find(b.designator))
            names[a.designator] = b.designator;
    }
    return names;
}

/// Nets that went, with every pin of theirs on one new net.
std::map<std::string, std::string> renamed_nets(const Circuit& before, const Circuit& after) {
    std::map<std::string, std::set<std::string>> to;
    const auto old_nets = before.nets(), new_nets = after.nets();
    const auto in = [](const std::vector<std::string>& list, const std::string& net) {
        return std::find(list.begin(), list.end(), net) != list.end();
    };
    for (const Part& part : before.parts)
        for (const Pin& pin : part.pins)
            if (const Part* now = after.find(part.designator)) to[pin.net].insert(now->net(pin.name));
    std::map<std::string, std::string> names;
    for (const auto& [net, now] : to)
        if (now.size() == 1 && *now.begin() != net && !in(new_nets, net) && !in(old_nets, *now.begin()))
            names[net] = *now.begin();
    return names;
}

/// Follows one edit through one block; true if its recipe has to run again.
class Following {
  public:
    Following(const Design& before, Design& after, std::size_t index)
        : before_(before), after_(after), block_(after.blocks[index]), recipe_(recipe_of(block_)) {
        if (recipe_) {
            auto sized = sized_block(before, index);
            if (sized) sized_ = std::move(sized).value();
        }
    }

    bool follow() {
        const auto nets = renamed_nets(before_.circuit, after_.circuit);
        for (auto& [local, net] : block_.nets)
            if (const auto now = nets.find(net); now != nets.end()) net = now->second;
        bool again = false;
        for (const auto* names : {&block_.parts, &block_.uses})
            for (const auto& [local, designator] : *names)
                again = part(local, designator, names == &block_.parts) || again;
        for (auto* names : {&block_.parts, &block_.uses})
            std::erase_if(*names, [&](const auto& entry) { return !after_.circuit.find(entry.second); });
        std::erase_if(block_.by_hand, [&](const std::string& what) {
            return !after_.circuit.find(what.substr(0, what.find_first_of(".:")));
        });
        return again;
    }

  private:
    bool part(const std::string& local, const std::string& designator, bool owned) {
        const Part *was = before_.circuit.find(designator), *is = after_.circuit.find(designator);
        if (!was || !is || *was == *is) return false;
        bool again = false;
        std::set<std::string> sized_keys;
        if (recipe_)
            for (const GoalInfo& g : recipe_->goals)
                if (says(g, local)) sized_keys.insert(g.mirror_param);
        for (const Part& p : sized_.parts)
            if (p.designator == local)
                for (const auto& [key, value] : p.params) sized_keys.insert(key);
        for (const std::string& key : sized_keys)
            if (!(standing(*was, key) == standing(*is, key))) {
                if (alone(local, key))
                    again = true;
                else if (owned)
                    block_.by_hand.insert(hand_key(designator, key));
            }
        if (owned)
            for (const Pin& pin : is->pins) {
                const std::string& net = was->net(pin.name);
                const auto moved = [&] {
                    return std::none_of(block_.nets.begin(), block_.nets.end(),
                                        [&](const auto& entry) { return entry.second == pin.net; }) ||
                           before_net_kept(net);
                };
                if (net != pin.net && moved()) block_.by_hand.insert(hand_pin(designator, pin.name));
            }
        return again;
    }
    /// The net is still there after the edit, so that a pin that left it was moved and not renamed.
    bool before_net_kept(const std::string& net) const {
        const auto nets = after_.circuit.nets();
        return std::find(nets.begin(), nets.end(), net) != nets.end();
    }
    /// The only part that says a goal.
    bool alone(const std::string& local, const std::string& key) const {
        if (!recipe_) return false;
        return std::any_of(recipe_->goals.begin(), recipe_->goals.end(), [&](const GoalInfo& g) {
            return g.mirrored() && g.mirror_param == key && local.starts_with(g.mirror_parts) &&
                   mirrors_of(block_, g).size() == 1;
        });
    }

    const Design& before_;
    Design& after_;
    Block& block_;
    const Recipe* recipe_;
    Sized sized_;
};

}  // namespace

Design with_circuit(const Design& design, Circuit circuit) {
    Design out = design;
    out.circuit = std::move(circuit);
    if (out.circuit == design.circuit) return out;
    const auto renamed = renamed_parts(design.circuit, out.circuit);
    for (const auto& [old, now] : renamed) {
        rename_in_situations(out, old, now);
        for (PartMount& m : out.board.parts)
            if (m.part == old) m.part = now;
        for (PartSpot& s : out.board.spots)
            if (s.part == old) s.part = now;
        for (FacePlace& p : out.face.places)
            if (p.light == old) p.light = now;
    }
    std::erase_if(out.board.parts, [&](const PartMount& m) { return !out.circuit.find(m.part); });
    std::erase_if(out.board.spots, [&](const PartSpot& s) { return !out.circuit.find(s.part); });
    const auto renets = renamed_nets(design.circuit, out.circuit);
    const auto follow_net = [&](std::string& net) {
        if (const auto now = renets.find(net); now != renets.end()) net = now->second;
    };
    const auto nets = out.circuit.nets();
    const auto gone = [&](const std::string& net) {
        return std::find(nets.begin(), nets.end(), net) == nets.end();
    };
    follow_net(out.board.area);
    if (gone(out.board.area)) out.board.area.clear();
    for (TrackPull& p : out.board.pulls) follow_net(p.net);
    for (TrackWay& w : out.board.ways) follow_net(w.net);
    std::erase_if(out.board.ways, [&](const TrackWay& w) { return gone(w.net); });
    std::erase_if(out.board.pulls, [&](const TrackPull& p) { return gone(p.net); });
    if (out.blocks.empty()) return out;
    Design before = design;
    for (const auto& [old, now] : renamed) {
        before.circuit.find(old)->designator = now;
        for (Design* d : {&out, &before})
            for (Block& block : d->blocks) {
                for (auto* names : {&block.parts, &block.uses})
                    for (auto& [local, designator] : *names)
                        if (designator == old) designator = now;
                std::set<std::string> by_hand;
                for (const std::string& what : block.by_hand) {
                    const auto end = what.find_first_of(".:");
                    by_hand.insert(what.substr(0, end) == old ? now + what.substr(end) : what);
                }
                block.by_hand = std::move(by_hand);
            }
    }
    std::vector<std::size_t> again;
    for (std::size_t k = 0; k < out.blocks.size(); ++k)
        if (Following(before, out, k).follow()) again.push_back(k);
    for (const std::size_t k : again)  // where the goals cannot be met with it, the edit stands by itself
        if (auto sized = with_goals(out, k, goals_of(out, out.blocks[k]))) out = std::move(sized).value();
    return out;
}

}  // namespace elkit
