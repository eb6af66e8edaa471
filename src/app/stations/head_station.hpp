#pragma once
#include <QTableWidget>

#include "app/stations/station.hpp"

namespace awl {

/// Head: the wearer's headform, and what a tape on it reads.
class HeadStation : public Station {
  Q_OBJECT

 public:
  HeadStation(Document& document, QWidget* parent);
  StandChoice standChoice() const override { return {true, false, false, false}; }
  void show(const Build& build, const Derived& derived) override;

 private:
  QTableWidget* m_table;
  QLabel* m_summary;
};

}  // namespace awl
