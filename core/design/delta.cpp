#include "design/delta.hpp"

#include <algorithm>
#include <nlohmann/json.hpp>
#include <tuple>

#include "design/file.hpp"
#include "design/json_reader.hpp"
#include "design/json_text.hpp"

namespace elkit {
namespace {
using Json = nlohmann::ordered_json;

/// All of a design but its parts; bound by name, so that a new member cannot be forgotten here.
auto frame_members(const Design& d) {
    const auto& [version, name, brief, blocks, circuit, board, batch, face, situations, use, records, trials,
                 decisions, extra] = d;
    return std::tie(version, name, brief, blocks, circuit.extra, board, batch, face, situations, use, records,
                    trials, decisions, extra);
}

Design frame_of(const Design& d) {
    Design frame;
    auto& [version, name, brief, blocks, circuit, board, batch, face, situations, use, records, trials,
           decisions, extra] = frame;
    std::tie(version, name, brief, blocks, circuit.extra, board, batch, face, situations, use, records,
             trials, decisions, extra) = frame_members(d);
    return frame;
}

/// The new content as a design of its own: what changed and nothing else.
Design content_of(const DesignDelta& delta) {
    Design content = delta.frame ? *delta.frame : Design{};
    content.circuit.parts = delta.inserted;
    return content;
}

Result<void> reads_back(const Design& content) {
    auto read = read_design(write_design(content));
    if (!read) return read.error();
    if (!(read.value() == content))
        return Error{Fault::design, "design", "the change cannot be written to a file", "finite numbers"};
    return success();
}

}  // namespace

DesignDelta delta_between(const Design& before, const Design& after) {
    DesignDelta delta;
    const auto &a = before.circuit.parts, &b = after.circuit.parts;
    const auto first = std::mismatch(a.begin(), a.end(), b.begin(), b.end());
    const auto most = std::min(a.end() - first.first, b.end() - first.second);
    const auto last = std::mismatch(a.rbegin(), a.rbegin() + most, b.rbegin());
    delta.at = static_cast<std::size_t>(first.first - a.begin());
    delta.removed = static_cast<std::size_t>(last.first.base() - first.first);
    delta.inserted.assign(first.second, last.second.base());
    if (frame_members(before) != frame_members(after)) delta.frame = frame_of(after);
    return delta;
}

Result<Design> with_delta(Design before, const DesignDelta& delta) {
    std::vector<Part> parts = std::move(before.circuit.parts);
    if (delta.at > parts.size() || delta.removed > parts.size() - delta.at)
        return Error{Fault::design, "step", "changes parts that are not there", "a change of this design"};
    const auto at = parts.begin() + static_cast<std::ptrdiff_t>(delta.at);
    const auto same = std::min(delta.removed, delta.inserted.size());
    std::copy_n(delta.inserted.begin(), same, at);
    const auto behind = at + static_cast<std::ptrdiff_t>(same);
    if (delta.removed > same)
        parts.erase(behind, at + static_cast<std::ptrdiff_t>(delta.removed));
    else
        parts.insert(behind, delta.inserted.begin() + static_cast<std::ptrdiff_t>(same),
                     delta.inserted.end());
    if (delta.frame) before = *delta.frame;
    before.circuit.parts = std::move(parts);
    return before;
}

Result<void> check_writable(const DesignDelta& delta) { return reads_back(content_of(delta)); }
Result<void> check_writable(const Design& design) { return reads_back(design); }

std::string write_delta(const DesignDelta& delta) {
    Json j{{"at", delta.at}, {"removed", delta.removed}, {"frame", delta.frame.has_value()}};
    return j.dump() + "\n" + write_design(content_of(delta));
}

Result<DesignDelta> read_delta(std::string_view text) {
    const auto end = text.find('\n');
    auto head = parse_json(text.substr(0, end), "the head of a change");
    if (!head) return head.error();
    std::vector<Error> errors;
    JsonReader r(head.value(), "", errors);
    DesignDelta delta;
    constexpr double most = 1e9;
    for (const char* key : {"at", "removed", "frame"}) r.require(key, "the place of a change");
    const double at = r.number("at", 0, 0, most), removed = r.number("removed", 0, 0, most);
    const bool frame = r.boolean("frame", false);
    if (!errors.empty()) return errors.front();
    delta.at = static_cast<std::size_t>(at), delta.removed = static_cast<std::size_t>(removed);
    auto content = read_design(end == std::string_view::npos ? "" : text.substr(end + 1));
    if (!content) return content.error();
    delta.inserted = std::move(content.value().circuit.parts);
    if (frame) delta.frame = frame_of(content.value());
    return delta;
}

}  // namespace elkit
