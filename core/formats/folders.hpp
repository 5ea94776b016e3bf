#pragma once
#include <filesystem>

namespace elkit {

/// $XDG_STATE_HOME/elkit, or ~/.local/state/elkit: what has not been saved.
std::filesystem::path state_folder();
/// $XDG_DATA_HOME/elkit, or ~/.local/share/elkit: the drawer and the user's own parts.
std::filesystem::path data_folder();

}  // namespace elkit
