#include "app/stations/build/build_station.hpp"

#include <QBoxLayout>

#include "app/shell/session.hpp"
#include "app/widgets/picture_view.hpp"
#include "app/widgets/steps_view.hpp"
#include "design/content.hpp"

namespace elkit {

BuildStation::BuildStation(Session& session_in, QWidget* parent) : Station(session_in, tr("Build"), parent) {
    steps_ = new StepsView(session(), Qt::Horizontal, phase_name);
    picture_ = new PictureView;
    picture_->setAccessibleName(tr("Where on the board"));
    picture_->setMaximumScale(11);
    steps_->room()->addWidget(picture_, 1);
    body()->addWidget(steps_, 1);
    connect(steps_, &StepsView::stepShown, this, &BuildStation::showPlace);
}

void BuildStation::showPlace() {
    const BuildStep* step = steps_->current();
    const auto board = session().ask(session().boardQuery());
    if (!step || !board || board->sides.empty()) return;
    const bool solder_side = step->ref.starts_with("net:") || step->phase == Phase::unpowered;
    picture_->setDrawing((solder_side ? board->sides.back() : board->sides.front()).picture);
    picture_->setHighlight(QString::fromStdString(step->ref));
}

void BuildStation::focusRef(const QString& ref) {
    steps_->choose(ref.mid(ref.indexOf(QLatin1Char(':')) + 1));
    steps_->focusReading();
}

KeyFigure BuildStation::keyFigure() {
    const auto steps = session().ask(session().stepsQuery(), Urgency::key_figure);
    if (!steps) return {steps.there() ? tr("no steps yet") : tr("computing …"), steps.current()};
    int done = 0;
    for (const auto& s : *steps)
        if (const StepRecord* r = session().design().record(s.id); r && r->done) ++done;
    return {tr("step %1 of %2").arg(done).arg(steps->size()), steps.current()};
}

void BuildStation::refresh() {
    const StepsQuery query = session().stepsQuery();
    const auto shown = session().ask(query);
    steps_->setDimmed(!shown.current());
    if (!shown && shown.there()) return lackFor(shown.error());
    if (!shown) return setSubtitle(tr("computing …"));
    lackNothing();
    // nothing here follows a slider: only other steps, other records, another theme
    Digester content;
    content << query.key() << content_digest(session().design().records) << shown.current();
    if (!outdated(content.digest()) && steps_->current()) return;
    steps_->setSteps(*shown);
    setSubtitle(steps_->summary());
}

static void show_build(Session& session, Station& station) {
    session.settle();
    station.focusRef(QStringLiteral("step:volts.L1"));
}

StationInfo build_station() {
    return {QStringLiteral("build"),
            QObject::tr("Build"),
            [](Session& s) { return new BuildStation(s); },
            {{QStringLiteral("build"), QStringLiteral("pier-lantern"), show_build, false, false}}};
}

}  // namespace elkit
