#include "kit/firmware.hpp"

#include <fmt/format.h>

#include "behaviour/c99.hpp"
#include "circuit/part_kind.hpp"
#include "design/file.hpp"
#include "kit/sent_pictures.hpp"

namespace elkit {

std::vector<const Part*> controllers_of(const Circuit& circuit) {
    std::vector<const Part*> all;
    for (const Part& part : circuit.parts)
        if (const PartKind* kind = part_kind(part.kind); kind && kind->controller) all.push_back(&part);
    return all;
}

Result<std::vector<std::pair<std::string, std::string>>> firmware_of(const Circuit& circuit,
                                                                     const Part& controller,
                                                                     const std::string& title) {
    const auto program = program_of(controller);
    if (!program) return program.error();
    const auto pictures = pictures_sent_by(circuit, controller);
    std::vector<std::string> sends;
    for (const SentPictures& chain : pictures)
        for (const auto& [from, to] : chain.wires)
            sends.push_back(
                fmt::format("{}: {} of {}, by hardware_row()", from, to, chain.matrices.front().designator));
    auto files = c99_of(program.value(), title, sends);
    for (auto& file : pictures_c99(pictures, title)) files.push_back(std::move(file));
    return files;
}

Result<std::vector<std::filesystem::path>> write_firmware(const Circuit& circuit, const Part& controller,
                                                          const std::string& title,
                                                          const std::filesystem::path& folder) {
    const auto files = firmware_of(circuit, controller, title);
    if (!files) return files.error();
    std::error_code trouble;
    std::filesystem::create_directories(folder, trouble);
    if (trouble) return Error{Fault::file, folder.string(), trouble.message(), "a folder to write into"};
    std::vector<std::filesystem::path> written;
    for (const auto& [name, text] : files.value()) {
        written.push_back(folder / name);
        if (auto done = write_file(written.back().string(), text); !done) return done.error();
    }
    return written;
}

}  // namespace elkit
