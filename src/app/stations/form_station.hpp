#pragma once
#include <QListWidget>
#include <QPushButton>

#include "app/stations/station.hpp"
#include "app/tray/compare_tray.hpp"
#include "app/tray/dial_tray.hpp"
#include "app/widgets/plate_table.hpp"

namespace awl {

/// Form: the parts of a build, each from one of the five sources, with what can be set on it.
class FormStation : public Station {
  Q_OBJECT

 public:
  FormStation(Document& document, const Chain& chain, QWidget* parent);
  StandChoice standChoice() const override;
  void show(const Build& build, const Derived& derived) override;
  bool focusPlace(const QString& where) override;
  QWidget* beside() override { return m_table; }
  void setDark(bool dark) override { m_table->setDark(dark); }
  CompareTray& compare() { return *m_compare; }

  /// Adds a part from a ready start; it is taken in hand.
  bool addPreset(const QString& id);
  /// Brings a mesh in as a part. Errors: those of reading and mending, told at the remarks line.
  bool importMesh(const QString& path);
  /// While three places are matched: a place of the mesh, then the same place on the head, three times.
  void placeClicked(const Vec3& place, bool on_head);
  /// A grip of the part at hand was dragged.
  void gripMoved(const QString& dial, double by, bool last);

 signals:
  void importWanted();
  void galleryWanted();
  /// What is being dragged reads now.
  void gripText(const QString& text);

 private:
  void makeParts();
  void makeOwn();
  void showParts(const Build& build, const Derived& derived);
  void showFacts(const Build& build, const Derived& derived);
  /// The change of a build that edits the part at hand, refused if the part cannot be made.
  void changePart(const QString& label, const std::function<Result<Part>(Part)>& edit);
  void removeCurrent();
  void addRing(bool more);
  void addCard(bool more);
  void simplify();
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
  PlateTable* m_table;
  std::vector<Vec3> m_onMesh, m_onHead;
  bool m_matching = false;
  QString m_dragged;
  double m_dragStart = 0.0;
};

}  // namespace awl
