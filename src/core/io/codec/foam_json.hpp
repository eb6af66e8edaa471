#pragma once
#include "core/builds/build.hpp"
#include "core/io/codec/fields.hpp"

namespace awl {

template <class C>
void fields(C& c, Margins& m) {
  c.value("seam_mm", m.seam_mm);
  c.value("rim_mm", m.rim_mm);
  c.value("hole_mm", m.hole_mm);
  c.value("pen_mm", m.pen_mm);
  c.value("kerf_mm", m.kerf_mm);
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
  c.value("foam", f.foam);
  c.value("thickness_mm", f.thickness_mm);
  c.value("heated", f.heated);
  c.value("sheet_width_mm", f.sheet.width_mm);
  c.value("sheet_height_mm", f.sheet.height_mm);
  c.value("gap_mm", f.gap_mm);
  c.also("guides", f.guides);
  c.also("slotted", f.slotted);
  c.also("notched", f.notched);
  c.value("nest_tries", f.nest_tries);
  c.value("turn_freely", f.turn_freely);
  c.list("cuts", f.cuts);
  c.object("margins", f.margins);
  c.list("offcuts", f.offcuts);
  c.list("held", f.held);
}

template <class C>
void fields(C& c, WaySpec& s) {
  c.word("way", s.way, way_from);
  c.word("along", s.along, axis_from);
  c.value("block", s.block);
  c.value("wall_mm", s.wall_mm);
  c.value("spare_mm", s.spare_mm);
  c.value("net_faces", s.net_faces);
  c.value("net_tab_mm", s.net_tab_mm);
  c.word("pull", s.pull, axis_from);
  c.value("sheet", s.sheet);
  c.value("sheet_mm", s.sheet_mm);
  c.value("skirt_mm", s.skirt_mm);
  c.value("clamp_mm", s.clamp_mm);
  c.also_word("shell", s.shell, cast_shell_from);
  c.also_word("fill", s.fill, cast_fill_from);
}

template <class C>
void fields(C& c, OrderRule& r) {
  c.value("first", r.first);
  c.value("then", r.then);
  c.value("why", r.why);
}

template <class C>
void fields(C& c, FoamHeadSpec& s) {
  c.value("neck_up_mm", s.neck_up_mm);
  c.value("pipe_mm", s.pipe_mm);
  c.value("mirrored", s.mirrored);
  c.value("plan", s.plan);
}

}  // namespace awl
