#include "app/widgets/remarks_line.hpp"
#include "print/text.hpp"

#include <QHBoxLayout>
#include <QMenu>
#include <QStyle>
#include <algorithm>

namespace awl {

RemarksLine::RemarksLine(QWidget* parent)
    : QWidget(parent), m_badge(new QLabel(this)), m_text(new QLabel(this)), m_count(new QLabel(this)),
      m_more(new QPushButton(QStringLiteral("\u2026"), this)),
      m_before(new QPushButton(QStringLiteral("\u2039"), this)),
      m_next(new QPushButton(QStringLiteral("\u203a"), this)) {
  setObjectName(QStringLiteral("remarks"));
  setAttribute(Qt::WA_StyledBackground);
  m_badge->setObjectName(QStringLiteral("remark-badge"));
  m_text->setObjectName(QStringLiteral("remark-text"));
  m_text->setWordWrap(true);
  m_text->setMinimumHeight(42);
  m_before->setObjectName(QStringLiteral("remark-before"));
  m_before->setAccessibleName(tr("Remark before"));
  m_next->setObjectName(QStringLiteral("remark-next"));
  m_next->setAccessibleName(tr("Next remark"));
  m_more->setObjectName(QStringLiteral("remark-more"));
  m_more->setAccessibleName(tr("More that helps"));
  m_more->setToolTip(tr("More that helps"));
  m_more->setMenu(new QMenu(m_more));
  for (QPushButton* b : {m_before, m_next}) b->setFixedWidth(34);
  auto* row = new QHBoxLayout(this);
  row->setContentsMargins(14, 6, 14, 6);
  row->setSpacing(10);
  row->addWidget(m_badge);
  row->addWidget(m_text, 1);
  for (std::size_t i = 0; i < m_remedies.size(); ++i) {
    m_remedies[i] = new QPushButton(this);
    m_remedies[i]->setObjectName(
        i == 0 ? QStringLiteral("remark-remedy") : QStringLiteral("remark-remedy-%1").arg(i + 1));
    m_remedies[i]->setProperty("act", i == 0);
    row->addWidget(m_remedies[i]);
    connect(m_remedies[i], &QPushButton::clicked, this, [this, i] { press(i); });
  }
  row->addWidget(m_more);
  row->addWidget(m_before);
  row->addWidget(m_count);
  row->addWidget(m_next);
  connect(m_before, &QPushButton::clicked, this, [this] { step(-1); });
  connect(m_next, &QPushButton::clicked, this, [this] { step(1); });
  renew();
}

void RemarksLine::show(const std::vector<Remark>& remarks) {
  if (remarks != m_judged) m_index = 0, m_refusal.clear();
  m_judged = remarks;
  compose();
}

void RemarksLine::setNext(const std::optional<Remark>& next) {
  if (next == m_nextStep) return;
  m_nextStep = next;
  if (m_judged.empty() || m_judged.front().severity == Severity::note) m_index = 0;
  compose();
}

void RemarksLine::compose() {
  m_remarks = m_judged;
  if (m_nextStep) {
    // What can be mended with one press comes before it.
    const auto note = std::find_if(m_remarks.begin(), m_remarks.end(),
        [](const Remark& r) { return r.severity == Severity::note && r.remedies.empty(); });
    m_remarks.insert(note, *m_nextStep);
  }
  m_index = std::clamp(m_index, 0, std::max(0, static_cast<int>(m_remarks.size()) - 1));
  renew();
}

void RemarksLine::showRefusal(const QString& sentence) {
  m_refusal = sentence;
  renew();
}

void RemarksLine::dropRefusal() {
  m_refusal.clear();
  renew();
}

void RemarksLine::step(int by) {
  const int count = static_cast<int>(m_remarks.size());
  if (count > 0) m_index = (m_index + by + count) % count;
  m_refusal.clear();
  renew();
}

void RemarksLine::press(std::size_t i) {
  if (m_index >= static_cast<int>(m_remarks.size()) || i >= m_remarks[m_index].remedies.size()) return;
  const Remedy remedy = m_remarks[m_index].remedies[i];
  emit remedyPressed(QString::fromStdString(remedy.act), qs(remedy.text));
}

/// The first always; the others as far as the sentence keeps half the line, the rest behind one button.
void RemarksLine::fitRemedies() {
  constexpr double kForRemedies = 0.42;
  const bool refused = !m_refusal.isEmpty();
  const Remark* r = refused || m_index >= static_cast<int>(m_remarks.size())
      ? nullptr
      : &m_remarks[static_cast<std::size_t>(m_index)];
  m_more->menu()->clear();
  int taken = 0;
  for (std::size_t i = 0; i < m_remedies.size(); ++i) {
    const bool there = r != nullptr && i < r->remedies.size();
    taken += there ? m_remedies[i]->sizeHint().width() + 10 : 0;
    const bool room = i == 0 || taken <= kForRemedies * width();
    m_remedies[i]->setVisible(there && room);
    if (there && !room) m_more->menu()->addAction(m_remedies[i]->text(), this, [this, i] { press(i); });
  }
  m_more->setVisible(!m_more->menu()->isEmpty());
}

void RemarksLine::resizeEvent(QResizeEvent*) { fitRemedies(); }

void RemarksLine::mousePressEvent(QMouseEvent*) {
  if (m_index < static_cast<int>(m_remarks.size())) emit placeClicked(QString::fromStdString(m_remarks[m_index].where));
}

void RemarksLine::renew() {
  const int count = static_cast<int>(m_remarks.size());
  const bool refused = !m_refusal.isEmpty();
  const Remark* r = refused || count == 0 ? nullptr : &m_remarks[m_index];
  QString state = QStringLiteral("good"), badge = tr("\u2713 fine");
  if (refused)
    state = QStringLiteral("stop"), badge = tr("\u25a0 not done");
  else if (r != nullptr && r->severity == Severity::stop)
    state = QStringLiteral("stop"), badge = tr("\u25a0 stop");
  else if (r != nullptr && r->severity == Severity::warning)
    state = QStringLiteral("warning"), badge = tr("\u25b2 look");
  else if (r != nullptr && m_nextStep && *r == *m_nextStep && !m_judged.empty())
    state = QStringLiteral("note"), badge = tr("\u25ba next");
  else if (r != nullptr && !m_judged.empty())
    state = QStringLiteral("note"), badge = tr("\u25cf note");
  m_badge->setText(badge);
  m_badge->setProperty("state", state);
  m_badge->style()->unpolish(m_badge);
  m_badge->style()->polish(m_badge);
  m_text->setText(refused ? m_refusal
          : r != nullptr  ? qs(r->sentence)
                          : tr("Nothing to remark. Nothing made from this is protective headgear."));
  for (std::size_t i = 0; i < m_remedies.size(); ++i) {
    if (r != nullptr && i < r->remedies.size()) m_remedies[i]->setText(qs(r->remedies[i].text));
  }
  fitRemedies();
  m_count->setText(tr("%1 of %2").arg(count == 0 ? 0 : m_index + 1).arg(count));
  for (QWidget* w : {static_cast<QWidget*>(m_before), static_cast<QWidget*>(m_count), static_cast<QWidget*>(m_next)})
    w->setVisible(count > 1);
}

}  // namespace awl
