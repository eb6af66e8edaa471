#pragma once
#include <memory>
#include <string>
#include <string_view>

#include "core/base/result.hpp"
#include "core/geom/mesh.hpp"

namespace awl {

/// A head as a signed distance field of smoothly blended primitives, read from its recipe text.
///
/// Units:  millimetres in the head frame; negative inside.
/// Source: docs/formulas/headform.md; the recipe is data/headform/template.field.
class Field {
 public:
  /// Errors: bad_file names the line that cannot be read.
  static Result<Field> parse(std::string_view recipe);

  double operator()(const Vec3& p) const;
  Vec3 gradient(const Vec3& p) const;
  /// Nearest place on the zero surface by a few Newton steps; with `keep_x` the x coordinate stays.
  Vec3 project(Vec3 p, bool keep_x = false) const;
  /// The same field without the top-level step of this name (for example "ear").
  Field without(const std::string& name) const;

 private:
  struct Step;
  std::shared_ptr<const std::vector<Step>> steps_;
};

}  // namespace awl
