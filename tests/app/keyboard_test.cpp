// Everything by keyboard: the do-anything line, figures, the stave, fields.
#include <QAccessible>
#include <QAction>
#include <QComboBox>
#include <QLabel>
#include <QPushButton>
#include <QTableWidget>
#include <QTreeWidget>
#include <set>

#include "app/stations/circuit/circuit_station.hpp"
#include "app/stave/stave_widget.hpp"
#include "app/theme/theme.hpp"
#include "app/widgets/data_table.hpp"
#include "app/widgets/picture_view.hpp"
#include "window_fixture.hpp"

namespace elkit::test {
namespace {

TEST_F(Window, TheDoAnythingLineEditsGoesAndPreviews) {
    say("r1 = 100");
    EXPECT_EQ(value("R1"), 100);
    say("power");
    EXPECT_TRUE(window->station("power")->isVisible());
    say("battery 40 %");
    EXPECT_NEAR(window->session().conditions().battery, 0.4, 1e-9);
    say("undo");
    EXPECT_EQ(value("R1"), 62);
    QTest::keyClicks(window->doPanel()->line(), "r2 = 4k7");
    EXPECT_EQ(window->doPanel()->preview(), QString("R2: 62\u00a0Ω → 4.7\u00a0kΩ"));
    EXPECT_EQ(value("R2"), 62) << "a preview changes nothing";
    window->doPanel()->line()->clear();
    say("r9 = 3");
    EXPECT_FALSE(window->doPanel()->line()->text().isEmpty())
        << "what is not understood stays to be corrected";
}

TEST_F(Window, ControlAndANumberGoToTheStations) {
    const QStringList stations{"brief", "light", "circuit", "power", "trial", "board", "build", "batch"};
    for (int i = 0; i < stations.size(); ++i) {
        QTest::keyClick(window, static_cast<Qt::Key>(Qt::Key_1 + i), Qt::ControlModifier);
        settle();
        EXPECT_TRUE(window->station(stations[i])->isVisible()) << qPrintable(stations[i]);
    }
}

TEST_F(Window, NoKeyIsAskedToDoTwoThings) {
    std::set<QString> actions;
    for (auto* a : window->findChildren<QAction*>())
        for (const QKeySequence& key : a->shortcuts())
            EXPECT_TRUE(actions.insert(key.toString()).second || a->shortcutContext() != Qt::WindowShortcut)
                << qPrintable(key.toString());
    for (const char* id : {"brief", "light", "circuit", "power", "trial", "board", "build", "batch"}) {
        window->showStation(id);
        settle();
        std::set<QString> keys = actions;
        for (auto* button : window->findChildren<QAbstractButton*>())
            if (const QString key = button->shortcut().toString(); button->isVisible() && !key.isEmpty()) {
                EXPECT_TRUE(keys.insert(key).second) << id << ": " << qPrintable(key);
            }
    }
}

TEST_F(Window, EveryFigureShowsItsWorkingWhenItIsReachedByTab) {
    int figures = 0;
    for (const char* id : {"brief", "light", "power", "board", "batch", "circuit"}) {
        window->showStation(id);
        settle();
        for (auto* figure : window->station(id)->findChildren<FigureLabel*>()) {
            if (!figure->isVisible()) continue;
            figure->setFocus(Qt::TabFocusReason);
            QTest::keyClick(figure, Qt::Key_Return);
            EXPECT_TRUE(window->working()->text().startsWith(QString::fromStdString(figure->figure().label)))
                << id << " " << figure->figure().id;
            EXPECT_FALSE(figure->figure().working.empty()) << figure->figure().id;
            ++figures;
        }
    }
    EXPECT_GT(figures, 18);
}

TEST_F(Window, TheStaveIsEditedByKeysAlone) {
    window->showStation("circuit");
    settle();
    auto* stave = static_cast<CircuitStation*>(window->station("circuit"))->stave();
    stave->setFocus();
    stave->select("value:R1");
    QTest::keyClick(stave, Qt::Key_Return);
    ASSERT_TRUE(stave->editor()->isVisible());
    QTest::keyClicks(stave->editor(), "1k2");
    QTest::keyClick(stave->editor(), Qt::Key_Return);
    EXPECT_EQ(value("R1"), 1200);
    EXPECT_FALSE(stave->editor()->isVisible()) << "Enter ends the edit";
    QTest::keyClick(stave, Qt::Key_Up);
    EXPECT_EQ(value("R1"), 1300) << "the next value of E24";
    QTest::keyClick(stave, Qt::Key_Down);
    EXPECT_EQ(value("R1"), 1200);
    stave->select("value:R1");
    QTest::keyClick(stave, Qt::Key_Return);
    stave->editor()->selectAll();
    QTest::keyClicks(stave->editor(), "plenty");
    QTest::keyClick(stave->editor(), Qt::Key_Return);
    EXPECT_TRUE(stave->editor()->property("bad").toBool());
    EXPECT_EQ(stave->editor()->text(), "plenty") << "the entry is kept";
    EXPECT_TRUE(stave->editor()->toolTip().contains("expected")) << qPrintable(stave->editor()->toolTip());
    EXPECT_EQ(value("R1"), 1200);
}

TEST_F(Window, TheStaveIsEditedByDoubleClickAndItsSwitchTurned) {
    window->showStation("circuit");
    settle();
    auto* stave = static_cast<CircuitStation*>(window->station("circuit"))->stave();
    QTest::mouseDClick(stave, Qt::LeftButton, {}, stave->itemRect("value:R2").center().toPoint());
    ASSERT_TRUE(stave->editor()->isVisible());
    QTest::keyClicks(stave->editor(), "91");
    QTest::keyClick(stave->editor(), Qt::Key_Return);
    EXPECT_EQ(value("R2"), 91);
    QTest::mouseDClick(stave, Qt::LeftButton, {}, stave->itemRect("value:S1").center().toPoint());
    EXPECT_FALSE(window->session().conditions().closed(*design().circuit.find("S1")));
}

TEST_F(Window, ClickingAPartOrANetShowsItsWorking) {
    window->showStation("circuit");
    settle();
    auto* stave = static_cast<CircuitStation*>(window->station("circuit"))->stave();
    QTest::mouseClick(stave, Qt::LeftButton, {}, stave->itemRect("value:R1").center().toPoint());
    EXPECT_TRUE(window->working()->text().startsWith("power in R1")) << qPrintable(window->working()->text());
    const QRectF tag = stave->itemRect("net:A1");
    QTest::mouseClick(stave, Qt::LeftButton, {}, QPoint(qRound(tag.left()) + 3, qRound(tag.center().y())));
    EXPECT_TRUE(window->working()->text().startsWith("voltage of A1"))
        << qPrintable(window->working()->text());
    EXPECT_TRUE(window->working()->text().contains("L1 a"));
}

TEST_F(Window, ThePartsTableEditsTheSameCircuit) {
    window->showStation("circuit");
    settle();
    auto* table = static_cast<CircuitStation*>(window->station("circuit"))->table();
    for (int r = 0; r < table->rowCount(); ++r)
        if (table->item(r, 0)->text() == "R1") table->item(r, 2)->setText("330");
    EXPECT_EQ(value("R1"), 330);
}

TEST_F(Window, AnUnreadableEntryIsMarkedAndKept) {
    window->showStation("light");
    settle();
    auto* current = window->station("light")->findChild<QLineEdit*>("current");
    current->setFocus();
    current->selectAll();
    QTest::keyClicks(current, "lots");
    QTest::keyClick(current, Qt::Key_Return);
    EXPECT_TRUE(current->property("bad").toBool());
    EXPECT_EQ(current->text(), "lots");
    EXPECT_TRUE(current->toolTip().contains("a current such as"));
    EXPECT_DOUBLE_EQ(goals().number("current"), 0.012);
    QTest::keyClick(current, Qt::Key_Escape);
    EXPECT_FALSE(current->property("bad").toBool());
    EXPECT_EQ(current->text(), QString("12.0\u00a0mA"));
}

TEST_F(Window, GoalsThatCannotBeMetAreSaidAndChangeNothing) {
    const Design before = design();
    enter("light", "in series", "4");
    EXPECT_TRUE(window->bannerText().contains("series resistor")) << qPrintable(window->bannerText());
    EXPECT_TRUE(design() == before);
}

TEST_F(Window, EveryControlHasAName) {
    int controls = 0;
    for (const char* id : {"brief", "light", "circuit", "power", "trial", "board", "build", "batch"}) {
        window->showStation(id);
        settle();
        for (auto* w : window->findChildren<QWidget*>()) {
            if (!w->isVisible() || (w->focusPolicy() & Qt::TabFocus) == 0 || w->inherits("QScrollArea") ||
                w->inherits("QLabel"))
                continue;
            const auto* interface = QAccessible::queryAccessibleInterface(w);
            ASSERT_NE(interface, nullptr);
            EXPECT_FALSE(interface->text(QAccessible::Name).isEmpty())
                << id << ": " << w->metaObject()->className() << " " << qPrintable(w->objectName());
            ++controls;
        }
    }
    EXPECT_GT(controls, 100);
}

TEST_F(Window, PicturesExposeTheirItems) {
    window->showStation("circuit");
    settle();
    auto* stave = static_cast<CircuitStation*>(window->station("circuit"))->stave();
    auto* interface = QAccessible::queryAccessibleInterface(stave);
    ASSERT_EQ(interface->childCount(),
              static_cast<int>(design().circuit.parts.size() + design().circuit.nets().size()));
    QStringList names;
    for (int i = 0; i < interface->childCount(); ++i) names << interface->child(i)->text(QAccessible::Name);
    EXPECT_TRUE(names.join('|').contains(QString("R1 62\u00a0Ω"))) << qPrintable(names.join('|'));
}

TEST(Theme, IsFollowedByWhatWasMeasuredBeforeItWasPutIntoAWindow) {
    apply_theme(false);
    auto* button = new QPushButton(QStringLiteral("Use 2.7 kΩ"));
    const int apart = button->sizeHint().width();  // polished by itself
    QWidget window;
    button->setParent(&window);
    window.show();
    EXPECT_EQ(button->sizeHint().width(), apart) << "as wide as it was measured";
    const auto words = [&] { return button->palette().color(QPalette::ButtonText); };
    EXPECT_EQ(words(), theme().teal);
    apply_theme(true);
    EXPECT_EQ(words(), theme().teal);
    apply_theme(false);
    EXPECT_EQ(words(), theme().teal);
}

TEST(Theme, KeepsContrastInLightAndDark) {
    const auto luminance = [](const QColor& c) {
        const auto channel = [](double v) {
            return v <= 0.03928 ? v / 12.92 : std::pow((v + 0.055) / 1.055, 2.4);
        };
        return 0.2126 * channel(c.redF()) + 0.7152 * channel(c.greenF()) + 0.0722 * channel(c.blueF());
    };
    for (const bool dark : {false, true}) {
        apply_theme(dark);
        const Theme& t = theme();
        for (const QColor& text : {t.ink, t.muted, t.teal, t.rust, t.amber_text})
            for (const QColor& ground : {t.paper, t.card, t.side}) {
                const double a = luminance(text), b = luminance(ground);
                EXPECT_GE((std::max(a, b) + 0.05) / (std::min(a, b) + 0.05), 4.5)
                    << (dark ? "dark " : "light ") << qPrintable(text.name()) << " on "
                    << qPrintable(ground.name());
            }
    }
    apply_theme(false);
}

}  // namespace
}  // namespace elkit::test
