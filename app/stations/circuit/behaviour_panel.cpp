#include "app/stations/circuit/behaviour_panel.hpp"

#include <QCheckBox>
#include <QComboBox>
#include <QFileDialog>
#include <QHBoxLayout>
#include <QHeaderView>
#include <QLabel>
#include <QPushButton>
#include <QStyledItemDelegate>
#include <QTableWidget>
#include <algorithm>

#include "app/shell/session.hpp"
#include "app/theme/theme.hpp"
#include "app/widgets/card.hpp"
#include "app/widgets/panel_tools.hpp"
#include "app/widgets/said.hpp"
#include "catalogue/catalogue.hpp"
#include "command/command.hpp"
#include "kit/firmware.hpp"

namespace elkit {
namespace {

using Is = BehaviourLine::Is;
namespace col {
enum { state, what, pins, how, to, count };  // columns of the rows
}
constexpr int choices = Qt::UserRole + 1;           // of a cell that has some
constexpr double each_picture = 0.04, watched = 8;  // s

/// A list where a cell has choices, else a line.
class CellDelegate : public QStyledItemDelegate {
  public:
    using QStyledItemDelegate::QStyledItemDelegate;
    QWidget* createEditor(QWidget* parent, const QStyleOptionViewItem& option,
                          const QModelIndex& index) const override {
        const QStringList offered = index.data(choices).toStringList();
        if (offered.isEmpty()) return QStyledItemDelegate::createEditor(parent, option, index);
        auto* box = new QComboBox(parent);
        box->addItems(offered);
        auto* self = const_cast<CellDelegate*>(this);
        connect(box, &QComboBox::activated, self, [self, box] {
            emit self->commitData(box);
            emit self->closeEditor(box);
        });
        return box;
    }
    void setEditorData(QWidget* editor, const QModelIndex& index) const override {
        if (auto* box = qobject_cast<QComboBox*>(editor))
            return box->setCurrentText(index.data().toString()), box->showPopup();
        QStyledItemDelegate::setEditorData(editor, index);
    }
    void setModelData(QWidget* editor, QAbstractItemModel* model, const QModelIndex& index) const override {
        if (auto* box = qobject_cast<QComboBox*>(editor)) {
            model->setData(index, box->currentText());
            return;
        }
        QStyledItemDelegate::setModelData(editor, model, index);
    }
};

QStringList list_of(const std::vector<std::string>& words) {
    QStringList list;
    for (const std::string& word : words) list << said(word);
    return list;
}

}  // namespace

BehaviourPanel::BehaviourPanel(Session& session, QWidget* parent) : QWidget(parent), session_(session) {
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(10, 6, 10, 6);
    column->setSpacing(4);
    column->addWidget(tools());
    rows_ = new QTableWidget(0, col::count);
    rows_->setObjectName(QStringLiteral("behaviourRows"));
    rows_->setAccessibleName(tr("What the controller does, row by row"));
    rows_->setHorizontalHeaderLabels(
        {tr("in state"), tr("does, or waits for"), tr("pins"), tr("how"), tr("then goes to")});
    rows_->setItemDelegate(new CellDelegate(rows_));
    rows_->setEditTriggers(QAbstractItemView::DoubleClicked | QAbstractItemView::EditKeyPressed |
                           QAbstractItemView::AnyKeyPressed);
    rows_->setSelectionBehavior(QAbstractItemView::SelectItems);
    rows_->setSelectionMode(QAbstractItemView::SingleSelection);
    rows_->verticalHeader()->hide();
    rows_->verticalHeader()->setDefaultSectionSize(px(25));
    rows_->horizontalHeader()->setSectionResizeMode(QHeaderView::Stretch);
    rows_->horizontalHeader()->setDefaultAlignment(Qt::AlignLeft | Qt::AlignVCenter);
    rows_->setMinimumHeight(px(70));
    column->addWidget(rows_, 1);
    trouble_ = label({}, "trouble");
    trouble_->setObjectName(QStringLiteral("behaviourTrouble"));
    trouble_->setWordWrap(true);
    column->addWidget(trouble_);
    auto* foot = new QHBoxLayout;
    abilities_ = label({}, "small");
    watched_ = label({}, "small");
    foot->addWidget(abilities_, 1);
    foot->addWidget(watched_);
    column->addLayout(foot);
    clock_.setInterval(static_cast<int>(1000 * each_picture));
    connect(&clock_, &QTimer::timeout, this, &BehaviourPanel::advance);
    connect(rows_, &QTableWidget::cellChanged, this, &BehaviourPanel::taken);
    connect(rows_, &QTableWidget::currentCellChanged, this, [this] {
        if (!filling_) preview();
    });
    connect(&session_, &Session::changed, this, [this] {
        if (isVisible()) refresh();
    });
}

QWidget* BehaviourPanel::tools() {
    auto* bar = new QWidget;
    auto* across = new QHBoxLayout(bar);
    across->setContentsMargins(0, 0, 0, 0);
    which_ = new QComboBox;
    which_->setAccessibleName(tr("which controller"));
    connect(which_, &QComboBox::activated, this, &BehaviourPanel::refresh);
    across->addWidget(which_);
    const auto button = [&](const QString& words, const QString& tip, std::function<void()> does) {
        return tool_button(across, words, tip, std::move(does));
    };
    button(tr("+ state"), tr("another state, behind this row"), [this] { add(Is::state); });
    button(tr("+ light"), tr("what pins show in this state"), [this] { add(Is::shows); });
    button(tr("+ way on"), tr("what leads from this state to another"), [this] { add(Is::leads); });
    button(tr("Up"), tr("Alt and up"), [this] {
        moveRow(-1);
    })->setShortcut(QKeySequence(Qt::ALT | Qt::Key_Up));
    button(tr("Down"), tr("Alt and down"), [this] {
        moveRow(1);
    })->setShortcut(QKeySequence(Qt::ALT | Qt::Key_Down));
    button(tr("Remove"), tr("this row; undo brings it back"), [this] { removeRow(); });
    across->addStretch(1);
    watch_ = new QCheckBox(tr("watch"));
    watch_->setToolTip(tr("plays the state of the current row on the stave, as the circuit engine has it"));
    watch_->setChecked(true);
    connect(watch_, &QCheckBox::toggled, this, &BehaviourPanel::watch);
    across->addWidget(watch_);
    button(tr("Write firmware…"), tr("what it does, as portable C99"), [this] {
        const QString folder = QFileDialog::getExistingDirectory(this, tr("Folder for the firmware"));
        if (!folder.isEmpty()) writeFirmware(folder);
    });
    return bar;
}

const Part* BehaviourPanel::controller() const {
    const auto all = controllers_of(session_.design().circuit);
    for (const Part* part : all)
        if (said(part->designator) == which_->currentText()) return part;
    return all.empty() ? nullptr : all.front();
}

void BehaviourPanel::refresh() {
    QStringList names;
    for (const Part* part : controllers_of(session_.design().circuit)) names << said(part->designator);
    offer_choices(which_, names);
    const Part* part = controller();
    if (!part) return stop();
    if (const std::string now = part->designator + ": " + part->text("behaviour"); now != shown_) {
        const auto table = behaviour_of(part->text("behaviour"));
        lines_ = table ? lines_of(table.value()) : std::vector<BehaviourLine>();
        sinks_ = table ? table.value().sinks : std::vector<std::string>();
        shown_ = now;
        trouble_->setText(table ? QString() : said(table.error().text()));
        fill();
    }
    trouble_->setVisible(!trouble_->text().isEmpty());
    QStringList dim, measure;
    for (const PinAbility& pin : part_kind(part->kind)->controller->pins) {
        if (pin.dims) dim << said(pin.pin);
        if (pin.measures) measure << said(pin.pin);
    }
    abilities_->setText(
        tr("dim: %1 · measure: %2").arg(dim.join(QLatin1Char(' ')), measure.join(QLatin1Char(' '))));
    preview();
}

void BehaviourPanel::fill() {
    filling_ = true;
    const int row = rows_->currentRow(), column = rows_->currentColumn();
    rows_->setRowCount(static_cast<int>(lines_.size()));
    for (int r = 0; r < rows_->rowCount(); ++r) fillRow(r, lines_[static_cast<std::size_t>(r)]);
    rows_->setCurrentCell(std::clamp(row, 0, std::max(0, rows_->rowCount() - 1)), std::max(0, column));
    filling_ = false;
}

void BehaviourPanel::fillRow(int r, const BehaviourLine& line) {
    QStringList states;
    for (const BehaviourLine& other : lines_)
        if (other.is == Is::state) states << said(other.pins);
    const bool is_state = line.is == Is::state;
    for (int c = 0; c < col::count; ++c) {
        auto* item = new QTableWidgetItem;
        const bool mine = c == col::what || c == col::how || (c == col::state && is_state) ||
                          (c == col::pins && !is_state) || (c == col::to && line.is == Is::leads);
        item->setText(said(c == col::state  ? (is_state ? line.pins : "")
                           : c == col::what ? line.what
                           : c == col::pins ? (is_state ? "" : line.pins)
                           : c == col::how  ? line.how
                                            : line.to));
        item->setFlags(mine ? Qt::ItemIsEnabled | Qt::ItemIsSelectable | Qt::ItemIsEditable
                            : Qt::ItemIsEnabled | Qt::ItemIsSelectable);
        if (c == col::what) item->setData(choices, list_of(behaviour_words(line.is)));
        if (c == col::to && mine) item->setData(choices, states);
        if (is_state) {
            QFont bold = rows_->font();
            bold.setBold(true);
            item->setFont(bold);
            item->setBackground(theme().side);
        }
        rows_->setItem(r, c, item);
    }
}

/// What the cells say becomes the table, in one step; what makes no sense stays to be mended.
void BehaviourPanel::taken() {
    const Part* part = controller();
    if (filling_ || !part) return;
    for (int r = 0; r < rows_->rowCount() && r < static_cast<int>(lines_.size()); ++r) {
        BehaviourLine& line = lines_[static_cast<std::size_t>(r)];
        const auto cell = [&](int c) { return rows_->item(r, c)->text().simplified().toStdString(); };
        line.what = cell(col::what), line.how = cell(col::how), line.to = cell(col::to);
        line.pins = cell(line.is == Is::state ? col::state : col::pins);
    }
    const auto table = with_lines(lines_, sinks_);
    auto next = table
                    ? set_parameter(session_.design(), part->designator, "behaviour", text_of(table.value()))
                    : Result<Design>(table.error());
    trouble_->setText(next ? QString() : said(next.error().text()));
    trouble_->setVisible(!next);
    if (!next) return;
    session_.edit(next.value(), tr("change what %1 does").arg(said(part->designator)));
    refresh();
}

/// Of the state that the current row belongs to.
std::string BehaviourPanel::currentState() const {
    std::string name;
    const int row = std::max(0, rows_->currentRow());
    for (int r = 0; r <= row && r < static_cast<int>(lines_.size()); ++r)
        if (const BehaviourLine& line = lines_[static_cast<std::size_t>(r)]; line.is == Is::state)
            name = line.pins;
    return name;
}

void BehaviourPanel::add(Is is) {
    const Part* part = controller();
    if (!part) return;
    std::vector<std::string> pins;
    for (const PinAbility& pin : part_kind(part->kind)->controller->pins) pins.push_back(pin.pin);
    const int at = std::min(rows_->currentRow() + 1, static_cast<int>(lines_.size()));
    lines_.insert(lines_.begin() + at, another_line(is, lines_, pins));
    fill();
    rows_->setCurrentCell(at, is == Is::state ? col::state : col::what);
    taken();
}

void BehaviourPanel::removeRow() {
    const int row = rows_->currentRow();
    if (row < 0 || row >= static_cast<int>(lines_.size())) return;
    lines_.erase(lines_.begin() + row);
    fill();
    taken();
}

void BehaviourPanel::moveRow(int by) {
    const int row = rows_->currentRow(), then = row + by;
    if (row < 0 || then < 0 || then >= static_cast<int>(lines_.size())) return;
    std::swap(lines_[static_cast<std::size_t>(row)], lines_[static_cast<std::size_t>(then)]);
    fill();
    rows_->setCurrentCell(then, rows_->currentColumn());
    taken();
}

bool BehaviourPanel::writeFirmware(const QString& folder) {
    const Part* part = controller();
    if (!part) return false;
    const auto written =
        write_firmware(session_.design().circuit, *part, session_.design().name, folder.toStdString());
    if (!written)
        session_.reportError(said(written.error().text()));
    else
        watched_->setText(tr("%1 files written").arg(written.value().size()));
    return bool(written);
}

void BehaviourPanel::watch(bool on) {
    watch_->setChecked(on);
    if (on) return preview();
    stop();
}

void BehaviourPanel::stop() {
    work_.stop(), clock_.stop(), previewed_.reset();
    watched_->clear();
    pictures_.reset();
    emit pictureShown(nullptr);
}

/// The circuit with the current row's state as its first.
void BehaviourPanel::preview() {
    const Part* part = controller();
    if (!part || !isVisible() || !watch_->isChecked()) return;
    const auto table = behaviour_of(part->text("behaviour"));
    if (!table) return;
    const std::string first = currentState();
    Circuit circuit = session_.design().circuit;
    circuit.find(part->designator)->params["behaviour"] = text_of(beginning_in(table.value(), first));
    const std::pair wanted{circuit, session_.conditions()};
    if (previewed_ == wanted) return;
    previewed_ = wanted;
    clock_.stop();
    watched_->setText(tr("state %1: computing …").arg(said(first)));
    work_.start(
        [circuit, c = session_.conditions()](const Progress& progress) {
            return pictures_of(circuit, known_catalogue(), c, each_picture,
                               static_cast<std::size_t>(watched / each_picture), progress);
        },
        [this, first](Result<Pictures> made) {
            clock_.stop();
            if (!made) return watched_->setText(said(made.error().text()));
            pictures_ = std::make_shared<const Pictures>(std::move(made).value());
            picture_ = 0;
            watched_->setText(tr("playing: from state %1 on, %2 s").arg(said(first)).arg(watched));
            clock_.start();
        });
}

void BehaviourPanel::showAt(double share) {
    clock_.stop();
    if (!pictures_ || pictures_->all.empty()) return;
    picture_ = static_cast<std::size_t>(share * static_cast<double>(pictures_->all.size() - 1));
    emit pictureShown(&pictures_->all[picture_]);
}

void BehaviourPanel::advance() {
    if (!pictures_ || pictures_->all.empty()) return;
    emit pictureShown(&pictures_->all[picture_]);
    picture_ = (picture_ + 1) % pictures_->all.size();
}

void BehaviourPanel::showEvent(QShowEvent* event) {
    QWidget::showEvent(event);
    refresh();
}

void BehaviourPanel::hideEvent(QHideEvent* event) {
    QWidget::hideEvent(event);
    stop();
}

}  // namespace elkit
