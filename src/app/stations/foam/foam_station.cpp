#include "app/stations/foam/foam_station.hpp"

#include <QSignalBlocker>
#include <cmath>

#include "app/stations/foam/bench_sheet.hpp"
#include "app/stations/foam/photo_trace.hpp"
#include "core/base/data_files.hpp"
#include "core/base/numbers.hpp"
#include "core/base/text.hpp"
#include "core/steps/assembly.hpp"
#include "core/stuff/bears.hpp"
#include "app/widgets/text.hpp"
#include "app/widgets/picture_file.hpp"

namespace awl {
FoamStation::FoamStation(const Workplace& place, QWidget* parent)
    : Station(place, QStringLiteral("foam"), tr("Foam"), parent), m_chain(place.chain),
      m_heated(new QCheckBox(tr("Stretch the pieces with heat"), this)), m_facts(nullptr) {
  Document& document = place.document;
  const Chain& chain = place.chain;
  Book& book = place.book;
  makeFoam();
  m_material = new MaterialTray(this, document, chain, book);
  connect(m_material, &MaterialTray::kindsChanged, this, &FoamStation::offerKinds);
  addDrawer(QStringLiteral("way"), tr("Way"), tr("Flat panels, slabs, a carved block, a paper net, a drawn visor."));
  m_way = new WayTray(this, document, chain);
  connect(m_way, &WayTray::exportWanted, this, &FoamStation::exportWanted);
  addDrawer(QStringLiteral("edges"), tr("Edges"), tr("How each seam is cut, seen across."));
  m_edges = new EdgeTray(this, document, chain);
  addDrawer(QStringLiteral("sheet"), tr("Sheets"), tr("The size of the sheet and how the pieces lie on it."));
  m_stock = new StockTray(this, document, chain, book);
  connect(m_stock, &StockTray::photoWanted, this, &FoamStation::tracePhoto);
  m_stock->makeSheet();
  addDrawer(QStringLiteral("offcuts"), tr("Offcuts"), tr("What is left from earlier builds."));
  m_stock->makeOffcuts();
  addDrawer(QStringLiteral("print"), tr("Print"), tr("Patterns at true size, files and lists."));
  m_output = new OutputTray(this);
  connect(m_output, &OutputTray::exportWanted, this, &FoamStation::exportWanted);
  connect(m_output, &OutputTray::sheetWanted, this, &FoamStation::readSheet);
  addDrawer(QStringLiteral("order"), tr("Order"), tr("What goes on before what."));
  m_order = new OrderTray(this, document, chain);
  addDrawer(QStringLiteral("costs"), tr("Costs"), tr("What it takes and what that costs."));
  m_shop = new ShopTray(this, document, chain, book);
  connect(m_shop, &ShopTray::exportWanted, this, &FoamStation::exportWanted);
  addDrawer(QStringLiteral("machine"), tr("Machine"), tr("A cutting machine: mats, files and a rehearsal."));
  m_machine = new MachineTray(this, document);
  connect(m_machine, &MachineTray::saveWanted, this, &FoamStation::saveForMachine);
  connect(m_machine, &MachineTray::told, this, &FoamStation::told);
  m_column->addStretch(1);
}

void FoamStation::makeFoam() {
  addDrawer(QStringLiteral("stuff"), tr("Material"), tr("What the pieces are cut from, and what it bears."));
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
  connect(m_heated, &QCheckBox::clicked, this,
      [this](bool on) { m_document.edit(tr("Stretch with heat"), [on](Build& next) { next.foam.heated = on; }); });
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
  for (const Foam& f : all.foams) m_foam->addItem(qs(f.name), QString::fromStdString(f.id));
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
  m_derived = derived;
  if (m_foam->findData(QString::fromStdString(build.foam.foam)) < 0) offerKinds();
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
  showOpen(build, derived);
}

/// What lies in closed drawers is shown when they are opened: some of it takes a moment to put together.
void FoamStation::showOpen(const Build& build, const Derived& derived) {
  const QString open = drawers().open();
  if (open == QLatin1String("stuff")) m_material->show(build);
  if (open == QLatin1String("way")) m_way->show(build, derived);
  if (open == QLatin1String("sheet") || open == QLatin1String("offcuts")) m_stock->show(build, derived);
  if (open == QLatin1String("print")) m_output->show(derived);
  if (open == QLatin1String("edges") || open == QLatin1String("bends") || open == QLatin1String("margins"))
    m_edges->show(build, derived);
  if (open == QLatin1String("order")) m_order->show(build, derived);
  if (open == QLatin1String("costs")) m_shop->show(build, derived);
  if (open == QLatin1String("machine")) m_machine->show(build, derived);
}

void FoamStation::copyLaid(const HeldCopy& copy) {
  drawers().setOpen(QStringLiteral("sheet"));
  m_document.change(tr("Lay by hand"), [&](const Build& b) -> Result<Build> { return with_held(b, copy); });
}

void FoamStation::copyReleased(const QString& piece, int copy) {
  m_document.change(
      tr("Let it go"), [&](const Build& b) -> Result<Build> { return without_held(b, piece.toStdString(), copy); });
}

void FoamStation::readSheet() {
  const Build& build = m_document.build();
  auto sheet = assemble(build, m_derived, m_chain.materials());
  if (!sheet) return emit told(qs(sheet.error().text));
  const auto glue = m_chain.materials().glue(build.coat.glue);
  if (!glue) return emit told(qs(glue.error().text));
  auto* reader = new BenchSheet(std::move(*sheet), m_derived, *glue, window());
  reader->setAttribute(Qt::WA_DeleteOnClose);
  connect(reader, &BenchSheet::waitWanted, this, &Station::waitWanted);
  reader->show();
}

void FoamStation::tracePhoto() {
  const QString path =
      m_place.asking.path(false, tr("Photograph of the offcut"), {}, tr("Pictures (*.png *.jpg *.jpeg)"));
  if (path.isEmpty()) return;
  const auto photo = pictureIn(path);
  if (!photo) return emit told(qs(photo.error().text));
  auto* trace = new PhotoTrace(*photo, m_document.build().shown, window());
  trace->setAttribute(Qt::WA_DeleteOnClose);
  connect(trace, &QDialog::accepted, this, [this, trace] { m_stock->takeOutline(trace->outline()); });
  trace->show();
}

void FoamStation::saveForMachine() {
  const auto svgs = m_machine->files();
  if (!svgs) return emit told(qs(svgs.error().text));
  const QString folder = m_place.asking.folder(tr("Folder for the machine's files"));
  if (folder.isEmpty()) return;
  const QString name = qs(m_document.build().name).simplified().replace(QLatin1Char('/'), QLatin1Char('-'));
  for (std::size_t i = 0; i < svgs->size(); ++i) {
    const QString file = folder + QStringLiteral("/%1-mat-%2.svg").arg(name).arg(i + 1);
    if (const auto good = write_file_safely(file.toStdString(), (*svgs)[i]); !good)
      return emit told(qs(good.error().text));
  }
}

}  // namespace awl
