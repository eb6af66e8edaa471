#include "core/base/result.hpp"

namespace awl {

const char* name_of(Errc code) {
  switch (code) {
    case Errc::not_a_number: return "not_a_number";
    case Errc::wrong_unit: return "wrong_unit";
    case Errc::out_of_range: return "out_of_range";
    case Errc::empty_input: return "empty_input";
    case Errc::degenerate_shape: return "degenerate_shape";
    case Errc::bad_file: return "bad_file";
    case Errc::newer_file: return "newer_file";
    case Errc::cannot_read: return "cannot_read";
    case Errc::cannot_write: return "cannot_write";
    case Errc::locked: return "locked";
    case Errc::not_a_disk: return "not_a_disk";
    case Errc::overlap: return "overlap";
    case Errc::no_solution: return "no_solution";
    case Errc::unknown_name: return "unknown_name";
    case Errc::cancelled: return "cancelled";
  }
  return "unknown";
}

}  // namespace awl
