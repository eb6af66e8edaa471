#include "app/jobs/deriver.hpp"

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
  if (finished) {
    m_latest = d;
  } else {
    // What is being renewed stays visible as it was.
    if (d.head) {
      m_latest.head = d.head, m_latest.tapes = d.tapes, m_latest.scan = d.scan, m_latest.short_list = d.short_list,
      m_latest.next = d.next;
      m_latest.check = d.check, m_latest.built = d.built, m_latest.check_error = d.check_error;
    }
    if (d.form) m_latest.form = d.form;
    // Panels, pieces and sheets belong together and change together, at the end.
  }
  if (finished) m_busy = false;
  emit updated();
  if (finished) emit busyChanged(false);
}

}  // namespace awl
