#include "app/stations/circuit/circuit_station.hpp"

#include <QAction>
#include <QApplication>
#include <QCheckBox>
#include <QClipboard>
#include <QHBoxLayout>
#include <QHeaderView>
#include <QKeyEvent>
#include <QPushButton>
#include <QScrollBar>
#include <QStackedWidget>
#include <QTableWidget>
#include <array>

#include "app/shell/session.hpp"
#include "app/stations/circuit/behaviour_panel.hpp"
#include "app/stations/circuit/goal_chooser.hpp"
#include "app/stations/circuit/meter_panel.hpp"
#include "app/stations/circuit/pictures_panel.hpp"
#include "app/stations/circuit/recipe_page.hpp"
#include "app/stations/circuit/spread_panel.hpp"
#include "app/stations/circuit/sweep_panel.hpp"
#include "app/stations/circuit/time_lane.hpp"
#include "app/stations/circuit/wiring_panel.hpp"
#include "app/stave/stave_widget.hpp"
#include "app/theme/theme.hpp"
#include "app/widgets/card.hpp"
#include "app/widgets/data_table.hpp"
#include "app/widgets/figure_label.hpp"
#include "app/widgets/figure_table.hpp"
#include "app/widgets/folding_tabs.hpp"
#include "app/widgets/offer.hpp"
#include "circuit/chain.hpp"
#include "circuit/edit.hpp"
#include "circuit/part_kind.hpp"
#include "command/command.hpp"
#include "command/parts_table.hpp"
#include "engine/figures.hpp"
#include "kit/firmware.hpp"
#include "recipes/blocks.hpp"

namespace elkit {

/// The nets of all pins but the first: "b OUT, e GND".
static std::string other_pins(const Part& part) {
    std::string text;
    for (std::size_t k = 1; k < part.pins.size(); ++k)
        text += (text.empty() ? "" : ", ") + part.pins[k].name + " " + part.pins[k].net;
    return text;
}

CircuitStation::CircuitStation(Session& session_in, QWidget* parent)
    : Station(session_in, tr("Circuit"), parent) {
    auto* card = new Card({});
    buildTools();
    stave_ = new StaveWidget(session());
    offer_ = new Offer(stave_);
    card->body()->addWidget(offer_, 1);
    connect(offer_, &Offer::asked, this, [this] { emit actionAsked(QStringLiteral("do")); });
    stave_->setToolTip(tr(
        "Double-click a value to change it, a line to rename it, a switch to turn it. Drag a dot to another "
        "line to reconnect, a line or part down into Time to see it there. Right click for more. "
        "Ctrl and wheel zoom, dragging moves, 0 fits."));
    buildTable();
    tabs_ = new FoldingTabs(QStringLiteral("circuit-below"));
    tabs_->setAccessibleName(tr("Parts, time, meter, sweep and batch"));
    behaviour_ = new BehaviourPanel(session());
    time_ = new TimeLane(session());
    meter_ = new MeterPanel(session());
    sweep_ = new SweepPanel(session());
    spread_ = new SpreadPanel(session());
    tabs_->addTab(table_, tr("Parts as rows"));
    tabs_->addTab(behaviour_, tr("What it does"));
    tabs_->addTab(pictures_ = new PicturesPanel(session()), tr("Pictures"));
    tabs_->addTab(wiring_ = new WiringPanel(session()), tr("Wiring"));
    tabs_->addTab(time_, tr("Time"));
    tabs_->addTab(meter_, tr("Meter"));
    tabs_->addTab(sweep_, tr("Sweep"));
    tabs_->addTab(spread_, tr("Batch on paper"));
    recipes_ = new RecipePage(session());
    pages_ = new QStackedWidget;
    pages_->addWidget(halves(card, tabs_, {390, 240}));
    pages_->addWidget(recipes_);
    body()->addWidget(pages_, 1);
    connect(recipes_, &RecipePage::done, this, [this] { showRecipes(false); });
    connect(recipes_, &RecipePage::anythingAsked, this, [this] { emit actionAsked(QStringLiteral("do")); });
    connect(&session(), &Session::started, this, [this] { showRecipes(false), circuit_wanted_ = false; });
    wireStave();
}

void CircuitStation::buildTools() {
    QHBoxLayout* tools = head();
    intents_ = new QPushButton(tr("What should it do?"));
    intents_->setObjectName(QStringLiteral("whatShouldItDo"));
    intents_->setCheckable(true);
    intents_->setShortcut(QKeySequence(Qt::ALT | Qt::Key_W));
    intents_->setToolTip(
        tr("Make it blink, stay on for a while, remember …: circuits that size themselves from what "
           "they should do (Alt W)"));
    tools->addWidget(intents_);
    connect(intents_, &QPushButton::clicked, this, &CircuitStation::showRecipes);
    total_ = new FigureLabel(session(), FigureLabel::Size::plain);
    period_ = new FigureLabel(session(), FigureLabel::Size::plain);
    mean_ = new FigureLabel(session(), FigureLabel::Size::plain);
    for (auto* figure : {total_, period_, mean_}) tools->addWidget(figure);
    state_ = new QPushButton;
    state_->setShortcut(QKeySequence(Qt::ALT | Qt::Key_S));
    state_->setToolTip(tr("This circuit can rest in more than one state (Alt S)"));
    state_->hide();
    tools->addWidget(state_);
    connect(state_, &QPushButton::clicked, this, &CircuitStation::showNextState);
    true_height_ = new QCheckBox(tr("true height"));
    true_height_->setObjectName(QStringLiteral("trueHeight"));
    true_height_->setToolTip(
        tr("Lines at heights proportional to their voltage: shows where the volts are spent (Alt H)"));
    true_height_->setShortcut(QKeySequence(Qt::ALT | Qt::Key_H));
    tools->addWidget(true_height_);
    connect(true_height_, &QCheckBox::toggled, this, [this](bool on) {
        StaveView view = session().staveView();
        view.true_height = on;
        session().setStaveView(view);
    });
}

void CircuitStation::buildTable() {
    table_ = new DataTable(tr("Parts of the circuit"),
                           {{tr("part")},
                            {tr("kind")},
                            {tr("value")},
                            {tr("from")},
                            {tr("to")},
                            {tr("current"), DataTable::numbers},
                            {tr("power"), DataTable::numbers}},
                           25);
    table_->setAccessibleDescription(tr("Rows can be copied to a spreadsheet and pasted from one"));
    table_->setMinimumHeight(px(80));
    table_->setContextMenuPolicy(Qt::ActionsContextMenu);
    auto* copy = new QAction(tr("Copy the rows\tCtrl+C"), table_);
    auto* paste = new QAction(tr("Paste parts from a spreadsheet\tCtrl+V"), table_);
    connect(copy, &QAction::triggered, this, &CircuitStation::copyRows);
    connect(paste, &QAction::triggered, this, &CircuitStation::pasteRows);
    table_->addActions({copy, paste});
    table_->installEventFilter(this);
    connect(table_->verticalScrollBar(), &QScrollBar::valueChanged, this, &CircuitStation::fillFiguresInView);
    connect(table_->verticalScrollBar(), &QScrollBar::rangeChanged, this, &CircuitStation::fillFiguresInView);
    show_workings(table_, session());
    connect(table_, &QTableWidget::cellChanged, this, &CircuitStation::edited);
}

void CircuitStation::wireStave() {
    const auto show_moment = [this](const OperatingPoint* readings) {
        stave_->showMoment(readings ? std::optional(session().staveAt(*readings)) : std::nullopt);
    };
    connect(time_, &TimeLane::momentShown, this, show_moment);
    connect(behaviour_, &BehaviourPanel::pictureShown, this, show_moment);
    connect(tabs_, &QTabWidget::currentChanged, this, [this] {
        if (tabs_->currentWidget() != time_ && tabs_->currentWidget() != behaviour_)
            stave_->showMoment(std::nullopt);
        if (wiring_->isVisible()) wiring_->refresh();
        showProbes();
    });
    connect(wiring_, &WiringPanel::partChosen, this,
            [this](const QString& part) { focusRef(QStringLiteral("part:") + part); });
    connect(meter_, &MeterPanel::probesMoved, this, &CircuitStation::showProbes);
    connect(stave_, &StaveWidget::netTouched, this, [this](const QString& net) {
        if (tabs_->currentWidget() == meter_) meter_->touch(net);
    });
    connect(stave_, &StaveWidget::traceWanted, this, [this](const QString& probe) {
        tabs_->showPage(time_);
        time_->toggleProbe(probe);
    });
    connect(stave_, &StaveWidget::probeWanted, this, [this](const QString& net, bool red) {
        tabs_->showPage(meter_);
        meter_->probe(net, red);
    });
}

bool CircuitStation::eventFilter(QObject* watched, QEvent* event) {
    if (watched == table_ && event->type() == QEvent::KeyPress) {
        auto* key = static_cast<QKeyEvent*>(event);
        if (key->matches(QKeySequence::Paste)) return pasteRows(), true;
        if (key->matches(QKeySequence::Copy)) return copyRows(), true;
        if (key->key() == Qt::Key_Delete && table_->currentRow() >= 0) return deleteRow(), true;
    }
    return Station::eventFilter(watched, event);
}

void CircuitStation::deleteRow() {
    const std::string part = table_->item(table_->currentRow(), 0)->text().toStdString();
    auto circuit = delete_part(session().design().circuit, part);
    if (!circuit) return session().reportError(QString::fromStdString(circuit.error().text()));
    session().edit(with_circuit(session().design(), std::move(circuit).value()),
                   tr("delete %1").arg(QString::fromStdString(part)));
}

void CircuitStation::copyRows() {
    std::vector<Part> parts;
    for (const QModelIndex& row : table_->selectionModel()->selectedRows())
        parts.push_back(session().design().circuit.parts.at(static_cast<std::size_t>(row.row())));
    if (parts.empty()) parts = session().design().circuit.parts;
    QApplication::clipboard()->setText(QString::fromStdString(parts_as_csv(parts)));
}

void CircuitStation::pasteRows() {
    auto next = with_parts_from_table(session().design(), QApplication::clipboard()->text().toStdString(),
                                      Merge::replace);
    if (!next) return session().reportError(QString::fromStdString(next.error().text()));
    session().edit(next.value(), tr("paste parts"));
}

void CircuitStation::showRecipes(bool shown) {
    circuit_wanted_ = !shown, for_want_of_parts_ = false;
    intents_->setChecked(shown);
    true_height_->setVisible(!shown);
    pages_->setCurrentIndex(shown ? 1 : 0);
    if (isVisible()) refresh();
}

/// Where the meter's probes stand, while it is in use.
void CircuitStation::showProbes() {
    const bool used = tabs_->currentWidget() == meter_;
    StaveView view = session().staveView();
    const std::string red = used ? meter_->red().toStdString() : std::string(),
                      black = used ? meter_->black().toStdString() : std::string();
    if (view.red_probe == red && view.black_probe == black) return;
    view.red_probe = red, view.black_probe = black;
    session().setStaveView(view);
}

/// The states of rest of a circuit that could have several, and its cycle where it moves.
Shown<std::vector<OperatingPoint>> CircuitStation::states() {
    if (!may_latch(*session().circuit())) return {{}, true};
    const auto run = session().ask(session().runQuery(), Urgency::in_view, "now");
    if (!run || run->moves()) return {{}, run.current()};
    return session().ask(StatesQuery(session().circuit(), session().conditions()));
}

void CircuitStation::showNextState() {
    const auto all = states();
    if (!all || all->size() < 2) return;
    shown_state_ = (shown_state_ + 1) % all->size();
    stave_->showMoment(shown_state_ ? std::optional(session().staveAt((*all)[shown_state_])) : std::nullopt);
    refresh();
}

void CircuitStation::focusRef(const QString& ref) {
    if (ref == QLatin1String("field:goals")) return showRecipes(true);
    showRecipes(false);
    const QString name = ref.mid(ref.indexOf(QLatin1Char(':')) + 1);
    stave_->reveal(ref.startsWith(QLatin1String("net:")) ? ref : QStringLiteral("value:") + name);
    stave_->setFocus();
}

void CircuitStation::edited(int row, int column) {
    if (filling_ || column != 2) return;
    const std::string designator = table_->item(row, 0)->text().toStdString();
    const Part* part = session().design().circuit.find(designator);
    if (!part) return;
    auto next = set_parameter(session().design(), designator, part_kind(part->kind)->value_key,
                              table_->item(row, 2)->text().toStdString());
    if (next)
        session().edit(next.value(), tr("change %1").arg(QString::fromStdString(designator)));
    else
        session().reportError(QString::fromStdString(next.error().text()));
    refresh();
}

void CircuitStation::refresh() {
    const bool none = session().design().circuit.parts.empty();
    if (none && !circuit_wanted_ && !intents_->isChecked()) {
        showRecipes(true);
        for_want_of_parts_ = true;
        return;
    }
    if (!none && for_want_of_parts_) return showRecipes(false);
    if (pages_->currentWidget() == recipes_) recipes_->refresh();
    if (none)
        offer_->say(
            tr("There are no parts yet. Say the first ones, such as: battery 3 x LR6. Rows of a spreadsheet "
               "can be pasted into the table below."),
            tr("Do anything (Ctrl K)"));
    else
        offer_->showWanted();
    const auto now = session().ask(session().restQuery(), Urgency::in_view, "now");
    fillTable();
    const auto& parts = session().design().circuit.parts;
    tabs_->setTabVisible(tabs_->indexOf(behaviour_), !controllers_of(session().design().circuit).empty());
    tabs_->setTabVisible(tabs_->indexOf(pictures_), std::any_of(parts.begin(), parts.end(), shows_pictures));
    tabs_->setTabVisible(tabs_->indexOf(wiring_), joined_by_wires(session().design().circuit));
    if (wiring_->isVisible()) wiring_->refresh();
    if (now) total_->setFigure(total_figure(*now), tr("from the supply"));
    total_->setDimmed(!now.current());
    const bool could = may_move(*session().circuit());
    const auto run =
        could ? session().ask(session().runQuery(), Urgency::in_view, "now") : Shown<LongRun>({}, true);
    const bool repeats = run && run->moves();
    for (FigureLabel* f : {period_, mean_}) f->setVisible(repeats), f->setDimmed(!run.current());
    total_->setVisible(!repeats && now);
    if (pages_->currentWidget() == recipes_)  // they are of the circuit as it is
        for (FigureLabel* figure : {total_, period_, mean_}) figure->hide();
    if (repeats) {
        period_->setFigure(run->steady().period_figure(),
                           run->steady().repeats ? tr("a cycle") : tr("averaged over"));
        mean_->setFigure(run->steady().current_figure(), tr("on average"));
    }
    const auto all = states();
    const std::size_t count = all && all.current() ? all->size() : 0;
    if (count < 2 && shown_state_) stave_->showMoment(std::nullopt);
    if (count < 2) shown_state_ = 0;
    state_->setVisible(count > 1 && pages_->currentWidget() != recipes_);
    state_->setText(tr("state %1 of %2").arg(shown_state_ + 1).arg(count));
    setSubtitle(now.there() && !now ? QString::fromStdString(now.error().text())
                : repeats           ? tr("it moves")
                                    : tr("higher is more volts"));
}

KeyFigure CircuitStation::keyFigure() {
    const auto now = session().ask(session().restQuery(), Urgency::in_view, "now");
    if (now.there() && !now) return {tr("not computable yet"), now.current()};
    if (may_move(*session().circuit())) {
        const auto run = session().ask(session().runQuery(), Urgency::key_figure, "now");
        if (run && run->moves())
            return {
                run->steady().repeats
                    ? tr("repeats in %1").arg(QString::fromStdString(run->steady().period_figure().text()))
                    : tr("never repeats"),
                run.current()};
    }
    if (!now) return {tr("computing …"), false};
    const QString total = QString::fromStdString(total_figure(*now).text());
    for (const Part& part : session().circuit()->parts)
        if (is(part, Role::stays))
            return {tr("%1 %2 · %3")
                        .arg(QString::fromStdString(part.designator),
                             session().conditions().closed(part) ? tr("on") : tr("off"), total),
                    now.current()};
    return {total, now.current()};
}

/// The first and the last row in view, with a few more on both sides; of a short table all.
std::pair<int, int> CircuitStation::rowsInView() const {
    constexpr int short_table = 60, more = 10;
    const int rows = table_->rowCount();
    if (rows <= short_table) return {0, rows - 1};
    const int first = std::max(0, table_->rowAt(0) - more),
              last = table_->rowAt(table_->viewport()->height());
    return {first, last < 0 ? rows - 1 : std::min(rows - 1, last + more)};
}

void CircuitStation::fillTable() {
    filling_ = true;
    const auto& parts = session().design().circuit.parts;
    if (table_->rowCount() != static_cast<int>(parts.size()))
        table_->setRowCount(static_cast<int>(parts.size()));
    for (int r = 0; r < table_->rowCount(); ++r) fillRow(r, parts[static_cast<std::size_t>(r)]);
    filling_ = false;
    fillFiguresInView();
}

/// Also when other rows come into view.
void CircuitStation::fillFiguresInView() {
    const auto& parts = session().design().circuit.parts;
    if (filling_ || table_->rowCount() != static_cast<int>(parts.size())) return;
    const auto now = session().ask(session().restQuery(), Urgency::in_view, "now");
    filling_ = true;
    for (auto [r, last] = rowsInView(); r <= last; ++r) {
        if (now) fillFigures(r, parts[static_cast<std::size_t>(r)], *now);
        for (int c = 5; c < 7 && !now; ++c) {
            auto* unknown = unknown_item();
            unknown->setFlags(Qt::ItemIsEnabled | Qt::ItemIsSelectable);
            table_->setItem(r, c, unknown);
        }
    }
    filling_ = false;
    table_->fit();
}

void CircuitStation::fillRow(int r, const Part& part) {
    const bool editable = part_kind(part.kind) && !part_kind(part.kind)->value_key.empty();
    const QStringList cells{
        QString::fromStdString(part.designator), QString::fromStdString(part_kind(part.kind)->name),
        QString::fromStdString(editable_value(part)),
        QString::fromStdString(part.pins.empty() ? std::string() : part.pins.front().net),
        QString::fromStdString(part.pins.size() == 2 ? part.pins[1].net : other_pins(part))};
    for (int c = 0; c < cells.size(); ++c) {
        QTableWidgetItem* item = table_->item(r, c);
        if (!item) {
            item = new QTableWidgetItem;
            table_->setItem(r, c, item);
        }
        if (item->text() != cells[c]) item->setText(cells[c]);
        const Qt::ItemFlags flags = Qt::ItemIsEnabled | Qt::ItemIsSelectable |
                                    (c == 2 && editable ? Qt::ItemIsEditable : Qt::NoItemFlags);
        if (item->flags() != flags) item->setFlags(flags);
    }
}

void CircuitStation::fillFigures(int r, const Part& part, const OperatingPoint& op) {
    const std::array figures{current_figure(session().design().circuit, op, part.designator),
                             power_figure(session().design().circuit, op, part.designator)};
    for (int c = 5; c < 7; ++c) {
        const Figure& f = figures[static_cast<std::size_t>(c - 5)];
        if (QTableWidgetItem* item = table_->item(r, c))
            set_figure(item, f);
        else
            table_->setItem(r, c, figure_item(f));
        table_->item(r, c)->setFlags(Qt::ItemIsEnabled | Qt::ItemIsSelectable);
    }
}

}  // namespace elkit
