// Any words in the do-anything line: an error, or a change whose design can be written.
#include "command/command.hpp"
#include "design/demo.hpp"
#include "fuzz.hpp"

using namespace elkit;

int LLVMFuzzerTestOneInput(const std::uint8_t* data, std::size_t size) {
    if (size < 1) return 0;
    const auto& all = demos();
    static const std::vector<Design> designs = [&] {
        std::vector<Design> read;
        for (const Demo& demo : all) read.push_back(read_design(demo.text).value());
        return read;
    }();
    const Design& design = designs[data[0] % designs.size()];
    const auto command = parse_command(std::string(fuzz::text_of(data + 1, size - 1)), design, {});
    if (!command) {
        fuzz::require_good_error(command.error());
    } else if (command.value().design) {
        fuzz::require(check_writable(delta_between(design, *command.value().design)).has_value(),
                      "a change in words can be written");
    }
    return 0;
}
