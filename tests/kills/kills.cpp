// Kills windows while they are worked in, and looks at what the next start finds:  elkit_kills ROUNDS [SEED]
//
// A worker (this program again, with --work) opens a design in the real window, edits it by keyboard at
// random pace and tells after each edit what the design is. It is killed at a random moment. A second one
// (--look) starts as a user would, takes the work that is offered, and tells what the design is now. That
// must be one of those told since 200 ms before the kill, or one step further, kept but not told yet.
#include <fmt/format.h>

#include <QApplication>
#include <QDirIterator>
#include <QProcess>
#include <QPushButton>
#include <QTemporaryDir>
#include <QTest>
#include <chrono>
#include <filesystem>
#include <iostream>
#include <random>
#include <thread>

#include "app/shell/do_panel.hpp"
#include "app/shell/main_window.hpp"
#include "app/theme/theme.hpp"
#include "design/demo.hpp"
#include "design/file.hpp"
#include "design/kept.hpp"
#include "render/fonts.hpp"

namespace {
using namespace elkit;

constexpr double may_be_lost = 0.2;  // s before the kill

double now() {
    return std::chrono::duration<double>(std::chrono::steady_clock::now().time_since_epoch()).count();
}

std::size_t mark(const Design& design) { return std::hash<std::string>{}(write_design(design)); }

void tell(char what, const Design& design) {
    std::cout << fmt::format("{} {:.6f} {:016x}\n", what, now(), mark(design)) << std::flush;
}

std::string first_resistor(const Design& design) {
    for (const Part& part : design.circuit.parts)
        if (part.kind == "resistor") return part.designator;
    return {};
}

int work(const std::string& file, unsigned seed) {
    std::mt19937 random(seed);
    auto* window = new MainWindow(nullptr);
    window->openFile(file);
    window->show();
    QTest::qWait(1);
    const auto& design = [&]() -> const Design& { return window->session().design(); };
    tell('E', design());
    // told at once when it is accepted, before anything is computed or painted
    QObject::connect(&window->session(), &Session::designChanged, window, [&] { tell('E', design()); });
    const auto say = [&](const QString& words) {
        QTest::keyClick(window, Qt::Key_K, Qt::ControlModifier);
        QTest::keyClicks(window->doPanel()->line(), words);
        QTest::keyClick(window->doPanel()->line(), Qt::Key_Return);
    };
    const QString resistor = QString::fromStdString(first_resistor(design()));
    for (;;) {
        switch (random() % 8) {
            case 0:
                QTest::keyClick(window, Qt::Key_Z, Qt::ControlModifier);
                break;
            case 1:
                QTest::keyClick(window, Qt::Key_Z, Qt::ControlModifier | Qt::ShiftModifier);
                break;
            case 2:
                if (random() % 4 == 0) QTest::keyClick(window, Qt::Key_S, Qt::ControlModifier);
                break;
            case 3:  // another station computes something else
                QTest::keyClick(window, static_cast<Qt::Key>(Qt::Key_1 + random() % 7), Qt::ControlModifier);
                break;
            case 4:
                say(QStringLiteral("add resistor %1k ZZ GND").arg(random() % 1000 + 1));
                break;
            default:
                say(QStringLiteral("%1 = %2").arg(resistor).arg(random() % 100000 + 1));
        }
        QTest::qWait(static_cast<int>(random() % 3 == 0 ? random() % 400 : random() % 30));
    }
}

int look(const std::string& file) {
    // read before the window does: it throws away a copy that ends at what the file holds
    std::error_code none;
    for (const auto& copy : std::filesystem::directory_iterator(state_folder() / "unsaved", none))
        if (copy.path().extension() == ".kept")
            if (const auto text = read_file(copy.path()); text)
                if (const auto kept = read_kept(text.value()); kept)
                    for (const KeptStep& step : kept.value().history)
                        tell('H', *step.before), tell('H', *step.after);
    auto* window = new MainWindow(nullptr);
    window->show();
    window->offerUnsaved();
    QPushButton* open = nullptr;
    for (auto* button : window->findChildren<QPushButton*>())
        if (button->text() == QLatin1String("Open it")) open = button;
    if (open)
        open->click();
    else
        window->openFile(file);
    tell(open ? 'R' : 'F', window->session().design());
    std::cout << window->bannerText().toStdString() << "\n" << std::flush;
    std::_Exit(0);
}

/// A row of resistors from plus to minus beside a demo, so that computing and writing take long.
std::string with_many_parts(std::string_view demo, int count) {
    Design d = read_design(demo).value();
    const Part& source = *d.circuit.source();
    const std::string minus = source.net("-");
    std::string from = source.net("+");
    for (int k = 1; k <= count; ++k) {
        const std::string to = k == count ? minus : fmt::format("M{}", k);
        d.circuit.parts.push_back(
            {fmt::format("RM{}", k), "resistor", {{"value", 1000.0}}, {{"a", from}, {"b", to}}, {}});
        from = to;
    }
    return write_design(d);
}

struct Told {
    char what;
    double time;
    QByteArray mark;
};

std::vector<Told> told_by(const QByteArray& output) {
    std::vector<Told> all;
    for (const QByteArray& line : output.split('\n')) {
        const auto words = line.split(' ');
        if (words.size() == 3 && words[2].size() == 16)
            all.push_back({words[0][0], words[1].toDouble(), words[2]});
    }
    return all;
}

struct Tally {
    int recovered = 0, from_file = 0, last = 0, lost = 0, edits = 0;
};

/// One round; what went wrong in words, or nothing.
QString round(const std::string& design, std::mt19937& random, Tally& tally) {
    QTemporaryDir home;
    for (const char* variable : {"XDG_STATE_HOME", "XDG_DATA_HOME", "XDG_CONFIG_HOME"})
        qputenv(variable, home.path().toUtf8() + "/" + variable);
    const QString file = home.filePath(QStringLiteral("round.elkit.json"));
    if (!write_file(file.toStdString(), design)) return QStringLiteral("cannot write %1").arg(file);
    QProcess worker;
    worker.start(QCoreApplication::applicationFilePath(),
                 {QStringLiteral("--work"), file, QString::number(random())});
    if (!worker.waitForReadyRead(30000)) return QStringLiteral("the window did not start");
    std::this_thread::sleep_for(std::chrono::milliseconds(random() % 1500));
    const double killed = now();
    worker.kill();
    worker.waitForFinished();
    const auto said = told_by(worker.readAllStandardOutput());
    QStringList kept_files;
    for (QDirIterator at(home.path(), QDir::Files, QDirIterator::Subdirectories); at.hasNext();)
        kept_files << QFileInfo(at.next()).fileName();
    QProcess looker;
    looker.start(QCoreApplication::applicationFilePath(), {QStringLiteral("--look"), file});
    if (!looker.waitForFinished(30000) || looker.exitCode() != 0)
        return QStringLiteral("the next start failed: %1")
            .arg(QString::fromUtf8(looker.readAllStandardError()));
    const QByteArray output = looker.readAllStandardOutput();
    auto found = told_by(output);
    if (found.empty() || said.empty()) return QStringLiteral("nothing was told");
    std::vector<QByteArray> history;  // of each step: before, after
    for (const Told& t : found)
        if (t.what == 'H') history.push_back(t.mark);
    std::erase_if(found, [](const Told& t) { return t.what == 'H'; });
    if (found.empty()) return QStringLiteral("nothing was found");
    std::size_t least = 0;
    for (std::size_t k = 0; k < said.size(); ++k)
        if (said[k].time <= killed - may_be_lost) least = k;
    tally.edits += static_cast<int>(said.size());
    (found[0].what == 'R' ? tally.recovered : tally.from_file)++;
    tally.last += found[0].mark == said.back().mark;
    for (std::size_t k = least; k < said.size(); ++k)
        if (said[k].mark == found[0].mark) return {};
    // one move further than what was told last, by an edit, an undo or a redo
    bool further = false;
    for (std::size_t k = 0; k + 1 < history.size(); k += 2)
        further = further || (history[k] == said.back().mark && history[k + 1] == found[0].mark) ||
                  (history[k + 1] == said.back().mark && history[k] == found[0].mark);
    if (further) return {};
    ++tally.lost;
    // all that a person needs to find out why: what was told when, what was found, and the folder as it was
    home.setAutoRemove(false);
    QString course;
    for (const Told& t : said)
        course += QStringLiteral("  %1 ms before the kill: %2\n")
                      .arg(qRound(1e3 * (killed - t.time)))
                      .arg(QString::fromLatin1(t.mark));
    return QStringLiteral("an edit was lost; found %1 (%2), kept by then: %3; see %4\n%5%6")
        .arg(QString::fromLatin1(found[0].mark), found[0].what == 'R' ? "offered" : "in the file",
             kept_files.join(' '), home.path(), course, QString::fromUtf8(output));
}

}  // namespace

int main(int argc, char** argv) {
    qputenv("QT_QPA_PLATFORM", "offscreen");
    const QByteArray first = argc > 1 ? argv[1] : "100";
    if (first == "--work" || first == "--look") {
        QApplication application(argc, argv);
        QApplication::setApplicationName(QStringLiteral("elkit"));
        load_fonts();
        apply_theme(false);
        return first == "--work" ? work(argv[2], QByteArray(argv[3]).toUInt()) : look(argv[2]);
    }
    QCoreApplication application(argc, argv);
    const int rounds = first.toInt();
    const unsigned seed = argc > 2 ? QByteArray(argv[2]).toUInt() : std::random_device{}();
    std::mt19937 random(seed);
    std::vector<std::string> designs;
    for (const Demo& demo : demos()) designs.emplace_back(demo.text);
    for (const int count : {100, 1000}) designs.push_back(with_many_parts(demos().front().text, count));
    Tally tally;
    for (int k = 0; k < rounds; ++k)
        if (const QString trouble = round(designs[random() % designs.size()], random, tally);
            !trouble.isEmpty())
            std::cout << fmt::format("round {}: {}", k + 1, trouble.toStdString()) << std::endl;
    std::cout << fmt::format(
        "{} windows killed (seed {}), {} edits told; found again: {} by the offer, {} in the file; to the "
        "very "
        "last edit: {}; lost: {}\n",
        rounds, seed, tally.edits, tally.recovered, tally.from_file, tally.last, tally.lost);
    return tally.lost == 0 && tally.recovered + tally.from_file == rounds ? 0 : 1;
}
