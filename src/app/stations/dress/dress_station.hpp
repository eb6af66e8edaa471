#pragma once
#include <QCheckBox>
#include <QLineEdit>
#include <QListWidget>
#include <QPushButton>

#include "app/desk/search.hpp"
#include "app/station/dial_tray.hpp"
#include "app/station/station.hpp"
#include "core/derived/part_lines.hpp"

namespace awl {

/// Dress: details on the parts, each along a line or at a place of the form.
class DressStation : public Station {
  Q_OBJECT

 public:
  DressStation(const Workplace& place, QWidget* parent);
  View view() const override { return View::standAndMat; }
  int standShare() const override { return 60; }
  StandChoice standChoice() const override;
  bool isDone(const Derived& d) const override { return d.pieces != nullptr; }
  bool owns(const Remark& r) const override {
    return isOf(r, {"dress."}) || (isOf(r, {"chain."}) && r.where.starts_with("dress"));
  }
  void show(const Build& build, const Derived& derived) override;
  std::vector<Shot> shots() override;
  bool focusPlace(const QString& where) override;
  QString helpPage(const QWidget& control) const override;
  void entered() override;
  void wornClicked(const Vec3& place) override;
  void markerMoved(const QString& marker, const Vec3& place, bool whole, bool last) override;
  void gripMoved(const QString& dial, double by, bool last) override;
  void pieceClicked(int piece, const Vec2& at, bool flipped) override;
  /// The detail chosen in the list; null without one.
  const Detail* chosen() const;
  void choose(int id);

 private:
  void addList();
  void addLine();
  void addShape();
  void addNumbers();
  void act(const QString& label, const std::string& act, const QString& gesture = {});
  void setDrawing(bool on);
  void takeLine();
  void mark(const Vec3& on_form);
  void showList(const Build& build);
  void showLines();
  void showChosen(const Build& build);
  void renewLines();
  const PartGround* ground() const;
  const PartForm* formOf(int part) const;
  const Dressed* dressedOf(int detail) const;
  /// The markers of a detail as a drawn line, to be shown and dragged.
  DrawnSeam lineOf(const Detail& detail) const;

  Derived m_shown;
  int m_chosen = 0;
  QListWidget* m_list;
  QComboBox *m_part, *m_kind, *m_line, *m_stuff;
  QLineEdit* m_name;
  QCheckBox *m_both, *m_feet;
  QPushButton *m_draw, *m_clear, *m_gone, *m_across;
  QLabel *m_none, *m_hint, *m_lineWords, *m_numbers;
  DialTray *m_shape, *m_lineDials;
  mutable std::shared_ptr<const PartGround> m_ground;
  Search<std::vector<PartLine>> m_looking;
  std::vector<PartLine> m_lines;
  const PartForm* m_linesOf = nullptr;  ///< compared only
  bool m_drawing = false;
  std::optional<Detail> m_dragged;
  QString m_grip;  ///< the dial that is being dragged
  double m_gripStart = 0.0;
};

}  // namespace awl
