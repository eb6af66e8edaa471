#include "app/stations/form/form_station.hpp"
#include "app/widgets/picture_file.hpp"

#include <QFileInfo>
#include <QMenu>
#include <QSignalBlocker>
#include <cmath>

#include "app/widgets/theme.hpp"
#include "core/base/numbers.hpp"
#include "core/base/text.hpp"
#include "core/form/picture_outline.hpp"
#include "core/geom/mesh_file.hpp"
#include "core/geom/walls.hpp"
#include "core/chain/questions.hpp"
#include "print/text.hpp"

namespace awl {
namespace {

constexpr double kSidesAlikeShare = 0.006;  // of its size: nearer than this its image is itself
constexpr int kOutlinePixels = 1200;        // finer than any foam is cut
constexpr double kLeastBodyMm = 8.0, kMostBodyMm = 600.0;
constexpr double kLeastScale = 0.01, kMostScale = 100.0, kOutOfSize = 1.5;

/// So much too large or small for the head that it was made for something else.
bool out_of_size(const UnitGuess& unit) {
  return unit.scale_to_fit > kOutOfSize || unit.scale_to_fit < 1.0 / kOutOfSize;
}

}  // namespace

FormStation::FormStation(const Workplace& place, QWidget* parent)
    : Station(place, QStringLiteral("form"), tr("Form"), parent), m_chain(place.chain), m_list(new QListWidget(this)),
      m_add(new QPushButton(tr("Add a part"), this)), m_remove(new QPushButton(tr("Remove"), this)),
      m_more(new QPushButton(this)), m_less(new QPushButton(this)), m_mend(new QPushButton(this)),
      m_name(new QLineEdit(this)), m_table(new PlateTable(place.document)), m_importBar(new QProgressBar(this)),
      m_importStop(new QPushButton(tr("Stop"), this)), m_importing(
                                                           this,
                                                           [this](Result<Imported> imported) {
                                                             m_importStop->hide();
                                                             m_isImporting = false;
                                                             if (imported) return takeImported(*imported);
                                                             m_import->hide();
                                                             emit told(qs(imported.error().text));
                                                           },
                                                           m_importBar, m_importStop) {
  makeParts();
  makeOwn();
  addDrawer(QStringLiteral("shape"), tr("Shape"), tr("Every number of the part at hand."));
  auto* end = new QWidget(this);
  end->setObjectName(QStringLiteral("dials-end"));
  end->setFixedHeight(0);
  m_column->addWidget(end);
  m_dials = new DialTray(this, m_column);
  connect(m_dials, &DialTray::turned, this,
      [this](const QString& dial, const QString& label, double value, const QString& gesture) {
        const QString id = dial;
        const Document::Change turned = [&, hand = m_document.partAtHand()](const Build& b) {
          return turn(m_chain, b, hand, id.toStdString(), value, m_document.patience());
        };
        m_hint->clear();
        const auto refused = connect(
            &m_document, &Document::refused, this, [this](const QString& sentence) { m_hint->setText(sentence); });
        if (auto* length = qobject_cast<LengthField*>(m_dials->field(id)))
          submit(length, label, turned);
        else
          m_document.change(
              label, turned, gesture.isEmpty() ? QString() : gesture + QString::number(m_document.partAtHand()));
        disconnect(refused);
      });
  addDrawer(QStringLiteral("meets"), tr("Meets"), tr("Where it runs into parts made before it."));
  m_meets = new MeetTray(this, place.document, addGroup(tr("Where parts meet")));
  addDrawer(QStringLiteral("compare"), tr("Compare"), tr("Hold it against a picture, side by side."));
  m_compare = new CompareTray(this, place.document, addGroup(tr("Compare and judge")));
  connect(m_compare, &CompareTray::pictureWanted, this, [this] {
    const QString path = m_place.asking.path(false, tr("Pin a picture"), {}, tr("Pictures (*.png *.jpg *.jpeg)"));
    if (!path.isEmpty()) m_compare->pin(path);
  });
  connect(m_compare, &CompareTray::lookWanted, this, &Station::lookWanted);
  connect(m_compare, &CompareTray::backdropChanged, this, &Station::backdropChanged);
  addDrawer(QStringLiteral("result"), tr("Sizes"), tr("Sizes, room and openings of what was made."));
  TrayGroup* facts = addGroup(tr("What came out"));
  m_facts = facts->addText({});
  m_facts->setObjectName(QStringLiteral("form-facts"));
  m_column->addStretch(1);
  connect(&place.document, &Document::partTaken, this, &Station::standChanged);
}

void FormStation::makeParts() {
  addDrawer(QStringLiteral("parts"), tr("Parts"), tr("What it is made of, in the order it is put on."));
  TrayGroup* parts = addGroup(tr("Parts"));
  m_list->setObjectName(QStringLiteral("parts"));
  m_list->setAccessibleName(tr("Parts of this build"));
  m_list->setToolTip(tr("In the order they are put on. Choose the one to work on."));
  setTypeHeight(*m_list, 118, 118);
  parts->body()->addWidget(m_list);
  connect(m_list, &QListWidget::currentRowChanged, this, [this](int row) {
    if (row >= 0) m_document.takeInHand(m_list->item(row)->data(Qt::UserRole).toInt());
  });
  auto* menu = new QMenu(m_add);
  std::map<std::string, QMenu*> by_thing;
  for (const std::string& thing : things()) {
    by_thing[thing] = menu->addMenu(qs(thing));
    by_thing[thing]->setToolTipsVisible(true);
  }
  for (const PartPreset& preset : part_presets()) {
    QMenu* of = by_thing[preset.thing];
    auto* act = of->addAction(qs(preset.label));
    act->setObjectName(QStringLiteral("add-") + QString::fromStdString(preset.id));
    act->setToolTip(qs(preset.tip));
    connect(act, &QAction::triggered, this, [this, id = preset.id] { addPreset(QString::fromStdString(id)); });
  }
  auto* import = menu->addAction(tr("Bring in a mesh\u2026"));
  import->setObjectName(QStringLiteral("add-import"));
  connect(import, &QAction::triggered, this, [this] {
    const QString path = m_place.asking.path(false, tr("Bring in a mesh"), {}, tr("Meshes (*.obj *.stl *.ply *.off)"));
    if (!path.isEmpty()) importMesh(path);
  });
  m_add->setMenu(menu);
  m_add->setObjectName(QStringLiteral("part-add"));
  m_add->setToolTip(tr("From a ready start; it sits on the part at hand if that is a base."));
  m_remove->setObjectName(QStringLiteral("part-remove"));
  m_remove->setToolTip(tr("Takes the part away; what sits on it sits on what it sat on. Undo brings it back."));
  connect(m_remove, &QPushButton::clicked, this, &FormStation::removeCurrent);
  auto* row = new QHBoxLayout;
  row->addWidget(m_add, 1);
  row->addWidget(m_remove);
  parts->body()->addLayout(row);
  m_hint = parts->addText({});
  m_hint->setObjectName(QStringLiteral("part-sentence"));
  m_hint->setProperty("sentence", true);
  m_import = parts->addText({});
  m_import->setObjectName(QStringLiteral("import-report"));
  m_import->hide();
  m_importBar->setObjectName(QStringLiteral("import-bar"));
  m_importBar->hide();
  m_importStop->setObjectName(QStringLiteral("import-stop"));
  m_importStop->setToolTip(tr("Leaves the mesh out; what there was stays."));
  m_importStop->hide();
  auto* importing = new QHBoxLayout;
  importing->addWidget(m_importBar, 1);
  importing->addWidget(m_importStop);
  parts->body()->addLayout(importing);
}

void FormStation::makeOwn() {
  TrayGroup* own = addGroup(tr("The part at hand"));
  m_name->setObjectName(QStringLiteral("part-name"));
  m_name->setAccessibleName(tr("Name of the part"));
  m_name->setToolTip(tr("Stands on its pieces."));
  own->addRow(tr("Name"), m_name);
  connect(m_name, &QLineEdit::editingFinished, this, [this] {
    const std::string name = m_name->text().trimmed().toStdString();
    if (!name.empty()) changePart(tr("Name"), [&](Part p) -> Result<Part> { return p.name = name, p; });
  });
  m_on = addChoice(
      own, QStringLiteral("part-on"), tr("Sits on"), tr("The head, or a part that is made before it."), {}, {});
  m_seat = new SeatRow(this, m_document, m_chain, own, m_hint);
  m_thickness = addChoice(own, QStringLiteral("part-thickness"), tr("Foam"),
      tr("Its own thickness, where it is not that of the rest."), {}, {});
  connect(m_on, &QComboBox::activated, this, [this](int i) {
    changePart(tr("Sits on"), [&](Part p) -> Result<Part> { return sat_on(std::move(p), m_on->itemData(i).toInt()); });
  });
  connect(m_thickness, &QComboBox::activated, this, [this](int i) {
    changePart(
        tr("Foam"), [&](Part p) -> Result<Part> { return p.thickness_mm = m_thickness->itemData(i).toDouble(), p; });
  });
  auto* row = new QHBoxLayout;
  row->addWidget(m_more, 1);
  row->addWidget(m_less);
  own->body()->addLayout(row);
  m_more->setObjectName(QStringLiteral("part-more"));
  m_less->setObjectName(QStringLiteral("part-less"));
  const auto is = [this](
                      auto tag) { return part() != nullptr && std::holds_alternative<decltype(tag)>(part()->shape); };
  connect(m_more, &QPushButton::clicked, this, [this, is] {
    if (is(BodySpec{})) return pickOutline();
    is(RingsSpec{}) ? addRing(true) : is(ImportSpec{}) ? startMatching(!m_matching) : addCard(true);
  });
  connect(m_less, &QPushButton::clicked, this, [this, is] { is(RingsSpec{}) ? addRing(false) : addCard(false); });
  m_mend->setObjectName(QStringLiteral("part-mend"));
  m_mend->setText(tr("Mend"));
  m_mend->setToolTip(tr("What only the maker can decide on a mesh made elsewhere."));
  auto* mends = new QMenu(m_mend);
  mends->setToolTipsVisible(true);
  const auto offer = [&](const char* id, const QString& label, const QString& tip,
                         std::function<Result<Mesh>(const Mesh&)> act) {
    auto* action = mends->addAction(label);
    action->setObjectName(QLatin1String(id));
    action->setToolTip(tip);
    connect(action, &QAction::triggered, this, [this, label, act = std::move(act)] { remedyMesh(label, act); });
  };
  offer("mend-simplify", tr("Simplify"), tr("Half as many triangles; its shape is kept as well as may be."),
      [](const Mesh& m) { return simplified(m, static_cast<int>(m.triangles.size()) / 2); });
  offer("mend-outer", tr("Keep the outer wall"),
      tr("When it was made with an inside and an outside: foam wants one of them."), [](const Mesh& m) -> Result<Mesh> {
        auto wall = outer_wall(m);
        if (!wall) return fail(wall);
        return std::move(wall->mesh);
      });
  offer("mend-cuts", tr("Smooth away where it cuts itself"),
      tr("Loses some shape there: look at it afterwards, undo if it is too much."), without_self_cuts);
  m_mend->setMenu(mends);
  row->addWidget(m_mend);
}

StandChoice FormStation::standChoice() const {
  StandChoice choice;
  choice.head = choice.hood = true;
  choice.seams = !m_compare->wantsPlainForm();
  choice.part = m_document.partAtHand();
  choice.handles = choice.features = !m_compare->wantsPlainForm();
  choice.unit = m_document.build().shown;
  if (const Part* now = part(); now != nullptr && choice.features)
    if (const auto* wrap = std::get_if<WrapSpec>(&now->shape)) choice.cards = wrap->cards;
  m_compare->apply(choice);
  return choice;
}

void FormStation::changePart(const QString& label, const std::function<Result<Part>(Part)>& edit) {
  m_document.changePart(m_document.partAtHand(), label, edit);
}

bool FormStation::addPreset(const QString& id) {
  int made = 0;
  const bool done = m_document.change(tr("Add a part"), [&](const Build& b) -> Result<Build> {
    auto part = part_from_preset(id.toStdString());
    if (!part) return fail(part);
    part->name = qs(part->name).toStdString();
    Build next = b;
    // What sits on the head is put on the base at hand: a wrap, or a stack of rings.
    const Part* hand = find_part(b, m_document.partAtHand());
    const bool cover = std::holds_alternative<CoverSpec>(part->shape);  // sits on whatever it is
    const bool base = hand != nullptr &&
        (cover || std::holds_alternative<WrapSpec>(hand->shape) || std::holds_alternative<RingsSpec>(hand->shape));
    const bool rides = cover || std::holds_alternative<BodySpec>(part->shape) ||
        std::holds_alternative<SweepSpec>(part->shape) ||
        (std::holds_alternative<PlateSpec>(part->shape) && std::get<PlateSpec>(part->shape).bend != Bend::face);
    const int on = base && rides ? hand->id : 0;
    const auto added = add_part(next, cut_to_base(std::move(*part), on), on);
    if (!added) return fail(added);
    made = *added;
    return next;
  });
  if (done && made > 0) m_document.takeInHand(made);
  return done;
}

bool FormStation::takesFile(const QString& ending) const {
  return QStringList{QStringLiteral("obj"), QStringLiteral("stl"), QStringLiteral("ply"), QStringLiteral("off"),
      QStringLiteral("png"), QStringLiteral("jpg"), QStringLiteral("jpeg")}
      .contains(ending);
}

void FormStation::takeFile(const QString& path) {
  const QString ending = QFileInfo(path).suffix().toLower();
  if (ending != QLatin1String("png") && !ending.startsWith(QLatin1String("jp"))) {
    drawers().setOpen(QStringLiteral("parts"));
    return importMesh(path);
  }
  drawers().setOpen(QStringLiteral("compare"));
  m_compare->pin(path);
}

void FormStation::importMesh(const QString& path) {
  if (m_isImporting) return emit told(tr("A mesh is being brought in already; wait for it, or stop it."));
  m_import->setText(tr("Reading and mending %1\u2026").arg(QFileInfo(path).fileName()));
  m_import->show();
  m_importStop->show();
  m_isImporting = true;
  m_importing.begin(
      [path, &chain = m_chain, tape = m_document.build().tape](const Progress& progress) -> Result<Imported> {
        const auto stopped = [] { return fail(Errc::cancelled, "Stopped; nothing was brought in."); };
        if (!progress.keep_going(0.02)) return stopped();
        auto raw = read_mesh(path.toStdString());
        if (!raw) return fail(raw);
        auto mended = mend(*raw, kFineEnough, progress.span(0.2, 0.95));
        if (!mended) return fail(mended);
        if (!progress.keep_going(0.95)) return stopped();
        const auto head = head_of(chain, tape);
        if (!head) return fail(head);
        const double size = box_of(mended->mesh.vertices).size().maxCoeff();
        const auto plane = mirror_plane_of(mended->mesh, kSidesAlikeShare * size);
        const UpGuess up = guess_up(mended->mesh, plane ? std::optional(plane->normal) : std::nullopt);
        const UnitGuess unit = guess_unit(mended->mesh, *head, up.up);
        return Imported{QFileInfo(path).fileName().toStdString(), QFileInfo(path).completeBaseName().toStdString(),
            std::move(*mended), unit, plane, up};
      });
}

void FormStation::takeImported(const Imported& imported) {
  int made = 0;
  const bool done = m_document.change(tr("Bring in a mesh"), [&](const Build& b) -> Result<Build> {
    ImportSpec spec;
    spec.mesh = std::make_shared<const Mesh>(imported.mended.mesh), spec.file = imported.file,
    spec.to_mm = imported.unit.to_mm;
    spec.foam_mm = b.foam.thickness_mm;
    if (out_of_size(imported.unit)) spec.scale = std::clamp(imported.unit.scale_to_fit, kLeastScale, kMostScale);
    spec = with_up(std::move(spec), imported.up.up);
    if (imported.plane) spec = with_sides_alike(std::move(spec), imported.plane->normal);
    Part part;
    part.name = excerpt(imported.name, 60), part.shape = std::move(spec);
    Build next = b;
    const auto added = add_part(next, std::move(part));
    if (!added) return fail(added);
    made = *added;
    return next;
  });
  if (!done) return m_import->hide();
  m_document.takeInHand(made);
  QString report = qs(imported.unit.sentence);
  if (out_of_size(imported.unit))
    report += tr(" That was done; turn the dial Scale if it is not to be worn on the head.");
  if (!imported.up.sentence.empty()) report += QStringLiteral("\n") + qs(imported.up.sentence);
  if (imported.plane)
    report += QStringLiteral("\n") +
        tr("Its left and right are alike: it was turned so that they are the wearer's, and both are cut alike.");
  report += QStringLiteral("\n") +
      tr("What sheet of %1 mm cannot show is rounded off; size and place first, then look for panels at Seams.")
          .arg(QString::fromStdString(fixed(m_document.build().foam.thickness_mm, 1)));
  for (const std::string& sentence : imported.mended.did) report += QStringLiteral("\n") + qs(sentence);
  for (const std::string& question : imported.mended.asks) report += QStringLiteral("\n? ") + qs(question);
  m_import->setText(report);
}

void FormStation::removeCurrent() {
  const int id = m_document.partAtHand();
  m_document.change(tr("Remove a part"), [id](const Build& b) -> Result<Build> {
    Build next = b;
    if (auto gone = remove_part(next, id); !gone) return fail(gone);
    return next;
  });
}

void FormStation::addRing(bool more) {
  changePart(more ? tr("Add a ring") : tr("Take a ring off"), [more](Part p) -> Result<Part> {
    auto& s = std::get<RingsSpec>(p.shape);
    if (more) {
      Ring next = s.rings.back();
      next.from = RingFrom::last_ring, next.up_mm = 40.0;
      s.rings.push_back(next), s.bands.push_back({});
    } else if (s.rings.size() > 2)
      s.rings.pop_back(), s.bands.pop_back();
    return p;
  });
}

void FormStation::addCard(bool more) {
  changePart(more ? tr("Lay a card under the tape") : tr("Take a card away"), [more](Part p) -> Result<Part> {
    if (auto* wrap = std::get_if<WrapSpec>(&p.shape)) {
      if (more)
        wrap->cards.push_back({});
      else if (!wrap->cards.empty())
        wrap->cards.pop_back();
    } else if (auto* plate = std::get_if<PlateSpec>(&p.shape)) {
      if (more)
        plate->layers.push_back(plate->layers.back());
      else if (plate->layers.size() > 1)
        plate->layers.pop_back();
    }
    return p;
  });
}

void FormStation::pickOutline() {
  const QString path =
      m_place.asking.path(false, tr("An outline from a picture"), {}, tr("Pictures (*.png *.jpg *.jpeg)"));
  if (!path.isEmpty()) takeOutline(path);
}

void FormStation::takeOutline(const QString& path) {
  const auto read = pictureIn(path, kOutlinePixels);
  if (!read) return m_hint->setText(qs(read.error().text));
  const QImage& picture = *read;
  // What was cut out is told from its ground by what can be seen through; else by light and dark.
  const QImage grey = picture.hasAlphaChannel() ? picture.convertToFormat(QImage::Format_Alpha8)
                                                : picture.convertToFormat(QImage::Format_Grayscale8);
  GreyPicture plain{grey.width(), grey.height(), {}};
  for (int y = 0; y < grey.height(); ++y)
    plain.grey.insert(plain.grey.end(), grey.constScanLine(y), grey.constScanLine(y) + grey.width());
  QString said;
  changePart(tr("Outline from a picture"), [&](Part p) -> Result<Part> {
    auto* body = std::get_if<BodySpec>(&p.shape);
    if (body == nullptr) return p;
    const bool turned = body->kind == BodyKind::turned;
    auto outline = picture_outline(plain, turned ? body->deep_mm : body->tall_mm);
    if (!outline) {
      said = qs(outline.error().text);
      return p;
    }
    if (!turned) body->kind = BodyKind::inflated;
    body->outline = turned ? profile_of(*outline) : std::move(*outline);
    Vec2 low = body->outline.front().at, high = low;
    for (const CurvePoint& q : body->outline) low = low.cwiseMin(q.at), high = high.cwiseMax(q.at);
    // As broad as the picture says; what was sunk, turned and paired stays.
    if (turned)
      body->wide_mm = body->tall_mm = std::clamp(2.0 * high.x(), kLeastBodyMm, kMostBodyMm);
    else
      body->wide_mm = std::clamp(high.x() - low.x(), kLeastBodyMm, kMostBodyMm);
    said = tr("The outline of %1 was taken, %2 points; it is %3 across.")
               .arg(QFileInfo(path).fileName())
               .arg(body->outline.size())
               .arg(QString::fromStdString(format_length(std::round(body->wide_mm), m_document.build().shown)));
    return p;
  });
  m_hint->setText(said);
}

void FormStation::remedyMesh(const QString& label, const std::function<Result<Mesh>(const Mesh&)>& act) {
  changePart(label, [&](Part p) -> Result<Part> {
    auto* spec = std::get_if<ImportSpec>(&p.shape);
    if (spec == nullptr || !spec->mesh) return fail(Errc::empty_input, "No mesh has been brought in yet.");
    auto mended = act(*spec->mesh);
    if (!mended) return fail(mended);
    const auto before = spec->mesh->triangles.size();
    if (*mended == *spec->mesh)
      m_hint->setText(tr("Nothing to do: it stays as it is."));
    else
      m_hint->setText(tr("%1: %2 triangles before, %3 now. Undo brings the former back.")
                          .arg(label)
                          .arg(before)
                          .arg(mended->triangles.size()));
    spec->mesh = std::make_shared<const Mesh>(std::move(*mended));
    spec->cut.reset();
    return p;
  });
}

void FormStation::startMatching(bool on) {
  m_matching = on, m_onMesh.clear(), m_onHead.clear();
  m_hint->setText(on ? tr("Click a place of the mesh, then the same place on the head; three times.") : QString());
}

void FormStation::placeClicked(const Vec3& place, bool on_head) {
  if (m_seat->takes(place)) return;
  if (!m_matching || part() == nullptr || !std::holds_alternative<ImportSpec>(part()->shape)) return;
  if (on_head != (m_onMesh.size() > m_onHead.size()))
    return m_hint->setText(on_head
            ? tr("First a place of the mesh.")
            : tr("Now the same place on the head; turn the stand or take the mesh aside if it hides it."));
  (on_head ? m_onHead : m_onMesh).push_back(place);
  if (m_onHead.size() < 3)
    return m_hint->setText(
        tr("%1 of 3 matched. %2")
            .arg(m_onHead.size())
            .arg(on_head ? tr("The next place of the mesh.") : tr("Now the same place on the head.")));
  const auto head = head_of(m_chain, m_document.build().tape);
  const std::array<Vec3, 3> mesh{m_onMesh[0], m_onMesh[1], m_onMesh[2]}, on{m_onHead[0], m_onHead[1], m_onHead[2]};
  startMatching(false);
  if (!head) return m_hint->setText(qs(head.error().text));
  changePart(tr("Match three places"), [&](Part p) -> Result<Part> {
    auto placed = matched(std::get<ImportSpec>(p.shape), Site(*head), mesh, on, false);
    if (!placed) return fail(placed);
    p.shape = std::move(*placed);
    return p;
  });
}

void FormStation::gripMoved(const QString& dial, double by, bool last) {
  const Part* now = part();
  if (now == nullptr) return;
  if (m_grip.begins(dial)) {
    m_dials->show(now, m_document.build().shown);
    if (QWidget* field = m_dials->field(dial)) drawers().reveal(field);
  }
  emit gripText(m_grip.moved(*now, dial, by, last));
}

QString FormStation::helpPage(const QWidget& control) const {
  if (part() == nullptr || !control.objectName().startsWith(QLatin1String("dial-"))) return {};
  for (const PartPreset& preset : part_presets())
    if (kind_of(preset.make().shape) == kind_of(part()->shape)) return thingPage(preset.thing);
  return {};
}

bool FormStation::focusPlace(const QString& where) {
  const QStringList at = where.split(QLatin1Char('/'));
  if (at.size() < 2 || at[0] != QLatin1String("parts")) return false;
  const int id = at[1].toInt();
  if (find_part(m_document.build(), id) == nullptr) return false;
  m_document.takeInHand(id);  // whoever hears of it shows what there is
  if (at.size() > 2 && at[2] == QLatin1String("meets")) return drawers().setOpen(QStringLiteral("meets")), true;
  m_dials->show(part(), m_document.build().shown);
  QWidget* field = at.size() > 2 ? m_dials->field(at[2]) : nullptr;
  if (field == nullptr) field = m_list;
  focusOn(field);
  return true;
}

void FormStation::showParts(const Build& build, const Derived& derived) {
  const QSignalBlocker quiet(m_list);
  m_list->clear();
  const int hand = m_document.partAtHand();
  for (const Part& p : build.parts) {
    const Part* below = find_part(build, p.on);
    auto* item = new QListWidgetItem(
        tr("%1  \u00b7  %2%3")
            .arg(QString::fromStdString(p.name), QString::fromLatin1(source_of(p.shape)),
                below != nullptr ? tr(", on %1").arg(QString::fromStdString(below->name)) : QString()),
        m_list);
    item->setData(Qt::UserRole, p.id);
    if (p.id == hand) m_list->setCurrentItem(item);
  }
  const Part* now = part();
  for (QWidget* w : {static_cast<QWidget*>(m_remove), static_cast<QWidget*>(m_name), static_cast<QWidget*>(m_on),
           static_cast<QWidget*>(m_thickness)})
    w->setEnabled(now != nullptr);
  m_seat->show(now, derived);
  const bool told_none = m_hint->property("none").toBool();
  m_hint->setProperty("none", now == nullptr);
  if (now != nullptr && told_none) m_hint->clear();
  if (now == nullptr)
    m_hint->setText(tr("No part yet. Add one: a hood to wrap, a hat of rings, a horn to sweep, a plate, or a mesh."));
  if (!m_name->hasFocus()) m_name->setText(now != nullptr ? QString::fromStdString(now->name) : QString());
  m_on->clear();
  m_on->addItem(tr("the head"), 0);
  for (const Part& p : build.parts) {
    if (now == nullptr || p.id == now->id) break;
    m_on->addItem(QString::fromStdString(p.name), p.id);
  }
  m_on->setCurrentIndex(std::max(0, m_on->findData(now != nullptr ? now->on : 0)));
  m_thickness->clear();
  m_thickness->addItem(
      tr("as the build, %1").arg(QString::fromStdString(format_length(build.foam.thickness_mm, build.shown))), 0.0);
  if (const auto foam = now != nullptr && !now->stuff.empty() ? m_chain.materials().foam(now->stuff)
                                                              : foam_of(build.foam, m_chain.materials()))
    for (const double mm : foam->thickness_mm)
      m_thickness->addItem(QString::fromStdString(format_length(mm, build.shown)), mm);
  m_thickness->setCurrentIndex(std::max(0, m_thickness->findData(now != nullptr ? now->thickness_mm : 0.0)));
  const bool wrap = now != nullptr && std::holds_alternative<WrapSpec>(now->shape),
             rings = now != nullptr && std::holds_alternative<RingsSpec>(now->shape),
             plate = now != nullptr && std::holds_alternative<PlateSpec>(now->shape);
  const bool import = now != nullptr && std::holds_alternative<ImportSpec>(now->shape);
  const bool body = now != nullptr && std::holds_alternative<BodySpec>(now->shape);
  m_more->setVisible(wrap || rings || plate || import || body);
  m_less->setVisible(wrap || rings || plate);
  m_mend->setVisible(import);
  m_more->setText(wrap ? tr("Card under the tape")
          : rings      ? tr("Add a ring")
          : import     ? tr("Match three places")
          : body       ? tr("Outline from a picture\u2026")
                       : tr("Add a layer"));
  m_more->setToolTip(body
          ? tr("A PNG or JPEG of one thing on a plain ground, or cut out: its outline is blown up, or turned if "
               "that is what the part is.")
          : import ? tr("Brings it to scale and place by three places shown on it and on the head.")
                   : tr("One more of what this part is made of."));
  m_less->setText(tr("One less"));
  m_less->setToolTip(tr("Takes the last one away."));
}

void FormStation::showFacts(const Build& build, const Derived& derived) {
  const auto length = [&](double mm) { return QString::fromStdString(format_length(mm, build.shown)); };
  if (derived.form && derived.form->is_headform)
    return m_facts->setText(tr("Now making the headform itself: see Head. Outside: %1 cm\u00b2")
                                .arg(QString::fromStdString(fixed(derived.form->area_mm2 / 100.0, 0))));
  const PartForm* form = derived.form ? derived.form->shape_of(m_document.partAtHand()) : nullptr;
  if (form == nullptr) return m_facts->setText(tr("Being worked out, or it cannot be made: see the remarks."));
  QStringList said;
  if (form->ease_mm > 0.0) said << tr("Together %1 of ease").arg(length(form->ease_mm));
  if (form->ease_mm > 0.0)
    said << tr("Nearest to the head: %1 mm").arg(QString::fromStdString(fixed(form->clearance.least_mm, 1)));
  if (form->lower_girth_mm > 0.0) said << tr("Round the lower edge: %1").arg(length(std::round(form->lower_girth_mm)));
  if (const auto card = drafting_card(*form))
    said << tr(
        "By hand: a circle of %1 radius has that girth; against the oval it stands %2 out at the sides and is %3 "
        "short in front and behind")
                .arg(length(0.1 * std::round(10.0 * card->radius_mm)), length(0.1 * std::round(10.0 * card->wide_mm)),
                    length(0.1 * std::round(10.0 * card->short_mm)));
  const Vec3 size = box_of(form->surface.mesh.vertices).size();
  said << tr("%1 wide, %2 high, %3 deep")
              .arg(length(std::round(size.x())), length(std::round(size.y())), length(std::round(size.z())));
  said << tr("Outside: %1 cm\u00b2").arg(QString::fromStdString(fixed(form->area_mm2 / 100.0, 0)));
  m_facts->setText(said.join(QLatin1Char('\n')));
}

void FormStation::show(const Build& build, const Derived& derived) {
  const QString open = drawers().open();
  if (open == QLatin1String("parts")) showParts(build, derived);
  m_dials->show(part(), build.shown);
  m_table->show(build, m_document.partAtHand());
  m_table->showForm(derived.form ? derived.form->of(m_document.partAtHand()) : nullptr);
  m_compare->show(build, derived);
  if (open == QLatin1String("meets")) m_meets->show(build, derived);
  if (open == QLatin1String("result")) showFacts(build, derived);
}

}  // namespace awl
