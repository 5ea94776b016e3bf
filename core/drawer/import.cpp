#include "drawer/import.hpp"

#include <fmt/format.h>

#include <algorithm>
#include <array>
#include <cmath>
#include <map>
#include <sstream>
#include <unordered_map>

#include "circuit/part_kind.hpp"
#include "circuit/part_words.hpp"
#include "drawer/identity.hpp"
#include "embedded.hpp"
#include "quantity/parse.hpp"
#include "quantity/plain_text.hpp"
#include "words/described_part.hpp"

namespace elkit {
namespace {

constexpr std::size_t rows_between_reports = 256, most_words = 12;

/// Kinds and colours of a German-speaking bench, whose spreadsheets write decimal commas.
constexpr std::array<std::pair<std::string_view, std::string_view>, 24> german{{{"widerstand", "resistor"},
                                                                                {"widerstände", "resistor"},
                                                                                {"kondensator", "capacitor"},
                                                                                {"elko", "electrolytic"},
                                                                                {"leuchtdiode", "led"},
                                                                                {"taster", "button"},
                                                                                {"schalter", "switch"},
                                                                                {"poti", "potentiometer"},
                                                                                {"spule", "inductor"},
                                                                                {"drossel", "inductor"},
                                                                                {"sicherung", "fuse"},
                                                                                {"zelle", "cell"},
                                                                                {"batterie", "cell"},
                                                                                {"knopfzelle", "coin cell"},
                                                                                {"heißleiter", "thermistor"},
                                                                                {"fotowiderstand", "ldr"},
                                                                                {"rot", "red"},
                                                                                {"grün", "green"},
                                                                                {"gelb", "yellow"},
                                                                                {"blau", "blue"},
                                                                                {"weiß", "white"},
                                                                                {"weiss", "white"},
                                                                                {"summer", "buzzer"},
                                                                                {"relais", "relay"}}};

std::vector<std::string> words_in(const std::string& text) {
    std::vector<std::string> out;
    std::istringstream in(text);
    for (std::string word; in >> word && out.size() < most_words;) {
        const std::string small = lower_case(word);
        const auto* translated =
            std::find_if(german.begin(), german.end(), [&](const auto& pair) { return pair.first == small; });
        out.push_back(translated != german.end() ? std::string(translated->second) : word);
    }
    return out;
}

std::string joined(const std::vector<std::string>& words, std::size_t without = most_words) {
    std::string out;
    for (std::size_t k = 0; k < words.size(); ++k)
        if (k != without) out += (out.empty() ? "" : " ") + words[k];
    return out;
}

std::optional<Part> kind_in(const std::string& words) {
    const auto read = described_kind(words);
    return read ? read.value() : std::nullopt;
}

/// The part that the words mean; words that say nothing to the catalogue ("metal film") are passed over.
std::optional<Part> understood(std::vector<std::string> words) {
    while (!words.empty()) {
        if (auto part = kind_in(joined(words))) return part;
        for (std::size_t k = words.size(); k-- > 0;)
            if (auto part = kind_in(joined(words, k)); part && words.size() > 1) return part;
        const auto idle = std::find_if(words.rbegin(), words.rend(), [](const std::string& word) {
            return !std::isdigit(static_cast<unsigned char>(word.front())) && !kind_in(word);
        });
        if (idle == words.rend()) return std::nullopt;
        words.erase(std::next(idle).base());
    }
    return std::nullopt;
}

/// Reads the rows of a sheet as items, one after another.
class Importer {
  public:
    Importer(const DrawerSheet& sheet, const std::vector<DrawerItem>& known, ImportCounts counts)
        : sheet_(sheet), known_(known), counts_(counts) {}

    ImportedRow read(std::size_t at) {
        ImportedRow row;
        row.line = at + 1 + (sheet_.headings ? 1 : 0);
        cells_ = &sheet_.rows[at];
        auto named = identify();
        if (!named) return left_out(std::move(row), named.error());
        row.item = std::move(named).value();
        const DrawerItem* present = nullptr;
        const auto read_before = now_.find(row.item.key);
        if (read_before != now_.end())
            present = &read_before->second;
        else
            present = find_item(known_, row.item.key);
        DrawerItem next = present ? *present : row.item;
        if (present && named_) next.name = row.item.name;
        if (auto taken = take_numbers(next, read_before != now_.end()); !taken)
            return left_out(std::move(row), taken.error());
        take_texts(next);
        if (auto sound = check(next); !sound) return left_out(std::move(row), sound.error().text());
        using Effect = ImportedRow::Effect;
        row.effect = !present ? Effect::fresh : next == *present ? Effect::same : Effect::changed;
        if (read_before != now_.end()) told_ = "counted together with a row above";
        row.item = next, row.told = std::move(told_);
        told_.clear();
        now_[row.item.key] = std::move(next);
        return row;
    }

  private:
    template <class T>
    using Or = BOOST_OUTCOME_V2_NAMESPACE::checked<T, std::string>;

    static ImportedRow left_out(ImportedRow row, std::string why) {
        row.effect = ImportedRow::Effect::left_out, row.told = std::move(why);
        return row;
    }

    std::string text(ItemColumn column) const {
        for (std::size_t c = 0; c < cells_->size() && c < sheet_.columns.size(); ++c)
            if (sheet_.columns[c] == column) return (*cells_)[c];
        return "";
    }

    /// Key and name of what the row tells of.
    Or<DrawerItem> identify() {
        named_ = false;
        const std::string key = text(ItemColumn::key), name = text(ItemColumn::name);
        if (!key.empty() && (key.find('/') != std::string::npos || find_item(known_, key))) {
            const auto part = part_of_key(key);
            named_ = !name.empty();
            return DrawerItem{key, !name.empty() ? name : part ? shop_name(*part) : key};
        }
        const std::string kind = text(ItemColumn::kind), value = text(ItemColumn::value);
        if (kind.empty() && name.empty() && value.empty()) return std::string("it names no part");
        const std::string asked = kind + '\n' + name + '\n' + value + '\n' + text(ItemColumn::tolerance) +
                                  '\n' + text(ItemColumn::rating);
        const auto before = described_.find(asked);
        Or<DrawerItem> found = before != described_.end()
                                   ? before->second
                                   : described_.emplace(asked, describe_row()).first->second;
        if (!found) return found;
        DrawerItem item = found.value();
        if (item.key.starts_with("own/")) told_ = "no kind of part that Elkit knows: taken by its name";
        // "resistor" beside a value is no name of the part, but its kind
        named_ = !name.empty() && (value.empty() || !kind.empty());
        if (named_) item.name = name;
        return item;
    }

    Or<DrawerItem> describe_row() const {
        const std::string kind = text(ItemColumn::kind), name = text(ItemColumn::name),
                          value = text(ItemColumn::value);
        const bool counts = !value.empty() && std::isdigit(static_cast<unsigned char>(value.front())) &&
                            value.find(' ') == std::string::npos;  // "100µ 16V" says more than a value
        std::optional<Part> part;
        if (!kind.empty()) part = understood(words_in(kind + (counts ? "" : " " + value)));
        if (!part) part = understood(words_in(kind + " " + name + " " + value));
        if (!part && !name.empty()) part = understood(words_in(name));
        if (!part) {
            const std::string words = !name.empty() ? name : joined(words_in(kind + " " + value));
            return DrawerItem{own_key(words), words};
        }
        if (counts)
            if (std::string trouble = set_value(*part, value); !trouble.empty()) return trouble;
        set_fraction(*part, text(ItemColumn::tolerance));
        set_rating(*part, text(ItemColumn::rating));
        return DrawerItem{drawer_key(*part), shop_name(*part)};
    }

    static std::string set_value(Part& part, const std::string& value) {
        const PartKind& kind = *part_kind(part.kind);
        const ParamInfo* info = kind.param(kind.value_key);
        if (!info || !std::holds_alternative<double>(info->standard)) return "";  // its type says it
        const auto read = parse_said(value, info->unit);
        if (!read) return read.error().text();
        if (!(read.value() >= info->low && read.value() <= info->high))
            return fmt::format("\"{}\" is no {} of this kind", one_line(value, 40), info->label);
        part.params[info->key] = read.value();
        return "";
    }

    static void set_fraction(Part& part, const std::string& text) {
        const ParamInfo* info = part_kind(part.kind)->param("tolerance");
        const auto read = loose_number(text, true);
        if (!info || !read) return;
        const double fraction = *read > 0.5 || text.find('%') != std::string::npos ? *read / 100 : *read;
        if (fraction >= info->low && fraction <= info->high) part.params["tolerance"] = fraction;
    }

    static void set_rating(Part& part, const std::string& text) {
        const ParamInfo* info = part_kind(part.kind)->param("rating");
        if (!info || text.empty()) return;
        const auto read = parse_quantity(text, info->unit);
        if (read && read.value() >= info->low && read.value() <= info->high)
            part.params["rating"] = read.value();
    }

    Or<bool> take_numbers(DrawerItem& item, bool together) const {
        const struct {
            ItemColumn column;
            double* to;
        } numbers[] = {{ItemColumn::stock, &item.stock},
                       {ItemColumn::pack, &item.pack},
                       {ItemColumn::price, &item.price},
                       {ItemColumn::unit_price, &item.price},
                       {ItemColumn::least, &item.least}};
        for (const auto& [column, to] : numbers) {
            const std::string cell = text(column);
            if (cell.empty() || cell == "-" || cell == "–" || cell == "?") continue;
            const auto number = loose_number(cell, sheet_.decimal_commas);
            if (!number)
                return fmt::format("{}: \"{}\" is no number", heading_of(column), one_line(cell, 40));
            const bool adds = column == ItemColumn::stock && (together || counts_ == ImportCounts::add);
            *to = *number * (column == ItemColumn::unit_price ? item.pack : 1) + (adds ? *to : 0);
        }
        return true;
    }

    void take_texts(DrawerItem& item) const {
        const struct {
            ItemColumn column;
            std::string* to;
        } texts[] = {{ItemColumn::package, &item.package}, {ItemColumn::place, &item.place},
                     {ItemColumn::note, &item.note},       {ItemColumn::supplier, &item.supplier},
                     {ItemColumn::photo, &item.photo},     {ItemColumn::counted, &item.counted}};
        for (const auto& [column, to] : texts)
            if (std::string cell = text(column); !cell.empty()) *to = std::move(cell);
    }

    const DrawerSheet& sheet_;
    const std::vector<DrawerItem>& known_;
    ImportCounts counts_;
    const std::vector<std::string>* cells_ = nullptr;
    std::string told_;
    bool named_ = false;                                         ///< the row gives the part a name of its own
    std::unordered_map<std::string, DrawerItem> now_;            ///< as the rows so far make them
    std::unordered_map<std::string, Or<DrawerItem>> described_;  ///< by the words of a row
};

}  // namespace

std::vector<DrawerChange> ImportPlan::changes() const {
    std::map<std::string_view, const DrawerItem*> last;
    for (const ImportedRow& row : rows)
        if (row.effect == ImportedRow::Effect::fresh || row.effect == ImportedRow::Effect::changed)
            last[row.item.key] = &row.item;
    std::vector<DrawerChange> out;
    for (const auto& [key, item] : last) out.push_back({item->key, *item});
    return out;
}

ImportPlan plan_import(const DrawerSheet& sheet, const std::vector<DrawerItem>& known, ImportCounts counts,
                       const Progress& progress) {
    ImportPlan plan;
    Importer importer(sheet, known, counts);
    for (std::size_t r = 0; r < sheet.rows.size(); ++r) {
        if (progress && r % rows_between_reports == 0 &&
            !progress("reading rows", static_cast<double>(r) / static_cast<double>(sheet.rows.size())))
            break;
        const auto& cells = sheet.rows[r];
        if (std::all_of(cells.begin(), cells.end(), [](const std::string& cell) { return cell.empty(); }))
            continue;
        plan.rows.push_back(importer.read(r));
        using Effect = ImportedRow::Effect;
        const Effect effect = plan.rows.back().effect;
        ++(effect == Effect::fresh     ? plan.fresh
           : effect == Effect::changed ? plan.changed
           : effect == Effect::same    ? plan.same
                                       : plan.left_out);
    }
    return plan;
}

DrawerItem described_item(const std::string& words) {
    const auto part = understood(words_in(words));
    return part ? DrawerItem{drawer_key(*part), shop_name(*part)}
                : DrawerItem{own_key(words), cleaned_text(words, 100)};
}

std::vector<DrawerItem> demo_stock() {
    const auto sheet = read_drawer_sheet(embedded::demo_stock);
    if (!sheet) return {};
    return with_changes({}, plan_import(sheet.value(), {}, ImportCounts::set).changes());
}

}  // namespace elkit
