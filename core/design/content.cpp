#include "design/content.hpp"

#include "engine/queries.hpp"

namespace elkit {

Digest content_digest(const std::vector<Block>& blocks) {
    Digester d;
    for (const Block& b : blocks) {
        d << b.recipe << b.goals << b.parts << b.uses << b.nets << b.by_hand.size();
        for (const std::string& what : b.by_hand) d << what;
    }
    return d.digest();
}

Digest content_digest(const std::vector<Optic>& optics) {
    Digester d;
    for (const Optic& optic : optics) d << optic.name << optic.factor;
    return d.digest();
}

Digest content_digest(const std::vector<LightTrial>& trials) {
    Digester d;
    for (const LightTrial& t : trials)
        d << t.led << t.reference << t.resistor << t.current << t.reference_current
          << static_cast<int>(t.looked);
    return d.digest();
}

Digest content_digest(const Brief& b) {
    Digester d;
    d << b.run_time << b.end_brightness << b.kits << b.cost_ceiling << b.width << b.height << b.depth
      << b.for_children << b.distance << content_digest(b.optics);
    return d.digest();
}

Digest content_digest(const std::vector<Situation>& situations) {
    Digester d;
    for (const Situation& s : situations)
        d << s.name << s.battery.value_or(-1) << content_digest(s.conditions);
    return d.digest();
}

Digest content_digest(const std::vector<DayUse>& use) {
    Digester d;
    for (const DayUse& u : use) d << u.situation << u.hours << u.times << u.seconds;
    return d.digest();
}

Digest content_digest(const BoardChoices& c) {
    Digester d;
    d << c.method << c.columns << c.rows << c.breadboard << c.wire_colours << c.parts.size();
    for (const PartMount& m : c.parts) d << m.part << m.footprint << m.place << m.legs;
    d << c.width << c.height << c.shape << c.outline << c.layers << c.track << c.corner_holes << c.area
      << c.lights << c.panel_across << c.panel_down << c.panel_parting << c.spots.size();
    for (const PartSpot& s : c.spots) d << s.part << s.x << s.y << s.turn << s.locked << s.of_face << s.span;
    d << c.keep_out.size();
    for (const KeepOut& k : c.keep_out) d << k.x << k.y << k.width << k.height;
    d << c.pulls.size();
    for (const TrackPull& p : c.pulls) d << p.net << p.x << p.y << p.component_side;
    d << c.ways_by << c.ways.size();
    for (const TrackWay& w : c.ways) {
        d << w.net << w.corners.size();
        for (const WayCorner& k : w.corners) d << static_cast<int>(k.on) << k.x << k.y;
    }
    for (const BoardText& t : c.texts) d << t.x << t.y << t.size << t.text << t.anywhere;
    return d.digest();
}

Digest content_digest(const Face& f) {
    Digester d;
    d << f.material << f.fit << f.thickness << f.width << f.height << f.outline << f.places.size();
    for (const FacePlace& p : f.places) d << p.light << p.x << p.y;
    for (const FaceHole& h : f.measured) d << h.body << h.hole;
    return d.digest();
}

Digest content_digest(const BatchChoices& c) {
    Digester d;
    d << c.spares;
    return d.digest();
}

Digest content_digest(const std::vector<StepRecord>& records) {
    Digester d;
    for (const StepRecord& r : records) d << r.step << r.done << r.note << r.measured << r.unit << r.time;
    return d.digest();
}

Digest readings_digest(const std::vector<StepRecord>& records) {
    Digester d;
    for (const StepRecord& r : records)
        if (r.measured) d << r.step << r.unit << *r.measured;
    return d.digest();
}

}  // namespace elkit
