#include "app/stations/tape/simulated_tape.hpp"

#include "app/stations/tape/tape_line.hpp"

namespace awl {

SimulatedTape::SimulatedTape(Truth truth, Habits habits, QObject* parent)
    : QObject(parent), m_truth(std::move(truth)), m_habits(habits), m_random(habits.seed) {
  m_alive.setInterval(tape_line::kAliveMs);
  m_repeat.setInterval(tape_line::kRepeatMs);
  connect(&m_alive, &QTimer::timeout, this, [this] { send("ALIVE"); });
  connect(&m_repeat, &QTimer::timeout, this, &SimulatedTape::sendReading);
  connect(&m_server, &QLocalServer::newConnection, this, &SimulatedTape::meet);
}

SimulatedTape::~SimulatedTape() {
  if (m_bench != nullptr) m_bench->disconnect(this);
}

bool SimulatedTape::listen(const QString& socket, QString* problem) {
  QLocalServer::removeServer(socket);
  if (m_server.listen(socket)) return true;
  if (problem != nullptr) *problem = m_server.errorString();
  return false;
}

void SimulatedTape::meet() {
  if (m_bench != nullptr) m_bench->deleteLater();
  m_bench = m_server.nextPendingConnection();
  m_bench->setReadBufferSize(tape_line::kMostWaiting);
  connect(m_bench, &QLocalSocket::readyRead, this, &SimulatedTape::take);
  connect(m_bench, &QLocalSocket::disconnected, this, [this, gone = m_bench] {
    gone->deleteLater();
    if (m_bench != gone) return;
    m_bench = nullptr;
    m_alive.stop();
    m_repeat.stop();
  });
  m_bench->write(tape_line::sealed("HELLO 1 simulated tape"));
  m_alive.start();
  if (!m_pending.isEmpty()) m_repeat.start();
}

void SimulatedTape::take() {
  while (m_bench != nullptr && m_bench->canReadLine()) {
    const auto body = tape_line::opened(m_bench->readLine(tape_line::kLongestLine + 1));
    if (!body) continue;
    if (body->startsWith("WANT ")) {
      m_wanted = QString::fromLatin1(body->mid(5));
      emit wantedChanged();
    } else if (body->startsWith("GOT ")) {
      if (!m_pending.isEmpty() && body->mid(4).toInt() == m_seq) ++m_taken, m_pending.clear(), m_repeat.stop();
    } else if (*body == "AGAIN") {
      sendReading();
    }
  }
}

void SimulatedTape::press() {
  const auto truth = m_truth(m_wanted);
  if (!truth) return;
  m_pending = "READ " + QByteArray::number(++m_seq) + ' ' +
      QByteArray::number(*truth + m_habits.noise_mm * m_random.normal(), 'f', 1);
  sendReading();
  if (m_bench != nullptr) m_repeat.start();
}

void SimulatedTape::sendReading() {
  if (!m_pending.isEmpty()) send(m_pending);
}

void SimulatedTape::send(const QByteArray& body) {
  if (m_bench == nullptr) return;
  QByteArray line = tape_line::sealed(body);
  if (m_random.uniform() < m_habits.spoilt_share) line[static_cast<int>(m_random.next() % (line.size() - 1))] = '?';
  m_bench->write(line);
  m_bench->flush();
}

void SimulatedTape::dropLine() {
  if (m_bench != nullptr) m_bench->abort();
}

}  // namespace awl
