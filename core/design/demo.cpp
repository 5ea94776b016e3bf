#include "design/demo.hpp"

#include "embedded.hpp"

namespace elkit {

const std::vector<Demo>& demos() {
    static const std::vector<Demo> all{
        {"pier-lantern", "Demo: pier lantern", embedded::demo_pier_lantern},
        {"coat-badge", "Demo: coat badge", embedded::demo_coat_badge},
        {"harbour-beacon", "Demo: harbour beacon (slow flasher)", embedded::demo_harbour_beacon},
        {"harbour-dimmer", "Demo: harbour dimmer (timer)", embedded::demo_harbour_dimmer},
        {"compost-pulse", "Demo: compost pulse (blinks by warmth)", embedded::demo_compost_pulse},
        {"bunk-lamp", "Demo: bunk lamp (press and fade)", embedded::demo_bunk_lamp},
        {"tent-peg-marker", "Demo: tent-peg marker (one-cell booster)", embedded::demo_tent_peg_marker},
        {"page-lamp", "Demo: page lamp (touch)", embedded::demo_page_lamp},
        {"frost-guard", "Demo: frost guard (sensor and small controller)", embedded::demo_frost_guard},
        {"tide-board", "Demo: tide board (two light matrices)", embedded::demo_tide_board},
        {"diorama-switcher", "Demo: diorama switcher (computer board, relays, lamps)",
         embedded::demo_diorama_switcher},
        {"moth-jar", "Demo: moth jar (fading colours from a small controller)", embedded::demo_moth_jar},
        {"kite-tail", "Demo: kite tail (a minute of light by a press)", embedded::demo_kite_tail},
        {"twin-blinker", "Demo: twin blinker (transistors)", embedded::demo_twin_blinker},
        {"firefly-jar", "Demo: firefly jar (one-cell booster)", embedded::demo_firefly_jar},
        {"herbarium-ring", "Demo: herbarium ring (24 white lights)", embedded::demo_herbarium_ring},
        {"shelf-strip", "Demo: shelf strip (dimmed strip)", embedded::demo_shelf_strip},
        {"pantry-gauge", "Demo: pantry gauge (comparators)", embedded::demo_pantry_gauge},
        {"seat-finder", "Demo: seat finder (grid of lights)", embedded::demo_seat_finder},
        {"rock-pool-torch", "Demo: rock-pool torch (power LED on a lithium cell)",
         embedded::demo_rock_pool_torch},
        {"tide-pool-lamp", "Demo: tide-pool lamp (wakes in the dark)", embedded::demo_tide_pool_lamp},
        {"letterbox-flag", "Demo: letterbox flag (latch)", embedded::demo_letterbox_flag},
        {"harbour-diorama", "Demo: harbour diorama (60 parts)", embedded::demo_harbour_diorama}};
    return all;
}

const Demo* find_demo(std::string_view id) {
    for (const Demo& d : demos())
        if (d.id == id) return &d;
    return nullptr;
}

}  // namespace elkit
