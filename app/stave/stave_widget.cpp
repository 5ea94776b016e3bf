#include "app/stave/stave_widget.hpp"

#include <QKeyEvent>
#include <QStyle>
#include <QToolTip>

#include "app/shell/session.hpp"
#include "app/theme/theme.hpp"
#include "circuit/part_kind.hpp"
#include "command/command.hpp"
#include "engine/figures.hpp"
#include "quantity/preferred.hpp"

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

}  // namespace

StaveWidget::StaveWidget(Session& session, QWidget* parent)
    : PictureView(parent), session_(session), editor_(new ValueEditor(this)) {
    setAccessibleName(tr("Stave: the circuit with its voltages and currents"));
    setAccessibleDescription(
        tr("Left and right keys walk through the values, Enter edits, up and down step through preferred "
           "values"));
    setSelectable({"value:"});
    setMaximumScale(1.35);
    setZoomable(0.5);
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
        if (ref.startsWith(QLatin1String("net:")))
            session_.focusFigure(voltage_figure(circuit, session_.live().op, name));
        else if (circuit.find(name))
            session_.focusFigure(power_figure(session_.live().op, name));
    });
    connect(this, &PictureView::hovered, this, [this](const QString& ref) {
        StaveView view = session_.staveView();
        const std::string net =
            ref.startsWith(QLatin1String("net:")) ? after_colon(ref).toStdString() : std::string();
        if (view.lit_net == net) return;
        view.lit_net = net;
        session_.setStaveView(view);
    });
    connect(&session_, &Session::liveChanged, this, &StaveWidget::refresh);
    refresh();
}

void StaveWidget::refresh() { setDrawing(moment_ ? *moment_ : session_.live().stave); }

void StaveWidget::showMoment(std::optional<Drawing> moment) {
    moment_ = std::move(moment);
    refresh();
}

/// The part of a ref: "R1" of "value:R1", "part:R1" or "pin:R1.a".
static QString part_of(const QString& ref) { return after_colon(ref).section(QLatin1Char('.'), 0, 0); }

void StaveWidget::say(const std::string& words) {
    auto command = parse_command(words, session_.design(), session_.conditions());
    if (!command) return session_.reportError(QString::fromStdString(command.error().text()));
    if (command.value().design)
        session_.edit(std::move(*command.value().design), QString::fromStdString(command.value().preview));
}

/// A dot let go near a line is put on that net.
void StaveWidget::reconnect(const QString& ref, QPointF at) {
    if (!ref.startsWith(QLatin1String("pin:"))) return;
    const std::string net = net_near(drawing(), at.y());
    if (!net.empty()) say(after_colon(ref).toStdString() + " to " + net);
}

void StaveWidget::keyPressEvent(QKeyEvent* event) {
    const std::string part = part_of(selected()).toStdString();
    const bool known = session_.design().circuit.find(part) != nullptr;
    if (known && (event->key() == Qt::Key_Delete || event->key() == Qt::Key_Backspace))
        return say("delete " + part);
    if (known && event->key() == Qt::Key_D && event->modifiers() == Qt::ControlModifier)
        return say("duplicate " + part);
    if (known && event->key() == Qt::Key_M && event->modifiers() == Qt::NoModifier)
        return say("flip " + part);
    PictureView::keyPressEvent(event);
}

void StaveWidget::activate(const QString& ref) {
    if (ref.startsWith(QLatin1String("net:"))) return emit netChosen(after_colon(ref));
    const QString name = part_of(ref);
    const Part* part = session_.design().circuit.find(name.toStdString());
    if (!part) return;
    if (is_contact(*part) && part->kind != "button") {
        Conditions c = session_.conditions();
        c.switches[part->designator] = !c.closed(*part);
        session_.setConditions(c);
    } else {
        editValue(name);
    }
}

void StaveWidget::editValue(const QString& designator) {
    const Part* part = session_.design().circuit.find(designator.toStdString());
    if (!part) return;
    editing_ = part->designator;
    const QRectF at = itemRect(QStringLiteral("value:") + designator);
    editor_->setGeometry(QRect(at.topLeft().toPoint() - QPoint(8, 6), QSize(px(96), px(26))));
    editor_->setText(
        QString::fromStdString(part->kind == "battery" ? part->text("cell") : value_text(*part)));
    editor_->setAccessibleName(tr("value of %1").arg(designator));
    editor_->setProperty("bad", false);
    editor_->show();
    editor_->selectAll();
    editor_->setFocus();
}

void StaveWidget::commit() {
    const Part* part = session_.design().circuit.find(editing_);
    if (!part) return editor_->hide();
    const std::string key = part_kind(part->kind)->value_key;
    auto next = set_parameter(session_.design(), editing_, key, editor_->text().toStdString());
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
    session_.edit(std::move(next).value(), tr("change %1").arg(QString::fromStdString(editing_)));
}

void StaveWidget::step(const QString& ref, int steps) {
    const std::string name = after_colon(ref).toStdString();
    const Part* part = session_.design().circuit.find(name);
    if (!part || part->kind != "resistor") return;
    const double now = part->number("value");
    const double next = steps > 0 ? preferred_at_least(now * 1.001, Series::e24)
                                  : preferred_at_most(now * 0.999, Series::e24);
    Design changed = session_.design();
    changed.circuit.find(name)->params["value"] = next;
    session_.edit(std::move(changed), tr("change %1").arg(QString::fromStdString(name)));
}

}  // namespace elkit
