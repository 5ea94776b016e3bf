#include "app/stations/light/arrays_panel.hpp"

#include <QCheckBox>
#include <QComboBox>
#include <QHBoxLayout>
#include <QPushButton>

#include "app/stations/light/place_row.hpp"
#include "app/theme/theme.hpp"
#include "app/widgets/card.hpp"
#include "app/widgets/figure_table.hpp"
#include "app/widgets/owned_box.hpp"
#include "app/widgets/quantity_edit.hpp"
#include "drawer/drawer.hpp"
#include "recipes/blocks.hpp"

namespace elkit {

ArraysPanel::ArraysPanel(Session& session, QWidget* parent) : TabPanel(session, parent) {
    auto* tools = new QHBoxLayout;
    count_ = new QuantityEdit(tr("lights to arrange"), Unit::count, 1, 1000);
    current_ = new QuantityEdit(tr("current of each light"), Unit::ampere, 1e-6, 10);
    count_->setFixedWidth(px(64)), current_->setFixedWidth(px(84));
    led_ = new QComboBox;
    led_->setAccessibleName(tr("LED to arrange"));
    led_->setSizeAdjustPolicy(QComboBox::AdjustToMinimumContentsLengthWithIcon);
    led_->setMinimumContentsLength(12);
    use_ = new QPushButton(tr("Use this arrangement"));
    tools->addWidget(count_);
    tools->addWidget(label(tr("of"), "muted"));
    tools->addWidget(led_, 1);
    tools->addWidget(label(tr("at"), "muted"));
    tools->addWidget(current_);
    tools->addWidget(new OwnedBox(session_));
    tools->addStretch(1);
    tools->addWidget(use_);
    place_ = new PlaceRow;
    column_->addWidget(place_);
    column_->addLayout(tools);
    constexpr auto number = DataTable::numbers;
    table_ = makeTable(tr("Ways to arrange the lights"), "arrangements",
                       {{tr("strings × lights")},
                        {tr("resistor"), number},
                        {tr("current"), number},
                        {tr("spread"), number},
                        {tr("from supply"), number},
                        {tr("in LEDs"), number},
                        {tr("half full"), number},
                        {tr("nearly flat"), number},
                        {tr("verdict")}},
                       true);
    column_->addWidget(table_, 1);
    addNote();
    setShownOnlyWithAnswer({table_});
    connect(count_, &QuantityEdit::valueEntered, this, &ArraysPanel::wish);
    connect(current_, &QuantityEdit::valueEntered, this, &ArraysPanel::wish);
    connect(led_, &QComboBox::activated, this, &ArraysPanel::wish);
    connect(table_, &QTableWidget::currentCellChanged, this, [this](int row) { explain(row); });
    connect(use_, &QPushButton::clicked, this, [this] { use(table_->currentRow()); });
    connect(table_, &QTableWidget::itemActivated, this, [this](QTableWidgetItem* item) { use(item->row()); });
    connect(place_, &PlaceRow::chosen, this, &ArraysPanel::lightChosen);
    connect(&session_, &Session::started, this, [this] { wishes_ = {}, place_->hide(); });
    connect(&session_, &Session::designChanged, this, [this] { preview_.reset(); });
}

ArraysQuery ArraysPanel::query() const {
    ArraysQuery q{session_.design(), fresh(*session_.circuit(), session_.conditions()), wishes_};
    q.conditions.battery = 1;
    if (!session_.circuit()->find(q.wishes.light)) q.wishes.light.clear();
    q.wishes.owned = session_.resistorsToChooseFrom();
    return q;
}

void ArraysPanel::wish() {
    wishes_.led = led_->currentData().toString().toStdString();
    wishes_.count = static_cast<int>(count_->value());
    wishes_.current = current_->value();
    refresh();
}

void ArraysPanel::setLight(const std::string& light) {
    wishes_ = {};
    wishes_.light = light;
    refresh();
}

void ArraysPanel::refresh() {
    if (led_->count() > 0) offer_types(*led_, session_, "leds", led_->currentData().toString().toStdString());
    present(query(), use_, [this](const ArraysOfDesign& found) { fill(found); });
}

/// Why it stands where it stands, and how it is wired.
void ArraysPanel::explain(int row) {
    const auto found = session_.ask(query());
    const bool shown_before = std::exchange(preview_, std::nullopt).has_value();
    if (!found || row < 0 || row >= static_cast<int>(found->list.size())) return tell({});
    const Arrangement& a = found->list[static_cast<std::size_t>(row)];
    if (a.verdict != Arrangement::Verdict::impossible && a.per_string != found->present)
        if (auto with = with_arrangement(session_.design(), found->question, a))
            preview_ = {Keyed<Circuit>(with.value().circuit), QString::fromStdString(a.name())};
    if (preview_ || shown_before) emit looked();
    QStringList words{QString::fromStdString(a.name() + ": " + a.reason)};
    for (const std::string& line : a.wiring) words << QString::fromStdString(line);
    if (place_->isHidden() && !found->question.fed.empty())
        words << tr("fed by %1").arg(QString::fromStdString(found->question.fed));
    tell(words.join(QStringLiteral(" · ")));
}

void ArraysPanel::fill(const ArraysOfDesign& found) {
    const ArrayQuestion& q = found.question;
    place_->offer(found.places, q.at, q.fed);
    count_->setValue(q.count), current_->setValue(q.current);
    offer_types(*led_, session_, "leds", q.led.text("type"));
    table_->setRowCount(static_cast<int>(found.list.size()));
    for (int r = 0; r < table_->rowCount(); ++r) {
        const Arrangement& a = found.list[static_cast<std::size_t>(r)];
        const bool possible = a.verdict != Arrangement::Verdict::impossible;
        const auto words = [](const QString& text) { return new QTableWidgetItem(text); };
        std::vector<QTableWidgetItem*> cells{words(
            QString::fromStdString(a.name()) + (a.per_string == found.present ? tr("  (now)") : QString()))};
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
    const Circuit before = *session_.circuit();
    const std::string light = found->question.at;
    if (session_.edit(with_arrangement(session_.design(), found->question, a),
                      tr("arrange the lights as %1").arg(QString::fromStdString(a.name()))))
        return setLight(light_at(*session_.circuit(), before, light));  // the design has them now
    refresh();
}

}  // namespace elkit
