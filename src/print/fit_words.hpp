#pragma once
#include <QString>

#include "core/derived/derived.hpp"
#include "core/fit/worn.hpp"

namespace awl {

// What the Fit station says, in a maker's words. Each is a few short lines; "being tried on" while nothing is known.
QString goingOnWords(const GoingOn& on, const Build& build);
QString insideWords(const Derived& d);
QString sightWords(const Derived& d);
QString movingWords(const Derived& d);
QString balanceWords(const Derived& d);
QString airWords(const Derived& d);
QString holdWords(const Derived& d, const Hold& hold);
/// What the fittings of a part come to, or `none`.
QString fittingWords(const Derived& d, int part, const QString& none);

}  // namespace awl
