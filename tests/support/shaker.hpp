#pragma once
#include <string>
#include <vector>

#include "core/base/day.hpp"
#include "core/form/dial.hpp"
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
  /// Choices go on to their next word.
  void dials(const std::vector<Dial>& all) {
    for (const Dial& d : all) {
      keys.push_back(d.facts.file_key());
      std::string word = d.word ? d.word() : std::string();
      double number = d.value();
      int count = static_cast<int>(number);
      switch (d.facts.kind) {
        case DialKind::word:
          shake(word), d.say(word);
          break;
        case DialKind::flag:
          d.turn(1.0 - number);
          break;
        case DialKind::choice:
          d.turn(number + 1.0 < static_cast<double>(d.facts.options.size()) ? number + 1.0 : 0.0);
          break;
        case DialKind::count:
          shake(count), d.turn(count);
          break;
        default:
          shake(number), d.turn(number);
      }
    }
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
