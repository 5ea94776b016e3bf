#include "app/stations/power/wires_panel.hpp"

#include <QHBoxLayout>
#include <QPushButton>

#include "app/theme/theme.hpp"
#include "app/widgets/card.hpp"
#include "app/widgets/figure_table.hpp"
#include "app/widgets/owned_box.hpp"
#include "app/widgets/quantity_edit.hpp"
#include "batch/owned_values.hpp"

namespace elkit {

WiresPanel::WiresPanel(Session& session, QWidget* parent) : TabPanel(session, parent) {
    length_ = new QuantityEdit(tr("length of the leads, one way"), Unit::metre, 0.001, 100);
    length_->setFixedWidth(px(84));
    use_ = new QPushButton(tr("Use this wire"));
    auto* tools = new QHBoxLayout;
    tools->addWidget(label(tr("leads of"), "muted"));
    tools->addWidget(length_);
    tools->addWidget(label(tr("each, out and back"), "muted"));
    tools->addStretch(1);
    tools->addWidget(new OwnedBox(session_));
    tools->addWidget(use_);
    column_->addLayout(tools);
    constexpr auto number = DataTable::numbers;
    table_ = makeTable(tr("Leads by gauge"), "wires",
                       {{tr("wire")},
                        {tr("resistance"), number},
                        {tr("lost"), number},
                        {tr("of the supply"), number},
                        {tr("heat"), number},
                        {tr("carries"), number},
                        {tr("verdict")}},
                       true);
    column_->addWidget(table_, 1);
    addNote();
    setShownOnlyWithAnswer({table_});
    connect(length_, &QuantityEdit::valueEntered, this, [this] {
        asked_ = true;
        refresh();
    });
    connect(use_, &QPushButton::clicked, this, &WiresPanel::use);
    connect(table_, &QTableWidget::itemActivated, this, &WiresPanel::use);
    connect(&session_, &Session::started, this, [this] { asked_ = false; });
}

WiringQuery WiresPanel::query() const {
    return {session_.circuit(), session_.conditions(), asked_ ? length_->value() : 0,
            session_.ownedOnly() ? owned_wires(session_.drawerItems()) : std::vector<double>{}};
}

void WiresPanel::refresh() {
    present(query(), use_, [this](const WiringQuery::Value& found) { fill(found); });
}

void WiresPanel::fill(const WiringQuery::Value& found) {
    const auto& [q, wiring, contacts, connector] = found;
    length_->setValue(q.metres);
    table_->setRowCount(static_cast<int>(wiring.rows.size()));
    for (int r = 0; r < table_->rowCount(); ++r) {
        const WireRow& row = wiring.rows[static_cast<std::size_t>(r)];
        const QString verdict = r == wiring.best ? tr("the thinnest that does")
                                : row.enough     ? tr("more than it needs")
                                                 : QString::fromStdString(row.reason);
        int column = 0;
        for (QTableWidgetItem* item :
             {new QTableWidgetItem(
                  tr("%1 mm² (AWG %2)").arg(QLocale().toString(row.area, 'g', 3)).arg(row.awg)),
              figure_item(row.resistance), figure_item(row.drop), figure_item(row.share),
              figure_item(row.heat), figure_item(row.bears), new QTableWidgetItem(verdict)}) {
            if (!row.enough || (!q.owned.empty() && !row.owned)) item->setForeground(theme().muted);
            table_->setItem(r, column++, item);
        }
        table_->setRowHidden(r, !q.owned.empty() && !row.owned);
    }
    table_->fit();
    table_->setCurrentCell(wiring.best < 0 ? table_->rowCount() - 1 : wiring.best, 0);
    const auto text = [](double value, Unit unit) {
        return QString::fromStdString(format_quantity(value, unit));
    };
    QString words =
        tr("%1 from fresh cells at %2. %3: %4 at most, each way, for 3 % of the volts.")
            .arg(text(q.amps, Unit::ampere), text(q.volts, Unit::volt),
                 QString::fromStdString(wiring.longest.label), QString::fromStdString(wiring.longest.text()));
    for (std::size_t k = 0; k < contacts.size() && k < 3; ++k)
        words += tr(" · %1 loses %2")
                     .arg(QString::fromStdString(contacts[k].designator),
                          QString::fromStdString(contacts[k].drop.text()));
    words += tr(" · a plug in them would lose about %1").arg(QString::fromStdString(connector.text(2)));
    if (session_.ownedOnly() && q.owned.empty())
        words += tr(" · no item of the drawer says \"wire\" and its mm² or AWG: all gauges are shown");
    tell(words);
}

void WiresPanel::use() {
    const auto found = session_.ask(query());
    const int row = table_->currentRow();
    if (!found || !found.current() || row < 0 || row >= static_cast<int>(found->wiring.rows.size())) return;
    session_.edit(with_leads(session_.design(), found->question.metres,
                             found->wiring.rows[static_cast<std::size_t>(row)].area),
                  tr("change the leads"));
    asked_ = false;
    refresh();
}

}  // namespace elkit
