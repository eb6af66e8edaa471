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
  c.dials(dials_of(r));
}

/// What came with the plan as a project; older files keep the usual values.
template <class C>
void fields(C& c, FinishSpec& s) {
  c.dials(dials_of(s));
  c.list("joint_looks", s.joint_looks);
  c.list("joint_glues", s.joint_glues);
  c.list("pigments", s.pigments);
  c.list("areas", s.areas);
  c.value("open_on", s.open_on);
  c.value("closed", s.closed);
  c.list("outdoors", s.outdoors);
  c.list("ticks", s.ticks);
  c.value("now", s.now);
  c.object("rates", s.rates);
}

template <class C>
void fields(C& c, CoatSpec& s) {
  c.dials(own_dials_of(s));
  c.value("start", s.start);
  c.value("due", s.due);
  c.also_object("finish", static_cast<FinishSpec&>(s));
}

}  // namespace awl
