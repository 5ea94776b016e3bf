#include "design/demo.hpp"

#include "embedded.hpp"

namespace elkit {

const std::vector<Demo>& demos() {
    static const std::vector<Demo> all{
        {"pier-lantern", "Demo: pier lantern", embedded::demo_pier_lantern},
        {"coat-badge", "Demo: coat badge", embedded::demo_coat_badge},
        {"harbour-dimmer", "Demo: harbour dimmer (timer)", embedded::demo_harbour_dimmer},
        {"twin-blinker", "Demo: twin blinker (transistors)", embedded::demo_twin_blinker},
        {"firefly-jar", "Demo: firefly jar (one-cell booster)", embedded::demo_firefly_jar}};
    return all;
}

const Demo* find_demo(std::string_view id) {
    for (const Demo& d : demos())
        if (d.id == id) return &d;
    return nullptr;
}

}  // namespace elkit
