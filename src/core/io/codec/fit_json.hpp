#pragma once
#include "core/fit/spec.hpp"
#include "core/io/codec/fields.hpp"

namespace awl {

template <class C>
void fields(C& c, Slit& s) {
  c.value("id", s.id);
  c.value("part", s.part);
  c.word("at", s.at, slit_at_from);
  c.word("by", s.by, closed_by_from);
  c.value("long_mm", s.long_mm);
  c.value("opens_mm", s.opens_mm);
  c.value("pitch_mm", s.pitch_mm);
  c.value("straight", s.straight);
}

template <class C>
void fields(C& c, Hold& h) {
  c.value("id", h.id);
  c.value("part", h.part);
  c.word("by", h.by, hold_by_from);
  c.value("count", h.count);
  c.value("magnet", h.magnet);
  c.value("steel", h.steel);
  c.value("between_mm", h.between_mm);
  c.value("wide_mm", h.wide_mm);
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
  c.word("kind", k.kind, cutout_kind_from);
  c.value("count", k.count);
  c.value("wide_mm", k.wide_mm);
}

template <class C>
void fields(C& c, FitSpec& f) {
  c.value("eye_height_mm", f.eye_height_mm);
  c.value("wig_mm", f.wig_mm);
  c.list("slits", f.slits);
  c.list("holds", f.holds);
  c.list("rooms", f.rooms);
  c.list("cutouts", f.cutouts);
}

}  // namespace awl
