#include "app/stations/foam/cut_rehearsal.hpp"
#include "app/widgets/text.hpp"

#include <QHBoxLayout>
#include <QPainter>
#include <QPainterPath>
#include <QSignalBlocker>
#include <QVBoxLayout>
#include <cmath>

#include "app/widgets/theme.hpp"
namespace awl {
namespace {

constexpr int kFrameMs = 40, kStillMs = 500;  // the latter where nothing is to move

QString clock(double seconds) {
  const int s = static_cast<int>(std::round(seconds));
  return QStringLiteral("%1:%2").arg(s / 60).arg(s % 60, 2, 10, QLatin1Char('0'));
}

}  // namespace

CutView::CutView(QWidget* parent) : QWidget(parent) {
  setObjectName(QStringLiteral("cut-view"));
  setAccessibleName(tr("The machine's mat"));
  setMinimumSize(420, 420);
}

void CutView::show(const CutJob& job, const MachineFacts& facts) { m_job = job, m_facts = facts, update(); }

void CutView::setState(const MachineState& state, const std::vector<MachineEvent>& events) {
  m_state = state, m_events = events, update();
}

void CutView::paintEvent(QPaintEvent*) {
  QPainter painter(this);
  painter.setRenderHint(QPainter::Antialiasing);
  const double w = std::max(m_job.width_mm, 1.0), h = std::max(m_job.height_mm, 1.0);
  const double zoom = std::min((width() - 24.0) / w, (height() - 24.0) / h);
  const QPointF low(0.5 * (width() - zoom * w), 0.5 * (height() + zoom * h));
  const auto at = [&](const Vec2& p) { return QPointF(low.x() + zoom * p.x(), low.y() - zoom * p.y()); };
  painter.fillRect(QRectF(at({0.0, h}), at({w, 0.0})), QColor(0xf3, 0xee, 0xe1));
  painter.setPen(QPen(QColor(0x9a, 0x93, 0x84), 1.4));
  painter.drawRect(QRectF(at({0.0, h}), at({w, 0.0})));
  const QColor ink(0x1d, 0x27, 0x33), todo(0xa8, 0x9f, 0x8c);
  for (std::size_t i = 0; i < m_job.moves.size(); ++i) {
    const CutMove& m = m_job.moves[i];
    QPolygonF line;
    for (const Vec2& p : m.line) line << at(p);
    if (m.closed) line << at(m.line.front());
    QPen pen(i < m_state.move ? ink : todo, i < m_state.move ? 1.8 : 1.0);
    if (i >= m_state.move) pen.setDashPattern({3, 3});
    painter.setPen(pen);
    painter.drawPolyline(line);
  }
  for (const MachineEvent& e : m_events) {
    if (e.kind == MachineEvent::Kind::finished) continue;
    painter.setPen(QPen(QColor(0xb3, 0x3a, 0x12), 2.0));
    painter.drawEllipse(at(e.where), 7.0, 7.0);
    painter.drawText(at(e.where) + QPointF(9.0, -5.0), QStringLiteral("!"));
  }
  painter.setPen(QPen(Qt::white, 2.0));
  painter.setBrush(m_state.down ? QColor(0xb3, 0x3a, 0x12) : QColor(0x1f, 0x6f, 0x8b));
  painter.drawEllipse(at(m_state.knife), 6.0, 6.0);
}

CutRehearsal::CutRehearsal(std::vector<std::string> svgs, const MachineFacts& facts, QWidget* parent)
    : EyeDialog(parent), m_svgs(std::move(svgs)), m_machine(simulated_machine(facts)), m_view(new CutView(this)),
      m_mat(new QComboBox(this)), m_speed(new QComboBox(this)), m_play(new QPushButton(this)),
      m_time(new QSlider(Qt::Horizontal, this)), m_said(new QLabel(this)), m_list(new QListWidget(this)) {
  setObjectName(QStringLiteral("cut-rehearsal"));
  setWindowTitle(tr("Rehearse the cut"));
  resize(900, 640);
  const struct {
    QWidget* widget;
    const char* name;
    QString accessible, tip;
  } parts[] = {{m_mat, "cut-mat", tr("Mat"), tr("Which of the files is played.")},
      {m_speed, "cut-speed", tr("Speed"), tr("How much faster than the machine.")},
      {m_play, "cut-play", tr("Play"), tr("Starts and stops the rehearsal.")},
      {m_time, "cut-time", tr("Time"), tr("Drag to any moment.")},
      {m_list, "cut-events", tr("What would go wrong"), tr("Click one to go to its moment.")}};
  for (const auto& p : parts)
    p.widget->setObjectName(QLatin1String(p.name)), p.widget->setAccessibleName(p.accessible),
        p.widget->setToolTip(p.tip);
  for (std::size_t i = 0; i < m_svgs.size(); ++i) m_mat->addItem(tr("Mat %1 of %2").arg(i + 1).arg(m_svgs.size()));
  for (const int x : {1, 10, 60}) m_speed->addItem(x == 1 ? tr("as it is") : tr("%1 times faster").arg(x), x);
  m_speed->setCurrentIndex(1);
  m_said->setObjectName(QStringLiteral("cut-said"));
  m_said->setWordWrap(true);
  m_list->setWordWrap(true);
  auto* side = new QVBoxLayout;
  side->addWidget(m_mat);
  side->addWidget(m_said);
  side->addWidget(m_list, 1);
  auto* note =
      new QLabel(tr("A rehearsal, not a promise: try a scrap, and stay with the machine while it cuts."), this);
  note->setWordWrap(true);
  side->addWidget(note);
  auto* below = new QHBoxLayout;
  below->addWidget(m_play), below->addWidget(m_time, 1), below->addWidget(m_speed);
  auto* left = new QVBoxLayout;
  left->addWidget(m_view, 1);
  left->addLayout(below);
  auto* all = new QHBoxLayout(this);
  all->addLayout(left, 3);
  all->addLayout(side, 2);
  connect(m_mat, &QComboBox::activated, this, &CutRehearsal::takeMat);
  connect(m_play, &QPushButton::clicked, this, [this] { play(!m_tick.isActive()); });
  connect(m_time, &QSlider::valueChanged, this, [this](int v) { seek(0.1 * v); });
  connect(m_list, &QListWidget::itemClicked, this,
      [this](const QListWidgetItem* item) { seek(item->data(Qt::UserRole).toDouble()); });
  m_tick.setInterval(isStill() ? kStillMs : kFrameMs);
  connect(&m_tick, &QTimer::timeout, this, [this] {
    if (!m_machine->advance(0.001 * m_tick.interval() * m_speed->currentData().toInt())) play(false);
    renew();
  });
  takeMat(0);
}

void CutRehearsal::takeMat(int mat) {
  play(false);
  auto job = read_cut_job(m_svgs[static_cast<std::size_t>(mat)]);
  Result<void> loaded;
  if (job)
    m_job = std::move(*job), loaded = m_machine->load(m_job);
  else
    loaded = fail(job);
  m_view->show(m_job, m_machine->facts());
  if (!loaded) return m_said->setText(qs(loaded.error().text));
  // Run through once beforehand: all that would go wrong is told at once.
  m_machine->start();
  while (m_machine->advance(60.0)) {
  }
  m_list->clear();
  for (const MachineEvent& e : m_machine->events()) {
    auto* item = new QListWidgetItem(clock(e.at_s) + QStringLiteral("  ") + qs(e.sentence), m_list);
    item->setData(Qt::UserRole, e.at_s);
  }
  const QSignalBlocker quiet(m_time);
  m_time->setRange(0, static_cast<int>(std::ceil(10.0 * m_machine->state().total_s)));
  seek(0.0);
}

void CutRehearsal::seek(double seconds) {
  (void)m_machine->load(m_job);
  m_machine->start();
  m_machine->advance(seconds);
  if (!m_tick.isActive()) m_machine->stop();
  renew();
}

void CutRehearsal::play(bool on) {
  if (on && m_state.move >= m_job.moves.size()) seek(0.0);
  if (on)
    m_machine->start(), m_tick.start();
  else
    m_machine->stop(), m_tick.stop();
  m_play->setText(on ? tr("Pause") : tr("Play"));
}

void CutRehearsal::renew() {
  m_state = m_machine->state();
  m_view->setState(m_state, m_machine->events());
  const QSignalBlocker quiet(m_time);
  m_time->setValue(static_cast<int>(std::round(10.0 * m_state.at_s)));
  const QString piece = m_state.move < m_job.moves.size() ? qs(m_job.moves[m_state.move].name) : tr("done");
  m_said->setText(tr("%1 of %2 min, stroke %3 of %4 (%5)")
                      .arg(clock(m_state.at_s), clock(m_state.total_s))
                      .arg(std::min(m_state.move + 1, m_job.moves.size()))
                      .arg(m_job.moves.size())
                      .arg(piece));
}

}  // namespace awl
