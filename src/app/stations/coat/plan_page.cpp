#include "app/stations/coat/plan_page.hpp"

#include <QHBoxLayout>
#include <QVBoxLayout>

#include "app/widgets/text.hpp"

namespace awl {

PlanPage::PlanPage(QWidget* parent)
    : QWidget(parent), m_headline(new QLabel(this)), m_bound(new QLabel(this)), m_over(new QLabel(this)),
      m_title(new QLabel(this)), m_when(new QLabel(this)), m_caution(new QLabel(this)), m_card(new QFrame(this)),
      m_begin(new QPushButton(tr("Begin"), this)), m_done(new QPushButton(tr("Done"), this)),
      m_scroll(new QScrollArea(this)), m_days(new PlanView) {
  setObjectName(QStringLiteral("plan-page"));
  setMinimumWidth(160);
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
  QFont large = font();
  large.setPointSizeF(font().pointSizeF() * 1.45);
  large.setWeight(QFont::DemiBold);
  m_title->setFont(large);
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
  auto* card = new QVBoxLayout(m_card);
  for (QLabel* label : {m_over, m_title, m_when, m_caution}) card->addWidget(label);
  card->addLayout(buttons);
  m_scroll->setWidgetResizable(true);
  m_scroll->setFrameShape(QFrame::NoFrame);
  m_scroll->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
  m_scroll->setWidget(m_days);
  auto* column = new QVBoxLayout(this);
  column->setContentsMargins(12, 10, 8, 0);
  column->addWidget(m_headline);
  column->addWidget(m_bound);
  column->addWidget(m_card);
  column->addWidget(m_scroll, 1);
  connect(m_begin, &QPushButton::clicked, this, [this] { emit beginWanted(m_next); });
  connect(m_done, &QPushButton::clicked, this, [this] { emit tickWanted(m_next, true); });
  connect(m_days, &PlanView::tickWanted, this, &PlanPage::tickWanted);
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

void PlanPage::showNext() {
  const PlannedStep* next = m_plan ? m_plan->next() : nullptr;
  m_card->setVisible(m_plan != nullptr);
  m_next = next != nullptr ? qs(next->id) : QString();
  m_begin->setVisible(next != nullptr && m_goingOn != m_next);
  m_done->setVisible(next != nullptr);
  if (next == nullptr) {
    m_over->setText(tr("Next"));
    m_title->setText(tr("Everything is ticked off."));
    m_when->clear();
    m_caution->clear();
    return;
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
}

}  // namespace awl
