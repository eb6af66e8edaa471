#pragma once
#include <QFrame>
#include <QLabel>
#include <QPushButton>
#include <functional>
#include <vector>

#include "core/builds/build.hpp"

namespace awl {

/// What a walk sees of the bench: the build, where the maker is.
struct WalkSight {
  Build build;
  QString station, drawer;
};

/// A first walk through the work, stop by stop; each waits for the maker's own hands.
class Walk : public QFrame {
  Q_OBJECT

 public:
  explicit Walk(QWidget* parent);

  void begin(const WalkSight& sight);
  /// Goes on if what the stop asks for was done.
  void see(const WalkSight& sight);
  bool isOn() const { return m_at >= 0; }
  int stop() const { return m_at; }
  static int stops();

 private:
  struct Start {
    std::size_t parts = 0;
    double head_mm = 0.0;
    std::vector<Part> made;
  };
  struct Stop {
    QString words;
    std::function<bool(const WalkSight&, const Start&)> reached;
  };
  static std::vector<Stop> all();
  void goTo(int stop);
  void renew();

  int m_at = -1;
  Start m_start;
  std::vector<Stop> m_stops;
  QLabel* m_words;
  QPushButton *m_skip, *m_end;
  WalkSight m_seen;  ///< last
};

}  // namespace awl
