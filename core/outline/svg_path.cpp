#include "outline/svg_path.hpp"

#include <algorithm>
#include <charconv>
#include <cmath>
#include <numbers>
#include <optional>

#include "quantity/plain_text.hpp"

namespace elkit {
namespace {

constexpr std::size_t most_vertices = 20000;
constexpr int most_chords = 400;  // of one curve

int chords_for(double size, double flatness) {  // of an arc: sagitta ≈ size·θ²/8
    const double chords = std::ceil(std::numbers::pi * std::sqrt(size / (2 * flatness)));
    return chords >= 4 ? static_cast<int>(std::min<double>(chords, most_chords)) : 4;  // also for none at all
}

class PathReader {
  public:
    PathReader(std::string_view data, double flatness) : data_(data), flatness_(flatness) {}

    Result<std::vector<Outline>> read() {
        char command = 0;
        for (skip(); at_ < data_.size(); skip()) {
            const char c = data_[at_];
            if (std::isalpha(static_cast<unsigned char>(c)))
                command = c, ++at_;
            else if (command == 'M')
                command = 'L';  // more pairs behind a move are lines
            else if (command == 'm')
                command = 'l';
            else if (command == 'Z' || command == 'z')
                return trouble();  // nothing follows it without a command
            if (!step(command)) return trouble();
            if (points_ > most_vertices)
                return Error{Fault::usage, "path", "has too many points", "at most 20 000"};
        }
        end_line();
        return std::move(lines_);
    }

  private:
    Error trouble() const {
        const std::size_t from = at_ > 10 ? at_ - 10 : 0;
        return {Fault::usage, "path", "cannot be read at \"" + one_line(data_.substr(from, 24), 24) + "\"",
                "SVG path data"};
    }

    void skip() {
        while (at_ < data_.size() &&
               (std::isspace(static_cast<unsigned char>(data_[at_])) || data_[at_] == ','))
            ++at_;
    }

    std::optional<double> number() {
        skip();
        std::size_t from = at_;
        if (from < data_.size() && data_[from] == '+') ++from;
        double value = 0;
        const auto [end, code] = std::from_chars(data_.data() + from, data_.data() + data_.size(), value);
        if (code != std::errc{} || !std::isfinite(value)) return std::nullopt;
        at_ = static_cast<std::size_t>(end - data_.data());
        return value;
    }

    std::optional<bool> flag() {
        skip();
        if (at_ >= data_.size() || (data_[at_] != '0' && data_[at_] != '1')) return std::nullopt;
        return data_[at_++] == '1';
    }

    struct Point {
        double x = 0, y = 0;
    };
    std::optional<Point> point(bool relative) {
        const auto x = number(), y = number();
        if (!x || !y) return std::nullopt;
        return relative ? Point{now_.x + *x, now_.y + *y} : Point{*x, *y};
    }

    void line_to(Point to) {
        line_.emplace_back(to.x, to.y);
        ++points_;
        now_ = to;
    }

    void end_line() {
        if (line_.size() > 1) lines_.push_back(line_);
        line_.clear();
    }

    void curve(Point a, Point b, Point to) {
        const Point from = now_;
        const double size = std::abs(a.x - from.x) + std::abs(a.y - from.y) + std::abs(b.x - a.x) +
                            std::abs(b.y - a.y) + std::abs(to.x - b.x) + std::abs(to.y - b.y);
        const int chords = chords_for(size, flatness_);
        for (int k = 1; k <= chords; ++k) {
            const double t = static_cast<double>(k) / chords, u = 1 - t;
            const double w0 = u * u * u, w1 = 3 * u * u * t, w2 = 3 * u * t * t, w3 = t * t * t;
            line_to({w0 * from.x + w1 * a.x + w2 * b.x + w3 * to.x,
                     w0 * from.y + w1 * a.y + w2 * b.y + w3 * to.y});
        }
        handle_ = b;
    }

    /// From end points to the centre: SVG 1.1, appendix F.6.5.
    void arc(double rx, double ry, double degrees, bool large, bool sweep, Point to) {
        const Point from = now_;
        rx = std::abs(rx), ry = std::abs(ry);
        if (rx == 0 || ry == 0 || (from.x == to.x && from.y == to.y)) return line_to(to);
        const double phi = degrees * std::numbers::pi / 180, c = std::cos(phi), s = std::sin(phi);
        const double dx = (from.x - to.x) / 2, dy = (from.y - to.y) / 2;
        const double x1 = c * dx + s * dy, y1 = -s * dx + c * dy;
        const double reach = x1 * x1 / (rx * rx) + y1 * y1 / (ry * ry);
        if (reach > 1) rx *= std::sqrt(reach), ry *= std::sqrt(reach);
        const double under = rx * rx * ry * ry - rx * rx * y1 * y1 - ry * ry * x1 * x1;
        const double root = std::sqrt(std::max(0.0, under / (rx * rx * y1 * y1 + ry * ry * x1 * x1)));
        const double sign = large == sweep ? -1 : 1;
        const double cx1 = sign * root * rx * y1 / ry, cy1 = -sign * root * ry * x1 / rx;
        const double cx = c * cx1 - s * cy1 + (from.x + to.x) / 2,
                     cy = s * cx1 + c * cy1 + (from.y + to.y) / 2;
        const double first = std::atan2((y1 - cy1) / ry, (x1 - cx1) / rx);
        double turn = std::atan2((-y1 - cy1) / ry, (-x1 - cx1) / rx) - first;
        if (sweep && turn < 0) turn += 2 * std::numbers::pi;
        if (!sweep && turn > 0) turn -= 2 * std::numbers::pi;
        const int chords = chords_for(std::max(rx, ry), flatness_);
        for (int k = 1; k < chords; ++k) {
            const double angle = first + turn * k / chords;
            const double x = rx * std::cos(angle), y = ry * std::sin(angle);
            line_to({c * x - s * y + cx, s * x + c * y + cy});
        }
        line_to(to);
    }

    bool step(char command) {
        const bool relative = std::islower(static_cast<unsigned char>(command)) != 0;
        const char kind = static_cast<char>(std::toupper(static_cast<unsigned char>(command)));
        const Point before = handle_;
        const bool smooth = before_ == 'C' || before_ == 'S', round = before_ == 'Q' || before_ == 'T';
        before_ = kind;
        handle_ = now_;
        switch (kind) {
            case 'Z':
                if (!line_.empty()) now_ = start_;
                end_line();
                return true;
            case 'M': {
                const auto to = point(relative);
                if (!to) return false;
                end_line();
                start_ = *to, now_ = *to;
                line_to(*to);
                return true;
            }
            case 'L': {
                const auto to = point(relative);
                if (to) begin(), line_to(*to);
                return to.has_value();
            }
            case 'H': {
                const auto x = number();
                if (x) begin(), line_to({relative ? now_.x + *x : *x, now_.y});
                return x.has_value();
            }
            case 'V': {
                const auto y = number();
                if (y) begin(), line_to({now_.x, relative ? now_.y + *y : *y});
                return y.has_value();
            }
            case 'C':
            case 'S': {
                const auto a = kind == 'C' ? point(relative)
                               : smooth ? std::optional(Point{2 * now_.x - before.x, 2 * now_.y - before.y})
                                        : std::optional(now_);
                const auto b = point(relative), to = point(relative);
                if (!a || !b || !to) return false;
                begin(), curve(*a, *b, *to);
                return true;
            }
            case 'Q':
            case 'T': {
                const auto a = kind == 'Q' ? point(relative)
                               : round ? std::optional(Point{2 * now_.x - before.x, 2 * now_.y - before.y})
                                       : std::optional(now_);
                const auto to = point(relative);
                if (!a || !to) return false;
                begin();
                curve({now_.x + 2 * (a->x - now_.x) / 3, now_.y + 2 * (a->y - now_.y) / 3},
                      {to->x + 2 * (a->x - to->x) / 3, to->y + 2 * (a->y - to->y) / 3}, *to);
                handle_ = *a;
                return true;
            }
            case 'A': {
                const auto rx = number(), ry = number(), turned = number();
                const auto large = flag(), sweep = flag();
                const auto to = point(relative);
                if (!rx || !ry || !turned || !large || !sweep || !to) return false;
                begin(), arc(*rx, *ry, *turned, *large, *sweep, *to);
                return true;
            }
            default:
                return false;
        }
    }

    /// A line that goes on behind a Z starts where that one started.
    void begin() {
        if (line_.empty()) line_to(now_);
    }

    std::string_view data_;
    double flatness_;
    std::size_t at_ = 0, points_ = 0;
    char before_ = 0;
    Point now_, start_, handle_;
    Outline line_;
    std::vector<Outline> lines_;
};

}  // namespace

Result<std::vector<Outline>> lines_of_path(std::string_view data, double flatness) {
    return PathReader(data, flatness).read();
}

Outline ellipse(double cx, double cy, double rx, double ry, double flatness) {
    const int chords = 2 * chords_for(std::max(rx, ry), flatness);
    Outline out;
    for (int k = 0; k < chords; ++k) {
        const double angle = 2 * std::numbers::pi * k / chords;
        out.emplace_back(cx + rx * std::cos(angle), cy + ry * std::sin(angle));
    }
    return out;
}

}  // namespace elkit
