#pragma once
#include "core/coat/coat_spec.hpp"
#include "core/io/codec/fields.hpp"

namespace awl {

template <class C>
void fields(C& c, Pigment& p) {
  c.value("id", p.id);
  c.value("name", p.name);
  c.value("rgb", p.rgb);
}

template <class C>
void fields(C& c, ColourArea& a) {
  c.value("id", a.id);
  c.value("name", a.name);
  c.value("of", a.of);
  c.value("pigment", a.pigment);
  c.value("paint", a.paint);
  c.value("hard_edge", a.hard_edge);
  c.value("bears_tape", a.bears_tape);
  c.value("coats", a.coats);
  c.value("fades_to", a.fades_to);
  c.word("fades", a.fades, fade_way_from);
}

template <class C>
void fields(C& c, JointGlue& j) {
  c.value("joint", j.joint);
  c.value("glue", j.glue);
}

template <class C>
void fields(C& c, JointLook& j) {
  c.value("joint", j.joint);
  c.word("look", j.look, seam_look_from);
}

template <class C>
void fields(C& c, OutdoorDay& d) {
  c.value("day", d.day);
  c.value("from_min", d.from_min);
  c.value("to_min", d.to_min);
}

template <class C>
void fields(C& c, StepTick& t) {
  c.value("step", t.step);
  c.value("start", t.start);
  c.value("end", t.end);
}

template <class C>
void fields(C& c, QuoteRates& r) {
  c.value("rate", r.rate);
  c.value("waste", r.waste);
  c.value("overheads", r.overheads);
  c.value("margin", r.margin);
  c.value("round_to", r.round_to);
}

/// What came with the plan as a project; older files keep the usual values.
template <class C>
void fields(C& c, FinishSpec& s) {
  c.word("bare_seams", s.bare_seams, seam_look_from);
  c.list("joint_looks", s.joint_looks);
  c.value("fill_passes", s.fill_passes);
  c.word("build_up", s.build_up, build_up_from);
  c.value("tape_inside", s.tape_inside);
  c.value("sand_between", s.sand_between);
  c.value("seal_coats", s.seal_coats);
  c.value("clear_coats", s.clear_coats);
  c.word("shade", s.shade, shade_from);
  c.value("dry_brush", s.dry_brush);
  c.list("joint_glues", s.joint_glues);
  c.list("pigments", s.pigments);
  c.list("areas", s.areas);
  c.value("read_at_m", s.read_at_m);
  c.value("hands", s.hands);
  c.value("drying_places", s.drying_places);
  c.value("open_on", s.open_on);
  c.value("closed", s.closed);
  c.value("names_outdoors", s.names_outdoors);
  c.list("outdoors", s.outdoors);
  c.value("temperature_c", s.temperature_c);
  c.value("damp", s.damp);
  c.value("fan", s.fan);
  c.list("ticks", s.ticks);
  c.value("now", s.now);
  c.value("search_longer", s.search_longer);
  c.object("rates", s.rates);
}

template <class C>
void fields(C& c, CoatSpec& s) {
  c.value("glue", s.glue);
  c.value("seal", s.seal);
  c.value("paint", s.paint);
  c.value("clear", s.clear);
  c.value("fill_seams", s.fill_seams);
  c.value("heat_seal", s.heat_seal);
  c.value("start", s.start);
  c.value("due", s.due);
  c.value("hours_a_day", s.hours_a_day);
  c.value("opens_h", s.opens_h);
  c.also_object("finish", static_cast<FinishSpec&>(s));
}

}  // namespace awl
