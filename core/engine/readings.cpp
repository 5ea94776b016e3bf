#include "engine/readings.hpp"

#include "engine/measure.hpp"
#include "engine/models.hpp"
#include "engine/probe.hpp"
#include "engine/repetition.hpp"

namespace elkit {

std::vector<std::string> every_probe(const Circuit& circuit) {
    std::vector<std::string> probes;
    for (const std::string& net : circuit.nets()) probes.push_back("net:" + net);
    for (const Part& part : circuit.parts) {
        for (const Pin& pin : part.pins) probes.push_back("part:" + part.designator + "." + pin.name);
        probes.push_back("power:" + part.designator);
    }
    return probes;
}

OperatingPoint readings_of(const Circuit& circuit, const Recording& run,
                           const std::function<double(const std::vector<double>&)>& read) {
    OperatingPoint op = run.end;
    op.oscillates = true;
    const auto reading = [&](const std::string& probe, double otherwise) {
        const Trace* trace = run.trace(probe);
        return trace ? read(trace->values) : otherwise;
    };
    for (std::size_t k = 0; k < op.nets.size(); ++k)
        op.voltages[k] = reading("net:" + op.nets[k], op.voltages[k]);
    for (PartState& state : op.parts) {
        const Part* known = circuit.find(state.designator);
        if (!known || known->pins.size() != state.pins.size()) continue;  // of another circuit
        const Part& part = *known;
        for (std::size_t k = 0; k < state.pins.size(); ++k)
            state.pins[k] = reading("part:" + part.designator + "." + part.pins[k].name, state.pins[k]);
        if (!state.pins.empty()) {
            state.current = state.pins[state.main];
            state.voltage = op.voltage(part.pins[state.main].net) - op.voltage(part.pins[state.against].net);
        }
        state.taken = reading("power:" + state.designator, state.taken);
    }
    return op;
}

Result<Recording> record_ahead(const Circuit& circuit, const Catalogue& catalogue, const System& system,
                               Stepper& stepper, double seconds) {
    Recorder recorder(circuit, catalogue, system);
    for (const std::string& probe : every_probe(circuit))
        if (auto added = recorder.add(probe); !added) return added.error();
    Recording run;
    recorder.prepare(run.traces);
    const auto sample = [&] {
        run.time.push_back(stepper.time());
        recorder.record(stepper.moment(), run.traces);
    };
    sample();
    const double begin = stepper.time(), end = begin + seconds;
    stepper.set_longest_step(seconds / 20);
    stepper.before_jump = sample;
    while (stepper.time() < end) {
        if (auto done = stepper.advance(end); !done) return done.error();
        if (const Stepper::Pulse& pulse = stepper.pulse(); pulse.left_out > 0)
            repeat_pulse(run, stepper.time(), pulse.period, pulse.left_out);
        sample();
    }
    stepper.before_jump = nullptr;
    run.end = readings_at(circuit, system, stepper.moment());
    for (double& t : run.time) t -= begin;
    return run;
}

OperatingPoint means_of(const Circuit& circuit, const Recording& run) {
    const std::vector<double> weights = quadrature(run.time);
    OperatingPoint mean =
        readings_of(circuit, run, [&](const auto& values) { return mean_by(weights, values); });
    mean.oscillates = false;
    return mean;
}

Result<OperatingPoint> mean_ahead(const Circuit& circuit, const Catalogue& catalogue, const System& system,
                                  Stepper& stepper, double seconds) {
    const auto run = record_ahead(circuit, catalogue, system, stepper, seconds);
    if (!run) return run.error();
    return means_of(circuit, run.value());
}

}  // namespace elkit
