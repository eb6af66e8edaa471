#pragma once
#include <QListWidget>
#include <QPushButton>

#include "app/desk/search.hpp"
#include "app/station/station.hpp"
#include "app/stations/form/compare_tray.hpp"
#include "app/stations/form/meet_tray.hpp"
#include "app/station/dial_tray.hpp"
#include "app/station/grip_drag.hpp"
#include "app/stations/form/plate_table.hpp"
#include "app/stations/form/seat_row.hpp"
#include "core/geom/mirror_plane.hpp"
#include "core/geom/mending/mend.hpp"

namespace awl {

/// Form: the parts of a build, each from one of the five sources, with what can be set on it.
class FormStation : public Station {
  Q_OBJECT

 public:
  FormStation(const Workplace& place, QWidget* parent);
  StandChoice standChoice() const override;
  bool isDone(const Derived& d) const override { return d.form != nullptr; }
  bool owns(const Remark& r) const override {
    return isOf(r, {"form."}) || (isOf(r, {"chain."}) && r.where.starts_with("parts"));
  }
  bool isEnough(const Derived& d) const override { return d.form != nullptr; }
  void show(const Build& build, const Derived& derived) override;
  std::vector<Shot> shots() override;
  bool focusPlace(const QString& where) override;
  QString helpPage(const QWidget& control) const override;
  QWidget* beside() override { return m_table; }
  void setDark(bool dark) override { m_table->setDark(dark); }
  CompareTray& compare() { return *m_compare; }

  /// Adds a part from a ready start; it is taken in hand.
  bool addPreset(const QString& id);
  /// Brings a mesh in as a part, read and mended beside the window. What goes wrong is told at the remarks line.
  bool takesFile(const QString& ending) const override;
  void takeFile(const QString& path) override;
  void importMesh(const QString& path);
  /// The outline of what is on a picture, for the body at hand.
  void takeOutline(const QString& path);
  bool isImporting() const { return m_isImporting; }
  /// While three places are matched: a place of the mesh, then the same place on the head, three times.
  void placeClicked(const Vec3& place, bool on_head);
  /// A grip of the part at hand was dragged.
  void gripMoved(const QString& dial, double by, bool last) override;
  void headClicked(const Vec3& place) override { placeClicked(place, true); }
  void wornClicked(const Vec3& place) override { placeClicked(place, false); }
  void looked(const QString& view) override { m_compare->looked(view); }
  void backdropClicked(QPointF pixel) override { m_compare->pictureClicked(pixel); }
  const Reference* backdrop() const override { return m_compare->shown(); }

 private:
  void makeParts();
  void makeOwn();
  void showParts(const Build& build, const Derived& derived);
  void showFacts(const Build& build, const Derived& derived);
  /// The change of a build that edits the part at hand, refused if the part cannot be made.
  void changePart(const QString& label, const std::function<Result<Part>(Part)>& edit);
  /// A mesh read, mended and no finer than foam can show, with what was done to it.
  struct Imported {
    std::string file, name;
    Mended mended;
    UnitGuess unit;
    std::optional<MirrorPlane> plane;  ///< in which it is its own image, in its own frame
    UpGuess up;
  };
  void takeImported(const Imported& imported);
  void removeCurrent();
  void addRing(bool more);
  void addCard(bool more);
  void pickOutline();
  void remedyMesh(const QString& label, const std::function<Result<Mesh>(const Mesh&)>& act);
  void startMatching(bool on);
  const Part* part() const { return find_part(m_document.build(), m_document.partAtHand()); }

  const Chain& m_chain;
  QListWidget* m_list;
  QPushButton *m_add, *m_remove, *m_more, *m_less, *m_mend;
  QLineEdit* m_name;
  QComboBox *m_on, *m_thickness;
  QLabel *m_hint, *m_facts, *m_import;
  DialTray* m_dials;
  CompareTray* m_compare;
  MeetTray* m_meets;
  SeatRow* m_seat;
  PlateTable* m_table;
  std::vector<Vec3> m_onMesh, m_onHead;
  bool m_matching = false;
  QProgressBar* m_importBar;
  QPushButton* m_importStop;
  Search<Imported> m_importing;
  bool m_isImporting = false;  ///< until what was read is in the build, or told why not
  GripDrag m_grip{m_document, m_chain};
};

}  // namespace awl
