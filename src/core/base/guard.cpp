#include "core/base/guard.hpp"

#include <filesystem>
#include <new>
#include <stdexcept>

#include "core/base/text.hpp"

namespace awl {

Error error_in_flight(const std::string& doing) {
  const std::string at = " (while " + doing + ")";
  try {
    throw;
  } catch (const ContractViolation& bug) {
    return {Errc::internal,
        "Noggin Awl made a mistake of its own" + at + ". Nothing was changed; save your work and report it.",
        bug.what()};
  } catch (const std::bad_alloc& none) {
    return {Errc::too_large, "There is not enough memory for this" + at + ".", none.what()};
  } catch (const std::length_error& much) {
    return {Errc::too_large, "This is more than fits into memory" + at + ".", much.what()};
  } catch (const std::filesystem::filesystem_error& e) {
    const std::string path = e.path1().empty() ? "without a name" : in_quotes(e.path1().string(), 120);
    return {
        Errc::cannot_write, "The file or folder " + path + " cannot be used: " + e.code().message() + ".", e.what()};
  } catch (const std::exception& e) {
    return {Errc::internal,
        "Noggin Awl met an error of its own" + at + ". Nothing was changed; save your work and report it.", e.what()};
  } catch (...) {
    return {Errc::internal,
        "Noggin Awl met an error of its own" + at + ". Nothing was changed; save your work and report it.", {}};
  }
}

}  // namespace awl
