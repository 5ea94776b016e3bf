#include "engine/probe.hpp"

#include <algorithm>
#include <cmath>

#include "circuit/part_kind.hpp"

namespace elkit {
namespace {

std::string after(const std::string& text, char mark) { return text.substr(text.find(mark) + 1); }

/// cd per ampere of an LED's type, or per Device::glow(); 0 for what gives no visible light.
double light_factor(const Catalogue& catalogue, const Part& part) {
    const PartKind* kind = part_kind(part.kind);
    if (kind && !kind->filament_light.empty()) return part.number("intensity");
    const LedType* type = catalogue.led(part.text("type"));
    if (!type || !type->visible) return 0;
    const bool own = kind && kind->param("intensity");
    return own ? part.number("intensity") / part.number("test_current")
               : type->intensity / type->test_current;
}

}  // namespace

Result<void> Recorder::add(const std::string& probe) {
    const auto colon = probe.find(':');
    const std::string what = probe.substr(0, colon);
    const std::string name = colon == std::string::npos ? "" : probe.substr(colon + 1);
    const Error unknown{Fault::usage, "probe " + probe, "the design has nothing of that name",
                        "net:NAME, part:NAME, part:NAME.PIN, power:NAME or light:NAME"};
    if (what == "net") {
        const int node = system_.net(name);
        if (node < 0) return unknown;
        readings_.push_back({Reading::Kind::net, probe, static_cast<std::size_t>(node), 0, 1});
        return success();
    }
    const auto dot = name.find('.');
    const std::string designator = name.substr(0, dot);
    const auto part = std::find_if(circuit_.parts.begin(), circuit_.parts.end(),
                                   [&](const Part& p) { return p.designator == designator; });
    if (part == circuit_.parts.end()) return unknown;
    const auto index = static_cast<std::size_t>(part - circuit_.parts.begin());
    Reading r{Reading::Kind::current, probe, index, 0, 1};
    const PartKind* kind = part_kind(part->kind);
    const auto main = static_cast<std::size_t>(system_.main_pin(index));
    const std::string pin = dot != std::string::npos           ? name.substr(dot + 1)
                            : kind && main < kind->pins.size() ? kind->pins[main]
                                                               : "";
    const auto at =
        std::find_if(part->pins.begin(), part->pins.end(), [&](const Pin& p) { return p.name == pin; });
    if (at == part->pins.end() && what == "part") return unknown;
    r.pin = static_cast<std::size_t>(at - part->pins.begin());
    if (what == "power")
        r.kind = Reading::Kind::power;
    else if (what == "light")
        r.kind = Reading::Kind::light, r.pin = 0, r.factor = light_factor(catalogue_, *part);
    else if (what != "part")
        return unknown;
    readings_.push_back(r);
    return success();
}

void Recorder::prepare(std::vector<Trace>& traces) const {
    for (const Reading& r : readings_) {
        static constexpr Unit units[]{Unit::volt, Unit::ampere, Unit::watt, Unit::candela};
        traces.push_back({r.probe, units[static_cast<int>(r.kind)], {}});
    }
}

void Recorder::record(const Moment& moment, std::vector<Trace>& traces) {
    constexpr auto none = static_cast<std::size_t>(-1);
    std::size_t of = none;  // the part whose flows these are
    for (std::size_t k = 0; k < readings_.size(); ++k) {
        const Reading& r = readings_[k];
        if (r.kind == Reading::Kind::net) {
            traces[k].values.push_back(moment.x[r.index]);
            continue;
        }
        if (r.index != of) system_.pin_currents(of = r.index, moment, flows_);
        double value = r.pin < flows_.size() ? flows_[r.pin] : 0;
        if (r.kind == Reading::Kind::light)
            value = system_.glow(r.index, moment.x).value_or(std::max(0.0, value)) * r.factor;
        if (r.kind == Reading::Kind::power) {
            value = 0;
            for (std::size_t p = 0; p < flows_.size(); ++p)
                value += flows_[p] * moment.x[system_.pin_unknown(r.index, p)];
        }
        traces[k].values.push_back(value);
    }
}

Result<std::string> probe_from_words(const Circuit& circuit, const std::string& words) {
    if (words.find(':') != std::string::npos) return words;
    const auto nets = circuit.nets();
    const auto has_net = [&](const std::string& n) {
        return std::find(nets.begin(), nets.end(), n) != nets.end();
    };
    if (has_net(words)) return "net:" + words;
    const auto dot = words.find('.');
    const std::string name = words.substr(0, dot),
                      quantity = dot == std::string::npos ? "i" : after(words, '.');
    if (circuit.find(name)) {
        if (quantity == "i") return "part:" + name;
        if (quantity == "p") return "power:" + name;
        if (quantity == "light") return "light:" + name;
        return "part:" + name + "." + quantity;
    }
    return Error{Fault::usage, "probe " + words, "the design has no net or part of that name",
                 "a net, or a part with .i, .p, .light or .PIN"};
}

}  // namespace elkit
