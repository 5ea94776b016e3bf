#include "app/stations/light/arrays_panel.hpp"

#include <QCheckBox>
#include <QComboBox>
#include <QHBoxLayout>
#include <QPushButton>

#include "app/shell/session.hpp"
#include "app/theme/theme.hpp"
#include "app/widgets/card.hpp"
#include "app/widgets/data_table.hpp"
#include "app/widgets/figure_table.hpp"
#include "app/widgets/quantity_edit.hpp"
#include "batch/drawer.hpp"
#include "catalogue/catalogue.hpp"
#include "recipes/blocks.hpp"

namespace elkit {

ArraysPanel::ArraysPanel(Session& session, QWidget* parent) : QWidget(parent), session_(session) {
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(10, 6, 10, 6);
    column->setSpacing(4);
    auto* tools = new QHBoxLayout;
    count_ = new QuantityEdit(tr("lights to arrange"), Unit::count, 1, 1000);
    current_ = new QuantityEdit(tr("current of each light"), Unit::ampere, 1e-6, 10);
    for (auto* field : {count_, current_}) field->setFixedWidth(px(64));
    led_ = new QComboBox;
    led_->setAccessibleName(tr("LED to arrange"));
    led_->setSizeAdjustPolicy(QComboBox::AdjustToMinimumContentsLengthWithIcon);
    led_->setMinimumContentsLength(12);
    for (const auto& type : known_catalogue().leds)
        led_->addItem(QString::fromStdString(type.name), QString::fromStdString(type.id));
    owned_ = new QCheckBox(tr("only what I own"));
    owned_->setToolTip(tr("Resistors from the drawer only"));
    use_ = new QPushButton(tr("Use this arrangement"));
    tools->addWidget(count_);
    tools->addWidget(label(tr("of"), "muted"));
    tools->addWidget(led_, 1);
    tools->addWidget(label(tr("at"), "muted"));
    tools->addWidget(current_);
    tools->addWidget(owned_);
    tools->addStretch(1);
    tools->addWidget(use_);
    column->addLayout(tools);
    constexpr auto number = DataTable::numbers;
    table_ = new DataTable(tr("Ways to arrange the lights"), {{tr("strings × lights")},
                                                              {tr("resistor"), number},
                                                              {tr("current"), number},
                                                              {tr("spread"), number},
                                                              {tr("from supply"), number},
                                                              {tr("in LEDs"), number},
                                                              {tr("half full"), number},
                                                              {tr("nearly flat"), number},
                                                              {tr("verdict")}});
    table_->setObjectName(QStringLiteral("arrangements"));
    table_->setSelectionMode(QAbstractItemView::SingleSelection);
    table_->setEditTriggers(QAbstractItemView::NoEditTriggers);
    table_->setMinimumHeight(px(56));
    column->addWidget(table_, 1);
    why_ = label({}, "muted");
    why_->setWordWrap(true);
    column->addWidget(why_);
    show_workings(table_, session_);
    connect(count_, &QuantityEdit::valueEntered, this, &ArraysPanel::wish);
    connect(current_, &QuantityEdit::valueEntered, this, &ArraysPanel::wish);
    connect(led_, &QComboBox::activated, this, &ArraysPanel::wish);
    connect(owned_, &QCheckBox::toggled, this, &ArraysPanel::wish);
    connect(table_, &QTableWidget::currentCellChanged, this, [this](int row) { explain(row); });
    connect(use_, &QPushButton::clicked, this, [this] { use(table_->currentRow()); });
    connect(table_, &QTableWidget::itemActivated, this, [this](QTableWidgetItem* item) { use(item->row()); });
    connect(&session_, &Session::started, this, [this] {
        wishes_ = {};
        owned_->setChecked(false);
    });
}

ArraysQuery ArraysPanel::query() const {
    ArraysQuery q{session_.design(), fresh(*session_.circuit(), session_.conditions()), wishes_};
    q.conditions.battery = 1;
    return q;
}

void ArraysPanel::wish() {
    wishes_.led = led_->currentData().toString().toStdString();
    wishes_.count = static_cast<int>(count_->value());
    wishes_.current = current_->value();
    wishes_.owned = owned_->isChecked() ? owned_resistors(session_.drawerItems()) : std::vector<double>();
    refresh();
}

void ArraysPanel::refresh() {
    const ArraysQuery asked = query();
    const auto found = session_.ask(asked);
    use_->setEnabled(found && found.current());
    if (!found.current()) return;
    if (shown_ == asked.key()) return;
    shown_ = asked.key();
    if (found) return fill(*found);
    table_->setRowCount(0);
    why_->setText(QString::fromStdString(found.error().text()));
}

/// Why it stands where it stands, and how it is wired.
void ArraysPanel::explain(int row) {
    const auto found = session_.ask(query());
    if (!found || row < 0 || row >= static_cast<int>(found->list.size())) return why_->clear();
    const Arrangement& a = found->list[static_cast<std::size_t>(row)];
    QStringList words{QString::fromStdString(a.name() + ": " + a.reason)};
    for (const std::string& line : a.wiring) words << QString::fromStdString(line);
    why_->setText(words.join(QStringLiteral(" · ")));
}

void ArraysPanel::fill(const ArraysOfDesign& found) {
    const ArrayQuestion& q = found.question;
    count_->setValue(q.count), current_->setValue(q.current);
    led_->setCurrentIndex(led_->findData(QString::fromStdString(q.led.text("type"))));
    table_->setRowCount(static_cast<int>(found.list.size()));
    for (int r = 0; r < table_->rowCount(); ++r) {
        const Arrangement& a = found.list[static_cast<std::size_t>(r)];
        const bool possible = a.verdict != Arrangement::Verdict::impossible;
        const auto words = [](const QString& text) { return new QTableWidgetItem(text); };
        std::vector<QTableWidgetItem*> cells{
            words(QString::fromStdString(a.name()) +
                  (a.per_string == found.present ? tr("  (as it is)") : QString()))};
        if (possible) {
            const AlikeStringsOfArray& s = a.strings.front();
            cells.push_back(figure_item(s.resistor, s.resistance > 0 ? QString() : tr("none")));
            cells.push_back(figure_item(s.current));
            cells.push_back(figure_item(s.spread, QString::fromStdString(s.current.spread_text())));
            for (const Figure* f : {&a.total, &a.efficiency, &a.half, &a.flat})
                cells.push_back(figure_item(*f));
        } else {
            for (int k = 0; k < 7; ++k) cells.push_back(unknown_item());
        }
        cells.push_back(words(a.verdict == Arrangement::Verdict::sound ? tr("good")
                              : possible                               ? tr("doubtful")
                                                                       : tr("no")));
        for (std::size_t c = 0; c < cells.size(); ++c) {
            if (a.verdict != Arrangement::Verdict::sound) cells[c]->setForeground(theme().muted);
            table_->setItem(r, static_cast<int>(c), cells[c]);
        }
    }
    table_->fit();
    if (table_->rowCount() > 0) table_->setCurrentCell(0, 0);
    explain(table_->currentRow());
}

void ArraysPanel::use(int row) {
    const auto found = session_.ask(query());
    if (!found || !found.current() || row < 0 || row >= static_cast<int>(found->list.size())) return;
    const Arrangement& a = found->list[static_cast<std::size_t>(row)];
    if (session_.edit(with_arrangement(session_.design(), found->question, a),
                      tr("arrange the lights as %1").arg(QString::fromStdString(a.name())))) {
        const std::vector<double> owned = wishes_.owned;
        wishes_ = {};  // the design has them now
        wishes_.owned = owned;
    }
    refresh();
}

}  // namespace elkit
