#pragma once
#include "core/dress/detail.hpp"
#include "core/io/codec/dials.hpp"
#include "core/io/codec/fields.hpp"

namespace awl {

/// A kind by its word and its dials.
inline Json json_of(const DetailShape& shape) {
  DetailShape copy = shape;
  return json_of_dials(std::visit([](auto& s) { return dials_of(s); }, copy), Json{{"kind", kind_of(shape)}});
}
inline void take(const JsonAt& json, DetailShape& shape) {
  shape = taken(detail_shape_from(json.at("kind").text()));
  take_dials(json, std::visit([](auto& s) { return dials_of(s); }, shape));
}

template <class C>
void fields(C& c, Track& t) {
  c.word("from", t.from, track_from);
  c.value("points", t.points);
  c.value("closed", t.closed);
  c.value("name", t.name);
  c.value("number", t.number);
  c.value("off_mm", t.off_mm);
  c.value("start", t.start);
  c.value("end", t.end);
}

template <class C>
void fields(C& c, Detail& d) {
  c.value("id", d.id);
  c.value("part", d.part);
  c.value("name", d.name);
  c.value("shape", d.shape);
  c.object("line", d.track);
  c.value("mirrored", d.mirrored);
  c.value("stuff", d.stuff);
  c.value("thickness_mm", d.thickness_mm);
}

template <class C>
void fields(C& c, DressSpec& s) {
  c.list("details", s.details);
  c.value("footprints", s.footprints);
}

}  // namespace awl
