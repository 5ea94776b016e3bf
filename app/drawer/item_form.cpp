#include "app/drawer/item_form.hpp"

#include <QFileDialog>
#include <QHBoxLayout>
#include <QImageReader>
#include <QLineEdit>
#include <QPushButton>

#include "app/theme/theme.hpp"
#include "app/widgets/card.hpp"
#include "drawer/identity.hpp"
#include "drawer/import.hpp"

namespace elkit {
namespace {

QString item_text(const std::string& text) { return QString::fromStdString(text); }

/// "resistor 4.7 kΩ 1 % ¼ W", as it can be typed.
QString identity_words(const DrawerItem& item) {
    const ItemWords words = words_of_key(item.key);
    QStringList all{item_text(words.kind)};
    for (const std::string* more : {&words.value, &words.tolerance, &words.rating})
        if (!more->empty()) all << item_text(*more);
    return all.join(QLatin1Char(' '));
}

}  // namespace

ItemForm::ItemForm(QWidget* parent) : QWidget(parent) {
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, 0, 0, 0);
    title_ = label({}, "bold");
    title_->setWordWrap(true);
    column->addWidget(title_);
    form_ = new Form;
    column->addLayout(form_);
    addText(tr("Name"), &DrawerItem::name);
    add(tr("What it is"), identity_words, [this](DrawerItem& item, const QString& words) {
        const DrawerItem described = described_item(words.toStdString());
        if (described.key.starts_with("own/") && !item.key.starts_with("own/")) {
            emit refused(tr("“%1” is no part that Elkit knows; such as “4k7 resistor 1 %”").arg(words));
            return false;
        }
        item.key = described.key, item.name = described.name;
        return true;
    });
    addNumber(tr("In stock"), &DrawerItem::stock);
    addText(tr("Place"), &DrawerItem::place);
    addNumber(tr("At least"), &DrawerItem::least);
    addText(tr("Package"), &DrawerItem::package);
    addNumber(tr("Pack of"), &DrawerItem::pack);
    addNumber(tr("Pack price"), &DrawerItem::price);
    addText(tr("Supplier"), &DrawerItem::supplier);
    addText(tr("Note"), &DrawerItem::note);
    addText(tr("Photo"), &DrawerItem::photo);
    promised_ = label({}, "muted");
    promised_->setWordWrap(true);
    column->addWidget(promised_);
    photo_ = label({});
    photo_->setAlignment(Qt::AlignCenter);
    photo_->setAccessibleName(tr("photo of the part"));
    column->addWidget(photo_, 1);
    auto* row = new QHBoxLayout;
    choose_ = new QPushButton(tr("Choose a photo…"));
    remove_ = new QPushButton(tr("Remove"));
    row->addWidget(choose_);
    row->addStretch(1);
    row->addWidget(remove_);
    column->addLayout(row);
    connect(choose_, &QPushButton::clicked, this, &ItemForm::choosePhoto);
    connect(remove_, &QPushButton::clicked, this, [this] {
        if (item_) emit removed(item_->key);
    });
    show_item(std::nullopt);
}

void ItemForm::add(const QString& name, std::function<QString(const DrawerItem&)> get,
                   std::function<bool(DrawerItem&, const QString&)> set) {
    auto* line = new QLineEdit;
    line->setAccessibleName(name);
    line->setObjectName(name);
    form_->addWide(name, line);
    fields_.push_back({line, std::move(get), std::move(set)});
    const std::size_t at = fields_.size() - 1;
    connect(line, &QLineEdit::editingFinished, this, [this, at] {
        const Field& field = fields_[at];
        if (!item_ || field.line->text() == field.get(*item_)) return;
        DrawerItem next = *item_;
        if (field.set(next, field.line->text().trimmed()))
            emit edited(item_->key, next);
        else
            field.line->setText(field.get(*item_));
    });
}

void ItemForm::addText(const QString& name, std::string DrawerItem::*member) {
    add(
        name, [member](const DrawerItem& item) { return item_text(item.*member); },
        [member](DrawerItem& item, const QString& words) {
            item.*member = words.toStdString();
            return true;
        });
}

void ItemForm::addNumber(const QString& name, double DrawerItem::*member) {
    add(
        name, [member](const DrawerItem& item) { return QString::number(item.*member, 'g', 7); },
        [this, name, member](DrawerItem& item, const QString& words) {
            const auto number = loose_number(words.toStdString(), false);
            if (!number) emit refused(tr("%1: “%2” is no number").arg(name, words));
            item.*member = number.value_or(item.*member);
            return number.has_value();
        });
}

void ItemForm::show_item(const std::optional<DrawerItem>& item) {
    const bool other = !item_ || !item || item_->key != item->key;
    item_ = item;
    title_->setText(item ? item_text(item->name) : tr("Choose a part in the table, or add one below it."));
    for (const Field& field : fields_) {
        field.line->setEnabled(item.has_value());
        if (!field.line->hasFocus() || other || !field.line->isModified())
            field.line->setText(item ? field.get(*item) : QString());
        field.line->setCursorPosition(0);
    }
    QStringList promises;
    if (item)
        for (const auto& [batch, pieces] : item->reserved)
            promises << tr("%1 reserved for %2").arg(pieces).arg(item_text(batch));
    promised_->setText(promises.join(QLatin1Char('\n')));
    promised_->setVisible(!promises.isEmpty());
    for (QPushButton* button : {choose_, remove_}) button->setEnabled(item.has_value());
    showPhoto();
}

void ItemForm::choosePhoto() {
    const QString path = QFileDialog::getOpenFileName(
        this, tr("A photo of the part"), {}, tr("Pictures (*.png *.jpg *.jpeg *.webp);;All files (*)"));
    if (path.isEmpty() || !item_) return;
    DrawerItem next = *item_;
    next.photo = path.toStdString();
    emit edited(item_->key, next);
}

void ItemForm::showPhoto() {
    photo_->clear();
    if (!item_ || item_->photo.empty()) return;
    QImageReader reader(item_text(item_->photo));
    reader.setAutoTransform(true);
    const QSize room(px(240), px(140));
    if (reader.size().isValid()) reader.setScaledSize(reader.size().scaled(room, Qt::KeepAspectRatio));
    const QImage image = reader.read();
    if (image.isNull())
        photo_->setText(tr("The photo cannot be read."));
    else
        photo_->setPixmap(QPixmap::fromImage(image));
}

}  // namespace elkit
