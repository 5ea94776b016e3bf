#include "app/stations/power/fit_panel.hpp"

#include <QComboBox>
#include <QFileDialog>
#include <QHBoxLayout>
#include <QLineEdit>
#include <QPushButton>

#include "app/theme/theme.hpp"
#include "app/widgets/card.hpp"
#include "app/widgets/figure_label.hpp"
#include "app/widgets/plot_style.hpp"
#include "app/widgets/quantity_edit.hpp"
#include "design/file.hpp"

namespace elkit {

FitPanel::FitPanel(Session& session, QWidget* parent) : TabPanel(session, parent) {
    cell_ = new QComboBox;
    cell_->setAccessibleName(tr("which cell was measured"));
    for (const CellType& type : known_catalogue().cells)
        if (!type.endless())
            cell_->addItem(QString::fromStdString(type.name), QString::fromStdString(type.id));
    cell_->setSizeAdjustPolicy(QComboBox::AdjustToMinimumContentsLengthWithIcon);
    cell_->setMinimumContentsLength(12);
    count_ = new QuantityEdit(tr("cells in a row when it was measured"), Unit::count, 1, 40);
    count_->setValue(1);
    count_->setFixedWidth(px(48));
    load_ = new QLineEdit(QStringLiteral("10R"));
    load_->setObjectName(QStringLiteral("fit load"));
    load_->setAccessibleName(tr("what the cell was discharged with"));
    load_->setToolTip(tr("A resistance such as 10R, or a current such as 50mA"));
    load_->setFixedWidth(px(72));
    read_ = new QPushButton(tr("Read a discharge…"));
    use_ = new QPushButton(tr("Use this cell"));
    auto* tools = new QHBoxLayout;
    tools->addWidget(count_);
    tools->addWidget(label(QStringLiteral("×"), "muted"));
    tools->addWidget(cell_);
    tools->addWidget(label(tr("discharged with"), "muted"));
    tools->addWidget(load_);
    tools->addWidget(read_);
    tools->addStretch(1);
    tools->addWidget(use_);
    column_->addLayout(tools);
    plot_ = new Plot;
    plot_->setMinimumHeight(px(80));
    plot_->setAccessibleName(tr("Measured discharge and its fit"));
    column_->addWidget(plot_, 1);
    auto* figures = new QHBoxLayout;
    for (FigureLabel** f : {&capacity_, &volts_, &ohms_}) {
        *f = new FigureLabel(session_, FigureLabel::Size::plain);
        figures->addWidget(*f);
    }
    figures->addStretch(1);
    column_->addLayout(figures);
    addNote();
    setShownOnlyWithAnswer({plot_, capacity_, volts_, ohms_});
    connect(read_, &QPushButton::clicked, this, &FitPanel::choose);
    connect(use_, &QPushButton::clicked, this, &FitPanel::use);
    connect(cell_, &QComboBox::activated, this, &FitPanel::refresh);
    connect(count_, &QuantityEdit::valueEntered, this, &FitPanel::refresh);
    connect(load_, &QLineEdit::editingFinished, this, &FitPanel::refresh);
}

void FitPanel::choose() {
    const QString path = QFileDialog::getOpenFileName(
        this, tr("Read a discharge"), {}, tr("Time and volts (*.csv *.txt *.tsv);;All files (*)"));
    if (!path.isEmpty()) read(path);
}

void FitPanel::read(const QString& path) {
    auto text = read_file(path.toStdString());
    if (!text) return session_.reportError(QString::fromStdString(text.error().text()));
    csv_ = std::make_shared<const std::string>(std::move(text).value());
    refresh();
}

std::optional<CellFitQuery> FitPanel::query() const {
    auto load = read_load(load_->text().toStdString());
    if (!csv_ || !load) return std::nullopt;
    return CellFitQuery{csv_, cell_->currentData().toString().toStdString(),
                        static_cast<int>(count_->value()), load.value()};
}

void FitPanel::refresh() {
    const auto asked = query();
    if (asked) return present(*asked, use_, [this](const CellFitQuery::Value& found) { fill(found); });
    use_->setEnabled(false);
    const auto load = read_load(load_->text().toStdString());
    lack(csv_ ? QString::fromStdString(load.error().text())
              : tr("Discharge a cell with a resistor or a constant current, write time and volts down "
                   "(CSV), and read it here: Elkit finds its capacity, voltage and resistance, and computes "
                   "with them."));
}

void FitPanel::fill(const CellFitQuery::Value& found) {
    const CellFit& fit = found.fit;
    capacity_->setFigure(fit.capacity, tr("capacity"));
    volts_->setFigure(fit.open_circuit, tr("fresh"));
    ohms_->setFigure(fit.resistance, tr("inside, fresh"));
    tell(tr("%1; the fit is %2 off on average; %3 Ah went through the load.")
             .arg(QString::fromStdString(found.measured.told),
                  QString::fromStdString(format_quantity(fit.rms, Unit::volt)))
             .arg(fit.delivered, 0, 'g', 3));
    plot_->clearGraphs();
    style_plot(plot_);
    const auto points = [](const std::vector<MeasuredDischarge::Point>& all, QCPGraph* graph) {
        for (const auto& p : all) graph->addData(p.hours, p.volts);
    };
    QCPGraph* measured = plot_->addGraph();
    measured->setLineStyle(QCPGraph::lsNone);
    measured->setScatterStyle(QCPScatterStyle(QCPScatterStyle::ssCircle, theme().teal, theme().teal, 4));
    measured->setName(tr("measured"));
    points(found.measured.points, measured);
    QCPGraph* line = plot_->addGraph();
    line->setPen(QPen(theme().amber, px(2)));
    line->setName(tr("fit"));
    points(fit.curve, line);
    plot_->xAxis->setLabel(tr("hours"));
    plot_->yAxis->setLabel(tr("volts"));
    plot_->legend->setVisible(true);
    plot_->legend->setBorderPen(Qt::NoPen);
    plot_->legend->setBrush(Qt::NoBrush);
    plot_->legend->setTextColor(theme().ink);
    plot_->legend->setFont(font());
    plot_->rescaleAxes();
    plot_->yAxis->scaleRange(1.1);
    plot_->replot();
}

void FitPanel::use() {
    const auto asked = query();
    if (!asked) return;
    const auto found = session_.ask(*asked);
    if (!found || !found.current()) return;
    session_.edit(with_fit(session_.design(), found->fit), tr("use the measured cell"));
}

}  // namespace elkit
