#include "app/stations/foam/bench_sheet.hpp"

#include <QHBoxLayout>
#include <QPainter>
#include <QScrollArea>
#include <QVBoxLayout>

#include "core/base/numbers.hpp"
#include "print/build_sheet.hpp"
#include "app/widgets/text.hpp"

namespace awl {
void StepPicture::show(const BuildStep& step) {
  m_step = step;
  update();
}

void StepPicture::paintEvent(QPaintEvent*) {
  if (m_step.adds.empty() || !m_derived.panels) return;
  QPainter painter(this);
  painter.setRenderHint(QPainter::Antialiasing);
  paintStep(painter, QRectF(rect()).adjusted(10, 10, -10, -10), m_derived, m_step);
}

BenchSheet::BenchSheet(Assembly assembly, Derived derived, const Glue& glue, QWidget* parent)
    : EyeDialog(parent), m_assembly(std::move(assembly)), m_derived(std::move(derived)), m_glue(glue),
      m_count(new QLabel(this)), m_title(new QLabel(this)), m_lines(new QLabel(this)), m_caution(new QLabel(this)),
      m_picture(new StepPicture(m_derived, this)), m_before(new QPushButton(tr("\u2039  Before"), this)),
      m_next(new QPushButton(tr("Next step  \u203a"), this)), m_wait(new QPushButton(this)),
      m_fan(new QPushButton(this)) {
  setObjectName(QStringLiteral("bench-sheet"));
  setWindowTitle(tr("Build sheet"));
  setWindowFlag(Qt::WindowMaximizeButtonHint);
  resize(1120, 720);
  QFont large = font();
  large.setPointSize(font().pointSize() + 6);
  QFont title = font();
  title.setPointSize(font().pointSize() + 12);
  title.setBold(true);
  m_count->setObjectName(QStringLiteral("sheet-count"));
  m_title->setObjectName(QStringLiteral("sheet-title"));
  m_title->setFont(title);
  m_lines->setObjectName(QStringLiteral("sheet-lines"));
  m_lines->setFont(large);
  m_caution->setObjectName(QStringLiteral("sheet-caution"));
  m_caution->setFont(large);
  m_caution->setProperty("warning", true);
  m_caution->setStyleSheet(QStringLiteral("color: #a8410f"));
  for (QLabel* label : {m_title, m_lines, m_caution}) label->setWordWrap(true);
  m_before->setObjectName(QStringLiteral("sheet-before"));
  m_next->setObjectName(QStringLiteral("sheet-next"));
  m_wait->setObjectName(QStringLiteral("sheet-wait"));
  m_fan->setObjectName(QStringLiteral("sheet-wait-fan"));
  m_next->setProperty("act", true);
  for (QPushButton* button : {m_before, m_next, m_wait, m_fan}) button->setFont(large), button->setMinimumHeight(58);
  m_picture->setMinimumWidth(380);
  auto* words = new QWidget(this);
  auto* column = new QVBoxLayout(words);
  column->addWidget(m_count), column->addWidget(m_title), column->addWidget(m_lines), column->addWidget(m_caution);
  column->addStretch(1);
  auto* scroll = new QScrollArea(this);
  scroll->setWidgetResizable(true);
  scroll->setFrameShape(QFrame::NoFrame);
  scroll->setWidget(words);
  auto* body = new QHBoxLayout;
  body->addWidget(scroll, 3);
  body->addWidget(m_picture, 2);
  auto* foot = new QHBoxLayout;
  foot->addWidget(m_before), foot->addWidget(m_wait), foot->addWidget(m_fan), foot->addStretch(1),
      foot->addWidget(m_next);
  auto* whole = new QVBoxLayout(this);
  whole->addLayout(body, 1);
  whole->addLayout(foot);
  connect(m_before, &QPushButton::clicked, this, [this] { goTo(m_at - 1); });
  connect(m_next, &QPushButton::clicked, this, [this] { goTo(m_at + 1); });
  const auto start = [this](DryingHelp help) {
    const BuildStep& s = m_assembly.steps[m_at];
    // The rail is narrow: "Glue on 3" of "Glue on 3, crown side".
    emit waitWanted(qs(s.title).section(QLatin1Char(','), 0, 0), glue_wait_min(s.glue.value_or(m_glue), 1, help),
        glue_open_min(s.glue.value_or(m_glue)), qs(s.meanwhile), qs(s.caution));
  };
  connect(m_wait, &QPushButton::clicked, this, [start] { start(DryingHelp::none); });
  connect(m_fan, &QPushButton::clicked, this, [start] { start(DryingHelp::fan); });
  goTo(0);
}

void BenchSheet::goTo(int step) {
  m_at = std::clamp(step, 0, count() - 1);
  const BuildStep& s = m_assembly.steps[m_at];
  m_count->setText(tr("Step %1 of %2: %3").arg(m_at + 1).arg(count()).arg(qs(name_of(s.kind))));
  m_title->setText(qs(s.title));
  QString lines;
  for (const std::string& line : s.lines)
    lines += QStringLiteral("<p style='margin-top:4px;margin-bottom:8px'>") + qs(line).toHtmlEscaped() +
        QStringLiteral("</p>");
  if (!s.meanwhile.empty())
    lines += QStringLiteral("<p style='margin-top:4px;margin-bottom:8px'><i>") +
        tr("While it tacks: %1.").arg(qs(s.meanwhile)).toHtmlEscaped() + QStringLiteral("</i></p>");
  m_lines->setText(lines);
  m_caution->setText(s.caution.empty() ? QString() : QStringLiteral("\u25b2 ") + qs(s.caution));
  m_caution->setVisible(!s.caution.empty());
  m_picture->setVisible(!s.adds.empty());
  m_picture->show(s);
  m_wait->setVisible(s.wait_min > 0.0);
  m_fan->setVisible(s.wait_min > 0.0);
  m_wait->setText(
      tr("Brushed: wait %1 min").arg(qs(fixed(glue_wait_min(s.glue.value_or(m_glue), 1, DryingHelp::none), 0))));
  m_fan->setText(tr("with a fan %1").arg(qs(fixed(glue_wait_min(s.glue.value_or(m_glue), 1, DryingHelp::fan), 0))));
  m_before->setEnabled(m_at > 0);
  m_next->setEnabled(m_at + 1 < count());
}

}  // namespace awl
