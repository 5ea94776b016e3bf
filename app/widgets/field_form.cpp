#include "app/widgets/field_form.hpp"

#include <QCheckBox>
#include <QLineEdit>

#include "app/shell/session.hpp"
#include "app/widgets/quantity_edit.hpp"

namespace elkit {

FieldForm::FieldForm(Session& session, const std::vector<std::string>& ids, bool remarks)
    : session_(session), remarks_(remarks) {
    for (const std::string& id : ids)
        if (const DesignField* f = find_field(id)) add(*f);
}

void FieldForm::add(const DesignField& field) {
    const QString name = QString::fromStdString(field.name), remark = QString::fromStdString(field.remark);
    QWidget* widget = make(field);
    if (qobject_cast<QCheckBox*>(widget))
        addField({}, widget);
    else if (qobject_cast<QuantityEdit*>(widget))
        addField(name, widget, remark.isEmpty() || !remarks_ ? nullptr : label(remark, "small"));
    else
        addWide(name, widget);
}

QWidget* FieldForm::make(const DesignField& field) {
    const QString name = QString::fromStdString(field.name);
    const auto now = [this, &field] { return field.get(session_.design()); };
    if (std::holds_alternative<bool>(now())) {
        auto* box = new QCheckBox(name);
        QObject::connect(box, &QCheckBox::clicked, this, [this, &field](bool on) { change(field, on); });
        rows_.push_back({field.id, box, [box, now] { box->setChecked(std::get<bool>(now())); }});
        return box;
    }
    if (std::holds_alternative<double>(now())) {
        auto* edit = new QuantityEdit(name, field.unit, field.least, field.most);
        edit->setToolTip(QString::fromStdString(field.remark));
        QObject::connect(edit, &QuantityEdit::valueEntered, this,
                         [this, &field](double value) { change(field, value); });
        rows_.push_back({field.id, edit, [edit, now] { edit->setValue(std::get<double>(now())); }});
        return edit;
    }
    auto* line = new QLineEdit;
    line->setAccessibleName(name);
    QObject::connect(line, &QLineEdit::editingFinished, this,
                     [this, line, &field] { change(field, line->text().toStdString()); });
    rows_.push_back({field.id, line, [line, now] {
                         if (line->hasFocus()) return;
                         line->setText(QString::fromStdString(std::get<std::string>(now())));
                         line->setCursorPosition(0);
                     }});
    return line;
}

void FieldForm::change(const DesignField& field, const FieldValue& value) {
    session_.edit(with_field(session_.design(), field.id, value), QString::fromStdString(field.undo));
}

void FieldForm::refresh() {
    for (const Row& row : rows_) row.show();
}

QWidget* FieldForm::field(const std::string& id) const {
    for (const Row& row : rows_)
        if (row.id == id) return row.widget;
    return nullptr;
}

}  // namespace elkit
