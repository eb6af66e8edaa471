#include "app/stations/seams/alter_tray.hpp"

#include <QSignalBlocker>
#include <cmath>
#include <set>

#include "app/widgets/theme.hpp"
#include "core/derived/whereabouts.hpp"
#include "print/text.hpp"

namespace awl {
namespace {

constexpr int kSeam = Qt::UserRole, kPanel = Qt::UserRole + 1;

/// What a seam or panel is called within its part; in a build of several parts names begin with the part's.
const PanelSet* setOf(const Derived& derived, int part) {
  if (!derived.form || derived.part_panels.size() != derived.form->parts.size()) return nullptr;
  for (std::size_t i = 0; i < derived.form->parts.size(); ++i)
    if (derived.form->parts[i]->part == part) return derived.part_panels[i].get();
  return nullptr;
}

}  // namespace

AlterTray::AlterTray(Station* station, Document& document)
    : QObject(station), m_station(station), m_document(document), m_where(new QComboBox(station)),
      m_side(new QComboBox(station)), m_mirrored(new QCheckBox(tr("The same on the other side"), station)),
      m_onFoam(new QCheckBox(tr("Already cut on the foam"), station)), m_note(new QLineEdit(station)),
      m_alter(new QPushButton(tr("Alter it"), station)), m_back(new QPushButton(tr("Take it back"), station)),
      m_list(new QListWidget(station)) {
  TrayGroup* group = station->addGroup(tr("Take in and let out"));
  makeFields(group);
  auto* row = new QHBoxLayout;
  row->addWidget(m_alter), row->addWidget(m_back);
  group->body()->addLayout(row);
  m_list->setObjectName(QStringLiteral("alterations"));
  m_list->setAccessibleName(tr("What was altered"));
  m_list->setWordWrap(true);
  setTypeHeight(*m_list, 96, 96);
  group->body()->addWidget(m_list);
  m_effect = group->addText({});
  m_effect->setObjectName(QStringLiteral("alter-effect"));
  connect(m_where, &QComboBox::currentIndexChanged, this, &AlterTray::showSides);
  connect(m_alter, &QPushButton::clicked, this, &AlterTray::alter);
  connect(m_back, &QPushButton::clicked, this, [this] {
    const auto* item = m_list->currentItem();
    if (item == nullptr) return emit m_station->told(tr("Choose an alteration in the list first."));
    m_document.change(tr("Take an alteration back"), [id = item->data(kSeam).toInt()](const Build& b) {
      return apply_act(b, "drop-alteration " + std::to_string(id));
    });
  });
}

LengthField* AlterTray::addAmount(
    TrayGroup* group, const char* name, const QString& label, const QString& tip, double& mm) {
  auto* field = new LengthField(QLatin1String(name), label, tip, m_station);
  group->addRow(label, field);
  connect(field, &LengthField::entered, this, [this, field, &mm](double value) {
    if (std::abs(value) > kMostAlteredMm)
      return field->refuse(tr("At most %1 to or fro.")
                               .arg(QString::fromStdString(format_length(kMostAlteredMm, m_document.build().shown))));
    mm = value;
    field->showValue(mm, m_document.build().shown);
  });
  return field;
}

void AlterTray::makeFields(TrayGroup* group) {
  m_where->setObjectName(QStringLiteral("alter-where"));
  m_where->setAccessibleName(tr("Seam or edge to alter"));
  m_where->setToolTip(tr("The seam at which the piece is too wide or too narrow, or a free edge to be trimmed."));
  group->addRow(tr("At"), m_where);
  m_side->setObjectName(QStringLiteral("alter-side"));
  m_side->setAccessibleName(tr("Side of the seam"));
  m_side->setToolTip(tr("Half on each side keeps the seam where it is."));
  group->addRow(tr("On"), m_side);
  m_first = addAmount(group, "alter-first", tr("Upper end"), tr("Taken in there; with a minus let out."), m_firstMm);
  m_middle = addAmount(group, "alter-middle", tr("Middle"), tr("Taken in half way; with a minus let out."), m_middleMm);
  m_last = addAmount(group, "alter-last", tr("Lower end"), tr("Taken in there; with a minus let out."), m_lastMm);
  m_mirrored->setObjectName(QStringLiteral("alter-mirrored"));
  m_mirrored->setChecked(true);
  m_onFoam->setObjectName(QStringLiteral("alter-on-foam"));
  m_onFoam->setToolTip(
      tr("You cut it off the foam at the bench: it is noted, and the pattern and its next version have it."));
  group->body()->addWidget(m_mirrored);
  group->body()->addWidget(m_onFoam);
  m_note->setObjectName(QStringLiteral("alter-note"));
  m_note->setAccessibleName(tr("Why"));
  m_note->setPlaceholderText(tr("Why: gaped at the temples"));
  group->body()->addWidget(m_note);
  m_alter->setObjectName(QStringLiteral("alter"));
  m_alter->setToolTip(tr("Moves the edge of the flat pieces; marks ride along."));
  m_back->setObjectName(QStringLiteral("alter-back"));
  m_back->setToolTip(tr("Drops the chosen alteration."));
}

void AlterTray::show(const Build& build, const Derived& derived) {
  showPlaces(build, derived);
  m_first->showValue(m_firstMm, build.shown);
  m_middle->showValue(m_middleMm, build.shown);
  m_last->showValue(m_lastMm, build.shown);
  const int row = m_list->currentRow();
  m_list->clear();
  for (const Alteration& a : build.alterations) {
    const Part* part = find_part(build, a.part);
    auto* item = new QListWidgetItem(
        (build.parts.size() > 1 && part != nullptr ? QString::fromStdString(part->name) + QStringLiteral(": ")
                                                   : QString()) +
            qs(words_of(a)),
        m_list);
    item->setData(kSeam, a.id);
  }
  m_list->setCurrentRow(std::min(row, m_list->count() - 1));
  m_back->setEnabled(!build.alterations.empty());
  m_effect->setText(effect(build, derived));
}

void AlterTray::showPlaces(const Build& build, const Derived& derived) {
  const int part = m_document.partAtHand();
  const PanelSet* set = build.making == Making::parts ? setOf(derived, part) : nullptr;
  m_alter->setEnabled(set != nullptr);
  if (set == nullptr || set == m_set.get()) return;
  for (const auto& held : derived.part_panels)
    if (held.get() == set) m_set = held;
  const QVariant seam = m_where->currentData(kSeam), panel = m_where->currentData(kPanel);
  {
    const QSignalBlocker quiet(m_where);
    m_where->clear();
    std::set<std::string> letters;
    for (const Seam& s : set->seams) {
      if (s.letter.empty() || !letters.insert(s.letter).second) continue;
      m_where->addItem(tr("Seam %1, %2").arg(QString::fromStdString(s.letter), QString::fromStdString(s.name)));
      m_where->setItemData(m_where->count() - 1, QString::fromStdString(s.name), kSeam);
    }
    for (const Panel& p : set->panels) {
      const bool free =
          std::any_of(p.border.begin(), p.border.end(), [](const BorderEdge& e) { return !e.seam.valid(); });
      if (!free || p.mirror_of) continue;
      m_where->addItem(tr("Free edge of %1").arg(QString::fromStdString(p.name)));
      m_where->setItemData(m_where->count() - 1, QString::fromStdString(p.name), kPanel);
    }
    for (int i = 0; i < m_where->count(); ++i)
      if (m_where->itemData(i, kSeam) == seam && m_where->itemData(i, kPanel) == panel) m_where->setCurrentIndex(i);
  }
  showSides();
}

/// Both sides of the seam, or one of the pieces that lie at it.
void AlterTray::showSides() {
  m_side->clear();
  const std::string seam = m_where->currentData(kSeam).toString().toStdString();
  m_side->setEnabled(!seam.empty());
  if (!m_set || seam.empty()) return;
  m_side->addItem(tr("Both sides, half each"));
  for (const Panel& p : m_set->panels)
    if (!p.mirror_of && std::any_of(p.border.begin(), p.border.end(), [&](const BorderEdge& e) {
          return e.seam.valid() && m_set->form.seam_names[e.seam.value] == seam;
        })) {
      m_side->addItem(tr("Only %1").arg(QString::fromStdString(p.name)));
      m_side->setItemData(m_side->count() - 1, QString::fromStdString(p.name), kPanel);
    }
}

void AlterTray::alter() {
  for (LengthField* field : {m_first, m_middle, m_last})
    if (field->isWrong()) return field->setFocus();
  if (m_where->currentIndex() < 0) return emit m_station->told(tr("This part has no seam and no free edge to alter."));
  Alteration a;
  a.part = m_document.partAtHand();
  a.seam = m_where->currentData(kSeam).toString().toStdString();
  a.panel = (a.seam.empty() ? m_where->currentData(kPanel) : m_side->currentData(kPanel)).toString().toStdString();
  a.first_mm = m_firstMm, a.middle_mm = m_middleMm, a.last_mm = m_lastMm;
  a.mirrored = m_mirrored->isChecked(), a.on_foam = m_onFoam->isChecked(),
  a.note = m_note->text().trimmed().toStdString();
  // What the flat pieces do not bear is refused before it is in the build.
  if (auto tried = m_set ? alter_one(*m_set, a) : Result<void>{}; !tried)
    return emit m_station->told(qs(tried.error().text));
  const bool done = m_document.change(
      a.on_foam ? tr("Note what was cut on the foam") : tr("Take in or let out"), [&](const Build& b) -> Result<Build> {
        Build next = b;
        if (auto added = add_alteration(next, a); !added) return fail(added);
        return next;
      });
  if (done) m_note->clear();
}

/// What it does to the openings: "The lower edge: 612 mm round, was 618 mm."
QString AlterTray::effect(const Build& build, const Derived& derived) const {
  const PanelSet* set = setOf(derived, m_document.partAtHand());
  if (set == nullptr || build.alterations.empty()) return {};
  QStringList lines;
  const Box box = box_of(set->form.mesh.vertices);
  for (const RimGirth& rim : rim_girths(*set)) {
    if (std::abs(rim.after_mm - rim.before_mm) < 0.3) continue;
    QString edge = qs(edge_words(box, rim.at));
    edge[0] = edge[0].toUpper();
    const auto length = [&](double mm) {
      return QString::fromStdString(format_length(0.1 * std::round(10.0 * mm), build.shown));
    };
    lines << tr("%1: %2 round, was %3.").arg(edge, length(rim.after_mm), length(rim.before_mm));
  }
  if (lines.isEmpty()) lines << tr("No opening changes its girth. Glue it up to see what the form does.");
  return lines.join(QLatin1Char('\n'));
}

}  // namespace awl
