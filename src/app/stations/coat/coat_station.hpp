#pragma once
#include <QDateEdit>
#include <QListWidget>
#include <QTimeEdit>
#include <QToolButton>

#include "app/station/dial_fields.hpp"
#include "app/stations/coat/coat_look.hpp"
#include "app/stations/coat/colour_tray.hpp"
#include "app/stations/coat/plan_page.hpp"
#include "core/io/shop_jobs.hpp"

namespace awl {

/// Coat: products, ways, colours, and the plan that says what to do next and whether it is ready by the day.
class CoatStation : public Station {
  Q_OBJECT

 public:
  CoatStation(const Workplace& place, QWidget* parent);
  QWidget* beside() override { return m_page; }
  StandChoice standChoice() const override;
  bool isDone(const Derived& d) const override { return d.plan != nullptr; }
  bool owns(const Remark& r) const override {
    return isOf(r, {"coat."}) || (isOf(r, {"chain."}) && r.where.starts_with("coat"));
  }
  void show(const Build& build, const Derived& derived) override;
  std::vector<Shot> shots() override;
  void entered() override;
  void wornClicked(const Vec3& place) override;
  PlanPage& plan() { return *m_page; }
  /// The time of day; a test may set another clock.
  std::function<Moment()> now;

 private:
  void addProducts();
  void addWays();
  void addSeamLooks();
  void addDays();
  void addRoom();
  void addNeeds();
  void addPrice();
  void addDay(TrayGroup* group, QDateEdit* edit, const QString& name, const QString& label, Day CoatSpec::*field);
  void act(const QString& label, const std::string& act);
  void begin(const QString& id);
  void tick(const QString& id, bool done);
  void showJoints(const Build& build);
  void showDays(const Build& build);
  void showNeeds();
  void showPrice();
  void showFittings();
  void note(const QString& id, const QString& text);
  QComboBox* addJoints(TrayGroup* group, const QString& name);
  const PlannedStep* step(const QString& id) const;

  Derived m_shown;
  PlanPage* m_page;
  ColourTray* m_colours;
  std::shared_ptr<const PaintedLook> m_look;
  QString m_chosen;  ///< the look on the stand is that after this step; empty: finished
  QString m_begun;
  Moment m_begunAt = 0;
  int m_work = 0;  ///< of the book, while it goes on

  DialFields *m_coat, *m_rates;
  QComboBox *m_joint, *m_jointGlue, *m_seamJoint, *m_seamLook, *m_seams;
  QSpinBox* m_passes;
  QDateEdit *m_start, *m_due, *m_closedDay, *m_outdoorDay;
  QTimeEdit* m_opens;
  std::array<QToolButton*, 7> m_week{};
  QLabel *m_closedText, *m_outdoorText, *m_needs, *m_quote;
};

}  // namespace awl
