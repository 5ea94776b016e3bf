#include "formats/waveforms.hpp"

#include <fmt/format.h>

#include <cmath>

#include "formats/escape.hpp"
#include "quantity/format.hpp"

namespace elkit {
namespace {

/// "part:U1.out" → "U1.out_A".
std::string heading(const Trace& t) {
    const std::string name = t.probe.substr(t.probe.find(':') + 1);
    const std::string kind = t.probe.substr(0, t.probe.find(':'));
    return name + (kind == "power" ? "_W" : kind == "light" ? "_cd" : t.unit == Unit::ampere ? "_A" : "_V");
}

/// The dump's short names: !, ", # … in base 94.
std::string short_name(std::size_t k) {
    std::string s;
    do {
        s += static_cast<char>('!' + k % 94);
        k /= 94;
    } while (k);
    return s;
}

}  // namespace

CsvTable recording_csv(const Recording& r) {
    CsvTable table(r.time.size() + 1);
    table[0].push_back("time_s");
    for (const Trace& t : r.traces) table[0].push_back(heading(t));
    for (std::size_t k = 0; k < r.time.size(); ++k) {
        table[k + 1].push_back(fmt::format("{:.12g}", r.time[k]));
        for (const Trace& t : r.traces) table[k + 1].push_back(format_plain(t.values[k]));
    }
    return table;
}

std::string recording_vcd(const Recording& r, const std::string& title) {
    const bool fine = r.time.empty() || r.time.back() < 1e6;  // a tick must fit into 63 bits
    std::string out = fmt::format("$comment {} $end\n$timescale {} $end\n$scope module circuit $end\n",
                                  vcd_comment(title), fine ? "1ps" : "1us");
    for (std::size_t k = 0; k < r.traces.size(); ++k)
        out += fmt::format("$var real 64 {} {} $end\n", short_name(k), vcd_word(heading(r.traces[k])));
    out += "$upscope $end\n$enddefinitions $end\n";
    long long last = -1;
    for (std::size_t k = 0; k < r.time.size(); ++k) {
        const long long tick = std::llround(r.time[k] * (fine ? 1e12 : 1e6));
        if (tick != last) out += fmt::format("#{}\n", tick);
        last = tick;
        for (std::size_t t = 0; t < r.traces.size(); ++t)
            if (k == 0 || r.traces[t].values[k] != r.traces[t].values[k - 1])
                out += fmt::format("r{} {}\n", r.traces[t].values[k], short_name(t));
    }
    return out;
}

}  // namespace elkit
