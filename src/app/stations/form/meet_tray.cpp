#include "app/stations/form/meet_tray.hpp"

#include <QGridLayout>
#include <QSignalBlocker>
#include <cmath>

#include "core/base/numbers.hpp"

namespace awl {
namespace {

struct MeetWord {
  const char* id;
  QString text;
};

const QList<MeetWord>& meetWords() {
  static const QList<MeetWord> all{{"", MeetTray::tr("are apart")}, {"sits", MeetTray::tr("sits on it")},
      {"opens", MeetTray::tr("sits, open below")}, {"through", MeetTray::tr("goes through it")},
      {"edge", MeetTray::tr("edge to edge")}, {"skin", MeetTray::tr("one skin")}};
  return all;
}

}  // namespace

MeetTray::MeetTray(Station* station, Document& document, TrayGroup* group)
    : QObject(station), m_station(station), m_document(document), m_group(group), m_grid(new QGridLayout) {
  m_empty =
      group->addText(tr("What runs into an earlier part is cut to it here: a crest to its helm, a tube through a "
                        "visor. The first part has none before it."));
  m_empty->setObjectName(QStringLiteral("meets-empty"));
  group->body()->addLayout(m_grid);
  m_grid->setColumnStretch(1, 1);
  m_said = group->addText({});
  m_said->setObjectName(QStringLiteral("meets-said"));
}

MeetTray::Row& MeetTray::row(std::size_t i) {
  while (m_rows.size() <= i) {
    Row row{new QLabel(m_station), new QComboBox(m_station)};
    const int at = static_cast<int>(m_rows.size());
    row.how->setObjectName(QStringLiteral("meets-%1").arg(at + 1));
    row.how->setSizeAdjustPolicy(QComboBox::AdjustToMinimumContentsLengthWithIcon);
    row.how->setMinimumContentsLength(13);
    row.how->setToolTip(
        tr("Sits on it: the foot is cut to its outer face, the blade tilted as printed.\n"
           "Sits, open below: and the other is open inside the foot.\n"
           "Goes through it: the other gets a hole round it, the end stands out behind.\n"
           "Edge to edge: it fills the other's opening, and their edges meet.\n"
           "One skin: both are cut where they cross and glued by a seam there."));
    for (const MeetWord& way : meetWords()) row.how->addItem(way.text, QString::fromLatin1(way.id));
    row.name->setWordWrap(true);
    m_grid->addWidget(row.name, at, 0);
    m_grid->addWidget(row.how, at, 1);
    connect(row.how, &QComboBox::activated, this,
        [this, at](int k) { choose(m_rows[at].part, m_rows[at].how->itemData(k).toString()); });
    m_rows.push_back(row);
  }
  return m_rows[i];
}

void MeetTray::choose(int with, const QString& how) {
  m_document.changePart(m_document.partAtHand(), tr("Where parts meet"), [&](Part p) -> Result<Part> {
    std::erase_if(p.meets, [&](const Meet& m) { return m.with == with; });
    if (how.isEmpty()) return p;
    const auto word = meet_how_from(how.toStdString());
    if (!word) return fail(word);
    p.meets.push_back({with, *word});
    return p;
  });
}

void MeetTray::show(const Build& build, const Derived& derived) {
  const Part* hand = find_part(build, m_document.partAtHand());
  std::size_t count = 0;
  for (const Part& other : build.parts) {
    if (hand == nullptr || other.id == hand->id) break;
    Row& one = row(count++);
    one.part = other.id;
    const QString name = QString::fromStdString(other.name);
    one.name->setText(tr("%1 and the %2").arg(QString::fromStdString(hand->name), name));
    one.how->setAccessibleName(tr("How it meets the %1").arg(name));
    const auto meet =
        std::find_if(hand->meets.begin(), hand->meets.end(), [&](const Meet& m) { return m.with == other.id; });
    const QSignalBlocker quiet(one.how);
    one.how->setCurrentIndex(std::max(
        0, one.how->findData(meet == hand->meets.end() ? QString() : QString::fromLatin1(name_of(meet->how)))));
  }
  for (std::size_t i = 0; i < m_rows.size(); ++i)
    m_rows[i].name->setVisible(i < count), m_rows[i].how->setVisible(i < count);
  m_empty->setVisible(count == 0);
  QStringList said;
  const PartForm* form = derived.form && hand != nullptr ? derived.form->holding(hand->id) : nullptr;
  const auto length = [&](double mm) { return QString::fromStdString(format_length(std::round(mm), build.shown)); };
  if (form != nullptr && form->part != hand->id)
    said << tr("One skin with the %1: its pieces and its seams are there.").arg(QString::fromStdString(form->name));
  for (const MetFact& fact : form != nullptr ? form->met : std::vector<MetFact>{}) {
    if (fact.lower != (form->part != hand->id)) continue;
    const Part* other = find_part(build, fact.with);
    if (fact.lower && fact.with != hand->id) continue;
    QString line = tr("Meets the %1 along %2")
                       .arg(QString::fromStdString(fact.lower ? form->name
                                    : other != nullptr        ? other->name
                                                              : std::string()),
                           length(fact.line_mm));
    if (fact.steepest_deg >= 1.0)
      line += tr(", blade up to %1 degrees from square").arg(QString::fromStdString(fixed(fact.steepest_deg, 0)));
    if (fact.hole_mm2 > 0.0)
      line += tr("; %1 cm\u00b2 are cut out of it").arg(QString::fromStdString(fixed(fact.hole_mm2 / 100.0, 1)));
    said << line + QLatin1Char('.');
  }
  m_said->setText(said.join(QLatin1Char('\n')));
  m_said->setVisible(!said.isEmpty());
}

}  // namespace awl
