#pragma once
#include <QLocalServer>
#include <QLocalSocket>
#include <QTimer>
#include <functional>
#include <optional>

#include "core/base/random.hpp"

namespace awl {

/// Stands in for a digital tape: measures a head that is known, with a hand that trembles and a line that crackles.
class SimulatedTape : public QObject {
  Q_OBJECT

 public:
  struct Habits {
    double noise_mm = 1.0;      ///< standard deviation of the hand
    double spoilt_share = 0.0;  ///< of the lines sent
    std::uint64_t seed = 5;
  };
  /// What a measure truly is; nothing for codes it does not know.
  using Truth = std::function<std::optional<double>(const QString& code)>;

  SimulatedTape(Truth truth, Habits habits, QObject* parent = nullptr);
  ~SimulatedTape() override;

  /// Listens on a local socket. False if the name is taken; `problem` says why.
  bool listen(const QString& socket, QString* problem = nullptr);
  /// Its button: sends one reading of what is wanted.
  void press();
  /// The connection breaks, and comes back if the bench looks for it again.
  void dropLine();
  QString wanted() const { return m_wanted; }
  bool isConnected() const { return m_bench != nullptr; }
  int readingsTaken() const { return m_taken; }

 signals:
  void wantedChanged();

 private:
  void meet();
  void take();
  void send(const QByteArray& body);
  void sendReading();

  Truth m_truth;
  Habits m_habits;
  Random m_random;
  QLocalServer m_server;
  QLocalSocket* m_bench = nullptr;
  QTimer m_alive, m_repeat;
  QString m_wanted;
  QByteArray m_pending;  ///< reading not answered yet
  int m_seq = 0, m_taken = 0;
};

}  // namespace awl
