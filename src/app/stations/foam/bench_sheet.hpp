#pragma once
#include <QLabel>
#include <QPushButton>

#include "app/desk/tab_order.hpp"
#include "core/steps/assembly.hpp"

namespace awl {

class StepPicture;

/// The build sheet on screen, a step at a time, in type to be read from the bench.
class BenchSheet : public EyeDialog {
  Q_OBJECT

 public:
  BenchSheet(Assembly assembly, Derived derived, const Glue& glue, QWidget* parent = nullptr);
  int step() const { return m_at; }
  int count() const { return static_cast<int>(m_assembly.steps.size()); }
  void goTo(int step);

 signals:
  void waitWanted(
      const QString& label, double wait_min, double open_min, const QString& meanwhile, const QString& caution);

 private:
  Assembly m_assembly;
  Derived m_derived;
  Glue m_glue;
  int m_at = 0;
  QLabel *m_count, *m_title, *m_lines, *m_caution;
  StepPicture* m_picture;
  QPushButton *m_before, *m_next, *m_wait, *m_fan;
};

/// The picture of one step.
class StepPicture : public QWidget {
  Q_OBJECT

 public:
  StepPicture(const Derived& derived, QWidget* parent) : QWidget(parent), m_derived(derived) {}
  void show(const BuildStep& step);

 protected:
  void paintEvent(QPaintEvent* event) override;

 private:
  const Derived& m_derived;
  BuildStep m_step;
};

}  // namespace awl
