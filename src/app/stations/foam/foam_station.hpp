#pragma once
#include <QCheckBox>

#include "app/station/station.hpp"
#include "app/stations/foam/edge_tray.hpp"
#include "app/stations/foam/machine_tray.hpp"
#include "app/stations/foam/material_tray.hpp"
#include "app/stations/foam/order_tray.hpp"
#include "app/stations/foam/output_tray.hpp"
#include "app/stations/foam/shop_tray.hpp"
#include "app/stations/foam/stock_tray.hpp"
#include "app/stations/foam/way_tray.hpp"

namespace awl {

/// Foam: what it is cut from and how, the sheets and offcuts, what it costs, and everything that goes to printer, knife
/// or bench.
class FoamStation : public Station {
  Q_OBJECT

 public:
  FoamStation(const Workplace& place, QWidget* parent);
  View view() const override { return View::standAndMat; }
  StandChoice standChoice() const override { return {false, true, false, true}; }
  StockTray& stock() { return *m_stock; }
  bool matMovable() const override { return true; }
  bool isDone(const Derived& d) const override { return d.layout != nullptr; }
  bool owns(const Remark& r) const override {
    return isOf(r, {"foam.", "make."}) ||
        (isOf(r, {"chain."}) && (r.where.starts_with("pieces/") || r.where.starts_with("foam")));
  }
  void show(const Build& build, const Derived& derived) override;
  std::vector<Shot> shots() override;
  void entered() override;

  void copyLaid(const HeldCopy& copy) override;
  void copyReleased(const QString& piece, int copy) override;

 private:
  /// The build sheet, step by step, in a window of its own.
  void readSheet();
  /// An offcut traced on a photograph.
  void tracePhoto();
  /// One SVG a mat of the cutting machine, into a folder.
  void saveForMachine();
  void makeFoam();
  void offerKinds();
  void showOpen(const Build& build, const Derived& derived);
  void offerThickness(const Build& build);
  QString factsOf(const Foam& foam, const Build& build) const;

  const Chain& m_chain;
  QComboBox *m_foam, *m_thickness;
  QCheckBox* m_heated;
  QLabel* m_facts;
  MaterialTray* m_material;
  EdgeTray* m_edges;
  OrderTray* m_order;
  StockTray* m_stock;
  ShopTray* m_shop;
  WayTray* m_way;
  OutputTray* m_output;
  MachineTray* m_machine;
  std::string m_offered;
  Derived m_derived;  ///< as last shown
};

}  // namespace awl
