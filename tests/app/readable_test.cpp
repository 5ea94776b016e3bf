// Everything can be read: no text is cut, none lies over another, nothing is below the edge, on every station
// with every demo, at the usual size and the smallest.
#include <QAbstractButton>
#include <QComboBox>
#include <QLabel>
#include <QScrollArea>
#include <QScrollBar>
#include <QStackedWidget>
#include <cmath>
#include <set>
#include <unordered_map>

#include "app/stations/circuit/circuit_station.hpp"
#include "app/stations/circuit/recipe_page.hpp"
#include "app/stations/circuit/time_lane.hpp"
#include "app/theme/scale.hpp"
#include "app/theme/theme.hpp"
#include "app/widgets/card.hpp"
#include "app/widgets/figure_label.hpp"
#include "app/widgets/folding_tabs.hpp"
#include "app/widgets/quantity_edit.hpp"
#include "design/demo.hpp"
#include "drawing/stave.hpp"
#include "window_fixture.hpp"

namespace elkit::test {
namespace {

class Readable : public Window {
  protected:
    QString place(const QWidget* w) const {
        QStringList path;
        for (; w && !w->isWindow(); w = w->parentWidget())
            path.prepend(w->objectName().isEmpty() ? QLatin1String(w->metaObject()->className())
                                                   : w->objectName());
        return path.mid(std::max(0, static_cast<int>(path.size()) - 4)).join(QLatin1Char('/'));
    }

    static bool scrolls(const QWidget* w) {
        for (; w; w = w->parentWidget())
            if (qobject_cast<const QAbstractScrollArea*>(w)) return true;
        return false;
    }

    /// Why its words cannot be read; empty if they can.
    QString cut(const QWidget* w) const {
        if (const auto* label = qobject_cast<const QLabel*>(w)) {
            if (label->text().isEmpty() || label->text().contains(QLatin1Char('<'))) return {};
            if (dynamic_cast<const ElidingLabel*>(label) ||
                label->sizePolicy().horizontalPolicy() == QSizePolicy::Ignored)
                return {};  // the rest stands in a tool tip
            if (label->wordWrap())
                return label->heightForWidth(label->width()) > label->height() + 2
                           ? QStringLiteral("lines of '%1'").arg(label->text())
                           : QString();
            const int needed = label->fontMetrics().size(0, label->text()).width();
            return needed > label->width() + 1 ? QStringLiteral("'%1'").arg(label->text()) : QString();
        }
        if (const auto* figure = qobject_cast<const FigureLabel*>(w))
            return figure->sizeHint().width() > figure->width() + 1
                       ? QStringLiteral("number '%1'").arg(figure->accessibleName())
                       : QString();
        if (const auto* field = qobject_cast<const QuantityEdit*>(w)) {
            constexpr int frame = 16;  // what the style sheet puts beside the text
            return field->fontMetrics().horizontalAdvance(field->text()) > field->width() - frame
                       ? QStringLiteral("field '%1': '%2'").arg(field->accessibleName(), field->text())
                       : QString();
        }
        if (const auto* button = qobject_cast<const QAbstractButton*>(w)) {
            const QString text = button->text().section(QLatin1Char('\t'), 0, 0);
            return button->fontMetrics().size(0, text).width() > button->width() + 1
                       ? QStringLiteral("'%1'").arg(text)
                       : QString();
        }
        return {};
    }

    QStringList faults() const {
        for (int pass = 0; pass < 3; ++pass) QApplication::processEvents();  // layouts that words set off
        QStringList all;
        if (const auto* bench = window->findChild<QStackedWidget*>())
            if (const auto* scroll = qobject_cast<QScrollArea*>(bench->currentWidget()))
                for (const auto& [bar, way] : {std::pair{scroll->horizontalScrollBar(), "wide"},
                                               std::pair{scroll->verticalScrollBar(), "high"}})
                    if (bar->maximum() > 0)
                        all << QStringLiteral("the station is %1 px too %2")
                                   .arg(bar->maximum())
                                   .arg(QLatin1String(way));
        for (const auto* scroll : window->findChildren<QScrollArea*>())
            if (scroll->isVisible() && scroll->widget() &&
                scroll->horizontalScrollBarPolicy() == Qt::ScrollBarAlwaysOff &&
                scroll->widget()->width() > scroll->viewport()->width())
                all << place(scroll) + QStringLiteral(": what is in it is %1 px too wide")
                                           .arg(scroll->widget()->width() - scroll->viewport()->width());
        const QRect inside = window->rect();
        for (const QWidget* w : window->findChildren<QWidget*>()) {
            if (!w->isVisible() || w->window() != window || w->width() < 1) continue;
            if (const QString why = cut(w); !why.isEmpty()) all << place(w) + QStringLiteral(": cut ") + why;
            const QRect box(w->mapTo(window, QPoint(0, 0)), w->size());
            if (!scrolls(w) && !inside.contains(box)) all << place(w) + QStringLiteral(": beyond the edge");
            const bool words = qobject_cast<const QLabel*>(w) || qobject_cast<const QAbstractButton*>(w);
            if (!words || !w->parentWidget()) continue;
            for (const QObject* child : w->parentWidget()->children()) {
                const auto* other = qobject_cast<const QWidget*>(child);
                if (!other || other == w || !other->isVisible()) continue;
                if (!qobject_cast<const QLabel*>(other) && !qobject_cast<const QAbstractButton*>(other))
                    continue;
                if (w->geometry()
                        .adjusted(1, 1, -1, -1)
                        .intersects(other->geometry().adjusted(1, 1, -1, -1)) &&
                    w < other)
                    all << place(w) + QStringLiteral(": over ") + place(other);
            }
        }
        return all;
    }
};

TEST_F(Readable, ACutLabelWouldBeFound) {
    auto* label = new QLabel(QStringLiteral("a name that is longer than its room"), window);
    label->setGeometry(300, 300, 40, 20);
    label->show();
    const QStringList found = faults();
    ASSERT_EQ(found.size(), 1);
    EXPECT_TRUE(found.front().contains(QLatin1String("cut")));
    label->setGeometry(300, 300, 400, 20);
    EXPECT_TRUE(faults().isEmpty());
    label->move(window->width() - 100, 300);
    EXPECT_EQ(faults().size(), 1) << "beyond the edge";
}

/// Demos that look different from each other; all of them in the deep check.
bool is_looked_at(const std::string& demo) {
    static const std::set<std::string> some{"harbour-diorama", "seat-finder", "pier-lantern",
                                            "harbour-dimmer",  "shelf-strip", "pantry-gauge",
                                            "tide-board",      "twin-blinker"};
    return in_depth() || some.contains(demo);
}

TEST_F(Readable, EveryStationOfEveryDemoAtTwoSizes) {
    for (const QSize size : {QSize(1280, 800), QSize(1024, 700)}) {
        window->resize(size);
        for (const Demo& demo : demos()) {
            const bool large = demo.id == "harbour-diorama" || demo.id == "seat-finder";
            if (size.width() < 1280 && !large && demo.id != "pier-lantern") continue;
            if (!is_looked_at(demo.id)) continue;
            window->openDemo(QString::fromStdString(demo.id));
            for (const char* id :
                 {"light", "circuit", "power", "trial", "board", "brief", "build", "batch"}) {
                if (!large && demo.id != "pier-lantern" && id == std::string("brief")) break;
                window->showStation(id);
                settle();
                EXPECT_EQ(window->size(), size) << demo.id << " " << id;
                for (const QString& fault : faults())
                    ADD_FAILURE() << demo.id << ", " << id << " at " << size.width() << ": "
                                  << qPrintable(fault);
            }
        }
    }
}

TEST_F(Readable, WithNoticesAndAWindowFrame) {
    window->resize(1280, 765);  // a screen of 800 lines with a title bar
    window->openDemo("harbour-diorama");
    emit window->session().keepingChanged(QStringLiteral(
        "Unsaved work cannot be kept: /home/somebody/of/some/length/state/elkit: no space left "
        "on device. Save the design somewhere else."));
    emit window->session().fileChangedOnDisk();
    for (const char* id : {"light", "circuit", "power", "trial", "board", "brief", "build", "batch"}) {
        window->showStation(id);
        settle();
        for (const QString& fault : faults()) ADD_FAILURE() << id << ": " << qPrintable(fault);
    }
}

TEST_F(Readable, WithTheWorkingOpen) {
    for (const char* demo : {"pier-lantern", "harbour-diorama"}) {
        window->openDemo(demo);
        for (const char* id : {"light", "circuit", "power", "trial", "board", "brief", "build", "batch"}) {
            window->showStation(id);
            settle();
            for (auto* figure : window->station(id)->findChildren<FigureLabel*>())
                if (figure->isVisible()) {
                    window->session().focusFigure(figure->figure());
                    break;
                }
            settle();
            for (const QString& fault : faults())
                ADD_FAILURE() << demo << ", " << id << ": " << qPrintable(fault);
        }
        EXPECT_TRUE(window->working()->isVisible());
    }
}

TEST_F(Readable, EveryTabOfEveryPanel) {
    for (const char* demo : {"pier-lantern", "pantry-gauge"}) {
        window->openDemo(demo);
        for (const char* id : {"light", "circuit", "power", "board"}) {
            window->showStation(id);
            auto* tabs = window->station(id)->findChild<FoldingTabs*>();
            for (int tab = 0; tab < tabs->count(); ++tab) {
                tabs->showPage(tabs->widget(tab));
                settle();
                for (const QString& fault : faults())
                    ADD_FAILURE() << demo << ", " << id << ", " << qPrintable(tabs->tabText(tab)) << ": "
                                  << qPrintable(fault);
            }
        }
        window->session().forgetUnsaved();
    }
}

TEST_F(Readable, WithLargerFontsOfTheDesktop) {
    for (const double scale : {1.25, 2.0}) {
        set_text_scale(scale);
        delete window.data();
        window = new MainWindow(nullptr, store());
        window->openDemo("harbour-diorama");
        window->show();
        EXPECT_EQ(window->width(), qRound(1280 * scale));
        for (const char* id : {"light", "circuit", "power", "trial", "board", "brief", "build", "batch"}) {
            window->showStation(id);
            settle();
            for (const QString& fault : faults())
                ADD_FAILURE() << scale << ", " << id << ": " << qPrintable(fault);
        }
    }
    set_text_scale(1);
}

TEST_F(Readable, WhatShouldItDoForEveryRecipe) {
    auto* circuit = static_cast<CircuitStation*>(window->station("circuit"));
    for (const auto& [size, demo] :
         {std::pair(QSize(1280, 800), "harbour-beacon"), {QSize(1024, 700), "seat-finder"}}) {
        window->openDemo(QString::fromLatin1(demo));
        window->resize(size);
        window->showStation("circuit");
        circuit->showRecipes(true);
        for (const Recipe& recipe : recipes()) {
            circuit->recipes()->choose(QString::fromStdString(recipe.id));
            settle();
            settle();
            for (const QString& fault : faults())
                ADD_FAILURE() << demo << " " << size.width() << ", " << recipe.id << ": "
                              << qPrintable(fault);
        }
    }
}

TEST_F(Readable, AtTwiceTheInterfaceScale) {
    const std::string self = QApplication::applicationFilePath().toStdString();
    const Output twice = run("env -u GTEST_TOTAL_SHARDS -u GTEST_SHARD_INDEX QT_SCALE_FACTOR=2 '" + self +
                             "' --gtest_filter=Readable.ARecordingWithItsMeasurements");
    EXPECT_EQ(twice.exit_code, 0) << twice.out;
    EXPECT_NE(twice.out.find("1 test from"), std::string::npos);
}

TEST_F(Readable, TheInterfaceScaleIsChosenForTheNextStart) {
    window->action("scale-150")->trigger();
    EXPECT_TRUE(window->bannerText().contains("150"));
    EXPECT_EQ(interface_scale(), 150);
    take_interface_scale();
    EXPECT_EQ(qgetenv("QT_SCALE_FACTOR"), "1.5");
    qunsetenv("QT_SCALE_FACTOR");
    choose_interface_scale(100);
    take_interface_scale();
    EXPECT_FALSE(qEnvironmentVariableIsSet("QT_SCALE_FACTOR")) << "the desktop decides";
}

TEST_F(Readable, ARecordingWithItsMeasurements) {
    window->openDemo("firefly-jar");
    window->showStation("circuit");
    auto* station = static_cast<CircuitStation*>(window->station("circuit"));
    station->tabs()->showPage(station->timeLane());
    station->timeLane()->record(2e-4);
    ASSERT_TRUE(QTest::qWaitFor([&] { return station->timeLane()->recording() != nullptr; }, 20000));
    for (const QSize size : {QSize(1280, 800), QSize(1024, 700)}) {
        window->resize(size);
        settle();
        for (const QString& fault : faults()) ADD_FAILURE() << size.width() << ": " << qPrintable(fault);
    }
}

double luminance(const QColor& c) {  // WCAG 2.1, relative luminance
    const auto linear = [](double v) {
        return v <= 0.04045 ? v / 12.92 : std::pow((v + 0.055) / 1.055, 2.4);
    };
    return 0.2126 * linear(c.redF()) + 0.7152 * linear(c.greenF()) + 0.0722 * linear(c.blueF());
}

double contrast(const QColor& a, const QColor& b) {
    const double x = luminance(a), y = luminance(b);
    return (std::max(x, y) + 0.05) / (std::min(x, y) + 0.05);
}

TEST_F(Readable, WordsStandOutFromTheirGround) {
    for (const bool dark : {false, true}) {
        apply_theme(dark);
        const Theme& t = theme();
        for (const QColor& ground : {t.paper, t.card, t.side})
            for (const QColor& words : {t.ink, t.muted, t.teal, t.rust, t.amber_text})
                EXPECT_GE(contrast(words, ground), 4.5)
                    << dark << " " << qPrintable(words.name()) << " on " << qPrintable(ground.name());
        EXPECT_GE(contrast(t.on_teal, t.teal), 4.5);
    }
    apply_theme(false);
    for (double share = 0; share <= 1; share += 0.05)
        EXPECT_GE(contrast(QColor(QRgb(net_colour(share))), Qt::white), 4.5)
            << "the tag of a net at " << share;
}

/// The contrast of the words within a rectangle of a picture: of its most frequent colour to the one that
/// differs most from it.
double contrast_within(const QImage& picture, const QRect& rect) {
    std::unordered_map<QRgb, int> count;
    for (int y = rect.top(); y <= rect.bottom(); ++y)
        for (int x = rect.left(); x <= rect.right(); ++x) ++count[picture.pixel(x, y)];
    if (count.empty()) return 21;
    const QColor ground(std::max_element(count.begin(), count.end(), [](const auto& a, const auto& b) {
                            return a.second < b.second;
                        })->first);
    double most = 1;
    for (const auto& [colour, times] : count) most = std::max(most, contrast(QColor(colour), ground));
    return most;
}

TEST_F(Readable, EveryWordOfEveryStationStandsOutAsItIsPainted) {
    constexpr int larger = 3;  // so that strokes reach their full colour
    window->openDemo("harbour-diorama");
    int words = 0;
    for (const bool dark : {false, true}) {
        apply_theme(dark);
        for (const char* id : {"light", "circuit", "power", "trial", "board", "brief", "build", "batch"}) {
            window->showStation(id);
            settle();
            QImage picture(window->size() * larger, QImage::Format_RGB32);
            picture.setDevicePixelRatio(larger);
            window->render(&picture);
            for (const QWidget* w : window->findChildren<QWidget*>()) {
                const auto* label = qobject_cast<const QLabel*>(w);
                const auto* button = qobject_cast<const QAbstractButton*>(w);
                const QString text = label ? label->text() : button ? button->text() : QString();
                if (text.trimmed().isEmpty() || !w->isVisible() || !w->isEnabled()) continue;
                const QRect box = w->visibleRegion().boundingRect().translated(w->mapTo(window, QPoint()));
                if (box.width() < 8 || box.height() < 8) continue;
                const double found =
                    contrast_within(picture, QRect(box.topLeft() * larger, box.size() * larger));
                ++words;
                EXPECT_GE(found, 4.5) << id << (dark ? ", dark: " : ": ") << qPrintable(text);
            }
        }
    }
    apply_theme(false);
    EXPECT_GT(words, 400);
}

}  // namespace
}  // namespace elkit::test
