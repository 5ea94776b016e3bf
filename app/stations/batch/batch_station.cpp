#include "app/stations/batch/batch_station.hpp"

#include <QHBoxLayout>
#include <QPushButton>
#include <array>

#include "app/shell/session.hpp"
#include "app/theme/theme.hpp"
#include "app/widgets/card.hpp"
#include "app/widgets/data_table.hpp"
#include "app/widgets/field_form.hpp"
#include "app/widgets/figure_label.hpp"
#include "app/widgets/figure_table.hpp"
#include "batch/reserve.hpp"
#include "quantity/parse.hpp"

namespace elkit {
namespace {
enum Column { part, marking, per_kit, needed, stock, buy, pack, price };
}

BatchStation::BatchStation(Session& session_in, QWidget* parent) : Station(session_in, tr("Batch"), parent) {
    auto* head = new Card({});
    auto* row = new QHBoxLayout;
    row->setSpacing(18);
    cost_ = new FigureLabel(session(), FigureLabel::Size::hero);
    cost_->setObjectName(QStringLiteral("costPerKit"));
    spend_ = new FigureLabel(session(), FigureLabel::Size::large);
    row->addWidget(cost_);
    row->addWidget(spend_, 0, Qt::AlignBottom);
    form_ = new FieldForm(session(), {"kits", "spares"}, false);
    row->addLayout(form_);
    row->addStretch(1);
    auto* files = new QVBoxLayout;
    auto* leaflet = new QPushButton(tr("Kit leaflet (PDF)…"));
    leaflet->setObjectName(QStringLiteral("primary"));
    auto* parts = new QPushButton(tr("Parts list (CSV)…"));
    auto* folder = new QPushButton(tr("Everything to a folder…"));
    for (auto* b : {leaflet, parts, folder}) files->addWidget(b);
    row->addLayout(files);
    head->body()->addLayout(row);
    body()->addWidget(head);
    connect(leaflet, &QPushButton::clicked, this, [this] { emit actionAsked(QStringLiteral("leaflet")); });
    connect(parts, &QPushButton::clicked, this, [this] { emit actionAsked(QStringLiteral("parts")); });
    connect(folder, &QPushButton::clicked, this, [this] { emit actionAsked(QStringLiteral("kit")); });
    auto* list = new Card(tr("Parts, against the drawer"));
    constexpr auto number = DataTable::numbers;
    table_ = new DataTable(tr("Parts list"),
                           {{tr("part")},
                            {tr("where, how marked")},
                            {tr("a kit"), number},
                            {tr("batch"), number},
                            {tr("in drawer"), number},
                            {tr("to buy"), number},
                            {tr("pack of"), number},
                            {tr("pack price"), number}},
                           28);
    list->body()->addWidget(table_, 1);
    list->body()->addWidget(label(tr("What lies in the drawer, pack and price can be changed here; the "
                                     "drawer is shared by all designs."),
                                  "small"));
    list->body()->addLayout(drawerRow());
    body()->addWidget(list, 1);
    show_workings(table_, session());
    connect(table_, &QTableWidget::cellChanged, this, &BatchStation::edited);
}

/// What the batch does to the drawer.
QLayout* BatchStation::drawerRow() {
    auto* both = new QVBoxLayout;
    reserved_ = label({}, "muted");
    reserved_->setWordWrap(true);
    both->addWidget(reserved_);
    auto* row = new QHBoxLayout;
    both->addLayout(row);
    const auto button = [&](const QString& text, auto how, const QString& what) {
        auto* made = new QPushButton(text);
        connect(made, &QPushButton::clicked, this, [this, how, what] {
            const auto parts = session().ask(session().partsQuery());
            if (!parts || !parts.current()) return;
            const std::string& batch = session().design().name;
            const BatchMove done = how(session().drawerItems(), *parts, batch);
            session().changeDrawer(done.changes, what.arg(QString::fromStdString(batch)));
            short_of_ = done.short_of;
            refresh();
        });
        row->addWidget(made);
        return made;
    };
    button(tr("Reserve its parts"), reserve, tr("reserve parts for %1"));
    give_back_ = button(
        tr("Give them back"),
        [](const std::vector<DrawerItem>& items, const PartsList&, const std::string& batch) {
            return release(items, batch);
        },
        tr("give back the parts of %1"));
    button(tr("Use them up"), use_up, tr("use up the parts of %1"));
    auto* open = new QPushButton(tr("The drawer…"));
    connect(open, &QPushButton::clicked, this, [this] { emit actionAsked(QStringLiteral("drawer")); });
    row->addWidget(open);
    row->addStretch(1);
    return both;
}

void BatchStation::tellReserved() {
    const auto batches = batches_reserved(session().drawerItems());
    const auto own = batches.find(session().design().name);
    give_back_->setEnabled(own != batches.end());
    QString words = own == batches.end()
                        ? tr("Nothing in the drawer is reserved for this batch.")
                        : tr("%1 kinds of parts are reserved for this batch.").arg(own->second);
    if (!short_of_.empty())
        words += tr(" Short of %1%2.")
                     .arg(QString::fromStdString(short_of_.front()),
                          short_of_.size() > 1 ? tr(" and %1 more").arg(short_of_.size() - 1) : QString());
    reserved_->setText(words);
    reserved_->setToolTip(words);
}

void BatchStation::focusRef(const QString& ref) {
    if (ref == QLatin1String("field:cost_ceiling"))
        form_->field("kits")->setFocus();
    else
        table_->setFocus();
}

void BatchStation::edited(int row, int column) {
    const auto parts = session().ask(session().partsQuery());
    if (filling_ || !parts || column < stock || column == buy || row >= static_cast<int>(parts->lines.size()))
        return;
    const PartsLine& line = parts->lines[static_cast<std::size_t>(row)];
    const DrawerItem* known = find_item(session().drawerItems(), line.key);
    DrawerItem item = known ? *known : DrawerItem{line.key, line.name, 0, 1, 0};
    auto value = parse_quantity(table_->item(row, column)->text().toStdString(),
                                column == price ? Unit::money : Unit::count);
    if (value) {
        (column == stock ? item.stock : (column == pack ? item.pack : item.price)) = value.value();
        session().putDrawerItem(item);
    } else {
        session().reportError(QString::fromStdString(line.name + ": " + value.error().text()));
        filling_ = true;  // the entry stays as it was typed, marked
        table_->item(row, column)->setForeground(theme().rust);
        filling_ = false;
    }
}

void BatchStation::refresh() {
    form_->refresh();
    const PartsQuery query = session().partsQuery();
    const auto parts = session().ask(query);
    for (auto* f : {cost_, spend_}) f->setDimmed(!parts.current());
    dim(table_, !parts.current());
    if (session().design().circuit.parts.empty()) return lackParts();
    if (!parts) return setSubtitle(tr("computing …"));
    lackNothing();
    const PartsList& list = *parts;
    tellReserved();
    setSubtitle(tr("%1 kits of %2").arg(list.kits).arg(QString::fromStdString(session().design().name)));
    cost_->setFigure(list.cost_per_kit, list.unknown ? tr("a kit, %1 parts unpriced").arg(list.unknown)
                                                     : tr("parts for one kit"));
    spend_->setFigure(list.to_spend, tr("to buy for this batch"));
    if (!parts.current() || !outdated(query.key())) return;
    filling_ = true;
    table_->setRowCount(static_cast<int>(list.lines.size()));
    for (int r = 0; r < table_->rowCount(); ++r) {
        const PartsLine& l = list.lines[static_cast<std::size_t>(r)];
        const DrawerItem* item = find_item(session().drawerItems(), l.key);
        const auto plain = [](double v) { return QString::number(v, 'g', 3); };
        QString where = QString::fromStdString(l.designators);
        if (!l.marking.empty())
            where +=
                (where.isEmpty() ? QString() : QStringLiteral(" · ")) + QString::fromStdString(l.marking);
        const auto words = [](const QString& text) {
            auto* cell = new QTableWidgetItem(text);
            cell->setToolTip(text);
            return cell;
        };
        const std::array cells{
            words(QString::fromStdString(l.name)),
            words(where),
            figure_item(l.per_kit),
            figure_item(l.needed),
            words(l.known() ? plain(l.stock) : tr("unknown")),
            figure_item(l.to_buy, l.packs > 0          ? tr("%1 (%2 ×)").arg(l.to_buy.value).arg(l.packs)
                                  : l.to_buy.value > 0 ? plain(l.to_buy.value)
                                                       : QStringLiteral("–")),
            words(item ? plain(item->pack) : QStringLiteral("–")),
            words(item ? QString::number(item->price, 'f', 2) : QStringLiteral("–"))};
        for (int c = 0; c < static_cast<int>(cells.size()); ++c) {
            QTableWidgetItem* cell = cells[static_cast<std::size_t>(c)];
            const bool editable = c == stock || c == pack || c == price;
            cell->setFlags(editable ? Qt::ItemIsEnabled | Qt::ItemIsSelectable | Qt::ItemIsEditable
                                    : Qt::ItemIsEnabled | Qt::ItemIsSelectable);
            if (c >= per_kit) cell->setTextAlignment(Qt::AlignRight | Qt::AlignVCenter);
            if (c == buy && l.to_buy.value > 0) cell->setForeground(theme().rust);
            if (editable) cell->setForeground(theme().teal);
            table_->setItem(r, c, cell);
        }
    }
    filling_ = false;
    table_->fit();
}

KeyFigure BatchStation::keyFigure() {
    const auto parts = session().ask(session().partsQuery(), Urgency::key_figure);
    if (!parts) return {tr("computing …"), false};
    return {tr("%1 a kit").arg(QString::fromStdString(parts->cost_per_kit.text())), parts.current()};
}

StationInfo batch_station() {
    return {QStringLiteral("batch"),
            QObject::tr("Batch"),
            [](Session& s) { return new BatchStation(s); },
            {{QStringLiteral("batch"), QStringLiteral("pier-lantern"),
              shows_figure(QStringLiteral("costPerKit")), false, false}}};
}

}  // namespace elkit
