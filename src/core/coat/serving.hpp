#pragma once
#include "core/coat/coat_spec.hpp"
#include "core/coat/finish_work.hpp"

namespace awl {

/// Which products serve where: every joint its glue, every material and colour area its coats, and what was not borne.
struct Served {
  struct Joint {
    const JointWork* joint;
    Serving<Glue> glue;
  };
  struct Coats {
    const StuffWork* work;
    Serving<Coating> seal, paint, clear;
  };
  struct Area {
    const AreaWork* work;
    const ColourArea* area;
    Serving<Coating> paint;
    int coats = 0;
  };
  std::vector<Joint> joints;
  std::vector<Coats> coats;         ///< of materials that are painted
  std::vector<Area> areas;          ///< of the colour areas that are found; without any, paint goes by material
  std::vector<std::string> masked;  ///< names of materials that are not painted
  Serving<Glue> padding;            ///< holds soft foam in every part
  bool any_hot_glue() const;
};

/// Contract: the work outlives it. Errors: unknown_name for a product that is not there, or where none serves.
Result<Served> serve(const CoatSpec& spec, const FinishWork& work, const Materials& materials);

}  // namespace awl
