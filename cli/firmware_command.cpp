// firmware: what a controller does, as portable C99
#include <fmt/format.h>

#include <filesystem>

#include "behaviour/c99.hpp"
#include "circuit/part_kind.hpp"
#include "cli/command.hpp"
#include "cli/with_design.hpp"
#include "design/file.hpp"

namespace elkit::cli {
namespace {

struct FirmwareOptions {
    Options common;
    std::string name, to;
};

/// The controller that is named, or the only one.
Result<const Part*> controller_of(const Design& design, const std::string& name) {
    std::vector<const Part*> all;
    for (const Part& part : design.circuit.parts)
        if (const PartKind* kind = part_kind(part.kind); kind && kind->controller) all.push_back(&part);
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
    auto program = program_of(*part.value());
    if (!program) return fail(program.error());
    std::error_code trouble;
    std::filesystem::create_directories(o.to, trouble);
    if (trouble) return fail({Fault::file, o.to, trouble.message(), "a folder to write into"});
    for (const auto& [name, text] : c99_of(program.value(), design.value().name)) {
        const auto path = (std::filesystem::path(o.to) / name).string();
        if (auto written = write_file(path, text); !written) return fail(written.error());
        fmt::print("{}\n", path);
    }
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
