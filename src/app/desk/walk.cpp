#include "app/desk/walk.hpp"

#include <QHBoxLayout>
#include <cmath>

namespace awl {
namespace {

double headOf(const Build& build) {
  const auto hc = build.tape.head.find(MeasureId::HC);
  return hc == build.tape.head.end() ? 0.0 : hc->second.first_mm;
}

}  // namespace

std::vector<Walk::Stop> Walk::all() {
  const auto at = [](const char* station, const char* drawer = "") {
    return [station = QString::fromLatin1(station), drawer = QString::fromLatin1(drawer)](const WalkSight& s,
               const Start&) { return s.station == station && (drawer.isEmpty() || s.drawer == drawer); };
  };
  return {
      {tr("At Tape, type 60 cm into Head circumference and press Enter. The head on the stand grows."),
          [](const WalkSight& s, const Start&) { return std::abs(headOf(s.build) - 600.0) < 0.5; }},
      {tr("Take it back: Ctrl+Z. Everything can be taken back."),
          [](const WalkSight& s, const Start& from) { return std::abs(headOf(s.build) - from.head_mm) > 0.5; }},
      {tr("Go to Head, on the left. Drag on the stand to turn it; the wheel comes nearer."), at("head")},
      {tr("Go to Form. Take hold of a round grip on the stand and pull, or change a number under Shape."),
          [](const WalkSight& s, const Start& from) {
            return s.station == QLatin1String("form") && s.build.parts != from.made;
          }},
      {tr("Open Parts, and add a part: Ears, Cat-like ears."),
          [](const WalkSight& s, const Start& from) { return s.build.parts.size() > from.parts; }},
      {tr("Go to Seams and open Strain: what is hatched gives more than the foam bears."), at("seams", "strain")},
      {tr("Open Glue-up, and glue the flat pieces up before any foam is cut."), at("seams", "glue")},
      {tr("Go to Foam and open Print: patterns at true size, as a PDF or on a printer."), at("foam", "print")},
      {tr("Go to Fit: whether it goes on, and what is seen out of it."), at("fit")},
      {tr("Go to Coat: the next thing to do stands largest, with the day it must be done."), at("coat")},
  };
}

int Walk::stops() { return static_cast<int>(all().size()); }

Walk::Walk(QWidget* parent)
    : QFrame(parent), m_stops(all()), m_words(new QLabel(this)), m_skip(new QPushButton(tr("Skip"), this)),
      m_end(new QPushButton(tr("End the walk"), this)) {
  setObjectName(QStringLiteral("walk"));
  m_words->setObjectName(QStringLiteral("walk-words"));
  m_words->setWordWrap(true);
  const auto describe = [](QPushButton* b, const char* name, const QString& tip) {
    b->setObjectName(QLatin1String(name));
    b->setAccessibleName(b->text());
    b->setToolTip(tip);
  };
  describe(m_skip, "walk-skip", tr("On to the next stop without doing this one."));
  describe(m_end, "walk-end", tr("Everything stays as it is now."));
  auto* row = new QHBoxLayout(this);
  row->setContentsMargins(14, 6, 14, 6);
  row->addWidget(m_words, 1);
  row->addWidget(m_skip);
  row->addWidget(m_end);
  connect(m_skip, &QPushButton::clicked, this, [this] { goTo(m_at + 1); });
  connect(m_end, &QPushButton::clicked, this, [this] {
    m_at = -1;
    renew();
  });
  renew();
}

void Walk::begin(const WalkSight& sight) {
  m_seen = sight;
  goTo(0);
}

void Walk::see(const WalkSight& sight) {
  if (!isOn()) return;
  m_seen = sight;
  if (m_at < stops() && m_stops[static_cast<std::size_t>(m_at)].reached(m_seen, m_start)) goTo(m_at + 1);
}

void Walk::goTo(int stop) {
  m_at = stop;
  m_start = {m_seen.build.parts.size(), headOf(m_seen.build), m_seen.build.parts};
  renew();
}

void Walk::renew() {
  setVisible(isOn());
  if (!isOn()) return;
  const bool over = m_at >= stops();
  m_skip->setVisible(!over);
  m_words->setText(over
          ? tr("That was the walk. Ctrl+N begins a build of your own; F1 tells of whatever is at hand.")
          : QStringLiteral("<b>%1</b> &nbsp; %2")
                .arg(tr("Stop %1 of %2").arg(m_at + 1).arg(stops()), m_stops[static_cast<std::size_t>(m_at)].words));
}

}  // namespace awl
