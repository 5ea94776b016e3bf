#include "app/stations/trial/trial_station.hpp"

#include <QComboBox>
#include <QHBoxLayout>
#include <QLineEdit>
#include <QScrollArea>
#include <QSplitter>

#include "app/shell/session.hpp"
#include "app/theme/theme.hpp"
#include "app/widgets/card.hpp"
#include "app/widgets/data_table.hpp"
#include "app/widgets/folding_tabs.hpp"
#include "app/widgets/offer.hpp"
#include "app/widgets/panel_tools.hpp"
#include "app/widgets/picture_view.hpp"
#include "app/widgets/said.hpp"
#include "app/widgets/steps_view.hpp"
#include "board/trial/trial_board.hpp"
#include "command/command.hpp"
#include "design/content.hpp"

namespace elkit {
namespace {

std::string wire_ref(const BoardWire& w) { return "wire:" + w.from + "-" + w.to; }

}  // namespace

TrialStation::TrialStation(Session& session_in, QWidget* parent) : Station(session_in, tr("Trial"), parent) {
    auto* card = new Card({});
    picture_ = new PictureView;
    picture_->setAccessibleName(tr("Breadboard with parts and wires"));
    picture_->setSelectable({"part:", "wire:"});
    picture_->setMaximumScale(30);
    picture_->setZoomable(true);
    picture_->setToolTip(tr("Ctrl and wheel zoom, dragging moves, 0 fits"));
    card->body()->addWidget(picture_, 1);
    offer_ = new Offer(card);
    tabs_ = new FoldingTabs(QStringLiteral("trial-below"));
    tabs_->setAccessibleName(tr("Wires, and what was found"));
    tabs_->addTab(wiresPage(), tr("Wires"));
    tabs_->addTab(foundPage(), tr("What was found"));
    tabs_->addTab(differsPage(), tr("Different on the board"));
    steps_ = new StepsView(session(), Qt::Vertical, trial_phase_name);
    auto* beside = new QSplitter(Qt::Horizontal);
    beside->addWidget(halves(offer_, tabs_, {430, 190}));
    beside->addWidget(steps_);
    beside->setStretchFactor(0, 3), beside->setStretchFactor(1, 2);
    beside->setChildrenCollapsible(false);
    beside->setSizes({640, 420});
    body()->addWidget(beside, 1);
    buildTools();
    connect(picture_, &PictureView::clicked, this, &TrialStation::pick);
    connect(steps_, &StepsView::stepShown, this, [this] {
        if (const BuildStep* step = steps_->current()) picture_->setHighlight(said(step->ref));
    });
}

void TrialStation::buildTools() {
    size_ = new QComboBox;
    size_->setAccessibleName(tr("breadboard"));
    size_->addItem(tr("smallest that does"), QString());
    for (const BreadboardSize& size : breadboard_sizes()) size_->addItem(said(size.name), said(size.id));
    colours_ = new QComboBox;
    colours_->setToolTip(
        tr("By use: red plus, black minus, a colour for each other net.\nBy length: a colour for each "
           "tenth of an inch, as in kits of cut wires."));
    colours_->setAccessibleName(tr("colours of the wires"));
    for (const WireSchool& school : wire_schools()) colours_->addItem(said(school.name), said(school.id));
    for (QComboBox* box : {size_, colours_}) {
        box->setSizeAdjustPolicy(QComboBox::AdjustToMinimumContentsLengthWithIcon);
        box->setMinimumContentsLength(15);
        head()->addWidget(box);
    }
    connect(size_, &QComboBox::activated, this, [this](int at) {
        Design next = session().design();
        next.board.breadboard = size_->itemData(at).toString().toStdString();
        session().edit(next, tr("choose the breadboard"));
    });
    connect(colours_, &QComboBox::activated, this, [this](int at) {
        Design next = session().design();
        next.board.wire_colours = colours_->itemData(at).toString().toStdString();
        session().edit(next, tr("choose the colours of wires"));
    });
    tool_button(head(), tr("Plan as PDF…"), tr("The plan, the wires and the steps, to take to the bench"),
                [this] { emit actionAsked(QStringLiteral("trial-sheet")); });
}

QWidget* TrialStation::wiresPage() {
    auto* page = new QWidget;
    auto* column = new QVBoxLayout(page);
    column->setContentsMargins(0, 4, 0, 0);
    constexpr auto number = DataTable::numbers;
    wires_ = new DataTable(
        tr("Wires"),
        {{tr("#"), number}, {tr("colour")}, {tr("length"), number}, {tr("from")}, {tr("to")}, {tr("net")}});
    wires_->setObjectName(QStringLiteral("trial-wires"));
    wires_->setSelectionBehavior(QAbstractItemView::SelectRows);
    wires_->setSelectionMode(QAbstractItemView::SingleSelection);
    column->addWidget(wires_, 1);
    connect(wires_, &QTableWidget::itemSelectionChanged, this, [this] {
        const auto chosen = wires_->selectedItems();
        if (!chosen.isEmpty())
            picture_->setHighlight(wires_->item(chosen.front()->row(), 0)->data(Qt::UserRole).toString());
    });
    return page;
}

QWidget* TrialStation::foundPage() {
    auto* page = new QWidget;
    auto* column = new QVBoxLayout(page);
    auto* words = label(
        tr("A part was swapped or a value found? Type it here and press Enter: it goes into the design, "
           "and everything follows."),
        "muted");
    words->setWordWrap(true);
    column->addWidget(words);
    found_ = new QLineEdit;
    found_->setObjectName(QStringLiteral("found"));
    found_->setAccessibleName(tr("what was found at the trial"));
    found_->setPlaceholderText(tr("r1 = 390"));
    column->addWidget(found_);
    found_note_ = label({}, "small");
    found_note_->setWordWrap(true);
    column->addWidget(found_note_);
    column->addStretch(1);
    connect(found_, &QLineEdit::returnPressed, this, &TrialStation::takeFound);
    connect(found_, &QLineEdit::textEdited, this, [this](const QString& text) {
        if (text.trimmed().isEmpty()) return found_note_->clear();
        const auto meant = parse_command(text.toStdString(), session().design(), session().conditions());
        found_note_->setText(said(meant ? meant.value().preview : meant.error().text()));
    });
    return page;
}

QWidget* TrialStation::differsPage() {
    differs_ = label({}, "");
    differs_->setMargin(px(8));
    differs_->setWordWrap(true);
    differs_->setAlignment(Qt::AlignTop | Qt::AlignLeft);
    auto* scroll = new QScrollArea;
    scroll->setWidgetResizable(true);
    scroll->setFrameShape(QFrame::NoFrame);
    scroll->setWidget(differs_);
    differs_->setObjectName(QStringLiteral("clear"));
    scroll->viewport()->setObjectName(QStringLiteral("clear"));
    return scroll;
}

void TrialStation::takeFound() {
    const auto meant =
        parse_command(found_->text().toStdString(), session().design(), session().conditions());
    if (!meant) return found_note_->setText(said(meant.error().text()));
    if (!meant.value().design)
        return found_note_->setText(
            tr("\"%1\" changes no part; write it as \"r1 = 390\"").arg(found_->text()));
    session().edit(*meant.value().design,
                   tr("take over what was found: %1").arg(said(meant.value().preview)));
    found_note_->setText(tr("Taken over: %1").arg(said(meant.value().preview)));
    found_->clear();
}

void TrialStation::pick(const QString& ref) {
    picture_->setHighlight(ref);
    if (ref.startsWith(QLatin1String("part:"))) {
        const QString part = ref.mid(5);
        steps_->choose(QStringLiteral("trial.plug.") + part);
        if (found_->text().isEmpty() || found_->text().endsWith(QStringLiteral("= ")))  // nothing typed yet
            found_->setText(part.toLower() + QStringLiteral(" = "));
    } else if (ref.startsWith(QLatin1String("wire:"))) {
        for (int row = 0; row < wires_->rowCount(); ++row)
            if (wires_->item(row, 0)->data(Qt::UserRole).toString() == ref) wires_->selectRow(row);
    }
}

void TrialStation::focusRef(const QString& ref) {
    if (!ref.startsWith(QLatin1String("step:"))) return pick(ref);
    steps_->choose(ref.mid(5));
    steps_->focusReading();
}

KeyFigure TrialStation::keyFigure() {
    const auto trial = session().ask(session().trialQuery(), Urgency::key_figure);
    if (!trial) return {trial.there() ? tr("no plan yet") : tr("computing …"), trial.current()};
    const auto wires = trial->board.wires.size();
    return {wires == 1 ? tr("1 wire") : tr("%1 wires").arg(wires), trial.current()};
}

void TrialStation::fill(const Trial& trial) {
    picture_->setDrawing(trial.board.sides.front().picture);
    wires_->setRowCount(static_cast<int>(trial.board.wires.size()));
    for (int row = 0; row < wires_->rowCount(); ++row) {
        const BoardWire& w = trial.board.wires[static_cast<std::size_t>(row)];
        auto* number = new QTableWidgetItem(QString::number(row + 1));
        number->setData(Qt::UserRole, said(wire_ref(w)));
        auto* length = new QTableWidgetItem(tr("%1 mm").arg(w.length));
        for (QTableWidgetItem* item : {number, length})
            item->setTextAlignment(Qt::AlignRight | Qt::AlignVCenter);
        int column = 0;
        for (QTableWidgetItem* item :
             {number,
              new QTableWidgetItem(colour_swatch(QColor(QRgb(colour_of_wire(w.colour)))), said(w.colour)),
              length, new QTableWidgetItem(said(w.from)), new QTableWidgetItem(said(w.to)),
              new QTableWidgetItem(said(w.net))})
            wires_->setItem(row, column++, item);
    }
    wires_->fit();
    QStringList lines;
    for (const std::string& text : trial.differs) lines << said(text);
    differs_->setText(lines.join(QStringLiteral("\n\n")));
    steps_->setSteps(trial.steps);
    setSubtitle(tr("%1, %2 · %3").arg(said(trial.board.size), said(trial.board.summary), steps_->summary()));
}

void TrialStation::refresh() {
    const BoardChoices& chosen = session().design().board;
    size_->setCurrentIndex(std::max(0, size_->findData(said(chosen.breadboard))));
    colours_->setCurrentIndex(std::max(0, colours_->findData(said(chosen.wire_colours))));
    const TrialQuery query = session().trialQuery();
    const auto shown = session().ask(query);
    picture_->setDimmed(!shown.current());
    steps_->setDimmed(!shown.current());
    steps_->setVisible(bool(shown));
    if (!shown) {
        outdated({});
        if (!shown.there()) return setSubtitle(tr("computing …"));
        if (session().design().circuit.parts.empty()) return lackParts();
        lackNothing();
        return offer_->say(said(shown.error().text()));
    }
    lackNothing();
    offer_->showWanted();
    Digester content;
    content << query.key() << content_digest(session().design().records) << shown.current();
    if (outdated(content.digest())) fill(*shown);
}

static void show_trial(Session& session, Station& station) {
    session.settle();
    station.focusRef(QStringLiteral("step:trial.volts.R4"));
}

StationInfo trial_station() {
    return {QStringLiteral("trial"),
            QObject::tr("Trial"),
            [](Session& s) { return new TrialStation(s); },
            {{QStringLiteral("trial"), QStringLiteral("harbour-dimmer"), show_trial, true, false}}};
}

}  // namespace elkit
