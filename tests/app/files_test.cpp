// Files: open, save, damage, recovery after a kill, changes by others.
#include <sqlite3.h>

#include <QProcess>
#include <QPushButton>
#include <fstream>

#include "app/shell/autosave.hpp"
#include "app/shell/writer.hpp"
#include "design/file.hpp"
#include "embedded.hpp"
#include "support/process.hpp"
#include "window_fixture.hpp"

namespace elkit::test {
namespace {

/// Presses a button of the banner.
void press(QWidget* window, const QString& text) {
    QApplication::processEvents();
    for (auto* banner : window->findChildren<QFrame*>("banner"))
        for (auto* b : banner->findChildren<QPushButton*>())
            if (b->text() == text && b->isVisible()) return QTest::mouseClick(b, Qt::LeftButton);
    FAIL() << "no button " << qPrintable(text);
}

TEST_F(Window, SavesAndOpensWhatWasEdited) {
    say("r1 = 100");
    EXPECT_TRUE(window->session().modified());
    const auto path = folder / "a.elkit.json";
    ASSERT_TRUE(window->saveTo(path));
    EXPECT_FALSE(window->session().modified());
    say("r1 = 200");
    ASSERT_TRUE(window->openFile(path));
    EXPECT_EQ(value("R1"), 100);
}

TEST_F(Window, AnUnchangedFileWrittenByHandKeepsEveryByte) {
    const auto path = folder / "hand.elkit.json";
    const std::string text =
        "{\"elkit\":1, \"name\" : \"By hand\",\n\n \"circuit\": {\"parts\": [\n "
        "{\"kind\":\"supply\",\"designator\":\"PS1\",\"pins\":{\"-\":\"0\",\"+\":\"V\"}},"
        "{\"kind\":\"resistor\",\"designator\":\"R1\",\"pins\":{\"b\":\"0\",\"a\":\"V\"}}]}}";
    std::ofstream(path) << text;
    ASSERT_TRUE(window->openFile(path)) << qPrintable(window->bannerText());
    ASSERT_TRUE(window->saveTo(path));
    EXPECT_EQ(read_file(path).value(), text);
}

TEST_F(Window, ABadFileIsExplainedAndTheOpenDesignStays) {
    const Design before = design();
    struct Bad {
        std::string text;
        const char* says;
    };
    std::string duplicate(embedded::demo_pier_lantern);
    const std::string second = "\"designator\": \"R2\"";
    duplicate.replace(duplicate.find(second), second.size(), "\"designator\": \"R1\"");
    for (const Bad& bad :
         {Bad{"{\"elkit\": 1,\n \"na", "line 2"}, Bad{"{\"elkit\": 1, \"brief\": 7}", "/brief"},
          Bad{duplicate, "/circuit/parts/5/designator"}, Bad{"", "line 1"}}) {
        const auto path = folder / "bad.elkit.json";
        std::ofstream(path) << bad.text;
        EXPECT_FALSE(window->openFile(path));
        EXPECT_TRUE(window->bannerText().contains(bad.says)) << qPrintable(window->bannerText());
        EXPECT_TRUE(window->bannerText().contains("expected"));
        EXPECT_TRUE(design() == before);
    }
    EXPECT_FALSE(window->openFile(folder.path()));
    EXPECT_TRUE(window->bannerText().contains("folder"));
    EXPECT_FALSE(window->openFile(folder / "none"));
}

TEST_F(Window, AFailedSaveSaysSoAndLosesNothing) {
    say("r1 = 100");
    EXPECT_FALSE(window->saveTo(folder / "no/such/place.elkit.json"));
    EXPECT_TRUE(window->bannerText().contains("cannot be written")) << qPrintable(window->bannerText());
    EXPECT_TRUE(window->session().modified());
    EXPECT_EQ(value("R1"), 100);
}

TEST_F(Window, WhatIsEditedWhileTheFileIsWrittenStaysUnsaved) {
    const auto path = folder / "slow-disk.elkit.json";
    say("r1 = 100");
    window->startSaving(path);
    Design next = design();
    next.circuit.find("R1")->params["value"] = 120.0;
    window->session().edit(next, "step");
    keeper().wait();
    EXPECT_EQ(load_design(path).value().circuit.find("R1")->number("value"), 100);
    EXPECT_TRUE(window->session().modified());
    window->action("save")->trigger();
    window->action("save")->trigger();  // twice: no false alarm about the file
    keeper().wait();
    EXPECT_EQ(window->bannerText(), QString());
    EXPECT_EQ(load_design(path).value().circuit.find("R1")->number("value"), 120);
    EXPECT_FALSE(window->session().modified());
}

TEST_F(Window, AnotherDesignOpenedWhileTheFileIsWrittenDoesNotTakeItsName) {
    const auto path = folder / "lantern.elkit.json";
    window->startSaving(path);
    window->openDemo("coat-badge");  // nothing is unsaved: it takes this window
    keeper().wait();
    EXPECT_EQ(design().name, "Coat badge");
    EXPECT_TRUE(window->session().path().empty()) << "saving the badge must not end in the lantern's file";
    EXPECT_FALSE(window->session().modified());
    EXPECT_EQ(load_design(path).value().name, "Pier lantern");
}

TEST_F(Window, TwoQuickChangesOfTheDrawerBothStay) {
    DrawerItem item = window->session().drawerItems().front();
    const std::string key = item.key;
    for (const double more : {1.0, 2.0, 3.0}) {
        item.stock = 100 + more;
        window->session().putDrawerItem(item);
    }
    QTest::qWait(50);
    keeper().wait();
    EXPECT_EQ(find_item(window->session().drawerItems(), key)->stock, 103);
    window->session().undoStack().undo();
    keeper().wait();
    EXPECT_EQ(find_item(window->session().drawerItems(), key)->stock, 102);
}

TEST_F(Window, ExportsAreWrittenInTheOrderAskedForAlsoWhenTheWindowCloses) {
    window->writeExport("leaflet", folder / "leaflet.pdf");
    window->writeExport("parts", folder / "parts.csv");
    window->session().forgetUnsaved();
    delete window.data();
    exporter().wait();
    EXPECT_TRUE(std::filesystem::exists(folder / "leaflet.pdf"));
    EXPECT_TRUE(std::filesystem::exists(folder / "parts.csv"));
}

TEST_F(Window, AnExportStopsWhenToldTo) {
    window->openDemo("twin-blinker");
    window->writeExport("leaflet", folder / "leaflet.pdf");
    press(window, "Stop");
    exporter().wait();
    EXPECT_TRUE(window->bannerText().contains("stopped")) << qPrintable(window->bannerText());
    EXPECT_FALSE(std::filesystem::exists(folder / "leaflet.pdf"));
}

TEST(DrawerWindow, StockThatCannotBeWrittenIsTakenBack) {
    const TemporaryFolder folder;
    auto drawer = Drawer::open(folder / "drawer.sqlite");
    MainWindow window(std::make_shared<Stock>(std::move(drawer).value()));
    window.openDemo("pier-lantern");
    const std::vector<DrawerItem> before = window.session().drawerItems();
    sqlite3* other = nullptr;
    ASSERT_EQ(sqlite3_open((folder / "drawer.sqlite").c_str(), &other), SQLITE_OK);
    ASSERT_EQ(sqlite3_exec(other, "BEGIN EXCLUSIVE", nullptr, nullptr, nullptr), SQLITE_OK);
    DrawerItem item = before.front();
    item.stock += 7;
    window.session().putDrawerItem(item);  // does not wait for the other program
    EXPECT_EQ(find_item(window.session().drawerItems(), item.key)->stock, item.stock);
    keeper().wait();
    EXPECT_TRUE(window.bannerText().contains("locked")) << qPrintable(window.bannerText());
    sqlite3_close(other);
    window.session().putDrawerItem(item);
    window.session().undoStack().undo();
    keeper().wait();
    EXPECT_EQ(window.session().drawerItems(), before);
}

TEST_F(Window, AChangeOnDiskIsNoticed) {
    const auto path = folder / "shared.elkit.json";
    ASSERT_TRUE(window->saveTo(path));
    std::ofstream(path) << embedded::demo_coat_badge;
    ASSERT_TRUE(QTest::qWaitFor([&] { return !window->bannerText().isEmpty(); }, 3000));
    EXPECT_TRUE(window->bannerText().contains("changed on disk")) << qPrintable(window->bannerText());
    say("r1 = 100");
    window->action("save")->trigger();
    EXPECT_TRUE(window->bannerText().contains("changed on disk"));
    EXPECT_EQ(read_file(path).value(), embedded::demo_coat_badge) << "not overwritten unasked";
    press(window, "Overwrite it");
    keeper().wait();
    EXPECT_EQ(load_design(path).value().circuit.find("R1")->number("value"), 100);
}

TEST_F(Window, UnsavedWorkSurvivesAKill) {
    const auto path = folder / "lantern.elkit.json";
    ASSERT_TRUE(write_file(path, embedded::demo_pier_lantern));
    QProcess victim;
    victim.start(QCoreApplication::applicationFilePath(),
                 {"--be-killed", QString::fromStdString(path.string())});
    ASSERT_TRUE(victim.waitForFinished(20000));
    ASSERT_EQ(victim.exitStatus(), QProcess::CrashExit) << "the other program was killed";
    EXPECT_EQ(load_design(path).value().circuit.find("R1")->number("value"), 62) << "its file is untouched";
    window->offerUnsaved();
    ASSERT_TRUE(window->bannerText().contains("Pier lantern")) << qPrintable(window->bannerText());
    press(window, "Open it");
    settle();
    EXPECT_EQ(value("R1"), 100);
    EXPECT_EQ(window->session().path(), path);
    EXPECT_TRUE(window->session().modified());
    ASSERT_TRUE(window->saveTo(path));
    EXPECT_EQ(load_design(path).value().circuit.find("R1")->number("value"), 100);
    Autosave::wait();
    EXPECT_TRUE(Autosave::left_behind().work.empty()) << "nothing is offered twice";
}

TEST_F(Window, WindowsAreIndependentAndCloseWhileComputing) {
    auto* other = new MainWindow(nullptr);
    other->openDemo("coat-badge");
    other->show();
    QApplication::processEvents();
    EXPECT_EQ(other->session().design().name, "Coat badge");
    EXPECT_EQ(design().name, "Pier lantern");
    delete other;  // its analysis may still run
    QTest::qWait(300);
    EXPECT_EQ(design().name, "Pier lantern");
}

TEST_F(Window, LaterEditsSupersedeRunningAnalyses) {
    for (int ohms = 70; ohms < 90; ++ohms) {
        Design next = design();
        next.circuit.find("R1")->params["value"] = double(ohms);
        next.brief.kits = ohms;
        window->session().edit(next, "step");
        QTest::qWait(15);
    }
    ASSERT_TRUE(QTest::qWaitFor([&] { return !window->session().computing(); }, 20000));
    EXPECT_EQ(window->session().ask(window->session().partsQuery())->kits, 89)
        << "the result on show belongs to the last edit";
}

TEST_F(Window, WritesTheKitsFiles) {
    window->writeKit(folder / "kit");
    ASSERT_TRUE(written());
    for (const char* name :
         {"leaflet.pdf", "stave.svg", "board-component-side.svg", "board-solder-side.svg", "parts.csv"})
        EXPECT_TRUE(std::filesystem::exists(folder / ("kit/" + std::string(name)))) << name;
    window->writeExport("parts", folder / "parts.csv");
    ASSERT_TRUE(written());
    window->writeExport("leaflet", folder / "no/such/leaflet.pdf");
    EXPECT_TRUE(QTest::qWaitFor([&] { return window->bannerText() != "writing …"; }, 30000));
    EXPECT_TRUE(window->bannerText().contains("cannot be written"));
}

TEST(Program, OpensAFileWhoseNameIsNotUtf8) {
    TemporaryFolder folder;
    const std::string file = (folder /
                              "b\xff"
                              "d.elkit.json")
                                 .string(),
                      home = folder.path().string();
    ASSERT_TRUE(write_file(file, write_design(Design{})));
    const Output shown =
        run("env QT_QPA_PLATFORM=offscreen XDG_CONFIG_HOME='" + home + "' XDG_STATE_HOME='" + home +
            "' XDG_DATA_HOME='" + home + "' " ELKIT_APP_BINARY " --time-start '" + file + "'");
    EXPECT_EQ(shown.exit_code, 0) << shown.err;
    const auto settings = read_file(folder / "elkit/elkit.conf");
    ASSERT_TRUE(settings);
    EXPECT_NE(settings.value().find("b%FFd.elkit.json"), std::string::npos) << settings.value();
}

TEST(Program, WithoutADisplaySaysSo) {
    const std::string bare = "env -u DISPLAY -u WAYLAND_DISPLAY -u QT_QPA_PLATFORM " ELKIT_APP_BINARY;
    EXPECT_EQ(run(bare + " --version").exit_code, 0);
    const Output refused = run(bare + " --demo coat-badge");
    EXPECT_EQ(refused.exit_code, 3);
    EXPECT_NE(refused.err.find("no display"), std::string::npos) << refused.err;
}

}  // namespace
}  // namespace elkit::test
