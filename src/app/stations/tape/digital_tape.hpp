#pragma once
#include <QLocalSocket>
#include <QTimer>

namespace awl {

/// A digital tape on a local socket: press its button and a reading arrives. Simulated and real ones speak alike.
///
/// A lost connection is tried again every second until disconnected; spoilt lines are asked for again; a reading sent
/// twice counts once. Protocol: docs/formats/digital-tape.md.
class DigitalTape : public QObject {
  Q_OBJECT

 public:
  enum class State { off, looking, ready };

  explicit DigitalTape(QObject* parent = nullptr);
  ~DigitalTape() override;

  void connectTo(const QString& socket);
  void disconnectTape();
  State state() const { return m_state; }
  QString name() const { return m_name; }
  QString socket() const { return m_path; }
  /// Tells the tape which measure is being waited for.
  void want(const QString& code);

 signals:
  void stateChanged();
  void reading(double mm);

 private:
  void setState(State state);
  void look();
  void lost();
  void take();
  void obey(const QByteArray& body);
  void send(const QByteArray& body);

  QLocalSocket m_socket;
  QTimer m_retry, m_silence;
  QString m_path, m_name, m_wanted;
  State m_state = State::off;
  int m_last = -1;
};

}  // namespace awl
