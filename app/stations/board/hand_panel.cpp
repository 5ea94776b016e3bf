#include "app/stations/board/hand_panel.hpp"

#include <QCheckBox>
#include <QComboBox>
#include <QHBoxLayout>
#include <QLineEdit>
#include <QPushButton>
#include <QScrollArea>

#include "app/theme/theme.hpp"
#include "app/widgets/card.hpp"
#include "app/widgets/said.hpp"
#include "board/by_hand.hpp"

namespace elkit {
namespace {

QString millimetres(double mm) { return QString::number(mm, 'f', 2); }

QTableWidgetItem* spot_cell(const QString& text, bool number) {
    auto* item = new QTableWidgetItem(text);
    if (number) item->setTextAlignment(Qt::AlignRight | Qt::AlignVCenter);
    return item;
}

}  // namespace

HandPanel::HandPanel(Session& session, QWidget* parent) : TabPanel(session, parent) {
    table_ = makeTable(tr("Where parts lie"), "spots",
                       {{tr("part")},
                        {tr("mm from the left"), DataTable::numbers},
                        {tr("mm from above"), DataTable::numbers},
                        {tr("turned"), DataTable::numbers},
                        {tr("stays")}},
                       true);
    auto* row = new QHBoxLayout;
    row->addWidget(table_, 5);
    auto* inside = new QWidget;  // its fields keep their height, however little of it is seen
    auto* beside = new QVBoxLayout(inside);
    beside->setContentsMargins(0, 0, 0, 0);
    auto* of_part = new QHBoxLayout;
    auto* of_all = new QHBoxLayout;
    turn_ = new QPushButton(tr("Turn"));
    turn_->setToolTip(tr("By 90° clockwise (R)"));
    keep_ = new QCheckBox(tr("stays there"));
    anew_ = new QPushButton(tr("Arrange the rest anew"));
    anew_->setToolTip(tr("All parts but those that stay are laid out again"));
    tracks_ = new QPushButton(tr("Tracks anew"));
    tracks_->setToolTip(tr("Parts stay; all that joins them is laid again, which may find shorter ways"));
    span_ = new QComboBox;
    span_->setAccessibleName(tr("legs apart"));
    span_->setToolTip(tr("How far its legs are bent from each other: further apart it reaches over more"));
    for (QWidget* w : std::initializer_list<QWidget*>{turn_, keep_, span_}) of_part->addWidget(w);
    for (QWidget* w : std::initializer_list<QWidget*>{anew_, tracks_}) of_all->addWidget(w);
    for (QHBoxLayout* tools : {of_part, of_all}) {
        tools->addStretch(1);
        beside->addLayout(tools);
    }
    buildChoices(beside);
    beside->addStretch(1);
    auto* scroll = new QScrollArea;
    scroll->setWidgetResizable(true);
    scroll->setFrameShape(QFrame::NoFrame);
    scroll->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    scroll->setStyleSheet(QStringLiteral("background: transparent"));
    scroll->setWidget(inside);
    row->addWidget(scroll, 4);
    column_->addLayout(row, 1);
    addNote();
    setMinimumHeight(px(190));  // of its fields most are seen at once
    connect(turn_, &QPushButton::clicked, this, [this] { turn(part()); });
    connect(keep_, &QCheckBox::clicked, this, &HandPanel::keep);
    connect(anew_, &QPushButton::clicked, this,
            [this] { session_.edit(arranged_anew(session_.design()), tr("arrange the rest anew")); });
    connect(tracks_, &QPushButton::clicked, this,
            [this] { session_.edit(tracks_anew(session_.design()), tr("lay anew what joins")); });
    connect(span_, &QComboBox::activated, this, [this](int at) { bend(span_->itemData(at).toDouble()); });
    connect(table_, &QTableWidget::itemSelectionChanged, this, [this] {
        if (!filling_) showPart();
    });
}

void HandPanel::buildChoices(QBoxLayout* column) {
    form_ = new Form;
    const auto box = [&](const QString& name, std::string BoardChoices::*choice, const QString& what) {
        auto* combo = new QComboBox;
        combo->setAccessibleName(name);
        combo->setSizeAdjustPolicy(QComboBox::AdjustToMinimumContentsLengthWithIcon);
        combo->setMinimumContentsLength(12);
        form_->addWide(name, combo);
        connect(combo, &QComboBox::activated, this, [this, combo, choice, what](int at) {
            Design next = session_.design();
            next.board.*choice = combo->itemData(at).toString().toStdString();
            session_.edit(next, what);
        });
        return combo;
    };
    shape_ = box(tr("shape"), &BoardChoices::shape, tr("choose the board's shape"));
    shape_->addItem(tr("rectangle"), QString());
    shape_->addItem(tr("rounded corners"), QStringLiteral("rounded"));
    shape_->addItem(tr("round"), QStringLiteral("round"));
    shape_->addItem(tr("as the face is drawn"), QStringLiteral("outline"));
    area_ = box(tr("filled with"), &BoardChoices::area, tr("choose what fills the board"));
    lights_ = box(tr("lights"), &BoardChoices::lights, tr("choose where the lights stand"));
    lights_->addItem(tr("where they suit the board"), QString());
    lights_->addItem(tr("where the face has them"), QStringLiteral("face"));
    parting_ = box(tr("panel parted by"), &BoardChoices::panel_parting, tr("choose how a panel is parted"));
    parting_->addItem(tr("grooves"), QString());
    parting_->addItem(tr("slots and tabs that break"), QStringLiteral("tabs"));
    const auto line = [&](const QString& name, const QString& example) {
        auto* edit = new QLineEdit;
        edit->setAccessibleName(name);
        edit->setPlaceholderText(example);
        form_->addWide(name, edit);
        return edit;
    };
    free_ = line(tr("stays free"), tr("left top width height; … [mm]"));
    passed_ = line(tr("tracks pass"), tr("net left top; … [mm]"));
    words_ = line(tr("words"), tr("words anywhere; left below words; …"));
    connect(passed_, &QLineEdit::editingFinished, this, [this] {
        auto pulls = read_pulls(passed_->text().toStdString());
        if (!pulls) return tell(said(pulls.error().text()));
        session_.edit(with_pulls(session_.design(), std::move(pulls).value(), board()),
                      tr("say what tracks pass"));
    });
    connect(free_, &QLineEdit::editingFinished, this, [this] {
        auto areas = read_keep_out(free_->text().toStdString());
        if (!areas) return tell(said(areas.error().text()));
        session_.edit(with_keep_out(session_.design(), std::move(areas).value(), board()),
                      tr("keep areas free"));
    });
    connect(words_, &QLineEdit::editingFinished, this, [this] {
        auto texts = read_board_texts(words_->text().toStdString());
        if (!texts) return tell(said(texts.error().text()));
        Design next = session_.design();
        next.board.texts = std::move(texts).value();
        session_.edit(next, tr("write on the board"));
    });
    choices_ = new QWidget;
    choices_->setLayout(form_);
    column->addWidget(choices_);
}

QString HandPanel::part() const {
    const int row = table_->currentRow();
    return row < 0 || !table_->item(row, 0) ? QString() : table_->item(row, 0)->text();
}

void HandPanel::choose(const QString& ref) {
    if (!ref.startsWith(QLatin1String("part:"))) return;
    for (int row = 0; row < table_->rowCount(); ++row)
        if (table_->item(row, 0)->text() == ref.mid(5)) table_->setCurrentCell(row, 0);
}

void HandPanel::move(const QString& part, double dx, double dy) {
    if (part.isEmpty() || !board()) return;
    session_.edit(moved_by_hand(session_.design(), *board(), part.toStdString(), dx, dy),
                  tr("move %1").arg(part));
}

void HandPanel::pull(const QString& ref, double x, double y, bool component_side) {
    if (!board()) return;
    const Design& design = session_.design();
    const QString name = ref.mid(ref.indexOf(QLatin1Char(':')) + 1);
    if (ref.startsWith(QLatin1String("pull:")))
        session_.edit(pull_moved_by_hand(design, *board(), name.toULongLong(), x, y),
                      tr("pull a track elsewhere"));
    else
        session_.edit(pulled_by_hand(design, *board(), {name.toStdString(), x, y, component_side, {}}),
                      tr("pull a track of %1").arg(name));
}

void HandPanel::keepFree(const QRectF& area) {
    if (!board() || area.width() < 0.5 || area.height() < 0.5) return;  // a slip of the hand
    session_.edit(
        kept_free_by_hand(session_.design(), *board(), {area.x(), area.y(), area.width(), area.height(), {}}),
        tr("keep an area free"));
}

void HandPanel::remove(const QString& ref) {
    const std::size_t index = ref.mid(5).toULongLong();
    if (ref.startsWith(QLatin1String("pull:"))) {
        session_.edit(pull_let_go(session_.design(), index), tr("let a track go"));
        return;
    }
    Design next = session_.design();
    auto& areas = next.board.keep_out;
    if (!ref.startsWith(QLatin1String("free:")) || index >= areas.size()) return;
    areas.erase(areas.begin() + static_cast<std::ptrdiff_t>(index));
    session_.edit(next, tr("give an area back"));
}

void HandPanel::turn(const QString& part) {
    if (part.isEmpty() || !board()) return;
    session_.edit(turned_by_hand(session_.design(), *board(), part.toStdString(), 90),
                  tr("turn %1").arg(part));
}

void HandPanel::bend(double span) {
    if (part().isEmpty() || !board()) return;
    session_.edit(bent_by_hand(session_.design(), *board(), part().toStdString(), span),
                  tr("bend the legs of %1").arg(part()));
}

void HandPanel::keep(bool locked) {
    if (part().isEmpty() || !board()) return;
    session_.edit(locked_by_hand(session_.design(), *board(), part().toStdString(), locked),
                  locked ? tr("keep %1 in its place").arg(part()) : tr("let %1 go").arg(part()));
}

void HandPanel::refresh() {
    const BoardMethod* method = find_board_method(session_.design().board.method);
    const bool by_hand = method && method->by_hand, drawn = method && method->drawn;
    for (QWidget* w : std::initializer_list<QWidget*>{turn_, keep_, anew_}) w->setEnabled(by_hand);
    const BoardChoices& chosen = session_.design().board;
    choices_->setVisible(by_hand);
    for (QWidget* w : std::initializer_list<QWidget*>{area_, parting_, words_}) form_->setShown(w, drawn);
    form_->setShown(shape_, method && method->shaped);
    tracks_->setVisible(drawn || (!chosen.ways.empty() && chosen.ways_by == chosen.method));
    tracks_->setText(drawn ? tr("Tracks anew") : tr("Joints anew"));
    if (!by_hand) {
        board_.reset();
        table_->setRowCount(0);
        filled_ = {};
        return tell(tr("On this board parts find their places by themselves."));
    }
    QStringList nets{tr("nothing")};
    for (const std::string& net : session_.design().circuit.nets()) nets << said(net);
    if (nets != nets_) {
        nets_ = nets;
        area_->clear();
        for (int k = 0; k < nets.size(); ++k) area_->addItem(nets[k], k == 0 ? QString() : nets[k]);
    }
    for (const auto& [box, word] : {std::pair{shape_, &chosen.shape},
                                    {area_, &chosen.area},
                                    {lights_, &chosen.lights},
                                    {parting_, &chosen.panel_parting}})
        box->setCurrentIndex(std::max(0, box->findData(said(*word))));
    if (!words_->hasFocus()) words_->setText(said(board_texts_text(chosen.texts)));
    const BoardQuery query = session_.boardQuery();
    const auto made = session_.ask(query);
    if (!made.current()) return followHand(query);
    const bool other = query.key() != filled_;
    if (!made)
        board_.reset(), filled_ = {};
    else if (other)
        filled_ = query.key(), board_ = *made, made_of_ = session_.design().board, fill(*board_);
    const BoardChoices shown = board() ? lying_on(chosen, *board()) : chosen;
    if (!free_->hasFocus()) free_->setText(said(keep_out_text(shown.keep_out)));
    if (!passed_->hasFocus()) passed_->setText(said(pulls_text(shown.pulls)));
    if (!made) return tell(said(made.error().text()));
    if (!other) return;
    if (!drawn)
        return tell(tr(
            "Drag parts, joints and links from hole to hole; R turns a part, Shift and the arrow keys "
            "move it. Shift and the mouse draw an area that stays free. Delete takes back what is picked."));
    tell(tr(
        "Drag parts, and tracks to where they should pass; R turns a part, Shift and the arrow keys move it. "
        "Shift and the mouse draw an area that stays free. Delete takes back what is picked."));
}

/// The next change by hand begins where the one before has put things, though they are not laid out yet.
void HandPanel::followHand(const BoardQuery& query) {
    if (board_ && board_->method != session_.design().board.method) board_.reset();  // of another kind
    if (!board_) return;
    const auto glance = session_.ask(BoardGlanceQuery{query});
    if (glance && glance.current())
        board_ = *glance, made_of_ = session_.design().board;
    else
        board_ = as_put(std::move(*board_), made_of_, session_.design()), made_of_ = session_.design().board;
    filled_ = {};
}

void HandPanel::fill(const Board& board) {
    const QString before = part();
    filling_ = true;
    table_->setRowCount(static_cast<int>(board.parts.size()));
    for (int row = 0; row < table_->rowCount(); ++row) {
        const BoardPart& p = board.parts[static_cast<std::size_t>(row)];
        bool stays = false;
        if (spots_are_for(session_.design().board, board.method))
            for (const PartSpot& s : session_.design().board.spots)
                stays |= s.part == p.designator && s.locked;
        int column = 0;
        for (const QString& text : {said(p.designator), millimetres(p.x), millimetres(p.y),
                                    tr("%1°").arg(p.turn), stays ? tr("yes") : QString()}) {
            table_->setItem(row, column, spot_cell(text, column > 0 && column < 4));
            ++column;
        }
        if (said(p.designator) == before) table_->setCurrentCell(row, 0);
    }
    if (table_->currentRow() < 0 && table_->rowCount() > 0) table_->setCurrentCell(0, 0);
    table_->fit();
    filling_ = false;
    showPart();
}

void HandPanel::showPart() {
    const int at = table_->currentRow();
    keep_->setChecked(at >= 0 && table_->item(at, 4) && !table_->item(at, 4)->text().isEmpty());
    const BoardPart* picked = board() ? board()->part(part().toStdString()) : nullptr;
    span_->clear();
    if (picked)
        for (const double mm : picked->spans) span_->addItem(tr("legs %1 mm").arg(millimetres(mm)), mm);
    span_->setVisible(span_->count() > 1);
    if (picked && picked->span > 0) span_->setCurrentIndex(std::max(0, span_->findData(picked->span)));
}

}  // namespace elkit
