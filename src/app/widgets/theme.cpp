#include "app/widgets/theme.hpp"

#include <QApplication>
#include <QEvent>
#include <QFile>
#include <QFont>
#include <QPalette>
#include <QStyle>
#include <cmath>
#include <optional>
#include <utility>

namespace awl {
namespace {

struct Colours {
  const char *window, *panel, *field, *ink, *quiet, *line, *accent, *onAccent, *warning, *stop, *good;
};
constexpr double kUsualPoints = 11.0;
constexpr Colours kDay{"#ece7db", "#f6f2e8", "#fffdf7", "#22201c", "#5d574b", "#c9c1af", "#24597a", "#ffffff",
    "#9a5b00", "#a3261b", "#2c6140"};
constexpr Colours kEvening{"#201f1c", "#2a2926", "#34322e", "#f0ebdf", "#b9b2a2", "#4b4840", "#7db7d8", "#10202a",
    "#e8ab4d", "#f08a7c", "#8fcfa6"};

QPalette paletteOf(const Colours& c) {
  QPalette p;
  p.setColor(QPalette::Window, c.window), p.setColor(QPalette::WindowText, c.ink);
  p.setColor(QPalette::Base, c.field), p.setColor(QPalette::AlternateBase, c.panel), p.setColor(QPalette::Text, c.ink);
  p.setColor(QPalette::Button, c.panel), p.setColor(QPalette::ButtonText, c.ink),
      p.setColor(QPalette::PlaceholderText, c.quiet);
  p.setColor(QPalette::Highlight, c.accent), p.setColor(QPalette::HighlightedText, c.onAccent);
  p.setColor(QPalette::ToolTipBase, c.field), p.setColor(QPalette::ToolTipText, c.ink);
  p.setColor(QPalette::Disabled, QPalette::ButtonText, c.quiet),
      p.setColor(QPalette::Disabled, QPalette::Text, c.quiet);
  return p;
}

/// Whatever a sheet or a parent gives its widget, the type is so many times the usual.
class TypeTimes : public QObject {
 public:
  TypeTimes(QWidget& widget, double times) : QObject(&widget), m_widget(widget), m_times(times) {
    widget.installEventFilter(this);
    dress();
  }
  bool eventFilter(QObject* watched, QEvent* event) override {
    for (const QEvent::Type type : {QEvent::FontChange, QEvent::StyleChange, QEvent::Show})
      if (event->type() == type) dress();
    return QObject::eventFilter(watched, event);
  }

 private:
  void dress() {
    const double points = m_times * QApplication::font().pointSizeF();
    QFont font = m_widget.font();
    if (std::abs(font.pointSizeF() - points) < 0.1) return;
    font.setPointSizeF(points);
    m_widget.setFont(font);
  }

  QWidget& m_widget;
  double m_times;
};

/// Whatever size its type comes to have, a widget is so many rows high.
class TypeHeight : public QObject {
 public:
  TypeHeight(QWidget& widget, int least, int most) : QObject(&widget), m_widget(widget), m_least(least), m_most(most) {
    widget.installEventFilter(this);
    dress();
  }
  bool eventFilter(QObject* watched, QEvent* event) override {
    if (event->type() == QEvent::FontChange || event->type() == QEvent::Show) dress();
    return QObject::eventFilter(watched, event);
  }

 private:
  void dress() {
    const double times = typeScale(m_widget);
    m_widget.setMinimumHeight(static_cast<int>(std::lround(times * m_least)));
    m_widget.setMaximumHeight(std::min(QWIDGETSIZE_MAX, static_cast<int>(std::lround(times * m_most))));
  }

  QWidget& m_widget;
  int m_least, m_most;
};

}  // namespace

void setTypeHeight(QWidget& widget, int least, int most) { new TypeHeight(widget, least, most); }

void setTypeTimes(QWidget& widget, double times, QFont::Weight weight) {
  QFont font = widget.font();
  font.setWeight(weight);
  widget.setFont(font);
  new TypeTimes(widget, times);
}

void applyTheme(bool dark, int type_percent) {
  // To dress every widget anew takes Qt seconds: only when something changes.
  static std::optional<std::pair<bool, int>> worn;
  if (worn == std::pair{dark, type_percent}) return;
  worn = {dark, type_percent};
  const Colours& c = dark ? kEvening : kDay;
  // Undressed first: one sheet laid over another is worked out again for every depth of every widget, five times as
  // long; and what a sheet has given a font would keep its size.
  qApp->setStyleSheet({});
  QApplication::setPalette(paletteOf(c));
  QApplication::setFont(
      QFont(QStringLiteral("Inter"), static_cast<int>(std::lround(kUsualPoints * 0.01 * type_percent))));
  QFile file(QStringLiteral(":/theme/bench.qss"));
  if (!file.open(QIODevice::ReadOnly)) return;
  QString sheet = QString::fromUtf8(file.readAll());
  const std::pair<const char*, const char*> names[] = {{"@window", c.window}, {"@panel", c.panel}, {"@field", c.field},
      {"@ink", c.ink}, {"@quiet", c.quiet}, {"@line", c.line}, {"@onAccent", c.onAccent}, {"@accent", c.accent},
      {"@warning", c.warning}, {"@stop", c.stop}, {"@good", c.good}};
  for (const auto& [name, value] : names) sheet.replace(QLatin1String(name), QLatin1String(value));
  qApp->setStyleSheet(sheet);
  // What was hidden meanwhile keeps the type it had, lists and choices even once they are shown.
  for (QWidget* widget : QApplication::allWidgets())
    if (widget->font().resolveMask() == 0 && widget->font() != QApplication::font(widget)) widget->setFont(QFont());
}

void drawFitted(QPainter& painter, const QRectF& in, int flags, const QString& words) {
  const QFont before = painter.font();
  QFont font = before;
  const auto fits = [&] {
    const QFontMetricsF size(font);
    return size.horizontalAdvance(words) <= in.width() && size.height() <= in.height() + 4.0;
  };
  constexpr double kLeastPoints = 6.0;
  while (!fits() && font.pointSizeF() > kLeastPoints) font.setPointSizeF(font.pointSizeF() - 0.5);
  painter.setFont(font);
  painter.drawText(in, flags, words);
  painter.setFont(before);
}

double typeScale(const QWidget& widget) { return std::max(1.0, widget.font().pointSizeF() / kUsualPoints); }

void paintFocusFrame(QPainter& painter, const QWidget& view) {
  if (!view.hasFocus()) return;
  painter.setPen(QPen(view.palette().color(QPalette::Highlight), 2.0));
  painter.setBrush(Qt::NoBrush);
  painter.drawRect(QRectF(view.rect()).adjusted(1.0, 1.0, -1.0, -1.0));
}

namespace {
bool g_still = false;
}

void setStill(bool still) { g_still = still; }

bool isStill() { return g_still || QApplication::style()->styleHint(QStyle::SH_Widget_Animation_Duration) == 0; }

}  // namespace awl
