#include "app/stations/coat/plan_page.hpp"

#include <QHBoxLayout>
#include <QScrollBar>
#include <QVBoxLayout>

#include "app/widgets/text.hpp"
#include "app/widgets/theme.hpp"

namespace awl {
namespace {

constexpr int kLeastDays = 160;  // high: a day's strip and its first step

/// The days take what is left of the page, and ask for little.
class DaysArea : public QScrollArea {
 public:
  using QScrollArea::QScrollArea;
  QSize sizeHint() const override { return {200, kLeastDays}; }
};

}  // namespace

PlanPage::PlanPage(QWidget* parent)
    : QWidget(parent), m_headline(new QLabel(this)), m_bound(new QLabel(this)), m_over(new QLabel(this)),
      m_title(new QLabel(this)), m_when(new QLabel(this)), m_caution(new QLabel(this)), m_slips(new QLabel(this)),
      m_note(new QLineEdit(this)), m_card(new QFrame(this)), m_begin(new QPushButton(tr("Begin"), this)),
      m_done(new QPushButton(tr("Done"), this)), m_whole(new QScrollArea(this)), m_scroll(new DaysArea(this)),
      m_days(new PlanView) {
  setObjectName(QStringLiteral("plan-page"));
  setMaximumWidth(540);
  setSizePolicy(QSizePolicy::Expanding, QSizePolicy::Preferred);
  m_headline->setObjectName(QStringLiteral("plan-headline"));
  m_headline->setProperty("figure", true);
  m_headline->setWordWrap(true);
  m_bound->setObjectName(QStringLiteral("plan-bound"));
  m_bound->setProperty("quiet", true);
  m_bound->setWordWrap(true);
  m_card->setObjectName(QStringLiteral("plan-next"));
  m_card->setFrameShape(QFrame::StyledPanel);
  m_over->setProperty("quiet", true);
  setTypeTimes(*m_title, 1.45, QFont::DemiBold);
  m_title->setObjectName(QStringLiteral("plan-next-title"));
  m_caution->setObjectName(QStringLiteral("plan-next-caution"));
  for (QLabel* label : {m_title, m_when, m_caution}) label->setWordWrap(true);
  m_begin->setObjectName(QStringLiteral("plan-begin"));
  m_begin->setToolTip(tr("Writes down the time; the hours are learned from."));
  m_done->setObjectName(QStringLiteral("plan-done"));
  m_done->setToolTip(tr("Ticks it off now, and plans the rest anew from now on."));
  m_done->setProperty("act", true);
  auto* buttons = new QHBoxLayout;
  buttons->addWidget(m_begin);
  buttons->addWidget(m_done);
  buttons->addStretch(1);
  m_slips->setObjectName(QStringLiteral("plan-slips"));
  m_slips->setProperty("quiet", true);
  m_slips->setWordWrap(true);
  m_note->setObjectName(QStringLiteral("plan-note"));
  m_note->setAccessibleName(tr("Note on this step"));
  m_note->setToolTip(tr("What to remember of it; Enter writes it into the book."));
  m_note->setMaxLength(2000);
  auto* card = new QVBoxLayout(m_card);
  for (QLabel* label : {m_over, m_title, m_when, m_caution}) card->addWidget(label);
  card->addLayout(buttons);
  card->addWidget(m_note);
  card->addWidget(m_slips);
  for (QScrollArea* area : {m_whole, m_scroll}) {
    area->setWidgetResizable(true);
    area->setFrameShape(QFrame::NoFrame);
    area->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
  }
  m_whole->setObjectName(QStringLiteral("plan-whole"));
  m_scroll->setWidget(m_days);
  m_scroll->setMinimumHeight(kLeastDays);
  // Where nothing is left for the days, all of the page scrolls, and no word is cut.
  auto* all = new QWidget;
  auto* column = new QVBoxLayout(all);
  column->setContentsMargins(12, 10, 8, 0);
  column->addWidget(m_headline);
  column->addWidget(m_bound);
  column->addWidget(m_card);
  column->addWidget(m_scroll, 1);
  m_whole->setWidget(all);
  auto* alone = new QVBoxLayout(this);
  alone->setContentsMargins({});
  alone->addWidget(m_whole);
  connect(m_begin, &QPushButton::clicked, this, [this] { emit beginWanted(m_next); });
  connect(m_done, &QPushButton::clicked, this, [this] { emit tickWanted(m_next, true); });
  connect(m_note, &QLineEdit::returnPressed, this, [this] {
    const PlannedStep* step = atHand();
    if (step == nullptr || m_note->text().trimmed().isEmpty()) return;
    emit noteWanted(QString::fromStdString(step->id), m_note->text().trimmed());
    m_note->clear();
  });
  connect(m_days, &PlanView::tickWanted, this, &PlanPage::tickWanted);
}

QSize PlanPage::minimumSizeHint() const {
  return {m_whole->widget()->minimumSizeHint().width() + m_whole->verticalScrollBar()->sizeHint().width(), 160};
}

void PlanPage::setGoingOn(const QString& id, const QString& since) {
  m_goingOn = id;
  m_since = since;
  showNext();
}

void PlanPage::show(std::shared_ptr<const Plan> plan, const CoatSpec& spec) {
  m_plan = std::move(plan);
  m_days->show(m_plan, spec);
  m_headline->setText(m_days->headline());
  if (m_plan) {
    const QString bound =
        qs(day_of(m_plan->found.bound).spoken()) + QLatin1Char(' ') + qs(clock_text(m_plan->found.bound));
    m_bound->setText(m_plan->found.proven_best
            ? tr("No other order is faster. Times are about: heat, damp and the label decide.")
            : tr("At best it could be %1. Times are about: heat, damp and the label decide.").arg(bound));
  } else {
    m_bound->clear();
  }
  showNext();
}

void PlanPage::setChosen(const QString& id) {
  m_chosen = id;
  m_days->setChosen(id);
  showAtHand();
}

const PlannedStep* PlanPage::atHand() const {
  if (!m_plan) return nullptr;
  for (const PlannedStep& s : m_plan->steps)
    if (QString::fromStdString(s.id) == m_chosen) return &s;
  return m_plan->next();
}

/// What a day's delay of a step does to the rest.
QString PlanPage::slipsOf(const PlannedStep& step) const {
  if (step.done) return {};
  const auto slips = what_slips(m_plan->project, m_plan->found, step.id, static_cast<int>(kDayMin));
  if (!slips) return qs(slips.error().text);
  const QString ready = qs(day_of(slips->ready).spoken()) + QLatin1Char(' ') + qs(clock_text(slips->ready));
  const auto others = std::count_if(slips->slips.begin(), slips->slips.end(),
      [&](const Slip& s) { return m_plan->project.steps[static_cast<std::size_t>(s.step)].id != step.id; });
  if (slips->ready <= m_plan->ready) return tr("A day later, it is still ready %1.").arg(ready);
  return others == 0 ? tr("A day later, it is ready %1.").arg(ready)
                     : tr("A day later, it is ready %1; %2 other steps move.").arg(ready).arg(others);
}

void PlanPage::showAtHand() {
  const PlannedStep* step = atHand();
  m_note->setEnabled(step != nullptr);
  if (step == nullptr) return m_slips->clear();
  const QString name = qs(step->name);
  m_note->setPlaceholderText(tr("Note on: %1").arg(name));
  const QString slips = slipsOf(*step);
  m_slips->setText(
      slips.isEmpty() || QString::fromStdString(step->id) == m_next ? slips : name + QStringLiteral(". ") + slips);
}

void PlanPage::showNext() {
  const PlannedStep* next = m_plan ? m_plan->next() : nullptr;
  m_card->setVisible(m_plan != nullptr);
  m_next = next != nullptr ? QString::fromStdString(next->id) : QString();
  m_begin->setVisible(next != nullptr && m_goingOn != m_next);
  m_done->setVisible(next != nullptr);
  if (next == nullptr) {
    m_over->setText(tr("Next"));
    m_title->setText(tr("Everything is ticked off."));
    m_when->clear();
    m_caution->clear();
    return showAtHand();
  }
  m_over->setText(m_goingOn == m_next ? tr("Being worked at since %1").arg(m_since) : tr("Next"));
  m_title->setText(qs(next->name));
  QString when =
      tr("%1 at %2, about %3")
          .arg(qs(day_of(next->start).spoken()), qs(clock_text(next->start)), qs(hands_text(next->hands_min)));
  if (next->slack_min > 0) when += tr("; may wait %1").arg(qs(duration_text(next->slack_min)));
  m_when->setText(when);
  m_caution->setText(qs(next->caution));
  m_caution->setVisible(!next->caution.empty());
  showAtHand();
}

}  // namespace awl
