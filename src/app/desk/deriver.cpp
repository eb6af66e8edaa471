#include "app/desk/deriver.hpp"

#include <QMetaObject>
#include <QPointer>
#include <QThread>

#include "core/base/give_way.hpp"
#include "core/chain/questions.hpp"

namespace awl {
namespace {

constexpr int kRestMs = 250, kLookMs = 10;

}  // namespace

Deriver::Deriver(std::shared_ptr<const Chain> chain, QObject* parent) : QObject(parent), m_chain(std::move(chain)) {
  m_pool.setMaxThreadCount(1);
}

Deriver::~Deriver() {
  ++*m_generation;
  m_pool.waitForDone();
}

void Deriver::request(const Build& build) {
  const int generation = ++*m_generation;
  m_ahead = {};
  if (!m_busy) {
    m_busy = true;
    emit busyChanged(true);
  }
  m_pool.clear();
  m_pool.start([this, chain = m_chain, build, generation, current = m_generation] {
    const auto wanted = [&] { return current->load() == generation; };
    const auto send = [&](const Derived& d, bool finished) {
      if (wanted())
        QMetaObject::invokeMethod(
            this, [this, generation, d, finished] { receive(generation, d, finished); }, Qt::QueuedConnection);
    };
    if (!wanted()) return;
    give_way();
    const Derived d = chain->derive(
        build, Progress([&](double) { return wanted(); }), [&](const Derived& so_far) { send(so_far, false); });
    send(d, true);
    // Beside the chain: what a maker changes in a moment is not fitted first.
    for (int waited = 0; waited < kRestMs && wanted(); waited += kLookMs) QThread::msleep(kLookMs);
    if (!wanted() || d.error) return;
    const Derived with = with_worn(*chain, build, d, Progress([&](double) { return wanted(); }));
    if (wanted())
      QMetaObject::invokeMethod(
          this, [this, generation, with] { receiveWorn(generation, with); }, Qt::QueuedConnection);
  });
}

void Deriver::receive(int generation, const Derived& d, bool finished) {
  if (generation != m_generation->load()) return;
  if (finished) m_fitting = !d.error;
  m_ahead = finished ? Derived{} : d;
  if (finished) m_latest = d;
  if (finished) m_busy = false;
  emit updated();
  if (finished) emit busyChanged(false);
}

void Deriver::receiveWorn(int generation, const Derived& d) {
  if (generation != m_generation->load()) return;
  m_fitting = false;
  m_latest = d;
  emit updated();
  emit fitted();
}

}  // namespace awl
