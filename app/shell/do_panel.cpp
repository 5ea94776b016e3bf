#include "app/shell/do_panel.hpp"

#include <QApplication>
#include <QKeyEvent>
#include <QLabel>
#include <QListWidget>
#include <QPainter>
#include <QStyledItemDelegate>
#include <QVBoxLayout>
#include <algorithm>

#include "app/shell/session.hpp"
#include "app/theme/theme.hpp"
#include "app/widgets/card.hpp"
#include "batch/owned_values.hpp"
#include "circuit/part_kind.hpp"
#include "circuit/part_words.hpp"
#include "quantity/plain_text.hpp"

namespace elkit {
namespace {

constexpr int most_offered = 12;

QString about(Suggestion::About what) {
    switch (what) {
        case Suggestion::About::station:
            return QObject::tr("station");
        case Suggestion::About::part:
            return QObject::tr("part");
        case Suggestion::About::net:
            return QObject::tr("net");
        case Suggestion::About::goal:
            return QObject::tr("goal");
        case Suggestion::About::conditions:
            return QObject::tr("conditions");
        case Suggestion::About::action:
            return QObject::tr("action");
    }
    return {};
}

/// A line, and at the right what it is about.
class SuggestionDelegate : public QStyledItemDelegate {
  public:
    using QStyledItemDelegate::QStyledItemDelegate;
    void paint(QPainter* painter, const QStyleOptionViewItem& option,
               const QModelIndex& index) const override {
        QStyledItemDelegate::paint(painter, option, index);
        painter->setPen(theme().muted);
        painter->drawText(option.rect.adjusted(0, 0, -8, 0), Qt::AlignRight | Qt::AlignVCenter,
                          index.data(Qt::UserRole + 1).toString());
    }
};

}  // namespace

DoPanel::DoPanel(Session& session, std::vector<ActionName> actions, QWidget* window)
    : QFrame(window),
      session_(session),
      actions_(std::move(actions)),
      line_(new QLineEdit),
      what_(label({}, "bold")),
      heading_(label({}, "small")),
      list_(new QListWidget) {
    setObjectName(QStringLiteral("doPanel"));
    setAutoFillBackground(true);
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(18, 16, 18, 14);
    column->setSpacing(8);
    line_->setPlaceholderText(
        tr("Do anything: a station, an action, a part such as r1 = 82, led amber from V+ to A"));
    line_->setAccessibleName(tr("Do anything: a station, an action, or a part such as r1 = 82"));
    line_->setMinimumHeight(px(38));
    line_->installEventFilter(this);
    what_->setWordWrap(true);
    what_->setMinimumHeight(px(40));
    what_->setAlignment(Qt::AlignLeft | Qt::AlignTop);
    list_->setFocusPolicy(Qt::NoFocus);
    list_->setAccessibleName(tr("what can be said"));
    list_->setFrameShape(QFrame::NoFrame);
    list_->setItemDelegate(new SuggestionDelegate(list_));
    list_->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    for (QWidget* w :
         {static_cast<QWidget*>(line_), static_cast<QWidget*>(what_), static_cast<QWidget*>(heading_)})
        column->addWidget(w);
    column->addWidget(list_, 1);
    column->addWidget(label(tr("Enter does it · up and down choose · Esc closes"), "small"));
    connect(&session_, &Session::started, this, [this] { everything_.clear(); });
    connect(&session_, &Session::designChanged, this, [this] { everything_.clear(); });
    connect(line_, &QLineEdit::textEdited, this, &DoPanel::refresh);
    connect(line_, &QLineEdit::returnPressed, this, &DoPanel::run);
    connect(list_, &QListWidget::itemClicked, this, [this](QListWidgetItem* item) {
        line_->setText(item->text());
        showPreview();
        line_->setFocus();
    });
    connect(list_, &QListWidget::itemDoubleClicked, this, &DoPanel::run);
    window->installEventFilter(this);
    hide();
}

void DoPanel::place() {
    const QWidget* window = parentWidget();
    const int wide = std::min(window->width() - px(80), px(720)),
              high = std::min(window->height() - px(120), px(470));
    setGeometry((window->width() - wide) / 2, px(70), wide, high);
}

void DoPanel::open() {
    if (isHidden()) back_ = QApplication::focusWidget();
    place();
    show();
    raise();
    line_->setFocus(Qt::ShortcutFocusReason);
    line_->selectAll();
    refresh();
}

void DoPanel::close() {
    line_->clear();
    hide();
    (back_ && back_->isVisible() ? back_.data() : parentWidget())->setFocus();
}

void DoPanel::offer(const QString& line, const QString& kind) {
    auto* item = new QListWidgetItem(line, list_);
    item->setData(Qt::UserRole + 1, kind);
}

/// What Enter would do with what stands in the line.
bool DoPanel::showPreview() {
    const auto command =
        parse_command(line_->text().toStdString(), session_.design(), session_.conditions(), actions_);
    preview_ = QString::fromStdString(command ? command.value().preview : command.error().text());
    const bool empty = line_->text().trimmed().isEmpty();
    what_->setText(empty ? tr("Type what to do, in plain words.")
                         : (command ? QStringLiteral("↵  ") : QString()) + preview_);
    what_->setStyleSheet(QStringLiteral("color: %1")
                             .arg((empty     ? theme().muted
                                   : command ? theme().teal
                                             : theme().rust)
                                      .name()));
    return bool(command);
}

/// The values in the drawer that a part could have, nearest first, where only what is owned is wanted and the
/// line begins with that part; how many it offered.
int DoPanel::offerOwned(const std::string& typed) {
    constexpr std::size_t most_owned = 4;
    if (!session_.ownedOnly()) return 0;
    const std::string name = typed.substr(0, typed.find_first_of(" ="));
    int count = 0;
    for (const Part& part : session_.design().circuit.parts) {
        if (name.empty() || lower_case(part.designator) != lower_case(name)) continue;
        const PartKind* kind = part_kind(part.kind);
        const ParamInfo* info = kind ? kind->param(kind->value_key) : nullptr;
        const auto owned = owned_values(session_.drawerItems(), part, session_.design().name);
        for (std::size_t k = 0; info && k < std::min(most_owned, owned.size()); ++k, ++count)
            offer(QStringLiteral("%1 = %2").arg(QString::fromStdString(part.designator),
                                                QString::fromStdString(param_text(owned[k].part, *info))),
                  tr("in the drawer: %1").arg(QString::fromStdString(owned[k].name)));
    }
    return count;
}

const std::vector<Suggestion>& DoPanel::everything() {
    if (everything_.empty()) everything_ = sayable(session_.design(), actions_);
    return everything_;
}

void DoPanel::refresh() {
    const bool understood = showPreview();
    list_->clear();
    const std::string typed = line_->text().toStdString();
    int count = offerOwned(typed);
    for (const Suggestion& s : suggestions(typed, session_.design(), everything())) {
        if (count >= most_offered) break;
        // words typed wrong stay wrong in a line that goes on from them
        if (!parse_command(s.line, session_.design(), session_.conditions(), actions_)) continue;
        offer(QString::fromStdString(s.line), about(s.about));
        ++count;
    }
    heading_->setText(tr("What can be said"));
    if (count > 0 || understood) return;
    heading_->setText(tr("Not understood. Near to it:"));
    for (const std::string& line : nearest_lines(typed, session_.design(), everything()))
        offer(QString::fromStdString(line), {});
}

void DoPanel::run() {
    auto command =
        parse_command(line_->text().toStdString(), session_.design(), session_.conditions(), actions_);
    if (!command) return refresh();
    close();
    Command& c = command.value();
    const QString id = QString::fromStdString(c.id);
    switch (c.kind) {
        case Command::Kind::station:
            return emit stationAsked(id);
        case Command::Kind::action:
            return emit actionAsked(id);
        case Command::Kind::show:
            return emit showAsked(id);
        case Command::Kind::edit:
            return session_.edit(*c.design, QString::fromStdString(c.preview));
        case Command::Kind::condition:
            return session_.setConditions(*c.conditions);
    }
}

bool DoPanel::lineKey(int key) {
    if (key == Qt::Key_Escape) {
        close();
        return true;
    }
    const int count = list_->count();
    if ((key != Qt::Key_Down && key != Qt::Key_Up) || count == 0) return false;
    const int now = list_->currentRow(), step = key == Qt::Key_Down ? 1 : -1;
    list_->setCurrentRow(now < 0 ? (step > 0 ? 0 : count - 1) : (now + step + count) % count);
    line_->setText(list_->currentItem()->text());
    showPreview();
    return true;
}

/// Keys of the line; a click beside the panel closes it.
bool DoPanel::eventFilter(QObject* watched, QEvent* event) {
    if (watched == line_ && event->type() == QEvent::KeyPress)
        return lineKey(static_cast<QKeyEvent*>(event)->key()) || QFrame::eventFilter(watched, event);
    if (watched == line_ && event->type() == QEvent::FocusOut && isVisible() && !underMouse())
        QMetaObject::invokeMethod(
            this,
            [this] {
                if (isVisible() && !line_->hasFocus() && window()->isActiveWindow()) hide();
            },
            Qt::QueuedConnection);
    if (watched == parentWidget() && event->type() == QEvent::Resize && isVisible()) place();
    return QFrame::eventFilter(watched, event);
}

}  // namespace elkit
