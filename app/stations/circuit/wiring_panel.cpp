#include "app/stations/circuit/wiring_panel.hpp"

#include <fmt/format.h>

#include <QClipboard>
#include <QGuiApplication>
#include <QHBoxLayout>
#include <QLabel>
#include <QPushButton>
#include <QScrollArea>

#include "app/theme/theme.hpp"
#include "app/widgets/card.hpp"
#include "app/widgets/figure_label.hpp"
#include "app/widgets/figure_table.hpp"
#include "app/widgets/panel_tools.hpp"

namespace elkit {
namespace {

QString said_by(const std::string& s) { return QString::fromStdString(s); }

}  // namespace

WiringPanel::WiringPanel(Session& session, QWidget* parent) : TabPanel(session, parent) {
    auto* tools = new QHBoxLayout;
    tools->addWidget(label(tr("join from top to bottom, with the supply off"), "muted"));
    tools->addStretch(1);
    total_ = new FigureLabel(session_, FigureLabel::Size::plain);
    tools->addWidget(total_);
    copy_ = tool_button(tools, tr("Copy as CSV"), tr("The wires, for a spreadsheet"), [this] { copy(); });
    column_->addLayout(tools);
    constexpr auto number = DataTable::numbers;
    wires_ = makeTable(tr("Wires"), "wire-list",
                       {{tr("#"), number},
                        {tr("for")},
                        {tr("from")},
                        {tr("to")},
                        {tr("current"), number},
                        {tr("wire")},
                        {tr("colour")}},
                       true);
    pins_ =
        makeTable(tr("Pins of controllers"), "pin-functions", {{tr("pin")}, {tr("does")}, {tr("net")}}, true);
    auto* beside = new QWidget;
    auto* aside = new QVBoxLayout(beside);
    aside->setContentsMargins(0, 0, 0, 0);
    aside->addWidget(pins_, 1);
    notes_ = label({}, "muted");
    notes_->setWordWrap(true);
    notes_->setAlignment(Qt::AlignTop | Qt::AlignLeft);
    notes_->setObjectName(QStringLiteral("clear"));
    auto* scroll = new QScrollArea;
    scroll->setWidgetResizable(true);
    scroll->setFrameShape(QFrame::NoFrame);
    scroll->setWidget(notes_);
    scroll->viewport()->setObjectName(QStringLiteral("clear"));
    aside->addWidget(scroll, 1);
    auto* both = new QHBoxLayout;
    both->addWidget(wires_, 5);
    both->addWidget(beside, 2);
    column_->addLayout(both, 1);
    addNote();
    setShownOnlyWithAnswer({wires_, beside, total_});
    connect(wires_, &QTableWidget::itemActivated, this, [this](const QTableWidgetItem* item) {
        emit partChosen(wires_->item(item->row(), 3)->data(Qt::UserRole).toString());
    });
}

WireListQuery WiringPanel::query() const { return {session_.circuit(), session_.design().situations}; }

void WiringPanel::refresh() {
    present(query(), copy_, [this](const WireList& list) { fill(list); });
}

void WiringPanel::fill(const WireList& list) {
    wires_->setRowCount(static_cast<int>(list.wires.size()));
    for (int r = 0; r < wires_->rowCount(); ++r) {
        const ListedWire& w = list.wires[static_cast<std::size_t>(r)];
        auto* number = new QTableWidgetItem(QString::number(r + 1));
        number->setTextAlignment(Qt::AlignRight | Qt::AlignVCenter);
        auto* to = new QTableWidgetItem(said_by(w.to.text()));
        to->setData(Qt::UserRole, said_by(w.to.part));
        int column = 0;
        for (QTableWidgetItem* item :
             {number, new QTableWidgetItem(said_by(w.purpose)), new QTableWidgetItem(said_by(w.from.text())),
              to, figure_item(w.current),
              new QTableWidgetItem(tr("%1 mm²").arg(QLocale().toString(w.area, 'g', 3))),
              new QTableWidgetItem(colour_swatch(QColor(said_by(w.colour))), said_by(w.colour))})
            wires_->setItem(r, column++, item);
    }
    wires_->fit();
    pins_->setVisible(!list.pins.empty());
    pins_->setRowCount(static_cast<int>(list.pins.size()));
    for (int r = 0; r < pins_->rowCount(); ++r) {
        const PinFunction& p = list.pins[static_cast<std::size_t>(r)];
        pins_->setItem(r, 0, new QTableWidgetItem(said_by(p.part + " " + p.pin)));
        pins_->setItem(r, 1, new QTableWidgetItem(said_by(p.function)));
        pins_->setItem(r, 2, new QTableWidgetItem(said_by(p.net)));
    }
    pins_->fit();
    total_->setFigure(list.total, tr("from the supply at most"));
    QStringList notes;
    for (const std::string& note : list.notes) notes << said_by(note);
    notes_->setText(notes.join(QLatin1Char('\n')));
    tell({});
}

void WiringPanel::copy() {
    if (const auto found = session_.ask(query()); found && found.current())
        QGuiApplication::clipboard()->setText(said_by(write_csv(wires_csv(*found))));
}

}  // namespace elkit
