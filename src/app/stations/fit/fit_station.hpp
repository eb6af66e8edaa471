#pragma once
#include <QCheckBox>
#include <QListWidget>
#include <QPushButton>
#include <QSlider>
#include <QSpinBox>
#include <QTimer>

#include "app/desk/search.hpp"
#include "app/station/grip_drag.hpp"
#include "app/station/station.hpp"
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
  void addHold();
  void act(const QString& label, const std::string& act);
  const GoingOn* goingOn() const;
  const Slit* slit() const;
  const Hold* hold() const;
  const Room* room() const;
  void moveOn(int share);
  bool change(LengthField* field, const QString& label, const std::function<void(Build&)>& edit);
  void editHold(LengthField* field, const QString& label, const std::function<void(Hold&)>& edit);
  void editSlit(LengthField* field, const QString& label, const std::function<void(Slit&)>& edit);
  void editRoom(LengthField* field, const QString& label, const std::function<void(Room&)>& edit);
  void showGoingOn(const Build& build);
  void showInside(const Build& build);
  void showHolds(const Build& build);
  void showWords();

  Derived m_shown;
  QWidget* m_beside;
  SightView *m_sight, *m_other;
  RoomView* m_room;
  QComboBox *m_against, *m_part, *m_closedBy, *m_roomKind, *m_holdKind, *m_holdPart, *m_magnet;
  QLabel *m_onWords, *m_slitWords, *m_insideWords, *m_sightWords, *m_movingWords, *m_balanceWords, *m_holdWords,
      *m_airWords;
  QSlider* m_way;
  QTimer m_play;
  QPushButton *m_playButton, *m_slitBack, *m_slitSides, *m_slitGone, *m_roomGone, *m_holdGone;
  LengthField *m_slitLong, *m_slitOpens, *m_wig, *m_eyeHeight, *m_between, *m_wide;
  std::array<LengthField*, 3> m_roomSize, m_roomAt;
  QCheckBox* m_colours;
  QListWidget *m_rooms, *m_holds;
  QWidget* m_roomFacts;
  TrayGroup* m_holdFacts;
  QLabel* m_holdNone;
  QSpinBox* m_count;
  Search<std::shared_ptr<const Worn>> m_comparing;
  int m_compared = 0;  ///< the version whose view is shown beside; 0: none
  GripDrag m_grip;
  Search<std::shared_ptr<const Worn>> m_looking;
  bool m_lookAgain = false;  ///< the opening was moved on while it was looked out
  QString m_drawer, m_dragged;
  double m_dragStart = 0.0;
};

}  // namespace awl
