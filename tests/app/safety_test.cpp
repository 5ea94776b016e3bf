// No edit is lost, no copy or name ends the window: kept copies, notices, strangers' names.
#include <QLabel>
#include <QPushButton>
#include <QSignalSpy>
#include <fstream>
#include <nlohmann/json.hpp>

#include "app/shell/application.hpp"
#include "app/shell/autosave.hpp"
#include "app/shell/writer.hpp"
#include "design/file.hpp"
#include "window_fixture.hpp"

namespace elkit::test {
namespace {
namespace fs = std::filesystem;

void press(MainWindow* window, const char* text) {
    for (auto* button : window->findChildren<QPushButton*>())
        if (button->text() == text) return QTest::mouseClick(button, Qt::LeftButton);
    FAIL() << text << " is not there";
}

class Safety : public Window {
  protected:
    fs::path unsaved() const { return state_folder() / "unsaved"; }
    std::vector<fs::path> copies() const {
        std::vector<fs::path> found;
        std::error_code code;
        for (const auto& entry : fs::directory_iterator(unsaved(), code))
            if (entry.path().extension() == ".kept") found.push_back(entry.path());
        return found;
    }
    Kept kept() const {
        Autosave::wait();
        const auto all = copies();
        EXPECT_EQ(all.size(), 1u);
        return read_kept(read_file(all.at(0), largest_kept).value()).value();
    }
    void put(const char* name, const std::string& text) {
        fs::create_directories(unsaved());
        std::ofstream(unsaved() / name) << text;
    }
};

TEST_F(Safety, EveryEditIsOnDiskNotOnlyTheFirst) {
    for (int ohms = 100; ohms < 110; ++ohms) {
        say(QStringLiteral("r1 = %1").arg(ohms));
        EXPECT_EQ(kept().last->circuit.find("R1")->number("value"), ohms);
    }
    EXPECT_EQ(kept().history.size(), 10u);
    QTest::keyClick(window, Qt::Key_Z, Qt::ControlModifier);
    EXPECT_EQ(kept().last->circuit.find("R1")->number("value"), 108);
    EXPECT_EQ(kept().done, 9u);
    EXPECT_EQ(fs::status(unsaved()).permissions(), fs::perms::owner_all) << "nobody else reads it";
}

TEST_F(Safety, SavedWorkLeavesNoCopy) {
    say("r1 = 100");
    ASSERT_TRUE(window->saveTo(folder / "x.elkit.json"));
    Autosave::wait();
    EXPECT_TRUE(copies().empty());
    say("r1 = 110");
    QTest::keyClick(window, Qt::Key_Z, Qt::ControlModifier);  // back to what is saved
    Autosave::wait();
    window->close();
    Autosave::wait();
    EXPECT_TRUE(copies().empty());
}

TEST_F(Safety, UndoHistorySurvives) {
    say("r1 = 100");
    say("r1 = 110");
    const auto text = read_file((kept(), copies().at(0))).value();
    window->session().forgetUnsaved();
    Autosave::wait();
    put("killed.kept", text);
    window->session().startNew(Design{});
    window->offerUnsaved();
    ASSERT_TRUE(window->bannerText().contains("Pier lantern")) << qPrintable(window->bannerText());
    press(window, "Open it");
    EXPECT_EQ(value("R1"), 110);
    EXPECT_TRUE(window->session().modified());
    QTest::keyClick(window, Qt::Key_Z, Qt::ControlModifier);
    EXPECT_EQ(value("R1"), 100);
    QTest::keyClick(window, Qt::Key_Z, Qt::ControlModifier);
    EXPECT_EQ(value("R1"), 62);
    QTest::keyClick(window, Qt::Key_Z, Qt::ControlModifier | Qt::ShiftModifier);
    EXPECT_EQ(value("R1"), 100);
    EXPECT_EQ(kept().last->circuit.find("R1")->number("value"), 100) << "and goes on in the same copy";
}

TEST_F(Safety, ACopyThatEqualsItsFileIsNotOffered) {
    const auto file = folder / "x.elkit.json";
    ASSERT_TRUE(save_design(design(), file));
    put("same.kept", kept_head(file, Design{}) + kept_edit(Design{}, design(), "x", Move::edit));
    window->offerUnsaved();
    EXPECT_TRUE(window->bannerText().isEmpty()) << qPrintable(window->bannerText());
    EXPECT_TRUE(copies().empty());
}

TEST_F(Safety, DamagedAndHostileCopiesAreSetAsideAndEndNoStart) {
    put("endless.json", "{\"elkit\": 2, \"x\": 1e999}");
    put("type.json", "{\"elkit\": 2, \"unsaved_from\": 5}");
    put("empty.kept", "");
    put("foreign.kept", "GIF89a");
    put("torn.kept", kept_head({}, design()).substr(0, 200));
    put("hostile.kept",
        "elkit kept 1\n" + kept_record('F', "/dev/zero") + kept_record('D', "{\"elkit\": 1e999}"));
    ASSERT_EQ(::mkfifo((unsaved() / "pipe.kept").c_str(), 0600), 0);
    fs::create_symlink("/dev/zero", unsaved() / "device.kept");
    fs::create_directory(unsaved() / "folder.kept");
    window->offerUnsaved();
    for (int k = 0; k < 9; ++k) {
        ASSERT_TRUE(window->bannerText().contains("set aside as")) << k << qPrintable(window->bannerText());
        press(window, "OK");
    }
    EXPECT_TRUE(window->bannerText().isEmpty()) << qPrintable(window->bannerText());
    EXPECT_TRUE(copies().empty());
    EXPECT_EQ(std::distance(fs::directory_iterator(unsaved() / "set-aside"), fs::directory_iterator()), 9);
    window->offerUnsaved();
    EXPECT_TRUE(window->bannerText().isEmpty()) << "and are not met again";
}

TEST_F(Safety, ADamagedEndIsSaidAndTheWholeFileKept) {
    Design next = design();
    next.circuit.find("R1")->params["value"] = 99.0;
    std::string text =
        kept_head({}, design()) + kept_edit(design(), next, "R1 = 99", Move::edit) + std::string(60, 'x');
    put("damaged.kept", text);
    window->session().startNew(Design{});
    window->offerUnsaved();
    EXPECT_TRUE(window->bannerText().contains("Not all of it")) << qPrintable(window->bannerText());
    press(window, "Open it");
    Autosave::wait();
    EXPECT_EQ(value("R1"), 99);
    EXPECT_EQ(read_file(unsaved() / "set-aside/damaged.kept").value(), text);
}

TEST_F(Safety, ANoticeStandsWhileEditsCannotBeKept) {
    fs::create_directories(state_folder());
    std::ofstream(unsaved().string()) << "a file where the folder should be";
    say("r1 = 100");
    Autosave::wait();
    EXPECT_TRUE(window->standingText().contains("cannot be kept safe")) << qPrintable(window->standingText());
    say("r1 = 110");
    Autosave::wait();
    EXPECT_FALSE(window->standingText().isEmpty()) << "it stays";
    fs::remove(unsaved());
    EXPECT_TRUE(QTest::qWaitFor([&] { return window->standingText().isEmpty(); }, 5000))
        << "until it works again";
    EXPECT_EQ(kept().last->circuit.find("R1")->number("value"), 110);
    EXPECT_EQ(kept().history.size(), 2u) << "with what could not be kept in between";
}

TEST_F(Safety, MoreEditsThanAreHeldBackStillEndInTheRightDesign) {
    say("r1 = 100");
    Autosave::wait();
    const fs::path copy = copies().at(0);
    const std::string before = read_file(copy).value();
    fs::remove(copy);
    fs::create_directory(copy);  // nothing can be appended
    for (int k = 1; k <= 130; ++k) {
        Design next = design();
        next.circuit.find("R1")->params["value"] = 200.0 + k;
        if (k % 2) next.circuit.parts.push_back(resistor("RX" + std::to_string(k), "V+", "GND", 1e5));
        window->session().edit(next, "edit");
        if (k % 10 == 0) Autosave::wait();
    }
    EXPECT_FALSE(window->standingText().isEmpty());
    fs::remove(copy);
    std::ofstream(copy) << before;
    ASSERT_TRUE(QTest::qWaitFor([&] { return window->standingText().isEmpty(); }, 5000));
    EXPECT_TRUE(*kept().last == design());
}

TEST_F(Safety, AnEditWhileSavingStaysKept) {
    const auto file = folder / "x.elkit.json";
    say("r1 = 100");
    window->startSaving(file);
    Design next = design();
    next.circuit.find("R1")->params["value"] = 123.0;
    window->session().edit(next, "R1 = 123");
    keeper().wait();
    EXPECT_TRUE(window->session().modified());
    EXPECT_EQ(kept().file, file);
    EXPECT_EQ(kept().last->circuit.find("R1")->number("value"), 123);
}

TEST_F(Safety, LoadingTheFileAgainCanBeUndone) {
    const auto file = folder / "x.elkit.json";
    ASSERT_TRUE(window->saveTo(file));
    Design theirs = design();
    theirs.circuit.find("R1")->params["value"] = 47.0;
    say("r1 = 100");
    ASSERT_TRUE(save_design(theirs, file));
    ASSERT_TRUE(QTest::qWaitFor([&] { return window->bannerText().contains("changed on disk"); }, 3000));
    press(window, "Load it");
    EXPECT_EQ(value("R1"), 47);
    EXPECT_FALSE(window->session().modified());
    QTest::keyClick(window, Qt::Key_Z, Qt::ControlModifier);
    EXPECT_EQ(value("R1"), 100) << "what was edited is one step back";
    EXPECT_TRUE(window->session().modified());
}

TEST_F(Safety, WhatNoFileCanHoldIsNotAccepted) {
    Design next = design();
    next.circuit.find("R1")->params["value"] = 1e300;
    window->session().edit(next, "too much");
    EXPECT_EQ(value("R1"), 62);
    EXPECT_TRUE(window->bannerText().contains("number")) << qPrintable(window->bannerText());
}

TEST_F(Safety, NamesAreText) {
    const QString evil = "<img src='file:///dev/zero'><b>x</b>";
    Design next = design();
    next.name = evil.toStdString();
    window->session().edit(next, "rename");
    say("kits = 3");
    for (auto* label : window->findChildren<QLabel*>())
        EXPECT_NE(label->textFormat(), Qt::AutoText) << qPrintable(label->text());
    QLabel label(evil);
    label.ensurePolished();
    EXPECT_EQ(label.textFormat(), Qt::PlainText);
    put("evil.kept", kept_head({}, Design{}) + kept_edit(Design{}, next, "x", Move::edit));
    window->offerUnsaved();
    EXPECT_TRUE(window->bannerText().contains(evil));
}

TEST_F(Safety, AStrangersNamesCanBeCleaned) {
    const auto file = folder / "x.elkit.json";
    std::ofstream(file) << R"({"elkit": 2, "name": "bell\u0007", "circuit": {"parts": [
        {"designator": "R 1", "kind": "resistor", "pins": {"a": "A B", "b": "B"}}]}})";
    EXPECT_FALSE(window->openFile(file));
    EXPECT_EQ(design().name, "Pier lantern") << "the open design stays";
    press(window, "Open a cleaned copy");
    EXPECT_EQ(design().name, "bell");
    EXPECT_NE(design().circuit.find("R_1"), nullptr);
    EXPECT_TRUE(window->session().path().empty()) << "the stranger's file is not written over";
}

TEST_F(Safety, AnExceptionInAnEventIsAnErrorAndTheWindowGoesOn) {
    say("r1 = 100");
    QTimer::singleShot(0, window.data(), [] { throw std::runtime_error("out of luck"); });
    QTest::qWait(20);
    EXPECT_TRUE(window->bannerText().contains("out of luck")) << qPrintable(window->bannerText());
    say("r1 = 110");
    EXPECT_EQ(value("R1"), 110);
    EXPECT_EQ(kept().last->circuit.find("R1")->number("value"), 110);
}

TEST(SafetyOfDrawers, WithoutOneNothingCountsAsOwned) {
    MainWindow without(nullptr);
    without.setAttribute(Qt::WA_DeleteOnClose, false);
    EXPECT_TRUE(without.session().drawerItems().empty()) << "no made-up stock is shown in its place";
}

}  // namespace
}  // namespace elkit::test
