#pragma once
#include "core/builds/build.hpp"
#include "core/io/codec/fields.hpp"

namespace awl {

template <class C>
void fields(C& c, SeamSpec& s) {
  c.dials(dials_of(s));
}

template <class C>
void fields(C& c, DrawnSeam& s) {
  c.value("id", s.id);
  c.value("name", s.name);
  c.value("points", s.points);
  c.value("closed", s.closed);
  c.value("inked", s.inked);
  c.value("mirrored", s.mirrored);
  c.value("hidden", s.hidden);
  c.value("locked", s.locked);
  c.word("role", s.role, line_role_from);
  c.value("reach_mm", s.reach_mm);
}

template <class C>
void fields(C& c, Meet& m) {
  c.value("with", m.with);
  c.word("how", m.how, meet_how_from);
  c.value("play_mm", m.play_mm);
}

template <class C>
void fields(C& c, Alteration& a) {
  c.value("id", a.id);
  c.value("part", a.part);
  c.value("seam", a.seam);
  c.value("panel", a.panel);
  c.value("first_mm", a.first_mm);
  c.value("middle_mm", a.middle_mm);
  c.value("last_mm", a.last_mm);
  c.value("mirrored", a.mirrored);
  c.value("on_foam", a.on_foam);
  c.value("note", a.note);
}

template <class C>
void fields(C& c, Correction::OfPanel& p) {
  c.value("panel", p.panel);
  c.value("round_mm", p.round_mm);
  c.value("moves", p.moves);
}

template <class C>
void fields(C& c, Correction& k) {
  c.value("part", k.part);
  c.value("closer", k.closer);
  c.value("before_mm", k.before_mm);
  c.value("after_mm", k.after_mm);
  c.list("panels", k.panels);
}

/// What it holds stands beside the JSON, in an archive of its own.
template <class C>
void fields(C& c, Version& v) {
  c.value("id", v.id);
  c.value("name", v.name);
  c.value("note", v.note);
  c.value("day", v.day);
  c.value("from", v.from);
}

}  // namespace awl
