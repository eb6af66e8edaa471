#include "app/stations/form/compare_tray.hpp"
#include "app/widgets/picture_file.hpp"
#include "app/widgets/text.hpp"

#include <QFile>
#include <QFileInfo>
#include <QGridLayout>
#include <QImage>
#include <cmath>

#include "core/base/numbers.hpp"
#include "core/geom/nearest.hpp"

namespace awl {

CompareTray::CompareTray(Station* station, Document& document, TrayGroup* group)
    : QObject(station), m_station(station), m_document(document), m_side(new QComboBox(station)),
      m_section(new QComboBox(station)), m_pin(new QPushButton(tr("Pin a picture\u2026"), station)),
      m_unpin(new QPushButton(tr("Take it off"), station)),
      m_scale(new QPushButton(tr("Scale by two points"), station)),
      m_plain(new QCheckBox(tr("The form alone, no lines"), station)),
      m_shoulders(new QCheckBox(tr("Shoulders below it"), station)),
      m_symmetry(new QCheckBox(tr("Say how far its sides differ"), station)) {
  const QString words[kLooks] = {
      tr("From the front"), tr("From the left"), tr("From the right"), tr("From the back"), tr("From the top")};
  m_side->setObjectName(QStringLiteral("compare-side")), m_side->setAccessibleName(tr("Side"));
  m_side->setToolTip(tr("Turns the stand there and shows the picture pinned for it."));
  for (int i = 0; i < kLooks; ++i) m_side->addItem(words[i], QString::fromLatin1(name_of(static_cast<LookFrom>(i))));
  group->addRow(tr("Look"), m_side);
  connect(m_side, &QComboBox::activated, this, [this] { emit lookWanted(side()); });
  auto* row = new QHBoxLayout;
  row->addWidget(m_pin, 1), row->addWidget(m_unpin);
  group->body()->addLayout(row);
  m_pin->setObjectName(QStringLiteral("compare-pin")),
      m_pin->setToolTip(tr("A PNG or JPEG of what it should look like from this side."));
  m_unpin->setObjectName(QStringLiteral("compare-unpin"));
  connect(m_pin, &QPushButton::clicked, this, &CompareTray::pictureWanted);
  connect(m_unpin, &QPushButton::clicked, this, [this] {
    m_document.change(tr("Take a picture off"), [this](const Build& b) -> Result<Build> {
      Build next = b;
      std::erase_if(next.references, [&](const Reference& r) { return name_of(r.look) == side().toStdString(); });
      return next;
    });
  });
  m_apart = new LengthField(QStringLiteral("compare-apart"), tr("These two points are apart"),
      tr("On the wearer. The head height is used unless you measure another distance."), station);
  group->addRow(tr("The two points are apart"), m_apart);
  connect(m_apart, &LengthField::entered, this, [this](double mm) { m_apartMm = mm; });
  m_scale->setObjectName(QStringLiteral("compare-scale")), m_scale->setCheckable(true);
  m_scale->setToolTip(tr("Then click the upper of the two points on the picture, and the lower one, the chin."));
  group->body()->addWidget(m_scale);
  connect(m_scale, &QPushButton::toggled, this, [this](bool on) { m_scaling = on, m_first.reset(); });
  auto* grid = new QGridLayout;
  for (int i = 0; i < kLooks; ++i) {
    m_compared[i] = new QCheckBox(words[i].mid(words[i].lastIndexOf(QLatin1Char(' ')) + 1), station);
    m_compared[i]->setObjectName(QStringLiteral("compared-") + QString::fromLatin1(name_of(static_cast<LookFrom>(i))));
    m_compared[i]->setToolTip(tr("Tick it once you have turned the form there and compared it."));
    grid->addWidget(m_compared[i], i / 3, i % 3);
    connect(m_compared[i], &QCheckBox::clicked, this, [this, i](bool on) {
      m_document.edit(tr("Compared"), [i, on](Build& next) {
        if (on)
          next.compared.insert(static_cast<LookFrom>(i));
        else
          next.compared.erase(static_cast<LookFrom>(i));
      });
    });
  }
  group->addText(tr("Compared already:"));
  group->body()->addLayout(grid);
  for (QCheckBox* box : {m_plain, m_shoulders, m_symmetry}) {
    group->body()->addWidget(box);
    connect(box, &QCheckBox::toggled, station, [station] { emit station->standChanged(); });
  }
  m_plain->setObjectName(QStringLiteral("compare-plain")),
      m_shoulders->setObjectName(QStringLiteral("compare-shoulders")),
      m_symmetry->setObjectName(QStringLiteral("compare-symmetry"));
  m_shoulders->setToolTip(tr("A helm is judged against the body that carries it."));
  connect(m_symmetry, &QCheckBox::toggled, this, [this] { m_said->setVisible(m_symmetry->isChecked()); });
  m_section->setObjectName(QStringLiteral("compare-section")), m_section->setAccessibleName(tr("Cut through"));
  m_section->setToolTip(tr("Shows a section of head and parts with its breadth and depth."));
  for (const auto& [id, text] : {std::pair{"none", tr("no cut")}, {"level", tr("level")},
           {"middle", tr("along the middle")}, {"across", tr("across, upright")}})
    m_section->addItem(text, QString::fromLatin1(id));
  group->addRow(tr("Cut through"), m_section);
  m_sectionAt = new LengthField(
      QStringLiteral("compare-section-at"), tr("At"), tr("From the ears: up, to the left, or forward."), station);
  group->addRow(tr("At, from the ears"), m_sectionAt);
  connect(m_section, &QComboBox::activated, station, [station] { emit station->standChanged(); });
  connect(m_sectionAt, &LengthField::entered, this, [this](double mm) {
    m_sectionMm = mm;
    emit m_station->standChanged();
  });
  m_said = group->addText({});
  m_said->setObjectName(QStringLiteral("compare-said"));
  m_said->hide();
}

void CompareTray::apply(StandChoice& choice) const {
  choice.shoulders = m_shoulders->isChecked(), choice.shoulder_mm = m_shoulderMm;
  const QString cut = m_section->currentData().toString();
  if (cut == QLatin1String("level")) choice.section = Plane{Vec3(0, m_sectionMm + 1e-3, 0), Vec3::UnitY()};
  if (cut == QLatin1String("middle")) choice.section = Plane{Vec3(m_sectionMm + 1e-3, 0, 0), Vec3::UnitX()};
  if (cut == QLatin1String("across")) choice.section = Plane{Vec3(0, 0, m_sectionMm + 1e-3), Vec3::UnitZ()};
}

bool CompareTray::pin(const QString& path) {
  constexpr qint64 kMostMb = 20;  // it is kept in the build
  const auto bytes = pictureBytes(path, kMostMb);
  if (!bytes) return emit m_station->told(qs(bytes.error().text)), false;
  const auto read = pictureFrom(*bytes, QFileInfo(path).fileName());
  if (!read) return emit m_station->told(qs(read.error().text)), false;
  const QImage& picture = *read;
  return m_document.change(tr("Pin a picture"), [&](const Build& b) -> Result<Build> {
    const auto look = look_from(side().toStdString());
    if (!look) return fail(look);
    Build next = b;
    std::erase_if(next.references, [&](const Reference& r) { return r.look == *look; });
    // Until it is scaled, its height is that of a head and a half.
    const double mm = 340.0 / picture.height();
    next.references.push_back(
        {*look, QFileInfo(path).fileName().toStdString(), std::make_shared<const std::string>(bytes->toStdString()), mm,
            Vec2(0.5 * picture.width(), 0.5 * picture.height())});
    return next;
  });
}

const Reference* CompareTray::shown() const {
  for (const Reference& r : m_document.build().references)
    if (QString::fromLatin1(name_of(r.look)) == m_looked) return &r;
  return nullptr;
}

void CompareTray::looked(const QString& view) {
  m_looked = view;
  if (const int at = m_side->findData(view); at >= 0) m_side->setCurrentIndex(at);
  emit backdropChanged();
}

void CompareTray::scaleBy(QPointF upper, QPointF lower, double mm) {
  const double apart = std::hypot(upper.x() - lower.x(), upper.y() - lower.y());
  if (apart < 4.0) return emit m_station->told(tr("The two points lie too close together to scale by."));
  m_document.edit(tr("Scale the picture"), [&](Build& next) {
    for (Reference& r : next.references) {
      if (QString::fromLatin1(name_of(r.look)) != m_looked) continue;
      r.mm_per_pixel = mm / apart;
      r.origin_px = Vec2(0.5 * (upper.x() + lower.x()), lower.y() + m_chinY / r.mm_per_pixel);
    }
  });
}

void CompareTray::pictureClicked(QPointF px) {
  if (!m_scaling) return;
  if (!m_first) return void(m_first = px);
  const QPointF upper = m_first->y() < px.y() ? *m_first : px, lower = m_first->y() < px.y() ? px : *m_first;
  scaleBy(upper, lower, m_apartMm);
  m_scale->setChecked(false);
}

void CompareTray::show(const Build& build, const Derived& d) {
  for (int i = 0; i < kLooks; ++i) m_compared[i]->setChecked(build.compared.count(static_cast<LookFrom>(i)) != 0);
  const bool pinned = std::any_of(build.references.begin(), build.references.end(),
      [&](const Reference& r) { return QString::fromLatin1(name_of(r.look)) == side(); });
  m_unpin->setEnabled(pinned), m_scale->setEnabled(pinned);
  const auto shoulders = build.tape.body.find(BodyMeasure::shoulders);
  m_shoulderMm = shoulders == build.tape.body.end() ? 0.0 : shoulders->second;
  m_sectionAt->showValue(m_sectionMm, build.shown);
  if (!d.head) return;
  m_chinY = d.head->at(Landmark::menton).y();
  if (m_apartMm == 0.0) m_apartMm = std::round(d.head->reading(MeasureId::HH).reads_mm);
  m_apart->showValue(m_apartMm, build.shown);
  emit backdropChanged();
  const PartForm* form = d.form ? d.form->of(m_document.partAtHand()) : nullptr;
  if (form == nullptr || !m_symmetry->isChecked()) return;
  const Nearest near_form(form->surface.mesh);
  double most = 0.0;
  Vec3 where = Vec3::Zero();
  for (const Vec3& p : form->surface.mesh.vertices)
    if (const double off = (near_form.to(Vec3(-p.x(), p.y(), p.z())).point - Vec3(-p.x(), p.y(), p.z())).norm();
        off > most)
      most = off, where = p;
  m_said->setText(most < 0.05
          ? tr("Both sides of it are the same.")
          : tr("Its sides differ by up to %1 mm, most at the %2 of the %3.")
                .arg(QString::fromStdString(fixed(most, 1)), where.z() > 0.0 ? tr("front") : tr("back"),
                    where.x() > 0.0 ? tr("left") : tr("right")));
}

}  // namespace awl
