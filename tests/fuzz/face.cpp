// Any bytes as the drawing of a face: an error with its place, or a face that a design can hold and whose
// template reads back.
#include "face/template.hpp"
#include "formats/svg.hpp"
#include "fuzz.hpp"

using namespace elkit;

int LLVMFuzzerTestOneInput(const std::uint8_t* data, std::size_t size) {
    const auto drawing = read_face_svg(fuzz::text_of(data, size));
    if (!drawing) {
        fuzz::require_good_error(drawing.error());
        fuzz::require(!drawing.error().place.empty(), "an error names its place");
        return 0;
    }
    fuzz::require(drawing.value().outline.size() >= 3, "a face has an area");
    Design design;
    for (const char* name : {"L1", "L2"}) {
        Part led;
        led.kind = "led", led.designator = name, led.pins = {{"a", "A"}, {"k", "K"}};
        design.circuit.parts.push_back(led);
    }
    design = with_face_drawing(design, drawing.value());
    fuzz::require_writable(design);
    const auto again = read_face_svg(write_svg(draw_drill_template(design)));
    fuzz::require(again.has_value(), "a template reads back");
    return 0;
}
