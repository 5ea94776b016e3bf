#include "app/theme/theme.hpp"

#include <QApplication>
#include <QEvent>
#include <QFontDatabase>
#include <QFontInfo>
#include <QPointer>
#include <QStyleFactory>
#include <QWidget>
#include <algorithm>
#include <optional>
#include <utility>

static void init_icon_resource() { Q_INIT_RESOURCE(icons); }

namespace elkit {
namespace {

Theme light_theme() {
    return {false,     "#f6f3ea", "#fbfaf4", "#ece6d8", "#ddd7c6", "#1f2a33",
            "#566069", "#d9901a", "#875800", "#1f6f6b", "#ffffff", "#a8441f"};
}
Theme dark_theme() {
    return {true,      "#171c21", "#20262d", "#12161a", "#3a444d", "#f1f2ec",
            "#b3bcc3", "#f0ac3c", "#f3bd62", "#63c7bf", "#10211f", "#f2926a"};
}
Theme current = light_theme();

}  // namespace

InkPalette Theme::inks() const {
    return {ink, muted, dark ? QColor("#55606a") : QColor("#c2bdae"), amber, teal, rust, paper, card};
}

QPalette Theme::palette() const {
    QPalette p;
    p.setColor(QPalette::Window, paper);
    p.setColor(QPalette::Base, card);
    p.setColor(QPalette::AlternateBase, paper);
    p.setColor(QPalette::Button, card);
    for (const auto role :
         {QPalette::WindowText, QPalette::Text, QPalette::ButtonText, QPalette::ToolTipText})
        p.setColor(role, ink);
    p.setColor(QPalette::PlaceholderText, muted);
    p.setColor(QPalette::Highlight, teal);
    p.setColor(QPalette::HighlightedText, on_teal);
    p.setColor(QPalette::ToolTipBase, card);
    for (const auto role : {QPalette::WindowText, QPalette::Text, QPalette::ButtonText})
        p.setColor(QPalette::Disabled, role, muted);
    return p;
}

QString Theme::style_sheet() const {
    QString s = QStringLiteral(R"(
* { font-family: Inter; font-size: @13px; color: @ink; }
QWidget#bench, QScrollArea, QWidget#benchInside, QStackedWidget { background: @paper; }
QWidget#workline, QWidget#working { background: @side; }
QWidget#conditions { background: @card; border-bottom: 1px solid @line; }
QWidget#findings { background: @paper; }
QFrame#card { background: @card; border: 1px solid @line; border-radius: 10px; }
QFrame#finding { background: @card; border: 1px solid @line; border-left: 5px solid @teal; border-radius: 6px; }
QFrame#finding[severity="error"], QFrame#finding[severity="warning"] { border-left-color: @rust; }
QFrame#finding[severity="note"] { border-left-color: @amber; }
QFrame#banner { background: @card; border: 1px solid @amber; border-radius: 8px; }
QLabel#muted, QLabel#small { color: @muted; background: transparent; }
QLabel#small { font-size: @12px; }
QLabel { background: transparent; }
QLabel#cap { color: @muted; font-size: @11px; font-weight: 600; letter-spacing: 1px; }
QLabel#title { font-size: @24px; font-weight: 700; }
QLabel#subtitle { font-size: @15px; color: @muted; }
QLabel#cardTitle { font-weight: 600; color: @muted; }
QLabel#rust { color: @rust; font-weight: 600; }
QLabel#teal { color: @teal; font-weight: 600; }
QLabel#bold { font-weight: 600; }
QLabel#panel { font-size: @18px; font-weight: 700; }
QLabel#brand { font-size: @20px; font-weight: 700; }
QPushButton { background: @card; border: 1.3px solid @teal; color: @teal; border-radius: 12px; padding: 3px 12px; min-height: 18px; font-weight: 600; font-size: @12px; }
QPushButton:hover { background: @side; }
QPushButton:disabled { border-color: @line; color: @muted; }
QPushButton#primary { background: @teal; color: @onteal; }
QPushButton#pill { border-color: @muted; color: @ink; font-weight: 400; padding: 2px 10px; }
QPushButton#pill:checked { background: @teal; border-color: @teal; color: @onteal; }
QScrollArea#goalsAndFound, QScrollArea#changes, QWidget#clear, QLabel#clear { background: transparent; }
QScrollArea#chips, QScrollArea#chips > QWidget > QWidget#conditionsInside { background: transparent; }
QFrame#doPanel, QFrame#floating { background: @card; border: 1.4px solid @muted; border-radius: 12px; }
QFrame#doPanel QLineEdit { font-size: @15px; }
QFrame#doPanel QListWidget { border: none; background: transparent; }
QFrame#doPanel QListWidget::item { padding: 4px 6px; border-radius: 5px; }
QFrame#doPanel QListWidget::item:selected { background: @side; color: @ink; }
QPushButton#foldedFindings { margin: 14px 6px 0 2px; padding: 6px 2px; border-radius: 8px; border-color: @muted; color: @ink; font-weight: 400; }
QPushButton#foldedFindings[open="true"] { border-color: @rust; color: @rust; font-weight: 600; }
QToolButton#conditionGroup { border: 1.3px solid @muted; border-radius: 12px; padding: 4px 10px; background: @card; color: @ink; }
QToolButton#conditionGroup:checked { border-color: @teal; color: @teal; }
QPushButton#plain { border: none; background: transparent; padding: 2px 6px; }
QPushButton#station { min-height: 50px; text-align: left; border: none; border-radius: 8px; background: transparent; padding: 0; }
QPushButton:focus, QToolButton:focus { border: 2px solid @amber; }
QToolButton { background: transparent; border: 1.3px solid transparent; border-radius: 6px; padding: 3px; }
QToolButton:hover { background: @paper; }
QLineEdit, QComboBox, QSpinBox, QPlainTextEdit { background: @card; border: 1px solid @muted; border-radius: 6px; padding: 3px 7px; selection-background-color: @teal; selection-color: @onteal; }
QLineEdit:focus, QComboBox:focus, QPlainTextEdit:focus, QTableWidget:focus, QListWidget:focus, QTreeWidget:focus { border: 2px solid @teal; }
QLineEdit[bad="true"] { border: 2px solid @rust; }
QComboBox QAbstractItemView { background: @card; selection-background-color: @teal; selection-color: @onteal; }
QComboBox::drop-down { border: none; width: 18px; }
QTableWidget, QListWidget, QTreeWidget { background: @card; border: 1px solid @line; border-radius: 8px; gridline-color: @line; alternate-background-color: @paper; selection-background-color: @side; selection-color: @ink; }
QHeaderView { background: transparent; border: none; }
QHeaderView::section { background: @card; color: @muted; border: none; border-bottom: 1px solid @line; padding: 5px 5px; font-weight: 600; font-size: @12px; }
QTableCornerButton::section { background: @card; border: none; }
QSlider::groove:horizontal { height: 4px; background: @line; border-radius: 2px; }
QSlider::sub-page:horizontal { background: @amber; border-radius: 2px; }
QSlider::handle:horizontal { background: @card; border: 2px solid @ink; width: 11px; height: 11px; margin: -6px 0; border-radius: 7px; }
QSlider::handle:horizontal:focus { background: @amber; }
QRadioButton, QCheckBox { background: transparent; spacing: 8px; }
QRadioButton::indicator, QCheckBox::indicator { width: 12px; height: 12px; border: 1.6px solid @ink; background: @card; }
QRadioButton::indicator { border-radius: 7px; }
QCheckBox::indicator { border-radius: 3px; }
QRadioButton::indicator:checked, QCheckBox::indicator:checked { background: @teal; }
QRadioButton:focus, QCheckBox:focus { color: @teal; }
QCheckBox#toggle::indicator { width: 34px; height: 16px; border-radius: 9px; }
QScrollBar:vertical { background: transparent; width: 9px; margin: 0; }
QScrollBar::handle:vertical { background: @line; border-radius: 4px; min-height: 30px; }
QScrollBar:horizontal { background: transparent; height: 9px; margin: 0; }
QScrollBar::handle:horizontal { background: @line; border-radius: 4px; min-width: 30px; }
QScrollBar::add-line, QScrollBar::sub-line { width: 0; height: 0; }
QScrollBar::add-page, QScrollBar::sub-page { background: transparent; }
QToolTip { background: @card; color: @ink; border: 1px solid @line; }
QMenu { background: @card; border: 1px solid @line; padding: 4px; }
QMenu::item { padding: 5px 22px; border-radius: 4px; }
QMenu::item:selected { background: @side; }
QSplitter::handle, QWidget#offer { background: transparent; }
)");
    s.replace("@paper", paper.name())
        .replace("@card", card.name())
        .replace("@side", side.name())
        .replace("@line", line.name())
        .replace("@ink", ink.name());
    s.replace("@muted", muted.name())
        .replace("@amber", amber.name())
        .replace("@teal", teal.name())
        .replace("@onteal", on_teal.name())
        .replace("@rust", rust.name());
    for (const int size : {11, 12, 13, 15, 18, 20, 24})
        s.replace(QStringLiteral("@%1px").arg(size), QStringLiteral("%1px").arg(px(size)));
    return s;
}

const Theme& theme() { return current; }

static std::optional<double> chosen_text_scale;

double text_scale() {
    constexpr double usual = 11 * 96 / 72.0;  // pixels
    static const double desktop =
        QFontInfo(QFontDatabase::systemFont(QFontDatabase::GeneralFont)).pixelSize() / usual;
    return std::clamp(chosen_text_scale.value_or(desktop), 1.0, 2.0);
}

void set_text_scale(double scale) {
    chosen_text_scale = scale;
    apply_theme(current.dark);
}

int px(double at_design_size) { return qRound(at_design_size * text_scale()); }

namespace {

/// Windows wear the style sheet, not the application: what is built apart and put into a window when it is
/// done is styled once, and not again with each widget that it is put into.
class Wardrobe : public QObject {
  public:
    using QObject::QObject;
    void change(const QString& sheet) {
        sheet_ = sheet;
        for (QWidget* window : QApplication::topLevelWidgets())
            if (wears(*window)) window->setStyleSheet(sheet_);
    }
    bool eventFilter(QObject* object, QEvent* event) override {
        const QEvent::Type type = event->type();
        if ((type != QEvent::Polish && type != QEvent::ParentChange) || !object->isWidgetType()) return false;
        QWidget& widget = *static_cast<QWidget*>(object);
        const bool by_itself = !widget.parentWidget();  // else it wears what its window does
        if (type == QEvent::Polish && by_itself && widget.styleSheet().isEmpty()) {
            widget.setProperty(dressed, true);
            widget.setStyleSheet(sheet_);
        } else if (type == QEvent::ParentChange && !by_itself && wears(widget)) {
            widget.setProperty(dressed, false);
            widget.setStyleSheet({});
        }
        return false;
    }

  private:
    static constexpr const char* dressed = "dressed";
    static bool wears(const QWidget& widget) { return widget.property(dressed).toBool(); }
    QString sheet_;
};

}  // namespace

void apply_theme(bool dark) {
    init_icon_resource();
    current = dark ? dark_theme() : light_theme();
    // all that is set here polishes every widget again
    if (static bool styled = false; !std::exchange(styled, true))
        QApplication::setStyle(QStyleFactory::create(QStringLiteral("Fusion")));
    QApplication::setPalette(current.palette());
    QFont font(QStringLiteral("Inter"));
    font.setPixelSize(px(13));
    QApplication::setFont(font);
    static QPointer<Wardrobe> wardrobe;
    if (!wardrobe) qApp->installEventFilter(wardrobe = new Wardrobe(qApp));
    wardrobe->change(current.style_sheet());
}

}  // namespace elkit
