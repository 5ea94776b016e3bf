// Reads layers back as polygons, by the format's own rules and nothing that the writer knows.
#include <fmt/format.h>

#include <charconv>
#include <cmath>
#include <cstdlib>

#include "fabricate/read_back.hpp"

namespace elkit {
namespace {

constexpr double farthest_drawn = 10000;  // mm

struct GerberError {
    std::string found, expected;
};

class GerberReader {
  public:
    explicit GerberReader(std::string_view text) : text_(text) {}

    ReadGerber run() {
        while (skip_blanks(), at_ < text_.size()) {
            if (text_[at_] == '%')
                extended();
            else
                word(take_until('*'));
            if (ended_) break;
        }
        if (!ended_) throw GerberError{"the file ends in the middle", "M02* at its end"};
        flush();
        return {function_, copper_};
    }
    int line() const { return line_; }

  private:
    struct Aperture {
        char kind = 'C';
        double a = 0, b = 0;
    };

    void skip_blanks() {
        while (at_ < text_.size() && (text_[at_] == '\n' || text_[at_] == '\r' || text_[at_] == ' ')) {
            line_ += text_[at_] == '\n';
            ++at_;
        }
    }
    std::string take_until(char end) {
        const auto stop = text_.find(end, at_);
        if (stop == std::string_view::npos) throw GerberError{"a command without end", std::string(1, end)};
        std::string word;
        for (; at_ < stop; ++at_) {
            line_ += text_[at_] == '\n';
            if (text_[at_] != '\n' && text_[at_] != '\r') word += text_[at_];
        }
        ++at_;
        return word;
    }

    void extended() {
        ++at_;
        const std::string command = take_until('*');
        skip_blanks();
        if (at_ >= text_.size() || text_[at_] != '%')
            throw GerberError{"%" + command.substr(0, 20), "* and % at its end"};
        ++at_;
        if (command.starts_with("TF.FileFunction,")) function_ = command.substr(16);
        if (command.starts_with("TF.") || command.starts_with("TA.") || command.starts_with("TO.") ||
            command.starts_with("TD"))
            return;
        if (command.starts_with("FSLA")) return format(command);
        if (command == "MOMM") return void(unit_ = true);
        if (command.starts_with("ADD")) return aperture(command);
        if (command == "LPD" || command == "LPC") return polarity(command == "LPD");
        throw GerberError{"%" + command.substr(0, 20) + "*%",
                          "a command that is read here: FS, MO, AD, LP, TF, TA, TO, TD"};
    }
    void format(const std::string& command) {  // FSLAX46Y46
        const auto x = command.find('X');
        if (x == std::string::npos || x + 2 >= command.size() ||
            !std::isdigit(static_cast<unsigned char>(command[x + 2])))
            throw GerberError{command, "FSLAX46Y46"};
        scale_ = std::pow(10.0, -(command[x + 2] - '0'));
    }
    void aperture(const std::string& command) {
        std::size_t used = 3;
        int number = 0;
        while (used < command.size() && std::isdigit(static_cast<unsigned char>(command[used])))
            number = number * 10 + (command[used++] - '0');
        if (used + 1 >= command.size() || command[used + 1] != ',' || number < 10 || number > 99999)
            throw GerberError{"%" + command + "*%", "an aperture as ADD10C,0.5"};
        Aperture a;
        a.kind = command[used];
        const char* from = command.c_str() + used + 2;
        char* end = nullptr;
        a.a = a.b = std::strtod(from, &end);
        if (end && *end == 'X' && a.kind != 'C') a.b = std::strtod(end + 1, &end);
        if (std::string_view("CRO").find(a.kind) == std::string_view::npos ||
            !(a.a > 0 && a.b > 0 && a.a < 1000 && a.b < 1000))
            throw GerberError{"%" + command + "*%", "a circle, rectangle or obround with a size"};
        apertures_[number] = a;
    }
    void polarity(bool dark) {
        flush();
        dark_ = dark;
    }

    void word(std::string w) {
        if (w.starts_with("G04") || w == "G75" || w == "G01") return;
        if (w == "M02" || w == "M00") return void(ended_ = true);
        if (w == "G36") {
            in_region_ = true;
            return contour_.clear();
        }
        if (w == "G37") {
            close_contour();
            return void(in_region_ = false);
        }
        if (w.starts_with("G01")) w = w.substr(3);
        if (w.starts_with("G02") || w.starts_with("G03"))
            throw GerberError{w, "straight lines: arcs are not read"};
        if (w.starts_with("G54")) w = w.substr(3);
        if (w.starts_with("D") && w.size() > 2) {
            const int number = std::atoi(w.c_str() + 1);
            if (number >= 10) {
                if (!apertures_.contains(number)) throw GerberError{w, "an aperture that is defined before"};
                return void(current_ = number);
            }
        }
        operation(w);
    }
    void operation(const std::string& w) {
        Point to = point_;
        std::size_t k = 0;
        const auto number = [&] {
            long long value = 0;
            const char* begin = w.c_str() + k + (w[k] == '+' ? 1 : 0);
            const auto [end, bad] = std::from_chars(begin, w.c_str() + w.size(), value);
            if (bad != std::errc()) throw GerberError{w, "X and Y with whole numbers"};
            k = static_cast<std::size_t>(end - w.c_str());
            const double mm = static_cast<double>(value) * scale_;
            if (!(std::abs(mm) <= farthest_drawn)) throw GerberError{w, "places within 10 m"};
            return mm;
        };
        int code = 0;
        while (k < w.size()) {
            const char c = w[k++];
            if (c == 'X')
                to.x = number();
            else if (c == 'Y')
                to.y = number();
            else if (c == 'D' && k < w.size())
                code = std::atoi(w.c_str() + k), k = w.size();
            else
                throw GerberError{w.substr(0, 30), "a command that is read here"};
        }
        if (!unit_ || scale_ == 0) throw GerberError{w, "unit and format before the first operation"};
        if (code == 1)
            draw(to);
        else if (code == 2)
            close_contour();
        else if (code == 3)
            flash(to);
        else
            throw GerberError{w, "D01, D02 or D03"};
        point_ = to;
        if (in_region_ && code != 3) contour_.push_back(to);
    }
    const Aperture& current() const {
        const auto at = apertures_.find(current_);
        if (at == apertures_.end()) throw GerberError{"drawing without an aperture", "one chosen before"};
        return at->second;
    }
    void draw(Point to) {
        if (in_region_) return;
        const Aperture& a = current();
        if (a.kind != 'C') throw GerberError{"a line with an aperture that is not round", "a round one"};
        shapes_.push_back(Region::stroke(point_, to, a.a));
    }
    void flash(Point at) {
        if (in_region_) throw GerberError{"a flash in a region", "lines"};
        const Aperture& a = current();
        if (a.kind == 'C')
            shapes_.push_back(Region::disc(at, a.a));
        else if (a.kind == 'R')
            shapes_.push_back(Region::box(at.x - a.a / 2, at.y - a.b / 2, at.x + a.a / 2, at.y + a.b / 2));
        else {
            const double width = std::min(a.a, a.b), dx = (a.a - width) / 2, dy = (a.b - width) / 2;
            shapes_.push_back(Region::stroke({at.x - dx, at.y - dy}, {at.x + dx, at.y + dy}, width));
        }
    }
    void close_contour() {
        if (contour_.size() > 2) shapes_.push_back(Region::polygon(contour_));
        contour_.clear();
    }
    /// Takes what was drawn since the polarity changed.
    void flush() {
        if (shapes_.empty()) return;
        const Region drawn = Region::united(shapes_);
        copper_ = dark_ ? copper_.with(drawn) : copper_.without(drawn);
        shapes_.clear();
    }

    std::string_view text_;
    std::size_t at_ = 0;
    int line_ = 1, current_ = 0;
    double scale_ = 0;
    bool unit_ = false, dark_ = true, in_region_ = false, ended_ = false;
    Point point_;
    Ring contour_;
    std::map<int, Aperture> apertures_;
    std::vector<Region> shapes_;
    Region copper_;
    std::string function_;
};

}  // namespace

Result<ReadGerber> read_gerber(std::string_view text, const std::string& file) {
    GerberReader reader(text);
    try {
        return reader.run();
    } catch (const GerberError& e) {
        return Error{Fault::file, fmt::format("{}, line {}", file, reader.line()), e.found, e.expected};
    }
}

}  // namespace elkit
