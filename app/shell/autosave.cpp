#include "app/shell/autosave.hpp"

#include <QDir>
#include <QLockFile>
#include <QUuid>
#include <algorithm>
#include <atomic>
#include <mutex>
#include <utility>

#include "app/shell/writer.hpp"
#include "design/file.hpp"

namespace elkit {
namespace fs = std::filesystem;
namespace {

fs::path unsaved_folder() { return state_folder() / "unsaved"; }

QString lock_name(const fs::path& copy) {
    return QString::fromStdString(copy.parent_path().string() + "/." + copy.filename().string() + ".lock");
}

/// Held while a program works on the copy; null if another one does.
std::unique_ptr<QLockFile> lock_on(const fs::path& copy) {
    auto lock = std::make_unique<QLockFile>(lock_name(copy));
    lock->setStaleLockTime(0);
    return lock->tryLock(0) ? std::move(lock) : nullptr;
}

/// Moves a copy out of the way of the next start.
SetAside set_aside(const fs::path& copy, const std::string& reason) {
    const fs::path folder = unsaved_folder() / "set-aside";
    std::error_code code;
    fs::create_directories(folder, code);
    fs::path to = folder / copy.filename();
    for (int k = 2; fs::exists(fs::symlink_status(to, code)) && k < 1000; ++k)
        to = folder / (copy.stem().string() + "-" + std::to_string(k) + copy.extension().string());
    fs::rename(copy, to, code);
    return {code ? copy : to, reason};
}

/// Whether nothing would be lost with the copy.
bool is_saved(const Kept& kept) {
    if (kept.file.empty()) return *kept.last == *kept.first;
    const auto saved = load_design(kept.file);
    return saved && saved.value() == *kept.last;
}

}  // namespace

/// The copy of one session. All but add() and the sync runs on the scribe's thread.
class Autosave::Copy {
  public:
    explicit Copy(fs::path file) : file_(std::move(file)) {}
    explicit Copy(const Unsaved& older) : file_(older.kept.file), copy_(older.copy) {}

    void add(Edit edit) {
        const std::lock_guard guard(mutex_);
        waiting_.push_back(std::move(edit));
    }

    /// Writes what waits, as one; it waits on if that fails.
    Result<void> write() {
        std::vector<Edit> edits;
        {
            const std::lock_guard guard(mutex_);
            edits.swap(waiting_);
        }
        if (edits.empty()) return success();
        auto done =
            size_ == 0 || size_ > std::max<std::size_t>(1 << 20, 4 * head_) ? begin(edits) : append(edits);
        if (done) {
            const std::lock_guard guard(mutex_);
            on_disk_ = copy_;
            return done;
        }
        if (edits.size() > longest_history) {  // the last does not follow what is written: it begins anew
            edits.erase(edits.begin(), edits.end() - 1);
            size_ = 0;
        }
        const std::lock_guard guard(mutex_);
        waiting_.insert(waiting_.begin(), edits.begin(), edits.end());
        return done;
    }

    /// True if nobody has asked for a sync that is yet to begin.
    bool askForSync() { return !wants_sync_.exchange(true); }
    /// Waits for the disk; on the syncer's thread.
    Result<void> sync() {
        wants_sync_ = false;
        fs::path file;
        {
            const std::lock_guard guard(mutex_);
            file = on_disk_;
        }
        auto synced = file.empty() ? Result<void>(success()) : sync_file(file);
        const std::lock_guard guard(mutex_);
        return on_disk_.empty() ? Result<void>(success()) : synced;  // it may have been removed meanwhile
    }

    /// Makes the older copy this one: without what follows the last edit that could be read.
    Result<void> adopt(const Unsaved& older) {
        lock_ = lock_on(copy_);
        if (!lock_) return copy_.clear(), success();  // another window was faster: a copy of its own
        auto text = read_file(copy_, largest_kept);
        if (!text) return text.error();
        if (!older.kept.lost.empty()) set_aside(copy_, older.kept.lost);
        text.value().resize(std::min(older.kept.good, text.value().size()));
        if (auto written = write_file(copy_, text.value()); !written) return written;
        head_ = size_ = text.value().size();
        return success();
    }

    Result<void> remove() {
        std::error_code ignored;
        {
            const std::lock_guard guard(mutex_);
            on_disk_.clear();
        }
        if (!copy_.empty()) fs::remove(copy_, ignored);
        lock_.reset();
        return success();
    }

  private:
    Result<void> begin(const std::vector<Edit>& edits) {
        std::error_code ignored;  // the writing says what is wrong
        fs::create_directories(unsaved_folder(), ignored);
        fs::permissions(unsaved_folder(), fs::perms::owner_all, ignored);
        if (copy_.empty()) {
            copy_ = unsaved_folder() /
                    (QUuid::createUuid().toString(QUuid::WithoutBraces).toStdString() + ".kept");
            lock_ = lock_on(copy_);
        }
        const bool anew = size_ > 0;  // it has grown long: only the latest edit stays
        const Edit& first = anew ? edits.back() : edits.front();
        const std::string head = kept_head(file_, *first.before);
        std::string text = head;
        for (auto e = anew ? edits.end() - 1 : edits.begin(); e != edits.end(); ++e) text += text_of(*e);
        if (auto written = write_file(copy_, text, Sync::later); !written) return written;
        head_ = head.size(), size_ = text.size();
        return success();
    }
    Result<void> append(const std::vector<Edit>& edits) {
        std::string text;
        for (const Edit& e : edits) text += text_of(e);
        auto written = append_file(copy_, size_, text);
        if (written)
            size_ += text.size();
        else if (!fs::exists(copy_))
            size_ = 0;  // the next try begins anew
        return written;
    }
    static std::string text_of(const Edit& e) { return kept_edit(*e.before, *e.after, e.what, e.move); }

    std::mutex mutex_;
    std::vector<Edit> waiting_;
    fs::path on_disk_;  ///< the file to sync; empty if there is none
    std::atomic<bool> wants_sync_ = false;
    fs::path file_, copy_;
    std::unique_ptr<QLockFile> lock_;
    std::size_t head_ = 0, size_ = 0;  ///< bytes that are known to be on disk
};

Autosave::Autosave(std::function<void(const Error*)> trouble) : trouble_(std::move(trouble)) {
    again_.setInterval(1000);
    QObject::connect(&again_, &QTimer::timeout, &here_, [this] { write(); });
}

void Autosave::keep(const fs::path& file, Edit edit) {
    if (!copy_) copy_ = std::make_shared<Copy>(file);
    copy_->add(std::move(edit));
    write();
}

void Autosave::write() {
    if (!copy_) return again_.stop();
    scribe().run([copy = copy_] { return copy->write(); }, &here_,
                 [this, copy = copy_](const Result<void>& written) {
                     if (copy != copy_) return;
                     if (!written) return told(written);
                     if (!copy->askForSync()) return;
                     syncer().run([copy] { return copy->sync(); }, &here_,
                                  [this, copy](const Result<void>& synced) {
                                      if (copy == copy_) told(synced);
                                  });
                 });
}

void Autosave::told(const Result<void>& kept) {
    const bool was = std::exchange(troubled_, !kept);
    kept ? again_.stop() : again_.start();
    if (!kept)
        trouble_(&kept.error());
    else if (was)
        trouble_(nullptr);
}

void Autosave::forget() {
    if (!copy_) return;
    again_.stop();
    scribe().run([copy = std::exchange(copy_, nullptr)] { return copy->remove(); }, &here_,
                 [](const Result<void>&) {});
    if (std::exchange(troubled_, false)) trouble_(nullptr);
}

void Autosave::restart(const fs::path& file, Edit since) {
    forget();
    keep(file, std::move(since));
}

void Autosave::takeOver(const Unsaved& older) {
    forget();
    copy_ = std::make_shared<Copy>(older);
    scribe().run([copy = copy_, older] { return copy->adopt(older); }, &here_,
                 [this](const Result<void>& adopted) {
                     if (!adopted) trouble_(&adopted.error());
                 });
}

void Autosave::wait() {
    scribe().wait();
    syncer().wait();
}

LeftBehind Autosave::left_behind() {
    LeftBehind found;
    std::vector<fs::path> copies;
    std::error_code code;
    for (fs::directory_iterator at(unsaved_folder(), code), end; !code && at != end; at.increment(code))
        if (at->path().extension() == ".kept" || at->path().extension() == ".json")
            copies.push_back(at->path());
    std::sort(copies.begin(), copies.end());
    for (const fs::path& copy : copies) {
        const auto lock = lock_on(copy);
        if (!lock) continue;  // another window still works on it
        auto text = read_file(copy, largest_kept);
        auto kept = text ? read_kept(text.value()) : Result<Kept>(text.error());
        if (!kept)
            found.damaged.push_back(set_aside(copy, kept.error().text()));
        else if (kept.value().lost.empty() && is_saved(kept.value()))
            fs::remove(copy, code);
        else
            found.work.push_back({copy, std::move(kept).value()});
    }
    return found;
}

void Autosave::discard(const Unsaved& unsaved) {
    std::error_code ignored;
    fs::remove(unsaved.copy, ignored);
}

}  // namespace elkit
