#pragma once
#include <optional>
#include <vector>

#include "app/widgets/plot_style.hpp"
#include "quantity/unit.hpp"

namespace elkit {

/// One curve over time, with the band that a batch would stay in.
struct TraceCurve {
    enum class Look { curve, levels, light };  ///< levels: it jumps between two, as a switched net does
    QString name;
    Unit unit = Unit::volt;
    QColor ink;
    Look look = Look::curve;
    std::vector<double> values;
    std::vector<double> band_time, low, high;  ///< may be empty
};

/// True if a curve spends nearly all its time at two values.
bool jumps_between_levels(const std::vector<double>& time, const std::vector<double>& values);

/// Curves over one time, each in a lane of its own with its own scale, or laid over each other with volts
/// left and amperes right. Wheel and + − zoom in time, left and right keys move what is seen, 0 shows all. A
/// head and a mark stand on it with the values there.
class TracePlot : public Plot {
    Q_OBJECT
  public:
    explicit TracePlot(QWidget* parent = nullptr);
    void setCurves(std::vector<double> time, std::vector<TraceCurve> curves, bool laid_over);
    void setHead(std::optional<double> seconds);
    void setMark(std::optional<double> seconds);
    void zoom(double factor, double around);  ///< seconds
    QCPRange seen() const;
    int lanes() const { return static_cast<int>(rects_.size()); }
    const std::vector<TraceCurve>& curves() const { return curves_; }

  signals:
    void headWanted(double seconds);

  protected:
    void showEvent(QShowEvent* event) override;
    void resizeEvent(QResizeEvent* event) override;
    void wheelEvent(QWheelEvent* event) override;
    void keyPressEvent(QKeyEvent* event) override;
    void mousePressEvent(QMouseEvent* event) override;
    void mouseMoveEvent(QMouseEvent* event) override;

  private:
    struct Cursor {
        std::optional<double> at;
        std::vector<QCPItemStraightLine*> lines;
        std::vector<QCPItemText*> values;
    };
    void build();
    QCPAxisRect* addRect(bool last);
    void labelLanes();
    void addCurve(const TraceCurve& curve, QCPAxisRect* rect, QCPAxis* axis);
    void addName(const TraceCurve& curve, QCPAxisRect* rect, int place);
    void scaleLane(const TraceCurve& curve, QCPAxis* axis);
    void see(QCPRange range);
    void showCursor(Cursor& cursor, Qt::PenStyle style);
    double valueAt(const TraceCurve& curve, double seconds) const;
    std::vector<double> time_;
    std::vector<TraceCurve> curves_;
    bool laid_over_ = false;
    std::vector<QCPAxisRect*> rects_;
    Cursor head_, mark_;
};

}  // namespace elkit
