#include "drawer/import.hpp"

#include <gtest/gtest.h>

#include <cmath>
#include <random>

namespace elkit {
namespace {

ImportPlan planned(std::string_view text, const std::vector<DrawerItem>& known = {},
                   ImportCounts counts = ImportCounts::set) {
    const auto sheet = read_drawer_sheet(text);
    EXPECT_TRUE(sheet) << sheet.error().text();
    return sheet ? plan_import(sheet.value(), known, counts) : ImportPlan{};
}

/// What the n-th row became, as "key: stock".
std::string row(const ImportPlan& plan, std::size_t n) {
    if (n >= plan.rows.size()) return "no such row";
    const ImportedRow& r = plan.rows[n];
    if (r.effect == ImportedRow::Effect::left_out) return "left out: " + r.told;
    return r.item.key + ": " + std::to_string(std::lround(r.item.stock));
}

TEST(Sheet, OwnExportReadsBackAsTheSame) {
    auto items = demo_stock();
    items[3].place = "box; 3, left", items[3].note = "say \"hello\"", items[3].counted = "2026-11-27";
    items[4].least = 12.5, items[4].supplier = "the corner", items[4].photo = "photos/four.png";
    const ImportPlan plan = planned(drawer_csv(items));
    EXPECT_EQ(plan.left_out, 0u);
    EXPECT_EQ(with_changes({}, plan.changes()), items);
    EXPECT_EQ(planned(drawer_csv(items), items).same, items.size()) << "nothing new";
}

TEST(Sheet, PeoplesSpreadsheets) {
    const ImportPlan plan = planned(
        "Bauteil;Wert;Toleranz;Anzahl;Fach;Preis\r\n"
        "Widerstand;4,7k;1 %;1.250;A 3;1,20 €\r\n"
        "Widerstand;4k7;;40 Stk;B 1;0,80\r\n"
        "Kondensator;100n;;12;;\r\n"
        "Elko;100µ;;7;;\r\n"
        ";;;;;\r\n"
        "Leuchtdiode rot 5mm;;;~60;C;\r\n"
        "Filzgleiter;;;200;D;\r\n");
    EXPECT_EQ(row(plan, 0), "resistor/4700/1%: 1250");
    EXPECT_NEAR(plan.rows.at(0).item.price, 1.2, 1e-12);
    EXPECT_EQ(plan.rows.at(0).item.place, "A 3");
    EXPECT_EQ(row(plan, 1), "resistor/4700: 40");
    EXPECT_EQ(row(plan, 2), "capacitor/1e-07: 12");
    EXPECT_EQ(row(plan, 3), "electrolytic/0.0001/16: 7");
    EXPECT_EQ(row(plan, 4), "led/red-5mm: 60");
    EXPECT_EQ(row(plan, 5), "own/filzgleiter: 200");
    EXPECT_EQ(plan.rows.at(5).item.name, "Filzgleiter");
    EXPECT_EQ(plan.rows.at(5).line, 8u) << "as an editor counts the lines";
}

TEST(Sheet, EnglishOnesWithRatingsAndWordsThatSayNothing) {
    const ImportPlan plan = planned(
        "Component,Qty,Location\n"
        "470R 1/2W metal film resistor,\"1,200\",bin 4\n"
        "\"resistor 2.2k, 0.1%\",9,\n"
        "BLUE LED 5mm diffused,52,\n"
        "coin cell CR2032,25,\n"
        "NPN transistor,30,\n"
        "slide switch,12,\n"
        "resistor 10k,lots,\n");
    EXPECT_EQ(row(plan, 0), "resistor/470/0.5W: 1200");
    EXPECT_EQ(row(plan, 1), "resistor/2200/0.1%: 9");
    EXPECT_EQ(row(plan, 2), "led/blue-5mm: 52");
    EXPECT_EQ(row(plan, 3), "cell/CR2032: 25");
    EXPECT_EQ(row(plan, 4).substr(0, 4), "npn/");
    EXPECT_EQ(row(plan, 5), "switch/slide: 12");
    EXPECT_EQ(row(plan, 6), "left out: stock: \"lots\" is no number");
}

TEST(Sheet, PricesOfOneAndOfAPack) {
    const std::vector<DrawerItem> known{{"resistor/330", "330 Ω", 10, 100, 5}};
    const ImportPlan plan = planned("Component,Value,Qty,Unit price\nresistor,330,40,0.02\n", known);
    EXPECT_NEAR(plan.rows.at(0).item.price, 2, 1e-12) << "100 in a pack";
    EXPECT_EQ(plan.rows.at(0).item.name, "330 Ω") << "its kind is no new name";
    const ImportPlan pack = planned("name,pack size,pack price\nresistor 330,50,1.5\n", known);
    EXPECT_EQ(pack.rows.at(0).item.price, 1.5);
    EXPECT_EQ(pack.rows.at(0).item.pack, 50);
    EXPECT_EQ(row(planned("part,value,qty\nelectrolytic,100µ 25V,5\n"), 0), "electrolytic/0.0001/25: 5");
}

TEST(Sheet, WithoutHeadingsAndInOtherBytes) {
    EXPECT_EQ(row(planned("4k7\tresistor\t12\n10k\tresistor\t3\n"), 1), "resistor/10000: 3");
    EXPECT_EQ(row(planned("name;stock\nLED gr\xFCn 5mm;4\n"), 0), "led/green-5mm: 4") << "Latin-1";
    std::string wide = "\xFF\xFE";
    for (const char c : std::string("name,stock\nred 5mm LED,4\n")) wide += c, wide += '\0';
    EXPECT_EQ(row(planned(wide), 0), "led/red-5mm: 4") << "UTF-16";
    EXPECT_EQ(row(planned("\xEF\xBB\xBFname,stock\nred 5mm LED,4\n"), 0), "led/red-5mm: 4");
    EXPECT_FALSE(read_drawer_sheet("")) << "no row";
    EXPECT_FALSE(read_drawer_sheet("name,stock\n\"open,4\n"));
}

TEST(Sheet, SetsAddsAndKeepsWhatItDoesNotTell) {
    const std::vector<DrawerItem> known{{"led/red-5mm", "red ones", 10, 100, 5}};
    const char* text = "name,stock\nred 5mm LED,4\nred 5mm LED,3\n";
    const ImportPlan set = planned(text, known);
    EXPECT_EQ(with_changes(known, set.changes()).at(0).stock, 7) << "two boxes of the same";
    EXPECT_EQ(with_changes(known, set.changes()).at(0).price, 5);
    EXPECT_EQ(with_changes(known, planned(text, known, ImportCounts::add).changes()).at(0).stock, 17);
    EXPECT_EQ(set.changed, 2u);
    EXPECT_EQ(set.fresh, 0u);
}

TEST(Sheet, AValueWithoutItsUnitIsAskedBack) {
    const ImportPlan plan = planned("kind,value,stock\ncapacitor,100,5\nresistor,100,5\nresistor,abc,5\n");
    EXPECT_EQ(row(plan, 0).substr(0, 9), "left out:");
    EXPECT_EQ(row(plan, 1), "resistor/100: 5");
}

TEST(Sheet, StrangersBytesEndInWordsNotInHarm) {
    std::mt19937 random(7);
    const std::string_view alphabet = "4k7,;\t\"\n\r resistor led \xC3\xBC\xFF\xFE 1.5%/µ-";
    for (int round = 0; round < 300; ++round) {
        std::string text;
        for (auto length = random() % 400; length > 0; --length) text += alphabet[random() % alphabet.size()];
        const auto sheet = read_drawer_sheet(text);
        if (!sheet) {
            EXPECT_EQ(sheet.error().fault, Fault::usage);
            continue;
        }
        const ImportPlan plan = plan_import(sheet.value(), demo_stock(), ImportCounts::add);
        for (const DrawerChange& change : plan.changes()) {
            EXPECT_TRUE(check(*change.item)) << change.key;
            EXPECT_EQ(change.key, change.item->key);
        }
        EXPECT_EQ(plan.fresh + plan.changed + plan.same + plan.left_out, plan.rows.size());
    }
}

TEST(Sheet, APersonSaysWhatAColumnIs) {
    DrawerSheet sheet = read_drawer_sheet("a,b,c\n4k7 resistor,A 3,12\n").value();
    ASSERT_FALSE(sheet.headings) << "nobody names columns a, b and c";
    sheet = read_drawer_sheet("thing,left,right\n4k7 resistor,12,3\n").value();
    sheet.columns = {ItemColumn::name, ItemColumn::none, ItemColumn::stock};
    const ImportPlan plan = plan_import(sheet, {}, ImportCounts::set);
    EXPECT_EQ(row(plan, plan.rows.size() - 1), "resistor/4700: 3");
    sheet.columns = {ItemColumn::name, ItemColumn::stock, ItemColumn::least};
    EXPECT_EQ(plan_import(sheet, {}, ImportCounts::set).rows.back().item.least, 3);
    sheet.columns = {ItemColumn::none, ItemColumn::stock, ItemColumn::least};
    EXPECT_EQ(plan_import(sheet, {}, ImportCounts::set).left_out, plan.rows.size()) << "it names no part";
}

TEST(LooseNumbers, AsPeopleWriteThem) {
    const auto read = [](const char* cell, bool commas = false) {
        return loose_number(cell, commas).value_or(-1);
    };
    EXPECT_EQ(read("12"), 12);
    EXPECT_EQ(read("1,5"), 1.5);
    EXPECT_EQ(read("1,500"), 1500);
    EXPECT_EQ(read("1,500", true), 1.5);
    EXPECT_EQ(read("1.500", true), 1500);
    EXPECT_EQ(read("1.500"), 1.5);
    EXPECT_EQ(read("1.234,50"), 1234.5);
    EXPECT_EQ(read("1,234.50"), 1234.5);
    EXPECT_EQ(read("€ 3,20"), 3.2);
    EXPECT_EQ(read("~40 pcs"), 40);
    EXPECT_EQ(read("1'200"), 1200);
    EXPECT_EQ(read(".5"), 0.5);
    EXPECT_EQ(read("-3"), -1) << "no stock is below zero";
    EXPECT_EQ(read("box 3"), -1);
    EXPECT_EQ(read(""), -1);
    EXPECT_EQ(read("1,2,3"), -1);
}

TEST(Sheet, AHundredThousandRowsAndAStop) {
    std::string text = "name,stock,place\n";
    for (int k = 0; k < 100000; ++k)
        text += "resistor " + std::to_string(10 + k % 5000) + " ohm,1,box " + std::to_string(k % 90) + "\n";
    const ImportPlan plan = planned(text);
    EXPECT_EQ(plan.rows.size(), 100000u);
    EXPECT_EQ(plan.changes().size(), 5000u);
    EXPECT_EQ(plan.left_out, 0u);
    const auto stopped = plan_import(read_drawer_sheet(text).value(), {}, ImportCounts::set,
                                     [](std::string_view, double done) { return done < 0.5; });
    EXPECT_NEAR(static_cast<double>(stopped.rows.size()), 50000, 500);
}

}  // namespace
}  // namespace elkit
