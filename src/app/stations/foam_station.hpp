#pragma once
#include <QCheckBox>

#include "app/stations/station.hpp"
#include "app/tray/edge_tray.hpp"
#include "app/tray/machine_tray.hpp"
#include "app/tray/material_tray.hpp"
#include "app/tray/order_tray.hpp"
#include "app/tray/output_tray.hpp"
#include "app/tray/shop_tray.hpp"
#include "app/tray/stock_tray.hpp"
#include "app/tray/way_tray.hpp"

namespace awl {

/// Foam: what it is cut from and how, the sheets and offcuts, what it costs, and everything that goes to printer, knife
/// or bench.
class FoamStation : public Station {
  Q_OBJECT

 public:
  FoamStation(Document& document, const Chain& chain, Book& book, QWidget* parent);
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
  void entered() override;

 signals:
  /// A kind of exportBuild.
  void exportWanted(const QString& kind);
  /// The build sheet is to be read on screen.
  void sheetWanted();
  void photoWanted();
  /// One SVG a mat of the cutting machine.
  void machineFilesWanted(const std::vector<std::string>& svgs);

 private:
  void makeFoam();
  void offerKinds();
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
};

}  // namespace awl
