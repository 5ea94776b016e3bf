#include "app/widgets/goals_panel.hpp"

#include <QVBoxLayout>

#include "app/shell/session.hpp"
#include "app/widgets/card.hpp"
#include "app/widgets/goals_form.hpp"
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
    const Design& d = session_.design();
    for (const auto& [block, form] : forms_)
        if (block < d.blocks.size()) form->show(goals_of(d, d.blocks[block]));
}

void GoalsPanel::rebuild() {
    while (QLayoutItem* item = column_->takeAt(0)) {
        item->widget()->hide();  // deleted once its own signal is through
        item->widget()->deleteLater();
        delete item;
    }
    forms_.clear();
    for (std::size_t k = 0; k < shown_.size(); ++k) {
        const Recipe* recipe = find_recipe(shown_[k]);
        if (recipe && QString::fromStdString(recipe->station) == station_)
            column_->addWidget(blockCard(k, *recipe));
    }
    if (forms_.empty()) {
        auto* card = new Card(tr("Goals"));
        auto* words = label(tr("Entered by hand: change its parts on the Circuit station."), "muted");
        words->setWordWrap(true);
        card->body()->addWidget(words);
        column_->addWidget(card);
    }
}

QWidget* GoalsPanel::blockCard(std::size_t block, const Recipe& recipe) {
    auto* card = new Card(tr("Goals: %1").arg(QString::fromStdString(recipe.name)));
    auto* form = new GoalsForm(session_, recipe, [this](const GoalInfo& goal) {
        return goal.station.empty() || QString::fromStdString(goal.station) == station_;
    });
    connect(form, &GoalsForm::entered, this,
            [this, block, &recipe](const QString& key, const ParamValue& value) {
                session_.edit(
                    with_goal(session_.design(), block, key.toStdString(), value),
                    tr("change %1").arg(QString::fromStdString(recipe.goal(key.toStdString())->info.label)));
                refresh();
            });
    forms_.emplace_back(block, form);
    card->body()->addWidget(form);
    return card;
}

void GoalsPanel::focusGoal(const QString& key) {
    for (const auto& [block, form] : forms_)
        if (QWidget* field = form->field(key)) return field->setFocus();
    if (!forms_.empty() && forms_.front().second->firstField())
        forms_.front().second->firstField()->setFocus();
}

}  // namespace elkit
