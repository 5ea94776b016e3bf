#include "outline/outline.hpp"

#include <expat.h>
#include <fmt/format.h>

#include <algorithm>
#include <array>
#include <charconv>
#include <cmath>
#include <map>
#include <memory>
#include <numbers>
#include <optional>
#include <tuple>

#include "outline/svg_path.hpp"
#include "quantity/plain_text.hpp"

namespace elkit {
namespace {

constexpr double fine_enough = 0.05, largest = 2000, largest_hole = 30;  // mm
constexpr double per_inch = 25.4, pixels_per_inch = 96;                  // CSS 2.2, 4.3.2
constexpr std::size_t most_bytes = 8u << 20, most_depth = 64, most_shapes = 20000;

/// x' = a·x + c·y + e, y' = b·x + d·y + f.
struct Transform {
    double a = 1, b = 0, c = 0, d = 1, e = 0, f = 0;
    std::pair<double, double> operator()(double x, double y) const {
        return {a * x + c * y + e, b * x + d * y + f};
    }
    Transform operator*(const Transform& in) const {
        return {a * in.a + c * in.b, b * in.a + d * in.b,     a * in.c + c * in.d,
                b * in.c + d * in.d, a * in.e + c * in.f + e, b * in.e + d * in.f + f};
    }
    double scale() const { return std::sqrt(std::abs(a * d - b * c)); }
};

std::vector<double> numbers_in(std::string_view text) {
    std::vector<double> out;
    for (std::size_t at = 0; at < text.size();) {
        const char* from = text.data() + at;
        if (*from == '+') ++from;
        double value = 0;
        const auto [end, code] = std::from_chars(from, text.data() + text.size(), value);
        if (code == std::errc{} && std::isfinite(value)) {
            out.push_back(value);
            at = static_cast<std::size_t>(end - text.data());
        } else {
            ++at;
        }
    }
    return out;
}

Transform transform_of(std::string_view text) {
    Transform all;
    while (!text.empty()) {
        const auto open = text.find('('), close = text.find(')');
        if (open == std::string_view::npos || close == std::string_view::npos || close < open) break;
        const std::string name = cleaned_text(text.substr(0, open), 40);
        const std::vector<double> n = numbers_in(text.substr(open + 1, close - open - 1));
        const auto at = [&n](std::size_t k, double otherwise) { return k < n.size() ? n[k] : otherwise; };
        Transform one;
        if (name.ends_with("matrix") && n.size() >= 6)
            one = {n[0], n[1], n[2], n[3], n[4], n[5]};
        else if (name.ends_with("translate"))
            one.e = at(0, 0), one.f = at(1, 0);
        else if (name.ends_with("scale"))
            one.a = at(0, 1), one.d = at(1, one.a);
        else if (name.ends_with("rotate")) {
            const double angle = at(0, 0) * std::numbers::pi / 180, x = at(1, 0), y = at(2, 0);
            const Transform turn{std::cos(angle), std::sin(angle), -std::sin(angle), std::cos(angle), 0, 0};
            one = Transform{1, 0, 0, 1, x, y} * turn * Transform{1, 0, 0, 1, -x, -y};
        }
        all = all * one;
        text.remove_prefix(close + 1);
    }
    return all;
}

/// "80mm", "3in", "300" pixels; nothing for percentages.
std::optional<double> length_mm(std::string_view text) {
    const auto n = numbers_in(text);
    if (n.empty() || text.find('%') != std::string_view::npos) return std::nullopt;
    for (const auto& [unit, mm] : {std::pair{"mm", 1.0}, std::pair{"cm", 10.0}, std::pair{"in", per_inch},
                                   std::pair{"pt", per_inch / 72}, std::pair{"pc", per_inch / 6}})
        if (text.find(unit) != std::string_view::npos) return n[0] * mm;
    return n[0] * per_inch / pixels_per_inch;
}

class SvgReader {
  public:
    Result<FaceDrawing> read(std::string_view svg) {
        if (svg.size() > most_bytes)
            return Error{Fault::usage, "SVG", "is larger than 8 MB", "a drawing of a face"};
        const std::unique_ptr<XML_ParserStruct, decltype(&XML_ParserFree)> parser(XML_ParserCreate(nullptr),
                                                                                  &XML_ParserFree);
        parser_ = parser.get();
        XML_SetUserData(parser_, this);
        XML_SetElementHandler(
            parser_,
            [](void* self, const char* name, const char** attributes) {
                static_cast<SvgReader*>(self)->begin(name, attributes);
            },
            [](void* self, const char*) { static_cast<SvgReader*>(self)->end(); });
        const bool well = XML_Parse(parser_, svg.data(), static_cast<int>(svg.size()), 1) == XML_STATUS_OK;
        if (trouble_) return *trouble_;
        if (!well) return at_line(XML_ErrorString(XML_GetErrorCode(parser_)), "an SVG drawing");
        return finish();
    }

  private:
    Error at_line(std::string found, std::string expected) const {
        return {Fault::usage, fmt::format("SVG, line {}", XML_GetCurrentLineNumber(parser_)),
                std::move(found), std::move(expected)};
    }
    void stop(Error error) {
        if (!trouble_) trouble_ = std::move(error);
        XML_StopParser(parser_, XML_FALSE);
    }

    void begin(std::string_view name, const char** attributes) {
        if (const auto colon = name.rfind(':'); colon != std::string_view::npos)
            name.remove_prefix(colon + 1);
        std::map<std::string_view, std::string_view> given;
        for (; *attributes; attributes += 2) given[attributes[0]] = attributes[1];
        const auto text = [&](const char* key) {
            const auto found = given.find(key);
            return found == given.end() ? std::string_view() : found->second;
        };
        const auto value = [&](const char* key) {
            const auto n = numbers_in(text(key));
            return n.empty() ? 0.0 : n[0];
        };
        if (levels_.size() >= most_depth)
            return stop(at_line("groups are nested too deep", fmt::format("at most {}", most_depth)));
        Level level = levels_.empty() ? Level{} : levels_.back();
        if (name == "svg" && levels_.empty())
            level.to_mm = page(text("width"), text("height"), text("viewBox"));
        level.to_mm = level.to_mm * transform_of(text("transform"));
        // what is only defined is drawn elsewhere, if at all
        level.hidden = level.hidden || name == "defs" || name == "clipPath" || name == "mask" ||
                       name == "symbol" || name == "marker" || name == "pattern" || text("display") == "none";
        if (!text("data-ref").empty())
            level.name = text("data-ref");
        else if (!text("id").empty())
            level.name = text("id");
        levels_.push_back(level);
        if (level.hidden) return;
        if (++shapes_ > most_shapes)
            return stop(at_line("too many shapes", fmt::format("at most {}", most_shapes)));
        const double fine = fine_enough / std::max(1e-6, level.to_mm.scale());
        if (name == "path") {
            auto lines = lines_of_path(text("d"), fine);
            if (!lines) {
                Error error = lines.error();
                error.place = at_line("", "").place;
                return stop(std::move(error));
            }
            for (const Outline& line : lines.value()) add(line);
        } else if (name == "rect") {
            const double x = value("x"), y = value("y"), w = value("width"), h = value("height");
            add({{x, y}, {x + w, y}, {x + w, y + h}, {x, y + h}});
        } else if (name == "polygon" || name == "polyline") {
            const auto n = numbers_in(text("points"));
            Outline line;
            for (std::size_t k = 0; k + 1 < n.size(); k += 2) line.emplace_back(n[k], n[k + 1]);
            add(line);
        } else if (name == "circle" || name == "ellipse") {
            const double cx = value("cx"), cy = value("cy");
            const double rx = name == "circle" ? value("r") : value("rx"),
                         ry = name == "circle" ? rx : value("ry");
            if (!(rx > 0 && ry > 0)) return;
            const double across = 2 * rx * level.to_mm.scale();
            const auto [x, y] = level.to_mm(cx, cy);
            if (name == "circle" && across <= largest_hole)
                found_.holes.push_back({level.name, x, y, across});
            add(ellipse(cx, cy, rx, ry, fine));
        }
    }

    void end() { levels_.pop_back(); }

    void add(const Outline& line) {
        if (line.size() < 3) return;
        Outline mm;
        for (const auto& [x, y] : line) mm.push_back(levels_.back().to_mm(x, y));
        const double area = area_of(mm);
        if (area > area_) area_ = area, found_.outline = std::move(mm);
    }

    static Transform page(std::string_view width, std::string_view height, std::string_view box) {
        const auto view = numbers_in(box);
        const auto w = length_mm(width), h = length_mm(height);
        const double pixel = per_inch / pixels_per_inch;
        if (view.size() < 4 || !(view[2] > 0 && view[3] > 0)) return {pixel, 0, 0, pixel, 0, 0};
        const double sx = w ? *w / view[2] : h ? *h / view[3] : pixel, sy = h ? *h / view[3] : sx;
        return {sx, 0, 0, sy, -sx * view[0], -sy * view[1]};
    }

    Result<FaceDrawing> finish() {
        if (found_.outline.empty())
            return Error{Fault::usage, "SVG", "has no closed shape", "the outline of a face"};
        const auto [x0, y0, x1, y1] = box_around(found_.outline);
        if (!(x1 - x0 <= largest && y1 - y0 <= largest) || !(x1 - x0 >= 1 && y1 - y0 >= 1))
            return Error{Fault::usage, "SVG", fmt::format("is {:.4g} × {:.4g} mm", x1 - x0, y1 - y0),
                         "1 mm to 2 m; its width and height say how large a unit is"};
        const Outline& outline = found_.outline;
        std::erase_if(found_.holes, [&](const FaceDrawing::Hole& hole) {
            return std::numbers::pi / 4 * hole.diameter * hole.diameter >= 0.99 * area_ ||
                   !is_inside(outline, hole.x, hole.y);
        });
        for (auto& [x, y] : found_.outline) x -= x0, y -= y0;
        for (auto& hole : found_.holes) hole.x -= x0, hole.y -= y0;
        std::stable_sort(found_.holes.begin(), found_.holes.end(), [](const auto& a, const auto& b) {
            return std::tie(a.y, a.x) < std::tie(b.y, b.x);
        });
        return std::move(found_);
    }

    struct Level {
        Transform to_mm;
        bool hidden = false;
        std::string name;
    };
    XML_Parser parser_ = nullptr;
    std::vector<Level> levels_;
    std::size_t shapes_ = 0;
    double area_ = 0;
    FaceDrawing found_;
    std::optional<Error> trouble_;
};

}  // namespace

Result<FaceDrawing> read_face_svg(std::string_view svg) { return SvgReader().read(svg); }

std::string outline_text(const Outline& outline) {
    std::string text;
    for (const auto& [x, y] : outline)
        text += fmt::format("{}{:.6g} {:.6g}", text.empty() ? "M" : " L", std::round(100 * x) / 100,
                            std::round(100 * y) / 100);
    return text.empty() ? text : text + " Z";
}

Result<Outline> read_outline(std::string_view text) {
    if (text.empty()) return Outline{};
    auto lines = lines_of_path(text, fine_enough);
    if (!lines || lines.value().size() != 1 || lines.value()[0].size() < 3)
        return Error{Fault::design, "outline", "\"" + one_line(text, 40) + "\" is no closed line",
                     "such as M0 0 L80 0 L80 60 Z"};
    for (const auto& [x, y] : lines.value()[0])
        if (!(std::abs(x) <= largest && std::abs(y) <= largest))
            return Error{Fault::design, "outline", "is larger than 2 m", "mm"};
    return std::move(lines.value()[0]);
}

double area_of(const Outline& outline) {  // shoelace formula
    double twice = 0;
    for (std::size_t k = 0; k < outline.size(); ++k) {
        const auto& [x0, y0] = outline[k];
        const auto& [x1, y1] = outline[(k + 1) % outline.size()];
        twice += x0 * y1 - x1 * y0;
    }
    return std::abs(twice) / 2;
}

OutlineBox box_around(const Outline& outline) {
    OutlineBox box;
    for (const auto& [x, y] : outline)
        box = {std::min(box.x0, x), std::min(box.y0, y), std::max(box.x1, x), std::max(box.y1, y)};
    return box;
}

bool is_inside(const Outline& outline, double x, double y) {  // crossings of a ray to the right
    bool inside = false;
    for (std::size_t k = 0; k < outline.size(); ++k) {
        const auto& [x0, y0] = outline[k];
        const auto& [x1, y1] = outline[(k + 1) % outline.size()];
        if ((y0 > y) != (y1 > y) && x < x0 + (y - y0) / (y1 - y0) * (x1 - x0)) inside = !inside;
    }
    return inside;
}

}  // namespace elkit
