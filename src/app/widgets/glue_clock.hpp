#pragma once
#include <QTimer>
#include <QVBoxLayout>
#include <QWidget>

#include "app/desk/book.hpp"

namespace awl {

/// Waits that run, at the rail's foot: what dries, how long still, and what happens if it is left too long. They are in
/// the shop book and go on when the program is closed.
class GlueClock : public QWidget {
  Q_OBJECT

 public:
  explicit GlueClock(Book& book, QWidget* parent = nullptr);

  /// Starts one now. `open_min` 0: it does not matter when it is joined after that.
  Result<int> start(
      const QString& label, double wait_min, double open_min, const QString& meanwhile, const QString& caution);
  void end(int id);
  /// Seconds since 1970; a test may set another clock.
  std::function<std::int64_t()> now;
  const std::vector<RunningWait>& waits() const { return m_waits; }
  void renew();

 signals:
  /// A wait has just come to its end, or has just been left too long.
  void told(const QString& sentence);

 private:
  void tick();

  Book& m_book;
  QTimer m_timer;
  QVBoxLayout* m_column;
  std::vector<RunningWait> m_waits;
  std::map<int, int> m_said;  ///< how far each has been told of: 1 ready, 2 too long
};

/// "4:05 still", "join it now, until 14:20", "left too long: brush it again".
QString wordsOf(const RunningWait& wait, std::int64_t now_s);

}  // namespace awl
