// firmware: what a controller does, as portable C99
#include <fmt/format.h>

#include "cli/command.hpp"
#include "cli/with_design.hpp"
#include "kit/firmware.hpp"

namespace elkit::cli {
namespace {

struct FirmwareOptions {
    Options common;
    std::string name, to;
};

/// The controller that is named, or the only one.
Result<const Part*> controller_of(const Design& design, const std::string& name) {
    const std::vector<const Part*> all = controllers_of(design.circuit);
    std::string known;
    for (const Part* part : all) known += (known.empty() ? "" : ", ") + part->designator;
    if (all.empty())
        return Error{Fault::design, "circuit", "there is no controller in it", "a part such as controller_8"};
    if (name.empty() && all.size() > 1)
        return Error{Fault::usage, "--part", "it has several controllers", "one of " + known};
    for (const Part* part : all)
        if (name.empty() || part->designator == name) return part;
    return Error{Fault::usage, "--part", "there is no controller " + name, "one of " + known};
}

int firmware(const FirmwareOptions& o) {
    auto design = load(o.common);
    if (!design) return fail(design.error());
    auto part = controller_of(design.value(), o.name);
    if (!part) return fail(part.error());
    const auto written = write_firmware(design.value().circuit, *part.value(), design.value().name, o.to);
    if (!written) return fail(written.error());
    for (const auto& path : written.value()) fmt::print("{}\n", path.string());
    return 0;
}

}  // namespace

std::vector<Command> firmware_commands() {
    return {{"firmware", "what a controller does, as portable C99", [](CLI::App& sub) {
                 const auto o = std::make_shared<FirmwareOptions>();
                 sub.add_option("FILE", o->common.file, "a design file, or demo:NAME")->required();
                 sub.add_option("--part", o->name, "which controller, where there are several");
                 sub.add_option("--to", o->to, "a folder; behaviour.c, behaviour.h, hardware.h, README.md")
                     ->required();
                 return [o] { return firmware(*o); };
             }}};
}

}  // namespace elkit::cli
