#pragma once
#include <string>
#include <vector>

#include "engine/system.hpp"
#include "engine/transient.hpp"

namespace elkit {

/// Reads probes such as "net:OUT", "part:L1", "part:U1.out", "power:R1", "light:L1" from the unknowns of a
/// system.
class Recorder {
  public:
    Recorder(const Circuit& circuit, const Catalogue& catalogue, const System& system)
        : circuit_(circuit), catalogue_(catalogue), system_(system) {}
    /// Usage error that names the probe if its net, part or pin does not exist.
    Result<void> add(const std::string& probe);
    /// One empty trace for each probe.
    void prepare(std::vector<Trace>& traces) const;
    void record(const Moment& moment, std::vector<Trace>& traces);

  private:
    struct Reading {
        enum class Kind { net, current, power, light } kind;
        std::string probe;
        std::size_t index, pin;  // unknown of a net, else part and pin
        double factor;           // cd per ampere, or per glow
    };
    const Circuit& circuit_;
    const Catalogue& catalogue_;
    const System& system_;
    std::vector<Reading> readings_;
    std::vector<double> flows_;
};

/// "OUT" → "net:OUT", "L1.light" → "light:L1", "R1" or "R1.i" → "part:R1", "R1.p" → "power:R1": how people
/// name a probe. Usage error if the design has nothing of that name.
Result<std::string> probe_from_words(const Circuit& circuit, const std::string& words);

}  // namespace elkit
