#include "app/stations/circuit/circuit_station.hpp"

#include <QCheckBox>
#include <QHBoxLayout>
#include <QHeaderView>
#include <QTableWidget>
#include <array>

#include "app/shell/session.hpp"
#include "app/stave/stave_widget.hpp"
#include "app/theme/theme.hpp"
#include "app/widgets/card.hpp"
#include "app/widgets/figure_label.hpp"
#include "app/widgets/figure_table.hpp"
#include "circuit/part_kind.hpp"
#include "command/command.hpp"
#include "engine/figures.hpp"

namespace elkit {

CircuitStation::CircuitStation(Session& session_in, QWidget* parent)
    : Station(session_in, tr("Circuit"), parent) {
    setSubtitle(tr("Each line is a net, higher is more volts; parts hang between"));
    auto* card = new Card({});
    auto* tools = new QHBoxLayout;
    total_ = new FigureLabel(session(), FigureLabel::Size::plain);
    tools->addWidget(total_);
    tools->addStretch(1);
    true_height_ = new QCheckBox(tr("true height (Alt H)"));
    true_height_->setToolTip(
        tr("Lines at heights proportional to their voltage: shows where the volts are spent"));
    true_height_->setShortcut(QKeySequence(Qt::ALT | Qt::Key_H));
    tools->addWidget(true_height_);
    card->body()->addLayout(tools);
    stave_ = new StaveWidget(session());
    card->body()->addWidget(stave_, 1);
    card->body()->addWidget(label(tr("Double-click a value to change it, or a switch to turn it; the wheel "
                                     "steps a resistor through its series."),
                                  "small"));
    body()->addWidget(card, 7);
    table_ = new QTableWidget(0, 7);
    table_->setHorizontalHeaderLabels(
        {tr("part"), tr("kind"), tr("value"), tr("from"), tr("to"), tr("current"), tr("power")});
    table_->setAccessibleName(tr("Parts of the circuit"));
    table_->verticalHeader()->hide();
    table_->verticalHeader()->setDefaultSectionSize(px(25));
    table_->horizontalHeader()->setSectionResizeMode(QHeaderView::Stretch);
    table_->setSelectionBehavior(QAbstractItemView::SelectRows);
    table_->setTabKeyNavigation(false);
    table_->setMinimumHeight(px(96));
    body()->addWidget(table_, 2);
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
            value, QString::fromStdString(part.pins[0].net), QString::fromStdString(part.pins[1].net)};
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
}

}  // namespace elkit
