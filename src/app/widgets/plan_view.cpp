#include "app/widgets/plan_view.hpp"

#include <QPainter>
#include <QPainterPath>
#include <algorithm>
#include <cmath>

namespace awl {
namespace {

constexpr double kDayMin = 1440.0;
constexpr int kHead = 84, kRow = 50, kText = 470;

QString qs(const std::string& s) { return QString::fromStdString(s); }

}  // namespace

PlanView::PlanView(QWidget* parent) : QWidget(parent) {
  setObjectName(QStringLiteral("plan"));
  setAccessibleName(tr("Finishing plan"));
  setMinimumWidth(680);
}

void PlanView::show(std::shared_ptr<const Plan> plan, const CoatSpec& spec) {
  m_plan = std::move(plan);
  m_spec = spec;
  setMinimumHeight(kHead + 16 + (m_plan ? kRow * static_cast<int>(m_plan->steps.size()) : 200));
  setAccessibleDescription(headline());
  update();
}

QString PlanView::headline() const {
  if (!m_plan) return tr("No plan yet");
  const QString ready = tr("Ready %1 at %2").arg(qs(m_plan->ready_day.spoken()), qs(clock_text(m_plan->ready_min)));
  return m_plan->spare_min >= 0.0 ? tr("%1, %2 to spare").arg(ready, qs(duration_text(m_plan->spare_min))) : tr("%1, %2 too late").arg(ready, qs(duration_text(-m_plan->spare_min)));
}

void PlanView::paintBars(QPainter& painter, const PlannedStep& step, const QRectF& row) const {
  const double days = std::max(1.0, std::ceil(m_plan->ready_min / kDayMin));
  const auto x = [&](double minute) { return row.left() + row.width() * minute / (days * kDayMin); };
  const QColor accent = palette().color(QPalette::Highlight);
  const QRectF wait(x(step.done_min()), row.top() + 15, x(step.ready_min()) - x(step.done_min()), 20);
  QColor soft = accent;
  soft.setAlpha(70);
  painter.fillRect(wait, QBrush(accent, Qt::BDiagPattern));
  painter.fillRect(wait, soft);
  const QRectF hands(x(step.start_min), row.top() + 15, std::max(3.0, x(step.done_min()) - x(step.start_min)), 20);
  painter.fillRect(hands, step.fills_wait ? QColor(0xb8, 0x7a, 0x1a) : accent);
}

void PlanView::paintEvent(QPaintEvent*) {
  QPainter painter(this);
  painter.setRenderHint(QPainter::Antialiasing);
  painter.fillRect(rect(), palette().color(QPalette::AlternateBase));
  QFont big = font(), bold = font(), small = font();
  big.setPointSizeF(font().pointSizeF() * 1.7), big.setBold(true), bold.setWeight(QFont::DemiBold), small.setPointSizeF(font().pointSizeF() * 0.86);
  painter.setPen(ink());
  painter.setFont(big);
  painter.drawText(QRectF(20, 12, width() - 40, 34), Qt::AlignLeft | Qt::AlignVCenter, headline());
  if (!m_plan) return;
  const QRectF bars(kText, kHead, width() - kText - 20, kRow * static_cast<double>(m_plan->steps.size()));
  const int days = std::max(1, static_cast<int>(std::ceil(m_plan->ready_min / kDayMin)));
  painter.setFont(small);
  for (int d = 0; d < days; ++d) {
    const QRectF day(bars.left() + d * bars.width() / days, kHead - 26, bars.width() / days, bars.height() + 26);
    if (d % 2 == 1) painter.fillRect(day, QColor(128, 120, 100, 26));
    const QString name = days > 6 ? QString::number(d + 1) : qs(Day{m_spec.start.number + d}.spoken());
    painter.drawText(QRectF(day.left(), day.top(), day.width(), 22), Qt::AlignCenter, days > 9 && d % 2 == 1 ? QString() : name);
  }
  painter.drawText(QRectF(20, 48, kText, 22), Qt::AlignLeft | Qt::AlignVCenter, tr("Solid: hands on.  Hatched: it dries.  Ochre: done while something dries."));
  double y = kHead;
  int last_day = -1;
  for (const PlannedStep& step : m_plan->steps) {
    const int day = static_cast<int>(step.start_min / kDayMin);
    if (day != last_day) {
      painter.setPen(QPen(QColor(128, 120, 100, 150), 1));
      painter.drawLine(QPointF(20, y), QPointF(width() - 20, y));
    }
    painter.setPen(ink());
    painter.setFont(small);
    if (day != last_day) painter.drawText(QRectF(20, y + 5, 92, 20), Qt::AlignLeft | Qt::AlignVCenter, qs(Day{m_spec.start.number + day}.spoken()));
    last_day = day;
    painter.drawText(QRectF(20, y + 24, 92, 20), Qt::AlignLeft | Qt::AlignVCenter, qs(clock_text(step.start_min)) + QStringLiteral("  ") + qs(duration_text(step.hands_min)));
    painter.setFont(bold);
    const QRectF words(132, y + 5, kText - 150, 21);
    painter.drawText(words, Qt::AlignLeft | Qt::AlignVCenter, painter.fontMetrics().elidedText(qs(step.name), Qt::ElideRight, static_cast<int>(words.width())));
    painter.setFont(small);
    const QString detail = step.caution.empty() ? (step.wait_min > 0 ? tr("then wait %1").arg(qs(duration_text(step.wait_min))) : QString()) : qs(step.caution);
    painter.drawText(QRectF(132, y + 25, kText - 150, 20), Qt::AlignLeft | Qt::AlignVCenter, painter.fontMetrics().elidedText(detail, Qt::ElideRight, kText - 150));
    paintBars(painter, step, QRectF(bars.left(), y, bars.width(), kRow));
    y += kRow;
  }
}

}  // namespace awl
