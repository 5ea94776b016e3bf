#include "app/stations/board/board_station.hpp"

#include <QComboBox>
#include <QHBoxLayout>
#include <QPushButton>
#include <QScrollArea>
#include <QShortcut>

#include "app/shell/session.hpp"
#include "app/stations/board/board_sides.hpp"
#include "app/stations/board/compare_panel.hpp"
#include "app/stations/board/hand_panel.hpp"
#include "app/stations/board/mounts_panel.hpp"
#include "app/widgets/card.hpp"
#include "app/widgets/field_form.hpp"
#include "app/widgets/figure_label.hpp"
#include "app/widgets/folding_tabs.hpp"
#include "app/widgets/offer.hpp"
#include "app/widgets/picture_view.hpp"
#include "app/widgets/said.hpp"

namespace elkit {

BoardStation::BoardStation(Session& session_in, QWidget* parent) : Station(session_in, tr("Board"), parent) {
    sides_ = new BoardSides;
    offer_ = new Offer(sides_);
    buildTools();
    tabs_ = new FoldingTabs(QStringLiteral("board-below"), true);
    tabs_->setAccessibleName(tr("Size, and whether the board is the circuit"));
    tabs_->addTab(proofPage(), tr("Is the board the circuit?"));
    tabs_->addTab(sizePage(), tr("Size"));
    mounts_ = new MountsPanel(session());
    tabs_->addTab(mounts_, tr("Parts on it"));
    hand_ = new HandPanel(session());
    tabs_->addTab(hand_, tr("By hand"));
    compare_ = new ComparePanel(session());
    tabs_->addTab(compare_, tr("Compare methods"));
    buildKeys();
    body()->addWidget(halves(offer_, tabs_, {460, 170}), 1);
    connect(sides_, &BoardSides::clicked, this, [this](const QString& ref) {
        sides_->setHighlight(ref);
        mounts_->choose(ref);
        hand_->choose(ref);
        picked_->setText(ref.mid(ref.indexOf(QLatin1Char(':')) + 1));
    });
}

/// Of the part that is picked on one of the sides.
void BoardStation::buildKeys() {
    connect(sides_, &BoardSides::moved, this, [this](const QString& ref, QPointF by) {
        if (ref.startsWith(QLatin1String("part:"))) hand_->move(ref.mid(5), by.x(), by.y());
    });
    connect(sides_, &BoardSides::pulled, this, [this](const QString& ref, QPointF to, bool component_side) {
        hand_->pull(ref, to.x(), to.y(), component_side);
    });
    connect(sides_, &BoardSides::framed, this, [this](const QRectF& area) { hand_->keepFree(area); });
    connect(sides_, &BoardSides::activated, this, [this](const QString& ref) {
        if (ref.startsWith(QLatin1String("pull:"))) hand_->remove(ref);
    });
    const auto key = [this](const QKeySequence& keys,
                            const std::function<void(const QString&, double)>& run) {
        auto* shortcut = new QShortcut(keys, sides_);
        shortcut->setContext(Qt::WidgetWithChildrenShortcut);
        connect(shortcut, &QShortcut::activated, this, [this, run] {
            for (std::size_t side = 0; side < 2; ++side)
                if (PictureView* view = sides_->picture(side);
                    view->hasFocus() && view->selected().startsWith(QLatin1String("part:")))
                    return run(view->selected().mid(5), side == 0 ? 1 : -1);
        });
    };
    auto* away = new QShortcut(QKeySequence::Delete, sides_);
    away->setContext(Qt::WidgetWithChildrenShortcut);
    connect(away, &QShortcut::activated, this, [this] {
        for (std::size_t side = 0; side < 2; ++side)
            if (PictureView* view = sides_->picture(side); view->hasFocus())
                return hand_->remove(view->selected());
    });
    key(Qt::Key_R, [this](const QString& part, double) { hand_->turn(part); });
    constexpr double step = 1.27;  // mm
    key(Qt::SHIFT | Qt::Key_Left,
        [this](const QString& part, double sign) { hand_->move(part, -sign * step, 0); });
    key(Qt::SHIFT | Qt::Key_Right,
        [this](const QString& part, double sign) { hand_->move(part, sign * step, 0); });
    key(Qt::SHIFT | Qt::Key_Up, [this](const QString& part, double) { hand_->move(part, 0, -step); });
    key(Qt::SHIFT | Qt::Key_Down, [this](const QString& part, double) { hand_->move(part, 0, step); });
}

void BoardStation::buildTools() {
    picked_ = label({}, "bold");
    head()->addWidget(picked_);
    shown_ = new QComboBox;
    shown_->setAccessibleName(tr("which side of the board"));
    shown_->addItems({tr("both sides"), tr("component side"), tr("solder side")});
    head()->addWidget(shown_);
    connect(shown_, &QComboBox::activated, this,
            [this](int at) { sides_->choose(static_cast<BoardSides::Show>(at)); });
    connect(sides_, &BoardSides::shownChanged, this,
            [this](BoardSides::Show show) { shown_->setCurrentIndex(static_cast<int>(show)); });
    method_ = new QComboBox;
    method_->setAccessibleName(tr("how the board is made"));
    for (const BoardMethod& m : board_methods())
        method_->addItem(QString::fromStdString(m.name), QString::fromStdString(m.id));
    head()->addWidget(method_);
    connect(method_, &QComboBox::activated, this, [this](int at) {
        Design next = session().design();
        next.board.method = method_->itemData(at).toString().toStdString();
        session().edit(next, tr("make it on %1").arg(method_->itemText(at)));
    });
    files_ = new QPushButton(tr("Files…"));
    files_->setToolTip(
        tr("For the mill or the board house, in one ZIP: G-code, or Gerber, drill, netlist, order sheet"));
    connect(files_, &QPushButton::clicked, this, [this] { emit actionAsked(QStringLiteral("fabrication")); });
    head()->addWidget(files_);
    auto* save = new QPushButton(tr("Everything to a folder…"));
    connect(save, &QPushButton::clicked, this, [this] { emit actionAsked(QStringLiteral("kit")); });
    head()->addWidget(save);
}

QWidget* BoardStation::sizePage() {
    auto* page = new QWidget;
    auto* row = new QHBoxLayout(page);
    row->setSpacing(24);
    width_ = new FigureLabel(session(), FigureLabel::Size::large);
    height_ = new FigureLabel(session(), FigureLabel::Size::large);
    row->addWidget(width_, 0, Qt::AlignTop);
    row->addWidget(height_, 0, Qt::AlignTop);
    const auto fields = [&](FieldForm* form) {
        auto* widget = new QWidget;
        auto* column = new QVBoxLayout(widget);
        column->setContentsMargins(0, 0, 0, 0);
        column->addLayout(form);
        column->addStretch(1);
        row->addWidget(widget);
        return widget;
    };
    form_ = new FieldForm(session(), board_methods().front().choices);
    holes_fields_ = fields(form_);
    copper_form_ = new FieldForm(session(), board_methods().back().choices);
    copper_fields_ = fields(copper_form_);
    row->addStretch(1);
    return page;
}

QWidget* BoardStation::proofPage() {
    auto* page = new QWidget;
    auto* column = new QVBoxLayout(page);
    equal_ = label({}, "teal");
    joints_ = label({}, "muted");
    groups_ = label({}, "small");
    for (QLabel* words : {equal_, joints_, groups_}) words->setWordWrap(true);
    groups_->setAlignment(Qt::AlignTop | Qt::AlignLeft);
    column->addWidget(equal_);
    column->addWidget(joints_);
    auto* scroll = new QScrollArea;
    scroll->setWidgetResizable(true);
    scroll->setFrameShape(QFrame::NoFrame);
    auto* inside = new QWidget;  // a layout gives the words the height that they need at this width
    auto* lines = new QVBoxLayout(inside);
    lines->setContentsMargins(0, 0, 0, 0);
    lines->addWidget(groups_);
    lines->addStretch(1);
    scroll->setWidget(inside);
    scroll->setStyleSheet(QStringLiteral("background: transparent"));
    column->addWidget(scroll, 1);
    return page;
}

void BoardStation::focusRef(const QString& ref) {
    if (ref.startsWith(QLatin1String("part:"))) return sides_->setHighlight(ref);
    const bool drawn = copper_fields_->isVisibleTo(copper_fields_->parentWidget());
    QWidget* first = drawn ? copper_form_->field("board_width") : form_->field("columns");
    tabs_->showPage(first->parentWidget()->parentWidget());
    first->setFocus();
}

KeyFigure BoardStation::keyFigure() {
    const auto board = session().ask(session().boardQuery(), Urgency::key_figure);
    if (!board) return {board.there() ? tr("no layout yet") : tr("computing …"), board.current()};
    return {QString::fromStdString(board->size), board.current()};
}

void BoardStation::refresh() {
    form_->refresh(), copper_form_->refresh();
    mounts_->refresh(), hand_->refresh(), compare_->refresh();
    method_->setCurrentIndex(
        std::max(0, method_->findData(QString::fromStdString(session().design().board.method))));
    const BoardMethod* method = find_board_method(session().design().board.method);
    const bool drawn = method && method->drawn;
    holes_fields_->setVisible(!drawn), copper_fields_->setVisible(drawn), files_->setVisible(drawn);
    form_->setShown(form_->field("corner_holes"), method && method->shaped);
    sides_->setMovable(method && method->by_hand);
    if (method) {  // the tools of boards of copper leave no room for it
        setSubtitle(drawn ? QString() : said(method->about));
        method_->setToolTip(said(method->about));
    }
    const BoardQuery query = session().boardQuery();
    const auto shown = session().ask(query);
    sides_->setDimmed(!shown.current());
    for (FigureLabel* f : {width_, height_}) f->setDimmed(!shown.current());
    if (!shown.current() && showGlance(query)) return;
    if (!shown.current()) {
        equal_->setText(shown ? tr("laying out anew …") : tr("computing …"));
        outdated({});
        return;
    }
    if (!shown) {
        outdated({});
        tabs_->setTabText(0, tr("✗ No layout"));
        equal_->setText(QString::fromStdString(shown.error().text()));
        joints_->clear(), groups_->clear();
        if (session().design().circuit.parts.empty()) return lackParts();
        lackNothing();
        return offer_->say(equal_->text());
    }
    lackNothing();
    offer_->showWanted();
    if (!outdated(query.key())) return;  // a slider moves nothing on the board
    const Board& board = *shown;
    showSides(board);
    width_->setFigure(board.width_figure(), QString::fromStdString(board.size));
    height_->setFigure(board.height_figure());
    tabs_->setTabText(0, board.differences.empty() ? tr("✓ The board is the circuit")
                                                   : tr("✗ The board is not the circuit"));
    equal_->setText(
        board.differences.empty()
            ? tr("✓ Yes: its joints make the circuit's %1 nets, no other").arg(board.groups.size())
            : QString::fromStdString(board.differences.front()));
    QStringList wires;
    for (const auto& part : board.on_wires()) wires << QString::fromStdString(part);
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

void BoardStation::showSides(const Board& board) {
    std::vector<const Drawing*> pictures;
    for (const auto& side : board.sides) pictures.push_back(&side.picture);
    if (!pictures.empty()) sides_->setPictures(pictures, board.width);
}

/// What can be seen of a board at once, while it is laid out; false if that is nothing.
bool BoardStation::showGlance(const BoardQuery& query) {
    const BoardGlanceQuery at_a_glance{query};
    const auto glance = session().ask(at_a_glance);
    if (!glance || !glance.current()) return false;
    sides_->setDimmed(false);
    tabs_->setTabText(0, tr("Is the board the circuit?"));
    equal_->setText(tr("finding ways …"));
    Digester key;
    key << at_a_glance.name << at_a_glance.key();
    if (outdated(key.digest())) showSides(*glance);
    return true;
}

StationInfo board_station() {
    return {QStringLiteral("board"),
            QObject::tr("Board"),
            [](Session& s) { return new BoardStation(s); },
            {{QStringLiteral("board"), QStringLiteral("harbour-beacon"), {}, false, false}}};
}

}  // namespace elkit
