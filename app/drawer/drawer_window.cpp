#include "app/drawer/drawer_window.hpp"

#include <QAction>
#include <QFileDialog>
#include <QHBoxLayout>
#include <QHeaderView>
#include <QLineEdit>
#include <QPushButton>
#include <QScrollBar>
#include <QTableView>

#include "app/drawer/count_bar.hpp"
#include "app/drawer/drawer_model.hpp"
#include "app/drawer/import_dialog.hpp"
#include "app/drawer/item_form.hpp"
#include "app/shell/writer.hpp"
#include "app/theme/theme.hpp"
#include "app/widgets/card.hpp"
#include "design/file.hpp"

namespace elkit {
namespace {

constexpr const char* tables = QT_TRANSLATE_NOOP("DrawerWindow", "Tables (*.csv *.tsv *.txt);;All files (*)");

QPushButton* chip(const QString& text) {
    auto* button = new QPushButton(text);
    button->setObjectName(QStringLiteral("pill"));
    button->setCheckable(true);
    return button;
}

}  // namespace

DrawerWindow::DrawerWindow(std::shared_ptr<Stock> stock, QWidget* parent)
    : QWidget(parent, Qt::Window), stock_(std::move(stock)) {
    setWindowTitle(tr("Drawer – Elkit"));
    setObjectName(QStringLiteral("bench"));
    resize(px(1260), px(720));
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(16, 12, 16, 12);
    column->addLayout(tools());
    model_ = new DrawerModel(*stock_, this);
    count_ = new CountBar(*stock_);
    column->addWidget(count_);
    auto* across = new QHBoxLayout;
    across->setSpacing(14);
    table_ = new QTableView;
    table_->setModel(model_);
    table_->setAccessibleName(tr("Parts in the drawer"));
    table_->setSelectionBehavior(QAbstractItemView::SelectRows);
    table_->setShowGrid(false);
    table_->setWordWrap(false);
    table_->verticalHeader()->hide();
    table_->verticalHeader()->setDefaultSectionSize(px(24));
    table_->horizontalHeader()->setHighlightSections(false);
    table_->horizontalHeader()->setSortIndicator(-1, Qt::AscendingOrder);
    table_->setSortingEnabled(true);
    const int widths[] = {200, 76, 150, 90, 64, 46, 48, 60, 78, 80};
    for (int c = 0; c < DrawerModel::columns; ++c) table_->setColumnWidth(c, px(widths[c]));
    table_->horizontalHeader()->setStretchLastSection(true);
    across->addWidget(table_, 1);
    auto* card = new Card({});
    card->setFixedWidth(px(290));
    form_ = new ItemForm;
    card->body()->addWidget(form_);
    across->addWidget(card);
    column->addLayout(across, 1);
    column->addLayout(below());

    connect(table_->selectionModel(), &QItemSelectionModel::currentRowChanged, this,
            [this](const QModelIndex& now) {
                const DrawerItem* item = model_->item(now.row());
                form_->show_item(item ? std::optional(*item) : std::nullopt);
            });
    const auto refused = [this](const QString& why) { tell(why, true); };
    connect(model_, &DrawerModel::refused, this, refused);
    connect(form_, &ItemForm::refused, this, refused);
    connect(count_, &CountBar::refused, this, refused);
    connect(stock_.get(), &Stock::failed, this, refused);
    connect(stock_.get(), &Stock::changed, this, &DrawerWindow::stockChanged);
    connect(
        model_, &DrawerModel::edited, this,
        [this](const DrawerItem& next) {
            put(next.key, next, tr("change %1").arg(QString::fromStdString(next.name)));
        },
        Qt::QueuedConnection);  // the editor of the cell closes first
    connect(form_, &ItemForm::edited, this, [this](const std::string& key, const DrawerItem& next) {
        put(key, next, tr("change %1").arg(QString::fromStdString(next.name)));
    });
    connect(form_, &ItemForm::removed, this, [this](const std::string& key) {
        const DrawerItem* item = stock_->find(key);
        if (item)
            stock_->edit(undo_, {{key, std::nullopt}},
                         tr("remove %1").arg(QString::fromStdString(item->name)));
    });
    connect(count_, &CountBar::at, this, &DrawerWindow::choose);
    connect(count_, &CountBar::counted, this, [this](const DrawerItem& next) {
        put(next.key, next, tr("count %1").arg(QString::fromStdString(next.name)));
    });
    stockChanged();
    search_->setFocus();
}

QLayout* DrawerWindow::tools() {
    auto* row = new QHBoxLayout;
    search_ = new QLineEdit;
    search_->setAccessibleName(tr("find a part"));
    search_->setObjectName(QStringLiteral("find"));
    search_->setPlaceholderText(tr("find: 4k7, amber, box 3, …"));
    search_->setClearButtonEnabled(true);
    in_stock_ = chip(tr("in stock")), low_ = chip(tr("low stock")), reserved_ = chip(tr("reserved"));
    row->addWidget(search_, 1);
    for (QPushButton* one : {in_stock_, low_, reserved_}) {
        row->addWidget(one);
        connect(one, &QPushButton::toggled, this, &DrawerWindow::filter);
    }
    connect(search_, &QLineEdit::textChanged, this, &DrawerWindow::filter);
    row->addSpacing(12);
    const auto button = [&](const QString& text, auto run) {
        auto* made = new QPushButton(text);
        connect(made, &QPushButton::clicked, this, run);
        row->addWidget(made);
    };
    button(tr("Count again"), [this] {
        std::vector<std::string> keys;
        for (int r = 0; r < model_->rowCount(); ++r) keys.push_back(model_->item(r)->key);
        count_->begin(std::move(keys));
    });
    button(tr("From a table…"), [this] {
        const QString file = QFileDialog::getOpenFileName(this, tr("A table of parts"), {}, tr(tables));
        if (!file.isEmpty()) import(file.toStdString());
    });
    button(tr("To a table…"), [this] {
        const QString file = QFileDialog::getSaveFileName(this, tr("The drawer as a table"),
                                                          QStringLiteral("drawer.csv"), tr(tables));
        if (!file.isEmpty()) exportTo(file.toStdString());
    });
    const auto undo = undo_.createUndoAction(this, tr("Undo")),
               redo = undo_.createRedoAction(this, tr("Redo"));
    undo->setShortcut(QKeySequence::Undo);
    redo->setShortcuts({QKeySequence(Qt::CTRL | Qt::SHIFT | Qt::Key_Z), QKeySequence(Qt::CTRL | Qt::Key_Y)});
    for (QAction* action : {undo, redo}) {
        addAction(action);
        auto* made = new QPushButton(action == undo ? tr("Undo") : tr("Redo"));
        made->setEnabled(action->isEnabled());
        connect(made, &QPushButton::clicked, action, &QAction::trigger);
        connect(action, &QAction::enabledChanged, made, &QWidget::setEnabled);
        row->addWidget(made);
    }
    return row;
}

QLayout* DrawerWindow::below() {
    auto* row = new QHBoxLayout;
    add_ = new QLineEdit;
    add_->setAccessibleName(tr("add a part"));
    add_->setObjectName(QStringLiteral("add"));
    add_->setPlaceholderText(tr("add a part: 4k7 resistor 1 %"));
    add_->setFixedWidth(px(260));
    connect(add_, &QLineEdit::returnPressed, this, &DrawerWindow::addPart);
    totals_ = label({}, "muted");
    told_ = label({});
    told_->setWordWrap(true);
    anew_ = new QPushButton(tr("Put the file aside and start another"));
    anew_->hide();
    connect(anew_, &QPushButton::clicked, this, [this] {
        const auto aside = stock_->startAnew();
        tell(aside ? tr("The old file is now %1.").arg(QString::fromStdString(aside.value().string()))
                   : QString::fromStdString(aside.error().text()),
             !aside);
    });
    row->addWidget(add_);
    row->addWidget(totals_);
    row->addWidget(told_, 1);
    row->addWidget(anew_);
    return row;
}

QString DrawerWindow::told() const { return told_->text(); }

void DrawerWindow::tell(const QString& words, bool trouble) {
    told_->setText(words);
    QPalette palette = this->palette();
    palette.setColor(QPalette::WindowText, trouble ? theme().rust : theme().ink);
    told_->setPalette(palette);
}

void DrawerWindow::search(const QString& words) { search_->setText(words); }

void DrawerWindow::filter() {
    const std::string chosen = form_->item() ? form_->item()->key : std::string();
    model_->setFilter(
        {search_->text().toStdString(), in_stock_->isChecked(), low_->isChecked(), reserved_->isChecked()});
    choose(chosen);
    showTotals();
}

void DrawerWindow::choose(const std::string& key) {
    const int row = model_->rowOf(key);
    if (row < 0) return;
    table_->selectRow(row);
    table_->scrollTo(model_->index(row, 0));
}

void DrawerWindow::stockChanged() {
    const std::string chosen = form_->item() ? form_->item()->key : std::string();
    const int scrolled = table_->verticalScrollBar() ? table_->verticalScrollBar()->value() : 0;
    model_->read();
    const DrawerItem* item = stock_->find(chosen);
    form_->show_item(item ? std::optional(*item) : std::nullopt);
    table_->verticalScrollBar()->setValue(scrolled);
    choose(chosen);
    showTotals();
    anew_->setVisible(!stock_->trouble().isEmpty());
    if (!stock_->trouble().isEmpty()) tell(stock_->trouble(), true);
}

void DrawerWindow::showTotals() {
    const DrawerTotals all = totals(*stock_->items());
    QString words = tr("%1 kinds, %2 pieces, worth %3")
                        .arg(all.kinds)
                        .arg(all.pieces, 0, 'f', 0)
                        .arg(all.worth, 0, 'f', 2);
    if (all.low) words += tr(", %1 low").arg(all.low);
    if (static_cast<std::size_t>(model_->rowCount()) != all.kinds)
        words = tr("%1 of ").arg(model_->rowCount()) + words;
    totals_->setText(words);
}

void DrawerWindow::put(const std::string& key, const DrawerItem& next, const QString& what) {
    std::vector<DrawerChange> changes{{next.key, next}};
    if (key != next.key) {
        if (stock_->find(next.key))
            return tell(tr("“%1” is in the drawer already").arg(QString::fromStdString(next.name)), true);
        changes.push_back({key, std::nullopt});
    }
    tell({});
    form_->show_item(next);
    stock_->edit(undo_, changes, what);
}

void DrawerWindow::addPart() {
    const QString words = add_->text().trimmed();
    if (words.isEmpty()) return;
    const DrawerItem item = described_item(words.toStdString());
    search_->clear();
    if (stock_->find(item.key)) {
        tell(tr("“%1” is in the drawer already").arg(QString::fromStdString(item.name)));
    } else {
        tell(item.key.starts_with("own/") ? tr("No kind of part that Elkit knows: kept by its name.")
                                          : QString());
        if (!stock_->edit(undo_, {{item.key, item}}, tr("add %1").arg(words))) return;
    }
    add_->clear();
    choose(item.key);
}

void DrawerWindow::import(const std::filesystem::path& file) {
    const QString name = QString::fromStdString(file.filename().string());
    tell(tr("reading %1 …").arg(name));
    reading_.start(
        [file](const Progress&) -> Result<DrawerSheet> {
            auto text = read_file(file, largest_table);
            if (!text) return text.error();
            return read_drawer_sheet(text.value());
        },
        [this, name](Result<DrawerSheet> sheet) {
            if (!sheet)
                return tell(name + QStringLiteral(": ") + QString::fromStdString(sheet.error().text()), true);
            tell({});
            import_ = new ImportDialog(*stock_, std::move(sheet).value(), name, this);
            import_->setAttribute(Qt::WA_DeleteOnClose);
            connect(import_, &QDialog::accepted, this, [this, name] {
                if (import_->plan())
                    stock_->edit(undo_, import_->plan()->changes(), tr("parts from %1").arg(name));
            });
            connect(import_, &QObject::destroyed, this, [this] { import_ = nullptr; });
            import_->open();
        });
}

void DrawerWindow::exportTo(const std::filesystem::path& file) {
    keeper().run(
        [file, items = stock_->items()]() -> Result<void> { return write_file(file, drawer_csv(*items)); },
        this,
        [this, file](Result<void> done) {
            tell(done ? tr("Written to %1.").arg(QString::fromStdString(file.string()))
                      : QString::fromStdString(done.error().text()),
                 !done);
        });
}

}  // namespace elkit
