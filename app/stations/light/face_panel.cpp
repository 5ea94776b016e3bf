#include "app/stations/light/face_panel.hpp"

#include <QComboBox>
#include <QFileDialog>
#include <QHBoxLayout>
#include <QLabel>
#include <QPointer>
#include <QPushButton>

#include "app/shell/writer.hpp"
#include "app/theme/theme.hpp"
#include "app/widgets/card.hpp"
#include "app/widgets/figure_table.hpp"
#include "app/widgets/picture_view.hpp"
#include "app/widgets/quantity_edit.hpp"
#include "design/file.hpp"
#include "face/template.hpp"
#include "formats/svg.hpp"

namespace elkit {
namespace {

constexpr double mm_in_a_metre = 1000;
constexpr std::uintmax_t largest_svg = 8u << 20;
const FacePattern patterns[] = {FacePattern::row, FacePattern::circle, FacePattern::grid, FacePattern::edge};

QString face_text(const std::string& text) { return QString::fromStdString(text); }

}  // namespace

FacePanel::FacePanel(Session& session, QWidget* parent) : TabPanel(session, parent) {
    auto* across = new QHBoxLayout;
    column_->addLayout(across, 1);
    picture_ = new PictureView;
    picture_->setAccessibleName(tr("Face with the holes of its lights, to be dragged"));
    picture_->setSelectable({"light:"});
    picture_->setMinimumSize(px(180), px(110));
    across->addWidget(picture_, 3);
    auto* column = new QVBoxLayout;
    column->setSpacing(4);
    across->addLayout(column, 5);
    column->addLayout(sheetRow());
    column->addLayout(placeRow());
    constexpr auto number = DataTable::numbers;
    table_ = makeTable(tr("Holes for the lights"), "face-holes",
                       {{tr("light")},
                        {tr("body"), number},
                        {tr("hole"), number},
                        {tr("from left"), number},
                        {tr("from top"), number},
                        {tr("to mind")}},
                       true);
    column->addWidget(table_, 1);
    column_->addLayout(filesRow());
    addNote();
    connect(picture_, &PictureView::dropped, this, [this](const QString& ref, QPointF at) {
        place(ref.section(QLatin1Char(':'), 1).toStdString(), at.x() - face_picture_margin,
              at.y() - face_picture_margin);
    });
    connect(picture_, &PictureView::clicked, this, &FacePanel::choose);
    connect(table_, &QTableWidget::currentCellChanged, this, [this](int row) {
        if (row >= 0 && row < static_cast<int>(spots_.size()))
            choose(QStringLiteral("light:") + face_text(spots_[static_cast<std::size_t>(row)].light));
    });
}

QLayout* FacePanel::sheetRow() {
    auto* row = new QHBoxLayout;
    material_ = new QComboBox, fit_ = new QComboBox;
    material_->setAccessibleName(tr("material of the face"));
    fit_->setAccessibleName(tr("how the lights sit in their holes"));
    for (const FaceMaterial& m : face_materials()) material_->addItem(face_text(m.name), face_text(m.id));
    for (const FaceFit& f : face_fits()) {
        fit_->addItem(face_text(f.name), face_text(f.id));
        fit_->setItemData(fit_->count() - 1, face_text(f.words), Qt::ToolTipRole);
    }
    for (QComboBox* box : {material_, fit_}) {
        box->setSizeAdjustPolicy(QComboBox::AdjustToMinimumContentsLengthWithIcon);
        box->setMinimumContentsLength(9);
    }
    thickness_ = new QuantityEdit(tr("thickness of the face"), Unit::metre, 0.0001, 0.1);
    width_ = new QuantityEdit(tr("width of the face"), Unit::metre, 0, 2);
    height_ = new QuantityEdit(tr("height of the face"), Unit::metre, 0, 2);
    for (QuantityEdit* edit : {thickness_, width_, height_}) edit->setFixedWidth(px(70));
    row->addWidget(material_);
    row->addWidget(thickness_);
    row->addWidget(fit_);
    row->addWidget(width_);
    row->addWidget(label(QStringLiteral("×"), "muted"));
    row->addWidget(height_);
    row->addStretch(1);
    connect(material_, &QComboBox::activated, this, [this] {
        change(tr("change the face's material"),
               [this](Face& f) { f.material = material_->currentData().toString().toStdString(); });
    });
    connect(fit_, &QComboBox::activated, this, [this] {
        change(tr("change how the lights sit"),
               [this](Face& f) { f.fit = fit_->currentData().toString().toStdString(); });
    });
    const auto size = [this](QuantityEdit* edit, double Face::*member) {
        connect(edit, &QuantityEdit::valueEntered, this, [this, member](double value) {
            change(tr("change the face"), [value, member](Face& f) { f.*member = value * mm_in_a_metre; });
        });
    };
    size(thickness_, &Face::thickness), size(width_, &Face::width), size(height_, &Face::height);
    return row;
}

QLayout* FacePanel::placeRow() {
    auto* row = new QHBoxLayout;
    pattern_ = new QComboBox;
    pattern_->setAccessibleName(tr("pattern of the lights on the face"));
    pattern_->addItems({tr("in a row"), tr("on a circle"), tr("in a grid"), tr("along the edge")});
    spacing_ = new QuantityEdit(tr("pitch, diameter or distance from the edge"), Unit::metre, 0.001, 1);
    spacing_->setValue(0.02);
    auto* arrange = new QPushButton(tr("Arrange"));
    named_ = label({}, "bold");
    x_ = new QuantityEdit(tr("from the left edge"), Unit::metre, -2, 2);
    y_ = new QuantityEdit(tr("from the upper edge"), Unit::metre, -2, 2);
    fitted_ = new QuantityEdit(tr("test hole that fitted"), Unit::metre, 0, 0.2);
    for (QuantityEdit* edit : {spacing_, x_, y_, fitted_}) edit->setFixedWidth(px(70));
    for (QWidget* w : std::initializer_list<QWidget*>{pattern_, spacing_, arrange, named_, x_, y_})
        row->addWidget(w);
    row->addWidget(label(tr("fits"), "muted"));
    row->addWidget(fitted_);
    row->addStretch(1);
    connect(arrange, &QPushButton::clicked, this, &FacePanel::arrange);
    const auto moved = [this] {
        if (const FaceSpot* spot = chosen())
            place(spot->light, x_->value() * mm_in_a_metre, y_->value() * mm_in_a_metre);
    };
    connect(x_, &QuantityEdit::valueEntered, this, moved);
    connect(y_, &QuantityEdit::valueEntered, this, moved);
    connect(fitted_, &QuantityEdit::valueEntered, this, [this](double hole) {
        if (const FaceSpot* spot = chosen())
            change(tr("note a test hole"), [body = spot->body, hole](Face& f) {
                f = with_measured_hole(f, body, hole * mm_in_a_metre);
            });
    });
    return row;
}

/// What comes in and goes out as drawings.
QLayout* FacePanel::filesRow() {
    auto* row = new QHBoxLayout;
    const auto button = [&](const QString& text, auto run) {
        auto* made = new QPushButton(text);
        connect(made, &QPushButton::clicked, this, run);
        row->addWidget(made);
    };
    button(tr("Outline (SVG)…"), [this] {
        const QString file = QFileDialog::getOpenFileName(this, tr("A face drawn elsewhere"), {},
                                                          tr("Drawings (*.svg);;All files (*)"));
        if (!file.isEmpty()) readOutline(file.toStdString());
    });
    button(tr("Drill template…"), [this] { ask(false); });
    button(tr("Test strip…"), [this] { ask(true); });
    row->addStretch(1);
    return row;
}

const FaceSpot* FacePanel::chosen() const {
    for (const FaceSpot& spot : spots_)
        if (spot.light == chosen_) return &spot;
    return spots_.empty() ? nullptr : &spots_.front();
}

void FacePanel::change(const QString& what, const std::function<void(Face&)>& how) {
    Design next = session_.design();
    how(next.face);
    session_.edit(next, what);
}

void FacePanel::arrange() {
    session_.edit(with_pattern(session_.design(), patterns[pattern_->currentIndex()],
                               spacing_->value() * mm_in_a_metre),
                  tr("arrange the lights %1").arg(pattern_->currentText()));
}

void FacePanel::place(const std::string& light, double x, double y) {
    chosen_ = light;
    session_.edit(with_place(session_.design(), light, x, y),
                  tr("move %1 on the face").arg(face_text(light)));
}

void FacePanel::choose(const QString& ref) {
    if (!ref.startsWith(QLatin1String("light:")) || chosen_ == ref.section(QLatin1Char(':'), 1).toStdString())
        return;
    chosen_ = ref.section(QLatin1Char(':'), 1).toStdString();
    refresh();
}

void FacePanel::refresh() {
    const Design& design = session_.design();
    const Face& face = design.face;
    spots_ = face_spots(design);
    material_->setCurrentIndex(material_->findData(face_text(face_material(face.material).id)));
    fit_->setCurrentIndex(std::max(0, fit_->findData(face_text(face.fit))));
    thickness_->setValue(face.thickness / mm_in_a_metre);
    width_->setValue(face.width / mm_in_a_metre), height_->setValue(face.height / mm_in_a_metre);
    const FaceSpot* now = chosen();
    picture_->setDrawing(draw_face(design, now ? now->light : std::string()));
    named_->setText(now ? face_text(now->light) : QString());
    for (QWidget* w : std::initializer_list<QWidget*>{x_, y_, fitted_}) w->setEnabled(now != nullptr);
    if (now) {
        x_->setValue(now->x / mm_in_a_metre), y_->setValue(now->y / mm_in_a_metre);
        fitted_->setValue(now->hole.measured ? now->hole.diameter.value : 0);
    }
    const QSignalBlocker quiet(table_);
    table_->setRowCount(static_cast<int>(spots_.size()));
    const auto text = [](double millimetres) {
        auto* item = new QTableWidgetItem(QString::number(millimetres, 'f', 1));
        item->setTextAlignment(Qt::AlignRight | Qt::AlignVCenter);
        return item;
    };
    for (int r = 0; r < table_->rowCount(); ++r) {
        const FaceSpot& spot = spots_[static_cast<std::size_t>(r)];
        table_->setItem(
            r, 0, new QTableWidgetItem(face_text(spot.light) + QStringLiteral(" · ") + face_text(spot.name)));
        table_->setItem(r, 1, text(spot.body));
        table_->setItem(r, 2, figure_item(spot.hole.diameter));
        table_->setItem(r, 3, text(spot.x));
        table_->setItem(r, 4, text(spot.y));
        table_->setItem(
            r, 5, new QTableWidgetItem(spot.hole.measured ? tr("measured") : face_text(spot.hole.remark)));
        if (now && spot.light == now->light) table_->selectRow(r);
    }
    table_->fit();
    if (spots_.empty())
        return tell(tr("There is no light with a body of its own: an LED gets a hole, a strip does not."));
    QStringList words;
    for (const std::string& fault : face_faults(spots_, face_outline(design, spots_)))
        if (words.size() < 3) words << face_text(fault);
    words << tr("%1: %2").arg(material_->currentText(), face_text(face_material(face.material).drill))
          << tr("mm; drill the test strip first");
    tell(words.join(QStringLiteral(" · ")));
}

void FacePanel::readOutline(const std::filesystem::path& file) {
    keeper().run(
        [file]() -> Result<FaceDrawing> {
            auto text = read_file(file, largest_svg);
            if (!text) return text.error();
            return read_face_svg(text.value());
        },
        this,
        [this, name = face_text(file.filename().string())](Result<FaceDrawing> drawing) {
            if (!drawing)
                return session_.reportError(name + QStringLiteral(": ") + face_text(drawing.error().text()));
            session_.edit(with_face_drawing(session_.design(), drawing.value()),
                          tr("outline from %1").arg(name));
        });
}

void FacePanel::writeTemplate(const std::filesystem::path& file, bool strip) {
    keeper().run(
        [file, strip, design = session_.design()]() -> Result<void> {
            return write_file(file, write_svg(strip ? draw_test_strip(design) : draw_drill_template(design)));
        },
        this,
        [this](Result<void> done) {
            if (!done) session_.reportError(face_text(done.error().text()));
        });
}

void FacePanel::ask(bool strip) {
    const QString file = QFileDialog::getSaveFileName(
        this, strip ? tr("Test strip of holes") : tr("Drill template"),
        strip ? QStringLiteral("test-strip.svg") : QStringLiteral("drill-template.svg"),
        tr("Drawings (*.svg)"));
    if (!file.isEmpty()) writeTemplate(file.toStdString(), strip);
}

}  // namespace elkit
