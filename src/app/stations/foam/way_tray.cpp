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
      m_group(station->addGroup(tr("How each part is made"))), m_facts(nullptr),
      m_buck(new QPushButton(tr("Save the buck as a mesh\u2026"), station)) {
  m_part = station->addChoice(
      m_group, QStringLiteral("way-part"), tr("Part"), tr("Each part may be made its own way."), {}, {});
  connect(m_part, &QComboBox::activated, this, [this](int i) { m_document.takeInHand(m_part->itemData(i).toInt()); });
  m_way = addChoice("way", tr("Made as"),
      tr("Skin for hollow, light forms; slabs and carving for thick ones; a paper net only to check the size; drawn "
         "for visors."),
      {{"skin", tr("Skin of sheet pieces")}, {"slabs", tr("Slabs, stacked")}, {"carve", tr("Carved from a block")},
          {"net", tr("Paper net, to check")}, {"drawn", tr("Visor, drawn over a buck")}},
      [](WaySpec& s, const std::string& id) {
        if (const auto way = way_from(id)) s.way = *way;
      },
      {});
  makeFields();
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
  m_stuff = addChoice("way-stuff", tr("Cut from"),
      tr("Another sheet than the rest: fabric for a cover, clear sheet for a window. Its usual margins come with it."),
      kinds, {}, {Way::skin});
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
  m_block = addChoice("way-block", tr("Cut from"), tr("The stack takes whichever of its thicknesses wastes least."),
      blocks, [](WaySpec& s, const std::string& id) { s.block = id; }, {Way::slabs, Way::carve});
  m_along = addChoice("way-along", tr("Stacked"),
      tr("Slabs lie across this direction; a block stands along it. The part's own longest extent suits horns and "
         "fins."),
      {{"up", tr("upwards")}, {"front", tr("from back to front")}, {"side", tr("from side to side")},
          {"own", tr("along its longest extent")}},
      [](WaySpec& s, const std::string& id) {
        if (const auto axis = axis_from(id)) s.along = *axis;
      },
      {Way::slabs, Way::carve});
  addLength("way-wall", tr("Wall"),
      tr("0: solid. Else each slab is cut hollow where so much stays all round: room for a fan, or a head."),
      &WaySpec::wall_mm, {Way::slabs});
  addLength(
      "way-spare", tr("Left on"), tr("Beyond the form, for carving."), &WaySpec::spare_mm, {Way::slabs, Way::carve});
  m_faces = addChoice("way-faces", tr("Faces"), tr("More faces come nearer to the form and take longer to glue."),
      {{"100", tr("about 100")}, {"300", tr("about 300")}, {"600", tr("about 600")}, {"1000", tr("up to 1000")}},
      [](WaySpec& s, const std::string& id) { s.net_faces = whole_in(id).value_or(s.net_faces); }, {Way::net});
  addLength("way-tab", tr("Tabs"), tr("Smaller where there is no room, none where tape does it."), &WaySpec::net_tab_mm,
      {Way::net});
  m_pull = addChoice("way-pull", tr("Pulled towards"), tr("The side of the head that lies on top in the press."),
      {{"front", tr("the front")}, {"up", tr("the top")}, {"side", tr("the side")},
          {"own", tr("along its longest extent")}},
      [](WaySpec& s, const std::string& id) {
        if (const auto axis = axis_from(id)) s.pull = *axis;
      },
      {Way::drawn});
  m_sheet = addChoice("way-sheet", tr("Sheet"), tr("What is heated and drawn."), sheets,
      [this](WaySpec& s, const std::string& id) {
        s.sheet = id;
        const auto kind = m_chain.materials().foam(id);
        if (kind)
          s.sheet_mm = *std::min_element(kind->thickness_mm.begin(), kind->thickness_mm.end(),
              [&](double a, double c) { return std::abs(a - s.sheet_mm) < std::abs(c - s.sheet_mm); });
      },
      {Way::drawn});
  m_thick = addChoice("way-thick", tr("Thickness"), tr("Before it is drawn; the facts below say how thin it gets."), {},
      [](WaySpec& s, const std::string& id) { s.sheet_mm = number_in(id).value_or(s.sheet_mm); }, {Way::drawn});
  addLength("way-skirt", tr("Skirt"), tr("How far the buck goes on straight below the visor's edge."),
      &WaySpec::skirt_mm, {Way::drawn});
  addLength("way-clamp", tr("In the frame"), tr("What the frame holds all round."), &WaySpec::clamp_mm, {Way::drawn});
}

void WayTray::change(const QString& label, const std::function<void(WaySpec&)>& apply) {
  m_document.edit(label, [&, at = m_document.partAtHand()](Build& next) {
    if (Part* part = find_part(next, at)) apply(part->way);
  });
}

LengthField* WayTray::addLength(
    const char* name, const QString& label, const QString& tip, double WaySpec::*value, const std::vector<Way>& of) {
  auto* field = new LengthField(QLatin1String(name), label, tip, m_station);
  m_group->addRow(label, field);
  m_rows.push_back({field, of});
  m_lengths.emplace_back(field, value);
  connect(field, &LengthField::entered, this, [this, field, label, value](double mm) {
    m_station->submit(field, label, [&, at = m_document.partAtHand()](const Build& b) -> Result<Build> {
      Build next = b;
      if (Part* part = find_part(next, at)) part->way.*value = mm;
      return next;
    });
  });
  return field;
}

QComboBox* WayTray::addChoice(const char* name, const QString& label, const QString& tip,
    const std::vector<std::pair<std::string, QString>>& choices,
    const std::function<void(WaySpec&, const std::string&)>& apply, const std::vector<Way>& of) {
  auto* box = new QComboBox(m_station);
  box->setObjectName(QLatin1String(name));
  box->setAccessibleName(label);
  box->setToolTip(tip);
  box->setSizeAdjustPolicy(QComboBox::AdjustToMinimumContentsLengthWithIcon);
  box->setMinimumContentsLength(15);
  for (const auto& [id, text] : choices) box->addItem(text, QString::fromStdString(id));
  m_group->addRow(label, box);
  if (!of.empty()) m_rows.push_back({box, of});
  if (apply)
    connect(box, &QComboBox::activated, this, [this, box, label, apply](int i) {
      const std::string id = box->itemData(i).toString().toStdString();
      change(label, [&](WaySpec& s) { apply(s, id); });
    });
  return box;
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
  Station::showChoice(m_way, name_of(way.way));
  Station::showChoice(m_stuff, part.stuff);
  Station::showChoice(m_along, name_of(way.along));
  Station::showChoice(m_pull, name_of(way.pull));
  Station::showChoice(m_block, way.block);
  Station::showChoice(m_sheet, way.sheet);
  Station::showChoice(m_faces, std::to_string(way.net_faces));
  if (const auto kind = m_chain.materials().foam(way.sheet)) {
    const QSignalBlocker quiet(m_thick);
    m_thick->clear();
    for (const double mm : kind->thickness_mm) m_thick->addItem(tr("%1 mm").arg(mm), QString::number(mm));
    m_thick->setCurrentIndex(m_thick->findData(QString::number(way.sheet_mm)));
  }
  for (const auto& [field, value] : m_lengths) field->showValue(way.*value, build.shown);
  for (const Row& row : m_rows) {
    const bool wanted = std::find(row.of.begin(), row.of.end(), way.way) != row.of.end();
    m_group->showRow(row.field, wanted);
  }
  m_facts->setText(telling(part, derived));
  const bool buck = way.way == Way::drawn && std::any_of(derived.ways.begin(), derived.ways.end(), [&](const auto& w) {
    return w && w->part == hand && w->buck;
  });
  m_buck->setVisible(way.way == Way::drawn);
  m_buck->setEnabled(buck);
}

}  // namespace awl
