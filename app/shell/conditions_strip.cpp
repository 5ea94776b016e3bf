#include "app/shell/conditions_strip.hpp"

#include <QCheckBox>
#include <QHBoxLayout>
#include <QLabel>
#include <QPainter>
#include <QPushButton>
#include <QSlider>
#include <QStyleOption>
#include <algorithm>

#include "app/shell/condition_group.hpp"
#include "app/shell/session.hpp"
#include "app/shell/situation_chips.hpp"
#include "app/theme/theme.hpp"
#include "app/widgets/card.hpp"
#include "catalogue/catalogue.hpp"
#include "circuit/part_kind.hpp"
#include "engine/history.hpp"
#include "engine/models.hpp"

namespace elkit {
namespace {

/// A lever that lies left for off and right for on, and says so in words.
class Lever : public QCheckBox {
  public:
    explicit Lever(const QString& name) {
        setAccessibleName(name);
        setText(QObject::tr("off"));
        connect(this, &QCheckBox::toggled, this,
                [this](bool on) { setText(on ? QObject::tr("on") : QObject::tr("off")); });
    }
    QSize sizeHint() const override { return {px(84), px(24)}; }

  protected:
    bool hitButton(const QPoint& at) const override { return rect().contains(at); }
    void paintEvent(QPaintEvent*) override {
        QPainter p(this);
        p.setRenderHint(QPainter::Antialiasing);
        const Theme& t = theme();
        const QRectF slot(1.5, height() / 2.0 - px(8), px(38), px(16));
        p.setPen(QPen(isChecked() ? t.teal : t.muted, 1.6));
        p.setBrush(isChecked() ? t.teal : t.paper);
        p.drawRoundedRect(slot, 4, 4);
        p.setBrush(t.card);
        p.setPen(QPen(t.ink, 1.6));
        p.drawRoundedRect(QRectF(isChecked() ? slot.right() - px(17) : slot.left() + 1, slot.top() - 2,
                                 px(16), slot.height() + 4),
                          3, 3);
        p.setPen(t.ink);
        QFont bold = font();
        bold.setWeight(QFont::DemiBold);
        p.setFont(bold);
        p.drawText(QRect(px(48), 0, width() - px(48), height()), Qt::AlignVCenter | Qt::AlignLeft, text());
        if (hasFocus()) {
            p.setBrush(Qt::NoBrush);
            p.setPen(QPen(t.amber, 2));
            p.drawRoundedRect(rect().adjusted(0, 0, -1, -1), 5, 5);
        }
    }
};

/// A source with a level of its own to turn.
bool turnable(const Part& part) { return has_level(part) && Conditions{}.level(part) != 0; }

QSlider* slider(const QString& name, int low, int high, int page) {
    auto* s = new QSlider(Qt::Horizontal);
    s->setRange(low, high);
    s->setPageStep(page);
    s->setAccessibleName(name);
    s->setObjectName(name);
    return s;
}

/// A slider under its name and value; as wide as its words, whatever the value.
QVBoxLayout* control(const QString& name, QLabel*& value, QSlider* s, int width) {
    auto* column = new QVBoxLayout;
    column->setSpacing(5);
    auto* head = new QHBoxLayout;
    auto* title = label(name, "muted");
    title->setBuddy(s);
    head->addWidget(title);
    head->addStretch(1);
    value = label({}, "bold");
    head->addWidget(value);
    column->addLayout(head);
    s->setFixedWidth(px(width));
    column->addWidget(s);
    return column;
}

constexpr int least_free = 12;  // right of the controls
constexpr int battery_width = 165, slider_width = 110, group_width = 120;
constexpr int most_named_in_full = 4;

}  // namespace

ConditionsStrip::ConditionsStrip(Session& session, QWidget* parent) : QWidget(parent), session_(session) {
    setObjectName(QStringLiteral("conditions"));
    setAttribute(Qt::WA_StyledBackground);
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(22, 8, 20, 10);
    column->setSpacing(4);
    auto* head = new QHBoxLayout;
    head->setSpacing(6);
    buildHead(head);
    column->addLayout(head);
    row_ = new QHBoxLayout;
    row_->setSpacing(22);
    battery_ = slider(tr("Battery"), 0, 100, 10);
    warmth_ = slider(tr("Warmth"), -20, 60, 5);
    row_->addLayout(control(tr("Battery"), battery_value_, battery_, battery_width));
    row_->addLayout(control(tr("Warmth"), warmth_value_, warmth_, slider_width));
    switches_ = new QHBoxLayout;
    switches_->setSpacing(18);
    row_->addLayout(switches_);
    const std::array names{tr("Switches"), tr("Knobs"), tr("Sensors")};
    for (std::size_t g = 0; g < groups; ++g) {
        behind_[g] = new ConditionGroup(names[g]);
        behind_[g]->hide();
        row_->addWidget(behind_[g], 0, Qt::AlignBottom);
    }
    row_->addStretch(1);
    column->addLayout(row_);
    connect(battery_, &QSlider::valueChanged, this, [this](int value) {
        Conditions c = session_.conditions();  // a situation goes on while its cells empty
        c.battery = value / 100.0;
        session_.setConditions(c);
    });
    connect(warmth_, &QSlider::valueChanged, this,
            [this](int value) { change([&](Conditions& c) { c.celsius = value; }); });
    connect(&session_, &Session::designChanged, this, &ConditionsStrip::rebuildSwitches);
    connect(&session_, &Session::changed, this, &ConditionsStrip::refresh);
    connect(&session_, &Session::arrived, this, &ConditionsStrip::refresh);
    rebuildSwitches();
}

/// The situations, the usual states of the cells, and the way to the do-anything panel.
void ConditionsStrip::buildHead(QHBoxLayout* head) {
    head->addWidget(label(tr("CONDITIONS"), "cap"));
    chips_ = new SituationChips(session_);
    head->addWidget(chips_, 1);
    head->addWidget(label(tr("battery"), "muted"));
    const auto pill = [head](const QString& text, const QString& name) {
        auto* button = new QPushButton(text);
        button->setObjectName(QStringLiteral("pill"));
        button->setAccessibleName(name);
        head->addWidget(button);
        return button;
    };
    struct Preset {
        QString name;
        int charge;
    };
    for (const Preset& preset :
         {Preset{tr("fresh"), 100}, Preset{tr("half"), 50}, Preset{tr("nearly flat"), 10}})
        connect(pill(preset.name, tr("battery %1").arg(preset.name)), &QPushButton::clicked, this,
                [this, charge = preset.charge] { battery_->setValue(charge); });
    connect(pill(tr("reset"), tr("reset all conditions")), &QPushButton::clicked, this,
            [this] { session_.resetConditions(); });
    auto* anything = pill(tr("Do anything  Ctrl K"), tr("do anything in plain words"));
    connect(anything, &QPushButton::clicked, this, &ConditionsStrip::doAsked);
}

int ConditionsStrip::widthOf(const std::vector<Control>& controls) const {
    int width = 0;
    for (const Control& c : controls) width += c.widget->sizeHint().width() + switches_->spacing();
    return width;
}

/// All in the row if they fit; else the largest group goes behind its button, and so on.
void ConditionsStrip::arrange() {
    const QMargins around = layout()->contentsMargins();
    int room = width() - around.left() - around.right() - px(battery_width) - px(slider_width) -
               2 * row_->spacing() - least_free;
    std::array<std::vector<Control>, groups> by_group;
    for (const Control& c : controls_) by_group[c.group].push_back(c);
    std::array<bool, groups> folded{};
    const auto taken = [&] {
        int width = 0;
        for (std::size_t g = 0; g < groups; ++g)
            width += folded[g] ? px(group_width) + row_->spacing() : widthOf(by_group[g]);
        return width;
    };
    while (taken() > room) {
        std::size_t largest = groups;
        for (std::size_t g = 0; g < groups; ++g)
            if (!folded[g] && !by_group[g].empty() &&
                (largest == groups || widthOf(by_group[g]) > widthOf(by_group[largest])))
                largest = g;
        if (largest == groups) break;
        folded[largest] = true;
    }
    for (std::size_t g = 0; g < groups; ++g) {
        std::vector<QWidget*> inside;
        for (const Control& c : by_group[g]) {
            if (folded[g])
                inside.push_back(c.widget);
            else
                switches_->addWidget(c.widget), c.widget->show();
        }
        behind_[g]->setControls(inside);
    }
}

void ConditionsStrip::resizeEvent(QResizeEvent* event) {
    QWidget::resizeEvent(event);
    arrange();
}

/// Which controls this design needs: one for each contact and knob, one for each kind of light it can sense.
std::vector<std::string> ConditionsStrip::wanted() const {
    std::vector<std::string> names;
    bool lux = false, infrared = false;
    for (const Part& part : session_.design().circuit.parts) {
        if (is(part, Role::contact) || is_knob(part) || turnable(part))
            names.push_back(part.kind + " " + part.designator);
        const PartKind* kind = part_kind(part.kind);
        lux = lux || kind->reads_condition("lux");
        infrared = infrared || kind->reads_condition("infrared");
    }
    if (lux) names.push_back("lux");
    if (infrared) names.push_back("infrared");
    return names;
}

void ConditionsStrip::change(const std::function<void(Conditions&)>& edit) {
    Conditions c = session_.conditions();
    c.as_set = false;
    edit(c);
    session_.setConditions(c);
}

QWidget* ConditionsStrip::contactControl(const Part& part) {
    auto* box = new QWidget(this);
    auto* column = new QVBoxLayout(box);
    column->setContentsMargins(0, 0, 0, 0);
    column->setSpacing(2);
    const std::string name = part.designator;
    const QString shown = QString::fromStdString(name);
    // where there are many, there is no room to say what each is
    const auto& parts = session_.design().circuit.parts;
    const bool few = std::count_if(parts.begin(), parts.end(), [](const Part& p) {
                         return is(p, Role::contact) || is_knob(p) || turnable(p);
                     }) <= most_named_in_full;
    const QString kind = QString::fromStdString(part_kind(part.kind)->name);
    column->addWidget(label(few ? shown + QLatin1Char(' ') + kind : shown, "muted"));
    box->setToolTip(shown + QLatin1Char(' ') + kind);
    if (is(part, Role::momentary)) {
        auto* button = new QPushButton(tr("hold"));
        button->setObjectName(QStringLiteral("button ") + shown);
        button->setAccessibleName(tr("press and hold %1").arg(shown));
        connect(button, &QPushButton::pressed, this, [this, name] {
            change([&](Conditions& c) { put_hand(c, session_.design().circuit, name, true); });
        });
        connect(button, &QPushButton::released, this, [this, name] {
            change([&](Conditions& c) { put_hand(c, session_.design().circuit, name, false); });
        });
        column->addWidget(button);
        return box;
    }
    auto* toggle = new Lever(tr("switch %1").arg(shown));
    toggle->setObjectName(QStringLiteral("switch ") + shown);
    column->addWidget(toggle);
    connect(toggle, &QCheckBox::toggled, this, [this, name](bool on) {
        const Part* p = session_.design().circuit.find(name);
        if (p && session_.conditions().after_events().closed(*p) != on)
            change([&](Conditions& c) { put_hand(c, session_.design().circuit, name, on); });
    });
    toggles_[name] = toggle;
    return box;
}

QWidget* ConditionsStrip::knobControl(const std::string& designator) {
    auto* box = new QWidget(this);
    auto* knob = slider(tr("knob %1").arg(QString::fromStdString(designator)), 0, 100, 10);
    QLabel* value = nullptr;
    auto* column = control(QString::fromStdString(designator) + tr(" knob"), value, knob, slider_width);
    column->setContentsMargins(0, 0, 0, 0);
    box->setLayout(column);
    connect(knob, &QSlider::valueChanged, this,
            [this, designator](int v) { change([&](Conditions& c) { c.knobs[designator] = v / 100.0; }); });
    knobs_[designator] = {knob, value};
    return box;
}

/// A source is turned between nothing and half as much again as the design says.
QWidget* ConditionsStrip::sourceControl(const Part& part) {
    auto* box = new QWidget(this);
    const QString name = QString::fromStdString(part.designator);
    auto* dial = slider(tr("level of %1").arg(name), 0, 150, 10);
    QLabel* value = nullptr;
    auto* column = control(name, value, dial, slider_width);
    column->setContentsMargins(0, 0, 0, 0);
    box->setLayout(column);
    connect(dial, &QSlider::valueChanged, this, [this, designator = part.designator](int v) {
        const Part* p = session_.design().circuit.find(designator);
        if (p) change([&](Conditions& c) { c.levels[designator] = Conditions{}.level(*p) * v / 100.0; });
    });
    knobs_[part.designator] = {dial, value};
    return box;
}

/// Light is set in steps of a tenth of a decade, as eyes and sensors take it.
QWidget* ConditionsStrip::lightControl(bool infrared) {
    auto* box = new QWidget(this);
    auto* dial = slider(infrared ? tr("Infrared") : tr("Light"), infrared ? -20 : -10, infrared ? 30 : 50, 5);
    QLabel* value = nullptr;
    auto* column = control(infrared ? tr("Infrared") : tr("Light"), value, dial, slider_width);
    column->setContentsMargins(0, 0, 0, 0);
    box->setLayout(column);
    connect(dial, &QSlider::valueChanged, this, [this, infrared, dial](int v) {
        const double amount = v == dial->minimum() ? 0 : light_at(v);
        change([&](Conditions& c) { (infrared ? c.infrared : c.lux) = amount; });
    });
    knobs_[infrared ? "infrared" : "lux"] = {dial, value};
    return box;
}

void ConditionsStrip::rebuildSwitches() {
    const auto names = wanted();
    if (names != shown_) {
        shown_ = names;
        toggles_.clear();
        knobs_.clear();
        for (const Control& old : controls_) {
            old.widget->hide();  // deleted once its own signal is through
            old.widget->deleteLater();
        }
        controls_.clear();
        for (const Part& part : session_.design().circuit.parts) {
            if (is(part, Role::contact)) controls_.push_back({contactControl(part), switches});
            if (is_knob(part)) controls_.push_back({knobControl(part.designator), knobs});
            if (turnable(part)) controls_.push_back({sourceControl(part), knobs});
        }
        for (const auto& name : names)
            if (name == "lux" || name == "infrared")
                controls_.push_back({lightControl(name == "infrared"), sensors});
        arrange();
    }
    refresh();
}

void ConditionsStrip::refresh() {
    const Conditions& c = session_.conditions();
    const QSignalBlocker battery(battery_), warmth(warmth_);
    battery_->setValue(qRound(100 * c.battery));
    warmth_->setValue(qRound(c.celsius));
    QString volts;
    if (const Part* source = session_.design().circuit.source())
        if (const auto op = session_.ask(session_.restQuery(), Urgency::in_view, "now"))
            volts = QStringLiteral(" · ") +
                    QString::fromStdString(format_quantity(op->part(source->designator).voltage, Unit::volt));
    battery_value_->setText(QStringLiteral("%1 %").arg(qRound(100 * c.battery)) + volts);
    warmth_value_->setText(QString::fromStdString(format_quantity(c.celsius, Unit::celsius)));
    for (const auto& [name, toggle] : toggles_)
        if (const Part* part = session_.design().circuit.find(name))
            toggle->setChecked(c.after_events().closed(*part));
    for (const auto& [name, knob] : knobs_) {
        const QSignalBlocker quiet(knob.slider);
        if (name == "lux" || name == "infrared") {
            const double amount = name == "lux" ? c.lux : c.infrared;
            knob.slider->setValue(amount > 0 ? light_step(amount) : knob.slider->minimum());
            knob.value->setText(
                QStringLiteral("%1 %2").arg(amount, 0, 'g', 3).arg(name == "lux" ? tr("lx") : tr("W/m²")));
        } else if (const Part* source = session_.design().circuit.find(name); source && turnable(*source)) {
            knob.slider->setValue(qRound(100 * c.level(*source) / Conditions{}.level(*source)));
            knob.value->setText(
                QString::fromStdString(format_quantity(c.level(*source), level_unit(*source))));
        } else if (const Part* part = session_.design().circuit.find(name)) {
            knob.slider->setValue(qRound(100 * c.position(*part)));
            knob.value->setText(QStringLiteral("%1 %").arg(qRound(100 * c.position(*part))));
        }
    }
}

}  // namespace elkit
