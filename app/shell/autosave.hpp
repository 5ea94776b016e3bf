#pragma once
#include <QString>
#include <QTimer>
#include <filesystem>
#include <memory>
#include <vector>

#include "design/design.hpp"

class QLockFile;

namespace elkit {

/// Work that a killed program left behind.
struct Unsaved {
    std::filesystem::path file;      ///< in the state folder
    std::filesystem::path original;  ///< the design's own file; empty if it had none
    Design design;
};

/// Keeps a copy of unsaved work in the user's state folder until it is saved or discarded.
class Autosave {
  public:
    Autosave();
    ~Autosave();
    Autosave(const Autosave&) = delete;
    Autosave& operator=(const Autosave&) = delete;

    void keep(const Design& design, const std::filesystem::path& original);  ///< written within half a second
    void flush();                                                            ///< written now
    void forget();  ///< the work is saved or given up

    /// Copies whose program no longer runs.
    static std::vector<Unsaved> left_behind();
    static void discard(const Unsaved& unsaved);

  private:
    QTimer timer_;
    std::filesystem::path file_, original_;
    Design design_;
    std::unique_ptr<QLockFile> lock_;
};

/// $XDG_STATE_HOME/elkit, or ~/.local/state/elkit.
std::filesystem::path state_folder();
/// $XDG_DATA_HOME/elkit, or ~/.local/share/elkit.
std::filesystem::path data_folder();

}  // namespace elkit
