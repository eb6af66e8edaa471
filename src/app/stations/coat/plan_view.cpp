#include "app/stations/coat/plan_view.hpp"

#include <QKeyEvent>
#include <QMouseEvent>
#include <QPainter>
#include <QPainterPath>
#include <algorithm>
#include <cmath>

#include "app/widgets/text.hpp"
#include "app/widgets/theme.hpp"

namespace awl {
namespace {

constexpr double kLeft = 16.0, kHead = 26.0, kLane = 24.0, kDry = 7.0, kStrip = 58.0, kQuiet = 30.0;
constexpr double kTick = 28.0;     // the box and the room after it
constexpr int kLeastLetters = 14;  // of a line that is still read with pleasure
/// The stretches a step is worked at.
std::vector<Span> workedAt(const PlannedStep& step) {
  std::vector<Span> parts;
  Moment from = step.start;
  for (const Span& pause : step.pauses) {
    parts.push_back({from, pause.from});
    from = pause.to;
  }
  parts.push_back({from, step.end});
  return parts;
}

constexpr double kNightShare = 0.2;  // of the strip, for what dries past closing

const QColor kOchre(0xb8, 0x7a, 0x1a);

}  // namespace

PlanView::PlanView(QWidget* parent) : QWidget(parent) {
  setObjectName(QStringLiteral("plan"));
  setAccessibleName(tr("Finishing plan"));
  setMinimumWidth(140);
  setFocusPolicy(Qt::StrongFocus);
}

QFont PlanView::small() const {
  QFont f = font();
  f.setPointSizeF(font().pointSizeF() * 0.86);
  return f;
}

QFont PlanView::bold() const {
  QFont f = font();
  f.setWeight(QFont::DemiBold);
  return f;
}

void PlanView::show(std::shared_ptr<const Plan> plan, const CoatSpec& spec) {
  m_plan = std::move(plan);
  m_spec = spec;
  setAccessibleDescription(headline());
  layOut();
  update();
}

void PlanView::setFittings(std::map<Day, QString> fittings) {
  if (fittings == m_fittings) return;
  m_fittings = std::move(fittings);
  layOut();
  update();
}

void PlanView::setChosen(const QString& id) {
  m_chosen = id;
  update();
}

double PlanView::scaled(double usual) const { return usual * typeScale(*this); }

QRectF PlanView::tickBox(const Row& row) const {
  return {row.area.left() + 2.0, row.area.top() + 7.0, scaled(kTick - 10.0), scaled(kTick - 10.0)};
}

double PlanView::lineHigh() const { return QFontMetricsF(small()).height(); }

/// As wide as the times in it, in whatever type.
double PlanView::whenWide() const {
  return QFontMetricsF(small()).horizontalAdvance(QStringLiteral("00 h 00 min")) + 8.0;
}

/// Beside the times of a step, or below them where too little is left to be read.
QRectF PlanView::wordsOf(const QRectF& row) const {
  const double from = scaled(kTick) + whenWide(), beside = row.width() - from - 8.0;
  if (beside >= QFontMetricsF(small()).averageCharWidth() * kLeastLetters)
    return {row.left() + from, row.top() + 5.0, beside, 1000.0};
  return {row.left() + scaled(kTick), row.top() + 5.0 + 2.0 * lineHigh(), row.width() - scaled(kTick) - 8.0, 1000.0};
}

QString PlanView::benchWords(Day day) const {
  double hands = 0.0;
  for (const PlannedStep& step : m_plan->steps)
    for (const Span& part : workedAt(step))
      if (day_of(part.from) == day) hands += static_cast<double>(part.to - part.from);
  return tr("%1 at the bench").arg(qs(hands_text(hands)));
}

/// Of a day's name and hours, which stand below each other where they do not fit beside each other.
double PlanView::headHigh(Day day) const {
  const double both = QFontMetricsF(bold()).horizontalAdvance(qs(day.spoken())) + 14.0 +
      QFontMetricsF(small()).horizontalAdvance(benchWords(day));
  return both <= width() - 2.0 * kLeft ? scaled(kHead) : scaled(kHead) + lineHigh();
}

QString PlanView::detailOf(const PlannedStep& step) const {
  QStringList lines;
  if (!step.caution.empty() && !step.done) lines << qs(step.caution);
  if (step.ready > step.end) {
    const QString until = day_of(step.ready) == day_of(step.end)
        ? qs(clock_text(step.ready))
        : qs(day_of(step.ready).spoken()) + QLatin1Char(' ') + qs(clock_text(step.ready));
    lines << tr("Dries until %1.").arg(until);
  }
  if (!step.pauses.empty())
    lines << tr("Laid down at closing, done %1 %2.").arg(qs(day_of(step.end).spoken()), qs(clock_text(step.end)));
  return lines.join(QLatin1Char(' '));
}

/// As high as its words need: no caution is ever cut short.
double PlanView::rowHeight(const PlannedStep& step) const {
  const QRectF words = wordsOf({kLeft, 0.0, width() - 2.0 * kLeft, 0.0});
  const double name = QFontMetricsF(bold()).boundingRect(words, Qt::TextWordWrap, qs(step.name)).height();
  const QString more = detailOf(step);
  const double detail =
      more.isEmpty() ? 0.0 : QFontMetricsF(small()).boundingRect(words, Qt::TextWordWrap, more).height();
  return std::max(2.0 * lineHigh() + 10.0, words.top() + name + detail + 7.0);
}

void PlanView::addQuiet(Day first, Day last, double& y) {
  if (first > last) return;
  m_days.push_back({first, last, y, {}, false});
  y += quietHigh(m_days.back());
}

std::set<Day> PlanView::workingDays() const {
  std::set<Day> days;
  for (const PlannedStep& step : m_plan->steps)
    for (const Span& part : workedAt(step)) days.insert(day_of(part.from));
  return days;
}

void PlanView::layOut() {
  m_days.clear();
  double y = 8.0;
  if (m_plan && !m_plan->steps.empty()) {
    Day day = day_of(m_plan->steps.front().start);
    std::size_t i = 0;
    for (const Day at : workingDays()) {
      addQuiet(day, Day{at.number - 1}, y);
      DayCard card{at, at, y, {}, true};
      y += headHigh(at) + scaled(kStrip);
      for (; i < m_plan->steps.size() && day_of(m_plan->steps[i].start) == at; ++i) {
        const double high = rowHeight(m_plan->steps[i]);
        card.rows.push_back({static_cast<int>(i), QRectF(kLeft, y, width() - 2.0 * kLeft, high)});
        y += high;
      }
      y += 14.0;
      m_days.push_back(std::move(card));
      day = Day{at.number + 1};
    }
    addQuiet(day, day_of(m_plan->ready), y);
  }
  setMinimumHeight(static_cast<int>(y) + 16);
}

void PlanView::resizeEvent(QResizeEvent*) { layOut(); }

void PlanView::changeEvent(QEvent* event) {
  QWidget::changeEvent(event);
  if (event->type() == QEvent::FontChange) layOut();
}

QString PlanView::headline() const {
  if (!m_plan) return tr("No plan yet");
  const QString ready = tr("Ready %1 at %2").arg(qs(m_plan->ready_day().spoken()), qs(clock_text(m_plan->ready)));
  return m_plan->spare_min >= 0.0 ? tr("%1, %2 to spare").arg(ready, qs(duration_text(m_plan->spare_min)))
                                  : tr("%1, %2 too late").arg(ready, qs(duration_text(-m_plan->spare_min)));
}

QRect PlanView::boxOf(const QString& id) const {
  for (const DayCard& day : m_days)
    for (const Row& row : day.rows)
      if (qs(m_plan->steps[static_cast<std::size_t>(row.step)].id) == id) return tickBox(row).toRect();
  return {};
}

void PlanView::mousePressEvent(QMouseEvent* event) {
  for (const DayCard& day : m_days)
    for (const Row& row : day.rows) {
      if (!row.area.contains(event->pos())) continue;
      const PlannedStep& step = m_plan->steps[static_cast<std::size_t>(row.step)];
      if (tickBox(row).adjusted(-6, -6, 6, 6).contains(event->pos()))
        emit tickWanted(QString::fromStdString(step.id), !step.done);
      else
        emit stepChosen(QString::fromStdString(step.id));
      return;
    }
}

/// Up and down choose a step, space ticks it.
void PlanView::keyPressEvent(QKeyEvent* event) {
  if (!m_plan || m_plan->steps.empty()) return QWidget::keyPressEvent(event);
  int at = -1;
  for (int i = 0; i < static_cast<int>(m_plan->steps.size()); ++i)
    if (qs(m_plan->steps[static_cast<std::size_t>(i)].id) == m_chosen) at = i;
  if (event->key() == Qt::Key_Space && at >= 0) {
    const PlannedStep& step = m_plan->steps[static_cast<std::size_t>(at)];
    emit tickWanted(m_chosen, !step.done);
    return;
  }
  const int by = event->key() == Qt::Key_Down ? 1 : event->key() == Qt::Key_Up ? -1 : 0;
  if (by == 0) return QWidget::keyPressEvent(event);
  at = std::clamp(at + by, 0, static_cast<int>(m_plan->steps.size()) - 1);
  emit stepChosen(qs(m_plan->steps[static_cast<std::size_t>(at)].id));
}

QString PlanView::fittingsOf(Day first, Day last) const {
  QStringList words;
  for (const auto& [day, note] : m_fittings)
    if (day >= first && day <= last)
      words << (note.isEmpty() ? tr("fitting %1").arg(qs(day.spoken()))
                               : tr("fitting %1: %2").arg(qs(day.spoken()), note));
  return words.join(QStringLiteral("; "));
}

QString PlanView::quietWords(const DayCard& day) const {
  const WorkDays days = work_days(m_spec);
  bool closed = true;
  for (Day d = day.first; d <= day.last; ++d.number) closed = closed && days.closed.count(d) > 0;
  const QString when = day.first == day.last ? qs(day.first.spoken())
                                             : tr("%1 to %2").arg(qs(day.first.spoken()), qs(day.last.spoken()));
  const QString words = closed ? tr("%1: closed").arg(when) : tr("%1: nothing to do by hand").arg(when);
  const QString fittings = fittingsOf(day.first, day.last);
  return fittings.isEmpty() ? words : words + QStringLiteral("; ") + fittings;
}

/// Of days without work, which say why in as many lines as it takes.
double PlanView::quietHigh(const DayCard& day) const {
  const QRectF room(0.0, 0.0, width() - 2.0 * kLeft - 8.0, 1000.0);
  const QRectF words = QFontMetricsF(small()).boundingRect(room, Qt::TextWordWrap, quietWords(day));
  return std::max(scaled(kQuiet), words.height() + 12.0);
}

void PlanView::paintEvent(QPaintEvent*) {
  QPainter painter(this);
  painter.setRenderHint(QPainter::Antialiasing);
  painter.fillRect(rect(), palette().color(QPalette::AlternateBase));
  if (!m_plan) return;
  for (const DayCard& day : m_days) {
    if (day.works) {
      paintDay(painter, day);
      continue;
    }
    const QRectF band(kLeft, day.top + 3.0, width() - 2.0 * kLeft, quietHigh(day) - 8.0);
    painter.fillRect(band, QBrush(QColor(128, 120, 100, 46), Qt::BDiagPattern));
    painter.setPen(ink());
    painter.setFont(small());
    painter.drawText(band.adjusted(8, 0, 0, 0), Qt::AlignLeft | Qt::AlignVCenter | Qt::TextWordWrap, quietWords(day));
  }
  if (hasFocus()) paintFocusFrame(painter, *this);
}

void PlanView::paintDay(QPainter& painter, const DayCard& day) const {
  painter.setPen(ink());
  painter.setFont(bold());
  const double head_high = headHigh(day.first);
  const bool below = head_high > scaled(kHead);
  const QRectF head(kLeft, day.top, width() - 2.0 * kLeft, scaled(kHead));
  painter.drawText(head, Qt::AlignLeft | Qt::AlignVCenter, qs(day.first.spoken()));
  painter.setFont(small());
  const QString bench = benchWords(day.first);
  if (below)
    drawFitted(painter, QRectF(kLeft, head.bottom(), head.width(), lineHigh()), Qt::AlignLeft | Qt::AlignTop, bench);
  else
    painter.drawText(head, Qt::AlignRight | Qt::AlignVCenter, bench);
  if (const auto fitting = m_fittings.find(day.first); fitting != m_fittings.end()) {
    const double from = QFontMetricsF(bold()).horizontalAdvance(qs(day.first.spoken())) + 14.0;
    const double taken = below ? 0.0 : QFontMetricsF(small()).horizontalAdvance(bench) + 10.0;
    const QRectF room = head.adjusted(from, 0.0, -taken, 0.0);
    const QString words = fitting->second.isEmpty() ? tr("Fitting") : tr("Fitting: %1").arg(fitting->second);
    painter.drawText(room, Qt::AlignLeft | Qt::AlignVCenter,
        painter.fontMetrics().elidedText(words, Qt::ElideRight, static_cast<int>(room.width())));
  }
  paintStrip(painter, day, QRectF(kLeft, day.top + head_high, head.width(), scaled(kStrip) - 10.0));
  int number = 0;
  for (const Row& row : day.rows) paintRow(painter, row, ++number);
}

/// Bench hours on the left as long as the bench is open; the night, narrow, on the right.
void PlanView::paintStrip(QPainter& painter, const DayCard& day, const QRectF& strip) const {
  double opens = m_spec.opens_h * 60.0, closes = opens + m_spec.hours_a_day * 60.0;
  const double open_wide = strip.width() * (1.0 - kNightShare), night_from = strip.left() + open_wide;
  const Moment midnight = midnight_of(day.first);
  const auto x = [&](Moment at) {
    const double minute = static_cast<double>(at - midnight);
    if (minute <= closes) return strip.left() + open_wide * std::max(0.0, minute - opens) / (closes - opens);
    return night_from + (strip.right() - night_from) * std::min(1.0, (minute - closes) / (kDayMin - closes + opens));
  };
  const QRectF lane(strip.left(), strip.top(), open_wide, scaled(kLane));
  painter.fillRect(lane, palette().color(QPalette::Base));
  painter.fillRect(QRectF(night_from, strip.top(), strip.right() - night_from, strip.height()), QColor(40, 48, 66, 40));
  painter.setFont(small());
  painter.setPen(QColor(ink().red(), ink().green(), ink().blue(), 160));
  if (const QString closed = tr("closed");
      painter.fontMetrics().horizontalAdvance(closed) <= static_cast<int>(strip.right() - night_from))
    painter.drawText(
        QRectF(night_from, strip.top(), strip.right() - night_from, scaled(kLane)), Qt::AlignCenter, closed);
  const QColor accent = palette().color(QPalette::Highlight);
  for (double h = std::ceil(opens / 60.0); h * 60.0 <= closes; h += 1.0) {
    const double at = x(midnight + static_cast<Moment>(h * 60.0));
    painter.drawLine(QPointF(at, strip.top() + scaled(kLane)), QPointF(at, strip.top() + scaled(kLane) + 3.0));
  }
  int drying = 0, number = 0;
  for (const PlannedStep& step : m_plan->steps) {
    if (day_of(step.start) == day.first) ++number;
    for (const Span& part : workedAt(step)) {
      if (day_of(part.from) != day.first) continue;
      const QRectF block(
          x(part.from), strip.top() + 2.0, std::max(4.0, x(part.to) - x(part.from) - 1.0), scaled(kLane) - 4.0);
      QColor colour = step.fills_wait ? kOchre : accent;
      if (step.done) colour.setAlpha(90);
      painter.fillRect(block, colour);
      painter.setPen(step.fills_wait ? QColor(Qt::white) : palette().color(QPalette::HighlightedText));
      // A number stands whole or not at all.
      const bool begins = day_of(step.start) == day.first;
      const double margin = begins ? 1.0 : 4.0, room = block.width() - 2.0 * margin;
      const QFontMetricsF type(painter.font());
      const QString words = begins ? QString::number(number)
                                   : type.elidedText(tr("goes on: %1").arg(qs(step.name)), Qt::ElideRight, room);
      if (type.horizontalAdvance(words) <= room)
        painter.drawText(block.adjusted(margin, 0, -margin, 0), Qt::AlignCenter, words);
    }
    const Moment from = std::max(step.end, midnight + static_cast<Moment>(opens)), to = step.ready;
    if (step.ready <= step.end || to <= from || from >= midnight + kDayMin + static_cast<Moment>(opens) || drying >= 3)
      continue;
    const double top = strip.top() + scaled(kLane) + 4.0 + drying++ * scaled(kDry);
    const QRectF bar(x(from), top, std::max(2.0, x(to) - x(from)), scaled(kDry) - 2.0);
    painter.fillRect(bar, QColor(accent.red(), accent.green(), accent.blue(), 60));
    painter.fillRect(bar, QBrush(accent, Qt::BDiagPattern));
  }
}

void PlanView::paintRow(QPainter& painter, const Row& row, int number) const {
  const PlannedStep& step = m_plan->steps[static_cast<std::size_t>(row.step)];
  const bool next = m_plan->next() == &step;
  const QColor accent = palette().color(QPalette::Highlight);
  if (next || QString::fromStdString(step.id) == m_chosen) {
    QColor light = accent;
    light.setAlpha(next ? 46 : 24);
    painter.fillRect(row.area.adjusted(-6, 1, 6, -1), light);
  }
  const QRectF box = tickBox(row);
  painter.setPen(QPen(ink(), 1.4));
  painter.setBrush(Qt::NoBrush);
  painter.drawRoundedRect(box, 3, 3);
  if (step.done) {
    painter.setPen(QPen(accent, 3.0, Qt::SolidLine, Qt::RoundCap, Qt::RoundJoin));
    painter.drawPolyline(QPolygonF{QPointF(box.left() + 4, box.center().y()),
        QPointF(box.center().x() - 1, box.bottom() - 4), QPointF(box.right() - 3, box.top() + 4)});
  }
  painter.setPen(step.done ? QColor(ink().red(), ink().green(), ink().blue(), 120) : ink());
  painter.setFont(small());
  painter.drawText(QRectF(row.area.left() + scaled(kTick), row.area.top() + 5.0, whenWide(), lineHigh()),
      Qt::AlignLeft | Qt::AlignVCenter, QStringLiteral("%1   %2").arg(number).arg(qs(clock_text(step.start))));
  painter.drawText(QRectF(row.area.left() + scaled(kTick), row.area.top() + 5.0 + lineHigh(), whenWide(), lineHigh()),
      Qt::AlignLeft | Qt::AlignVCenter, qs(hands_text(step.hands_min)));
  const QRectF words = wordsOf(row.area);
  QRectF used;
  painter.setFont(bold());
  painter.drawText(words, Qt::AlignLeft | Qt::TextWordWrap, qs(step.name), &used);
  painter.setFont(small());
  painter.drawText(words.translated(0, used.height() + 1), Qt::AlignLeft | Qt::TextWordWrap, detailOf(step));
}

}  // namespace awl
