#pragma once
#include <QObject>
#include <QThreadPool>
#include <atomic>
#include <memory>

#include "core/chain/chain.hpp"

namespace awl {

/// Runs the chain off the interface thread. A newer request cancels the running one; late results are dropped.
class Deriver : public QObject {
  Q_OBJECT

 public:
  explicit Deriver(std::shared_ptr<const Chain> chain, QObject* parent = nullptr);
  ~Deriver() override;

  void request(const Build& build);
  bool isBusy() const { return m_busy; }
  /// The last generation that came to its end, whole.
  const Derived& latest() const { return m_latest; }
  /// What there is so far of the generation being worked out, and nothing of any other; empty when it is done.
  const Derived& ahead() const { return m_ahead; }
  /// Whether what is said of the latest generation as worn is still to come: it follows once nothing was changed for a
  /// moment, beside all else.
  bool isFitting() const { return m_fitting; }

 signals:
  /// After the stages worth seeing, and once more when done.
  void updated();
  void busyChanged(bool busy);
  /// What is said of it as worn has come.
  void fitted();

 private:
  void receive(int generation, const Derived& derived, bool finished);
  void receiveWorn(int generation, const Derived& derived);

  std::shared_ptr<const Chain> m_chain;
  QThreadPool m_pool;
  std::shared_ptr<std::atomic<int>> m_generation = std::make_shared<std::atomic<int>>(0);
  Derived m_latest, m_ahead;
  bool m_busy = false, m_fitting = false;
};

}  // namespace awl
