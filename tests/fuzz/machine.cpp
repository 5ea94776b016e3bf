// Any bytes as files for machines: Gerber, drill file, netlist and G-code, each an error with its line, or
// polygons and places of finite size.
#include <cmath>
#include <string>

#include "circuit/part.hpp"
#include "fabricate/read_back.hpp"
#include "fuzz.hpp"

using namespace elkit;

int LLVMFuzzerTestOneInput(const std::uint8_t* data, std::size_t size) {
    if (size == 0 || size > 4000) return 0;  // many lines over each other take long, and nothing else
    const auto text = fuzz::text_of(data + 1, size - 1);
    const auto good = [](const auto& read) {
        if (!read)
            fuzz::require(!read.error().place.empty() && !read.error().expected.empty(),
                          "an error names place and what was expected");
        return bool(read);
    };
    switch (data[0] % 4) {
        case 0:
            if (const auto layer = read_gerber(text, "a.gbr"); good(layer))
                fuzz::require(std::isfinite(layer.value().copper.area()), "an area is finite");
            break;
        case 1:
            if (const auto holes = read_xnc(text, "a.xnc"); good(holes))
                for (const ReadHole& h : holes.value())
                    fuzz::require(h.diameter > 0 && std::isfinite(h.at.x), "a hole has a size");
            break;
        case 2:
            if (const auto pins = read_netlist(text, "a.ipc"); good(pins)) {
                ReadBoard board;
                board.pins = pins.value();
                board.copper[0] = Region::box(0, 0, 10, 10);
                (void)read_differences(board, Circuit{});
            }
            break;
        default:
            if (const auto milling = read_gcode(text, "a.nc"); good(milling))
                fuzz::require(std::isfinite(milling.value().swept.area()), "an area is finite");
    }
    return 0;
}
