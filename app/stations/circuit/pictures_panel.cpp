#include "app/stations/circuit/pictures_panel.hpp"

#include <QComboBox>
#include <QHBoxLayout>
#include <QLabel>
#include <QLineEdit>
#include <QListWidget>
#include <QPainter>
#include <QPushButton>
#include <algorithm>

#include "app/shell/session.hpp"
#include "app/theme/theme.hpp"
#include "app/widgets/card.hpp"
#include "app/widgets/matrix_view.hpp"
#include "app/widgets/panel_tools.hpp"
#include "app/widgets/said.hpp"
#include "circuit/chain.hpp"
#include "circuit/part_kind.hpp"
#include "matrix/edit.hpp"
#include "quantity/format.hpp"
#include "quantity/parse.hpp"
#include "recipes/blocks.hpp"

namespace elkit {
namespace {

constexpr std::size_t beside = 3;  // matrices, of which a drawing leaves room for the list at its right

QString in_amperes(double amps) { return said(format_quantity(amps, Unit::ampere)); }

/// Chains of matrices, in the order of their data.
std::vector<std::vector<std::string>> boards_of(const Circuit& circuit) {
    auto all = chains_of(circuit);
    std::erase_if(all, [&](const auto& chain) { return chain_pictures(circuit, chain).empty(); });
    return all;
}

QString order_of(const std::vector<std::string>& chain) {
    QStringList names;
    for (const std::string& designator : chain) names << said(designator);
    return names.join(QStringLiteral(" → "));
}

/// Of the lights of a matrix.
QColor colour_of_lights(const Part& matrix) {
    const LedType* type = known_catalogue().led(part_kind(matrix.kind)->module->light);
    return QColor::fromRgb(type ? type->colour() : LedType{}.colour());
}

QPixmap thumbnail(const std::vector<MatrixFrame>& matrices, const QColor& colour) {
    const int dot = matrices.size() > beside ? 2 : 3;
    QPixmap pixmap(dot * (matrix_side * static_cast<int>(matrices.size())) + 2, dot * matrix_side + 2);
    pixmap.fill(matrix_ground);
    QPainter painter(&pixmap);
    for (std::size_t m = 0; m < matrices.size(); ++m)
        for (int row = 0; row < matrix_side; ++row)
            for (int column = 0; column < matrix_side; ++column)
                if (matrices[m].on(row, column))
                    painter.fillRect(dot * (static_cast<int>(m) * matrix_side + column) + 1, dot * row + 1,
                                     dot - 1, dot - 1, colour);
    return pixmap;
}

}  // namespace

PicturesPanel::PicturesPanel(Session& session, QWidget* parent) : QWidget(parent), session_(session) {
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(10, 6, 10, 6);
    column->setSpacing(5);
    column->addWidget(tools());
    drawing_ = new MatrixView;
    connect(drawing_, &MatrixView::drawn, this,
            [this] { replace(drawing_->shown(), tr("draw in picture %1")); });
    list_ = new QListWidget;
    list_->setObjectName(QStringLiteral("pictures"));
    list_->setAccessibleName(tr("Pictures, in the order in which they are shown"));
    list_->setViewMode(QListView::IconMode);
    list_->setFlow(QListView::LeftToRight);
    list_->setWrapping(true);
    list_->setResizeMode(QListView::Adjust);
    list_->setMovement(QListView::Static);
    list_->setMinimumWidth(px(200));
    list_->setSpacing(2);
    connect(list_, &QListWidget::currentRowChanged, this, [this](int row) {
        if (row >= 0) showCurrent();
    });
    sides_ = new QHBoxLayout;
    sides_->addWidget(drawing_);
    sides_->addWidget(list_, 1);
    column->addLayout(sides_, 1);
    auto* foot = new QHBoxLayout;
    order_ = new ElidingLabel;
    taken_ = new ElidingLabel;
    taken_->setAlignment(Qt::AlignRight);
    for (QLabel* words : {order_, taken_}) words->setObjectName(QStringLiteral("small"));
    foot->addWidget(order_, 2);
    foot->addWidget(taken_, 3);
    column->addLayout(foot);
    clock_.setSingleShot(true);
    connect(&clock_, &QTimer::timeout, this, [this] {
        choose(static_cast<int>((current() + 1) % std::max<std::size_t>(1, pictures_.front().size())));
        play(true);
    });
    connect(&session_, &Session::changed, this, [this] {
        if (isVisible()) refresh();
    });
}

QWidget* PicturesPanel::tools() {
    auto* bar = new QWidget;
    auto* across = new QHBoxLayout(bar);
    across->setContentsMargins(0, 0, 0, 0);
    which_ = new QComboBox;
    which_->setAccessibleName(tr("which chain of matrices"));
    connect(which_, &QComboBox::activated, this, &PicturesPanel::refresh);
    across->addWidget(which_);
    const auto button = [&](const QString& words, const QString& tip, std::function<void()> does) {
        return tool_button(across, words, tip, std::move(does));
    };
    button(tr("+ picture"), tr("a copy of this one, behind it"), [this] { addPicture(); });
    button(tr("Remove"), tr("this picture; undo brings it back"), [this] { removePicture(); });
    button(tr("Earlier"), tr("this picture one place to the left"), [this] { movePicture(-1); });
    button(tr("Later"), tr("this picture one place to the right"), [this] { movePicture(1); });
    button(QStringLiteral("←"), tr("all of it a column to the left; what leaves comes in at the right"),
           [this] { slide(-1); })
        ->setAccessibleName(tr("slide left"));
    button(QStringLiteral("→"), tr("all of it a column to the right; what leaves comes in at the left"),
           [this] { slide(1); })
        ->setAccessibleName(tr("slide right"));
    button(tr("Invert"), tr("every light that is on goes off, and the other way round"),
           [this] { invert(); });
    across->addWidget(label(tr("for"), "small"));
    seconds_ = new QLineEdit;
    seconds_->setObjectName(QStringLiteral("pictureTime"));
    seconds_->setAccessibleName(tr("how long this picture is shown"));
    seconds_->setFixedWidth(px(72));
    connect(seconds_, &QLineEdit::editingFinished, this, &PicturesPanel::timeEntered);
    across->addWidget(seconds_);
    across->addStretch(1);
    play_ = button(tr("Play"), tr("one picture after the other, in their own times"),
                   [this] { play(!clock_.isActive()); });
    return bar;
}

std::vector<std::string> PicturesPanel::chain() const {
    const auto all = boards_of(session_.design().circuit);
    for (const auto& one : all)
        if (order_of(one) == which_->currentText()) return one;
    return all.empty() ? std::vector<std::string>() : all.front();
}

std::size_t PicturesPanel::current() const {
    return static_cast<std::size_t>(std::max(0, list_->currentRow()));
}

std::vector<MatrixFrame> PicturesPanel::picture(std::size_t number) const {
    std::vector<MatrixFrame> all;
    for (const auto& matrix : pictures_) all.push_back(matrix[number]);
    return all;
}

void PicturesPanel::refresh() {
    QStringList names;
    for (const auto& one : boards_of(session_.design().circuit)) names << order_of(one);
    offer_choices(which_, names);
    const auto links = chain();
    const auto pictures = chain_pictures(session_.design().circuit, links);
    if (pictures.empty()) return work_.stop(), play(false);
    order_->setText(tr("data: %1").arg(order_of(links)));
    if (pictures != pictures_ || links != shown_chain_) {
        pictures_ = pictures, shown_chain_ = links;
        sides_->setDirection(links.size() > beside ? QBoxLayout::TopToBottom : QBoxLayout::LeftToRight);
        colour_ = colour_of_lights(*session_.design().circuit.find(links.front()));
        fillList(list_->currentRow());
    }
    measure();
}

void PicturesPanel::fillList(int row) {
    const QSignalBlocker quiet(list_);
    list_->clear();
    for (std::size_t k = 0; k < pictures_.front().size(); ++k) {
        const QPixmap small = thumbnail(picture(k), colour_);
        list_->setIconSize(small.size());
        new QListWidgetItem(
            QIcon(small),
            tr("%1 · %2").arg(k + 1).arg(said(format_quantity(pictures_.front()[k].seconds, Unit::second))),
            list_);
    }
    list_->setCurrentRow(std::clamp(row, 0, list_->count() - 1));
    showCurrent();
}

void PicturesPanel::showCurrent() {
    if (pictures_.empty()) return;
    drawing_->show(picture(current()), colour_);
    seconds_->setText(said(format_quantity(pictures_.front()[current()].seconds, Unit::second)));
    tell();
}

void PicturesPanel::choose(int row) { list_->setCurrentRow(row); }

/// What the engine finds of the pictures as they are; while it computes, the last is not shown.
void PicturesPanel::measure() {
    const std::pair wanted{session_.design().circuit, session_.conditions()};
    if (measured_ == wanted) return;
    measured_ = wanted;
    currents_.reset();
    tell();
    work_.start(
        [circuit = wanted.first, conditions = wanted.second, links = shown_chain_](const Progress& progress) {
            return picture_currents(circuit, known_catalogue(), conditions, links, progress);
        },
        [this](Result<PictureCurrents> found) {
            if (!found) return taken_->setText(said(found.error().text()));
            currents_ = std::move(found).value();
            tell();
        });
}

void PicturesPanel::tell() {
    if (pictures_.empty()) return;
    const int lit = lit_in(picture(current()));
    const QString lights = lit == 1 ? tr("picture %1: 1 light").arg(current() + 1)
                                    : tr("picture %1: %2 lights").arg(current() + 1).arg(lit);
    if (!currents_ || current() >= currents_->each.size()) return taken_->setText(lights);
    taken_->setText(tr("%1, %2 · on average %3 · most %4 in picture %5")
                        .arg(lights, in_amperes(currents_->each[current()]), in_amperes(currents_->mean),
                             in_amperes(currents_->each[currents_->brightest]))
                        .arg(currents_->brightest + 1));
}

/// The pictures into the design, in one step that undoes.
void PicturesPanel::put(Pictures pictures, const QString& what, std::size_t then) {
    const Design& now = session_.design();
    Design next = with_circuit(now, with_chain_pictures(now.circuit, shown_chain_, pictures));
    pictures_ = std::move(pictures);
    fillList(static_cast<int>(then));
    session_.edit(next, what);
}

void PicturesPanel::addPicture() {
    if (pictures_.empty()) return;
    if (pictures_.front().size() >= most_frames)
        return session_.reportError(tr("%1 pictures are the most").arg(most_frames));
    Pictures next = pictures_;
    const auto at = static_cast<std::ptrdiff_t>(current());
    for (auto& matrix : next) matrix.insert(matrix.begin() + at + 1, matrix[current()]);
    put(std::move(next), tr("add a picture"), current() + 1);
}

void PicturesPanel::removePicture() {
    if (pictures_.empty() || pictures_.front().size() < 2) return;
    Pictures next = pictures_;
    const std::size_t at = current();
    for (auto& matrix : next) matrix.erase(matrix.begin() + static_cast<std::ptrdiff_t>(at));
    put(std::move(next), tr("remove picture %1").arg(at + 1), at > 0 ? at - 1 : 0);
}

void PicturesPanel::movePicture(int by) {
    const int then = static_cast<int>(current()) + by;
    if (pictures_.empty() || then < 0 || then >= static_cast<int>(pictures_.front().size())) return;
    Pictures next = pictures_;
    for (auto& matrix : next) std::swap(matrix[current()], matrix[static_cast<std::size_t>(then)]);
    put(std::move(next), tr("move picture %1").arg(current() + 1), static_cast<std::size_t>(then));
}

/// Another picture in place of the current one.
void PicturesPanel::replace(const std::vector<MatrixFrame>& picture, const QString& what) {
    Pictures next = pictures_;
    for (std::size_t m = 0; m < next.size(); ++m) next[m][current()].rows = picture[m].rows;
    put(std::move(next), what.arg(current() + 1), current());
}

void PicturesPanel::slide(int columns) {
    if (!pictures_.empty()) replace(slid(picture(current()), columns), tr("slide picture %1"));
}

void PicturesPanel::invert() {
    if (!pictures_.empty()) replace(inverted(picture(current())), tr("invert picture %1"));
}

void PicturesPanel::timeEntered() {
    if (pictures_.empty()) return;
    const auto typed = parse_quantity(seconds_->text().toStdString(), Unit::second);
    const double before = pictures_.front()[current()].seconds;
    const bool fits = typed && typed.value() >= shortest_frame && typed.value() <= longest_frame;
    if (!fits) {
        session_.reportError(tr("\"%1\" is no time for a picture; expected %2 to %3")
                                 .arg(seconds_->text(), said(format_quantity(shortest_frame, Unit::second)),
                                      said(format_quantity(longest_frame, Unit::second))));
        return showCurrent();
    }
    if (std::abs(typed.value() - before) < 1e-6) return showCurrent();
    Pictures next = pictures_;
    for (auto& matrix : next) matrix[current()].seconds = typed.value();
    put(std::move(next), tr("show picture %1 for so long").arg(current() + 1), current());
}

void PicturesPanel::play(bool on) {
    clock_.stop();
    play_->setText(on ? tr("Stop") : tr("Play"));
    if (on && !pictures_.empty()) clock_.start(static_cast<int>(1000 * pictures_.front()[current()].seconds));
}

void PicturesPanel::showEvent(QShowEvent* event) {
    QWidget::showEvent(event);
    refresh();
}

void PicturesPanel::hideEvent(QHideEvent* event) {
    QWidget::hideEvent(event);
    play(false);
    work_.stop();
    measured_.reset();
}

}  // namespace elkit
