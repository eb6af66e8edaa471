#include "app/stations/coat/plan_view.hpp"
#include "app/widgets/text.hpp"

#include <QPainter>
#include <QPainterPath>
#include <algorithm>
#include <cmath>

namespace awl {
namespace {

constexpr double kDayMin = 1440.0;
constexpr int kHead = 84, kWhen = 124, kLeft = 20;
constexpr double kBarShare = 0.34;  // of the width, for the calendar

}  // namespace

PlanView::PlanView(QWidget* parent) : QWidget(parent) {
  setObjectName(QStringLiteral("plan"));
  setAccessibleName(tr("Finishing plan"));
  setMinimumWidth(680);
}

void PlanView::show(std::shared_ptr<const Plan> plan, const CoatSpec& spec) {
  m_plan = std::move(plan);
  m_spec = spec;
  setAccessibleDescription(headline());
  layOut();
  update();
}

QRectF PlanView::wordsOf(double y) const {
  return {kLeft + kWhen + 8.0, y + 5.0, (1.0 - kBarShare) * width() - kLeft - kWhen - 24.0, 1000.0};
}

QString PlanView::detailOf(const PlannedStep& step) const {
  QStringList lines;
  if (!step.caution.empty()) lines << qs(step.caution);
  if (step.wait_min > 0.0) lines << tr("Then it waits %1.").arg(qs(duration_text(step.wait_min)));
  return lines.join(QLatin1Char(' '));
}

/// Rows as high as their words need: no caution is ever cut short.
void PlanView::layOut() {
  m_tops.clear();
  double y = kHead;
  QFont bold = font(), small = font();
  bold.setWeight(QFont::DemiBold), small.setPointSizeF(font().pointSizeF() * 0.86);
  if (m_plan)
    for (const PlannedStep& step : m_plan->steps) {
      m_tops.push_back(y);
      const QRectF words = wordsOf(y);
      const double name = QFontMetricsF(bold).boundingRect(words, Qt::TextWordWrap, qs(step.name)).height();
      const double detail = detailOf(step).isEmpty()
          ? 0.0
          : QFontMetricsF(small).boundingRect(words, Qt::TextWordWrap, detailOf(step)).height();
      y += std::max(48.0, name + detail + 14.0);
    }
  m_tops.push_back(y);
  setMinimumHeight(static_cast<int>(y) + 16);
}

void PlanView::resizeEvent(QResizeEvent*) { layOut(); }

QString PlanView::headline() const {
  if (!m_plan) return tr("No plan yet");
  const QString ready = tr("Ready %1 at %2").arg(qs(m_plan->ready_day.spoken()), qs(clock_text(m_plan->ready_min)));
  return m_plan->spare_min >= 0.0 ? tr("%1, %2 to spare").arg(ready, qs(duration_text(m_plan->spare_min)))
                                  : tr("%1, %2 too late").arg(ready, qs(duration_text(-m_plan->spare_min)));
}

void PlanView::paintBars(QPainter& painter, const PlannedStep& step, const QRectF& row) const {
  const double days = std::max(1.0, std::ceil(m_plan->ready_min / kDayMin));
  const auto x = [&](double minute) { return row.left() + row.width() * minute / (days * kDayMin); };
  const QColor accent = palette().color(QPalette::Highlight);
  const QRectF wait(x(step.done_min()), row.top() + 12, x(step.ready_min()) - x(step.done_min()), 20);
  QColor soft = accent;
  soft.setAlpha(70);
  painter.fillRect(wait, QBrush(accent, Qt::BDiagPattern));
  painter.fillRect(wait, soft);
  const QRectF hands(x(step.start_min), row.top() + 12, std::max(3.0, x(step.done_min()) - x(step.start_min)), 20);
  painter.fillRect(hands, step.fills_wait ? QColor(0xb8, 0x7a, 0x1a) : accent);
}

void PlanView::paintEvent(QPaintEvent*) {
  QPainter painter(this);
  painter.setRenderHint(QPainter::Antialiasing);
  painter.fillRect(rect(), palette().color(QPalette::AlternateBase));
  QFont big = font(), bold = font(), small = font();
  big.setPointSizeF(font().pointSizeF() * 1.7), big.setBold(true), bold.setWeight(QFont::DemiBold),
      small.setPointSizeF(font().pointSizeF() * 0.86);
  painter.setPen(ink());
  painter.setFont(big);
  painter.drawText(QRectF(20, 12, width() - 40, 34), Qt::AlignLeft | Qt::AlignVCenter, headline());
  if (!m_plan) return;
  const QRectF bars((1.0 - kBarShare) * width(), kHead, kBarShare * width() - 20.0, m_tops.back() - kHead);
  painter.setFont(small);
  paintDays(painter, bars);
  painter.drawText(QRectF(kLeft, 48, bars.left() - kLeft, 22), Qt::AlignLeft | Qt::AlignVCenter,
      tr("Solid: hands on.  Hatched: it dries.  Ochre: done while something dries."));
  int last_day = -1;
  for (std::size_t i = 0; i < m_plan->steps.size(); ++i) {
    const PlannedStep& step = m_plan->steps[i];
    const double y = m_tops[i];
    const int day = static_cast<int>(step.start_min / kDayMin);
    painter.setFont(small);
    if (day != last_day) {
      painter.setPen(QPen(QColor(128, 120, 100, 150), 1));
      painter.drawLine(QPointF(kLeft, y), QPointF(width() - 20, y));
    }
    painter.setPen(ink());
    if (day != last_day)
      painter.drawText(QRectF(kLeft, y + 5, kWhen, 20), Qt::AlignLeft | Qt::AlignVCenter,
          qs(Day{m_spec.start.number + day}.spoken()));
    last_day = day;
    painter.drawText(QRectF(kLeft, y + 24, kWhen, 20), Qt::AlignLeft | Qt::AlignVCenter,
        qs(clock_text(step.start_min)) + QStringLiteral("  ") + qs(duration_text(step.hands_min)));
    const QRectF words = wordsOf(y);
    QRectF used;
    painter.setFont(bold);
    painter.drawText(words, Qt::AlignLeft | Qt::TextWordWrap, qs(step.name), &used);
    painter.setFont(small);
    painter.drawText(words.translated(0, used.height() + 1), Qt::AlignLeft | Qt::TextWordWrap, detailOf(step));
    paintBars(painter, step, QRectF(bars.left(), y, bars.width(), 44.0));
  }
}

void PlanView::paintDays(QPainter& painter, const QRectF& bars) const {
  const int days = std::max(1, static_cast<int>(std::ceil(m_plan->ready_min / kDayMin)));
  const double wide = bars.width() / days;
  for (int d = 0; d < days; ++d) {
    const QRectF day(bars.left() + d * wide, kHead - 26, wide, bars.height() + 26);
    if (d % 2 == 1) painter.fillRect(day, QColor(128, 120, 100, 26));
    const QString spoken = qs(Day{m_spec.start.number + d}.spoken());
    const QString name = wide > 78 ? spoken
        : wide > 44                ? spoken.section(QLatin1Char(' '), 0, 1)
                                   : spoken.section(QLatin1Char(' '), 1, 1);
    if (wide > 18 || d % 2 == 0)
      painter.drawText(QRectF(day.left(), day.top(), day.width(), 22), Qt::AlignCenter, name);
  }
}

}  // namespace awl
