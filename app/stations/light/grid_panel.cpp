#include "app/stations/light/grid_panel.hpp"

#include <QHBoxLayout>

#include "app/theme/theme.hpp"
#include "app/widgets/card.hpp"
#include "app/widgets/figure_label.hpp"
#include "app/widgets/figure_table.hpp"
#include "app/widgets/picture_view.hpp"
#include "app/widgets/quantity_edit.hpp"
#include "planning/grid_picture.hpp"

namespace elkit {

GridPanel::GridPanel(Session& session, QWidget* parent) : TabPanel(session, parent) {
    auto* across = new QHBoxLayout;
    column_->addLayout(across, 1);
    picture_ = new PictureView;
    picture_->setAccessibleName(tr("Grid of lights, to be tapped"));
    picture_->setSelectable({"light:"});
    picture_->setMaximumScale(1);
    picture_->setMinimumSize(px(150), px(110));
    across->addWidget(picture_, 2);
    auto* column = new QVBoxLayout;
    column->setSpacing(4);
    across->addLayout(column, 5);
    rows_ = new QuantityEdit(tr("rows of the grid"), Unit::count, 1, 32);
    columns_ = new QuantityEdit(tr("columns of the grid"), Unit::count, 1, 32);
    refresh_ = new QuantityEdit(tr("refresh of a scanned grid"), Unit::hertz, 1, 1e5);
    rows_->setFixedWidth(px(48)), columns_->setFixedWidth(px(48)), refresh_->setFixedWidth(px(84));
    refresh_->setValue(100);
    resistor_ = new QComboBox;
    resistor_->setAccessibleName(tr("where the resistors of the grid sit"));
    sized_for_ = new QComboBox;
    for (QComboBox* box : {resistor_, sized_for_}) box->setFixedWidth(px(84));
    for (const auto& [words, where] :
         {std::pair{tr("a row"), GridResistor::row}, std::pair{tr("a column"), GridResistor::column},
          std::pair{tr("a light"), GridResistor::light}})
        resistor_->addItem(words, static_cast<int>(where));
    sized_for_->setAccessibleName(tr("for how many lights the resistor is chosen"));
    sized_for_->addItem(tr("one lit"));
    sized_for_->addItem(tr("all lit"));
    auto* tools = new QHBoxLayout;
    tools->addWidget(rows_);
    tools->addWidget(label(QStringLiteral("×"), "muted"));
    tools->addWidget(columns_);
    tools->addWidget(label(tr("resistor:"), "muted"));
    tools->addWidget(resistor_);
    tools->addWidget(label(tr("for"), "muted"));
    tools->addWidget(sized_for_);
    tools->addStretch(1);
    tools->addWidget(label(tr("scan"), "muted"));
    tools->addWidget(refresh_);
    column->addLayout(tools);
    auto* figures = new QHBoxLayout;
    for (FigureLabel** f : {&ohms_, &alone_, &all_, &total_}) {
        *f = new FigureLabel(session_, FigureLabel::Size::plain);
        (*f)->setAccessibleName(tr("resistor of the grid"));
        figures->addWidget(*f);
    }
    figures->addStretch(1);
    column->addLayout(figures);
    constexpr auto number = DataTable::numbers;
    table_ = makeTable(tr("Ways to wire as many lights"), "grid-schemes",
                       {{tr("wiring")},
                        {tr("lines"), number},
                        {tr("lit"), number},
                        {tr("peak"), number},
                        {tr("bears"), number},
                        {tr("looks"), number},
                        {tr("to mind")}});
    column->addWidget(table_, 1);
    answer_ = label({}, "");
    answer_->setWordWrap(true);
    column->addWidget(answer_);
    addNote();
    setShownOnlyWithAnswer({ohms_, alone_, all_, total_, table_, picture_, answer_});
    for (auto* field : {rows_, columns_, refresh_})
        connect(field, &QuantityEdit::valueEntered, this, &GridPanel::ask);
    for (auto* box : {resistor_, sized_for_}) connect(box, &QComboBox::activated, this, &GridPanel::ask);
    connect(picture_, &PictureView::pressed, this, &GridPanel::tap);
    connect(picture_, &PictureView::activated, this, &GridPanel::tap);
    connect(picture_, &PictureView::resized, this, &GridPanel::drawPattern);
    connect(&session_, &Session::started, this, [this] {
        asked_ = false;
        wish_ = GridPattern::dark(1, 1);
    });
}

GridQuery GridPanel::query() const {
    GridQuery q{{session_.design(), fresh(*session_.circuit(), session_.conditions()), {}}, {}, {}, {}};
    q.array.conditions.battery = 1;
    q.array.wishes.owned = session_.resistorsToChooseFrom();
    q.for_all = sized_for_->currentIndex() == 1;
    q.refresh = refresh_->value();
    if (!asked_) return q;
    q.rows = static_cast<int>(rows_->value()), q.columns = static_cast<int>(columns_->value());
    q.resistor = static_cast<GridResistor>(resistor_->currentData().toInt());
    return q;
}

void GridPanel::ask() {
    asked_ = true;
    refresh();
}

void GridPanel::refresh() {
    present(query(), nullptr, [this](const Grid& grid) { fill(grid); });
}

void GridPanel::fill(const Grid& grid) {
    const GridQuestion& q = grid.question;
    rows_->setValue(q.rows), columns_->setValue(q.columns);
    resistor_->setCurrentIndex(resistor_->findData(static_cast<int>(q.resistor)));
    if (wish_.rows != q.rows || wish_.columns != q.columns) {
        auto next = GridPattern::dark(q.rows, q.columns);
        for (int r = 0; r < std::min(q.rows, wish_.rows); ++r)
            for (int c = 0; c < std::min(q.columns, wish_.columns); ++c) next.set(r, c, wish_.at(r, c));
        wish_ = std::move(next);
    }
    ohms_->setFigure(grid.resistor, tr("each"));
    Figure alone = grid.alone;
    alone.low = alone.high = std::nullopt;  // its working tells them
    alone_->setFigure(alone, tr("one lit"));
    all_->setFigure(grid.all, tr("all lit"));
    total_->setFigure(grid.total, tr("in all"));
    table_->setRowCount(static_cast<int>(grid.schemes.size()));
    for (int r = 0; r < table_->rowCount(); ++r) {
        const GridScheme& s = grid.schemes[static_cast<std::size_t>(r)];
        const auto words = [](const QString& text) { return new QTableWidgetItem(text); };
        auto* lines = words(QString::number(s.lines));
        auto* duty = words(tr("%1 %").arg(100 * s.duty, 0, 'g', 3));
        for (auto* item : {lines, duty}) item->setTextAlignment(Qt::AlignRight | Qt::AlignVCenter);
        int column = 0;
        for (QTableWidgetItem* item :
             {words(QString::fromStdString(s.name)), lines, duty, figure_item(s.peak), figure_item(s.allowed),
              figure_item(s.seen), words(QString::fromStdString(s.remark))})
            table_->setItem(r, column++, item);
    }
    table_->fit();
    QStringList lines;
    for (const std::string& remark : grid.remarks) lines << QString::fromStdString(remark);
    if (grid.flicker != Flicker::steady)
        lines << tr("scanned at %1").arg(QString::fromStdString(flicker_text(q.refresh, 100)));
    tell(lines.join(QStringLiteral(" · ")));
    drawPattern();
}

void GridPanel::drawPattern() {
    const PatternAnswer answer = answer_pattern(wish_);
    picture_->setDrawing(draw_pattern(wish_, answer, picture_->width(), picture_->height()));
    answer_->setText(QString::fromStdString(pattern_text(wish_, answer)));
}

void GridPanel::tap(const QString& ref) {
    const QStringList place = ref.section(QLatin1Char(':'), 1).split(QLatin1Char(','));
    if (!ref.startsWith(QLatin1String("light:")) || place.size() != 2) return;
    const int row = place[0].toInt() - 1, column = place[1].toInt() - 1;
    if (row < 0 || row >= wish_.rows || column < 0 || column >= wish_.columns) return;
    wish_.set(row, column, !wish_.at(row, column));
    drawPattern();
}

}  // namespace elkit
