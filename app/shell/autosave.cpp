#include "app/shell/autosave.hpp"

#include <QDir>
#include <QLockFile>
#include <QUuid>
#include <nlohmann/json.hpp>
#include <utility>

#include "app/shell/writer.hpp"
#include "design/file.hpp"

namespace elkit {
namespace fs = std::filesystem;
namespace {

fs::path folder_from(const char* variable, const char* fallback) {
    const QString set = qEnvironmentVariable(variable);
    const QString base = set.isEmpty() ? QDir::homePath() + QLatin1Char('/') + QLatin1String(fallback) : set;
    return fs::path(base.toStdString()) / "elkit";
}

fs::path unsaved_folder() { return state_folder() / "unsaved"; }

}  // namespace

fs::path state_folder() { return folder_from("XDG_STATE_HOME", ".local/state"); }
fs::path data_folder() { return folder_from("XDG_DATA_HOME", ".local/share"); }

/// The file that this session writes to; touched on the keeper's thread only.
struct Autosave::Copy {
    fs::path file;
    std::unique_ptr<QLockFile> lock;
    bool written = false;

    Result<void> write(const Design& design, const fs::path& original) {
        if (file.empty()) {
            std::error_code ignored;  // the writing says what is wrong
            fs::create_directories(unsaved_folder(), ignored);
            const QString name = QUuid::createUuid().toString(QUuid::WithoutBraces);
            file = unsaved_folder() / (name.toStdString() + ".json");
            lock = std::make_unique<QLockFile>(QString::fromStdString(file.string() + ".lock"));
            lock->setStaleLockTime(0);
            lock->tryLock(0);
        }
        // the original's path travels inside the document as a key that the design does not know
        Design copy = design;
        nlohmann::ordered_json extra = copy.extra.json();
        extra["unsaved_from"] = original.string();
        copy.extra = Extra(std::move(extra));
        auto done = save_design(copy, file);
        written = done.has_value();
        return done;
    }
    void remove() {
        if (file.empty()) return;
        std::error_code ignored;
        fs::remove(file, ignored);
        lock.reset();
    }
};

Autosave::Autosave(std::function<void(const Error&)> failed) : failed_(std::move(failed)) {
    timer_.setSingleShot(true);
    timer_.setInterval(500);
    QObject::connect(&timer_, &QTimer::timeout, [this] { flush(); });
}

void Autosave::keep(std::shared_ptr<const Design> design, const fs::path& original) {
    design_ = std::move(design);
    original_ = original;
    if (!std::exchange(waits_, true)) timer_.start();
}

void Autosave::flush() {
    if (!std::exchange(waits_, false)) return;
    timer_.stop();
    if (!copy_) copy_ = std::make_shared<Copy>();
    keeper().run(
        [copy = copy_, design = design_, original = original_] { return copy->write(*design, original); },
        &here_,
        [this](const Result<void>& written) {
            if (!written && !told_) failed_(written.error());
            told_ = !written;
        });
}

void Autosave::forget() {
    timer_.stop();
    waits_ = false;
    if (!copy_) return;
    keeper().run([copy = std::exchange(copy_, nullptr)] { return copy->remove(), true; }, &here_,
                 [](bool) {});
}

void Autosave::takeOver(const Unsaved& older) {
    flush();
    keeper().run(
        [copy = copy_, older] {
            if (!copy || copy->written) discard(older);
            return true;
        },
        &here_, [](bool) {});
}

std::vector<Unsaved> Autosave::left_behind() {
    std::vector<Unsaved> found;
    std::error_code code;
    for (const auto& entry : fs::directory_iterator(unsaved_folder(), code)) {
        if (entry.path().extension() != ".json") continue;
        QLockFile lock(QString::fromStdString(entry.path().string() + ".lock"));
        lock.setStaleLockTime(0);
        if (!lock.tryLock(0)) continue;  // another window still works on it
        lock.unlock();
        auto design = load_design(entry.path());
        if (!design) continue;
        Unsaved u{entry.path(), {}, std::move(design).value()};
        nlohmann::ordered_json extra = u.design.extra.json();
        if (extra.contains("unsaved_from")) {
            u.original = extra["unsaved_from"].get<std::string>();
            extra.erase("unsaved_from");
            u.design.extra = Extra(std::move(extra));
        }
        found.push_back(std::move(u));
    }
    return found;
}

void Autosave::discard(const Unsaved& unsaved) {
    std::error_code ignored;
    fs::remove(unsaved.file, ignored);
    fs::remove(unsaved.file.string() + ".lock", ignored);
}

}  // namespace elkit
