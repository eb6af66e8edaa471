#pragma once
#include <QApplication>
#include <functional>

#include "core/base/result.hpp"

namespace awl {

/// The application with a guard at its door: whatever is thrown while an event is handled becomes a sentence, and work
/// goes on.
class BenchApplication : public QApplication {
 public:
  BenchApplication(int& argc, char** argv);

  bool notify(QObject* receiver, QEvent* event) override;

  /// What to do about it: save a recovery copy and say so. Faults within it are dropped.
  std::function<void(const Error& fault)> onFault;

 private:
  bool m_telling = false;
};

}  // namespace awl
