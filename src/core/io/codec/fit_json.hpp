#pragma once
#include "core/fit/spec.hpp"
#include "core/io/codec/fields.hpp"

namespace awl {

template <class C>
void fields(C& c, Slit& s) {
  c.value("id", s.id);
  c.value("part", s.part);
  c.dials(dials_of(s));
}

template <class C>
void fields(C& c, Hold& h) {
  c.value("id", h.id);
  c.value("part", h.part);
  c.dials(dials_of(h));
}

template <class C>
void fields(C& c, Room& r) {
  c.value("id", r.id);
  c.word("kind", r.kind, room_kind_from);
  c.value("size_mm", r.size_mm);
  c.value("at_mm", r.at_mm);
  c.value("mass_g", r.mass_g);
}

template <class C>
void fields(C& c, Cutout& k) {
  c.value("id", k.id);
  c.value("part", k.part);
  c.dials(dials_of(k));
}

template <class C>
void fields(C& c, FitSpec& f) {
  c.dials(dials_of(f));
  c.list("slits", f.slits);
  c.list("holds", f.holds);
  c.list("rooms", f.rooms);
  c.list("cutouts", f.cutouts);
}

}  // namespace awl
