#pragma once
#include <fmt/format.h>

#include <string>
#include <utility>
#include <vector>

#include "build/steps.hpp"
#include "drawing/drawing.hpp"

namespace elkit {

/// Fills pages from top to bottom; opens the next one when a block does not fit.
class PageWriter {
  public:
    static constexpr double left = 16, right = 194, top = 20, bottom = 280;  // mm, on A4

    explicit PageWriter(std::string name) : name_(std::move(name)) { new_page(); }

    void room(double height) {
        if (y_ + height > bottom) new_page();
    }
    void heading(const std::string& text) {
        room(20);
        y_ += 5;
        page().text(left, y_ + 4, text, 4.6, Ink::structure, true);
        y_ += 8;
    }
    void paragraph(const std::string& text, double indent = 0, double size = 3.3, Ink ink = Ink::ink,
                   bool bold = false) {
        for (const auto& line : wrap_text(text, right - left - indent - beside_, size)) {
            room(size * 1.45);
            page().text(left + indent, y_ + size, line, size, ink, bold);
            y_ += size * 1.45;
        }
    }
    void tick_box(double x, double y) { page().add(Rect{x, y, 3.2, 3.2, 0.4}, {Ink::ink, 0.25, Ink::none}); }
    void gap(double h) { y_ += h; }
    /// Keeps this much free at the right of what follows.
    void beside(double width) { beside_ = width; }
    Drawing& page() { return pages_.back(); }
    double y() const { return y_; }
    void place(const Drawing& drawing, double x, double scale) {
        room(drawing.height * scale + 2);
        page().place(drawing, x, y_, scale);
    }
    std::vector<Drawing> finish() {
        for (std::size_t i = 0; i < pages_.size(); ++i)
            pages_[i].text(right, 290, fmt::format("{} · page {} of {}", name_, i + 1, pages_.size()), 2.8,
                           Ink::muted, false, Anchor::end);
        return std::move(pages_);
    }

  private:
    void new_page() {
        Drawing d;
        d.width = 210, d.height = 297, d.title = name_;
        pages_.push_back(std::move(d));
        y_ = top;
    }
    std::string name_;
    std::vector<Drawing> pages_;
    double y_ = top, beside_ = 0;
};

/// Steps to tick, with their pictures of legs and what to expect; `phases` names their headings.
void write_steps(PageWriter& w, const std::vector<BuildStep>& steps, std::string (*phases)(Phase));

}  // namespace elkit
