#pragma once
#include <array>
#include <filesystem>
#include <string>
#include <string_view>

#include "design/design.hpp"
#include "quantity/result.hpp"

namespace elkit {

/// How LightTrial::Looked is written.
inline constexpr std::array<const char*, 3> looked_words{"dimmer", "same", "brighter"};

/// Reads a design from JSON text. Errors carry a line and column (broken JSON) or a JSON pointer (wrong
/// content).
Result<Design> read_design(std::string_view text);
/// Every error in the text, in order; empty if it reads.
std::vector<Error> design_errors(std::string_view text);

/// JSON text with stable key order and number formatting; reading it back gives an equal design.
std::string write_design(const Design& design);

/// Largest design file that is opened [bytes].
inline constexpr std::uintmax_t largest_file = 8u << 20;

/// Reads a whole file; file error for what is missing, unreadable, no plain file (folder, pipe, device), or
/// larger than `most` bytes. Never waits for a pipe.
Result<std::string> read_file(const std::filesystem::path& path, std::uintmax_t most = largest_file);
/// Writes through a temporary file in the same folder, synced and renamed: the old file or the new one, never
/// half. A link goes on naming its file, the file keeps its owner and permissions; what is no plain file, or
/// may not be written, is refused.
/// With Sync::later the disk is not waited for: sync_file() does that.
enum class Sync { now, later };
Result<void> write_file(const std::filesystem::path& path, std::string_view text, Sync sync = Sync::now);

/// Appends to a file of our own that holds `size` bytes, and syncs it; what stands there beyond `size`, such
/// as the half of an earlier try, is cut off first. File error if it holds less, or is a link.
Result<void> append_file(const std::filesystem::path& path, std::size_t size, std::string_view text);

/// Until what was written to the file is on the disk, and its name too.
Result<void> sync_file(const std::filesystem::path& path);

Result<Design> load_design(const std::filesystem::path& path);
Result<void> save_design(const Design& design, const std::filesystem::path& path);

/// The published JSON schema (data/schema): the frame of the file with one entry for each part kind.
std::string design_schema();
/// Errors of the text against the published schema (data/schema), as JSON pointers; empty if it conforms.
std::vector<Error> schema_errors(std::string_view text);

}  // namespace elkit
