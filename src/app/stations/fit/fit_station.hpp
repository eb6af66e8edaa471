#pragma once
#include <QCheckBox>
#include <QListWidget>
#include <QPushButton>
#include <QSlider>
#include <QTimer>

#include "app/desk/search.hpp"
#include "app/station/grip_drag.hpp"
#include "app/station/dial_fields.hpp"
#include "core/chain/questions.hpp"
#include "app/stations/fit/hold_tray.hpp"
#include "app/stations/fit/room_view.hpp"
#include "app/stations/fit/sight_view.hpp"

namespace awl {

/// Fit: worn before it is cut. Whether it goes on, what is seen, how far one can turn, what it weighs and how it holds.
class FitStation : public Station {
  Q_OBJECT

 public:
  FitStation(const Workplace& place, QWidget* parent);
  StandChoice standChoice() const override;
  bool isDone(const Derived& d) const override { return d.worn != nullptr; }
  bool owns(const Remark& r) const override { return isOf(r, {"fit."}); }
  void show(const Build& build, const Derived& derived) override;
  std::vector<Shot> shots() override;
  bool focusPlace(const QString& where) override;
  QWidget* beside() override { return m_beside; }
  void entered() override;
  void setDark(bool dark) override {
    m_sight->setDark(dark);
    m_other->setDark(dark);
  }
  void gripMoved(const QString& dial, double by, bool last) override;
  SightView& sight() { return *m_sight; }
  SightView& other() { return *m_other; }
  RoomView& wearersView() { return *m_room; }

 private:
  QLabel* addWords(TrayGroup* group, const QString& name);
  void addGoingOn();
  void addInside();
  void addSight();
  void addMoving();
  void showVersions(const Build& build);
  void compare();
  void lookOut();
  void lookAtReport();
  void act(const QString& label, const std::string& act);
  const GoingOn* goingOn() const;
  const Slit* slit() const;
  const Room* room() const;
  void moveOn(int share);
  void showGoingOn(const Build& build);
  void showInside(const Build& build);
  void showWords();

  Derived m_shown;
  DialFields *m_fit, *m_slits, *m_roomDials;
  QWidget* m_beside;
  SightView *m_sight, *m_other;
  RoomView* m_room;
  QComboBox *m_against, *m_part, *m_closedBy, *m_roomKind;
  QLabel *m_onWords, *m_slitWords, *m_insideWords, *m_sightWords, *m_movingWords, *m_balanceWords, *m_airWords;
  QSlider* m_way;
  QTimer m_play;
  QPushButton *m_playButton, *m_slitBack, *m_slitSides, *m_slitGone, *m_roomGone;
  LengthField *m_slitLong, *m_slitOpens, *m_eyeHeight;
  QCheckBox* m_colours;
  QListWidget* m_rooms;
  QWidget* m_roomFacts;
  HoldTray* m_hold;
  Search<std::shared_ptr<const Worn>> m_comparing;
  int m_compared = 0;  ///< the version whose view is shown beside; 0: none
  GripDrag m_grip;
  /// Filled by the first look of a drag, off this thread; looks never run side by side.
  using Opening = std::shared_ptr<const OpeningLook>;
  std::shared_ptr<Opening> m_opening = std::make_shared<Opening>();
  Search<std::shared_ptr<const Worn>> m_looking;
  bool m_lookAgain = false;  ///< the opening was moved on while it was looked out
  QString m_drawer, m_dragged;
  double m_dragStart = 0.0;
};

}  // namespace awl
