#include "app/stations/foam_station.hpp"

#include <QSignalBlocker>
#include <cmath>

#include "core/base/numbers.hpp"
#include "core/base/text.hpp"
#include "core/stock/bears.hpp"

namespace awl {
namespace {

QString qs(const std::string& s) { return QString::fromStdString(s); }

}  // namespace

FoamStation::FoamStation(Document& document, const Chain& chain, Book& book, QWidget* parent)
    : Station(document, QStringLiteral("foam"), tr("Foam"), parent), m_chain(chain),
      m_heated(new QCheckBox(tr("Stretch the pieces with heat"), this)), m_facts(nullptr) {
  makeFoam();
  m_material = new MaterialTray(this, document, chain, book);
  connect(m_material, &MaterialTray::kindsChanged, this, &FoamStation::offerKinds);
  m_way = new WayTray(this, document, chain);
  connect(m_way, &WayTray::exportWanted, this, &FoamStation::exportWanted);
  m_stock = new StockTray(this, document, chain, book);
  connect(m_stock, &StockTray::photoWanted, this, &FoamStation::photoWanted);
  m_stock->makeSheet();
  m_output = new OutputTray(this);
  connect(m_output, &OutputTray::exportWanted, this, &FoamStation::exportWanted);
  connect(m_output, &OutputTray::sheetWanted, this, &FoamStation::sheetWanted);
  m_edges = new EdgeTray(this, document, chain);
  m_order = new OrderTray(this, document, chain);
  m_stock->makeOffcuts();
  m_shop = new ShopTray(this, document, chain, book);
  connect(m_shop, &ShopTray::exportWanted, this, &FoamStation::exportWanted);
  m_machine = new MachineTray(this, document);
  connect(m_machine, &MachineTray::saveWanted, this, [this] {
    if (const auto svgs = m_machine->files())
      emit machineFilesWanted(*svgs);
    else
      emit told(qs(svgs.error().text));
  });
  connect(m_machine, &MachineTray::told, this, &FoamStation::told);
  m_column->addStretch(1);
}

void FoamStation::makeFoam() {
  TrayGroup* foam = addGroup(tr("The foam"));
  std::vector<std::pair<std::string, QString>> foams;
  for (const Foam& f : m_chain.materials().foams) foams.push_back({f.id, qs(f.name)});
  m_foam = addChoice(foam, QStringLiteral("foam-kind"), tr("Kind"),
      tr("What the pieces are cut from. Values are workshop values; try a scrap."), foams,
      [this](Build& b, const std::string& id) {
        b.foam.foam = id;
        b.foam.own_kind.reset();
        for (const Foam& own : m_material->own())
          if (own.id == id) b.foam.own_kind = own;
        const auto kind = foam_of(b.foam, m_chain.materials());
        // The nearest thickness this kind comes in.
        if (kind)
          b.foam.thickness_mm =
              *std::min_element(kind->thickness_mm.begin(), kind->thickness_mm.end(), [&](double a, double c) {
                return std::abs(a - b.foam.thickness_mm) < std::abs(c - b.foam.thickness_mm);
              });
      });
  m_thickness = addChoice(foam, QStringLiteral("foam-thickness"), tr("Thickness"),
      tr("Thicker foam holds its shape; the pattern grows with it."), {},
      [](Build& b, const std::string& id) { b.foam.thickness_mm = number_in(id).value_or(b.foam.thickness_mm); });
  m_heated->setObjectName(QStringLiteral("foam-heated"));
  foam->body()->addWidget(m_heated);
  connect(m_heated, &QCheckBox::clicked, this, [this](bool on) {
    m_document.change(tr("Stretch with heat"), [on](const Build& b) -> Result<Build> {
      Build next = b;
      next.foam.heated = on;
      return next;
    });
  });
  m_facts = foam->addText({});
  m_facts->setObjectName(QStringLiteral("foam-facts"));
}

QString FoamStation::factsOf(const Foam& f, const Build& build) const {
  const double cold = least_bend_radius_mm(build.foam.thickness_mm, f.bend_cold),
               hot = least_bend_radius_mm(build.foam.thickness_mm, f.bend_heated);
  QString text = tr("Gives %1 % cold").arg(qs(fixed(100.0 * f.strain_cold, 1)));
  const Verdict heat = heat_on(f);
  if (heat.allowed)
    text += tr(", %1 % heated (%2 to %3 \u00b0C)")
                .arg(qs(fixed(100.0 * f.strain_heated, 1)))
                .arg(f.forming_low_c)
                .arg(f.forming_high_c);
  text += tr(". Bends round %1").arg(qs(format_length(std::ceil(cold), build.shown)));
  if (heat.allowed && hot < cold) text += tr(", heated %1").arg(qs(format_length(std::ceil(hot), build.shown)));
  text += tr("; tighter wants slots.");
  for (const Taboo& t : f.taboos) {
    const auto glue = m_chain.materials().glue(t.what);
    text += tr(" Never %1: %2.").arg(glue ? qs(glue->name).toLower() : qs(t.what), qs(t.why));
  }
  if (!heat.allowed && f.taboo("heat") == nullptr) text += QStringLiteral(" ") + qs(heat.why);
  const std::string cautions = joined_cautions({heat.caution, f.cutting_caution});
  if (!cautions.empty()) text += QStringLiteral(" ") + qs(cautions);
  return text;
}

/// The shipped kinds, then those of the shop book that are beside them.
void FoamStation::offerKinds() {
  const QSignalBlocker quiet(m_foam);
  m_foam->clear();
  Materials all = with_own(m_chain.materials(), m_material->own());
  if (const auto& own = m_document.build().foam.own_kind) all = with_own(std::move(all), {*own});
  for (const Foam& f : all.foams) m_foam->addItem(qs(f.name), qs(f.id));
  showChoice(m_foam, m_document.build().foam.foam);
}

void FoamStation::offerThickness(const Build& build) {
  if (m_offered == build.foam.foam) return;
  const auto foam = foam_of(build.foam, m_chain.materials());
  if (!foam) return;
  m_offered = build.foam.foam;
  m_thickness->clear();
  for (const double t : foam->thickness_mm) m_thickness->addItem(tr("%1 mm").arg(t), QString::number(t));
}

void FoamStation::entered() {
  m_material->renewBook();
  m_stock->renewBook();
  m_shop->renewBook();
}

void FoamStation::show(const Build& build, const Derived& derived) {
  if (m_foam->findData(qs(build.foam.foam)) < 0) offerKinds();
  offerThickness(build);
  showChoice(m_foam, build.foam.foam);
  showChoice(m_thickness, QString::number(build.foam.thickness_mm).toStdString());
  m_heated->setChecked(build.foam.heated);
  if (const auto foam = foam_of(build.foam, m_chain.materials())) {
    m_facts->setText(factsOf(*foam, build));
    const Verdict heat = heat_on(*foam);
    m_heated->setEnabled(heat.allowed || build.foam.heated);  // what was asked for can always be taken back
    m_heated->setToolTip(!heat.allowed ? qs(heat.why)
            : heat.outdoors            ? qs(heat.caution)
                            : tr("Heated foam bears about twice the stretch of cold foam. Gloves, and air the room."));
  }
  m_material->show(build);
  m_edges->show(build, derived);
  m_order->show(build, derived);
  m_stock->show(build, derived);
  m_shop->show(build, derived);
  m_way->show(build, derived);
  m_output->show(derived);
  m_machine->show(build, derived);
}

}  // namespace awl
