#pragma once
#include <QComboBox>
#include <QLabel>
#include <QListWidget>
#include <QPushButton>
#include <QSlider>
#include <QTimer>

#include "app/desk/tab_order.hpp"
#include "core/io/cutting_machine.hpp"

namespace awl {

/// The mat with what is cut already, what is still to cut, and the knife.
class CutView : public QWidget {
  Q_OBJECT

 public:
  explicit CutView(QWidget* parent = nullptr);
  using QWidget::show;
  void show(const CutJob& job, const MachineFacts& facts);
  void setState(const MachineState& state, const std::vector<MachineEvent>& events);

 protected:
  void paintEvent(QPaintEvent*) override;

 private:
  CutJob m_job;
  MachineFacts m_facts;
  MachineState m_state;
  std::vector<MachineEvent> m_events;
};

/// Plays the files of a cutting machine on one that is not there: time, and what would go wrong, before any foam is
/// spoilt.
class CutRehearsal : public EyeDialog {
  Q_OBJECT

 public:
  CutRehearsal(std::vector<std::string> svgs, const MachineFacts& facts, QWidget* parent = nullptr);
  const MachineState& state() const { return m_state; }
  void play(bool on);
  /// Goes to a moment, in seconds.
  void seek(double seconds);

 private:
  void takeMat(int mat);
  void renew();

  std::vector<std::string> m_svgs;
  std::unique_ptr<CuttingMachine> m_machine;
  CutJob m_job;
  MachineState m_state;
  CutView* m_view;
  QComboBox *m_mat, *m_speed;
  QPushButton* m_play;
  QSlider* m_time;
  QLabel* m_said;
  QListWidget* m_list;
  QTimer m_tick;
};

}  // namespace awl
