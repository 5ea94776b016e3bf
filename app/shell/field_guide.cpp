#include "app/shell/field_guide.hpp"

#include <QAbstractButton>
#include <QFile>
#include <QRegularExpression>
#include <QWidget>
#include <vector>

#include "app/widgets/figure_label.hpp"

static void init_guide_of_fields() { Q_INIT_RESOURCE(guide); }

namespace elkit {
namespace {

struct FieldEntry {
    QRegularExpression name;
    qsizetype known_letters;  ///< of the name without its …
    QString words;
};

std::vector<FieldEntry> read_entries() {
    init_guide_of_fields();
    std::vector<FieldEntry> entries;
    QFile file(QStringLiteral(":/guide/fields.md"));
    if (!file.open(QIODevice::ReadOnly)) return entries;
    for (const QString& line : QString::fromUtf8(file.readAll()).split(QLatin1Char('\n'))) {
        const auto end = line.indexOf(QLatin1String("** "), 2);
        if (!line.startsWith(QLatin1String("**")) || end < 0) continue;
        for (const QString& name : line.mid(2, end - 2).split(QLatin1String(" / "))) {
            QString pattern = QRegularExpression::escape(name);
            pattern.replace(QRegularExpression::escape(QStringLiteral("…")), QLatin1String(".*"));
            entries.push_back({QRegularExpression(QRegularExpression::anchoredPattern(pattern)), name.size(),
                               line.mid(end + 3)});
        }
    }
    return entries;
}

/// By which the guide may know it.
QStringList names_of(const QWidget* widget) {
    QStringList names{widget->accessibleName()};
    if (const auto* figure = qobject_cast<const FigureLabel*>(widget);
        figure && !figure->figure().label.empty())
        names = {QString::fromStdString(figure->figure().label)};
    if (const auto* button = qobject_cast<const QAbstractButton*>(widget))
        names << button->text().section(QLatin1Char('\t'), 0, 0);
    names.removeAll(QString());
    return names;
}

}  // namespace

QString field_words(const QString& name) {
    static const std::vector<FieldEntry> entries = read_entries();
    const FieldEntry* best = nullptr;
    for (const FieldEntry& entry : entries)
        if (entry.name.match(name).hasMatch() && (!best || entry.known_letters > best->known_letters))
            best = &entry;
    return best ? best->words : QString();
}

QString what_is(const QWidget* widget) {
    for (; widget; widget = widget->parentWidget()) {
        QStringList words;
        const auto add = [&words](const QString& text) {
            if (!text.isEmpty() && !words.contains(text)) words << text;
        };
        const QStringList names = names_of(widget);
        if (!names.isEmpty())
            add(widget->accessibleName().isEmpty() ? names.front() : widget->accessibleName());
        QString guide;
        for (const QString& name : names)
            if (guide.isEmpty()) guide = field_words(name);
        add(guide);
        add(widget->accessibleDescription());
        add(widget->toolTip());
        if (!words.isEmpty()) return words.join(QStringLiteral("\n\n"));
        if (widget->isWindow()) break;
    }
    return {};
}

}  // namespace elkit
