#include "app/stations/coat/colour_tray.hpp"

#include <QColorDialog>
#include <QHBoxLayout>
#include <QPainter>
#include <QSignalBlocker>

#include "app/widgets/text.hpp"
#include "app/widgets/theme.hpp"
#include "core/base/numbers.hpp"
#include "core/builds/demo_coat.hpp"
#include "core/coat/colour.hpp"
#include "core/dress/dressed.hpp"

namespace awl {
namespace {

constexpr int kNewColour = -1;

QIcon swatch(int rgb) {
  QPixmap pixmap(18, 18);
  pixmap.fill(Qt::transparent);
  QPainter painter(&pixmap);
  painter.setRenderHint(QPainter::Antialiasing);
  painter.setPen(QColor(0, 0, 0, 90));
  painter.setBrush(QColor(static_cast<QRgb>(rgb)));
  painter.drawRoundedRect(QRectF(1, 1, 16, 16), 3, 3);
  return QIcon(pixmap);
}

/// Where a field lies beside the others of its part.
QString whereWords(const PaintField& field, bool pair) {
  QStringList words;
  const bool above = field.share.y() > 0.7, below = field.share.y() < 0.3;
  if (above) words << ColourTray::tr("above");
  if (below) words << ColourTray::tr("below");
  if (field.share.z() > 0.6) words << ColourTray::tr("in front");
  if (field.share.z() < 0.4) words << ColourTray::tr("behind");
  if (pair)
    words << ColourTray::tr("both sides");
  else if (field.share.x() > 0.6)
    words << ColourTray::tr("left");
  else if (field.share.x() < 0.4)
    words << ColourTray::tr("right");
  return words.isEmpty() ? ColourTray::tr("in the middle") : words.join(QStringLiteral(", "));
}

}  // namespace

ColourTray::ColourTray(Station& station, const Workplace& place)
    : QWidget(&station), m_document(place.document), m_chain(place.chain), m_list(new QListWidget(this)),
      m_offer(new QComboBox(this)), m_colour(new QComboBox(this)), m_paint(new QComboBox(this)),
      m_all(new QPushButton(tr("Give every part a colour"), this)), m_add(new QPushButton(tr("Add"), this)),
      m_gone(new QPushButton(tr("Remove"), this)), m_draw(new QPushButton(tr("Draw where two colours meet"), this)),
      m_hard(new QCheckBox(tr("Sharp border"), this)), m_bears(new QCheckBox(tr("May be taped over"), this)),
      m_coats(new QSpinBox(this)), m_far(new QLabel(this)), m_fade(new QComboBox(this)), m_fadeWay(new QComboBox(this)),
      m_readAt(new QDoubleSpinBox(this)), m_fromAfar(new QCheckBox(tr("Look from there"), this)) {
  hide();
  for (QComboBox* box : {m_offer, m_fade}) {
    box->setSizeAdjustPolicy(QComboBox::AdjustToMinimumContentsLengthWithIcon);
    box->setMinimumContentsLength(7);
  }
  addList(station.addGroup(tr("Where the colours go")));
  m_facts = station.addGroup(tr("This area"));
  addFacts(m_facts);
}

void ColourTray::addList(TrayGroup* group) {
  m_list->setObjectName(QStringLiteral("colour-list"));
  m_list->setAccessibleName(tr("Colour areas, in the order of painting"));
  setTypeHeight(*m_list, 92, 92);
  m_none = group->addText(tr("No colours yet: all is painted alike. Give every part one, or add places one by one."));
  group->body()->addWidget(m_list);
  m_all->setObjectName(QStringLiteral("colour-parts"));
  group->body()->addWidget(m_all);
  auto* row = new QHBoxLayout;
  m_offer->setObjectName(QStringLiteral("colour-offer"));
  m_offer->setAccessibleName(tr("Place to be given a colour"));
  m_offer->setToolTip(tr("Parts, panels, insides and details that have no colour of their own."));
  m_add->setObjectName(QStringLiteral("colour-add"));
  m_gone->setObjectName(QStringLiteral("colour-gone"));
  m_gone->setToolTip(tr("Takes the chosen one away; undo brings it back."));
  row->addWidget(m_offer, 1);
  row->addWidget(m_add);
  row->addWidget(m_gone);
  group->body()->addLayout(row);
  m_draw->setObjectName(QStringLiteral("colour-draw"));
  m_draw->setToolTip(tr(
      "At Seams, a line that cuts nothing. What lies between such lines, and between panel lines, is offered here."));
  group->body()->addWidget(m_draw);
  connect(m_draw, &QPushButton::clicked, this, &ColourTray::lineWanted);
  connect(m_offer, &QComboBox::activated, this, [this] {
    m_pointed = true;
    emit farChanged();
  });
  connect(m_all, &QPushButton::clicked, this, [this] { colourParts(); });
  connect(m_add, &QPushButton::clicked, this, [this] { addArea(); });
  connect(m_list, &QListWidget::currentRowChanged, this, [this] { showChosen(); });
  connect(m_gone, &QPushButton::clicked, this, [this] {
    const int id = chosen();
    m_document.edit(tr("Take a colour area away"),
        [id](Build& next) { std::erase_if(next.coat.areas, [id](const ColourArea& a) { return a.id == id; }); });
  });
}

void ColourTray::addFacts(TrayGroup* group) {
  m_colour->setObjectName(QStringLiteral("colour-pigment"));
  m_paint->setObjectName(QStringLiteral("colour-paint"));
  m_coats->setObjectName(QStringLiteral("colour-coats"));
  m_colour->setAccessibleName(tr("Colour"));
  m_colour->setToolTip(tr("One of your own colours, or another."));
  m_paint->setAccessibleName(tr("Paint of this area"));
  m_paint->setToolTip(tr("Must stay on the seal below it."));
  m_coats->setAccessibleName(tr("Coats of this area"));
  m_coats->setRange(0, 12);
  m_coats->setSpecialValueText(tr("as the paint says"));
  m_hard->setObjectName(QStringLiteral("colour-hard"));
  m_hard->setToolTip(tr("Taped also where it is brushed."));
  m_bears->setObjectName(QStringLiteral("colour-bears"));
  m_bears->setToolTip(tr("Off for gilding, powder, what lifts with tape: nothing beside it is sprayed later."));
  group->addRow(tr("Colour"), m_colour);
  group->addRow(tr("Paint"), m_paint);
  group->addRow(tr("Coats"), m_coats);
  m_fade->setObjectName(QStringLiteral("colour-fade"));
  m_fade->setAccessibleName(tr("Fades to"));
  m_fade->setToolTip(tr("Mixed in steps too small to see, each laid into the last."));
  m_fadeWay->setObjectName(QStringLiteral("colour-fade-way"));
  m_fadeWay->setAccessibleName(tr("Way of fading"));
  m_fadeWay->setToolTip(tr("Where the other colour is reached."));
  for (const auto& [way, text] :
      {std::pair{"down", tr("downwards")}, {"back", tr("to the back")}, {"outwards", tr("to the sides")}})
    m_fadeWay->addItem(text, QLatin1String(way));
  auto* fading = new QHBoxLayout;
  fading->addWidget(new QLabel(tr("Fades to"), this));
  fading->addWidget(m_fade, 1);
  fading->addWidget(m_fadeWay);
  group->body()->addLayout(fading);
  auto* edges = new QHBoxLayout;
  edges->addWidget(m_hard);
  edges->addWidget(m_bears);
  group->body()->addLayout(edges);
  m_words = group->addText({});
  m_words->setObjectName(QStringLiteral("colour-words"));
  m_far->setWordWrap(true);
  m_far->setProperty("quiet", true);
  m_far->setObjectName(QStringLiteral("colour-far"));
  addFar(group);
  m_paint->addItem(tr("The build's"), QString());
  for (const Coating& c : m_chain.materials().paints) m_paint->addItem(qs(c.name), QString::fromStdString(c.id));
  connect(m_colour, &QComboBox::activated, this, [this](int index) { takeColour(index); });
  connect(m_paint, &QComboBox::activated, this, [this](int index) {
    const std::string id = m_paint->itemData(index).toString().toStdString();
    edit(tr("Paint of an area"), [id](ColourArea& a) { a.paint = id; });
  });
  connect(m_coats, &QSpinBox::valueChanged, this,
      [this](int n) { edit(tr("Coats of an area"), [n](ColourArea& a) { a.coats = n; }); });
  connect(m_hard, &QCheckBox::clicked, this,
      [this](bool on) { edit(tr("Sharp border"), [on](ColourArea& a) { a.hard_edge = on; }); });
  connect(m_bears, &QCheckBox::clicked, this,
      [this](bool on) { edit(tr("May be taped over"), [on](ColourArea& a) { a.bears_tape = on; }); });
}

/// From where it is looked at, and a look from there.
void ColourTray::addFar(TrayGroup* group) {
  m_readAt->setObjectName(QStringLiteral("colour-read-at"));
  m_readAt->setAccessibleName(tr("Looked at from, metres"));
  m_readAt->setToolTip(tr("A stage, a street, a room."));
  m_readAt->setRange(0.5, 100.0);
  m_readAt->setDecimals(1);
  m_fromAfar->setObjectName(QStringLiteral("colour-from-afar"));
  m_fromAfar->setToolTip(tr("Shows what an eye still makes out from there."));
  auto* row = new QHBoxLayout;
  row->addWidget(new QLabel(tr("Seen from, m"), this));
  row->addWidget(m_readAt);
  row->addStretch(1);
  row->addWidget(m_fromAfar);
  group->body()->addLayout(row);
  group->body()->addWidget(m_far);
  connect(m_readAt, &QDoubleSpinBox::valueChanged, this, [this](double metres) {
    m_document.edit(
        tr("Looked at from"), [metres](Build& next) { next.coat.read_at_m = metres; }, QStringLiteral("read-at"));
  });
  connect(m_fromAfar, &QCheckBox::toggled, this, &ColourTray::farChanged);
  const auto fade = [this] {
    const int to = m_fade->currentData().toInt();
    const auto way = fade_way_from(m_fadeWay->currentData().toString().toStdString());
    edit(tr("Fading of an area"), [&](ColourArea& a) {
      a.fades_to = to;
      if (way) a.fades = *way;
    });
  };
  connect(m_fade, &QComboBox::activated, this, fade);
  connect(m_fadeWay, &QComboBox::activated, this, fade);
}

double ColourTray::seenFrom() const { return m_fromAfar->isChecked() ? m_document.build().coat.read_at_m : 0.0; }

int ColourTray::chosen() const {
  return m_list->currentItem() != nullptr ? m_list->currentItem()->data(Qt::UserRole).toInt() : 0;
}

void ColourTray::choose(int area) {
  for (int i = 0; i < m_list->count(); ++i)
    if (m_list->item(i)->data(Qt::UserRole).toInt() == area) m_list->setCurrentRow(i);
}

void ColourTray::edit(const QString& label, const std::function<void(ColourArea&)>& change) {
  const int id = chosen();
  m_document.edit(label, [&](Build& next) {
    for (ColourArea& a : next.coat.areas)
      if (a.id == id) change(a);
  });
}

void ColourTray::colourParts() {
  m_document.edit(
      tr("Colour every part"), [this](Build& next) { next = with_part_colours(next, m_chain.materials()); });
}

void ColourTray::addArea() {
  if (m_offer->currentIndex() < 0) return;
  const std::string of = m_offer->currentData().toString().toStdString();
  const auto field = m_fields.constFind(m_offer->currentData().toString());
  const std::string name = (field != m_fields.cend() ? field->name : m_offer->currentText()).toStdString();
  int made = 0;
  m_document.edit(tr("Colour of the %1").arg(m_offer->currentText()), [&](Build& next) {
    ColourArea area;
    area.name = name;
    area.of = of;
    area.pigment = next.coat.pigments.empty() ? add_pigment(next, tr("ochre").toStdString(), 0xb8862f)
                                              : next.coat.pigments.back().id;
    made = add_area(next, area).value_or(0);
  });
  m_pointed = false;
  choose(made);
}

/// One of the palette, or a new one chosen by eye.
void ColourTray::takeColour(int index) {
  const int id = m_colour->itemData(index).toInt();
  if (id != kNewColour) return edit(tr("Colour of an area"), [id](ColourArea& a) { a.pigment = id; });
  const QColor picked = QColorDialog::getColor(Qt::gray, this, tr("A colour of your own"));
  const int area = chosen();
  if (!picked.isValid()) return showChosen();
  m_document.edit(tr("A new colour"), [&](Build& next) {
    const int fresh = add_pigment(next, picked.name().toStdString(), static_cast<int>(picked.rgb() & 0xffffffU));
    for (ColourArea& a : next.coat.areas)
      if (a.id == area) a.pigment = fresh;
  });
}

void ColourTray::show(const Build& build, const Derived& derived) {
  m_shown = derived;
  const int kept = chosen();
  {
    const QSignalBlocker quiet(m_list);
    m_list->clear();
    for (const ColourArea& a : build.coat.areas) {
      const Pigment* p = find_pigment(build.coat, a.pigment);
      auto* item = new QListWidgetItem(swatch(p != nullptr ? p->rgb : 0x808080),
          p != nullptr ? tr("%1: %2").arg(qs(a.name), qs(p->name)) : qs(a.name), m_list);
      item->setData(Qt::UserRole, a.id);
    }
    choose(kept);
    if (m_list->currentRow() < 0 && m_list->count() > 0) m_list->setCurrentRow(0);
  }
  m_none->setVisible(build.coat.areas.empty());
  m_list->setVisible(!build.coat.areas.empty());
  m_facts->setVisible(!build.coat.areas.empty());
  m_far->setText(tr("From %1 m a stroke is seen from %2 mm on and reads from %3 mm.")
                     .arg(qs(fixed(build.coat.read_at_m, 0)), qs(fixed(seen_stroke_mm(build.coat.read_at_m), 1)),
                         qs(fixed(read_stroke_mm(build.coat.read_at_m), 1))));
  const QSignalBlocker far(m_readAt);
  m_readAt->setValue(build.coat.read_at_m);
  showOffers();
  showChosen();
  m_all->setVisible(std::any_of(build.parts.begin(), build.parts.end(), [&](const Part& p) {
    const std::string of = "part " + std::to_string(p.id);
    return std::none_of(
        build.coat.areas.begin(), build.coat.areas.end(), [&](const ColourArea& a) { return a.of == of; });
  }));
}

/// Parts, their panels, insides and details that have no colour of their own.
void ColourTray::showOffers() {
  const Build& build = m_document.build();
  const QSignalBlocker quiet(m_offer);
  const QString kept = m_offer->currentData().toString();
  m_offer->clear();
  const auto offer = [&](const QString& text, const std::string& of) {
    for (const ColourArea& a : build.coat.areas)
      if (a.of == of) return;
    m_offer->addItem(text, QString::fromStdString(of));
  };
  for (const Part& p : build.parts) offer(qs(p.name), "part " + std::to_string(p.id));
  offerFields(offer);
  for (const Detail& d : build.dress.details) offer(qs(d.name), "detail " + std::to_string(d.id));
  if (m_shown.panels && m_shown.form)
    for (const Panel& p : m_shown.panels->panels) {
      const auto& form = m_shown.form->parts[static_cast<std::size_t>(p.part)];
      offer(tr("panel %1").arg(qs(p.name)), "panel " + std::to_string(form->part) + " " + p.name);
    }
  for (const Part& p : build.parts) offer(tr("inside of the %1").arg(qs(p.name)), "inside " + std::to_string(p.id));
  m_offer->setCurrentIndex(std::max(0, m_offer->findData(kept)));
  m_add->setEnabled(m_offer->count() > 0);
}

/// What lies between lines, pairs of both sides as one.
void ColourTray::offerFields(const std::function<void(const QString&, const std::string&)>& offer) {
  constexpr double kLeastMm2 = 100.0;  // less is where two lines run into each other
  m_fields.clear();
  if (!m_shown.colours || !m_shown.colours->ground) return;
  const ColourMap& map = *m_shown.colours;
  const auto& fields = map.ground->fields;
  for (int k = 0; k < static_cast<int>(fields.size()); ++k) {
    const PaintField& field = fields[static_cast<std::size_t>(k)];
    const Part* part = find_part(m_document.build(), field.part);
    if (field.area_mm2 < kLeastMm2 || part == nullptr || (field.image >= 0 && field.image < k)) continue;
    const bool pair = field.image > k;
    const std::string of = words_of(field);
    if (paintedAsField(map.area_of_face[static_cast<std::size_t>(field.faces.front())])) continue;
    const QString name = tr("%1, %2").arg(qs(part->name), whereWords(field, pair));
    m_fields[QString::fromStdString(of)] = {k, name};
    offer(
        tr("between lines: %1, %2 cm\u00b2").arg(name, qs(awl::fixed((pair ? 2.0 : 1.0) * field.area_mm2 / 100.0, 0))),
        of);
  }
}

bool ColourTray::paintedAsField(int area) const {
  for (const ColourArea& a : m_document.build().coat.areas)
    if (a.id == area)
      if (const auto of = area_of(a)) return of->kind == AreaOf::Kind::field;
  return false;
}

/// A place of the form was clicked: the colour there, or what could be given one.
void ColourTray::point(int face) {
  const ColourMap& map = *m_shown.colours;
  if (const int area = map.area_of_face[static_cast<std::size_t>(face)]; area != 0) choose(area);
  m_pointed = false;
  if (!map.ground) return;
  int field = map.ground->field_of[static_cast<std::size_t>(face)];
  if (field < 0) return;
  if (const int image = map.ground->fields[static_cast<std::size_t>(field)].image; image >= 0 && image < field)
    field = image;
  for (auto at = m_fields.begin(); at != m_fields.end(); ++at)
    if (at->number == field) {
      m_offer->setCurrentIndex(m_offer->findData(at.key()));
      m_pointed = true;
    }
  emit farChanged();
}

/// Where what would be given a colour ends.
std::vector<std::vector<Vec3>> ColourTray::offeredBorder() const {
  std::vector<std::vector<Vec3>> lines;
  if (!m_pointed) return lines;
  const auto at = m_fields.find(m_offer->currentData().toString());
  if (at == m_fields.end() || !m_shown.colours || !m_shown.colours->ground) return lines;
  const PaintGround& ground = *m_shown.colours->ground;
  const int image = ground.fields[static_cast<std::size_t>(at->number)].image;
  for (const int k : {at->number, image != at->number ? image : -1}) {
    if (k < 0) continue;
    Mesh field;
    field.vertices = ground.outer.vertices;
    for (const int f : ground.fields[static_cast<std::size_t>(k)].faces)
      field.triangles.push_back(ground.outer.triangles[static_cast<std::size_t>(f)]);
    for (const auto& loop : border_loops(field)) {
      lines.emplace_back();
      for (const int v : loop) lines.back().push_back(field.vertices[static_cast<std::size_t>(v)]);
      lines.back().push_back(lines.back().front());
    }
  }
  return lines;
}

QString ColourTray::wordsOf(const ColourArea& area) const {
  QStringList words;
  if (m_shown.colours)
    for (std::size_t i = 0; i < m_shown.colours->areas.size(); ++i)
      if (m_shown.colours->areas[i] == area.id)
        words << tr("%1 cm\u00b2.").arg(qs(fixed(m_shown.colours->area_mm2[i] / 100.0, 0)));
  if (m_shown.plan)
    for (std::size_t k = 0; k < m_shown.plan->masking.size(); ++k) {
      const PlannedMask& mask = m_shown.plan->masking[k];
      if (mask.area != area.name) continue;
      words << tr("Painted as number %1 of %2.").arg(k + 1).arg(m_shown.plan->masking.size());
      if (mask.tape_mm > 0.0) {
        QStringList over;
        for (const std::string& name : mask.over) over << qs(name);
        words << (over.isEmpty() ? tr("About %1 m of tape.").arg(qs(fixed(mask.tape_mm / 1000.0, 1)))
                                 : tr("About %1 m of tape, over %2.")
                                       .arg(qs(fixed(mask.tape_mm / 1000.0, 1)), over.join(QStringLiteral(", "))));
      } else {
        words << tr("Nothing to mask.");
      }
    }
  const FinishSpec& finish = m_document.build().coat;
  if (const Pigment* from = find_pigment(finish, area.pigment), *to = find_pigment(finish, area.fades_to);
      from != nullptr && to != nullptr)
    words << tr("%1 mixes from %2 to %3.")
                 .arg(gradient_mixes(static_cast<unsigned>(from->rgb), static_cast<unsigned>(to->rgb)))
                 .arg(qs(from->name), qs(to->name));
  return words.join(QLatin1Char(' '));
}

void ColourTray::showChosen() {
  const Build& build = m_document.build();
  const int id = chosen();
  const auto at =
      std::find_if(build.coat.areas.begin(), build.coat.areas.end(), [&](const ColourArea& a) { return a.id == id; });
  m_facts->setEnabled(at != build.coat.areas.end());
  if (at == build.coat.areas.end()) return;
  const QSignalBlocker a(m_colour), b(m_paint), c(m_coats), d(m_fade), e(m_fadeWay);
  m_colour->clear();
  for (const Pigment& p : build.coat.pigments) m_colour->addItem(swatch(p.rgb), qs(p.name), p.id);
  m_colour->addItem(tr("Another\u2026"), kNewColour);
  m_colour->setCurrentIndex(m_colour->findData(at->pigment));
  m_fade->clear();
  m_fade->addItem(tr("nothing"), 0);
  for (const Pigment& p : build.coat.pigments)
    if (p.id != at->pigment) m_fade->addItem(swatch(p.rgb), qs(p.name), p.id);
  m_fade->setCurrentIndex(std::max(0, m_fade->findData(at->fades_to)));
  m_fadeWay->setCurrentIndex(m_fadeWay->findData(QLatin1String(name_of(at->fades))));
  m_fadeWay->setEnabled(at->fades_to != 0);
  m_paint->setCurrentIndex(std::max(0, m_paint->findData(QString::fromStdString(at->paint))));
  m_coats->setValue(at->coats);
  m_hard->setChecked(at->hard_edge);
  m_bears->setChecked(at->bears_tape);
  m_words->setText(wordsOf(*at));
}

}  // namespace awl
