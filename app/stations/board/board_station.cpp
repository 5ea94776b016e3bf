#include "app/stations/board/board_station.hpp"

#include <QHBoxLayout>
#include <QPushButton>
#include <QScrollArea>

#include "app/shell/session.hpp"
#include "app/theme/theme.hpp"
#include "app/widgets/card.hpp"
#include "app/widgets/field_form.hpp"
#include "app/widgets/figure_label.hpp"
#include "app/widgets/picture_view.hpp"

namespace elkit {

BoardStation::BoardStation(Session& session_in, QWidget* parent) : Station(session_in, tr("Board"), parent) {
    auto* pictures = new QHBoxLayout;
    pictures->setSpacing(12);
    const auto side = [&](const QString& title, PictureView*& view) {
        auto* card = new Card(title);
        view = new PictureView;
        view->setAccessibleName(title);
        view->setSelectable({"part:"});
        view->setMaximumScale(40);
        view->setZoomable(true);
        view->setToolTip(tr("Ctrl and wheel zoom, dragging moves, 0 fits"));
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
    form_ = new FieldForm(session(), board_methods().front().choices);
    size->body()->addLayout(form_);
    size->body()->addStretch(1);
    lower->addWidget(size, 1);
    auto* proof = new Card(tr("Is the board the circuit?"));
    equal_ = label({}, "teal");
    joints_ = label({}, "muted");
    joints_->setWordWrap(true);
    equal_->setWordWrap(true);
    picked_ = label({}, "bold");
    proof->body()->addWidget(equal_);
    proof->body()->addWidget(joints_);
    groups_ = label({}, "small");
    groups_->setAlignment(Qt::AlignTop | Qt::AlignLeft);
    groups_->setWordWrap(true);
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
    connect(save, &QPushButton::clicked, this, [this] { emit actionAsked(QStringLiteral("kit")); });
    row->addWidget(save);
    proof->body()->addLayout(row);
    lower->addWidget(proof, 2);
    body()->addLayout(lower, 2);
}

void BoardStation::focusRef(const QString& ref) {
    if (ref.startsWith(QLatin1String("part:")))
        front_->setHighlight(ref);
    else
        form_->field("columns")->setFocus();
}

KeyFigure BoardStation::keyFigure() {
    const auto board = session().ask(session().boardQuery(), Urgency::key_figure);
    if (!board) return {board.there() ? tr("no layout yet") : tr("computing …"), board.current()};
    return {QString::fromStdString(board->size), board.current()};
}

void BoardStation::refresh() {
    form_->refresh();
    if (const BoardMethod* method = find_board_method(session().design().board.method))
        setSubtitle(
            tr("%1: %2").arg(QString::fromStdString(method->name), QString::fromStdString(method->about)));
    const BoardQuery query = session().boardQuery();
    const auto shown = session().ask(query);
    for (PictureView* view : {front_, back_}) dim(view, !shown.current());
    for (FigureLabel* f : {width_, height_}) f->setDimmed(!shown.current());
    if (!shown.current()) {
        equal_->setText(shown ? tr("laying out anew …") : tr("computing …"));
        outdated({});
        return;
    }
    if (!shown) return equal_->setText(QString::fromStdString(shown.error().text()));
    if (!outdated(query.key())) return;  // a slider moves nothing on the board
    const Board& board = *shown;
    for (std::size_t k = 0; k < 2 && k < board.sides.size(); ++k)
        (k == 0 ? front_ : back_)->setDrawing(board.sides[k].picture);
    width_->setFigure(board.width_figure(), QString::fromStdString(board.size));
    height_->setFigure(board.height_figure());
    equal_->setText(
        board.differences.empty()
            ? tr("✓ Yes: its solder makes the circuit's %1 nets, no other").arg(board.groups.size())
            : QString::fromStdString(board.differences.front()));
    QStringList wires;
    for (const auto& part : board.on_wires) wires << QString::fromStdString(part);
    joints_->setText(
        QString::fromStdString(board.summary) +
        (wires.isEmpty() ? QString() : tr(" · on wires: %1").arg(wires.join(QStringLiteral(", ")))));
    QStringList lines;
    for (const auto& group : board.groups) {
        QStringList names;
        for (const auto& pin : group) names << QString::fromStdString(pin);
        lines << names.join(QStringLiteral(" – "));
    }
    groups_->setText(lines.join(QStringLiteral("\n")));
}

StationInfo board_station() {
    return {QStringLiteral("board"),
            QObject::tr("Board"),
            [](Session& s) { return new BoardStation(s); },
            {{QStringLiteral("board"), QStringLiteral("harbour-dimmer"), {}, false, false}}};
}

}  // namespace elkit
