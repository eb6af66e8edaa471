#include "app/stations/foam/edge_tray.hpp"

#include <QHeaderView>
#include <QPushButton>
#include <QSignalBlocker>
#include <cmath>

#include "app/widgets/pick_table.hpp"
#include "app/widgets/theme.hpp"
#include "core/base/numbers.hpp"
#include "core/stuff/bears.hpp"
#include "core/chain/to_cut.hpp"
#include "app/widgets/text.hpp"

namespace awl {
namespace {

constexpr int kLetter = Qt::UserRole;

QString cutWord(EdgeCut cut) {
  switch (cut) {
    case EdgeCut::tilted:
      return EdgeTray::tr("tilted");
    case EdgeCut::square:
      return EdgeTray::tr("square");
    case EdgeCut::trench:
      return EdgeTray::tr("grooved and folded");
    case EdgeCut::flap:
      return EdgeTray::tr("flap");
    case EdgeCut::overlap:
      return EdgeTray::tr("overlapped");
    case EdgeCut::laced:
      return EdgeTray::tr("laced");
    case EdgeCut::taped:
      return EdgeTray::tr("taped");
    case EdgeCut::two_cuts:
      return EdgeTray::tr("in two cuts");
  }
  return {};
}

/// The seam's part and its name within that part. From the panels alone: while a build is renewed the form runs ahead
/// of them.
std::pair<int, std::string> own_name(const Build& build, const PanelSet& panels, const Seam& seam) {
  const std::string& of = panels.spans[panels.panels[seam.panels[0].value].part].name;
  int part = 0;
  for (const Part& p : build.parts)
    if (p.name == of) part = p.id;
  return {part, panels.spans.size() == 1 ? seam.name : seam.name.substr(std::min(seam.name.size(), of.size() + 2))};
}

}  // namespace

EdgeTray::EdgeTray(Station* station, Document& document, const Chain& chain)
    : QObject(station), m_station(station), m_document(document), m_chain(chain),
      m_table(new QTableWidget(0, 3, station)), m_fields(new DialFields(station, dial_facts<FoamSpec>(), "foam")),
      m_margins(new DialFields(station, dial_facts<Margins>(), "foam/margins")),
      m_along(new QSlider(Qt::Horizontal, station)), m_section(new SectionView(station)), m_words(nullptr),
      m_bend(nullptr) {
  makeEdges();
  makeBend();
  makeMargins();
}

void EdgeTray::makeEdges() {
  TrayGroup* group = m_station->addGroup(tr("Edges"));
  m_table->setObjectName(QStringLiteral("edges"));
  m_table->setAccessibleName(tr("Seams and how they are cut"));
  m_table->setHorizontalHeaderLabels({tr("Seam"), tr("Tilt"), tr("Cut")});
  asPickTable(m_table);
  m_table->horizontalHeader()->setSectionResizeMode(0, QHeaderView::Stretch);
  m_table->horizontalHeader()->setSectionResizeMode(1, QHeaderView::ResizeToContents);
  m_table->horizontalHeader()->setSectionResizeMode(2, QHeaderView::ResizeToContents);
  setTypeHeight(*m_table, 190, 190);
  group->body()->addWidget(m_table);
  connect(m_table, &QTableWidget::currentCellChanged, this, [this] { showSection(); });
  std::vector<std::pair<std::string, QString>> cuts{{"rule", tr("By the rule")}};
  for (int i = 0; i < kEdgeCuts; ++i)
    cuts.push_back({name_of(static_cast<EdgeCut>(i)), cutWord(static_cast<EdgeCut>(i))});
  m_cut = m_station->addChoice(group, QStringLiteral("edge-cut"), tr("Cut it"),
      tr("The rule: tilted where the gap of a square cut would be more than glue fills, else square."), cuts, {});
  connect(m_cut, &QComboBox::activated, this, [this](int i) { choose(m_cut->itemData(i).toString().toStdString()); });
  m_margin = new LengthField(QStringLiteral("edge-margin"), tr("Beyond the line"),
      tr("Of a flap, or what one piece lies over the other."), m_station);
  group->addRow(tr("Beyond the line"), m_margin);
  connect(m_margin, &LengthField::entered, this, [this](double mm) {
    if (!(mm >= 3.0 && mm <= 60.0)) return m_margin->refuse(tr("A flap needs 3 to 60 mm."));
    const auto [piece, edge] = inHand();
    if (edge == nullptr) return;
    const auto [part, name] =
        own_name(m_document.build(), *m_derived.panels, m_derived.panels->seams[edge->seam.value]);
    m_document.edit(tr("Flap"), [part = part, name = name, mm](Build& next) {
      for (SeamCut& c : next.foam.cuts)
        if (c.part == part && c.seam == name) c.margin_mm = mm;
    });
  });
  m_along->setObjectName(QStringLiteral("edge-along"));
  m_along->setAccessibleName(tr("Place along the seam"));
  m_along->setToolTip(tr("The turn, and so the tilt, changes along a seam: slide to see it there."));
  m_along->setRange(0, 100);
  m_along->setValue(50);
  connect(m_along, &QSlider::valueChanged, this, [this] { showSection(); });
  group->addRow(tr("Along it"), m_along);
  group->body()->addWidget(m_section);
  m_words = group->addText({});
  m_words->setObjectName(QStringLiteral("edge-words"));
}

void EdgeTray::makeBend() {
  m_station->addDrawer(QStringLiteral("bends"), tr("Bends"), tr("How tight the sheet bends, and what slots it wants."));
  TrayGroup* group = m_station->addGroup(tr("A bend"));
  m_radius = new LengthField(
      QStringLiteral("bend-radius"), tr("Inside radius"), tr("Of the bend, to the inner face."), m_station);
  group->addRow(tr("Inside radius"), m_radius);
  connect(m_radius, &LengthField::entered, this, [this](double mm) { m_radiusMm = mm, showBend(); });
  m_angle = new LengthField(QStringLiteral("bend-angle"), tr("By how many degrees"),
      tr("90 for a corner, 180 for a fold back on itself."), m_station);
  group->addRow(tr("Degrees"), m_angle);
  connect(m_angle, &LengthField::entered, this, [this](double deg) { m_angleDeg = deg, showBend(); });
  m_bend = group->addText({});
  m_bend->setObjectName(QStringLiteral("bend-words"));
}

void EdgeTray::makeMargins() {
  m_station->addDrawer(QStringLiteral("margins"), tr("Margins"), tr("What is left on beyond the line, or taken off."));
  TrayGroup* group = m_station->addGroup(tr("Beyond the line"));
  for (const char* dial : {"seam", "rim", "hole", "pen", "kerf"})
    m_margins->add<LengthField>(group, QStringLiteral("margin-") + QLatin1String(dial), dial);
  m_fields->add<QCheckBox>(group, QStringLiteral("guides"), "guides");
  m_fields->add<QCheckBox>(group, QStringLiteral("notches"), "notched");
  m_fields->add<QCheckBox>(group, QStringLiteral("slots"), "slotted");
  auto* usual = new QPushButton(tr("What is usual for this material"), m_station);
  usual->setObjectName(QStringLiteral("margin-usual"));
  usual->setToolTip(tr("Foam has none, fabric a seam, a skin something to fold over, a lens its hold."));
  group->body()->addWidget(usual);
  connect(usual, &QPushButton::clicked, this, [this] {
    m_document.change(tr("Usual margins"), [this](const Build& b) -> Result<Build> {
      const auto foam = foam_of(b.foam, m_chain.materials());
      if (!foam) return fail(foam);
      Build next = b;
      next.foam.margins.seam_mm = foam->seam_margin_mm, next.foam.margins.rim_mm = foam->rim_margin_mm,
      next.foam.margins.hole_mm = foam->hole_margin_mm;
      return next;
    });
  });
}

void EdgeTray::show(const Build& build, const Derived& derived) {
  m_derived = derived;
  m_margins->show(build);
  m_fields->show(build);
  m_radius->showValue(m_radiusMm, build.shown);
  m_angle->showValue(m_angleDeg, LengthUnit::mm);
  m_angle->setText(qs(fixed(m_angleDeg, 0)));
  fillTable();
  showSection();
  showBend();
}

void EdgeTray::fillTable() {
  const QSignalBlocker quiet(m_table);
  const QString before =
      m_table->currentItem() != nullptr ? m_table->item(m_table->currentRow(), 0)->data(kLetter).toString() : QString();
  m_table->setRowCount(0);
  if (!m_derived.pieces || !m_derived.panels) return;
  std::set<std::string> told;
  for (const Piece& p : *m_derived.pieces)
    for (const PieceEdge& e : p.edges) {
      if (!e.seam.valid() || e.letter.empty() || !told.insert(e.letter).second) continue;
      const int row = m_table->rowCount();
      m_table->insertRow(row);
      auto* name = new QTableWidgetItem(
          QStringLiteral("%1  %2").arg(qs(e.letter), qs(m_derived.panels->seams[e.seam.value].name)));
      name->setData(kLetter, QString::fromStdString(e.letter));
      name->setToolTip(name->text());
      m_table->setItem(row, 0, name);
      m_table->setItem(row, 1,
          new QTableWidgetItem(QStringLiteral("%1\u00b0 %2")
                                   .arg(std::abs(std::lround(e.tilt_deg)))
                                   .arg(e.tilt_deg < -0.5     ? tr("in")
                                           : e.tilt_deg > 0.5 ? tr("out")
                                                              : QString())));
      m_table->setItem(row, 2, new QTableWidgetItem(cutWord(e.cut)));
      if (QString::fromStdString(e.letter) == before) m_table->setCurrentCell(row, 0);
    }
  if (m_table->currentRow() < 0 && m_table->rowCount() > 0) m_table->setCurrentCell(0, 0);
}

std::pair<const Piece*, const PieceEdge*> EdgeTray::inHand() const {
  if (m_table->currentRow() < 0 || !m_derived.pieces) return {nullptr, nullptr};
  const std::string letter = m_table->item(m_table->currentRow(), 0)->data(kLetter).toString().toStdString();
  for (const Piece& p : *m_derived.pieces)
    for (const PieceEdge& e : p.edges)
      if (e.seam.valid() && e.letter == letter) return {&p, &e};
  return {nullptr, nullptr};
}

void EdgeTray::showSection() {
  const auto [piece, edge] = inHand();
  m_cut->setEnabled(edge != nullptr);
  m_along->setEnabled(edge != nullptr);
  m_margin->setEnabled(false);
  if (edge == nullptr || edge->tilts_deg.empty()) {
    m_section->show({});
    return m_words->setText(tr("No seam yet."));
  }
  const auto [part, name] = own_name(m_document.build(), *m_derived.panels, m_derived.panels->seams[edge->seam.value]);
  const SeamCut* own = nullptr;
  for (const SeamCut& c : m_document.build().foam.cuts)
    if (c.part == part && c.seam == name) own = &c;
  Station::showChoice(m_cut, own != nullptr ? name_of(own->cut) : "rule");
  const bool flap = own != nullptr && (own->cut == EdgeCut::flap || own->cut == EdgeCut::overlap);
  m_margin->setEnabled(flap);
  m_margin->showValue(own != nullptr ? own->margin_mm : 12.0, m_document.build().shown);
  // Smoothed a little along the seam: single triangles say nothing a knife could follow.
  const auto n = static_cast<int>(edge->tilts_deg.size());
  const int here = std::clamp(m_along->value() * n / 100, 0, n - 1), reach = std::max(1, n / 12);
  double sum = 0.0;
  int count = 0;
  for (int i = std::max(0, here - reach); i <= std::min(n - 1, here + reach); ++i) sum += edge->tilts_deg[i], ++count;
  const auto section =
      cross_section(edge->cut, piece->thickness_mm, 2.0 * sum / count, edge->margin_mm > 0.0 ? edge->margin_mm : 12.0);
  if (!section) return m_words->setText(qs(section.error().text));
  m_section->show(*section);
  m_words->setText(qs(section->words));
}

void EdgeTray::choose(const std::string& cut) {
  const auto [piece, edge] = inHand();
  if (edge == nullptr) return;
  const auto [part, name] = own_name(m_document.build(), *m_derived.panels, m_derived.panels->seams[edge->seam.value]);
  m_document.change(
      tr("Cut of seam %1").arg(qs(edge->letter)), [part = part, name = name, cut](const Build& b) -> Result<Build> {
        Build next = b;
        auto& cuts = next.foam.cuts;
        const auto own =
            std::find_if(cuts.begin(), cuts.end(), [&](const SeamCut& c) { return c.part == part && c.seam == name; });
        if (cut == "rule") {
          if (own != cuts.end()) cuts.erase(own);
          return next;
        }
        const auto kind = edge_cut_from(cut);
        if (!kind) return fail(kind);
        if (own != cuts.end())
          own->cut = *kind;
        else
          cuts.push_back({part, name, *kind, 12.0});
        return next;
      });
}

void EdgeTray::showBend() {
  const Build& b = m_document.build();
  const auto foam = foam_of(b.foam, m_chain.materials());
  if (!foam) return;
  const auto cold = plan_slots(b.foam.thickness_mm, m_radiusMm, m_angleDeg, foam->bend_cold);
  const double heated = least_bend_radius_mm(b.foam.thickness_mm, foam->bend_heated);
  QString words = cold ? qs(cold->words) : qs(cold.error().text);
  const Verdict heat = heat_on(*foam);
  if (!heat.allowed)
    words += QStringLiteral(" ") + qs(heat.why);
  else
    words += tr(" Heated it bends round %1 without. %2")
                 .arg(qs(format_length(std::ceil(heated), b.shown)), qs(heat.caution));
  m_bend->setText(words);
}

}  // namespace awl
