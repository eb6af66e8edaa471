#pragma once
#include <QString>

#include "app/stand/painted_look.hpp"
#include "core/builds/build.hpp"

namespace awl {

/// How a build is painted once a step of its plan is done, or finished if none is chosen; null while there is no form
/// or no plan.
std::shared_ptr<const PaintedLook> lookAfter(const Build& build, const Derived& derived, const QString& step);

}  // namespace awl
