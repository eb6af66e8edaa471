#pragma once
#include <QString>

#include "core/derived/derived.hpp"

namespace awl {

/// What the stand shows, for those who hear the program: whose head, each part with its size, what is wrong first.
QString standInWords(const Build& build, const Derived& derived);
/// What the mat shows: how many pieces on which sheets, and each with its number and name.
QString matInWords(const Derived& derived);

}  // namespace awl
