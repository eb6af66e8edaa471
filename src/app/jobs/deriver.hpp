#pragma once
#include <QObject>
#include <QThreadPool>
#include <atomic>
#include <memory>

#include "core/builds/chain.hpp"

namespace awl {

/// Runs the chain off the interface thread. A newer request cancels the running one; late results are dropped.
class Deriver : public QObject {
  Q_OBJECT

 public:
  explicit Deriver(std::shared_ptr<const Chain> chain, QObject* parent = nullptr);
  ~Deriver() override;

  void request(const Build& build);
  bool isBusy() const { return m_busy; }
  const Derived& latest() const { return m_latest; }

 signals:
  /// After each stage, and once more when done; the last good parts stay in place of those being renewed.
  void updated();
  void busyChanged(bool busy);

 private:
  void receive(int generation, const Derived& derived, bool finished);

  std::shared_ptr<const Chain> m_chain;
  QThreadPool m_pool;
  std::shared_ptr<std::atomic<int>> m_generation = std::make_shared<std::atomic<int>>(0);
  Derived m_latest;
  bool m_busy = false;
};

}  // namespace awl
