#include "app/stations/brief/brief_station.hpp"

#include <QGridLayout>
#include <cmath>

#include "app/shell/session.hpp"
#include "app/theme/theme.hpp"
#include "app/widgets/card.hpp"
#include "app/widgets/field_form.hpp"
#include "app/widgets/figure_label.hpp"

namespace elkit {

BriefStation::BriefStation(Session& session_in, QWidget* parent) : Station(session_in, tr("Brief"), parent) {
    setSubtitle(tr("What it must do; the rest of the design is judged against this"));
    auto* wanted = new Card(tr("Wanted"));
    form_ = new FieldForm(session(), {"name", "purpose", "run_time", "end_brightness", "kits", "cost_ceiling",
                                      "width", "height", "depth", "for_children"});
    wanted->body()->addLayout(form_);
    body()->addWidget(wanted);
    auto* stands = new Card(tr("How the design stands"));
    verdicts_ = new QGridLayout;
    verdicts_->setHorizontalSpacing(22);
    verdicts_->setVerticalSpacing(2);
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
    QWidget* field = form_->field(ref.mid(ref.indexOf(QLatin1Char(':')) + 1).toStdString());
    (field ? field : form_->field("run_time"))->setFocus();
}

void BriefStation::refresh() {
    const Design& d = session().design();
    form_->refresh();
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
        verdict(
            0, power.current(), power->run_time, tr("run time"),
            d.brief.run_time > 0
                ? tr("wanted %1").arg(QString::fromStdString(format_quantity(d.brief.run_time, Unit::hour)))
                : tr("no wish"),
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
    if (!(b.run_time > 0)) return {tr("%1 kits").arg(b.kits)};
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
