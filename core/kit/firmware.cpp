#include "kit/firmware.hpp"

#include "behaviour/c99.hpp"
#include "circuit/part_kind.hpp"
#include "design/file.hpp"

namespace elkit {

std::vector<const Part*> controllers_of(const Circuit& circuit) {
    std::vector<const Part*> all;
    for (const Part& part : circuit.parts)
        if (const PartKind* kind = part_kind(part.kind); kind && kind->controller) all.push_back(&part);
    return all;
}

Result<std::vector<std::filesystem::path>> write_firmware(const Part& controller, const std::string& title,
                                                          const std::filesystem::path& folder) {
    auto program = program_of(controller);
    if (!program) return program.error();
    std::error_code trouble;
    std::filesystem::create_directories(folder, trouble);
    if (trouble) return Error{Fault::file, folder.string(), trouble.message(), "a folder to write into"};
    std::vector<std::filesystem::path> written;
    for (const auto& [name, text] : c99_of(program.value(), title)) {
        written.push_back(folder / name);
        if (auto done = write_file(written.back().string(), text); !done) return done.error();
    }
    return written;
}

}  // namespace elkit
