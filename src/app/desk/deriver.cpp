#include "app/desk/deriver.hpp"

#include <QMetaObject>
#include <QPointer>

namespace awl {

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
    const Derived d = chain->derive(
        build, Progress([&](double) { return wanted(); }), [&](const Derived& so_far) { send(so_far, false); });
    send(d, true);
  });
}

void Deriver::receive(int generation, const Derived& d, bool finished) {
  if (generation != m_generation->load()) return;
  m_ahead = finished ? Derived{} : d;
  if (finished) m_latest = d;
  if (finished) m_busy = false;
  emit updated();
  if (finished) emit busyChanged(false);
}

}  // namespace awl
