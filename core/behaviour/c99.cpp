#include "behaviour/c99.hpp"

#include <fmt/format.h>
#include <fmt/ranges.h>

#include <algorithm>
#include <cctype>

#include "quantity/format.hpp"

namespace elkit {
namespace {

using On = BehaviourWhen::On;

std::string upper(std::string_view text) {
    std::string out;
    for (const char c : text)
        out += std::isalnum(static_cast<unsigned char>(c))
                   ? static_cast<char>(std::toupper(static_cast<unsigned char>(c)))
                   : '_';
    return out;
}
std::string pin_name(const std::string& pin) { return "PIN_" + upper(pin); }

/// All pins of a program, each once.
std::vector<std::string> pins_of(const Program& p) {
    std::vector<std::string> all = p.outputs;
    for (const auto* more : {&p.inputs, &p.sensors})
        for (const std::string& pin : *more)
            if (std::find(all.begin(), all.end(), pin) == all.end()) all.push_back(pin);
    return all;
}

std::string expression(const Drive& d, std::size_t output) {
    switch (d.kind) {
        case Drive::Kind::level:
            return std::to_string(d.points[0]);
        case Drive::Kind::blink:
            return fmt::format("{} % {}u < {}u ? {} : 0",
                               d.offset ? fmt::format("(ticks + {}u)", d.offset) : "ticks", d.ticks, d.on,
                               d.points[0]);
        case Drive::Kind::path:
            return fmt::format("path((const uint8_t[]){{{}}}, {}u, {}u, {})", fmt::join(d.points, ", "),
                               d.points.size(), d.ticks, d.loops ? 1 : 0);
        case Drive::Kind::flicker:
            break;
    }
    return fmt::format("flicker({}, {}u, {}, {})", output, d.ticks, d.points[0], d.points[1]);
}

std::string condition(const Program& p, const Leaves& l) {
    switch (l.on) {
        case On::press:
            return fmt::format("down[{0}] && !was_down[{0}]", l.pin);
        case On::release:
            return fmt::format("!down[{0}] && was_down[{0}]", l.pin);
        case On::hold:
            return fmt::format("held[{}] == {}u", l.pin, l.amount);
        case On::high:
            return fmt::format("!down[{}]", l.pin);
        case On::low:
            return fmt::format("down[{}]", l.pin);
        case On::above:
            return fmt::format("hardware_measure({}) >= {}u", pin_name(p.sensors[l.pin]), l.amount);
        case On::below:
            return fmt::format("hardware_measure({}) < {}u", pin_name(p.sensors[l.pin]), l.amount);
        case On::after:
            break;
    }
    return fmt::format("ticks >= {}u", l.amount);
}

std::string next_state(const Program& p) {
    std::string out = "static int next_state(void) {\n    switch (state) {\n";
    for (const ProgramState& s : p.states) {
        out += fmt::format("        case STATE_{}:\n", upper(s.name));
        for (const Leaves& l : s.leaves)
            out += fmt::format("            if ({}) return STATE_{};\n", condition(p, l),
                               upper(p.states[l.to].name));
        out += "            break;\n";
    }
    return out + "    }\n    return -1;\n}\n";
}

std::string show(const Program& p) {
    std::string out = "static void show(void) {\n    switch (state) {\n";
    for (const ProgramState& s : p.states) {
        out += fmt::format("        case STATE_{}:\n", upper(s.name));
        for (std::size_t k = 0; k < s.drives.size(); ++k)
            out += fmt::format("            output({}, {}, {});\n", pin_name(p.outputs[k]),
                               expression(s.drives[k], k), p.sinks[k] ? 1 : 0);
        out += "            break;\n";
    }
    return out + "    }\n}\n";
}

bool uses(const Program& p, Drive::Kind kind) {
    for (const ProgramState& s : p.states)
        for (const Drive& d : s.drives)
            if (d.kind == kind) return true;
    return false;
}

std::string curve_table() {
    std::string out =
        "/* Light of a level as the eye sees it (CIE 1976 lightness). */\n"
        "static const uint8_t curve[256] = {";
    for (std::size_t k = 0; k < 256; ++k)
        out += fmt::format("{}{}", k % 16 == 0 ? "\n    " : " ", dimming_curve()[k]) + ",";
    return out + "\n};\n";
}

constexpr const char* output_function = R"(static void output(uint8_t pin, int level, int sinks) {
    uint8_t light = curve[level];
    hardware_show(pin, sinks ? (uint8_t)(255 - light) : light);
}
)";
constexpr const char* path_function = R"(/* Through points, `each` ticks from one to the next. */
static int path(const uint8_t *points, uint32_t count, uint32_t each, int loops) {
    uint32_t last = (count - 1) * each;
    uint32_t at = loops ? ticks % (count * each) : ticks < last ? ticks : last;
    if (!loops && at == last) return points[count - 1];
    int from = points[at / each], to = points[(at / each + 1) % count];
    return from + (int)((long)(to - from) * (long)(at % each) / (long)each);
}
)";
constexpr const char* flicker_function =
    R"(/* Another random level every so many ticks: a shift register of 16 bits. */
static int flicker(int output, uint32_t each, int least, int most) {
    if (ticks % each == 0) {
        for (int k = 0; k < 8; ++k) {
            int out = random_bits & 1;
            random_bits = (uint16_t)(random_bits >> 1);
            if (out) random_bits ^= 0xB400;
        }
        flickers[output] = (uint8_t)(least + (int)((random_bits & 0xFF) * (long)(most - least + 1) / 256));
    }
    return flickers[output];
}
)";

std::string source(const Program& p, const std::string& title, bool pictures) {
    const std::size_t inputs = p.inputs.size();
    std::string out = fmt::format(
        "/* {}: what its controller does. Made from its table; change it there. */\n"
        "#include \"behaviour.h\"\n\n#include \"hardware.h\"\n{}\n",
        title, pictures ? "#include \"pictures.h\"\n" : "");
    out += fmt::format("enum {{ {} }};\n\n", [&] {
        std::vector<std::string> names;
        for (const ProgramState& s : p.states) names.push_back("STATE_" + upper(s.name));
        return fmt::format("{}", fmt::join(names, ", "));
    }());
    out += "static int state;\nstatic uint32_t ticks; /* of 10 ms in this state */\n";
    if (inputs > 0) {
        std::vector<std::string> names;
        for (const std::string& pin : p.inputs) names.push_back(pin_name(pin));
        out += fmt::format(
            "static const uint8_t inputs[{0}] = {{{1}}};\nstatic uint8_t down[{0}], was_down[{0}];\n"
            "static uint32_t held[{0}]; /* ticks */\n",
            inputs, fmt::join(names, ", "));
    }
    const bool flickers = uses(p, Drive::Kind::flicker);
    if (flickers)
        out += fmt::format("static uint16_t random_bits;\nstatic uint8_t flickers[{}];\n", p.outputs.size());
    out += "\n";
    if (!p.outputs.empty()) out += curve_table() + "\n" + output_function + "\n";
    if (uses(p, Drive::Kind::path)) out += std::string(path_function) + "\n";
    if (flickers) out += std::string(flicker_function) + "\n";
    out += next_state(p) + "\n" + show(p) + "\n";
    out += "void behaviour_start(void) {\n    hardware_start();\n    state = 0;\n    ticks = 0;\n";
    if (flickers) out += "    random_bits = 0xACE1;\n";
    if (pictures) out += "    pictures_start();\n";
    if (inputs > 0)
        out += fmt::format(
            "    for (int k = 0; k < {}; ++k) {{\n"
            "        down[k] = was_down[k] = !hardware_high(inputs[k]);\n        held[k] = 0;\n    }}\n",
            inputs);
    out += "}\n\nvoid behaviour_step(void) {\n";
    if (inputs > 0)
        out += fmt::format(
            "    for (int k = 0; k < {}; ++k) {{\n        down[k] = !hardware_high(inputs[k]);\n"
            "        held[k] = !down[k] || !was_down[k] ? 0 : held[k] < 0xFFFFFFFEu ? held[k] + 1 "
            ": held[k];\n    }}\n",
            inputs);
    out +=
        "    int next = next_state();\n    if (next >= 0) {\n        state = next;\n        ticks = 0;\n    "
        "}\n";
    if (inputs > 0) out += fmt::format("    for (int k = 0; k < {}; ++k) was_down[k] = down[k];\n", inputs);
    const bool looks =
        std::any_of(p.states.begin(), p.states.end(), [](const ProgramState& s) { return s.nap > 1; });
    out += fmt::format("    show();\n{}    {};\n}}\n", pictures ? "    pictures_step();\n" : "",
                       looks ? "ticks += behaviour_nap() ? behaviour_nap() : 1" : "++ticks");
    const auto of_state = [&](const char* function, auto says) {
        out += fmt::format("\n{}(void) {{\n    switch (state) {{\n", function);
        for (const ProgramState& s : p.states)
            if (const auto value = says(s); value > 0)
                out += fmt::format("        case STATE_{}:\n            return {};\n", upper(s.name), value);
        out += "        default:\n            return 0;\n    }\n}\n";
    };
    of_state("int behaviour_sleeps", [](const ProgramState& s) { return s.sleeps ? 1 : 0; });
    of_state("uint32_t behaviour_nap", [](const ProgramState& s) { return s.nap > 1 ? s.nap : 0; });
    return out + R"(
void behaviour_run(void) {
    behaviour_start();
    for (;;) {
        behaviour_step();
        if (behaviour_sleeps())
            hardware_sleep(behaviour_nap());
        else
            hardware_wait();
    }
}
)";
}

std::string header(const Program& p, const std::string& title) {
    std::string out = fmt::format(
        "/* {}: what its controller does. */\n#ifndef BEHAVIOUR_H\n#define BEHAVIOUR_H\n\n"
        "#include <stdint.h>\n\n/* The pins that it uses. */\nenum {{\n",
        title);
    std::vector<std::string> names;
    for (const std::string& pin : pins_of(p)) names.push_back("    " + pin_name(pin));
    out += fmt::format("{}\n}};\n\n", fmt::join(names, ",\n"));
    return out +
           "void behaviour_start(void);  /* once, at power-up */\n"
           "void behaviour_step(void);   /* every 10 ms */\n"
           "int behaviour_sleeps(void);  /* true: nothing to do until an input changes ... */\n"
           "uint32_t behaviour_nap(void); /* ... or so many ticks of 10 ms are over; 0: only then */\n"
           "void behaviour_run(void);    /* all of that, for ever */\n\n#endif\n";
}

constexpr const char* hardware_head = R"(#ifndef HARDWARE_H
#define HARDWARE_H

#include <stdint.h>

/* Sets up the pins of behaviour.h as README.md says. */
void hardware_start(void);
/* Drives a pin: 0 low, 255 high, between them high for that share of the time, 200 times a second or more. */
void hardware_show(uint8_t pin, uint8_t level);
/* 1 if the pin is high, else 0. */
uint8_t hardware_high(uint8_t pin);
/* Volts at a pin as counts, 0 at ground, full scale at the reference. */
uint16_t hardware_measure(uint8_t pin);
/* Returns at the next multiple of 10 ms. */
void hardware_wait(void);
/* Sleeps as deep as it can, and returns once an input has changed, or, where `ticks` is not 0, after so many
   times 10 ms. */
void hardware_sleep(uint32_t ticks);
)";
constexpr const char* hardware_of_pictures =
    R"(/* Sets a matrix to so many percent of its full current, once, before its first row. */
void hardware_brightness(uint8_t matrix, uint8_t percent);
/* Sends a row to a matrix, the first one of its chain with the lowest number: the highest bit is the light at
   the left. What the module wants to be sent, its data sheet says. */
void hardware_row(uint8_t matrix, uint8_t row, uint8_t lights);
)";

std::string hardware(bool pictures) {
    return fmt::format("/* What the board has to give: {} functions. */\n{}{}\n#endif\n",
                       pictures ? "eight" : "six", hardware_head, pictures ? hardware_of_pictures : "");
}

std::string readme(const Program& p, const std::string& title, const std::vector<std::string>& sends) {
    std::string out = fmt::format(
        "# {}\n\nWhat the controller does, as portable C99. `behaviour.c` needs the {} "
        "functions of `hardware.h`; write them for your board, and call "
        "`behaviour_run()` from `main()`.{}\n\nMeasures with {} bits. Pins:\n\n",
        title, sends.empty() ? "six" : "eight",
        sends.empty()
            ? ""
            : " `pictures.c` sends what the matrices of lights show; pictures stand still while the "
              "controller sleeps.",
        p.bits);
    for (std::size_t k = 0; k < p.outputs.size(); ++k)
        out += fmt::format("- {} ({}): output{}\n", p.outputs[k], pin_name(p.outputs[k]),
                           p.sinks[k] ? ", its light hangs on plus" : "");
    for (std::size_t k = 0; k < p.inputs.size(); ++k)
        out +=
            fmt::format("- {} ({}): input{}\n", p.inputs[k], pin_name(p.inputs[k]),
                        p.pulled_up[k] ? ", with its pull-up on; a button to ground" : ", without pull-up");
    for (const std::string& pin : p.sensors)
        out += fmt::format("- {} ({}): measures, its reference is {}\n", pin, pin_name(pin),
                           p.reference > 0 ? format_quantity(p.reference, Unit::volt) : "the supply");
    for (const std::string& wire : sends) out += fmt::format("- {}\n", wire);
    return out +
           "\nSet the pins up before the supply is loaded, check the supply's polarity first, and join the "
           "grounds of board and programmer. Try it in a socket or on a breadboard before you solder.\n";
}

}  // namespace

std::string within_a_comment(std::string title) {
    for (char& c : title)
        if (static_cast<unsigned char>(c) < ' ' || c == '*' || c == '\\' || c == '?') c = ' ';
    return title;
}

std::vector<std::pair<std::string, std::string>> c99_of(const Program& p, const std::string& name,
                                                        const std::vector<std::string>& sends) {
    const std::string title = within_a_comment(name);
    return {{"behaviour.c", source(p, title, !sends.empty())},
            {"behaviour.h", header(p, title)},
            {"hardware.h", hardware(!sends.empty())},
            {"README.md", readme(p, title, sends)}};
}

}  // namespace elkit
