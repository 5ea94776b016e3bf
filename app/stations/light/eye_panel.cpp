#include "app/stations/light/eye_panel.hpp"

#include <QHBoxLayout>
#include <QLineEdit>
#include <QPushButton>
#include <QSet>
#include <QStyle>
#include <cmath>

#include "app/theme/theme.hpp"
#include "app/widgets/card.hpp"
#include "app/widgets/field_form.hpp"
#include "app/widgets/figure_label.hpp"
#include "app/widgets/figure_table.hpp"
#include "design/optics.hpp"
#include "light/dimming.hpp"
#include "recipes/blocks.hpp"

namespace elkit {
namespace {

QTableWidgetItem* known_figure(const Figure& figure) {
    return std::isfinite(figure.value) ? figure_item(figure) : unknown_item();
}

}  // namespace

EyePanel::EyePanel(Session& session, QWidget* parent) : TabPanel(session, parent) {
    auto* tools = new QHBoxLayout;
    form_ = new FieldForm(session_, {"distance"}, false);
    tools->addLayout(form_);
    form_->field("distance")->setFixedWidth(px(84));
    tools->addWidget(label(tr("through"), "muted"));
    optics_ = new QLineEdit;
    optics_->setObjectName(QStringLiteral("optics"));
    optics_->setAccessibleName(tr("diffuser, lens, paper with their measured factors"));
    optics_->setPlaceholderText(tr("nothing, or: paper 0.55; lens 180/75"));
    optics_->setToolTip(tr("A name and its factor, or what a light meter reads with it and without"));
    tools->addWidget(optics_, 1);
    together_ = new FigureLabel(session_, FigureLabel::Size::plain);
    together_->setAccessibleName(tr("light of all at the eye"));
    tools->addWidget(together_);
    dim_ = new QPushButton(tr("Dim it for the eyes"));
    tools->addWidget(dim_);
    column_->addLayout(tools);
    constexpr auto number = DataTable::numbers;
    table_ = makeTable(tr("What the eye gets"), "sight",
                       {{tr("light")},
                        {tr("while on"), number},
                        {tr("of the time"), number},
                        {tr("looks"), number},
                        {tr("on average"), number},
                        {tr("at the eye"), number},
                        {tr("luminance"), number},
                        {tr("pulses")}});
    column_->addWidget(table_, 1);
    addNote();
    setShownOnlyWithAnswer({table_, together_, dim_});
    connect(optics_, &QLineEdit::editingFinished, this, &EyePanel::setOptics);
    connect(dim_, &QPushButton::clicked, this, &EyePanel::dim);
}

SightQuery EyePanel::query() const {
    const Brief& brief = session_.design().brief;
    return {session_.circuit(), session_.conditions(), brief.distance, optics_factor(brief.optics)};
}

ScaledLightQuery EyePanel::dimmed(const Sight& sight) const {
    return {session_.circuit(), session_.conditions(), sight.share_for_eyes};
}

void EyePanel::setOptics() {
    if (!optics_->isModified()) return;
    auto read = parse_optics(optics_->text().toStdString());
    optics_->setProperty("bad", !read);
    optics_->style()->unpolish(optics_);
    optics_->style()->polish(optics_);
    if (!read) return session_.reportError(QString::fromStdString(read.error().text()));
    optics_->setModified(false);
    Design next = session_.design();
    next.brief.optics = std::move(read).value();
    session_.edit(next, tr("change diffuser and lens"));
}

void EyePanel::refresh() {
    form_->refresh();
    if (!optics_->isModified())
        optics_->setText(QString::fromStdString(optics_text(session_.design().brief.optics)));
    present(query(), nullptr, [this](const Sight& sight) { fill(sight); });
    const auto found = session_.ask(query());
    together_->setDimmed(!found.current());
    dim_->setEnabled(found && found.current() && found->share_for_eyes < 1 &&
                     session_.ask(dimmed(*found)).current());
}

void EyePanel::fill(const Sight& sight) {
    table_->setRowCount(static_cast<int>(sight.rows.size()));
    QStringList notes;
    QSet<QString> cautions;
    for (int r = 0; r < table_->rowCount(); ++r) {
        const SightRow& row = sight.rows[static_cast<std::size_t>(r)];
        const QString names = QString::fromStdString(row.lights.front());
        const QString what = row.lights.size() == 1
                                 ? tr("%1, %2").arg(names, QString::fromStdString(row.led))
                                 : tr("%1 × %2").arg(row.lights.size()).arg(QString::fromStdString(row.led));
        const bool lit = row.on.value > 0 || !row.visible;
        int column = 0;
        for (QTableWidgetItem* item :
             {new QTableWidgetItem(what), row.visible ? known_figure(row.on) : unknown_item(),
              lit ? figure_item(row.share) : unknown_item(), lit ? figure_item(row.seen) : unknown_item(),
              row.visible ? known_figure(row.average) : unknown_item(),
              row.visible ? known_figure(row.illuminance) : unknown_item(),
              row.visible ? known_figure(row.luminance) : unknown_item(),
              new QTableWidgetItem(lit ? QString::fromStdString(flicker_text(row.frequency, row.modulation))
                                       : tr("dark"))})
            table_->setItem(r, column++, item);
        if (!row.visible)
            notes << tr("Infrared is not seen: a camera without an infrared filter shows whether it is on.");
        if (!row.caution.empty()) cautions << QString::fromStdString(row.caution);
    }
    table_->fit();
    const bool told = std::isfinite(sight.together.value);
    together_->setVisible(told);
    if (told) together_->setFigure(sight.together, tr("of all"));
    const bool glares = sight.share_for_eyes < 1;
    dim_->setVisible(glares && sight.near_eyes);
    if (glares)
        notes << tr("The brightest is %1 times as bright as is calm to look at from near: dim it, spread it, "
                    "or turn it away.")
                     .arg(QString::fromStdString(sight.glare.text(2)));
    notes.append(cautions.values());
    notes.removeDuplicates();
    tell(notes.join(QStringLiteral(" ")));
}

void EyePanel::dim() {
    const auto found = session_.ask(query());
    if (!found || !found.current()) return;
    const auto next = session_.ask(dimmed(*found));
    if (!next.current()) return;
    if (!next) return session_.reportError(QString::fromStdString(next.error().text()));
    session_.edit(with_circuit(session_.design(), *next), tr("dim the light for the eyes"));
    refresh();
}

}  // namespace elkit
