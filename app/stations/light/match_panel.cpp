#include "app/stations/light/match_panel.hpp"

#include <QCheckBox>
#include <QComboBox>
#include <QHBoxLayout>
#include <QPushButton>

#include "app/theme/theme.hpp"
#include "app/widgets/card.hpp"
#include "app/widgets/figure_label.hpp"
#include "app/widgets/figure_table.hpp"
#include "app/widgets/owned_box.hpp"
#include "circuit/part_words.hpp"
#include "drawer/drawer.hpp"
#include "recipes/blocks.hpp"

namespace elkit {

MatchPanel::MatchPanel(Session& session, QWidget* parent) : TabPanel(session, parent) {
    auto* tools = new QHBoxLayout;
    diffuse_ = new QCheckBox(tr("through a diffuser"));
    diffuse_->setToolTip(tr("Then all the light of an LED counts, not the beam straight ahead"));
    use_ = new QPushButton(tr("Use these resistors"));
    tools->addWidget(diffuse_);
    tools->addWidget(new OwnedBox(session_));
    tools->addStretch(1);
    tools->addWidget(use_);
    column_->addLayout(tools);
    constexpr auto number = DataTable::numbers;
    table_ = makeTable(tr("Colours that look equal"), "match",
                       {{tr("LED")},
                        {tr("in a string"), number},
                        {tr("resistor"), number},
                        {tr("current"), number},
                        {tr("light"), number},
                        {tr("looks"), number}});
    column_->addWidget(table_, 1);
    addNote();
    setShownOnlyWithAnswer({table_});
    column_->addWidget(trialRow());
    connect(diffuse_, &QCheckBox::toggled, this, &MatchPanel::refresh);
    connect(use_, &QPushButton::clicked, this, &MatchPanel::use);
}

/// At the bench: a resistor is offered, the eye says what it sees, some five times.
QWidget* MatchPanel::trialRow() {
    trial_row_ = new QWidget;
    auto* row = new QHBoxLayout(trial_row_);
    row->setContentsMargins(0, 0, 0, 0);
    row->addWidget(label(tr("By eye:"), "bold"));
    kind_ = new QComboBox;
    kind_->setAccessibleName(tr("which light is compared by eye"));
    kind_->setSizeAdjustPolicy(QComboBox::AdjustToMinimumContentsLengthWithIcon);
    kind_->setMinimumContentsLength(12);
    row->addWidget(kind_);
    try_ = new FigureLabel(session_, FigureLabel::Size::plain);
    try_->setObjectName(QStringLiteral("trial"));
    try_->setAccessibleName(tr("resistor to try"));
    row->addWidget(try_);
    const auto button = [&](const QString& text) {
        auto* made = new QPushButton(text);
        row->addWidget(made);
        return made;
    };
    dimmer_ = button(tr("Dimmer"));
    same_ = button(tr("Same"));
    brighter_ = button(tr("Brighter"));
    seen_ = new FigureLabel(session_, FigureLabel::Size::plain);
    row->addWidget(seen_);
    seen_->setAccessibleName(tr("intensity as seen"));
    trial_note_ = new ElidingLabel;
    trial_note_->setObjectName(QStringLiteral("muted"));
    row->addWidget(trial_note_, 1);
    forget_ = button(tr("Forget"));
    take_ = button(tr("Use it"));
    for (QWidget* later : std::initializer_list<QWidget*>{seen_, forget_, take_}) later->hide();
    connect(kind_, &QComboBox::activated, this, [this] {
        trials_shown_ = {};
        refreshTrial();
    });
    connect(dimmer_, &QPushButton::clicked, this, [this] { looked(LightTrial::Looked::dimmer); });
    connect(same_, &QPushButton::clicked, this, [this] { looked(LightTrial::Looked::same); });
    connect(brighter_, &QPushButton::clicked, this, [this] { looked(LightTrial::Looked::brighter); });
    connect(forget_, &QPushButton::clicked, this, [this] {
        session_.edit(without_trials(session_.design(), kind_->currentData().toString().toStdString()),
                      tr("forget what was seen"));
        refresh();
    });
    connect(take_, &QPushButton::clicked, this, [this] {
        const auto found = session_.ask(TrialsQuery{query()});
        if (!found || !found.current()) return;
        session_.edit(with_trials_taken(session_.design(), found->question, found->state),
                      tr("use what the eye saw"));
        refresh();
    });
    return trial_row_;
}

std::size_t MatchPanel::kindOnTrial(const TrialsState& state) const {
    for (std::size_t k = 0; k < state.kinds.size(); ++k)
        if (k != state.reference &&
            state.kinds[k].led.text("type") == kind_->currentData().toString().toStdString())
            return k;
    return state.reference == 0 ? 1 : 0;
}

void MatchPanel::looked(LightTrial::Looked how) {
    const auto found = session_.ask(TrialsQuery{query()});
    if (!found || !found.current()) return;
    session_.edit(with_trial(session_.design(), found->state, kindOnTrial(found->state), how),
                  tr("note what the eye saw"));
    refresh();
}

void MatchPanel::refreshTrial() {
    const TrialsQuery asked{query()};
    const auto found = session_.ask(asked);
    try_->setDimmed(!found.current());
    for (QPushButton* b : {dimmer_, same_, brighter_, forget_, take_})
        b->setEnabled(found && found.current());
    if (!found.current() || trials_shown_ == asked.key()) return;
    trials_shown_ = asked.key();
    trial_row_->setVisible(bool(found));
    if (!found) return;
    const TrialsState& state = found->state;
    const QVariant chosen = kind_->currentData();
    kind_->clear();
    for (std::size_t k = 0; k < state.kinds.size(); ++k)
        if (k != state.reference)
            kind_->addItem(QString::fromStdString(shop_name(state.kinds[k].led)),
                           QString::fromStdString(state.kinds[k].led.text("type")));
    kind_->setCurrentIndex(std::max(0, kind_->findData(chosen)));
    const TrialState& kind = state.kinds[kindOnTrial(state)];
    try_->setFigure(kind.resistor, kind.done ? tr("makes it equal") : tr("put in"));
    seen_->setVisible(kind.intensity.has_value());
    if (kind.intensity) seen_->setFigure(*kind.intensity, tr("as seen"));
    for (QPushButton* b : {dimmer_, same_, brighter_}) b->setVisible(!kind.done);
    forget_->setVisible(kind.trials > 0);
    take_->setVisible(kind.done);
    trial_note_->setText(kind.done
                             ? tr("after %n trials", nullptr, kind.trials)
                             : tr("beside the %1 with %2")
                                   .arg(QString::fromStdString(shop_name(state.kinds[state.reference].led)),
                                        QString::fromStdString(state.reference_resistor.text())));
}

MatchQuery MatchPanel::query() const {
    return {session_.design(), fresh(*session_.circuit(), session_.conditions()), diffuse_->isChecked(),
            session_.resistorsToChooseFrom()};
}

void MatchPanel::refresh() {
    refreshTrial();
    present(query(), use_, [this](const Match& match) { fill(match); });
}

void MatchPanel::fill(const Match& match) {
    table_->setRowCount(static_cast<int>(match.rows.size()));
    for (int r = 0; r < table_->rowCount(); ++r) {
        const MatchRow& row = match.rows[static_cast<std::size_t>(r)];
        table_->setItem(r, 0, new QTableWidgetItem(QString::fromStdString(shop_name(row.led))));
        auto* leds = new QTableWidgetItem(QString::number(row.leds));
        leds->setTextAlignment(Qt::AlignRight | Qt::AlignVCenter);
        table_->setItem(r, 1, leds);
        int column = 2;
        for (const Figure* f : {&row.resistor, &row.current, &row.light, &row.looks})
            table_->setItem(r, column++, figure_item(*f));
    }
    table_->fit();
    tell(tr("The %1 gets the full current; the others less, until they give as much light. With these "
            "values the brightest gives %2 times the dimmest.")
             .arg(QString::fromStdString(shop_name(match.rows[match.dimmest].led)))
             .arg(match.apart, 0, 'f', 2));
}

void MatchPanel::use() {
    const auto found = session_.ask(query());
    if (!found || !found.current()) return;
    session_.edit(with_match(session_.design(), *found), tr("make the colours look equal"));
    refresh();
}

}  // namespace elkit
