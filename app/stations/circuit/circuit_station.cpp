#include "app/stations/circuit/circuit_station.hpp"

#include <QCheckBox>
#include <QHBoxLayout>
#include <QHeaderView>
#include <QTabWidget>
#include <QTableWidget>
#include <array>

#include "app/shell/session.hpp"
#include "app/stations/circuit/meter_panel.hpp"
#include "app/stations/circuit/time_lane.hpp"
#include "app/stave/stave_widget.hpp"
#include "app/theme/theme.hpp"
#include "app/widgets/card.hpp"
#include "app/widgets/figure_label.hpp"
#include "app/widgets/figure_table.hpp"
#include "circuit/part_kind.hpp"
#include "command/command.hpp"
#include "engine/figures.hpp"

namespace elkit {

/// The nets of all pins but the first: "b OUT, e GND".
static std::string other_pins(const Part& part) {
    std::string text;
    for (std::size_t k = 1; k < part.pins.size(); ++k)
        text += (text.empty() ? "" : ", ") + part.pins[k].name + " " + part.pins[k].net;
    return text;
}

CircuitStation::CircuitStation(Session& session_in, QWidget* parent)
    : Station(session_in, tr("Circuit"), parent) {
    setSubtitle(tr("Each line is a net, higher is more volts; parts hang between"));
    auto* card = new Card({});
    auto* tools = new QHBoxLayout;
    total_ = new FigureLabel(session(), FigureLabel::Size::plain);
    tools->addWidget(total_);
    period_ = new FigureLabel(session(), FigureLabel::Size::plain);
    mean_ = new FigureLabel(session(), FigureLabel::Size::plain);
    tools->addWidget(period_);
    tools->addWidget(mean_);
    tools->addStretch(1);
    true_height_ = new QCheckBox(tr("true height (Alt H)"));
    true_height_->setToolTip(
        tr("Lines at heights proportional to their voltage: shows where the volts are spent"));
    true_height_->setShortcut(QKeySequence(Qt::ALT | Qt::Key_H));
    tools->addWidget(true_height_);
    card->body()->addLayout(tools);
    stave_ = new StaveWidget(session());
    card->body()->addWidget(stave_, 1);
    stave_->setToolTip(
        tr("Double-click a value to change it, a switch to turn it, a line to see it in time. Drag a "
           "dot to another line to reconnect. Delete removes, Ctrl D doubles, M turns a part. "
           "Ctrl and wheel zoom, dragging moves, 0 fits."));
    body()->addWidget(card, 10);
    table_ = new QTableWidget(0, 7);
    table_->setHorizontalHeaderLabels(
        {tr("part"), tr("kind"), tr("value"), tr("from"), tr("to"), tr("current"), tr("power")});
    table_->setAccessibleName(tr("Parts of the circuit"));
    table_->verticalHeader()->hide();
    table_->verticalHeader()->setDefaultSectionSize(px(25));
    table_->horizontalHeader()->setSectionResizeMode(QHeaderView::Stretch);
    table_->setSelectionBehavior(QAbstractItemView::SelectRows);
    table_->setTabKeyNavigation(false);
    table_->setMinimumHeight(px(80));
    tabs_ = new QTabWidget;
    tabs_->setAccessibleName(tr("Time, parts and meter"));
    time_ = new TimeLane(session());
    meter_ = new MeterPanel(session());
    tabs_->addTab(table_, tr("Parts as rows"));
    tabs_->addTab(time_, tr("Time"));
    tabs_->addTab(meter_, tr("Meter"));
    body()->addWidget(tabs_, 5);
    connect(time_, &TimeLane::momentShown, this, [this](const OperatingPoint* readings) {
        stave_->showMoment(readings ? std::optional(session().staveAt(*readings)) : std::nullopt);
    });
    connect(tabs_, &QTabWidget::currentChanged, this, [this] {
        if (tabs_->currentWidget() != time_) stave_->showMoment(std::nullopt);
    });
    connect(stave_, &StaveWidget::netChosen, this, [this](const QString& net) {
        if (tabs_->currentWidget() == meter_) return meter_->touch(net);
        tabs_->setCurrentWidget(time_);
        time_->toggleProbe(QStringLiteral("net:") + net);
    });
    show_workings(table_, session());
    connect(table_, &QTableWidget::cellChanged, this, &CircuitStation::edited);
    connect(true_height_, &QCheckBox::toggled, this, [this](bool on) {
        StaveView view = session().staveView();
        view.true_height = on;
        session().setStaveView(view);
    });
}

void CircuitStation::focusRef(const QString& ref) {
    const QString name = ref.mid(ref.indexOf(QLatin1Char(':')) + 1);
    stave_->select(QStringLiteral("value:") + name);
    stave_->setFocus();
}

void CircuitStation::edited(int row, int column) {
    if (filling_ || column != 2) return;
    const std::string designator = table_->item(row, 0)->text().toStdString();
    const Part* part = session().design().circuit.find(designator);
    if (!part) return;
    auto next = set_parameter(session().design(), designator, part_kind(part->kind)->value_key,
                              table_->item(row, 2)->text().toStdString());
    if (next)
        session().edit(std::move(next).value(), tr("change %1").arg(QString::fromStdString(designator)));
    else
        session().reportError(QString::fromStdString(next.error().text()));
    refresh();
}

void CircuitStation::refresh() {
    filling_ = true;
    const auto& parts = session().design().circuit.parts;
    const OperatingPoint& op = session().live().op;
    if (table_->rowCount() != static_cast<int>(parts.size()))
        table_->setRowCount(static_cast<int>(parts.size()));
    for (int r = 0; r < table_->rowCount(); ++r) {
        const Part& part = parts[static_cast<std::size_t>(r)];
        const bool editable = part_kind(part.kind) && !part_kind(part.kind)->value_key.empty();
        const QString value =
            QString::fromStdString(part.kind == "battery" ? part.text("cell") : value_text(part));
        const QStringList cells{
            QString::fromStdString(part.designator), QString::fromStdString(part_kind(part.kind)->name),
            value, QString::fromStdString(part.pins.empty() ? std::string() : part.pins.front().net),
            QString::fromStdString(part.pins.size() == 2 ? part.pins[1].net : other_pins(part))};
        for (int c = 0; c < cells.size(); ++c) {
            QTableWidgetItem* item = table_->item(r, c);
            if (!item) {
                item = new QTableWidgetItem;
                table_->setItem(r, c, item);
            }
            if (item->text() != cells[c]) item->setText(cells[c]);
            item->setFlags(c == 2 && editable ? Qt::ItemIsEnabled | Qt::ItemIsSelectable | Qt::ItemIsEditable
                                              : Qt::ItemIsEnabled | Qt::ItemIsSelectable);
        }
        const std::array figures{current_figure(session().design().circuit, op, part.designator),
                                 power_figure(op, part.designator)};
        for (int c = 5; c < 7; ++c) {
            const Figure& f = figures[static_cast<std::size_t>(c - 5)];
            if (QTableWidgetItem* item = table_->item(r, c))
                set_figure(item, f);
            else
                table_->setItem(r, c, figure_item(f));
            table_->item(r, c)->setFlags(Qt::ItemIsEnabled | Qt::ItemIsSelectable);
        }
    }
    filling_ = false;
    total_->setFigure(session().live().light.total, tr("from the cells"));
    const DeepSurvey* deep = session().deep();
    const bool repeats = deep && deep->steady && deep->steady->repeats;
    for (FigureLabel* f : {period_, mean_}) f->setVisible(repeats), f->setDimmed(session().deepPending());
    total_->setVisible(!repeats);
    if (repeats) {
        period_->setFigure(deep->steady->period_figure(), tr("it repeats in"));
        mean_->setFigure(deep->steady->current_figure(), tr("from the cells, on average"));
    }
    setSubtitle(repeats ? tr("It does not rest: the stave shows one state, the tab Time its course")
                        : tr("Each line is a net, higher is more volts; parts hang between"));
}

}  // namespace elkit
