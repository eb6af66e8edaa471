#pragma once
#include "core/builds/build.hpp"
#include "core/io/codec/fields.hpp"

namespace awl {

template <class C>
void fields(C& c, Margins& m) {
  c.dials(dials_of(m));
}

template <class C>
void fields(C& c, SeamCut& s) {
  c.value("part", s.part);
  c.value("seam", s.seam);
  c.word("cut", s.cut, edge_cut_from);
  c.value("margin_mm", s.margin_mm);
}

template <class C>
void fields(C& c, Offcut& o) {
  c.value("id", o.id);
  c.value("name", o.name);
  c.value("foam", o.foam);
  c.value("thickness_mm", o.thickness_mm);
  c.value("kept", o.kept);
  c.value("outline", o.outline);
}

template <class C>
void fields(C& c, HeldCopy& h) {
  c.value("piece", h.piece);
  c.value("copy", h.copy);
  c.value("blank", h.blank);
  c.value("at", h.at);
  c.value("angle_rad", h.angle_rad);
}

/// All but the maker's own kind, which is written as in the shop book.
template <class C>
void fields(C& c, FoamSpec& f) {
  c.dials(dials_of(f));
  c.list("cuts", f.cuts);
  c.object("margins", f.margins);
  c.list("offcuts", f.offcuts);
  c.list("held", f.held);
}

template <class C>
void fields(C& c, WaySpec& s) {
  c.dials(dials_of(s));
}

template <class C>
void fields(C& c, OrderRule& r) {
  c.value("first", r.first);
  c.value("then", r.then);
  c.value("why", r.why);
}

template <class C>
void fields(C& c, FoamHeadSpec& s) {
  c.dials(dials_of(s));
}

}  // namespace awl
