#pragma once
#include <vector>

#include "app/station/station.hpp"

namespace awl {

/// All stations there are, in the order of the work. The only place outside their folders that knows their names.
std::vector<Station*> makeStations(const Workplace& place, QWidget* parent);

}  // namespace awl
