#pragma once
#include "core/base/day.hpp"
#include "core/base/json_reader.hpp"
#include "core/io/codec/dials.hpp"
#include "core/geom/mesh.hpp"

// Inside io: each spec says its fields once, in `template <class C> void fields(C& c, Spec& s)`; a writer, a reader and
// (in tests) a shaker that alters every one of them go through that list; what has a dial is said by its dials. A key
// that older files lack is named by `also`: it keeps its usual value, and needs no new format.

namespace awl {

inline Json json_of(const Day& day) { return day.iso(); }
inline Json json_of(const Vec2& p) { return {p.x(), p.y()}; }
inline Json json_of(const Vec3& p) { return {p.x(), p.y(), p.z()}; }
template <class T>
Json json_of(const T& value) {
  return value;
}
template <class T>
Json json_of(const std::vector<T>& all) {
  Json list = Json::array();
  for (const T& one : all) list.push_back(json_of(one));
  return list;
}

inline void take(const JsonAt& json, Day& day) { day = taken(parse_day(json)); }
inline void take(const JsonAt& json, Vec2& p) { p = {json.at(0).number(), json.at(1).number()}; }
inline void take(const JsonAt& json, Vec3& p) { p = {json.at(0).number(), json.at(1).number(), json.at(2).number()}; }
template <class T>
void take(const JsonAt& json, T& value) {
  value = json.get<T>();
}
inline Json json_of(const std::vector<bool>& all) {
  Json list = Json::array();
  for (const bool one : all) list.push_back(one);
  return list;
}
inline void take(const JsonAt& json, std::vector<bool>& all) {
  all.clear();
  for (const JsonAt& one : json.all()) all.push_back(one.flag());
}
/// Lists are no longer than a bench could use.
template <class T>
void take(const JsonAt& json, std::vector<T>& all) {
  constexpr std::size_t kMostPlaces = 2000;
  if (json.size() > kMostPlaces)
    json.refuse(Errc::too_large,
        "has " + std::to_string(json.size()) + " places; " + std::to_string(kMostPlaces) + " are the most");
  all.clear();
  for (const JsonAt& one : json.all()) take(one, all.emplace_back());
}

/// Puts fields into an object, in their order.
class FieldWriter {
 public:
  explicit FieldWriter(Json& to) : to_(to) {}
  template <class T>
  void value(const char* key, const T& field) {
    to_[key] = json_of(field);
  }
  template <class T>
  void also(const char* key, const T& field) {
    value(key, field);
  }
  /// An enumeration by its word, so that a later order of values changes no file.
  template <class E, class From>
  void word(const char* key, const E& field, From&&) {
    to_[key] = name_of(field);
  }
  template <class E, class From>
  void also_word(const char* key, const E& field, From&& from) {
    word(key, field, from);
  }
  /// What a spec says in dials.
  void dials(const std::vector<Dial>& all) { put_dials(to_, all); }
  template <class S>
  void object(const char* key, S& spec) {
    FieldWriter inside(to_[key] = Json::object());
    fields(inside, spec);
  }
  template <class S>
  void also_object(const char* key, S& spec) {
    object(key, spec);
  }
  template <class S>
  void list(const char* key, std::vector<S>& specs) {
    Json all = Json::array();
    for (S& spec : specs) {
      FieldWriter inside(all.emplace_back(Json::object()));
      fields(inside, spec);
    }
    to_[key] = std::move(all);
  }

 private:
  Json& to_;
};

/// Takes fields out of an object. Contract: in read_json.
class FieldReader {
 public:
  explicit FieldReader(JsonAt from) : from_(std::move(from)) {}
  template <class T>
  void value(const char* key, T& field) {
    take(from_.at(key), field);
  }
  template <class T>
  void also(const char* key, T& field) {
    if (const auto held = from_.find(key)) take(*held, field);
  }
  template <class E, class From>
  void word(const char* key, E& field, From&& from) {
    field = taken(from(from_.at(key).text()));
  }
  template <class E, class From>
  void also_word(const char* key, E& field, From&& from) {
    if (const auto held = from_.find(key)) field = taken(from(held->text()));
  }
  void dials(const std::vector<Dial>& all) { get_dials(from_, all); }
  template <class S>
  void object(const char* key, S& spec) {
    FieldReader inside(from_.at(key));
    fields(inside, spec);
  }
  template <class S>
  void also_object(const char* key, S& spec) {
    if (from_.has(key)) object(key, spec);
  }
  template <class S>
  void list(const char* key, std::vector<S>& specs) {
    specs.clear();
    for (const JsonAt& one : from_.at(key).all()) {
      FieldReader inside(one);
      fields(inside, specs.emplace_back());
    }
  }

 private:
  JsonAt from_;
};

template <class S>
Json spec_to_json(S spec) {
  Json json = Json::object();
  FieldWriter writer(json);
  fields(writer, spec);
  return json;
}

template <class S>
S spec_from_json(const JsonAt& json) {
  S spec;
  FieldReader reader(json);
  fields(reader, spec);
  return spec;
}

}  // namespace awl
