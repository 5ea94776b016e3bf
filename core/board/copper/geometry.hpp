#pragma once
#include <utility>
#include <vector>

#include "drawing/drawing.hpp"

namespace elkit {

/// A place on a board, in mm from its upper left corner, seen from the component side; y runs down.
struct Point {
    double x = 0, y = 0;
    bool operator==(const Point&) const = default;
};
inline Point operator+(Point a, Point b) { return {a.x + b.x, a.y + b.y}; }
inline Point operator-(Point a, Point b) { return {a.x - b.x, a.y - b.y}; }
using Ring = std::vector<Point>;  ///< closed

inline constexpr Box no_box{1e9, 1e9, -1e9, -1e9};  ///< to be widened
/// Widens a box to take in a point with so much around it, or another box.
void widen(Box& box, Point p, double around = 0);
void widen(Box& box, const Box& other);
Box box_of(const Ring& ring);

double distance(Point a, Point b);                    ///< mm
double distance(Point p, Point a, Point b);           ///< mm from p to the line from a to b
double distance(Point a, Point b, Point c, Point d);  ///< mm between two lines; 0 where they cross
Point turned(Point offset, double degrees);           ///< clockwise as seen

/// Part of the plane: pieces with holes in them, to a nanometre. Curves are chords no farther than 0.005 mm.
class Region {
  public:
    Region() = default;
    static Region polygon(const Ring& ring);
    static Region disc(Point centre, double diameter);
    static Region stroke(Point a, Point b, double width);               ///< with round ends
    static Region along(const std::vector<Ring>& rings, double width);  ///< strokes along closed lines
    static Region box(double x0, double y0, double x1, double y1);
    static Region united(const std::vector<Region>& all);

    static Region of_rings(const std::vector<Ring>& rings);  ///< as rings() gave them

    Region with(const Region& other) const;
    Region beside(const Region& other) const;  ///< of which no part lies on this
    Region without(const Region& other) const;
    Region within(const Region& other) const;
    Region mirrored(double x) const;  ///< left to right about this line
    Region grown(double mm) const;    ///< round at its corners; shrunk where below 0

    bool empty() const { return rings_.empty(); }
    double area() const;           ///< mm²
    bool contains(Point p) const;  ///< or on its rim
    double from(Point p) const;    ///< mm to its rim, 0 within; infinite if it is empty
    bool touches(const Region& other) const { return !within(other).empty(); }
    std::vector<Region> pieces() const;  ///< each in one piece
    std::vector<Ring> rings() const;     ///< outer ones and holes, which run the other way
    std::vector<Ring> outer() const;     ///< only the outer ones
    Box bounds() const;                  ///< no_box if it is empty

  private:
    using Fine = std::vector<std::pair<long long, long long>>;  // nm
    friend struct RegionTools;
    std::vector<Fine> rings_;
};

}  // namespace elkit
