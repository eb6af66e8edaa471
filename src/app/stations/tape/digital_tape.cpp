#include "app/stations/tape/digital_tape.hpp"

#include <cmath>

#include "app/stations/tape/tape_line.hpp"

namespace awl {
namespace {

constexpr int kLongestName = 60;

}  // namespace

DigitalTape::DigitalTape(QObject* parent) : QObject(parent) {
  m_socket.setReadBufferSize(tape_line::kMostWaiting);
  m_retry.setSingleShot(true);
  m_retry.setInterval(1000);
  m_silence.setSingleShot(true);
  m_silence.setInterval(tape_line::kLostMs);
  connect(&m_retry, &QTimer::timeout, this, &DigitalTape::look);
  connect(&m_silence, &QTimer::timeout, this, &DigitalTape::lost);
  connect(&m_socket, &QLocalSocket::readyRead, this, &DigitalTape::take);
  connect(&m_socket, &QLocalSocket::connected, this, [this] {
    m_last = -1;
    m_silence.start();
  });
  connect(&m_socket, &QLocalSocket::disconnected, this, &DigitalTape::lost);
  connect(&m_socket, &QLocalSocket::errorOccurred, this, &DigitalTape::lost);
}

DigitalTape::~DigitalTape() {
  m_socket.disconnect(this);
  m_socket.abort();
}

void DigitalTape::connectTo(const QString& socket) {
  disconnectTape();
  m_path = socket;
  setState(State::looking);
  look();
}

void DigitalTape::disconnectTape() {
  setState(State::off);
  m_retry.stop();
  m_silence.stop();
  m_socket.abort();
}

void DigitalTape::setState(State state) {
  if (m_state == state) return;
  m_state = state;
  emit stateChanged();
}

void DigitalTape::look() {
  if (m_state != State::off && m_socket.state() == QLocalSocket::UnconnectedState) m_socket.connectToServer(m_path);
}

void DigitalTape::lost() {
  if (m_state == State::off) return;
  m_silence.stop();
  if (m_socket.state() != QLocalSocket::UnconnectedState) m_socket.abort();
  setState(State::looking);
  m_retry.start();
}

void DigitalTape::take() {
  if (m_socket.state() != QLocalSocket::ConnectedState) return;  // let go since it was put off
  m_silence.start();
  for (int lines = 0; m_socket.canReadLine(); ++lines) {
    // The window goes on beside a tape that never stops talking, and one that never listens is dropped.
    if (lines == tape_line::kMostLinesAtOnce) return QTimer::singleShot(0, this, &DigitalTape::take);
    if (m_socket.bytesToWrite() > tape_line::kMostWaiting) return lost();
    const QByteArray line = m_socket.readLine(tape_line::kLongestLine + 1);
    if (!line.endsWith('\n')) return lost();
    const auto body = tape_line::opened(line);
    if (body)
      obey(*body);
    else
      send("AGAIN");
  }
  if (m_socket.bytesAvailable() > tape_line::kLongestLine) lost();
}

void DigitalTape::obey(const QByteArray& body) {
  const QList<QByteArray> words = body.split(' ');
  if (words[0] == "HELLO") {
    m_name = QString::fromUtf8(words.mid(2).join(' ')).simplified().left(kLongestName);
    setState(State::ready);
    if (!m_wanted.isEmpty()) send("WANT " + m_wanted.toLatin1());
  } else if (words[0] == "READ" && words.size() == 3) {
    bool seq_good = false, mm_good = false;
    const int seq = words[1].toInt(&seq_good);
    const double mm = words[2].toDouble(&mm_good);
    if (!seq_good || !mm_good || !std::isfinite(mm)) return send("AGAIN");
    send("GOT " + words[1]);
    if (seq == m_last) return;
    m_last = seq;
    emit reading(mm);
  }
}

void DigitalTape::want(const QString& code) {
  if (m_wanted == code) return;
  m_wanted = code;
  if (m_state == State::ready) send("WANT " + code.toLatin1());
}

void DigitalTape::send(const QByteArray& body) {
  m_socket.write(tape_line::sealed(body));
  m_socket.flush();
}

}  // namespace awl
