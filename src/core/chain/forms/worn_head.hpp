#pragma once
#include <memory>

#include "core/head/built_form.hpp"
#include "core/head/headform.hpp"

namespace awl {

/// Which head a form is made on, and when asked the form as built; compared by identity.
struct WornHead {
  std::shared_ptr<const Headform> head;
  std::shared_ptr<const BuiltForm> built;  ///< not null: wraps are made over it
  bool operator==(const WornHead&) const = default;
};

}  // namespace awl
