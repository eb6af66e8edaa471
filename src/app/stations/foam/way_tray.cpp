#include "app/stations/foam/way_tray.hpp"

#include <QSignalBlocker>
#include <algorithm>

#include "core/base/numbers.hpp"
#include "core/base/text.hpp"
#include "core/stuff/bears.hpp"
#include "app/widgets/text.hpp"

namespace awl {

WayTray::WayTray(Station* station, Document& document, const Chain& chain)
    : QObject(station), m_station(station), m_document(document), m_chain(chain),
      m_group(station->addGroup(tr("How each part is made"))),
      m_fields(new DialFields(station, dial_facts<WaySpec>(),
          [&document] { return "parts/" + std::to_string(document.partAtHand()) + "/way"; })),
      m_facts(nullptr), m_buck(new QPushButton(tr("Save the buck as a mesh\u2026"), station)) {
  m_part = station->addChoice(
      m_group, QStringLiteral("way-part"), tr("Part"), tr("Each part may be made its own way."), {}, {});
  connect(m_part, &QComboBox::activated, this, [this](int i) { m_document.takeInHand(m_part->itemData(i).toInt()); });
  m_fields->addSome(m_group, QStringLiteral("way"), "way", {"skin", "slabs", "carve", "net", "drawn"});
  makeFields();
  showRows(Way::skin);
  m_facts = m_group->addText({});
  m_facts->setObjectName(QStringLiteral("way-facts"));
  m_buck->setObjectName(QStringLiteral("export-buck"));
  m_buck->setToolTip(
      tr("The closed form the sheet is drawn over, its skirt and foot with it: to print, mill or cast."));
  m_group->body()->addWidget(m_buck);
  connect(m_buck, &QPushButton::clicked, this, [this] { emit exportWanted(QStringLiteral("buck")); });
}

void WayTray::makeFields() {
  std::vector<std::pair<std::string, QString>> blocks, sheets;
  for (const Foam& f : m_chain.materials().foams) {
    if (f.kind == SheetKind::block || f.kind == SheetKind::board || f.kind == SheetKind::foam)
      blocks.push_back({f.id, qs(f.name)});
    if (f.kind == SheetKind::clear || f.kind == SheetKind::thermoplastic || f.kind == SheetKind::rigid)
      sheets.push_back({f.id, qs(f.name)});
  }
  std::vector<std::pair<std::string, QString>> kinds{{"", tr("The build's foam")}};
  for (const Foam& f : m_chain.materials().foams) kinds.push_back({f.id, qs(f.name)});
  m_stuff = m_station->addChoice(m_group, QStringLiteral("way-stuff"), tr("Cut from"),
      tr("Another sheet than the rest: fabric for a cover, clear sheet for a window. Its usual margins come with it."),
      kinds, {});
  m_rows.push_back({m_stuff, {Way::skin}});
  connect(m_stuff, &QComboBox::activated, this, [this](int i) {
    const std::string id = m_stuff->itemData(i).toString().toStdString();
    m_document.change(tr("Cut from"), [&, at = m_document.partAtHand()](const Build& b) -> Result<Build> {
      Build next = b;
      Part* part = find_part(next, at);
      if (part == nullptr) return next;
      part->stuff = id, part->thickness_mm = 0.0;
      if (const auto kind = m_chain.materials().foam(id); kind && !id.empty())
        part->thickness_mm = kind->thickness_mm[kind->thickness_mm.size() / 2];
      return next;
    });
  });
  const auto only = [&](std::vector<Way> of, QWidget* field) { m_rows.push_back({field, std::move(of)}); };
  const auto length = [&](const char* name, const char* dial, std::vector<Way> of) {
    only(std::move(of), m_fields->add<LengthField>(m_group, QLatin1String(name), dial));
  };
  only({Way::slabs, Way::carve}, m_fields->addChoice(m_group, QStringLiteral("way-block"), "block", blocks));
  only({Way::slabs, Way::carve}, m_fields->add<QComboBox>(m_group, QStringLiteral("way-along"), "along"));
  length("way-wall", "wall", {Way::slabs});
  length("way-spare", "spare", {Way::slabs, Way::carve});
  only({Way::net},
      m_fields->addChoice(m_group, QStringLiteral("way-faces"), "faces",
          {{"100", tr("about 100")}, {"300", tr("about 300")}, {"600", tr("about 600")}, {"1000", tr("up to 1000")}}));
  length("way-tab", "tab", {Way::net});
  only({Way::drawn}, m_fields->addSome(m_group, QStringLiteral("way-pull"), "pull", {"front", "up", "side", "own"}));
  m_sheet = m_station->addChoice(m_group, QStringLiteral("way-sheet"), tr("Sheet"), tr("What is heated and drawn."),
      sheets, [this](Build& b, const std::string& id) {
        Part* part = find_part(b, m_document.partAtHand());
        if (part == nullptr) return;
        WaySpec& s = part->way;
        s.sheet = id;
        if (const auto kind = m_chain.materials().foam(id))
          s.sheet_mm = *std::min_element(kind->thickness_mm.begin(), kind->thickness_mm.end(),
              [&](double a, double c) { return std::abs(a - s.sheet_mm) < std::abs(c - s.sheet_mm); });
      });
  only({Way::drawn}, m_sheet);
  m_thick = m_fields->addChoice(m_group, QStringLiteral("way-thick"), "thick", {});
  only({Way::drawn}, m_thick);
  length("way-skirt", "skirt", {Way::drawn});
  length("way-clamp", "clamp", {Way::drawn});
}

QString WayTray::telling(const Part& part, const Derived& derived) const {
  if (part.way.way == Way::skin) {
    const auto kind = part.stuff.empty() ? Result<Foam>(fail(Error{})) : m_chain.materials().foam(part.stuff);
    if (!kind) return tr("Sheet pieces along its seams, as at Seams.");
    return tr("Sheet pieces of %1, %2 mm, with %3 mm along seams and %4 mm at edges. %5")
        .arg(qs(kind->name).toLower())
        .arg(part.thickness_mm)
        .arg(kind->seam_margin_mm)
        .arg(kind->rim_margin_mm)
        .arg(qs(joined_cautions(
            {heat_on(*kind).allowed ? heat_on(*kind).caution : heat_on(*kind).why, kind->cutting_caution})));
  }
  for (const auto& way : derived.ways) {
    if (!way || way->part != part.id || way->way != part.way.way) continue;
    QStringList lines;
    for (const std::string& f : way->facts) lines << qs(f);
    if (!way->steps.empty() && !way->steps.front().caution.empty()) lines << qs(way->steps.front().caution);
    return lines.join(QLatin1Char('\n'));
  }
  for (const Error& e : derived.part_errors)
    if (e.where == "parts/" + std::to_string(part.id) + "/way") return qs(e.text);
  return tr("Being worked out\u2026");
}

/// The fields this way needs, and no others.
void WayTray::showRows(Way way) {
  for (const Row& row : m_rows)
    m_group->showRow(row.field, std::find(row.of.begin(), row.of.end(), way) != row.of.end());
}

void WayTray::show(const Build& build, const Derived& derived) {
  const bool parts = build.making == Making::parts && !build.parts.empty();
  m_group->setVisible(parts);
  if (!parts) return;
  const int hand = m_document.partAtHand();
  if (find_part(build, hand) == nullptr) return;
  {
    const QSignalBlocker quiet(m_part);
    m_part->clear();
    for (const Part& p : build.parts) m_part->addItem(qs(p.name), p.id);
    m_part->setCurrentIndex(m_part->findData(hand));
  }
  const Part& part = *find_part(build, hand);
  const WaySpec& way = part.way;
  Station::showChoice(m_stuff, part.stuff);
  Station::showChoice(m_sheet, way.sheet);
  if (const auto kind = m_chain.materials().foam(way.sheet)) {
    const QSignalBlocker quiet(m_thick);
    m_thick->clear();
    for (const double mm : kind->thickness_mm) m_thick->addItem(tr("%1 mm").arg(mm), QString::number(mm));
  }
  m_fields->show(build);
  showRows(way.way);
  m_facts->setText(telling(part, derived));
  const bool buck = way.way == Way::drawn && std::any_of(derived.ways.begin(), derived.ways.end(), [&](const auto& w) {
    return w && w->part == hand && w->buck;
  });
  m_buck->setVisible(way.way == Way::drawn);
  m_buck->setEnabled(buck);
}

}  // namespace awl
