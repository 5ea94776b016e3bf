#pragma once
#include <string_view>

/// Files of data/ that are built into the program (see core/CMakeLists.txt).
namespace elkit::embedded {
extern const std::string_view catalogue;
extern const std::string_view kinds;
extern const std::string_view modules;
extern const std::string_view words;
extern const std::string_view recipes;
extern const std::string_view footprints;
extern const std::string_view making;
extern const std::string_view design_schema;
extern const std::string_view demo_stock;
extern const std::string_view demo_pier_lantern;
extern const std::string_view demo_coat_badge;
extern const std::string_view demo_harbour_beacon;
extern const std::string_view demo_harbour_dimmer;
extern const std::string_view demo_compost_pulse;
extern const std::string_view demo_bunk_lamp;
extern const std::string_view demo_tent_peg_marker;
extern const std::string_view demo_page_lamp;
extern const std::string_view demo_frost_guard;
extern const std::string_view demo_tide_board;
extern const std::string_view demo_diorama_switcher;
extern const std::string_view demo_moth_jar;
extern const std::string_view demo_kite_tail;
extern const std::string_view demo_twin_blinker;
extern const std::string_view demo_firefly_jar;
extern const std::string_view demo_herbarium_ring;
extern const std::string_view demo_shelf_strip;
extern const std::string_view demo_pantry_gauge;
extern const std::string_view demo_seat_finder;
extern const std::string_view demo_tide_pool_lamp;
extern const std::string_view demo_rock_pool_torch;
extern const std::string_view demo_letterbox_flag;
extern const std::string_view demo_harbour_diorama;
}  // namespace elkit::embedded
