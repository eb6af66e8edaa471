#pragma once
#include <string>
#include <vector>

#include "core/base/result.hpp"

namespace awl {

/// What must go on before what: names of pieces, or of parts.
struct OrderRule {
  std::string first, then;
  std::string why;
  bool operator==(const OrderRule&) const = default;
};

/// Puts things in an order that keeps all rules and otherwise stays as near to the one given as it can.
///
/// Shape:  indices into `names`; a rule's name stands for every name equal to it, or that begins with it and a comma.
/// Errors: no_solution when rules run in a circle, the whole circle named ("lid before cover before lid"), and whose
/// rule it is.
///         unknown_name for a rule about something that is not there.
Result<std::vector<int>> in_order(const std::vector<std::string>& names, const std::vector<OrderRule>& rules);

}  // namespace awl
