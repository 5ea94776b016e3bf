#include "app/widgets/goals_form.hpp"

#include <QComboBox>
#include <QGridLayout>
#include <QLineEdit>

#include "app/shell/session.hpp"
#include "app/theme/theme.hpp"
#include "app/widgets/card.hpp"
#include "app/widgets/owned_box.hpp"
#include "app/widgets/quantity_edit.hpp"
#include "catalogue/catalogue.hpp"
#include "command/command.hpp"

namespace elkit {

GoalsForm::GoalsForm(Session& session, const Recipe& recipe,
                     const std::function<bool(const GoalInfo&)>& wanted, QWidget* parent)
    : QWidget(parent), session_(session) {
    auto* grid = new QGridLayout(this);
    grid->setContentsMargins(0, 0, 0, 0);
    grid->setHorizontalSpacing(8);
    grid->setVerticalSpacing(5);
    int row = 0, column = 0;
    for (const GoalInfo& goal : recipe.goals)
        if (wanted(goal)) addField(goal, grid, row, column);
    grid->setColumnStretch(1, 1);
    grid->setColumnStretch(3, 1);
}

void GoalsForm::addField(const GoalInfo& goal, QGridLayout* grid, int& row, int& column) {
    const ParamValue& standard = goal.info.standard;
    QWidget* field = std::holds_alternative<double>(standard)      ? numberField(goal)
                     : std::holds_alternative<PointList>(standard) ? pointsField(goal)
                                                                   : choiceField(goal);
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
    if (!goal.when.empty())
        showers_.push_back([&goal, name, field](const Goals& goals) {
            name->setVisible(goal.matters(goals)), field->setVisible(goal.matters(goals));
        });
}

QWidget* GoalsForm::choiceField(const GoalInfo& goal) {
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
    const QString key = QString::fromStdString(goal.info.key);
    connect(box, &QComboBox::activated, this,
            [this, key, box] { emit entered(key, box->currentData().toString().toStdString()); });
    showers_.push_back([this, &goal, box](const Goals& goals) {
        const std::string now = goals.text(goal.info.key);
        if (!goal.info.choices_of.empty()) return offer_types(*box, session_, goal.info.choices_of, now);
        box->setCurrentIndex(box->findData(QString::fromStdString(now)));
    });
    return box;
}

QWidget* GoalsForm::numberField(const GoalInfo& goal) {
    auto* field = new QuantityEdit(QString::fromStdString(goal.info.label), goal.info.unit, goal.info.low,
                                   goal.info.high);
    field->setFixedWidth(px(goal.info.unit == Unit::count ? 48 : 74));
    const QString key = QString::fromStdString(goal.info.key);
    connect(field, &QuantityEdit::valueEntered, this,
            [this, key](double value) { emit entered(key, ParamValue(value)); });
    showers_.push_back([&goal, field](const Goals& goals) { field->setValue(goals.number(goal.info.key)); });
    return field;
}

QWidget* GoalsForm::pointsField(const GoalInfo& goal) {
    auto* field = new QLineEdit;
    field->setAccessibleName(QString::fromStdString(goal.info.label));
    field->setObjectName(field->accessibleName());
    const QString key = QString::fromStdString(goal.info.key);
    connect(field, &QLineEdit::editingFinished, this, [this, key, &goal, field] {
        if (!field->isModified()) return;
        auto value = goal_value(goal, field->text().toStdString(), goal.info.label);
        if (!value) return mark_fault(*field, QString::fromStdString(value.error().text()));  // it stays
        mark_fault(*field, {});
        field->setModified(false);
        emit entered(key, value.value());
    });
    showers_.push_back([&goal, field](const Goals& goals) {
        if (field->isModified()) return;
        field->setText(QString::fromStdString(points_text(goals.points(goal.info.key), goal.info.axes)));
        field->setCursorPosition(0);
    });
    return field;
}

void GoalsForm::show(const Goals& goals) {
    for (const auto& shower : showers_) shower(goals);
}

QWidget* GoalsForm::field(const QString& key) const {
    for (const auto& [name, field] : fields_)
        if (name == key) return field;
    return nullptr;
}

}  // namespace elkit
