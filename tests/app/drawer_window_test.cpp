#include "app/drawer/drawer_window.hpp"

#include <QCheckBox>
#include <QComboBox>
#include <QLineEdit>
#include <QPushButton>
#include <QTableView>
#include <QTableWidget>
#include <fstream>

#include "app/drawer/drawer_model.hpp"
#include "app/drawer/import_dialog.hpp"
#include "app/drawer/item_form.hpp"
#include "app/shell/writer.hpp"
#include "app/stave/stave_widget.hpp"
#include "batch/reserve.hpp"
#include "design/file.hpp"
#include "window_fixture.hpp"

namespace elkit::test {
namespace {

class OfDrawer : public Window {
  protected:
    void SetUp() override {
        Window::SetUp();
        drawer = window->openDrawer();
    }
    QLineEdit* line(const char* name) { return drawer->findChild<QLineEdit*>(name); }
    QPushButton* button(const QString& text, QWidget* in = nullptr) {
        for (auto* b : (in ? in : drawer)->findChildren<QPushButton*>())
            if (b->text() == text) return b;
        return nullptr;
    }
    void type(QLineEdit* into, const QString& words) {
        into->setFocus();
        into->selectAll();
        QTest::keyClicks(into, words);
        QTest::keyClick(into, Qt::Key_Return);
        QApplication::processEvents();
    }
    const DrawerItem* item(const std::string& key) { return find_item(window->session().drawerItems(), key); }
    DrawerWindow* drawer = nullptr;
};

TEST_F(OfDrawer, FindsAsOneTypesAndChangesInPlace) {
    QTest::keyClicks(line("find"), "amber 5");
    ASSERT_EQ(drawer->model()->rowCount(), 1);
    EXPECT_EQ(drawer->model()->item(0)->key, "led/amber-5mm");
    drawer->choose("led/amber-5mm");
    ASSERT_TRUE(drawer->form()->item());
    drawer->model()->setData(drawer->model()->index(0, DrawerModel::stock), "95", Qt::EditRole);
    QApplication::processEvents();
    EXPECT_EQ(item("led/amber-5mm")->stock, 95);
    drawer->model()->setData(drawer->model()->index(0, DrawerModel::stock), "many", Qt::EditRole);
    EXPECT_TRUE(drawer->told().contains("no number")) << qPrintable(drawer->told());
    type(drawer->form()->findChild<QLineEdit*>("Place"), "box 3");
    EXPECT_EQ(item("led/amber-5mm")->place, "box 3");
    type(drawer->form()->findChild<QLineEdit*>("At least"), "100");
    EXPECT_TRUE(item("led/amber-5mm")->low());
    line("find")->clear();
    button("low stock")->click();
    EXPECT_EQ(drawer->model()->rowCount(), 1);
    for (int step = 0; step < 3; ++step) button("Undo")->click();
    EXPECT_EQ(item("led/amber-5mm")->stock, 120);
    EXPECT_EQ(item("led/amber-5mm")->place, "");
    EXPECT_FALSE(drawer->undoStack().canUndo());
}

TEST_F(OfDrawer, AddsRenamesAndRemovesAPart) {
    type(line("add"), "4k7 resistor 1%");
    ASSERT_TRUE(item("resistor/4700/1%"));
    ASSERT_TRUE(drawer->form()->item());
    EXPECT_EQ(drawer->form()->item()->key, "resistor/4700/1%");
    type(drawer->form()->findChild<QLineEdit*>("What it is"), "resistor 5k6");
    EXPECT_FALSE(item("resistor/4700/1%"));
    ASSERT_TRUE(item("resistor/5600"));
    EXPECT_EQ(drawer->form()->item()->key, "resistor/5600");
    type(drawer->form()->findChild<QLineEdit*>("What it is"), "resistor 82");
    EXPECT_TRUE(drawer->told().contains("already")) << qPrintable(drawer->told());
    EXPECT_EQ(item("resistor/82")->stock, 160) << "what was there is not overwritten";
    drawer->choose("resistor/5600");
    button("Remove", drawer->form())->click();
    EXPECT_FALSE(item("resistor/5600"));
    while (drawer->undoStack().canUndo()) drawer->undoStack().undo();
    EXPECT_FALSE(item("resistor/4700/1%"));
}

TEST_F(OfDrawer, CountsAgainOneAfterAnother) {
    QTest::keyClicks(line("find"), "coin");
    ASSERT_EQ(drawer->model()->rowCount(), 3);
    const std::string first = drawer->model()->item(0)->key, second = drawer->model()->item(1)->key;
    button("Count again")->click();
    type(line("counted"), "31");
    type(line("counted"), "lots");
    EXPECT_TRUE(drawer->told().contains("no number")) << qPrintable(drawer->told());
    button("Skip it")->click();
    EXPECT_EQ(item(first)->stock, 31);
    EXPECT_EQ(item(first)->counted, QDate::currentDate().toString(Qt::ISODate).toStdString());
    EXPECT_EQ(item(second)->counted, "");
    type(line("counted"), "5");
    EXPECT_FALSE(line("counted")->isVisible()) << "at the end";
}

TEST_F(OfDrawer, ReadsATableAfterShowingWhatItWouldDo) {
    const auto file = folder / "parts.csv";
    std::ofstream(file) << "Bauteil;Anzahl;Fach\nWiderstand 5k1;30;A 1\nLED rot 5mm;~60;B\nKnopf;viele;C\n";
    drawer->import(file);
    ASSERT_TRUE(
        QTest::qWaitFor([&] { return drawer->importDialog() && drawer->importDialog()->plan(); }, 3000));
    ImportDialog* dialog = drawer->importDialog();
    EXPECT_EQ(dialog->plan()->fresh, 1u);
    EXPECT_EQ(dialog->plan()->changed, 1u);
    EXPECT_EQ(dialog->plan()->left_out, 1u);
    const int last = dialog->table()->columnCount() - 1;
    EXPECT_TRUE(dialog->table()->item(4, last)->text().contains("no number"));
    QComboBox* place = dialog->columnBox(2);  // it is a note, says the user
    place->setCurrentIndex(static_cast<int>(ItemColumn::note));
    emit place->activated(place->currentIndex());
    ASSERT_TRUE(QTest::qWaitFor([&] { return dialog->plan() != nullptr; }, 3000));
    button("Take them over", dialog)->click();
    EXPECT_EQ(item("resistor/5100")->stock, 30);
    EXPECT_EQ(item("led/red-5mm")->stock, 60);
    EXPECT_EQ(item("led/red-5mm")->note, "B");
    EXPECT_EQ(item("led/red-5mm")->price, 5) << "what the table does not tell stays";
    drawer->undoStack().undo();
    EXPECT_FALSE(item("resistor/5100")) << "one step";
    EXPECT_EQ(item("led/red-5mm")->stock, 210);
    drawer->import(folder / "none.csv");
    ASSERT_TRUE(QTest::qWaitFor([&] { return drawer->told().contains("none.csv"); }, 3000));
    drawer->exportTo(folder / "out.csv");
    keeper().wait();
    const auto sheet = read_drawer_sheet(read_file(folder / "out.csv").value());
    EXPECT_EQ(plan_import(sheet.value(), window->session().drawerItems(), ImportCounts::set).same,
              window->session().drawerItems().size());
}

TEST_F(OfDrawer, ABatchReservesAndUsesUpItsParts) {
    window->showStation("batch");
    settle();
    QWidget* batch = window->station("batch");
    button("Reserve its parts", batch)->click();
    settle();
    EXPECT_EQ(item("led/amber-5mm")->reserved.at(design().name), 120);
    button("Give them back", batch)->click();
    settle();
    EXPECT_TRUE(item("led/amber-5mm")->reserved.empty());
    button("Use them up", batch)->click();
    settle();
    EXPECT_EQ(item("led/amber-5mm")->stock, 0);
    window->session().undoStack().undo();
    EXPECT_EQ(item("led/amber-5mm")->stock, 120) << "in the window of the design";
}

TEST_F(OfDrawer, OnlyWhatIOwnInEveryChooser) {
    window->showStation("light");
    settle();
    auto* led = window->station("light")->findChild<QComboBox*>("LED");
    ASSERT_NE(led, nullptr);
    const int all = led->count();
    window->action("owned")->trigger();
    settle();
    EXPECT_LT(led->count(), all);
    EXPECT_EQ(led->findData("infrared-5mm"), -1);
    EXPECT_GE(led->findData("amber-5mm"), 0);
    window->showStation("circuit");
    settle();
    auto* stave = window->findChild<StaveWidget*>();
    const auto up = [&] {
        stave->select("value:R1");
        QTest::keyClick(stave, Qt::Key_Up);
        settle();
    };
    up();
    EXPECT_EQ(value("R1"), 68) << "62 → 68: the drawer has it";
    up();
    EXPECT_EQ(value("R1"), 82) << "none of 75 Ω";
    window->action("owned")->trigger();
    up();
    EXPECT_EQ(value("R1"), 91);
}

TEST_F(OfDrawer, SortsByValueAndGoesBackToItsOwnOrder) {
    const auto first = [&] { return drawer->model()->item(0)->key; };
    QTest::keyClicks(line("find"), "resistor");
    EXPECT_EQ(first(), "resistor/10") << "by value, not by the letters of its key";
    EXPECT_EQ(drawer->model()->item(drawer->model()->rowCount() - 1)->key, "resistor/1000000");
    drawer->table()->sortByColumn(DrawerModel::stock, Qt::DescendingOrder);
    EXPECT_EQ(first(), "resistor/100") << "220 of them";
    drawer->table()->sortByColumn(DrawerModel::name, Qt::AscendingOrder);
    EXPECT_EQ(first(), "resistor/1000000") << "1 MΩ before 10 Ω";
    drawer->choose("resistor/75");
    const std::string chosen = drawer->form()->item()->key;
    line("find")->clear();
    EXPECT_EQ(drawer->form()->item()->key, chosen) << "the choice stays while one types";
}

TEST_F(OfDrawer, IsOneForAllWindows) {
    auto* other = new MainWindow(window->session().stock());
    other->openDemo("coat-badge");
    other->session().settle();
    DrawerItem cell = *item("cell/CR2032");
    cell.stock = 3;
    window->session().putDrawerItem(cell);
    EXPECT_EQ(find_item(other->session().drawerItems(), "cell/CR2032")->stock, 3);
    other->session().settle();
    const auto parts = other->session().compute(other->session().partsQuery());
    for (const PartsLine& of : parts->lines)
        if (of.key == "cell/CR2032") {
            EXPECT_EQ(of.stock, 3);
        }
    other->session().setOwnedOnly(true);
    MainWindow third(window->session().stock());
    EXPECT_TRUE(third.session().ownedOnly()) << "kept for the next window, and the next start";
    third.session().setOwnedOnly(false);
    other->session().forgetUnsaved();
    delete other;
}

TEST_F(OfDrawer, WithoutAnyResistorItIsSaidThatAllAreOffered) {
    QStringList told;
    QObject::connect(&window->session(), &Session::errorReported, [&](const QString& text) { told << text; });
    window->session().setOwnedOnly(true);
    EXPECT_TRUE(told.isEmpty()) << qPrintable(told.join("; "));
    window->session().setOwnedOnly(false);
    std::vector<DrawerItem> emptied;
    for (const DrawerItem& owned : window->session().drawerItems())
        if (owned.key.starts_with("resistor/")) emptied.push_back(owned);
    ASSERT_FALSE(emptied.empty());
    for (DrawerItem& resistor : emptied) {
        resistor.stock = 0;
        window->session().putDrawerItem(resistor);
    }
    window->session().setOwnedOnly(true);
    ASSERT_EQ(told.size(), 1);
    EXPECT_TRUE(told.front().contains("no resistor in stock"));
    window->session().setOwnedOnly(false);
}

TEST_F(OfDrawer, WhatCannotBeTypedIsRefusedAndNothingChanges) {
    const auto before = window->session().drawerItems();
    drawer->choose("led/amber-5mm");
    for (const char* field : {"In stock", "At least", "Pack of", "Pack price"}) {
        type(drawer->form()->findChild<QLineEdit*>(field), "a few");
        EXPECT_TRUE(drawer->told().contains("no number")) << field;
        EXPECT_NE(drawer->form()->findChild<QLineEdit*>(field)->text(), "a few") << field;
    }
    type(drawer->form()->findChild<QLineEdit*>("What it is"), "something else entirely");
    EXPECT_TRUE(drawer->told().contains("no part")) << qPrintable(drawer->told());
    type(drawer->form()->findChild<QLineEdit*>("Place"), QString(300, QLatin1Char('x')));
    EXPECT_TRUE(drawer->told().contains("200")) << qPrintable(drawer->told());
    EXPECT_EQ(window->session().drawerItems(), before);
    EXPECT_FALSE(drawer->undoStack().canUndo());
}

TEST_F(OfDrawer, APointIsAPointAndACommaToo) {
    drawer->choose("led/amber-5mm");
    type(drawer->form()->findChild<QLineEdit*>("Pack price"), "1.250");
    EXPECT_NEAR(item("led/amber-5mm")->price, 1.25, 1e-12);
    type(drawer->form()->findChild<QLineEdit*>("Pack price"), "1,75");
    EXPECT_NEAR(item("led/amber-5mm")->price, 1.75, 1e-12);
}

TEST_F(OfDrawer, AnOwnPartAndAPhotoThatIsNone) {
    type(line("add"), "Felt feet 10 mm");
    const std::string key = drawer->form()->item()->key;
    EXPECT_EQ(key, "own/felt feet 10 mm");
    type(drawer->form()->findChild<QLineEdit*>("Photo"), "/no/such/photo.png");
    bool told = false;
    for (const QLabel* words : drawer->form()->findChildren<QLabel*>())
        told = told || words->text().contains("cannot be read");
    EXPECT_TRUE(told);
    type(drawer->form()->findChild<QLineEdit*>("Note"), "for the lantern's base");
    QTest::keyClicks(line("find"), "lantern felt");
    EXPECT_EQ(drawer->model()->rowCount(), 1) << "own words are found";
}

TEST(DrawerFile, ADamagedOneIsSaidSoAndPutAside) {
    const TemporaryFolder folder;
    std::ofstream(folder / "drawer.sqlite") << "no drawer at all, but something that somebody may want back";
    MainWindow window(std::make_shared<Stock>(folder / "drawer.sqlite"));
    EXPECT_TRUE(window.standingText().contains("drawer")) << qPrintable(window.standingText());
    DrawerWindow* drawer = window.openDrawer();
    for (auto* b : drawer->findChildren<QPushButton*>())
        if (b->text().contains("aside")) b->click();
    EXPECT_TRUE(drawer->told().contains(".damaged")) << qPrintable(drawer->told());
    EXPECT_GT(drawer->model()->rowCount(), 10);
    EXPECT_TRUE(window.standingText().isEmpty()) << qPrintable(window.standingText());
    EXPECT_TRUE(std::filesystem::exists(folder / "drawer.sqlite.damaged"));
}

}  // namespace
}  // namespace elkit::test
