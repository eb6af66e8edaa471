#include "app/stations/seams/glue_tray.hpp"
#include "app/widgets/theme.hpp"
#include "print/text.hpp"

#include <QSignalBlocker>
#include <algorithm>
#include <cmath>

namespace awl {

GlueTray::GlueTray(Station* station, Document& document, const Chain& chain)
    : QObject(station), m_station(station), m_document(document), m_chain(chain),
      m_glue(new QPushButton(tr("Glue it up here first"), station)), m_stop(new QPushButton(tr("Stop"), station)),
      m_progress(new QProgressBar(station)), m_show(new QCheckBox(tr("Show it as it comes out"), station)),
      m_list(new QListWidget(station)), m_remedy(new QPushButton(station)), m_said(nullptr),
      m_search(
          this, [this](const Result<GluedForm>& made) { glued(made); }, m_progress, m_stop),
      m_correct(new QPushButton(tr("Correct the outlines"), station)),
      m_drawn(new QPushButton(tr("Back to drawn"), station)),
      m_correcting(
          this, [this](const Result<CorrectedForm>& made) { correctedTo(made); }, m_progress, m_stop) {
  TrayGroup* group = station->addGroup(tr("What the pieces come to"));
  auto* row = new QHBoxLayout;
  m_glue->setObjectName(QStringLiteral("glue-up"));
  m_glue->setProperty("act", true);
  m_glue->setToolTip(
      tr("Joins the flat pieces along their seams, with their thickness and stretch, and lets them go: before foam is "
         "cut it tells where the form comes out pointed, puckered or too narrow."));
  m_stop->setObjectName(QStringLiteral("glue-stop"));
  m_stop->setToolTip(tr("Stops; nothing is changed."));
  m_stop->setEnabled(false);
  row->addWidget(m_glue, 2), row->addWidget(m_stop, 1);
  group->body()->addLayout(row);
  m_progress->setObjectName(QStringLiteral("glue-progress"));
  m_progress->hide();
  group->body()->addWidget(m_progress);
  m_show->setObjectName(QStringLiteral("glue-show"));
  m_show->setToolTip(tr("The glued shape in place of the form, coloured by how far it stands off."));
  group->body()->addWidget(m_show);
  m_said = group->addText(tr("Takes some seconds. Left out: the head inside, weight, and glue that gives."));
  m_said->setObjectName(QStringLiteral("glue-said"));
  m_list->setObjectName(QStringLiteral("glue-findings"));
  m_list->setAccessibleName(tr("Where it comes out otherwise"));
  m_list->setWordWrap(true);
  m_list->hide();
  group->body()->addWidget(m_list);
  m_remedy->setObjectName(QStringLiteral("glue-remedy"));
  m_remedy->setToolTip(tr("Puts it on at Dress; it is in the pieces, the shopping list and the build sheet then."));
  m_remedy->hide();
  group->body()->addWidget(m_remedy);
  connect(m_remedy, &QPushButton::clicked, this, [this] {
    const int at = m_list->currentRow();
    if (!m_made || at < 0 || m_made->findings[at].remedies.empty()) return;
    const std::string act = m_made->findings[at].remedies.front().act;
    m_document.change(m_remedy->text(), [act](const Build& b) { return apply_act(b, act); });
  });
  connect(m_glue, &QPushButton::clicked, this, &GlueTray::glue);
  connect(m_show, &QCheckBox::toggled, this, [this] { emit m_station->standChanged(); });
  connect(m_list, &QListWidget::currentRowChanged, this, [this] {
    showRemedy();
    emit m_station->standChanged();
  });
  m_show->setEnabled(false);
  addCorrecting();
}

void GlueTray::addCorrecting() {
  TrayGroup* group = m_station->addGroup(tr("Bring it nearer to the form"));
  m_far = m_station->addChoice(group, QStringLiteral("correct-far"), tr("Outlines move"),
      tr("A little keeps the pieces as one knows them and gains most of it. Closer moves outlines by several "
         "millimetres."),
      {{"a-little", tr("A little, about 1 mm")}, {"closer", tr("As far as it takes")}}, {});
  auto* row = new QHBoxLayout;
  m_correct->setObjectName(QStringLiteral("correct-outlines"));
  m_correct->setProperty("act", true);
  m_correct->setToolTip(
      tr("Glues the pieces up again and again with outlines moved a little, until what comes out lies nearer to the "
         "form; kept only where a finer reckoning agrees. Both sides of every seam stay equally long."));
  m_drawn->setObjectName(QStringLiteral("correct-drop"));
  m_drawn->setToolTip(tr("Takes all corrections back: the outlines as they were laid flat."));
  row->addWidget(m_correct, 2), row->addWidget(m_drawn, 1);
  group->body()->addLayout(row);
  m_corrected = group->addText({});
  m_corrected->setObjectName(QStringLiteral("correct-said"));
  connect(m_correct, &QPushButton::clicked, this, &GlueTray::correct);
  connect(m_drawn, &QPushButton::clicked, this,
      [this] { m_document.edit(tr("Outlines as drawn"), [](Build& next) { next.corrections.clear(); }); });
}

void GlueTray::correct() {
  if (m_search.isRunning() || m_correcting.isRunning() || !m_derived.panels) return;
  m_corrected->setText(tr("Gluing it up with outlines moved\u2026 some ten seconds a part."));
  const bool closer = m_far->currentData().toString() == QLatin1String("closer");
  m_correcting.begin(
      [derived = m_derived, build = m_document.build(), chain = &m_chain, closer](const Progress& progress) {
        return correct_outlines(derived, build, chain->materials(), 0, closer, progress);
      });
  showCorrecting(m_derived);
}

void GlueTray::correctedTo(const Result<CorrectedForm>& made) {
  showCorrecting(m_derived);
  if (!made) return m_corrected->setText(qs(made.error().text));
  QStringList said;
  for (const std::string& sentence : made->said) said << qs(sentence);
  m_corrected->setText(said.join(QStringLiteral("\n")));
  if (!made->corrections.empty())
    m_document.edit(tr("Outlines corrected"), [&](Build& next) { next.corrections = made->corrections; });
}

void GlueTray::showCorrecting(const Derived& derived) {
  const bool busy = m_search.isRunning() || m_correcting.isRunning();
  m_correct->setEnabled(derived.panels != nullptr && !busy);
  m_glue->setEnabled(derived.panels != nullptr && !busy);
  const auto& corrections = m_document.build().corrections;
  m_drawn->setEnabled(!busy && !corrections.empty());
  if (busy || !m_corrected->text().isEmpty()) return;
  m_corrected->setText(corrections.empty()
          ? tr("No outline is corrected. Where it is glued up first, one sees what there is to gain.")
          : tr("Outlines of %n part(s) are corrected.", nullptr, static_cast<int>(corrections.size())));
}

void GlueTray::show(const Derived& derived) {
  m_derived = derived;
  showCorrecting(derived);
  const bool stale = m_made && derived.panels && m_made->panels != derived.panels;
  if (m_made && !m_search.isRunning())
    m_said->setText(stale ? tr("The pieces have changed since; glue it up again.") : m_summary);
  m_show->setEnabled(m_made && !stale);
  m_list->setEnabled(m_made && !stale);
}

void GlueTray::glue() {
  if (m_search.isRunning() || m_correcting.isRunning() || !m_derived.panels) return;
  m_said->setText(tr("Joining the seams\u2026"));
  m_search.begin([derived = m_derived, build = m_document.build(), chain = &m_chain](
                     const Progress& progress) { return glue_form(derived, build, chain->materials(), progress); });
  showCorrecting(m_derived);
}

void GlueTray::glued(const Result<GluedForm>& made) {
  showCorrecting(m_derived);
  if (!made) return m_said->setText(qs(made.error().text));
  m_made = *made;
  auto map = std::make_shared<WornMap>();
  map->on = m_made->panels, map->mm = m_made->off_mm, map->moved = m_made->moved;
  map->range_mm = std::clamp(std::ceil(m_made->p95_mm), 3.0, 20.0);
  const std::string range = format_length(map->range_mm, m_document.build().shown);
  map->low = range + " in", map->high = range + " out";
  m_map = map;
  const QSignalBlocker quiet(m_list);
  m_list->clear();
  for (const GlueFinding& f : m_made->findings) m_list->addItem(qs(f.sentence));
  int high = 2 * m_list->frameWidth();
  for (int row = 0; row < m_list->count(); ++row) high += m_list->sizeHintForRow(row);
  m_list->setFixedHeight(std::clamp(high, 40, static_cast<int>(150.0 * typeScale(*m_list))));
  m_list->show();
  const LengthUnit unit = m_document.build().shown;
  m_summary = tr("Most of it comes within %1 of the form. Click a line to see where.")
                  .arg(QString::fromStdString(format_length(0.1 * std::round(10.0 * m_made->p95_mm), unit)));
  m_show->setEnabled(true);
  m_show->setChecked(true);
  show(m_derived);
  emit m_station->standChanged();
}

void GlueTray::showRemedy() {
  const int row = m_list->currentRow();
  const bool there =
      m_made && row >= 0 && row < static_cast<int>(m_made->findings.size()) && !m_made->findings[row].remedies.empty();
  m_remedy->setVisible(there);
  if (there) m_remedy->setText(qs(m_made->findings[row].remedies.front().text));
}

void GlueTray::apply(StandChoice& choice) const {
  if (!m_made || !m_show->isChecked() || !m_show->isEnabled()) return;
  choice.worn_map = m_map;
  const int row = m_list->currentRow();
  if (row >= 0 && row < static_cast<int>(m_made->findings.size()) && m_made->findings[row].mm > 0.0)
    choice.spots.push_back(m_made->findings[row].at);
}

}  // namespace awl
