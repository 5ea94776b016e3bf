#include "app/stations/light/match_panel.hpp"

#include <QCheckBox>
#include <QHBoxLayout>
#include <QPushButton>

#include "app/shell/session.hpp"
#include "app/theme/theme.hpp"
#include "app/widgets/card.hpp"
#include "app/widgets/data_table.hpp"
#include "app/widgets/figure_table.hpp"
#include "batch/drawer.hpp"
#include "circuit/part_words.hpp"

namespace elkit {

MatchPanel::MatchPanel(Session& session, QWidget* parent) : QWidget(parent), session_(session) {
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(10, 6, 10, 6);
    column->setSpacing(4);
    auto* tools = new QHBoxLayout;
    diffuse_ = new QCheckBox(tr("through a diffuser"));
    diffuse_->setToolTip(tr("Then all the light of an LED counts, not the beam straight ahead"));
    owned_ = new QCheckBox(tr("only what I own"));
    use_ = new QPushButton(tr("Use these resistors"));
    note_ = label({}, "muted");
    note_->setWordWrap(true);
    tools->addWidget(diffuse_);
    tools->addWidget(owned_);
    tools->addStretch(1);
    tools->addWidget(use_);
    column->addLayout(tools);
    constexpr auto number = DataTable::numbers;
    table_ = new DataTable(tr("Colours that look equal"), {{tr("LED")},
                                                           {tr("in a string"), number},
                                                           {tr("resistor"), number},
                                                           {tr("current"), number},
                                                           {tr("light"), number},
                                                           {tr("looks"), number}});
    table_->setObjectName(QStringLiteral("match"));
    table_->setEditTriggers(QAbstractItemView::NoEditTriggers);
    table_->setMinimumHeight(px(56));
    column->addWidget(table_, 1);
    column->addWidget(note_);
    show_workings(table_, session_);
    for (auto* box : {diffuse_, owned_}) connect(box, &QCheckBox::toggled, this, &MatchPanel::refresh);
    connect(use_, &QPushButton::clicked, this, &MatchPanel::use);
}

MatchQuery MatchPanel::query() const {
    MatchQuery q{
        session_.design(), fresh(*session_.circuit(), session_.conditions()), diffuse_->isChecked(), {}};
    if (owned_->isChecked()) q.owned = owned_resistors(session_.drawerItems());
    return q;
}

void MatchPanel::refresh() {
    const MatchQuery asked = query();
    const auto found = session_.ask(asked);
    use_->setEnabled(found && found.current());
    if (!found.current() || shown_ == asked.key()) return;
    shown_ = asked.key();
    table_->setVisible(bool(found));
    if (!found) return note_->setText(QString::fromStdString(found.error().text()));
    table_->setRowCount(static_cast<int>(found->rows.size()));
    for (int r = 0; r < table_->rowCount(); ++r) {
        const MatchRow& row = found->rows[static_cast<std::size_t>(r)];
        table_->setItem(r, 0, new QTableWidgetItem(QString::fromStdString(shop_name(row.led))));
        auto* leds = new QTableWidgetItem(QString::number(row.leds));
        leds->setTextAlignment(Qt::AlignRight | Qt::AlignVCenter);
        table_->setItem(r, 1, leds);
        int column = 2;
        for (const Figure* f : {&row.resistor, &row.current, &row.light, &row.looks})
            table_->setItem(r, column++, figure_item(*f));
    }
    table_->fit();
    note_->setText(
        tr("The %1 gets the full current; the others less, until they give as much light. With these "
           "values the brightest gives %2 times the dimmest.")
            .arg(QString::fromStdString(shop_name(found->rows[found->dimmest].led)))
            .arg(found->apart, 0, 'f', 2));
}

void MatchPanel::use() {
    const auto found = session_.ask(query());
    if (!found || !found.current()) return;
    session_.edit(with_match(session_.design(), *found), tr("make the colours look equal"));
    refresh();
}

}  // namespace elkit
