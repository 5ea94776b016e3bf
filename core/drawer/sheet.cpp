#include "drawer/sheet.hpp"

#include <fmt/format.h>

#include <algorithm>
#include <array>
#include <charconv>

#include "drawer/identity.hpp"
#include "quantity/format.hpp"
#include "quantity/plain_text.hpp"

namespace elkit {
namespace {

constexpr std::size_t most_rows = 1000000, most_columns = 200, looked_at = 60;

constexpr std::array<std::string_view, item_columns> headings{
    "–",     "key",  "kind",  "name",       "value", "tolerance", "rating",   "package", "stock",
    "place", "pack", "price", "price each", "least", "note",      "supplier", "photo",   "counted"};

/// What else people write above a column, in small letters; those with a * may go on.
struct Naming {
    ItemColumn column;
    std::string_view words;  ///< separated by spaces
};
constexpr Naming namings[] = {
    {ItemColumn::key, "key id schlüssel"},
    {ItemColumn::kind, "kind type category art typ kategorie sort class"},
    {ItemColumn::name, "name part item description title bauteil bezeichnung beschreibung component artikel"},
    {ItemColumn::value, "value wert values resistance capacitance"},
    {ItemColumn::tolerance, "tolerance tol toleranz"},
    {ItemColumn::rating, "rating power watt watts voltage belastbarkeit leistung spannung"},
    {ItemColumn::package, "package case footprint bauform gehäuse size"},
    {ItemColumn::stock,
     "stock qty quantity count pieces pcs amount anzahl menge bestand stück stk have number total inventory"},
    {ItemColumn::place,
     "place location bin box drawer shelf ort fach lager lagerort platz schublade kiste where"},
    {ItemColumn::pack, "pack packsize packung packungsgröße vpe moq"},
    {ItemColumn::price, "price cost preis kosten"},
    {ItemColumn::unit_price, "each stückpreis einzelpreis"},
    {ItemColumn::least, "least minimum min low reorder mindestbestand mindest"},
    {ItemColumn::note, "note notes remark remarks comment comments bemerkung notiz kommentar words own"},
    {ItemColumn::supplier, "supplier shop vendor source order lieferant bestellnummer händler"},
    {ItemColumn::photo, "photo picture image foto bild"},
    {ItemColumn::counted, "counted date gezählt datum"}};

/// The words of a heading in small letters: "Qty. (pcs)" → "qty", "pcs".
std::vector<std::string> words_of(std::string_view heading) {
    std::vector<std::string> out(1);
    for (const char c : lower_case(heading)) {
        const auto u = static_cast<unsigned char>(c);
        if (std::isalnum(u) || u >= 0x80)
            out.back() += c;
        else if (!out.back().empty())
            out.emplace_back();
    }
    if (out.back().empty()) out.pop_back();
    return out;
}

bool has_word(std::string_view words, const std::string& word) {
    for (std::size_t at = words.find(word); at != std::string_view::npos; at = words.find(word, at + 1)) {
        const auto end = at + word.size();
        if ((at == 0 || words[at - 1] == ' ') && (end == words.size() || words[end] == ' ')) return true;
    }
    return false;
}

ItemColumn column_named(std::string_view heading) {
    const std::vector<std::string> words = words_of(heading);
    const auto says = [&](const char* word) {
        return std::find(words.begin(), words.end(), word) != words.end();
    };
    if ((says("price") || says("cost")) && (says("unit") || says("each") || says("piece")))
        return ItemColumn::unit_price;
    if (says("price") && says("pack")) return ItemColumn::price;
    for (const std::string& word : words)  // the first word that says something
        for (const Naming& naming : namings)
            if (has_word(naming.words, word)) return naming.column;
    return ItemColumn::none;
}

std::string from_latin_1(std::string_view bytes) {
    std::string out;
    for (const char c : bytes) append_character(out, static_cast<unsigned char>(c));
    return out;
}

std::string from_utf_16(std::string_view bytes, bool big) {
    std::string out;
    const auto unit = [&](std::size_t at) {
        const auto a = static_cast<unsigned char>(bytes[at]), b = static_cast<unsigned char>(bytes[at + 1]);
        return static_cast<char32_t>(big ? a << 8 | b : b << 8 | a);
    };
    for (std::size_t at = 2; at + 1 < bytes.size(); at += 2) {
        char32_t c = unit(at);
        if (c >= 0xD800 && c < 0xDC00 && at + 3 < bytes.size())
            at += 2, c = 0x10000 + ((c - 0xD800) << 10) + (unit(at) - 0xDC00);
        append_character(out, c);
    }
    return out;
}

bool is_utf_8(std::string_view bytes) {
    for (std::size_t at = 0; at < bytes.size();) {
        const std::size_t from = at;
        if (next_character(bytes, at) == 0xFFFD && bytes.substr(from, 3) != "\xEF\xBF\xBD") return false;
    }
    return true;
}

std::string as_utf_8(std::string_view bytes) {
    if (bytes.starts_with("\xFF\xFE") || bytes.starts_with("\xFE\xFF"))
        return from_utf_16(bytes, bytes.starts_with("\xFE\xFF"));
    if (bytes.starts_with("\xEF\xBB\xBF")) bytes.remove_prefix(3);
    return is_utf_8(bytes) ? std::string(bytes) : from_latin_1(bytes);
}

bool is_decimal_comma(std::string_view cell) {
    const auto comma = cell.find(',');
    if (comma == std::string_view::npos || comma == 0 || cell.find(',', comma + 1) != std::string_view::npos)
        return false;
    std::size_t behind = 0;
    while (comma + 1 + behind < cell.size() &&
           std::isdigit(static_cast<unsigned char>(cell[comma + 1 + behind])))
        ++behind;
    return std::isdigit(static_cast<unsigned char>(cell[comma - 1])) && behind > 0 && behind != 3;
}

std::string trimmed(std::string_view text) { return cleaned_text(text, 1000); }

/// What a column without a heading holds, by its first cells.
ItemColumn column_by_content(const CsvTable& rows, std::size_t column,
                             const std::vector<ItemColumn>& before) {
    std::size_t filled = 0, keys = 0, plain = 0, values = 0;
    for (std::size_t r = 0; r < std::min(rows.size(), looked_at); ++r) {
        if (column >= rows[r].size() || rows[r][column].empty()) continue;
        const std::string& cell = rows[r][column];
        const bool digit = std::isdigit(static_cast<unsigned char>(cell.front())) != 0;
        const bool number = digit && cell.find_first_not_of("0123456789.,") == std::string::npos;
        ++filled, plain += number, values += digit && !number && cell.find(' ') == std::string::npos;
        keys += part_of_key(cell) ? 1 : 0;
    }
    const auto has = [&](ItemColumn c) { return std::find(before.begin(), before.end(), c) != before.end(); };
    if (!filled) return ItemColumn::none;
    if (2 * keys > filled && !has(ItemColumn::key)) return ItemColumn::key;
    if (2 * plain > filled) return has(ItemColumn::stock) ? ItemColumn::none : ItemColumn::stock;
    if (2 * values > filled && !has(ItemColumn::value)) return ItemColumn::value;
    return has(ItemColumn::name) ? has(ItemColumn::place) ? ItemColumn::none : ItemColumn::place
                                 : ItemColumn::name;
}

}  // namespace

std::string_view heading_of(ItemColumn column) { return headings[static_cast<std::size_t>(column)]; }

std::string drawer_csv(const std::vector<DrawerItem>& items) {
    CsvTable table(1);
    for (std::size_t c = 1; c < item_columns; ++c)
        if (static_cast<ItemColumn>(c) != ItemColumn::unit_price) table[0].emplace_back(headings[c]);
    for (const DrawerItem& i : items) {
        const ItemWords words = words_of_key(i.key);
        table.push_back({i.key, words.kind, i.name, words.value, words.tolerance, words.rating, i.package,
                         format_plain(i.stock), i.place, format_plain(i.pack), format_plain(i.price),
                         format_plain(i.least), i.note, i.supplier, i.photo, i.counted});
    }
    return write_csv(table);
}

std::optional<double> loose_number(std::string_view cell, bool decimal_commas) {
    const auto from = cell.find_first_of("0123456789");
    if (from == std::string_view::npos) return std::nullopt;
    for (const char c : cell.substr(0, from))  // "~40", "€ 1,20", ".5" but not "box 3"
        if (std::isalpha(static_cast<unsigned char>(c))) return std::nullopt;
    if (cell.substr(0, from).find('-') != std::string_view::npos) return std::nullopt;
    std::string digits = from > 0 && cell[from - 1] == '.' ? "0." : "";
    for (const char c : cell.substr(from)) {
        if (std::isdigit(static_cast<unsigned char>(c)) || c == '.' || c == ',')
            digits += c;
        else if (c != '\'' && c != ' ')
            break;
    }
    while (!digits.empty() && !std::isdigit(static_cast<unsigned char>(digits.back()))) digits.pop_back();
    const auto dot = digits.rfind('.'), comma = digits.rfind(',');
    constexpr auto none = std::string::npos;
    const auto in_threes = [&](char mark) {
        const auto first = digits.find(mark);
        for (auto at = first; at != none; at = digits.find(mark, at + 1)) {
            const auto next = std::min(digits.find(mark, at + 1), digits.size());
            if (next - at != 4) return false;
        }
        return first != none && first <= 3 && first > 0;
    };
    char decimal = '.';
    if (dot != none && comma != none)
        decimal = dot > comma ? '.' : ',';
    else if (comma != none)
        decimal = decimal_commas || !in_threes(',') ? ',' : '.';
    else if (dot != none && decimal_commas && in_threes('.'))
        decimal = ',';
    std::string plain;
    for (const char c : digits)
        if (c == decimal)
            plain += '.';
        else if (c != '.' && c != ',')
            plain += c;
    double number = 0;
    const auto [end, code] = std::from_chars(plain.data(), plain.data() + plain.size(), number);
    if (code != std::errc{} || end != plain.data() + plain.size()) return std::nullopt;
    return number;
}

Result<DrawerSheet> read_drawer_sheet(std::string_view bytes) {
    const std::string text = as_utf_8(bytes);
    const char separator = separator_in(text);
    auto table = parse_csv(text, separator);
    if (!table) return table.error();
    DrawerSheet sheet;
    sheet.rows = std::move(table).value();
    if (sheet.rows.empty())
        return Error{Fault::usage, "table", "has no rows", "a row for each part, with its name and number"};
    if (sheet.rows.size() > most_rows)
        return Error{Fault::usage, "table", fmt::format("has {} rows", sheet.rows.size()),
                     fmt::format("at most {}", most_rows)};
    std::size_t width = 0;
    for (auto& row : sheet.rows) {
        for (std::string& cell : row) cell = trimmed(cell);
        width = std::max(width, row.size());
    }
    if (width > most_columns)
        return Error{Fault::usage, "table", fmt::format("has {} columns", width),
                     fmt::format("at most {}", most_columns)};
    const std::vector<std::string>& first = sheet.rows.front();
    const auto named = std::count_if(first.begin(), first.end(), [](const std::string& cell) {
        return column_named(cell) != ItemColumn::none;
    });
    const bool numbers = std::any_of(first.begin(), first.end(), [](const std::string& cell) {
        return !cell.empty() && cell.find_first_not_of("0123456789.,") == std::string::npos;
    });
    sheet.headings = named >= 2 || (named == 1 && !numbers);
    if (sheet.headings) {
        sheet.titles = first;
        sheet.rows.erase(sheet.rows.begin());
    }
    sheet.titles.resize(width);
    for (std::size_t c = 0; c < width; ++c) {
        ItemColumn meant =
            sheet.headings ? column_named(sheet.titles[c]) : column_by_content(sheet.rows, c, sheet.columns);
        if (std::find(sheet.columns.begin(), sheet.columns.end(), meant) != sheet.columns.end())
            meant = ItemColumn::none;
        sheet.columns.push_back(meant);
    }
    for (std::size_t r = 0; r < std::min(sheet.rows.size(), looked_at); ++r)
        for (const std::string& cell : sheet.rows[r])
            if (is_decimal_comma(cell)) sheet.decimal_commas = true;
    return sheet;
}

}  // namespace elkit
