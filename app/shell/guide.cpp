#include "app/shell/guide.hpp"

#include <QAction>
#include <QApplication>
#include <QFile>
#include <QHBoxLayout>
#include <QHelpEvent>
#include <QKeyEvent>
#include <QListWidget>
#include <QTextBlock>
#include <QTextBrowser>
#include <QTextDocument>
#include <QTextTable>
#include <QWhatsThis>

#include "app/shell/field_guide.hpp"
#include "app/theme/theme.hpp"

static void init_guide_resource() { Q_INIT_RESOURCE(guide); }

namespace elkit {
namespace {

struct Page {
    const char *id, *title;
};
const Page pages[] = {{"first-gadget", QT_TRANSLATE_NOOP("Guide", "First gadget")},
                      {"stations", QT_TRANSLATE_NOOP("Guide", "The stations")},
                      {"fields", QT_TRANSLATE_NOOP("Guide", "Fields and buttons")},
                      {"behaviour", QT_TRANSLATE_NOOP("Guide", "Controllers")},
                      {"numbers", QT_TRANSLATE_NOOP("Guide", "What the numbers mean")},
                      {"files", QT_TRANSLATE_NOOP("Guide", "Files and printing")},
                      {"safety", QT_TRANSLATE_NOOP("Guide", "Safety")}};

struct Key {
    const char *keys, *what;
};
/// Keys that belong to a view and not to an action of the window.
const Key view_keys[] = {
    {"Left, Right", QT_TRANSLATE_NOOP("Guide", "the next value, fold or line in a picture")},
    {"Enter, F2", QT_TRANSLATE_NOOP("Guide", "change the chosen value, rename the line, turn the switch")},
    {"Up, Down", QT_TRANSLATE_NOOP("Guide", "the next preferred value")},
    {"T", QT_TRANSLATE_NOOP("Guide", "see the chosen line or part in time")},
    {"R, B", QT_TRANSLATE_NOOP("Guide", "red probe, black probe on the chosen line")},
    {"M", QT_TRANSLATE_NOOP("Guide", "turn the chosen part round")},
    {"Ctrl D", QT_TRANSLATE_NOOP("Guide", "another part like the chosen one")},
    {"Del", QT_TRANSLATE_NOOP("Guide", "delete the chosen part")},
    {"Ctrl C, Ctrl V", QT_TRANSLATE_NOOP("Guide", "copy and paste parts, or rows of a table")},
    {"+, −, 0", QT_TRANSLATE_NOOP("Guide", "zoom in, zoom out, fit")},
    {"F6, Shift F6",
     QT_TRANSLATE_NOOP("Guide", "most of the height for the panel below; fold it to its tabs")},
    {"Alt H", QT_TRANSLATE_NOOP("Guide", "lines at the height of their volts")},
    {"Alt S", QT_TRANSLATE_NOOP("Guide", "the next state of a circuit that has several")}};

}  // namespace

Guide::Guide(const std::vector<QAction*>& actions, QWidget* parent)
    : QWidget(parent, Qt::Window), pages_(new QListWidget), text_(new QTextBrowser) {
    init_guide_resource();
    setWindowTitle(tr("Elkit guide"));
    setObjectName(QStringLiteral("bench"));
    resize(px(900), px(680));
    auto* row = new QHBoxLayout(this);
    row->setContentsMargins(12, 12, 12, 12);
    pages_->setFixedWidth(px(200));
    pages_->setSpacing(4);
    pages_->setAccessibleName(tr("Pages of the guide"));
    text_->setAccessibleName(tr("Page of the guide"));
    text_->document()->setDocumentMargin(18);
    row->addWidget(pages_);
    row->addWidget(text_, 1);
    for (const Page& page : elkit::pages) {
        QFile file(QStringLiteral(":/guide/%1.md").arg(QLatin1String(page.id)));
        ids_ << QLatin1String(page.id);
        contents_ << (file.open(QIODevice::ReadOnly) ? QString::fromUtf8(file.readAll()) : QString());
        pages_->addItem(tr(page.title));
    }
    ids_ << QStringLiteral("keys");
    contents_ << keysPage(actions);
    pages_->addItem(tr("Keys"));
    connect(pages_, &QListWidget::currentRowChanged, this, [this](int at) { setPage(contents_.value(at)); });
    pages_->setCurrentRow(0);
}

/// With air between lines and paragraphs, which Markdown does not speak of.
void Guide::setPage(const QString& markdown) {
    text_->setMarkdown(markdown);
    for (QTextBlock block = text_->document()->begin(); block.isValid(); block = block.next()) {
        QTextBlockFormat format = block.blockFormat();
        if (QTextCursor(block).currentTable()) continue;
        const bool heading = format.headingLevel() > 0;
        format.setTopMargin(px(heading && block.blockNumber() > 0 ? 18 : 2));
        format.setBottomMargin(px(heading ? 6 : block.textList() ? 3 : 8));
        format.setLineHeight(125, QTextBlockFormat::ProportionalHeight);
        QTextCursor(block).setBlockFormat(format);
    }
}

QString Guide::keysPage(const std::vector<QAction*>& actions) const {
    QString page = tr("# Keys") + QStringLiteral("\n\n| ") + tr("key") + QStringLiteral(" | ") + tr("does") +
                   QStringLiteral(" |\n|---|---|\n");
    const auto add = [&page](const QString& keys, const QString& what) {
        page += QStringLiteral("| %1 | %2 |\n").arg(keys, what);
    };
    for (const QAction* action : actions)
        if (!action->shortcut().isEmpty())
            add(action->shortcut()
                    .toString(QKeySequence::NativeText)
                    .replace(QLatin1Char('+'), QLatin1Char(' ')),
                action->text().remove(QLatin1Char('&')));
    for (const Key& key : view_keys) add(QLatin1String(key.keys), tr(key.what));
    return page;
}

void Guide::showPage(const QString& id) {
    pages_->setCurrentRow(std::max(0, static_cast<int>(ids_.indexOf(id))));
    show();
    raise();
    activateWindow();
}

void Guide::showHeading(const QString& id, const QString& heading) {
    showPage(id);
    for (QTextBlock block = text_->document()->begin(); block.isValid(); block = block.next())
        if (block.blockFormat().headingLevel() > 0 && block.text() == heading) {
            QTextCursor cursor(text_->document()->lastBlock());
            text_->setTextCursor(cursor);  // so that the heading comes to the top
            cursor.setPosition(block.position());
            text_->setTextCursor(cursor);
            return;
        }
}

void Guide::keyPressEvent(QKeyEvent* event) {
    if (event->key() == Qt::Key_Escape) return hide();
    QWidget::keyPressEvent(event);
}

namespace {

class WhatIsThis : public QObject {
  public:
    using QObject::QObject;
    bool eventFilter(QObject* watched, QEvent* event) override {
        if (event->type() != QEvent::WhatsThis && event->type() != QEvent::QueryWhatsThis) return false;
        auto* widget = qobject_cast<QWidget*>(watched);
        const QString text = widget ? what_is(widget) : QString();
        if (text.isEmpty()) return false;
        event->accept();
        if (event->type() == QEvent::WhatsThis)
            QWhatsThis::showText(static_cast<QHelpEvent*>(event)->globalPos(), text, widget);
        return true;
    }
};

}  // namespace

void answer_what_is_this() {
    static WhatIsThis* once = nullptr;
    if (once) return;
    once = new WhatIsThis(qApp);
    qApp->installEventFilter(once);
}

}  // namespace elkit
