#include "app/widgets/goals_panel.hpp"

#include <QComboBox>
#include <QGridLayout>
#include <QVBoxLayout>

#include "app/shell/session.hpp"
#include "app/theme/theme.hpp"
#include "app/widgets/card.hpp"
#include "app/widgets/owned_box.hpp"
#include "app/widgets/quantity_edit.hpp"
#include "catalogue/catalogue.hpp"
#include "recipes/blocks.hpp"

namespace elkit {

GoalsPanel::GoalsPanel(Session& session, QString station, QWidget* parent)
    : QWidget(parent), session_(session), station_(std::move(station)), column_(new QVBoxLayout(this)) {
    column_->setContentsMargins(0, 0, 0, 0);
    column_->setSpacing(8);
}

void GoalsPanel::refresh() {
    std::vector<std::string> now;
    for (const Block& block : session_.design().blocks) now.push_back(block.recipe);
    if (now != shown_ || column_->isEmpty()) {
        shown_ = std::move(now);
        rebuild();
    }
    for (const auto& refresh : refreshers_) refresh();
}

void GoalsPanel::rebuild() {
    while (QLayoutItem* item = column_->takeAt(0)) {
        item->widget()->hide();  // deleted once its own signal is through
        item->widget()->deleteLater();
        delete item;
    }
    fields_.clear(), refreshers_.clear();
    bool any = false;
    for (std::size_t k = 0; k < shown_.size(); ++k) {
        const Recipe* recipe = find_recipe(shown_[k]);
        if (!recipe || QString::fromStdString(recipe->station) != station_) continue;
        column_->addWidget(blockCard(k, *recipe));
        any = true;
    }
    if (!any) {
        auto* card = new Card(tr("Goals"));
        auto* words = label(tr("Entered by hand: change its parts on the Circuit station."), "muted");
        words->setWordWrap(true);
        card->body()->addWidget(words);
        column_->addWidget(card);
    }
}

QWidget* GoalsPanel::blockCard(std::size_t block, const Recipe& recipe) {
    auto* card = new Card(tr("Goals: %1").arg(QString::fromStdString(recipe.name)));
    auto* grid = new QGridLayout;
    grid->setContentsMargins(0, 0, 0, 0);
    grid->setHorizontalSpacing(8);
    grid->setVerticalSpacing(5);
    int row = 0, column = 0;
    for (const GoalInfo& goal : recipe.goals) {
        if (!goal.station.empty() && QString::fromStdString(goal.station) != station_) continue;
        QWidget* field = std::holds_alternative<double>(goal.info.standard) ? numberField(block, goal)
                                                                            : choiceField(block, goal);
        field->setToolTip(QString::fromStdString(goal.info.meaning));
        fields_.emplace_back(QString::fromStdString(goal.info.key), field);
        auto* name = label(QString::fromStdString(goal.info.label), "muted");
        name->setBuddy(field);
        name->setWordWrap(true);
        if (goal.wide && column) ++row, column = 0;
        grid->addWidget(name, row, column);
        grid->addWidget(field, row, column + 1, 1, goal.wide ? 3 : 1);
        column = goal.wide || column ? 0 : 2;
        if (!column) ++row;
    }
    grid->setColumnStretch(1, 1);
    grid->setColumnStretch(3, 1);
    card->body()->addLayout(grid);
    return card;
}

QWidget* GoalsPanel::choiceField(std::size_t block, const GoalInfo& goal) {
    auto* box = new QComboBox;
    const QString name = QString::fromStdString(goal.info.label);
    box->setAccessibleName(name);
    box->setObjectName(name);
    for (const std::string& id : goal.info.choices) {
        const std::string known = known_catalogue().name_of("", id);
        box->addItem(QString::fromStdString(known.empty() ? goal.label_of(id) : known),
                     QString::fromStdString(id));
    }
    box->setSizeAdjustPolicy(QComboBox::AdjustToMinimumContentsLengthWithIcon);  // the card may be narrower
    box->setMinimumContentsLength(goal.wide ? 9 : 4);
    box->setSizePolicy(QSizePolicy::Expanding, QSizePolicy::Fixed);
    connect(box, &QComboBox::activated, this,
            [this, block, &goal, box] { change(block, goal, box->currentData().toString().toStdString()); });
    refreshers_.push_back([this, block, &goal, box] {
        const Design& d = session_.design();
        if (block >= d.blocks.size()) return;
        const std::string now = goals_of(d, d.blocks[block]).text(goal.info.key);
        if (!goal.info.choices_of.empty()) return offer_types(*box, session_, goal.info.choices_of, now);
        box->setCurrentIndex(box->findData(QString::fromStdString(now)));
    });
    return box;
}

QWidget* GoalsPanel::numberField(std::size_t block, const GoalInfo& goal) {
    auto* field = new QuantityEdit(QString::fromStdString(goal.info.label), goal.info.unit, goal.info.low,
                                   goal.info.high);
    field->setFixedWidth(px(goal.info.unit == Unit::count ? 48 : 74));
    connect(field, &QuantityEdit::valueEntered, this,
            [this, block, &goal](double value) { change(block, goal, value); });
    refreshers_.push_back([this, block, &goal, field] {
        const Design& d = session_.design();
        if (block < d.blocks.size()) field->setValue(goals_of(d, d.blocks[block]).number(goal.info.key));
    });
    return field;
}

void GoalsPanel::change(std::size_t block, const GoalInfo& goal, const ParamValue& value) {
    session_.edit(with_goal(session_.design(), block, goal.info.key, value),
                  tr("change %1").arg(QString::fromStdString(goal.info.label)));
    refresh();
}

void GoalsPanel::focusGoal(const QString& key) {
    for (const auto& [name, field] : fields_)
        if (name == key) return field->setFocus();
    if (!fields_.empty()) fields_.front().second->setFocus();
}

}  // namespace elkit
