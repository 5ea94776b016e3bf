#include "app/stations/power/cell_panel.hpp"

#include <QGridLayout>
#include <QLineEdit>

#include "app/theme/theme.hpp"
#include "app/widgets/card.hpp"
#include "app/widgets/plot_style.hpp"
#include "circuit/part_kind.hpp"
#include "command/command.hpp"
#include "engine/models.hpp"

namespace elkit {
namespace {

struct CurveField {
    const char* key;
    Curve CellType::*of;
    double shown;  // of the catalogue's x
};
constexpr CurveField curve_fields[]{{"voltage_curve", &CellType::open_circuit, 100},
                                    {"resistance_curve", &CellType::resistance, 100},
                                    {"capacity_curve", &CellType::capacity, 1}};

PointList points_of(const Curve& curve, double shown) {
    PointList points;
    for (const Curve::Point& p : curve.points) points.push_back({shown * p.x, p.y});
    return points;
}

}  // namespace

CellPanel::CellPanel(Session& session, QWidget* parent) : TabPanel(session, parent) {
    plot_ = new Plot;
    plot_->setMinimumHeight(px(100));
    plot_->setAccessibleName(tr("Voltage and resistance of the cell by charge"));
    column_->addWidget(plot_, 1);
    auto* grid = new QGridLayout;
    grid->setHorizontalSpacing(8), grid->setVerticalSpacing(3);
    std::vector<QWidget*> of_cells{plot_};
    const QString names[]{tr("voltage by charge"), tr("resistance by charge"), tr("capacity by current")};
    for (int k = 0; k < 3; ++k) {
        auto* field = new QLineEdit;
        field->setAccessibleName(names[k]);
        field->setToolTip(
            tr("Points of a cell, such as 0% 0.9V; 50% 1.25V; 100% 1.6V. Empty: as its type has them"));
        auto* name = label(names[k], "muted");
        name->setBuddy(field);
        grid->addWidget(name, k, 0);
        grid->addWidget(field, k, 1);
        const char* key = curve_fields[k].key;
        connect(field, &QLineEdit::editingFinished, this, [this, key, field] { change(key, field); });
        fields_[static_cast<std::size_t>(k)] = field;
        of_cells.insert(of_cells.end(), {name, field});
    }
    column_->addLayout(grid);
    addNote();
    setShownOnlyWithAnswer(std::move(of_cells));
}

void CellPanel::change(const char* key, QLineEdit* field) {
    const Part* source = session_.design().circuit.source();
    if (!source || !field->isModified()) return;
    field->setModified(false);
    session_.edit(set_parameter(session_.design(), source->designator, key, field->text().toStdString()),
                  tr("change the curve of the cell"));
    refresh();
}

void CellPanel::refresh() {
    const Part* source = session_.design().circuit.source();
    const auto cell = source ? cell_of(*source, known_catalogue()) : std::nullopt;
    if (!cell || cell->endless()) return lack(tr("This supply has no cells whose curves could be shown."));
    showAnswer();
    bool own = false;
    const PartKind& kind = *part_kind(source->kind);
    for (std::size_t k = 0; k < fields_.size(); ++k) {
        const CurveField& curve = curve_fields[k];
        const PointList* typed = source->points(curve.key);
        own |= typed && !typed->empty();
        const PointList points =
            typed && !typed->empty() ? *typed : points_of((*cell).*curve.of, curve.shown);
        if (fields_[k]->hasFocus() && fields_[k]->isModified()) continue;
        fields_[k]->setText(QString::fromStdString(points_text(points, kind.param(curve.key)->axes)));
        fields_[k]->setCursorPosition(0);
        fields_[k]->setModified(false);
    }
    QStringList words{
        QString::fromStdString(cell->name) +
        (own ? tr(", with curves of your own: an empty field goes back to its type's") : QString())};
    words << tr("from: %1").arg(QString::fromStdString(cell->source));
    words << tr("%1 % goes by itself in a year").arg(100 * cell->self_discharge_per_year, 0, 'g', 2);
    for (const CellType::Sag& sag : cell->sag)
        words << tr("under load it sags by %1 more within %2 and recovers")
                     .arg(QString::fromStdString(format_quantity(sag.resistance, Unit::ohm)),
                          QString::fromStdString(format_quantity(sag.seconds, Unit::second)));
    for (const auto& [warmth, name] : {std::pair(0.0, tr("in frost")), std::pair(40.0, tr("at 40 °C"))})
        words << tr("%1 %2 of the charge, %3 times the resistance")
                     .arg(name, QString::fromStdString(
                                    format_quantity(100 * cell->capacity_factor.at(warmth), Unit::percent)))
                     .arg(cell->resistance_factor.at(warmth), 0, 'g', 2);
    tell(words.join(QStringLiteral(" · ")));
    draw();
}

void CellPanel::draw() {
    const auto cell = cell_of(*session_.design().circuit.source(), known_catalogue());
    style_plot(plot_);
    plot_->clearGraphs();
    const auto add = [&](QCPAxis* axis, const Curve& curve, const QColor& colour) {
        QCPGraph* graph = plot_->addGraph(plot_->xAxis, axis);
        graph->setPen(QPen(colour, px(2)));
        double most = 0;
        for (int k = 0; k <= 100; ++k) {
            graph->addData(k, curve.at(k / 100.0));
            most = std::max(most, curve.at(k / 100.0));
        }
        axis->setRange(0, 1.1 * most);
        axis->setLabelColor(colour), axis->setTickLabelColor(colour);
    };
    add(plot_->yAxis, cell->open_circuit, theme().teal);
    add(plot_->yAxis2, cell->resistance, theme().rust);
    plot_->yAxis2->setVisible(true);
    plot_->xAxis->setRange(0, 100);
    plot_->xAxis->setRangeReversed(true);
    plot_->xAxis->setLabel(tr("charge left [%]"));
    plot_->yAxis->setLabel(tr("volts without load"));
    plot_->yAxis2->setLabel(tr("ohms inside"));
    plot_->replot(QCustomPlot::rpQueuedReplot);
}

}  // namespace elkit
