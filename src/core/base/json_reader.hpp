#pragma once
#include <concepts>
#include <nlohmann/json.hpp>
#include <optional>
#include <string>
#include <utility>
#include <vector>

#include "core/base/result.hpp"

namespace awl {

using Json = nlohmann::ordered_json;

/// What any JSON that is read may come to. Builds of a busy shop stay a hundred times below.
struct JsonBudget {
  std::size_t bytes = std::size_t{64} << 20;
  std::size_t values = 1'000'000;
  std::size_t keys = 4'000;  ///< of one object: looking one up in an ordered object takes as long as there are keys
  std::size_t depth = 40;
};

/// JSON from text that came from outside. `what` begins the sentences: "The marks file".
/// Errors: bad_file naming line and character where it stops being JSON; too_large naming the limit it passes.
Result<Json> json_in(const std::string& text, const std::string& what, const JsonBudget& budget = {});

/// Leaves reading at the first wrong value; caught by read_json alone.
struct JsonRefused {
  Error error;
};

/// A value of JSON that came from outside, together with its place, so that whatever is wrong with it can be said.
///
/// Contract: used inside read_json; every answer that cannot be given throws JsonRefused there. Holds a pointer into
/// the JSON.
class JsonAt {
 public:
  JsonAt(const Json& json, std::string place) : json_(&json), place_(std::move(place)) {}

  const std::string& place() const { return place_; }
  bool has(const std::string& key) const { return json_->is_object() && json_->contains(key); }
  JsonAt at(const std::string& key) const;
  JsonAt at(std::size_t index) const;
  std::optional<JsonAt> find(const std::string& key) const;
  /// Elements of an array; keys and values of an object.
  std::vector<JsonAt> all() const;
  std::vector<std::pair<std::string, JsonAt>> items() const;
  std::size_t size() const { return json_->size(); }

  /// Numbers are finite and between the two; without limits given, of a size that things at a bench have.
  double number(double least = -kMostNumber, double most = kMostNumber) const;
  int whole(int least = -kMostWhole, int most = kMostWhole) const;
  bool flag() const;
  /// At most `most` bytes.
  std::string text(std::size_t most = kMostText) const;

  template <class T>
  T get() const {
    if constexpr (std::same_as<T, double>)
      return number();
    else if constexpr (std::same_as<T, int>)
      return whole();
    else if constexpr (std::same_as<T, bool>)
      return flag();
    else
      return text();
  }
  template <class T>
  requires(std::same_as<T, double> || std::same_as<T, int> || std::same_as<T, bool> || std::same_as<T, std::string>)
  operator T() const {
    return get<T>();
  }
  template <class T>
  T value(const std::string& key, T usual) const {
    const auto held = find(key);
    return held ? held->get<T>() : usual;
  }

  std::string value(const std::string& key, const char* usual) const { return value(key, std::string(usual)); }

  [[noreturn]] void refuse(Errc code, const std::string& is) const;

  static constexpr double kMostNumber = 1e7;
  static constexpr int kMostWhole = 1'000'000'000;
  static constexpr std::size_t kMostText = 20'000;

 private:
  std::string named() const;
  const Json* json_;
  std::string place_;
};

/// Reads a value out of JSON by a function of JsonAt. Errors: what it refuses, as bad_file or the code it gives, with
/// the place.
template <class Read>
auto read_json(const Json& json, const std::string& place, Read&& read) -> Result<decltype(read(JsonAt(json, place)))> {
  try {
    return read(JsonAt(json, place));
  } catch (const JsonRefused& refused) {
    return fail(refused.error);
  }
}

/// The value of a result, or leaves reading with its failure.
template <class T>
T taken(Result<T> result) {
  if (!result) throw JsonRefused{result.error()};
  if constexpr (!std::is_void_v<T>) return std::move(*result);
}

}  // namespace awl
