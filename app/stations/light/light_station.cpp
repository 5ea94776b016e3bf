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
#include "app/theme/theme.hpp"
#include "app/widgets/card.hpp"
#include "app/widgets/figure_label.hpp"
#include "app/widgets/life_plot.hpp"
#include "app/widgets/picture_view.hpp"
#include "app/widgets/quantity_edit.hpp"
#include "catalogue/catalogue.hpp"
#include "command/command.hpp"
#include "drawing/array.hpp"
#include "recipes/steady_light.hpp"

namespace elkit {
namespace {

const LightGoals& goals_of(const Design& design) {
    static const LightGoals none;
    return design.light ? *design.light : none;
}

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
    picture_->setSelectable({"part:"});
    picture_->setMinimumSize(px(220), px(150));
    arrangement->body()->addWidget(picture_, 1);
    left->addWidget(goalsCard());
    left->addWidget(arrangement, 1);
    upper->addLayout(left, 9);
    upper->addWidget(resistorCard(), 10);
    body()->addLayout(upper, 5);
    auto* life = new Card(tr("Light over the life of the cells"));
    life_ = new LifePlot;
    life->body()->addWidget(life_, 1);
    body()->addWidget(life, 3);
}

QWidget* LightStation::goalsCard() {
    auto* card = new Card(tr("Goals"));
    auto* grid = new QGridLayout;
    grid->setHorizontalSpacing(8);
    grid->setVerticalSpacing(6);
    led_ = new QComboBox;
    for (const auto& type : built_in_catalogue().leds)
        led_->addItem(QString::fromStdString(type.name), QString::fromStdString(type.id));
    count_ = new QuantityEdit(tr("LEDs in all"), Unit::count, 1, 200);
    per_string_ = new QuantityEdit(tr("in series"), Unit::count, 1, 40);
    current_ = new QuantityEdit(tr("current of a string"), Unit::ampere, 1e-6, 10);
    for (auto* field : {count_, per_string_}) field->setFixedWidth(px(48));
    current_->setFixedWidth(px(74));
    limiter_ = new QComboBox;
    limiter_->addItem(tr("resistor a string"), 0);
    limiter_->addItem(tr("one resistor"), 1);
    limiter_->addItem(tr("cell alone"), 2);
    limiter_->setAccessibleName(tr("what limits the current"));
    led_->setAccessibleName(tr("LED type"));
    for (QComboBox* box : {led_, limiter_}) {  // the card may be narrower than its longest entry
        box->setSizeAdjustPolicy(QComboBox::AdjustToMinimumContentsLengthWithIcon);
        box->setMinimumContentsLength(9);
        box->setSizePolicy(QSizePolicy::Expanding, QSizePolicy::Fixed);
    }
    const auto add = [&](int row, int column, const QString& name, QWidget* field, int span = 1) {
        auto* l = label(name, "muted");
        l->setBuddy(field);
        grid->addWidget(l, row, column);
        grid->addWidget(field, row, column + 1, 1, span);
    };
    add(0, 0, tr("LED"), led_, 3);
    add(1, 0, tr("LEDs in all"), count_);
    add(1, 2, tr("in series"), per_string_);
    add(2, 0, tr("Current"), current_);
    add(2, 2, tr("limited by"), limiter_);
    grid->setColumnStretch(3, 1);
    goals_ = new QWidget;
    grid->setContentsMargins(0, 0, 0, 0);
    goals_->setLayout(grid);
    card->body()->addWidget(goals_);
    no_recipe_ = label(tr("Entered by hand: change its parts on the Circuit station."), "muted");
    card->body()->addWidget(no_recipe_);
    connect(led_, &QComboBox::activated, this, [this] {
        LightGoals g = goals_of(session().design());
        g.led = led_->currentData().toString().toStdString();
        applyGoals(g, tr("change the LED"));
    });
    connect(limiter_, &QComboBox::activated, this, [this] {
        LightGoals g = goals_of(session().design());
        g.resistor = limiter_->currentData().toInt() != 2;
        g.one_resistor = limiter_->currentData().toInt() == 1;
        applyGoals(g, tr("change what limits the current"));
    });
    const auto number = [this](QuantityEdit* field, double LightGoals::*member, const QString& what) {
        connect(field, &QuantityEdit::valueEntered, this, [this, member, what](double value) {
            LightGoals g = goals_of(session().design());
            g.*member = value;
            applyGoals(g, what);
        });
    };
    number(count_, &LightGoals::count, tr("change the number of LEDs"));
    number(per_string_, &LightGoals::per_string, tr("change the strings"));
    number(current_, &LightGoals::current, tr("change the current"));
    return card;
}

QWidget* LightStation::resistorCard() {
    auto* card = new Card(tr("Series resistor"));
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
    power_ = new FigureLabel(session(), FigureLabel::Size::plain);
    brightness_ = new FigureLabel(session(), FigureLabel::Size::plain);
    for (auto* f : {current_now_, current_fresh_, brightness_, power_}) column->addWidget(f);
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
        connect(option.button, &QRadioButton::clicked, this, [this, index] {
            const auto& all = session().live().light.options;
            if (index >= static_cast<int>(all.size()) ||
                all[static_cast<std::size_t>(index)].resistance.value <= 0)
                return refresh();
            LightGoals g = goals_of(session().design());
            if (index < 2) {
                g.rounding = index == 0 ? Rounding::nearest : Rounding::under;
                return applyGoals(g, tr("change the rounding"));
            }
            Design next =
                session().design();  // what lies in the drawer is a choice of this design, not of its goals
            const double value = all[static_cast<std::size_t>(index)].resistance.value;
            for (Part& part : next.circuit.parts)
                if (part.kind == "resistor") part.params["value"] = value;
            session().edit(std::move(next), tr("take the resistor from the drawer"));
            refresh();
        });
    }
    schools->setColumnStretch(3, 1);
    series_ = new QComboBox;
    for (const Series s :
         {Series::e3, Series::e6, Series::e12, Series::e24, Series::e48, Series::e96, Series::e192})
        series_->addItem(QString::fromStdString(series_name(s)), static_cast<int>(s));
    series_->setAccessibleName(tr("series of preferred values"));
    connect(series_, &QComboBox::activated, this, [this] {
        LightGoals g = goals_of(session().design());
        g.series = static_cast<Series>(series_->currentData().toInt());
        applyGoals(g, tr("change the series"));
    });
    schools->addWidget(label(tr("series of values"), "muted"), row, 0);
    schools->addWidget(series_, row, 1, 1, 2);
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
    card->body()->addWidget(rating_);
    card->body()->addWidget(curveRow());
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
    for (const Part& part : session().design().circuit.parts) {
        if (part.kind != "led") continue;
        auto changed = set_parameter(next, part.designator, key, typed);
        if (!changed) {
            points_->setProperty("bad", true);
            points_->style()->unpolish(points_);
            points_->style()->polish(points_);
            return session().reportError(QString::fromStdString(changed.error().text()));
        }
        next = std::move(changed).value();
    }
    points_->setProperty("bad", false);
    points_->style()->unpolish(points_);
    points_->style()->polish(points_);
    points_->setModified(false);
    session().edit(std::move(next), what);
}

void LightStation::applyGoals(const LightGoals& goals, const QString& what) {
    auto next = apply_steady_light(session().design(), goals);
    if (next)
        session().edit(std::move(next).value(), what);
    else
        session().reportError(QString::fromStdString(next.error().text()));
    refresh();
}

void LightStation::focusRef(const QString& ref) {
    if (ref == QLatin1String("field:current"))
        current_->setFocus();
    else
        picture_->select(ref), picture_->setFocus();
}

void LightStation::refreshOptions() {
    const auto& all = session().live().light.options;
    for (std::size_t i = 0; i < options_.size(); ++i) {
        const auto& row = options_[i];
        const bool there = i < all.size();
        for (QWidget* w : {static_cast<QWidget*>(row.button), static_cast<QWidget*>(row.value),
                           static_cast<QWidget*>(row.current), static_cast<QWidget*>(row.note)})
            w->setVisible(there);
        if (!there) continue;
        row.button->setText(QString::fromStdString(all[i].label));
        row.button->setChecked(all[i].chosen);
        const bool found = all[i].resistance.value > 0;
        row.button->setEnabled(found);
        row.value->setVisible(found);
        row.current->setVisible(found);
        row.value->setFigure(all[i].resistance);
        row.current->setFigure(all[i].current);
        row.note->setText(QString::fromStdString(all[i].note));
    }
}

void LightStation::refreshBins() {
    const auto& bins = session().live().light.bins;
    for (std::size_t b = 0; b < 3; ++b)
        for (std::size_t c = 0; c < 3; ++c) bins_[b][c]->setFigure(bins[b][c]);
}

/// A light that moves has no one current: its average from fresh cells stands in place of what a state of
/// rest would say.
void LightStation::refreshMoving(const LongRun& run, const std::string& led) {
    setSubtitle(tr("It does not rest: averages over one cycle, from fresh cells with everything on"));
    current_fresh_->setFigure(run.mean_figure(led, "a"), tr("on average"));
    for (QWidget* of_one_state :
         std::initializer_list<QWidget*>{current_now_, brightness_, power_, bins_box_, rating_})
        of_one_state->hide();
}

void LightStation::refresh() {
    const Design& d = session().design();
    const LiveSurvey& live = session().live();
    const LightGoals& g = goals_of(d);
    no_recipe_->setVisible(!d.light);
    goals_->setVisible(d.light.has_value());
    for (QWidget* w :
         {static_cast<QWidget*>(led_), static_cast<QWidget*>(count_), static_cast<QWidget*>(per_string_),
          static_cast<QWidget*>(current_), static_cast<QWidget*>(limiter_), static_cast<QWidget*>(series_)})
        w->setEnabled(d.light.has_value());
    led_->setCurrentIndex(led_->findData(QString::fromStdString(g.led)));
    count_->setValue(g.count);
    per_string_->setValue(g.per_string);
    current_->setValue(g.current);
    limiter_->setCurrentIndex(!g.resistor ? 2 : (g.one_resistor ? 1 : 0));
    series_->setCurrentIndex(series_->findData(static_cast<int>(g.series)));
    picture_->setDrawing(draw_array(d.circuit, live.op, live.glow));
    const auto& strings = live.light.strings;
    if (live.error || strings.empty()) {
        setSubtitle(live.error ? QString::fromStdString(live.error->text())
                               : tr("There is no LED in this circuit yet"));
        return;
    }
    const StringResult& s = strings.front();
    setSubtitle(tr("%1 of %2 × %3")
                    .arg(strings.size() == 1 ? tr("One string") : tr("%1 strings").arg(strings.size()))
                    .arg(s.leds.size())
                    .arg(led_->currentText()));
    const bool resistor = !s.resistor.empty() || !s.shared.empty();
    if (resistor)
        resistance_->setFigure(s.resistance,
                               QString::fromStdString(s.resistor.empty() ? s.shared : s.resistor));
    else
        resistance_->setFigure(s.current, tr("no resistor: the cell limits"));
    current_now_->setFigure(s.current, tr("now"));
    current_fresh_->setFigure(s.fresh_current, tr("fresh"));
    brightness_->setFigure(live.light.brightness, tr("as bright as fresh"));
    power_->setVisible(resistor);
    if (resistor) {
        power_->setFigure(
            s.resistor_power,
            tr("in %1").arg(QString::fromStdString(s.resistor.empty() ? s.shared : s.resistor)));
        const Part* part = d.circuit.find(s.resistor.empty() ? s.shared : s.resistor);
        rating_->setText(
            bands_text(*part) +
            tr("%1, %2 at worst")
                .arg(QString::fromStdString(rating_text(part->number("rating"))),
                     QString::fromStdString(format_quantity(*s.resistor_power.high, Unit::watt))));
    }
    rating_->setVisible(resistor);
    refreshOptions();
    refreshBins();
    for (QWidget* of_one_state : std::initializer_list<QWidget*>{current_now_, brightness_, bins_box_})
        of_one_state->show();
    if (const DeepSurvey* deep = session().deep(); deep && deep->moves())
        refreshMoving(*deep->fresh_run, s.leds.front());
    const Part& led = *d.circuit.find(s.leds.front());
    bin_->setCurrentIndex(bin_->findData(QString::fromStdString(led.text("bin"))));
    const PointList* points = led.points("points");
    bin_->setEnabled(!points);
    if (!points_->isModified())
        points_->setText(points ? QString::fromStdString(points_text(*points)) : QString());
    if (const DeepSurvey* deep = session().deep(); deep && deep->power)
        life_->show_discharge(*deep->power, d.brief.run_time, d.brief.end_brightness,
                              session().conditions().battery, false);
    dim(life_, session().deepPending());
}

}  // namespace elkit
