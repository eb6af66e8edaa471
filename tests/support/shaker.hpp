#pragma once
#include <string>
#include <vector>

#include "core/base/day.hpp"
#include "core/geom/mesh.hpp"

namespace awl::test {

/// Goes through the fields of a spec as the writer and the reader do, and alters every one of them.
class Shaker {
 public:
  template <class T>
  void value(const char* key, T& field) {
    keys.push_back(key);
    shake(field);
  }
  template <class T>
  void also(const char* key, T& field) {
    value(key, field);
  }
  template <class E, class From>
  void word(const char* key, E& field, From&& from) {
    keys.push_back(key);
    const E next = static_cast<E>(static_cast<int>(field) + 1);
    field = static_cast<int>(field) < 1 && from(name_of(next)) ? next : static_cast<E>(0);
  }
  template <class S>
  void object(const char* key, S& spec) {
    keys.push_back(key);
    fields(*this, spec);
  }
  template <class E, class From>
  void also_word(const char* key, E& field, From&& from) {
    word(key, field, from);
  }
  template <class S>
  void also_object(const char* key, S& spec) {
    object(key, spec);
  }
  template <class S>
  void list(const char* key, std::vector<S>& specs) {
    keys.push_back(key);
    specs.resize(2);
    for (S& spec : specs) fields(*this, spec);
  }
  std::vector<std::string> keys;

 private:
  void shake(double& v) { v += 1.25 + 0.5 * static_cast<double>(++count_); }
  void shake(int& v) { v += 1 + ++count_; }
  void shake(bool& v) { v = !v; }
  void shake(std::string& v) { v += " \xC3\xA9" + std::to_string(++count_); }
  void shake(Day& v) { v = Day{v.number + 3}; }
  void shake(Vec2& v) { v = Vec2(0.5, ++count_); }
  void shake(Vec3& v) { v = Vec3(0.5, ++count_, -1.0); }
  void shake(std::vector<bool>& v) {
    v.assign(7, false);
    v[static_cast<std::size_t>(++count_ % 7)] = true;
  }
  template <class T>
  void shake(std::vector<T>& v) {
    v.resize(3);
    for (T& one : v) shake(one);
  }
  int count_ = 0;
};

}  // namespace awl::test
