#include "app/shell/autosave.hpp"

#include <QDir>
#include <QLockFile>
#include <QUuid>
#include <nlohmann/json.hpp>

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

Autosave::Autosave() {
    timer_.setSingleShot(true);
    timer_.setInterval(500);
    QObject::connect(&timer_, &QTimer::timeout, [this] { flush(); });
}

Autosave::~Autosave() = default;

void Autosave::keep(const Design& design, const fs::path& original) {
    design_ = design;
    original_ = original;
    if (!timer_.isActive()) timer_.start();
}

void Autosave::flush() {
    if (!timer_.isActive() && !file_.empty()) return;
    timer_.stop();
    std::error_code ignored;
    fs::create_directories(unsaved_folder(), ignored);
    if (file_.empty()) {
        file_ =
            unsaved_folder() / (QUuid::createUuid().toString(QUuid::WithoutBraces).toStdString() + ".json");
        lock_ = std::make_unique<QLockFile>(QString::fromStdString(file_.string() + ".lock"));
        lock_->setStaleLockTime(0);
        lock_->tryLock(0);
    }
    // the original's path travels inside the document as a key that the design does not know
    Design copy = design_;
    nlohmann::ordered_json extra = copy.extra.json();
    extra["unsaved_from"] = original_.string();
    copy.extra = Extra(std::move(extra));
    (void)save_design(copy, file_);
}

void Autosave::forget() {
    timer_.stop();
    if (file_.empty()) return;
    std::error_code ignored;
    fs::remove(file_, ignored);
    lock_.reset();
    file_.clear();
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
