#pragma once
#include <QObject>
#include <QTimer>
#include <filesystem>
#include <functional>
#include <memory>
#include <vector>

#include "design/design.hpp"
#include "quantity/result.hpp"

namespace elkit {

/// Work that a killed program left behind.
struct Unsaved {
    std::filesystem::path file;      ///< in the state folder
    std::filesystem::path original;  ///< the design's own file; empty if it had none
    Design design;
};

/// Keeps a copy of unsaved work in the user's state folder until it is saved or discarded. Writes on the
/// keeper's thread.
class Autosave {
  public:
    /// `failed` is told why no copy can be kept, once until one can be again.
    explicit Autosave(std::function<void(const Error&)> failed);
    Autosave(const Autosave&) = delete;
    Autosave& operator=(const Autosave&) = delete;

    /// To be written within half a second.
    void keep(std::shared_ptr<const Design> design, const std::filesystem::path& original);
    void flush();                         ///< begins to write now what waits
    void forget();                        ///< the work is saved or given up
    void takeOver(const Unsaved& older);  ///< removes that copy once this one is written

    /// Copies whose program no longer runs.
    static std::vector<Unsaved> left_behind();
    static void discard(const Unsaved& unsaved);

  private:
    struct Copy;
    QTimer timer_;
    QObject here_;
    std::function<void(const Error&)> failed_;
    bool waits_ = false;  ///< something to write
    bool told_ = false;   ///< of the trouble
    std::filesystem::path original_;
    std::shared_ptr<const Design> design_;
    std::shared_ptr<Copy> copy_;  ///< of this session; nothing while there is nothing unsaved
};

/// $XDG_STATE_HOME/elkit, or ~/.local/state/elkit.
std::filesystem::path state_folder();
/// $XDG_DATA_HOME/elkit, or ~/.local/share/elkit.
std::filesystem::path data_folder();

}  // namespace elkit
