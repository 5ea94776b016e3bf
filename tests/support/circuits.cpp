#include "support/circuits.hpp"

#include <gtest/gtest.h>

#include <algorithm>
#include <sstream>

#include "circuit/part_kind.hpp"

namespace elkit::test {

Circuit circuit(const std::vector<std::string>& lines) {
    Circuit c;
    for (const std::string& line : lines) {
        std::istringstream words(line);
        Part part;
        words >> part.kind >> part.designator;
        const PartKind* kind = part_kind(part.kind);
        EXPECT_NE(kind, nullptr) << line;
        if (!kind) continue;
        for (std::string word; words >> word;) {
            const std::string key = word.substr(0, word.find('=')), value = word.substr(word.find('=') + 1);
            const ParamInfo* info = kind->param(key);
            if (info && std::holds_alternative<double>(info->standard)) {
                std::size_t read = 0;
                part.params[key] = std::stod(value, &read);
                EXPECT_EQ(read, value.size()) << line << ": " << value << " is no plain number";
            } else if (info)
                part.params[key] = value;
            else
                part.pins.push_back({key, value});
        }
        // in the kind's order, as the reader gives them
        const auto place = [&](const Pin& p) {
            return std::find(kind->pins.begin(), kind->pins.end(), p.name);
        };
        std::sort(part.pins.begin(), part.pins.end(),
                  [&](const Pin& a, const Pin& b) { return place(a) < place(b); });
        c.parts.push_back(std::move(part));
    }
    return c;
}

Circuit button_light(const std::string& ohms) {
    return circuit({"battery B1 +=V -=0 cell=LR6 count=2", "button S1 a=V b=A",
                    "resistor R1 a=A b=B value=" + ohms, "led L1 a=B k=0"});
}

Circuit held_pair() {
    return circuit({"battery B1 +=V -=0 cell=LR6 count=3", "button S1 a=V b=T",
                    "resistor R5 a=T b=N value=10000", "npn Q1 b=N c=P e=0", "pnp Q2 b=P c=N e=E",
                    "resistor R1 a=V b=A value=150", "led L1 a=A k=E", "resistor R2 a=N b=0 value=10000",
                    "resistor R3 a=P b=E value=10000", "button S2 a=N b=0"});
}

Circuit dark_lamp() {
    return circuit({"battery B1 +=V -=0 cell=LR6 count=3", "switch S1 a=V b=P", "ldr LDR1 a=B b=0",
                    "resistor R1 a=P b=B value=100000", "npn Q1 b=B c=C e=0", "resistor R2 a=P b=A value=100",
                    "led L1 a=A k=C"});
}

Circuit astable(double volts, double ra, double rb, double farads, const std::string& type) {
    const auto number = [](double v) {
        std::ostringstream s;
        s.precision(12);
        s << v;
        return s.str();
    };
    return circuit({"supply PS1 +=V -=0 resistance=0.001 lead_length=0 voltage=" + number(volts),
                    "timer U1 gnd=0 trig=T out=OUT reset=V thr=T disch=D vcc=V type=" + type,
                    "resistor R1 a=V b=D value=" + number(ra), "resistor R2 a=D b=T value=" + number(rb),
                    "capacitor C1 a=T b=0 leakage=1e15 value=" + number(farads),
                    "resistor R3 a=OUT b=0 value=100000"});
}

Recording recorded(const Circuit& circuit, const RunRequest& request, const Conditions& conditions) {
    auto r = simulate(circuit, known_catalogue(), conditions, request);
    EXPECT_TRUE(r) << (r ? "" : r.error().text());
    return r ? std::move(r).value() : Recording{};
}

Circuit around(const PartKind& kind) {
    Circuit c = circuit({"supply PS1 +=V -=0 voltage=3 resistance=1", "resistor R1 a=V b=M value=470",
                         "resistor R2 a=M b=0 value=470"});
    Part part;
    part.kind = kind.id, part.designator = kind.prefix + "9";
    const std::vector<std::string> nets{"M", "0", "V"};
    for (std::size_t k = 0; k < kind.pins.size(); ++k)
        part.pins.push_back({kind.pins[k], nets[k % nets.size()]});
    if (kind.joined_closed.size() > 1) part.params["on"] = 0.0;  // closed it would short the supply
    c.parts.push_back(part);
    return c;
}

}  // namespace elkit::test
