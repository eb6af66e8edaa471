#include "app/widgets/glue_clock.hpp"
#include "app/widgets/text.hpp"

#include <QDateTime>
#include <QPushButton>
#include <cmath>

namespace awl {
namespace {

int stage_of(const RunningWait& w, std::int64_t now_s) {
  return now_s < w.ready_s ? 0 : w.open_until_s == 0 || now_s <= w.open_until_s ? 1 : 2;
}

}  // namespace

QString wordsOf(const RunningWait& w, std::int64_t now_s) {
  const int stage = stage_of(w, now_s);
  if (stage == 0) {
    const auto left = w.ready_s - now_s;
    return left < 3600 ? GlueClock::tr("%1:%2 still").arg(left / 60).arg(left % 60, 2, 10, QLatin1Char('0'))
                       : GlueClock::tr("%1 h %2 min still").arg(left / 3600).arg(left / 60 % 60);
  }
  if (stage == 2) return GlueClock::tr("left too long: brush it again");
  return w.open_until_s == 0
      ? GlueClock::tr("ready")
      : GlueClock::tr("join it now, until %1")
            .arg(QDateTime::fromSecsSinceEpoch(w.open_until_s).toString(QStringLiteral("HH:mm")));
}

GlueClock::GlueClock(Book& book, QWidget* parent) : QWidget(parent), m_book(book), m_column(new QVBoxLayout(this)) {
  setObjectName(QStringLiteral("glue-clock"));
  setAccessibleName(tr("Glue clock"));
  m_column->setContentsMargins(6, 4, 6, 4);
  m_column->setSpacing(4);
  now = [] { return QDateTime::currentSecsSinceEpoch(); };
  m_timer.setInterval(1000);
  connect(&m_timer, &QTimer::timeout, this, &GlueClock::tick);
  connect(&m_book, &Book::changed, this, [this] {
    if (m_timer.isActive()) renew();
  });
}

Result<int> GlueClock::start(
    const QString& label, double wait_min, double open_min, const QString& meanwhile, const QString& caution) {
  const auto book = m_book.get();
  if (!book) return fail(book);
  RunningWait wait;
  wait.label = label.toStdString(), wait.meanwhile = meanwhile.toStdString(), wait.caution = caution.toStdString();
  wait.started_s = now();
  wait.ready_s = wait.started_s + std::llround(60.0 * wait_min);
  wait.open_until_s = open_min > 0.0 ? wait.ready_s + std::llround(60.0 * open_min) : 0;
  const auto id = (*book)->start_wait(wait);
  if (id) renew();
  return id;
}

void GlueClock::end(int id) {
  if (const auto book = m_book.get()) (void)(*book)->end_wait(id);
  m_said.erase(id);
  renew();
}

void GlueClock::renew() {
  const auto book = m_book.get();
  if (!book) return;
  const auto waits = (*book)->waits();
  if (!waits) return;
  m_waits = *waits;
  while (QLayoutItem* item = m_column->takeAt(0)) {
    if (QWidget* old = item->widget()) old->setParent(nullptr), old->deleteLater();
    delete item;
  }
  for (const RunningWait& w : m_waits) {
    auto* button = new QPushButton(this);
    button->setObjectName(QStringLiteral("wait-%1").arg(w.id));
    button->setProperty("wait", w.id);
    button->setMinimumHeight(64);
    button->setStyleSheet(QStringLiteral("padding: 2px 4px; text-align: left; font-size: 10pt;"));
    button->setToolTip(tr("%1. Meanwhile: %2. %3 Click when it is joined.")
                           .arg(qs(w.label), w.meanwhile.empty() ? tr("let it be") : qs(w.meanwhile), qs(w.caution)));
    connect(button, &QPushButton::clicked, this, [this, id = w.id] { end(id); });
    m_column->addWidget(button);
  }
  setVisible(!m_waits.empty());
  if (m_waits.empty())
    m_timer.stop();
  else
    m_timer.start();
  tick();
}

void GlueClock::tick() {
  QStringList news;  // two may come to an end in the same second
  for (const RunningWait& w : m_waits) {
    auto* button = findChild<QPushButton*>(QStringLiteral("wait-%1").arg(w.id));
    if (button == nullptr) continue;
    const int stage = stage_of(w, now());
    // Words first; broken where the rail is narrow.
    QString words = wordsOf(w, now());
    words.replace(QStringLiteral(", until"), QStringLiteral(",\nuntil"))
        .replace(QStringLiteral(": brush"), QStringLiteral(":\nbrush"));
    button->setText(QStringLiteral("%1 %2\n%3")
                        .arg(stage == 0      ? QStringLiteral("\u25d4")
                                : stage == 1 ? QStringLiteral("\u25cf")
                                             : QStringLiteral("\u25b2"),
                            qs(w.label), words));
    button->setAccessibleName(tr("%1: %2").arg(qs(w.label), wordsOf(w, now())));
    int& said = m_said[w.id];
    if (stage <= said) continue;
    said = stage;
    news << (stage == 1
            ? tr("%1: dry to the touch. %2. It grabs at once: begin at one tick.").arg(qs(w.label), wordsOf(w, now()))
            : tr("%1 was left too long and does not grab any more: brush it again.").arg(qs(w.label)));
  }
  if (!news.isEmpty()) emit told(news.join(QLatin1Char(' ')));
}

}  // namespace awl
