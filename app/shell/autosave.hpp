#pragma once
#include <QObject>
#include <QTimer>
#include <filesystem>
#include <functional>
#include <memory>
#include <string>
#include <vector>

#include "design/kept.hpp"
#include "formats/folders.hpp"
#include "quantity/result.hpp"

namespace elkit {

/// Work that a killed program left behind.
struct Unsaved {
    std::filesystem::path copy;  ///< in the state folder
    Kept kept;
};

/// A kept copy that cannot be read, moved out of the way.
struct SetAside {
    std::filesystem::path file;
    std::string reason;
};

struct LeftBehind {
    std::vector<Unsaved> work;
    std::vector<SetAside> damaged;
};

/// Keeps each edit in the user's state folder from when it is made until it is saved or given up. Writes at
/// once, on a thread that does nothing else, however busy the others are; waits for the disk on another.
class Autosave {
  public:
    /// `trouble` is told why an edit cannot be kept, and nothing once all of them are.
    explicit Autosave(std::function<void(const Error*)> trouble);
    Autosave(const Autosave&) = delete;
    Autosave& operator=(const Autosave&) = delete;

    struct Edit {
        std::shared_ptr<const Design> before, after;
        std::string what;
        Move move = Move::edit;
    };
    /// An edit of the design whose file is `file`, which may be empty.
    void keep(const std::filesystem::path& file, Edit edit);
    void forget();  ///< the work is saved or given up
    /// The design was saved as `file` while it was edited on: what is unsaved is the edit since.
    void restart(const std::filesystem::path& file, Edit since);
    /// Goes on in that copy, which is open now.
    void takeOver(const Unsaved& older);
    static void wait();  ///< until all is on disk, and told

    /// Copies whose program no longer runs and that differ from their file. What cannot be read is set aside.
    static LeftBehind left_behind();
    static void discard(const Unsaved& unsaved);

  private:
    class Copy;
    void write();
    void told(const Result<void>& kept);
    QObject here_;
    QTimer again_;  ///< runs while there is trouble
    std::function<void(const Error*)> trouble_;
    bool troubled_ = false;
    std::shared_ptr<Copy> copy_;  ///< of this session; nothing while there is nothing unsaved
};

}  // namespace elkit
