#include "app/stations/circuit/recipe_page.hpp"

#include <QComboBox>
#include <QHBoxLayout>
#include <QHeaderView>
#include <QPushButton>
#include <QScrollArea>
#include <QTabWidget>
#include <algorithm>

#include "app/stations/circuit/cells_panel.hpp"
#include "app/stations/circuit/intent_list.hpp"
#include "app/stations/circuit/made_by_panel.hpp"
#include "app/theme/theme.hpp"
#include "app/widgets/card.hpp"
#include "app/widgets/data_table.hpp"
#include "app/widgets/effect_view.hpp"
#include "app/widgets/figure_table.hpp"
#include "app/widgets/goals_form.hpp"
#include "app/widgets/owned_box.hpp"
#include "app/widgets/picture_view.hpp"
#include "drawer/values.hpp"
#include "recipes/effect.hpp"
#include "recipes/variants.hpp"
#include "recipes/ways_out.hpp"

namespace elkit {
namespace {

enum Lower { changes, other_ways, to_work_by, plain_cells, made_by_what };  // tabs
constexpr int wide_goals = 3;            // of the room, beside what stands under them
constexpr std::size_t lines_shown = 12;  // of what would change

QString words(const std::string& text) { return QString::fromStdString(text); }

QTableWidgetItem* word_item(const QString& text) {
    auto* item = new QTableWidgetItem(text);
    item->setFlags(Qt::ItemIsEnabled | Qt::ItemIsSelectable);
    return item;
}

/// What is not as expected stands out: bold, with the word beside it.
void mark_missed(QTableWidgetItem& found, QTableWidgetItem& batch, const QString& verdict) {
    for (QTableWidgetItem* item : {&found, &batch}) {
        QFont font = item->font();
        font.setBold(true);
        item->setFont(font);
        item->setForeground(theme().rust);
    }
    batch.setText(verdict);
    batch.setToolTip(verdict);
}

void empty(QLayout* layout) {
    while (QLayoutItem* item = layout->takeAt(0)) {
        if (item->widget()) item->widget()->hide(), item->widget()->deleteLater();
        delete item;
    }
}

}  // namespace

RecipePage::RecipePage(Session& session, QWidget* parent)
    : QWidget(parent), session_(session), intents_(new IntentList(session)) {
    auto* row = new QHBoxLayout(this);
    row->setContentsMargins(0, 0, 0, 0);
    row->setSpacing(12);
    auto* left = new Card(tr("What should it do?"));
    left->setMinimumWidth(px(230));
    left->setMaximumWidth(px(304));
    left->body()->addWidget(intents_, 1);
    auto* anything = new QPushButton(tr("Or say a part (Ctrl K)"));
    connect(anything, &QPushButton::clicked, this, &RecipePage::anythingAsked);
    left->body()->addWidget(anything);
    row->addWidget(left, 2);
    row->addWidget(buildRight(), 3);
    connect(intents_, &IntentList::chosen, this, &RecipePage::take);
    connect(&session_, &Session::started, this, [this] { forget(); });
}

void RecipePage::forget() {
    recipe_ = nullptr, block_.reset();
    said_.clear(), joins_.clear();
}

QWidget* RecipePage::buildRight() {
    auto* card = new Card({});
    title_ = label({}, "title");
    about_ = label({}, "muted");
    about_->setWordWrap(true);
    effect_ = new EffectView;
    auto* head = new QHBoxLayout;
    auto* names = new QVBoxLayout;
    names->addWidget(title_), names->addWidget(about_);
    head->addLayout(names, 3), head->addWidget(effect_, 2);
    card->body()->addLayout(head);
    auto* goals = new QWidget;
    form_room_ = new QVBoxLayout(goals);
    form_room_->setContentsMargins(0, 0, 0, 0);
    auto* middle = new QWidget;  // scrolls where there is little room
    middle->setObjectName(QStringLiteral("clear"));
    auto* column = new QVBoxLayout(middle);
    column->setContentsMargins(0, 0, 0, 0);
    column->addWidget(goals);
    found_ = new DataTable(tr("What the engine finds of it"),
                           {{tr("by the engine")},
                            {tr("expected"), DataTable::numbers},
                            {tr("found"), DataTable::numbers},
                            {tr("batch"), DataTable::numbers}},
                           24);
    show_workings(found_, session_);
    column->addWidget(found_);
    trouble_ = label({}, "bold");
    trouble_->setWordWrap(true);
    column->addWidget(trouble_);
    auto* ways = new QWidget;
    ways_ = new QHBoxLayout(ways);
    ways_->setContentsMargins(0, 0, 0, 0);
    column->addWidget(ways);
    column->addStretch(1);
    auto* room = new QScrollArea;
    room->setWidgetResizable(true);
    room->setFrameShape(QFrame::NoFrame);
    room->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    room->setObjectName(QStringLiteral("goalsAndFound"));
    room->viewport()->setObjectName(QStringLiteral("clear"));
    room->setWidget(middle);
    card->body()->addWidget(room, wide_goals);
    changes_ = label({}, "small");
    changes_->setWordWrap(true);
    changes_->setAlignment(Qt::AlignTop | Qt::AlignLeft);
    auto* scroll = new QScrollArea;
    scroll->setWidgetResizable(true);
    scroll->setFrameShape(QFrame::NoFrame);
    scroll->setWidget(changes_);
    scroll->viewport()->setObjectName(QStringLiteral("clear"));
    changes_->setObjectName(QStringLiteral("clear"));
    scroll->setObjectName(QStringLiteral("changes"));
    others_ = new DataTable(tr("Other ways"),
                            {{tr("other ways")},
                             {tr("first part"), DataTable::numbers},
                             {tr("found"), DataTable::numbers},
                             {tr("verdict")}},
                            23);
    others_->setSelectionBehavior(QAbstractItemView::SelectRows);
    others_->setSelectionMode(QAbstractItemView::SingleSelection);
    others_->setToolTip(tr("Double-click or Enter takes it"));
    connect(others_, &QTableWidget::itemActivated, this,
            [this](QTableWidgetItem* item) { takeWay(item->row()); });
    others_->setMinimumHeight(px(50)), scroll->setMinimumHeight(px(50));
    others_->setSizePolicy(QSizePolicy::Expanding, QSizePolicy::Ignored);
    scroll->setSizePolicy(QSizePolicy::Expanding, QSizePolicy::Ignored);
    lower_ = new QTabWidget;
    lower_->addTab(scroll, tr("What would change"));
    lower_->addTab(others_, tr("Other ways"));
    picture_ = new PictureView;
    picture_->setSizePolicy(QSizePolicy::Expanding, QSizePolicy::Ignored);
    lower_->addTab(picture_, {});
    cells_ = new CellsPanel(session_);
    lower_->addTab(cells_, tr("Beside plain cells"));
    made_by_ = new MadeByPanel(session_);
    lower_->addTab(made_by_, tr("Timer or controller"));
    lower_->setMinimumHeight(px(96));
    lower_->setSizePolicy(QSizePolicy::Expanding, QSizePolicy::Ignored);
    card->body()->addWidget(lower_, wide_goals / 3);
    connect(lower_, &QTabWidget::currentChanged, this, [this, card, room](int tab) {
        const bool slow = tab == plain_cells || tab == made_by_what;
        const bool shown = tab == to_work_by || slow;  // pictures want room
        card->body()->setStretchFactor(lower_, shown ? 2 * wide_goals : wide_goals / 3);
        card->body()->setStretchFactor(room, wide_goals);
        lower_->setMinimumHeight(px(shown ? 300 : 96));
        if (slow) refresh();  // what takes long is asked for when it is looked at
    });
    auto* buttons = new QHBoxLayout;
    remove_ = new QPushButton(tr("Take it out"));
    put_in_ = new QPushButton;
    put_in_->setObjectName(QStringLiteral("primary"));
    buttons->addWidget(remove_), buttons->addWidget(new OwnedBox(session_));
    buttons->addStretch(1), buttons->addWidget(put_in_);
    card->body()->addLayout(buttons);
    connect(put_in_, &QPushButton::clicked, this, &RecipePage::apply);
    connect(remove_, &QPushButton::clicked, this, &RecipePage::takeOut);
    return card;
}

void RecipePage::choose(const QString& id) {
    intents_->refresh();
    intents_->choose(id);
    if (!recipe_) take(id);  // it was chosen already, of another design
}

void RecipePage::take(const QString& id) {
    const auto& blocks = session_.design().blocks;
    forget();
    if (id.startsWith(QLatin1Char('#'))) {
        block_ = static_cast<std::size_t>(id.mid(1).toInt());
        if (*block_ >= blocks.size()) return forget();
    }
    recipe_ = find_recipe(block_ ? blocks[*block_].recipe : id.toStdString());
    if (!recipe_) return forget();
    rebuildForm();
    refresh();
}

QStringList RecipePage::around() const {
    QStringList all{session_.design().circuit.source() ? QStringLiteral("fed") : QString()};
    for (const OfferedNet& net : offered_nets(session_.design())) all << words(net.net) << words(net.label);
    return all;
}

/// The goals, and for a new block what it could hang on.
void RecipePage::rebuildForm() {
    around_ = around();
    empty(form_room_);
    form_ = nullptr;
    if (!recipe_) return;
    const bool fed = session_.design().circuit.source() != nullptr;
    form_ = new GoalsForm(session_, *recipe_, [this, fed](const GoalInfo& goal) {
        for (const RecipeNet& joint : recipe_->takes)
            if (joint.goal == goal.info.key) return false;
        return !(fed && !block_ && goal.of_source());  // the design's own source counts
    });
    connect(form_, &GoalsForm::entered, this, &RecipePage::setGoal);
    form_room_->addWidget(form_);
    const auto offered = offered_nets(session_.design());
    for (const RecipeNet& joint : recipe_->takes) {
        if (block_ || offered.empty()) continue;
        auto* row = new QWidget;
        auto* line = new QHBoxLayout(row);
        line->setContentsMargins(0, 0, 0, 0);
        auto* box = new QComboBox;
        box->setAccessibleName(words(joint.label));
        box->setObjectName(words("join " + joint.net));
        box->addItem(tr("on its own"));
        for (const OfferedNet& net : offered)
            box->addItem(tr("%1, %2").arg(words(net.label), words(net.net)), words(net.net));
        connect(box, &QComboBox::activated, this, [this, box, net = joint.net] {
            joins_.erase(net);
            if (box->currentIndex() > 0) joins_[net] = box->currentData().toString().toStdString();
            refresh();
        });
        line->addWidget(label(words(joint.label), "muted"));
        line->addWidget(box, 1);
        form_room_->addWidget(row);
    }
}

void RecipePage::setGoal(const QString& key, const ParamValue& value) {
    said_[key.toStdString()] = value;
    refresh();
}

Goals RecipePage::goals() const {
    const Design& d = session_.design();
    const Environment drawer = session_.ownedOnly() ? values_in(session_.drawerItems()) : Environment{};
    if (!block_) return planned_in(d, *recipe_, said_, drawer);
    Goals all = goals_of(d, d.blocks[*block_]);
    for (const auto& [key, value] : said_) all.values[key] = value;
    return all;
}

Result<Design> RecipePage::trial() const {
    const Design& d = session_.design();
    if (block_) return with_said(d, *block_, said_);
    const Environment drawer = session_.ownedOnly() ? values_in(session_.drawerItems()) : Environment{};
    return with_block(d, recipe_->id, goals(), joins_, drawer);
}

std::size_t RecipePage::blockOf(const Design& trial) const {
    return block_ ? *block_ : trial.blocks.size() - 1;
}

void RecipePage::refresh() {
    intents_->refresh();
    const auto& blocks = session_.design().blocks;
    if (block_ && (*block_ >= blocks.size() || find_recipe(blocks[*block_].recipe) != recipe_)) forget();
    if (!recipe_) {  // the first block that is known here, else the first intent that moves
        for (std::size_t k = 0; k < blocks.size(); ++k)
            if (find_recipe(blocks[k].recipe)) return choose(QStringLiteral("#%1").arg(k));
        return choose(words(recipes()[1].id));
    }
    QString name = words(recipe_->name);
    name.front() = name.front().toUpper();
    if (around() != around_) joins_.clear(), rebuildForm();
    title_->setText(block_ ? name : tr("Make it %1").arg(words(recipe_->intent)));
    about_->setText(words(recipe_->about));
    put_in_->setText(block_ ? tr("Change it so") : tr("Put it in"));
    remove_->setVisible(block_.has_value());
    showTrial();
}

void RecipePage::showTrial() {
    const auto next = trial();
    empty(ways_);
    trouble_->setVisible(!next);
    lower_->setTabVisible(other_ways, next && recipe_->variants);
    lower_->setTabVisible(to_work_by, next && recipe_->picture);
    lower_->setTabVisible(plain_cells, next && boosts(next.value(), blockOf(next.value())));
    lower_->setTabVisible(made_by_what, next && both_can(next.value(), blockOf(next.value())));
    found_->setVisible(bool(next));
    const bool nothing = next && next.value() == session_.design();
    put_in_->setEnabled(bool(next) && !nothing);
    if (!next) {
        form_->show(goals());
        changes_->clear();
        return offerWays(next.error());
    }
    const std::size_t block = blockOf(next.value());
    const Goals now = goals_of(next.value(), next.value().blocks[block]);
    form_->show(now);
    const auto effect = session_.ask(EffectQuery{recipe_->id, now}, Urgency::in_view, "recipe page");
    if (effect) effect_->setEffect(*effect, !effect.current());
    showFound(next.value());
    if (recipe_->variants) showOtherWays(next.value());
    showBeside(next.value(), now);
    auto lines = changed_parts(session_.design(), next.value());
    const std::size_t more = lines.size() > lines_shown ? lines.size() - lines_shown : 0;
    if (more) lines.resize(lines_shown);
    QStringList text;
    for (const std::string& line : lines) text << words(line);
    if (more) text << tr("and %n more", nullptr, static_cast<int>(more));
    changes_->setText(nothing ? tr("It is so already. Change a goal, and this shows what would follow.")
                              : text.join(QLatin1Char('\n')));
}

void RecipePage::showFound(const Design& trial) {
    const auto all = session_.ask(MeasuredQuery(trial, blockOf(trial), session_.conditions()),
                                  Urgency::in_view, "recipe page");
    dim(found_, !all.current());
    if (!all) return;
    const auto sized = sized_block(trial, blockOf(trial));
    const auto results = sized ? only_reckoned(sized.value(), *all) : std::vector<Figure>();
    found_->setRowCount(static_cast<int>(all->size() + results.size()));
    for (std::size_t k = 0; k < results.size(); ++k) {
        const int r = static_cast<int>(all->size() + k);
        found_->setItem(r, 0, word_item(words(results[k].label)));
        found_->setItem(r, 1, word_item(tr("reckoned")));
        found_->setItem(r, 2, figure_item(results[k]));
        found_->setItem(r, 3, word_item(words(results[k].spread_text())));
    }
    for (int r = 0; r < static_cast<int>(all->size()); ++r) {
        const Measured& m = (*all)[static_cast<std::size_t>(r)];
        const auto quantity = [&](double value) { return words(format_quantity(value, m.asked.unit)); };
        found_->setItem(r, 0, word_item(words(m.asked.label)));
        found_->setItem(r, 1, word_item(quantity(m.asked.target)));
        found_->item(r, 1)->setTextAlignment(Qt::AlignRight | Qt::AlignVCenter);
        found_->setItem(r, 2, m.trouble.empty() ? figure_item(m.found) : word_item(tr("not found")));
        found_->setItem(r, 3, word_item(words(m.found.spread_text())));
        const QString verdict = !m.trouble.empty() ? words(m.trouble) : m.met ? tr("met") : tr("missed");
        found_->item(r, 2)->setToolTip(verdict);
        found_->item(r, 2)->setData(Qt::AccessibleDescriptionRole, verdict);
        if (!m.met) mark_missed(*found_->item(r, 2), *found_->item(r, 3), verdict);
    }
    found_->fit();
    const int most = std::min(found_->rowCount(), 7);
    found_->setFixedHeight(found_->horizontalHeader()->height() + most * found_->rowHeight(0) + 4);
}

void RecipePage::showOtherWays(const Design& trial) {
    const auto rows = session_.ask(
        VariantsQuery(trial, blockOf(trial), session_.conditions(), values_in(session_.drawerItems())),
        Urgency::in_view, "recipe page");
    dim(others_, !rows.current());
    if (!rows) return;
    others_->setRowCount(static_cast<int>(rows->size()));
    other_goals_.clear();
    for (int r = 0; r < others_->rowCount(); ++r) {
        const VariantRow& row = (*rows)[static_cast<std::size_t>(r)];
        other_goals_.push_back(row.variant.goals);
        others_->setItem(r, 0,
                         word_item(words(row.variant.label) + (row.chosen ? tr(" (this)") : QString())));
        const bool there = row.value.value > 0;
        others_->setItem(r, 1, there ? figure_item(row.value) : unknown_item());
        others_->setItem(r, 2, there && !row.found.label.empty() ? figure_item(row.found) : unknown_item());
        others_->setItem(r, 3, word_item(words(row.note)));
        others_->item(r, 3)->setToolTip(words(row.note));
    }
    others_->fit();
}

/// A picture to work by, and the light on more cells without the recipe.
void RecipePage::showBeside(const Design& trial, const Goals& goals) {
    if (const auto picture = recipe_->picture ? recipe_->picture(goals, environment_in(trial)) : Drawing{}) {
        picture_->setDrawing(picture.value());
        picture_->setAccessibleName(words(picture.value().title));
        lower_->setTabText(to_work_by, words(picture.value().title));
    }
    if (lower_->currentIndex() == plain_cells) cells_->show_block(trial, blockOf(trial));
    if (lower_->currentIndex() == made_by_what && both_can(trial, blockOf(trial)))
        made_by_->show_block(trial, blockOf(trial), trial == session_.design());
}

/// Goals of another way that differ, as if they had been entered.
void RecipePage::takeWay(int row) {
    const auto k = static_cast<std::size_t>(row);
    if (k >= other_goals_.size()) return;
    const Goals now = goals();
    for (const auto& [key, value] : other_goals_[k].values)
        if (!(now.values.at(key) == value)) said_[key] = value;
    refresh();
}

void RecipePage::offerWays(const Error& error) {
    trouble_->setText(tr("Not so: %1. Expected %2.").arg(words(error.found), words(error.expected)));
    effect_->setEffect({0, {0}}, true);
    const auto environment = environment_in(session_.design());
    for (const WayOut& way : ways_out(*recipe_, goals(), environment)) {
        auto* button = new QPushButton(words(way.label));
        button->setToolTip(tr("With this it can be done"));
        connect(button, &QPushButton::clicked, this,
                [this, way] { setGoal(QString::fromStdString(way.key), way.value); });
        ways_->addWidget(button);
    }
    ways_->addStretch(1);
}

void RecipePage::apply() {
    if (!recipe_) return;
    auto next = trial();
    const QString what =
        block_ ? tr("change the %1").arg(words(recipe_->name)) : tr("add a %1").arg(words(recipe_->name));
    const bool anew = !block_;
    if (!session_.edit(next, what)) return;
    said_.clear(), joins_.clear();
    if (anew) {
        forget();
        emit done();
    }
    refresh();
}

void RecipePage::takeOut() {
    if (!block_ || !recipe_) return;
    const QString what = tr("take the %1 out").arg(words(recipe_->name));
    auto next = without_block(session_.design(), *block_);
    forget();
    session_.edit(next, what);
    refresh();
}

}  // namespace elkit
