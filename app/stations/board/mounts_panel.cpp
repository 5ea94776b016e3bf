#include "app/stations/board/mounts_panel.hpp"

#include <QComboBox>
#include <QHBoxLayout>
#include <QLabel>

#include "app/theme/theme.hpp"
#include "app/widgets/card.hpp"
#include "app/widgets/picture_view.hpp"
#include "app/widgets/said.hpp"
#include "board/leg_picture.hpp"
#include "circuit/part_words.hpp"
#include "design/content.hpp"

namespace elkit {
namespace {

QString legs_said(const Mounted& m) {
    QStringList names;
    for (const Pad& pad : m.footprint.pads)
        if (!pad.pin.empty()) names << said(pad.pin);
    return names.join(QStringLiteral(" "));
}

}  // namespace

MountsPanel::MountsPanel(Session& session, QWidget* parent) : TabPanel(session, parent) {
    table_ = makeTable(tr("Parts on the board"), "mounts",
                       {{tr("part")}, {tr("place")}, {tr("footprint")}, {tr("legs")}}, true);
    auto* row = new QHBoxLayout;
    row->addWidget(table_, 5);
    auto* beside = new QVBoxLayout;
    name_ = label({}, "bold");
    beside->addWidget(name_);
    auto* form = new Form;
    const auto box = [&](const QString& name) {
        auto* combo = new QComboBox;
        combo->setAccessibleName(name);
        combo->setSizeAdjustPolicy(QComboBox::AdjustToMinimumContentsLengthWithIcon);
        combo->setMinimumContentsLength(14);
        return combo;
    };
    footprint_ = box(tr("footprint")), place_ = box(tr("place")), legs_ = box(tr("legs"));
    form->addWide(tr("place"), place_);
    form->addWide(tr("footprint"), footprint_);
    form->addWide(tr("legs"), legs_);
    for (const PartPlace place : part_places) place_->addItem(said(place_name(place)), said(place_id(place)));
    beside->addLayout(form);
    legs_name_ = label({}, "small");
    legs_name_->setWordWrap(true);
    beside->addWidget(legs_name_);
    beside->addStretch(1);
    row->addLayout(beside, 3);
    picture_ = new PictureView;
    picture_->setAccessibleName(tr("the part and its legs"));
    picture_->setMaximumScale(2.6);
    picture_->setFixedWidth(px(120));
    row->addWidget(picture_);
    column_->addLayout(row, 1);
    addNote();
    connect(table_, &QTableWidget::itemSelectionChanged, this, [this] {
        if (!filling_) showPart();
    });
    connect(footprint_, &QComboBox::activated, this, [this](int at) {
        const std::string id = footprint_->itemData(at).toString().toStdString();
        change([&](PartMount& m) { m.footprint = id; }, tr("choose the footprint of %1").arg(part()));
    });
    connect(place_, &QComboBox::activated, this, [this](int at) {
        const std::string id = place_->itemData(at).toString().toStdString();
        change([&](PartMount& m) { m.place = id; }, tr("choose the place of %1").arg(part()));
    });
    connect(legs_, &QComboBox::activated, this, [this](int at) {
        const std::string order = legs_->itemData(at).toString().toStdString();
        change([&](PartMount& m) { m.legs = order; }, tr("choose the leg order of %1").arg(part()));
    });
}

QString MountsPanel::part() const {
    const int row = table_->currentRow();
    return row < 0 || !table_->item(row, 0) ? QString() : table_->item(row, 0)->text();
}

void MountsPanel::choose(const QString& ref) {
    if (!ref.startsWith(QLatin1String("part:"))) return;
    for (int row = 0; row < table_->rowCount(); ++row)
        if (table_->item(row, 0)->text() == ref.mid(5)) table_->setCurrentCell(row, 0);
}

void MountsPanel::change(const std::function<void(PartMount&)>& what, const QString& name) {
    if (part().isEmpty()) return;
    PartMount m = mount_of(session_.design().board, part().toStdString());
    what(m);
    session_.edit(with_mount(session_.design(), m), name);
}

void MountsPanel::refresh() {
    Digester content;
    content << session_.circuit().digest() << content_digest(session_.design().board);
    if (content.digest() == filled_) return;
    filled_ = content.digest();
    fill();
}

void MountsPanel::fill() {
    const QString before = part();
    const auto all = mounted(session_.design().circuit, session_.design().board);
    filling_ = true;
    if (!all) {
        table_->setRowCount(0);
        tell(said(all.error().text()));
    } else {
        tell({});
        table_->setRowCount(static_cast<int>(all.value().size()));
        for (int row = 0; row < table_->rowCount(); ++row) {
            const Mounted& m = all.value()[static_cast<std::size_t>(row)];
            const PartKind* kind = part_kind(m.part->kind);
            int column = 0;
            for (const QString& text :
                 {said(m.part->designator), said(place_name(m.place)), said(m.footprint.name),
                  kind && legs_to_choose(*kind) ? legs_said(m) : QString()})
                table_->setItem(row, column++, new QTableWidgetItem(text));
            if (m.part->designator == before.toStdString()) table_->setCurrentCell(row, 0);
        }
        if (table_->currentRow() < 0 && table_->rowCount() > 0) table_->setCurrentCell(0, 0);
        table_->fit();
    }
    filling_ = false;
    showPart();
}

void MountsPanel::showPart() {
    const Part* p = session_.design().circuit.find(part().toStdString());
    const PartKind* kind = p ? part_kind(p->kind) : nullptr;
    for (QComboBox* box : {footprint_, place_, legs_}) box->setEnabled(kind);
    footprint_->clear(), legs_->clear();
    name_->setText(p ? tr("%1, %2").arg(said(p->designator), said(value_text(*p))) : QString());
    if (!kind) return picture_->setDrawing({});
    const PartMount chosen = mount_of(session_.design().board, p->designator);
    footprint_->addItem(tr("as usual: %1").arg(said(footprint(*p).name)), QString());
    for (const Footprint* f : footprint_choices(*kind)) footprint_->addItem(said(f->name), said(f->id));
    footprint_->setCurrentIndex(std::max(0, footprint_->findData(said(chosen.footprint))));
    const auto all = mounted(session_.design().circuit, session_.design().board);
    if (!all) return picture_->setDrawing({});
    const Mounted& m = all.value()[static_cast<std::size_t>(p - session_.design().circuit.parts.data())];
    place_->setCurrentIndex(place_->findData(said(place_id(m.place))));
    const bool legs = legs_to_choose(*kind);
    legs_->setEnabled(legs);
    if (legs)
        for (const std::string& order : leg_orders(*kind, m.footprint))
            legs_->addItem(said(order), said(order));
    legs_->setCurrentIndex(std::max(0, legs_->findData(said(chosen.legs))));
    legs_name_->setText(
        !legs ? QString()
        : m.footprint.surface
            ? tr("at lands 1, 2, 3; makers mostly agree: hold it to its leaflet")
            : tr("from left to right, seen from its front; makers differ: hold it to its leaflet"));
    picture_->setDrawing(leg_picture(*p, m.footprint, [](const std::string&) { return std::string(); }));
}

}  // namespace elkit
