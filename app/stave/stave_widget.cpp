#include "app/stave/stave_widget.hpp"

#include <QApplication>
#include <QClipboard>
#include <QContextMenuEvent>
#include <QKeyEvent>
#include <QMenu>
#include <QStyle>
#include <QToolTip>
#include <algorithm>

#include "app/shell/session.hpp"
#include "app/theme/theme.hpp"
#include "app/widgets/overview_strip.hpp"
#include "batch/owned_values.hpp"
#include "circuit/edit.hpp"
#include "circuit/part_kind.hpp"
#include "command/command.hpp"
#include "command/parts_table.hpp"
#include "engine/figures.hpp"
#include "quantity/preferred.hpp"
#include "recipes/blocks.hpp"

namespace elkit {
namespace {

/// The field over a value. Enter and Escape end here; the stave below has its own meaning for them.
class ValueEditor : public QLineEdit {
  public:
    using QLineEdit::QLineEdit;

  protected:
    void keyPressEvent(QKeyEvent* event) override {
        QLineEdit::keyPressEvent(event);
        if (event->key() == Qt::Key_Escape) {
            hide();
            parentWidget()->setFocus();
        }
        event->accept();
    }
};

QString after_colon(const QString& ref) { return ref.mid(ref.indexOf(QLatin1Char(':')) + 1); }

/// The part of a ref: "R1" of "value:R1", "part:R1" or "pin:R1.a".
QString part_of(const QString& ref) { return after_colon(ref).section(QLatin1Char('.'), 0, 0); }

}  // namespace

StaveWidget::StaveWidget(Session& session, QWidget* parent)
    : PictureView(parent),
      session_(session),
      editor_(new ValueEditor(this)),
      overview_(new OverviewStrip(this, this)) {
    setAccessibleName(tr("Stave: the circuit with its voltages and currents"));
    setAccessibleDescription(
        tr("Left and right keys walk through the values, then the lines; Enter edits or renames, up and down "
           "step through preferred values, T shows it in time"));
    setSelectable({"value:", "net:", "fold:"});
    setDraggable({"net:", "value:", "part:"});
    setZoomable(true);
    overview_->hide();
    setMinimumHeight(240);
    editor_->setObjectName(QStringLiteral("staveEditor"));
    editor_->hide();
    connect(editor_, &QLineEdit::returnPressed, this, &StaveWidget::commit);
    connect(editor_, &QLineEdit::editingFinished, this, [this] {
        if (!editor_->hasFocus()) editor_->hide();
    });
    connect(this, &PictureView::activated, this, &StaveWidget::activate);
    connect(this, &PictureView::stepped, this, &StaveWidget::step);
    connect(this, &PictureView::dropped, this, &StaveWidget::reconnect);
    connect(this, &PictureView::clicked, this, [this](const QString& ref) {
        const Circuit& circuit = session_.design().circuit;
        const std::string name = after_colon(ref).toStdString();
        lightNet(ref);
        if (ref.startsWith(QLatin1String("net:"))) {
            session_.focusFigure(voltage_figure(circuit, readings(), name));
            emit netTouched(after_colon(ref));
        } else if (circuit.find(name)) {
            session_.focusFigure(power_figure(circuit, readings(), name));
        }
    });
    connect(this, &PictureView::pressed, this, [this](const QString& ref) {
        if (ref.startsWith(QLatin1String("fold:"))) toggleFold(after_colon(ref).toStdString());
    });
    connect(this, &PictureView::hovered, this,
            [this](const QString& ref) { lightNet(ref.isEmpty() && hasFocus() ? selected() : ref); });
    for (auto signal : {&Session::changed, &Session::arrived, &Session::viewChanged})
        connect(&session_, signal, this, &StaveWidget::refresh);
    connect(&session_, &Session::started, this, [this] {
        overview_->hide();  // until the other design turns out to be larger than the view
        PictureView::fit();
        takeRoom();
    });
    refresh();
}

void StaveWidget::refresh() {
    if (!isVisible()) return;
    if (moment_) return setDrawing(*moment_);
    const auto stave = session_.stave();
    if (stave) setDrawing(*stave);
    setDimmed(!stave.current());
    if (overflows() && overview_->isHidden()) {
        overview_->show();
        takeRoom();
    }
}

/// The net under the mouse, or the chosen one.
void StaveWidget::lightNet(const QString& ref) {
    StaveView view = session_.staveView();
    const std::string net =
        ref.startsWith(QLatin1String("net:")) ? after_colon(ref).toStdString() : std::string();
    if (view.lit_net == net) return;
    view.lit_net = net;
    session_.setStaveView(view);
}

constexpr int overview_height = 34;

QSize StaveWidget::viewSize() const {
    return {width(), height() - (overview_->isHidden() ? 0 : px(overview_height) + 4)};
}

double StaveWidget::scale() const {
    constexpr double least = 0.9;  // smaller letters are no longer easy to read
    if (session_.staveView().zoom > 1 || drawing().width <= 0) return 1;
    const double fit = width() / drawing().width;
    return fit >= least ? std::min(1.0, fit) : 1;
}

/// Tells how large the stave can be.
void StaveWidget::takeRoom() {
    const QSize room = viewSize();
    overview_->setGeometry(0, room.height() + 4, width(), px(overview_height));
    StaveView view = session_.staveView();
    if (view.room_width == room.width() && view.room_height == room.height()) return;
    view.room_width = room.width(), view.room_height = room.height();
    session_.setStaveView(view);
}

void StaveWidget::resizeEvent(QResizeEvent* event) {
    overview_->hide();  // back where there is no room for all
    PictureView::resizeEvent(event);
    takeRoom();
}

void StaveWidget::zoom(double factor, QPointF around) {
    StaveView view = session_.staveView();
    const QRectF share = viewShare();
    const QPointF at(share.x() + share.width() * around.x() / std::max(1, width()),
                     share.y() + share.height() * around.y() / std::max(1, height()));
    view.zoom = std::clamp(view.zoom * factor, 1.0, 6.0);
    session_.setStaveView(view);
    centreOn(at);
}

void StaveWidget::fit() {
    StaveView view = session_.staveView();
    view.zoom = 1;
    session_.setStaveView(view);
    PictureView::fit();
}

void StaveWidget::toggleFold(const std::string& first) {
    StaveView view = session_.staveView();
    if (!view.unfolded.erase(first)) view.unfolded.insert(first);
    session_.setStaveView(view);
}

void StaveWidget::reveal(const QString& ref) {
    const std::string group = session_.staveLayout().group_of(part_of(ref).toStdString());
    if (!group.empty() && itemRect(ref).isEmpty() && !session_.staveView().unfolded.contains(group))
        toggleFold(group);
    select(ref);
}

void StaveWidget::showEvent(QShowEvent* event) {
    PictureView::showEvent(event);
    refresh();
}

/// The present ones; none while there are none.
OperatingPoint StaveWidget::readings() {
    const auto now = session_.ask(session_.restQuery(), Urgency::in_view, "now");
    return now ? *now : OperatingPoint{};
}

void StaveWidget::showMoment(std::optional<Drawing> moment) {
    moment_ = std::move(moment);
    refresh();
}

void StaveWidget::say(const std::string& words) {
    auto command = parse_command(words, session_.design(), session_.conditions());
    if (!command) return session_.reportError(QString::fromStdString(command.error().text()));
    if (command.value().design)
        session_.edit(*command.value().design, QString::fromStdString(command.value().preview));
}

/// A dot let go near a line is put on that net.
void StaveWidget::reconnect(const QString& ref, QPointF at) {
    if (!ref.startsWith(QLatin1String("pin:"))) return;
    const std::string net = net_near(drawing(), at.x(), at.y());
    if (!net.empty()) say(after_colon(ref).toStdString() + " to " + net);
}

bool StaveWidget::netKey(int key, const QString& net) {
    if (key == Qt::Key_T) emit traceWanted(QStringLiteral("net:") + net);
    if (key == Qt::Key_R || key == Qt::Key_B) emit probeWanted(net, key == Qt::Key_R);
    return key == Qt::Key_T || key == Qt::Key_R || key == Qt::Key_B;
}

bool StaveWidget::partKey(QKeyEvent* event, const std::string& part) {
    const bool plain = event->modifiers() == Qt::NoModifier,
               control = event->modifiers() == Qt::ControlModifier;
    if (event->key() == Qt::Key_Delete || event->key() == Qt::Key_Backspace)
        say("delete " + part);
    else if (control && event->key() == Qt::Key_D)
        say("duplicate " + part);
    else if (plain && event->key() == Qt::Key_M)
        say("flip " + part);
    else if (plain && event->key() == Qt::Key_T)
        emit traceWanted(QStringLiteral("part:") + QString::fromStdString(part));
    else if (event->matches(QKeySequence::Copy))
        copyPart();
    else
        return false;
    return true;
}

void StaveWidget::keyPressEvent(QKeyEvent* event) {
    const std::string part = part_of(selected()).toStdString();
    if (event->matches(QKeySequence::Paste)) return pasteParts();
    if (selected().startsWith(QLatin1String("fold:")) &&
        (event->key() == Qt::Key_Return || event->key() == Qt::Key_Space))
        return toggleFold(part);
    if (selected().startsWith(QLatin1String("net:"))) {
        if (event->modifiers() == Qt::NoModifier && netKey(event->key(), after_colon(selected()))) return;
    } else if (session_.design().circuit.find(part) && partKey(event, part)) {
        return;
    }
    PictureView::keyPressEvent(event);
}

/// Keys that mean something for a part here, whatever they mean elsewhere in the window.
bool StaveWidget::event(QEvent* event) {
    if (event->type() == QEvent::ShortcutOverride) {
        auto* key = static_cast<QKeyEvent*>(event);
        if (key->modifiers() == Qt::ControlModifier && key->key() == Qt::Key_D) {
            event->accept();
            return true;
        }
    }
    return PictureView::event(event);
}

void StaveWidget::copyPart() {
    if (const Part* part = session_.design().circuit.find(part_of(selected()).toStdString()))
        QApplication::clipboard()->setText(QString::fromStdString(parts_as_csv({*part})));
}

void StaveWidget::pasteParts() {
    auto next = with_parts_from_table(session_.design(), QApplication::clipboard()->text().toStdString(),
                                      Merge::rename);
    if (!next) return session_.reportError(QString::fromStdString(next.error().text()));
    session_.edit(next.value(), tr("paste parts"));
}

QMenu* StaveWidget::netMenu(const QString& net) {
    auto* menu = new QMenu(this);
    menu->addAction(tr("Rename %1\tEnter").arg(net), this, [this, net] { renameNet(net); });
    menu->addAction(tr("See it in time\tT"), this,
                    [this, net] { emit traceWanted(QStringLiteral("net:") + net); });
    menu->addAction(tr("Red probe here\tR"), this, [this, net] { emit probeWanted(net, true); });
    menu->addAction(tr("Black probe here\tB"), this, [this, net] { emit probeWanted(net, false); });
    return menu;
}

QMenu* StaveWidget::partMenu(const QString& name) {
    auto* menu = new QMenu(this);
    const Part& part = *session_.design().circuit.find(name.toStdString());
    const auto words = [this, name](const char* verb) {
        return [this, line = std::string(verb) + " " + name.toStdString()] { say(line); };
    };
    if (!part_kind(part.kind)->value_key.empty())
        menu->addAction(tr("Change its value\tEnter"), this, [this, name] { editValue(name); });
    menu->addAction(tr("See its current in time\tT"), this,
                    [this, name] { emit traceWanted(QStringLiteral("part:") + name); });
    if (is(part, Role::light))
        menu->addAction(tr("See its light in time"), this,
                        [this, name] { emit traceWanted(QStringLiteral("light:") + name); });
    menu->addSeparator();
    menu->addAction(tr("Another one\tCtrl+D"), this, words("duplicate"));
    if (part.pins.size() == 2) menu->addAction(tr("Turn it round\tM"), this, words("flip"));
    menu->addAction(tr("Copy\tCtrl+C"), this, &StaveWidget::copyPart);
    QMenu* kinds = menu->addMenu(tr("Replace by"));
    for (const PartKind& kind : part_kinds())
        if (kind.pins.size() == part_kind(part.kind)->pins.size() && kind.id != part.kind)
            kinds->addAction(QString::fromStdString(kind.name), this,
                             [this, line = "replace " + part.designator + " with " + kind.id] { say(line); });
    menu->addAction(tr("Delete\tDel"), this, words("delete"));
    return menu;
}

void StaveWidget::contextMenuEvent(QContextMenuEvent* event) {
    const bool by_key = event->reason() == QContextMenuEvent::Keyboard;
    const QString ref = by_key ? selected() : refAt(event->pos());
    QMenu* menu = nullptr;
    if (ref.startsWith(QLatin1String("net:")))
        menu = netMenu(after_colon(ref));
    else if (session_.design().circuit.find(part_of(ref).toStdString()))
        menu = partMenu(part_of(ref));
    if (!menu) return;
    select(ref);
    menu->setAttribute(Qt::WA_DeleteOnClose);
    menu->popup(by_key ? mapToGlobal(itemRect(ref).center().toPoint()) : event->globalPos());
}

void StaveWidget::activate(const QString& ref) {
    if (ref.startsWith(QLatin1String("net:"))) return renameNet(after_colon(ref));
    const QString name = part_of(ref);
    if (ref.startsWith(QLatin1String("fold:"))) return;  // the first click has turned it
    const Part* part = session_.design().circuit.find(name.toStdString());
    if (!part) return;
    if (is(*part, Role::contact) && !is(*part, Role::momentary)) {
        Conditions c = session_.conditions();
        c.switches[part->designator] = !c.closed(*part);
        session_.setConditions(c);
    } else {
        editValue(name);
    }
}

void StaveWidget::openEditor(const QString& ref, const QString& text, const QString& name) {
    const QRectF at = itemRect(ref);
    editor_->setGeometry(QRect(at.topLeft().toPoint() - QPoint(8, 6), QSize(px(96), px(26))));
    editor_->setText(text);
    editor_->setAccessibleName(name);
    editor_->setProperty("bad", false);
    editor_->show();
    editor_->selectAll();
    editor_->setFocus();
}

void StaveWidget::editValue(const QString& designator) {
    const Part* part = session_.design().circuit.find(designator.toStdString());
    if (!part) return;
    editing_ = part->designator, renaming_.clear();
    openEditor(QStringLiteral("value:") + designator, QString::fromStdString(editable_value(*part)),
               tr("value of %1").arg(designator));
}

void StaveWidget::renameNet(const QString& net) {
    renaming_ = net.toStdString(), editing_.clear();
    openEditor(QStringLiteral("net:") + net, net, tr("name of the line %1").arg(net));
}

/// The parts that this one stands for in the picture: with alike columns folded, one in each of them.
std::vector<std::string> StaveWidget::drawnAs(const std::string& part) const {
    const std::string group = session_.staveLayout().group_of(part);
    if (group.empty() || session_.staveView().unfolded.contains(group)) return {part};
    return session_.staveLayout().like(part);
}

/// What the field asks for, as a new design.
Result<Design> StaveWidget::edited() const {
    const std::string typed = editor_->text().trimmed().toStdString();
    if (!renaming_.empty()) {
        auto circuit = rename_net(session_.design().circuit, renaming_, typed);
        if (!circuit) return circuit.error();
        return with_circuit(session_.design(), std::move(circuit).value());
    }
    const Part* part = session_.design().circuit.find(editing_);
    if (!part) return session_.design();
    Result<Design> next = session_.design();
    for (const std::string& name : drawnAs(editing_)) {
        next = set_parameter(next.value(), name, part_kind(part->kind)->value_key, typed);
        if (!next) break;
    }
    return next;
}

void StaveWidget::commit() {
    auto next = edited();
    if (!next) {
        editor_->setProperty("bad", true);
        editor_->style()->unpolish(editor_);
        editor_->style()->polish(editor_);
        const QString fault = QString::fromStdString(next.error().text());
        editor_->setToolTip(fault);
        if (isVisible())
            QToolTip::showText(editor_->mapToGlobal(QPoint(0, editor_->height())), fault, editor_);
        return;
    }
    editor_->hide();
    setFocus();
    const bool name = !renaming_.empty();
    session_.edit(
        std::move(next).value(),
        (name ? tr("rename %1") : tr("change %1")).arg(QString::fromStdString(name ? renaming_ : editing_)));
}

/// The neighbouring preferred value: E24 for resistors, E12 for what stores; or the neighbour in the drawer.
void StaveWidget::step(const QString& ref, int steps) {
    const std::string name = after_colon(ref).toStdString();
    const Part* part = session_.design().circuit.find(name);
    const PartKind* kind = part ? part_kind(part->kind) : nullptr;
    const ParamInfo* info = kind ? kind->param(kind->value_key) : nullptr;
    if (!info || (info->unit != Unit::ohm && info->unit != Unit::farad && info->unit != Unit::henry)) return;
    const Series series = info->unit == Unit::ohm ? Series::e24 : Series::e12;
    const double now = part->number(info->key);
    double next = std::clamp(
        steps > 0 ? preferred_at_least(now * 1.001, series) : preferred_at_most(now * 0.999, series),
        info->low, info->high);
    if (session_.ownedOnly()) {
        const auto owned = owned_values(session_.drawerItems(), *part, session_.design().name);
        const OwnedValue* neighbour = next_owned(owned, now, steps);
        if (!neighbour)
            return session_.reportError(steps > 0 ? tr("The drawer has none above it.")
                                                  : tr("The drawer has none below it."));
        next = neighbour->value;
    }
    Circuit changed = session_.design().circuit;
    for (const std::string& each : drawnAs(name))
        if (Part* alike = changed.find(each)) alike->params[info->key] = next;
    session_.edit(with_circuit(session_.design(), std::move(changed)),
                  tr("change %1").arg(QString::fromStdString(name)));
}

}  // namespace elkit
