#include "app/stations/light/strip_panel.hpp"

#include <QComboBox>
#include <QHBoxLayout>
#include <QPushButton>
#include <cmath>

#include "app/theme/theme.hpp"
#include "app/widgets/card.hpp"
#include "app/widgets/figure_table.hpp"
#include "app/widgets/owned_box.hpp"
#include "app/widgets/picture_view.hpp"
#include "app/widgets/quantity_edit.hpp"
#include "catalogue/catalogue.hpp"

namespace elkit {

StripPanel::StripPanel(Session& session, QWidget* parent) : TabPanel(session, parent) {
    length_ = new QuantityEdit(tr("length of the strip"), Unit::metre, 0.01, 50);
    lead_length_ = new QuantityEdit(tr("length of the leads to the strip"), Unit::metre, 0.01, 50);
    for (auto* field : {length_, lead_length_}) field->setFixedWidth(px(84));
    lead_area_ = new QComboBox;
    lead_area_->setAccessibleName(tr("cross-section of the leads to the strip"));
    use_ = new QPushButton(tr("Use length and leads"));
    auto* tools = new QHBoxLayout;
    tools->addWidget(label(tr("strip"), "muted"));
    tools->addWidget(length_);
    tools->addWidget(label(tr("leads"), "muted"));
    tools->addWidget(lead_length_);
    tools->addWidget(lead_area_);
    tools->addStretch(1);
    tools->addWidget(use_);
    column_->addLayout(tools);
    auto* across = new QHBoxLayout;
    picture_ = new PictureView;
    picture_->setAccessibleName(tr("Light along the strip"));
    picture_->setMaximumScale(1);
    picture_->setMinimumSize(px(160), px(108));
    across->addWidget(picture_, 2);
    constexpr auto number = DataTable::numbers;
    table_ = makeTable(tr("Ways to feed the strip"), "strip",
                       {{tr("fed")},
                        {tr("current"), number},
                        {tr("lost in leads"), number},
                        {tr("in the strip"), number},
                        {tr("dimmest"), number}});
    across->addWidget(table_, 4);
    column_->addLayout(across, 1);
    addNote();
    setShownOnlyWithAnswer({table_, picture_});
    for (auto* field : {length_, lead_length_})
        connect(field, &QuantityEdit::valueEntered, this, &StripPanel::ask);
    connect(lead_area_, &QComboBox::activated, this, [this] {
        lead_area_asked_ = lead_area_->currentData().toDouble();
        ask();
    });
    connect(use_, &QPushButton::clicked, this, &StripPanel::use);
    connect(picture_, &PictureView::resized, this, &StripPanel::draw);
    connect(&session_, &Session::started, this, &StripPanel::forget);
}

StripQuery StripPanel::query() const {
    StripQuery q{session_.design()};
    if (!asked_) return q;
    q.length = length_->value(), q.lead_length = lead_length_->value();
    q.lead_area = lead_area_asked_;
    return q;
}

void StripPanel::forget() {
    asked_ = false;
    lead_area_asked_ = 0;
}

void StripPanel::ask() {
    asked_ = true;
    refresh();
}

void StripPanel::refresh() {
    if (lead_area_->count() > 0) offer_wires(*lead_area_, session_, lead_area_->currentData().toDouble());
    present(query(), use_, [this](const StripQuery::Value& found) { fill(found); });
}

void StripPanel::fill(const StripQuery::Value& found) {
    const StripQuestion& q = found.question;
    const StripAnswer& answer = found.answer;
    length_->setValue(q.length), lead_length_->setValue(q.lead_length);
    offer_wires(*lead_area_, session_, q.lead_area);
    table_->setRowCount(static_cast<int>(answer.runs.size()));
    for (int r = 0; r < table_->rowCount(); ++r) {
        const StripRun& run = answer.runs[static_cast<std::size_t>(r)];
        int column = 0;
        for (QTableWidgetItem* item :
             {new QTableWidgetItem(QString::fromStdString(run.name)), figure_item(run.total),
              figure_item(run.lead_drop), figure_item(run.strip_drop), figure_item(run.dimmest)})
            table_->setItem(r, column++, item);
    }
    table_->fit();
    QStringList notes{tr("%1: %2 cut lengths, %3 LEDs")
                          .arg(QString::fromStdString(format_quantity(answer.length, Unit::metre)))
                          .arg(answer.pieces)
                          .arg(answer.leds)};
    for (const std::string& remark : answer.remarks) notes << QString::fromStdString(remark);
    tell(notes.join(QStringLiteral(" · ")));
    draw();
}

void StripPanel::draw() {
    const auto found = session_.ask(query());
    if (!found) return;
    const LedType* type = known_catalogue().led(found->question.strip.text("type"));
    picture_->setDrawing(
        draw_strip(found->answer, type ? type->colour() : LedType{}.colour(), picture_->width()));
}

void StripPanel::use() {
    const auto found = session_.ask(query());
    if (!found || !found.current()) return;
    session_.edit(with_strip(session_.design(), found->question, found->answer),
                  tr("change the strip and its leads"));
    forget();
    refresh();
}

}  // namespace elkit
