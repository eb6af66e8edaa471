#pragma once
#include <QCheckBox>
#include <QPushButton>

#include "app/station/station.hpp"

namespace awl {

/// Part of the tray: a head scan as another source, its places shown on the stand one after the other.
class ScanTray : public QObject {
  Q_OBJECT

 public:
  ScanTray(Station* station, Document& document, const Chain& chain, TrayGroup* group);
  void show(const Build& build, const Derived& derived);
  /// The scan to show alone while places are being pointed out; null otherwise.
  std::shared_ptr<const Scan> rawScan() const;
  bool isMarking() const { return m_marking.has_value(); }
  /// A place was clicked on the raw scan, in the frame of the stand.
  void placeClicked(const Vec3& at);
  /// Reads a scan, guesses its unit, and begins asking for places.
  void read(const QString& path);

 signals:
  void fileWanted();
  void told(const QString& sentence);
  void standChanged();

 private:
  /// Lays out the buttons; answers the one that tries a simulated scan.
  QPushButton* addButtons(QWidget* parent, TrayGroup* group);
  void change(const QString& label, const std::function<void(HeldScan&)>& edit);
  void mark(std::optional<Landmark> landmark);
  void simulate(const Chain& chain);

  Document& m_document;
  std::map<Landmark, QPushButton*> m_places;
  QCheckBox* m_use;
  QPushButton* m_remove;
  QLabel* m_state;
  std::optional<Landmark> m_marking;
};

}  // namespace awl
