#include "app/shell/stations.hpp"

#include "app/stations/book/book_station.hpp"
#include "app/stations/coat/coat_station.hpp"
#include "app/stations/dress/dress_station.hpp"
#include "app/stations/fit/fit_station.hpp"
#include "app/stations/foam/foam_station.hpp"
#include "app/stations/form/form_station.hpp"
#include "app/stations/head/head_station.hpp"
#include "app/stations/seams/seams_station.hpp"
#include "app/stations/tape/tape_station.hpp"

namespace awl {

std::vector<Station*> makeStations(const Workplace& place, QWidget* parent) {
  return {new TapeStation(place, parent), new HeadStation(place, parent), new FormStation(place, parent),
      new SeamsStation(place, parent), new FoamStation(place, parent), new FitStation(place, parent),
      new DressStation(place, parent), new CoatStation(place, parent), new BookStation(place, parent)};
}

}  // namespace awl
