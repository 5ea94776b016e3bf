#include "app/stations/light/heat_panel.hpp"

#include <QVBoxLayout>

#include "app/theme/theme.hpp"
#include "app/widgets/card.hpp"
#include "app/widgets/figure_table.hpp"

namespace elkit {

HeatPanel::HeatPanel(Session& session, QWidget* parent) : TabPanel(session, parent) {
    constexpr auto number = DataTable::numbers;
    table_ = makeTable(tr("What gets warm"), "heat",
                       {{tr("part")},
                        {tr("power"), number},
                        {tr("at worst"), number},
                        {tr("inside"), number},
                        {tr("outside"), number},
                        {tr("may have"), number},
                        {tr("what to do")}});
    column_->addWidget(table_, 1);
    addNote();
    setShownOnlyWithAnswer({table_});
}

void HeatPanel::refresh() {
    present(HeatQuery(session_.circuit(), session_.conditions()), nullptr,
            [this](const Heat& heat) { fill(heat); });
}

void HeatPanel::fill(const Heat& heat) {
    table_->setRowCount(static_cast<int>(heat.rows.size()));
    for (int r = 0; r < table_->rowCount(); ++r) {
        const HeatRow& row = heat.rows[static_cast<std::size_t>(r)];
        const QString names = QString::fromStdString(row.parts.front()),
                      what = QString::fromStdString(row.what);
        Figure worst = row.power;
        worst.value = *row.power.high;
        const auto degrees = [](const Figure& f) {
            return figure_item(f, QString::fromStdString(format_quantity(*f.high, Unit::celsius, 2)));
        };
        const QString remark = QString::fromStdString(row.remark);
        int column = 0;
        for (QTableWidgetItem* item :
             {new QTableWidgetItem(row.parts.size() == 1 ? tr("%1, %2").arg(names, what)
                                                         : tr("%1 × %2").arg(row.parts.size()).arg(what)),
              figure_item(row.power), figure_item(worst), degrees(row.inside), degrees(row.outside),
              figure_item(row.allowed), new QTableWidgetItem(remark.isEmpty() ? tr("fine") : remark)}) {
            if (row.too_much || row.burns) item->setForeground(theme().rust);
            table_->setItem(r, column++, item);
        }
    }
    table_->fit();
    QStringList notes;
    if (heat.rows.empty()) notes << tr("Nothing gets warm: no part takes 10 mW.");
    if (!heat.wrong_way.empty()) notes << QString::fromStdString(heat.wrong_way);
    if (!heat.rows.empty())
        notes << tr(
            "From fresh cells; temperatures in the worst corner, in air as warm as the strip above "
            "says. Above 60 °C it burns fingers.");
    tell(notes.join(QLatin1Char(' ')));
}

}  // namespace elkit
