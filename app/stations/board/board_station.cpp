#include "app/stations/board/board_station.hpp"

#include <QHBoxLayout>
#include <QPushButton>
#include <QScrollArea>
#include <cmath>

#include "app/shell/session.hpp"
#include "app/theme/theme.hpp"
#include "app/widgets/card.hpp"
#include "app/widgets/figure_label.hpp"
#include "app/widgets/picture_view.hpp"
#include "app/widgets/quantity_edit.hpp"

namespace elkit {

BoardStation::BoardStation(Session& session_in, QWidget* parent) : Station(session_in, tr("Board"), parent) {
    setSubtitle(tr("Pad board, 2.54 mm: placed and joined by itself"));
    auto* pictures = new QHBoxLayout;
    pictures->setSpacing(12);
    const auto side = [&](const QString& title, PictureView*& view) {
        auto* card = new Card(title);
        view = new PictureView;
        view->setAccessibleName(title);
        view->setSelectable({"part:"});
        view->setMaximumScale(14);
        card->body()->addWidget(view, 1);
        pictures->addWidget(card, 1);
        connect(view, &PictureView::clicked, this, [this](const QString& ref) {
            for (PictureView* v : {front_, back_}) v->setHighlight(ref);
            picked_->setText(ref.mid(ref.indexOf(QLatin1Char(':')) + 1));
        });
    };
    side(tr("Component side"), front_);
    side(tr("Solder side, mirrored"), back_);
    body()->addLayout(pictures, 4);
    auto* lower = new QHBoxLayout;
    lower->setSpacing(12);
    auto* size = new Card(tr("Size"));
    auto* figures = new QHBoxLayout;
    width_ = new FigureLabel(session(), FigureLabel::Size::large);
    height_ = new FigureLabel(session(), FigureLabel::Size::large);
    figures->addWidget(width_);
    figures->addWidget(height_);
    figures->addStretch(1);
    size->body()->addLayout(figures);
    auto* form = new Form;
    columns_ = new QuantityEdit(tr("columns of holes"), Unit::count, 0, 200);
    rows_ = new QuantityEdit(tr("rows of holes"), Unit::count, 0, 200);
    form->addField(tr("Columns"), columns_, label(tr("0: as few as it takes"), "small"));
    form->addField(tr("Rows"), rows_);
    size->body()->addLayout(form);
    size->body()->addStretch(1);
    lower->addWidget(size, 1);
    auto* proof = new Card(tr("Is the board the circuit?"));
    equal_ = label({}, "teal");
    joints_ = label({}, "muted");
    picked_ = label({}, "bold");
    proof->body()->addWidget(equal_);
    proof->body()->addWidget(joints_);
    groups_ = label({}, "small");
    groups_->setAlignment(Qt::AlignTop | Qt::AlignLeft);
    auto* scroll = new QScrollArea;
    scroll->setWidgetResizable(true);
    scroll->setFrameShape(QFrame::NoFrame);
    scroll->setWidget(groups_);
    scroll->setStyleSheet(QStringLiteral("background: transparent"));
    proof->body()->addWidget(scroll, 1);
    auto* row = new QHBoxLayout;
    row->addWidget(picked_);
    row->addStretch(1);
    auto* save = new QPushButton(tr("Everything to a folder…"));
    connect(save, &QPushButton::clicked, this, &BoardStation::exportAsked);
    row->addWidget(save);
    proof->body()->addLayout(row);
    lower->addWidget(proof, 2);
    body()->addLayout(lower, 2);
    const auto choice = [this](QuantityEdit* field, double BoardChoices::*member) {
        connect(field, &QuantityEdit::valueEntered, this, [this, member](double value) {
            Design next = session().design();
            next.board.*member = std::round(value);
            session().edit(std::move(next), tr("change the board's size"));
        });
    };
    choice(columns_, &BoardChoices::columns);
    choice(rows_, &BoardChoices::rows);
}

void BoardStation::focusRef(const QString& ref) {
    if (ref.startsWith(QLatin1String("part:")))
        front_->setHighlight(ref);
    else
        columns_->setFocus();
}

void BoardStation::refresh() {
    columns_->setValue(session().design().board.columns);
    rows_->setValue(session().design().board.rows);
    const DeepSurvey* deep = session().deep();
    const bool dimmed = session().deepPending();
    for (PictureView* view : {front_, back_}) dim(view, dimmed);
    for (FigureLabel* f : {width_, height_}) f->setDimmed(dimmed);
    if (!deep || !deep->layout) {
        equal_->setText(deep && deep->layout_error ? QString::fromStdString(deep->layout_error->text())
                                                   : tr("computing …"));
        return;
    }
    if (dimmed) {
        equal_->setText(tr("laying out anew …"));
        return;
    }
    const QString waiting = tr("laying out anew …");
    if (!tableOutdated() && equal_->text() != waiting) return;  // a slider moves nothing on the board
    const PadLayout& layout = *deep->layout;
    const Circuit& circuit = session().design().circuit;
    front_->setDrawing(draw_component_side(layout, circuit));
    back_->setDrawing(draw_solder_side(layout, circuit));
    width_->setFigure(layout.width_figure(), tr("%1 columns").arg(layout.columns));
    height_->setFigure(layout.height_figure(), tr("%1 rows").arg(layout.rows));
    const auto groups = extract_groups(layout);
    equal_->setText(deep->layout_differences.empty()
                        ? tr("✓ Yes: its solder makes the circuit's %1 nets, no other").arg(groups.size())
                        : QString::fromStdString(deep->layout_differences.front()));
    joints_->setText(tr("%1 joints, %2 jumpers, %3 gaps to keep clear")
                         .arg(layout.bridges.size())
                         .arg(layout.jumpers.size())
                         .arg(isolation_gaps(layout).size()));
    QStringList lines;
    for (const auto& group : groups) {
        QStringList names;
        for (const auto& pin : group) names << QString::fromStdString(pin);
        lines << names.join(QStringLiteral(" – "));
    }
    groups_->setText(lines.join(QStringLiteral("\n")));
}

}  // namespace elkit
