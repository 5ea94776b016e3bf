#include "app/stations/brief/brief_station.hpp"

#include <QGridLayout>
#include <cmath>

#include "app/shell/session.hpp"
#include "app/theme/theme.hpp"
#include "app/widgets/card.hpp"
#include "app/widgets/figure_label.hpp"

namespace elkit {

BriefStation::BriefStation(Session& session_in, QWidget* parent) : Station(session_in, tr("Brief"), parent) {
    setSubtitle(tr("What it must do; the rest of the design is judged against this"));
    auto* wanted = new Card(tr("Wanted"));
    auto* form = new Form;
    name_ = new QLineEdit;
    purpose_ = new QLineEdit;
    form->addWide(tr("Name"), name_);
    form->addWide(tr("What for"), purpose_);
    const auto words = [this](QLineEdit* field, const QString& what, auto set) {
        connect(field, &QLineEdit::editingFinished, this, [this, field, what, set] {
            Design next = session().design();
            set(next, field->text().toStdString());
            session().edit(std::move(next), what);
        });
    };
    words(name_, tr("rename the design"), [](Design& d, std::string t) { d.name = std::move(t); });
    words(purpose_, tr("change the purpose"),
          [](Design& d, std::string t) { d.brief.purpose = std::move(t); });
    const auto number = [&](const QString& title, Unit unit, double low, double high, const QString& remark,
                            auto set) {
        auto* field = new QuantityEdit(title, unit, low, high);
        form->addField(title, field, label(remark, "small"));
        connect(field, &QuantityEdit::valueEntered, this, [this, title, set](double value) {
            Design next = session().design();
            set(next.brief, value);
            session().edit(std::move(next), tr("change %1").arg(title.toLower()));
        });
        return field;
    };
    run_time_ = number(tr("Run time"), Unit::hour, 0, 1e6, tr("from fresh cells, lit without a pause"),
                       [](Brief& b, double v) { b.run_time = v; });
    end_ = number(tr("Spent below"), Unit::percent, 5, 95, tr("of the fresh light, as the eye sees it"),
                  [](Brief& b, double v) { b.end_brightness = v / 100; });
    kits_ = number(tr("Kits"), Unit::count, 1, 1e6, tr("in this batch"),
                   [](Brief& b, double v) { b.kits = std::round(v); });
    cost_ = number(tr("Cost ceiling"), Unit::money, 0, 1e6, tr("parts for one kit; 0 for none"),
                   [](Brief& b, double v) { b.cost_ceiling = v; });
    width_ = number(tr("Room, width"), Unit::metre, 0, 2, tr("for the board; 0 for no limit"),
                    [](Brief& b, double v) { b.width = v * 1000; });
    height_ = number(tr("Room, height"), Unit::metre, 0, 2, QString(),
                     [](Brief& b, double v) { b.height = v * 1000; });
    children_ = new QCheckBox(tr("handled by children"));
    form->addField(tr("Who"), children_);
    connect(children_, &QCheckBox::clicked, this, [this](bool on) {
        Design next = session().design();
        next.brief.for_children = on;
        session().edit(std::move(next), tr("change who it is for"));
    });
    wanted->body()->addLayout(form);
    body()->addWidget(wanted);
    auto* stands = new Card(tr("How the design stands"));
    verdicts_ = new QGridLayout;
    verdicts_->setHorizontalSpacing(22);
    verdicts_->setColumnStretch(3, 1);
    stands->body()->addLayout(verdicts_);
    for (int i = 0; i < 4; ++i) {
        figures_.push_back(new FigureLabel(session(), FigureLabel::Size::large));
        wanted_.push_back(label({}, "muted"));
        judged_.push_back(label({}, "bold"));
        verdicts_->addWidget(figures_.back(), i / 2 * 2, i % 2 * 2);
        auto* below = new QVBoxLayout;
        below->setSpacing(0);
        below->addWidget(wanted_.back());
        below->addWidget(judged_.back());
        verdicts_->addLayout(below, i / 2 * 2, i % 2 * 2 + 1, Qt::AlignVCenter);
    }
    body()->addWidget(stands);
    body()->addStretch(1);
}

void BriefStation::focusRef(const QString& ref) {
    if (ref == QLatin1String("field:cost_ceiling"))
        cost_->setFocus();
    else
        run_time_->setFocus();
}

void BriefStation::refresh() {
    const Design& d = session().design();
    if (!name_->hasFocus()) name_->setText(QString::fromStdString(d.name));
    if (!purpose_->hasFocus()) {
        purpose_->setText(QString::fromStdString(d.brief.purpose));
        purpose_->setCursorPosition(0);
    }
    run_time_->setValue(d.brief.run_time);
    end_->setValue(100 * d.brief.end_brightness);
    kits_->setValue(d.brief.kits);
    cost_->setValue(d.brief.cost_ceiling);
    width_->setValue(d.brief.width / 1000);
    height_->setValue(d.brief.height / 1000);
    children_->setChecked(d.brief.for_children);
    const auto power = session().ask(session().powerQuery());
    const auto parts = session().ask(session().partsQuery());
    const auto board = session().ask(session().boardQuery());
    const auto verdict = [&](std::size_t i, bool current, const Figure& f, const QString& caption,
                             const QString& wanted, bool holds) {
        figures_[i]->setFigure(f, caption);
        if (!std::isfinite(f.value)) figures_[i]->setText(tr("endless"));
        figures_[i]->setDimmed(!current);
        wanted_[i]->setText(wanted);
        judged_[i]->setObjectName(holds ? QStringLiteral("teal") : QStringLiteral("rust"));
        judged_[i]->setText(holds ? tr("✓ holds") : tr("✗ does not hold"));
        judged_[i]->setStyleSheet(
            QStringLiteral("color: %1").arg((holds ? theme().teal : theme().rust).name()));
    };
    if (power)
        verdict(0, power.current(), power->run_time, tr("run time"),
                tr("wanted %1").arg(QString::fromStdString(format_quantity(d.brief.run_time, Unit::hour))),
                power->run_time.value >= d.brief.run_time);
    if (parts)
        verdict(1, parts.current(), parts->cost_per_kit, tr("parts for one kit"),
                d.brief.cost_ceiling > 0 ? tr("ceiling %1").arg(d.brief.cost_ceiling, 0, 'f', 2)
                                         : tr("no ceiling"),
                d.brief.cost_ceiling <= 0 || parts->cost_per_kit.value <= d.brief.cost_ceiling);
    if (power)
        verdict(2, power.current(), power->average_brightness, tr("average light while it runs"),
                tr("fresh light is 100 %"), power->average_brightness.value >= 100 * d.brief.end_brightness);
    if (!board) return;
    const double w = d.brief.width, h = d.brief.height;
    verdict(3, board.current(), board->width_figure(), tr("board, %1 mm high").arg(board->height, 0, 'f', 0),
            QString::fromStdString((w > 0 || h > 0 ? "room " : "") + room_text(w, h)), board->fits(w, h));
}

KeyFigure BriefStation::keyFigure() {
    const Brief& b = session().design().brief;
    return {
        tr("%1 kits · %2").arg(b.kits).arg(QString::fromStdString(format_quantity(b.run_time, Unit::hour)))};
}

StationInfo brief_station() {
    return {QStringLiteral("brief"),
            QObject::tr("Brief"),
            [](Session& s) { return new BriefStation(s); },
            {{QStringLiteral("brief"), QStringLiteral("pier-lantern"), {}, false, false}}};
}

}  // namespace elkit
