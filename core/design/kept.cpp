#include "design/kept.hpp"

#include <fmt/format.h>

#include <boost/crc.hpp>
#include <charconv>

#include "design/delta.hpp"
#include "design/file.hpp"
#include "quantity/plain_text.hpp"

namespace elkit {
namespace {

constexpr std::string_view magic = "elkit kept 1\n";
// kinds of records
constexpr char file_record = 'F', design_record = 'D';
constexpr char edit_record = 'E', undo_record = 'U', redo_record = 'R';

std::uint32_t checksum(char kind, std::string_view text) {
    boost::crc_32_type crc;
    crc.process_byte(static_cast<unsigned char>(kind));
    crc.process_bytes(text.data(), text.size());
    return crc.checksum();
}

struct Record {
    char kind = 0;  ///< 0: it goes beyond the end, as when writing it was cut off
    std::string_view text;
};

/// The record at `at`, which moves behind it; what is wrong with it otherwise.
Result<Record> next_record(std::string_view all, std::size_t& at) {
    const auto wrong = [&](std::string found) {
        return Error{Fault::design, fmt::format("byte {}", at), std::move(found), "a record"};
    };
    const std::string_view rest = all.substr(at);
    const auto end = rest.find('\n');
    constexpr std::size_t longest_line = 40;
    if (end == std::string_view::npos && rest.size() < longest_line) return Record{};
    if (end == std::string_view::npos || end < 12 || end > longest_line)
        return wrong("no record stands here");
    const char *first = rest.data(), *line_end = first + end;
    std::uint32_t crc = 0;
    std::size_t size = 0;
    const auto sum = std::from_chars(first + 2, first + 10, crc, 16);
    const auto length = std::from_chars(first + 11, line_end, size);
    if (sum.ptr != first + 10 || length.ec != std::errc{} || length.ptr != line_end)
        return wrong("no record stands here");
    if (size >= rest.size() - end - 1) return Record{};
    const Record r{rest[0], rest.substr(end + 1, size)};
    if (checksum(r.kind, r.text) != crc) return wrong("the record is damaged");
    at += end + 1 + size + 1;
    return r;
}

/// Follows the records from the head on.
struct Replay {
    Kept kept;

    Result<void> apply(const Record& r) {
        if (r.kind != edit_record && r.kind != undo_record && r.kind != redo_record)
            return Error{Fault::design, "record", "is of an unknown kind", "an edit"};
        const auto end = r.text.find('\n');
        if (end == std::string_view::npos)
            return Error{Fault::design, "record", "has no name", "an edit with its name"};
        auto delta = read_delta(r.text.substr(end + 1));
        if (!delta) return delta.error();
        auto after = with_delta(*kept.last, delta.value());
        if (!after) return after.error();
        step(one_line(r.text.substr(0, end)), std::make_shared<Design>(std::move(after).value()), r.kind);
        return success();
    }

  private:
    void step(std::string what, const std::shared_ptr<const Design>& after, char kind) {
        auto& history = kept.history;
        const auto before = std::exchange(kept.last, after);
        if (kind == undo_record && kept.done > 0 && *history[kept.done - 1].before == *after) {
            --kept.done;
        } else if (kind == redo_record && kept.done < history.size() && *history[kept.done].after == *after) {
            ++kept.done;
        } else {
            history.resize(kept.done);
            if (history.size() == longest_history) history.erase(history.begin());
            history.push_back({std::move(what), before, after});
            kept.done = history.size();
        }
    }
};

}  // namespace

std::string kept_record(char kind, std::string_view text) {
    return fmt::format("{} {:08x} {}\n{}\n", kind, checksum(kind, text), text.size(), text);
}

std::string kept_head(const std::filesystem::path& file, const Design& before) {
    return std::string(magic) + kept_record(file_record, file.native()) +
           kept_record(design_record, write_design(before));
}

std::string kept_edit(const Design& before, const Design& after, std::string_view what, Move move) {
    const char kind = move == Move::undo ? undo_record : move == Move::redo ? redo_record : edit_record;
    return kept_record(kind, one_line(what) + "\n" + write_delta(delta_between(before, after)));
}

Result<Kept> read_kept(std::string_view text) {
    if (!text.starts_with(magic))
        return Error{Fault::design, "byte 0", "this is no kept copy", "a copy of unsaved work"};
    std::size_t at = magic.size();
    auto file = next_record(text, at);
    if (!file) return file.error();
    auto first = next_record(text, at);
    if (!first) return first.error();
    if (file.value().kind != file_record || first.value().kind != design_record)
        return Error{Fault::design, fmt::format("byte {}", magic.size()), "the head is damaged",
                     "a file's name and a design"};
    auto design = read_design(first.value().text);
    if (!design) return design.error();
    Replay replay;
    replay.kept.file = std::string(file.value().text);
    replay.kept.first = replay.kept.last = std::make_shared<Design>(std::move(design).value());
    for (replay.kept.good = at; at < text.size(); replay.kept.good = at) {
        auto next = next_record(text, at);
        if (next && !next.value().kind) break;
        auto done = next ? replay.apply(next.value()) : Result<void>(next.error());
        if (!done) {
            replay.kept.lost = done.error().text();
            break;
        }
    }
    // each step was read by itself: that they make a design together is seen only here
    if (auto whole = check_writable(*replay.kept.last); !whole) return whole.error();
    return std::move(replay.kept);
}

}  // namespace elkit
