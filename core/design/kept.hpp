#pragma once
#include <filesystem>
#include <memory>
#include <string>
#include <string_view>
#include <vector>

#include "design/design.hpp"
#include "quantity/result.hpp"

/// The kept copy of unsaved work: a text to which each edit is appended as it is made, so that keeping an
/// edit costs as much as the edit is large, not the design. Records one after another, each with its length
/// and its CRC-32 (ISO 3309); what a kill or a full disk left half written at the end is not read.
namespace elkit {

/// How the design came to be another one.
enum class Move { edit, undo, redo };

/// The head of a kept copy: the file that the design belongs to (may be empty), and the design as it was
/// before the first edit.
std::string kept_head(const std::filesystem::path& file, const Design& before);
/// An edit to be appended.
std::string kept_edit(const Design& before, const Design& after, std::string_view what, Move move);

/// A record of this kind and content, sealed with its length and checksum.
std::string kept_record(char kind, std::string_view text);

/// One undoable step of the history.
struct KeptStep {
    std::string what;
    std::shared_ptr<const Design> before, after;
};

struct Kept {
    std::filesystem::path file;           ///< the design's own file; may be empty
    std::shared_ptr<const Design> first;  ///< as it was before the first edit
    std::shared_ptr<const Design> last;   ///< with every edit that could be read
    std::vector<KeptStep> history;        ///< the latest `longest_history` at most
    std::size_t done = 0;                 ///< so many of them are done, the others undone
    std::size_t good = 0;                 ///< bytes that were read
    std::string lost;                     ///< what is damaged before its end; empty if nothing is
};

inline constexpr std::size_t longest_history = 100;
/// Largest kept copy that is read [bytes].
inline constexpr std::uintmax_t largest_kept = 64u << 20;

/// Reads a kept copy. Design error if not even its head can be read, or if the design that comes out of it is
/// none.
Result<Kept> read_kept(std::string_view text);

}  // namespace elkit
