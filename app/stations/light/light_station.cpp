#include "app/stations/light/light_station.hpp"

#include <QComboBox>
#include <QGridLayout>
#include <QHBoxLayout>
#include <QLineEdit>
#include <QRadioButton>
#include <QStyle>
#include <algorithm>
#include <cmath>

#include "app/shell/session.hpp"
#include "app/stations/light/arrays_panel.hpp"
#include "app/stations/light/eye_panel.hpp"
#include "app/stations/light/face_panel.hpp"
#include "app/stations/light/grid_panel.hpp"
#include "app/stations/light/heat_panel.hpp"
#include "app/stations/light/light_words.hpp"
#include "app/stations/light/limiters_panel.hpp"
#include "app/stations/light/match_panel.hpp"
#include "app/stations/light/strip_panel.hpp"
#include "app/theme/theme.hpp"
#include "app/widgets/card.hpp"
#include "app/widgets/data_table.hpp"
#include "app/widgets/figure_label.hpp"
#include "app/widgets/figure_list.hpp"
#include "app/widgets/folding_tabs.hpp"
#include "app/widgets/goals_panel.hpp"
#include "app/widgets/life_plot.hpp"
#include "app/widgets/picture_view.hpp"
#include "app/widgets/situation_card.hpp"
#include "catalogue/catalogue.hpp"
#include "circuit/part_words.hpp"
#include "command/command.hpp"
#include "drawer/values.hpp"
#include "drawing/array.hpp"
#include "quantity/preferred.hpp"
#include "recipes/variants.hpp"

namespace elkit {
namespace {

/// "blue red black gold · ", or nothing where no bands can say the value.
QString bands_text(const Part& resistor) {
    const auto bands = colour_bands(resistor.number("value"), resistor.number("tolerance"));
    QStringList names;
    if (bands)
        for (const auto& name : bands.value().names) names << QString::fromStdString(name);
    return names.isEmpty() ? QString() : names.join(QLatin1Char(' ')) + QStringLiteral(" · ");
}

}  // namespace

LightStation::LightStation(Session& session_in, QWidget* parent) : Station(session_in, tr("Light"), parent) {
    auto* upper = new QHBoxLayout;
    upper->setSpacing(12);
    auto* left = new QVBoxLayout;
    left->setSpacing(12);
    auto* arrangement = new Card(tr("Arrangement"));
    picture_ = new PictureView;
    picture_->setAccessibleName(tr("Arrangement of the strings"));
    picture_->setObjectName(QStringLiteral("arrangement"));
    picture_->setSelectable({"part:"});
    picture_->setMinimumSize(px(220), px(90));
    picture_->setMaximumScale(1);
    connect(picture_, &PictureView::resized, this, [this] {
        if (isVisible()) refreshPicture();
    });
    arrangement->body()->addWidget(picture_, 1);
    previewed_ = label({}, "muted");
    arrangement->body()->addWidget(previewed_);
    goals_ = new GoalsPanel(session(), QStringLiteral("light"));
    left->addWidget(goals_);
    left->addWidget(arrangement, 1);
    upper->addLayout(left, 9);
    upper->addWidget(resistorCard(), 10);
    auto* above = new QWidget;
    upper->setContentsMargins(0, 0, 0, 0);
    above->setLayout(upper);
    life_ = new LifePlot;
    situations_ = new SituationCard(session(), false);
    auto* below = new FoldingTabs(QStringLiteral("light-below"));
    below->setAccessibleName(tr("Light over the life of the cells, other arrangements, and each situation"));
    below->addTab(life_, tr("Over life"));
    const auto add = [&](TabPanel* panel, const QString& title) {
        panels_.push_back(panel);
        below->addScrolling(panel, title);
    };
    arrays_ = new ArraysPanel(session());
    add(arrays_, tr("Arrange"));
    connect(arrays_, &ArraysPanel::looked, this, &LightStation::refreshPicture);
    auto* limiters = new LimitersPanel(session());
    add(limiters, tr("Limiters"));
    const auto choose = [this, limiters](const std::string& light) {
        arrays_->setLight(light), limiters->setLight(light);
    };
    connect(arrays_, &ArraysPanel::lightChosen, this, choose);
    connect(limiters, &LimitersPanel::lightChosen, this, choose);
    add(new MatchPanel(session()), tr("Equal light"));
    add(new GridPanel(session()), tr("Grid"));
    add(new EyePanel(session()), tr("Eye"));
    add(new HeatPanel(session()), tr("Heat"));
    add(new StripPanel(session()), tr("Strip"));
    add(new FacePanel(session()), tr("Face"));
    connect(below, &QTabWidget::currentChanged, this, [this] { refresh(); });
    below->addTab(situations_, tr("Situations"));
    body()->addWidget(halves(above, below, {370, 270}), 1);
}

QWidget* LightStation::resistorCard() {
    auto* card = new Card(tr("Resistor and current"));
    auto* head = new QHBoxLayout;
    resistance_ = new FigureLabel(session(), FigureLabel::Size::hero);
    resistance_->setObjectName(QStringLiteral("resistance"));
    head->addWidget(resistance_);
    head->addStretch(1);
    auto* column = new QVBoxLayout;
    column->setSpacing(0);
    current_now_ = new FigureLabel(session(), FigureLabel::Size::plain);
    current_now_->setObjectName(QStringLiteral("currentNow"));
    current_fresh_ = new FigureLabel(session(), FigureLabel::Size::plain);
    average_ = new FigureLabel(session(), FigureLabel::Size::plain);
    average_->setObjectName(QStringLiteral("average"));
    power_ = new FigureLabel(session(), FigureLabel::Size::plain);
    brightness_ = new FigureLabel(session(), FigureLabel::Size::plain);
    for (auto* f : {current_now_, average_, current_fresh_, brightness_, power_}) column->addWidget(f);
    head->addLayout(column);
    card->body()->addLayout(head);
    auto* schools = new QGridLayout;
    schools->setHorizontalSpacing(10);
    schools->setVerticalSpacing(3);
    int row = 0;
    for (auto& option : options_) {
        option = {new QRadioButton, new FigureLabel(session(), FigureLabel::Size::plain),
                  new FigureLabel(session(), FigureLabel::Size::plain), label({}, "small")};
        option.button->setAutoExclusive(false);
        schools->addWidget(option.button, row, 0);
        schools->addWidget(option.value, row, 1);
        schools->addWidget(option.current, row, 2);
        schools->addWidget(option.note, row, 3);
        const int index = row++;
        connect(option.button, &QRadioButton::clicked, this, [this, index] { takeVariant(index); });
    }
    schools->setColumnStretch(3, 1);
    card->body()->addLayout(schools);
    auto* table = new QGridLayout;
    table->setHorizontalSpacing(10);
    table->setVerticalSpacing(0);
    table->addWidget(label(tr("string 1"), "small"), 0, 0);
    int k = 1;
    for (const QString& name : {tr("fresh"), tr("half"), tr("nearly flat")})
        table->addWidget(label(name, "small"), 0, k++, Qt::AlignRight);
    const QStringList bins{tr("low Vf"), tr("typical"), tr("high Vf")};
    for (int b = 0; b < 3; ++b) {
        table->addWidget(label(bins[b], "muted"), b + 1, 0);
        for (int c = 0; c < 3; ++c) {
            auto* cell = new FigureLabel(session(), FigureLabel::Size::plain);
            bins_[static_cast<std::size_t>(b)][static_cast<std::size_t>(c)] = cell;
            table->addWidget(cell, b + 1, c + 1, Qt::AlignRight);
        }
    }
    table->setColumnStretch(0, 1);
    bins_box_ = new QWidget;
    table->setContentsMargins(0, 0, 0, 0);
    bins_box_->setLayout(table);
    card->body()->addWidget(bins_box_);
    rating_ = label({}, "muted");
    rating_->setWordWrap(true);
    card->body()->addWidget(rating_);
    inside_ = new FigureList(session());
    inside_->setObjectName(QStringLiteral("inside"));
    card->body()->addWidget(inside_);
    curve_row_ = curveRow();
    card->body()->addWidget(curve_row_);
    card->body()->addStretch(1);
    return card;
}

/// Which LEDs these really are: a bin of the type, or points measured on the bench.
QWidget* LightStation::curveRow() {
    auto* row = new QWidget;
    auto* across = new QHBoxLayout(row);
    across->setContentsMargins(0, 0, 0, 0);
    bin_ = new QComboBox;
    for (const char* bin : {"low", "typical", "high"}) bin_->addItem(QLatin1String(bin), QLatin1String(bin));
    bin_->setAccessibleName(tr("forward-voltage bin of the LEDs"));
    points_ = new QLineEdit;
    points_->setObjectName(QStringLiteral("measured points"));
    points_->setAccessibleName(tr("measured points of the LEDs"));
    points_->setPlaceholderText(tr("or measured: 5mA 1.98V; 20mA 2.12V"));
    across->addWidget(label(tr("LED bin"), "muted"));
    across->addWidget(bin_);
    across->addWidget(points_, 1);
    connect(bin_, &QComboBox::activated, this,
            [this] { setLeds("bin", bin_->currentData().toString().toStdString(), tr("change the bin")); });
    connect(points_, &QLineEdit::returnPressed, this,
            [this] { setLeds("points", points_->text().toStdString(), tr("enter measured points")); });
    return row;
}

void LightStation::setLeds(const char* key, const std::string& typed, const QString& what) {
    Design next = session().design();
    bool good = true;
    for (const Part& part : session().design().circuit.parts) {
        if (!good || !is(part, Role::diode_light) || !part_kind(part.kind)->param(key)) continue;
        auto changed = set_parameter(next, part.designator, key, typed);
        good = bool(changed);
        if (changed)
            next = std::move(changed).value();
        else
            session().reportError(QString::fromStdString(changed.error().text()));
    }
    points_->setProperty("bad", !good);
    points_->style()->unpolish(points_);
    points_->style()->polish(points_);
    if (!good) return;
    points_->setModified(false);
    session().edit(next, what);
}

/// The block whose ways to round are shown: the first on this station.
std::optional<VariantsQuery> LightStation::variantsQuery() {
    const Design& d = session().design();
    for (std::size_t k = 0; k < d.blocks.size(); ++k)
        if (const Recipe* recipe = find_recipe(d.blocks[k].recipe); recipe && recipe->station == "light")
            return VariantsQuery(d, k, session().conditions(), values_in(session().drawerItems()));
    return std::nullopt;
}

void LightStation::takeVariant(int index) {
    const auto query = variantsQuery();
    const auto rows = query ? session().ask(*query) : Shown<std::vector<VariantRow>>({}, false);
    const auto k = static_cast<std::size_t>(index);
    if (rows && rows.current() && k < rows->size() && (*rows)[k].value.value > 0)
        session().edit(with_variant(session().design(), query->block, (*rows)[k].variant, query->drawer),
                       (*rows)[k].variant.from_drawer ? tr("take the resistor from the drawer")
                                                      : tr("change the rounding"));
    refresh();
}

void LightStation::focusRef(const QString& ref) {
    if (ref.startsWith(QLatin1String("field:")))
        goals_->focusGoal(ref.mid(6));
    else
        picture_->select(ref), picture_->setFocus();
}

void LightStation::refreshOptions() {
    const auto query = variantsQuery();
    const auto shown = query ? session().ask(*query) : Shown<std::vector<VariantRow>>({}, false);
    const std::size_t count = shown ? shown->size() : 0;
    for (std::size_t i = 0; i < options_.size(); ++i) {
        const auto& row = options_[i];
        const bool there = i < count;
        for (QWidget* w : {static_cast<QWidget*>(row.button), static_cast<QWidget*>(row.value),
                           static_cast<QWidget*>(row.current), static_cast<QWidget*>(row.note)})
            w->setVisible(there);
        if (!there) continue;
        const VariantRow& v = (*shown)[i];
        row.button->setText(QString::fromStdString(v.variant.label));
        row.button->setChecked(v.chosen);
        const bool found = v.value.value > 0;
        row.button->setEnabled(found);
        row.value->setVisible(found);
        row.current->setVisible(found);
        row.value->setFigure(v.value);
        row.current->setFigure(v.found);
        row.note->setText(QString::fromStdString(v.note));
        for (FigureLabel* f : {row.value, row.current}) f->setDimmed(!shown.current());
    }
}

void LightStation::refreshBins() {
    const auto bins = session().ask(BinsQuery(session().circuit(), session().conditions()));
    bins_box_->setVisible(bool(bins));
    if (!bins) return;
    for (std::size_t b = 0; b < 3; ++b)
        for (std::size_t c = 0; c < 3; ++c) {
            bins_[b][c]->setFigure((*bins)[b][c]);
            bins_[b][c]->setDimmed(!bins.current());
        }
}

/// The arrangement with what it reads; of a circuit that moves, at a moment when the first string is on.
void LightStation::refreshPicture() {
    const auto& preview = arrays_->preview();
    const bool previewing = preview && arrays_->isVisible();
    const Circuit& circuit = previewing ? *preview->circuit : *session().circuit();
    previewed_->setVisible(previewing);
    if (previewing) previewed_->setText(tr("%1, as chosen below; not in the design yet").arg(preview->name));
    const auto draw = [&](const OperatingPoint& at, const OperatingPoint& mean, bool current) {
        if (current)
            picture_->setDrawing(
                draw_array(circuit, at, glow_of(circuit, mean), picture_->width(), picture_->height()));
        dim(picture_, !current);
    };
    const auto strings = led_strings(circuit);
    const auto draw_run = [&](const Shown<LongRun>& run) {
        if (!run || !run.current()) return dim(picture_, !run.current());
        draw(strings.empty() ? run->mean() : run->while_on(circuit, strings.front().leds.front()->designator),
             run->mean(), true);
    };
    if (previewing && may_move(circuit))
        return draw_run(session().ask(RunQuery(preview->circuit, fresh(circuit, session().conditions())),
                                      Urgency::in_view, "arrangement run"));
    if (previewing) {
        const auto op = session().ask(RestQuery(preview->circuit, fresh(circuit, session().conditions())),
                                      Urgency::in_view, "arrangement");
        return op ? draw(*op, *op, op.current()) : dim(picture_, !op.current());
    }
    if (!may_move(circuit)) {
        const auto op = session().ask(session().restQuery(), Urgency::in_view, "now");
        return op ? draw(*op, *op, op.current()) : dim(picture_, !op.current());
    }
    draw_run(session().ask(session().runQuery(), Urgency::in_view, "now"));
}

/// Lights that are no LEDs of their own: the colours of an RGB LED, a strip, a module.
void LightStation::refreshInside(const LightResult& light) {
    inside_->setFigures(light.inside);
    inside_->setVisible(!light.inside.empty());
    curve_row_->setVisible(!light.strings.empty());
    if (!light.strings.empty()) return;
    for (QWidget* of_a_string :
         std::initializer_list<QWidget*>{current_now_, average_, current_fresh_, power_, bins_box_, rating_})
        of_a_string->hide();
    setSubtitle(light.inside.size() == 1 ? tr("One light inside another part")
                                         : tr("%1 lights inside other parts").arg(light.inside.size()));
    resistance_->setFigure(light.total, tr("from the supply"));
    brightness_->setFigure(light.brightness, tr("as bright as fresh"));
    brightness_->show();
}

KeyFigure LightStation::keyFigure() {
    const auto op = session().ask(session().restQuery(), Urgency::in_view, "now");
    const auto strings = led_strings(*session().circuit());
    if (op.there() && !op) return {tr("not computable yet"), op.current()};
    if (strings.empty()) {
        if (!any(*session().circuit(), Role::light)) return {tr("no LED yet")};
        const auto light = session().ask(session().lightQuery(), Urgency::key_figure);
        if (!light || light->inside.empty()) return {tr("computing …"), light.current()};
        return {QString::fromStdString(light->inside.front().text()), light.current()};
    }
    if (!op) return {tr("computing …"), false};
    const std::string& led = strings.front().leds.front()->designator;
    if (may_move(*session().circuit())) {
        const auto run = session().ask(session().freshRunQuery(), Urgency::key_figure, "fresh");
        if (run && run->moves())
            return {tr("%1 on average").arg(QString::fromStdString(run->mean_figure(led, "a").text())),
                    run.current()};
    }
    return {QString::fromStdString(
                lights_in_short(*session().circuit(), *op, glow_of(*session().circuit(), *op))),
            op.current()};
}

/// What the first string's resistor takes, its value as its recipe chose it.
void LightStation::refreshResistor(const StringResult& s) {
    const std::string& designator = s.resistor.empty() ? s.shared : s.resistor;
    power_->setVisible(!designator.empty());
    rating_->setVisible(!designator.empty());
    if (designator.empty()) return resistance_->setFigure(s.current, tr("no resistor"));
    Figure value = s.resistance;
    if (const auto chosen = chosen_figure(session().design(), designator, "value")) {
        value.working = chosen->working;
        if (chosen->value != value.value)
            value.working.push_back("set by hand: " + value.text() + " in place of " + chosen->text());
        value.working.push_back("with " + value.text() + " and the LED's own curve: " +
                                s.fresh_current.text() + " fresh, " + s.current.text() + " now");
    }
    const QString name = QString::fromStdString(designator);
    resistance_->setFigure(value, name);
    power_->setFigure(s.resistor_power, tr("in %1").arg(name));
    const Part* part = session().design().circuit.find(designator);
    if (!part) return;
    rating_->setText(bands_text(*part) +
                     tr("%1, %2 at worst")
                         .arg(QString::fromStdString(rating_text(part->number("rating"))),
                              QString::fromStdString(format_quantity(*s.resistor_power.high, Unit::watt))));
}

/// Bin and measured points of the LEDs.
void LightStation::refreshCurve(const std::string& designator) {
    const Part* led = session().design().circuit.find(designator);
    if (!led) return;
    bin_->setCurrentIndex(bin_->findData(QString::fromStdString(led->text("bin"))));
    const PointList* points = led->points("points");
    bin_->setEnabled(!points);
    if (!points_->isModified())
        points_->setText(points ? QString::fromStdString(points_text(*points)) : QString());
}

void LightStation::refreshLife() {
    const auto power = session().ask(session().powerQuery());
    if (power)
        life_->show_discharge(*power, session().design().brief.run_time,
                              session().design().brief.end_brightness, session().conditions().battery, false);
    dim(life_, !power.current());
}

void LightStation::refresh() {
    dim(situations_->table(), !situations_->refresh());
    goals_->refresh();
    refreshPicture();
    refreshOptions();
    refreshBins();
    refreshLife();
    for (TabPanel* panel : panels_)
        if (panel->isVisible()) panel->refresh();
    const auto light = session().ask(session().lightQuery());
    for (FigureLabel* f : {resistance_, current_now_, average_, current_fresh_, brightness_, power_})
        f->setDimmed(!light.current());
    inside_->setDimmed(!light.current());
    if (!light) {
        if (light.there()) return lackFor(light.error());
        return setSubtitle(tr("computing …"));
    }
    if (light->strings.empty() && light->inside.empty()) {
        setSubtitle({});
        return lack(
            tr("There is no LED in this circuit yet. Say where one goes, such as: led amber from V+ to A1"),
            tr("Do anything (Ctrl K)"), QStringLiteral("do"));
    }
    lackNothing();
    refreshInside(*light);
    if (light->strings.empty()) return;
    const StringResult& s = light->strings.front();
    setSubtitle(strings_in_words(*light, session().design().circuit));
    current_now_->setFigure(s.current, tr("now"));
    current_fresh_->setFigure(s.fresh_current, tr("fresh"));
    average_->setVisible(s.average.has_value());
    if (s.average) average_->setFigure(*s.average, tr("on average"));
    brightness_->setFigure(light->brightness, tr("as bright as fresh"));
    for (QWidget* w : {current_now_, current_fresh_, brightness_}) w->show();
    refreshResistor(s);
    refreshCurve(s.leds.front());
}

static void arranged(Session&, Station& station) {
    station.findChild<FoldingTabs*>()->showPage(station.findChild<ArraysPanel*>());
}

StationInfo light_station() {
    return {QStringLiteral("light"),
            QObject::tr("Light"),
            [](Session& s) { return new LightStation(s); },
            {{QStringLiteral("light"), QStringLiteral("pier-lantern"),
              shows_figure(QStringLiteral("resistance"), 0.62), false, false},
             {QStringLiteral("light-grid"), QStringLiteral("seat-finder"), {}, false, false},
             {QStringLiteral("arrangements"), QStringLiteral("herbarium-ring"), arranged, false, false},
             {QStringLiteral("dark"), QStringLiteral("pier-lantern"),
              shows_figure(QStringLiteral("resistance"), 0.62), false, true}},
            true};
}

}  // namespace elkit
