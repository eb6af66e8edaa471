#pragma once
#include <QApplication>
#include <functional>
#include <utility>

#include "core/base/result.hpp"

namespace awl {

/// The application with a guard at its door: whatever is thrown while an event is handled becomes a sentence, and work
/// goes on.
class BenchApplication : public QApplication {
 public:
  BenchApplication(int& argc, char** argv);

  bool notify(QObject* receiver, QEvent* event) override;

  /// The longest that handling one event took since it was asked last, milliseconds.
  double takeLongestMs() { return std::exchange(m_longestMs, 0.0); }
  /// The QEvent::Type of that event.
  int longestWas() const { return m_longestWas; }

  /// What to do about it: save a recovery copy and say so. Faults within it are dropped.
  std::function<void(const Error& fault)> onFault;

 private:
  bool m_telling = false;
  int m_depth = 0;
  double m_longestMs = 0.0;
  int m_longestWas = 0;
};

}  // namespace awl
