#include "app/tray/material_tray.hpp"

#include <QRegularExpression>
#include <cmath>

#include "core/base/numbers.hpp"

namespace awl {
namespace {

QString qs(const std::string& s) { return QString::fromStdString(s); }

QString shown(double v) {
  std::string text = fixed(v, 3);
  while (text.back() == '0') text.pop_back();
  if (text.back() == '.') text.pop_back();
  return qs(text);
}

/// The sheet as sold that the build is laid on; null if none is.
SoldSheet* sold_for(Foam& foam, const FoamSpec& spec) {
  for (SoldSheet& s : foam.sold)
    if (std::abs(s.thickness_mm - spec.thickness_mm) < 0.05 && s.width_mm == spec.sheet.width_mm && s.height_mm == spec.sheet.height_mm) return &s;
  return nullptr;
}

}  // namespace

MaterialTray::MaterialTray(Station* station, Document& document, const Chain& chain, Book& book)
    : QObject(station), m_document(document), m_chain(chain), m_book(book), m_name(new QLineEdit(station)), m_price(new QLineEdit(station)), m_thick(new QLineEdit(station)), m_keep(new QPushButton(tr("Keep for the shop"), station)), m_drop(new QPushButton(tr("As it was shipped"), station)),
      m_said(nullptr) {
  TrayGroup* group = station->addGroup(tr("Its numbers"), false);
  const auto add = [&](QLineEdit* edit, const char* name, const QString& label, const QString& tip) {
    edit->setObjectName(QLatin1String(name));
    edit->setAccessibleName(label);
    edit->setToolTip(tip);
    group->addRow(label, edit);
    return edit;
  };
  add(m_name, "material-name", tr("Name"), tr("Another name makes another kind of it, beside the one there is."));
  m_rows.push_back({add(new QLineEdit(station), "material-cold", tr("Gives cold, %"), tr("How far a scrap stretches or squeezes before it puckers.")), &Foam::strain_cold, 100.0});
  m_rows.push_back({add(new QLineEdit(station), "material-heated", tr("Gives heated, %"), tr("The same, warmed through.")), &Foam::strain_heated, 100.0});
  m_rows.push_back({add(new QLineEdit(station), "material-bend", tr("Bends cold, %"), tr("Stretch of the outside when it bends and does not crack.")), &Foam::bend_cold, 100.0});
  m_rows.push_back({add(new QLineEdit(station), "material-bend-heated", tr("Bends heated, %"), tr("The same, warmed through.")), &Foam::bend_heated, 100.0});
  m_rows.push_back({add(new QLineEdit(station), "material-density", tr("kg a cubic metre"), tr("For the weight of the piece on the head.")), &Foam::density_kg_m3, 1.0});
  add(m_thick, "material-thick", tr("Comes in, mm"), tr("All thicknesses it is sold in, one after the other: 2, 4, 6."));
  add(m_price, "material-price", tr("One sheet costs"), tr("Of the thickness and size chosen above, in your own money."));
  auto* row = new QHBoxLayout;
  m_keep->setObjectName(QStringLiteral("material-keep"));
  m_keep->setToolTip(tr("These numbers go into the shop book, and this build takes its own copy of them."));
  m_drop->setObjectName(QStringLiteral("material-drop"));
  m_drop->setToolTip(tr("Back to the workshop values that came with the program."));
  row->addWidget(m_keep), row->addWidget(m_drop);
  group->body()->addLayout(row);
  m_said = group->addText(tr("Workshop values; try a scrap and put them right."));
  m_said->setObjectName(QStringLiteral("material-said"));
  connect(m_keep, &QPushButton::clicked, this, &MaterialTray::keep);
  connect(m_drop, &QPushButton::clicked, this, &MaterialTray::drop);
}

void MaterialTray::renewBook() {
  const auto book = m_book.get();
  if (!book) return m_said->setText(qs(book.error().text));
  const auto own = (*book)->own_kinds();
  if (!own) return m_said->setText(qs(own.error().text));
  if (*own == m_own) return;
  m_own = *own;
  emit kindsChanged();
}

void MaterialTray::show(const Build& build) {
  auto foam = foam_of(build.foam, m_chain.materials());
  m_keep->setEnabled(foam.has_value());
  m_drop->setEnabled(build.foam.own_kind.has_value());
  if (!foam) return;
  const auto put = [](QLineEdit* edit, const QString& text) {
    if (!edit->hasFocus()) edit->setText(text);
  };
  put(m_name, qs(foam->name));
  for (const Row& row : m_rows) put(row.edit, shown(row.times * ((*foam).*row.field)));
  QStringList comes;
  for (const double mm : foam->thickness_mm) comes << QString::number(mm);
  put(m_thick, comes.join(QStringLiteral(", ")));
  const SoldSheet* sold = sold_for(*foam, build.foam);
  put(m_price, sold != nullptr ? shown(sold->price) : QString());
}

Result<Foam> MaterialTray::typed() const {
  const FoamSpec& spec = m_document.build().foam;
  auto foam = foam_of(spec, m_chain.materials());
  if (!foam) return foam;
  const auto number = [](const QLineEdit* edit) -> Result<double> {
    bool good = false;
    const double v = QString(edit->text()).replace(QLatin1Char(','), QLatin1Char('.')).toDouble(&good);
    if (!good) return fail(Errc::not_a_number, "\"" + edit->text().toStdString() + "\" under \"" + edit->accessibleName().toStdString() + "\" is no number.", "materials");
    return v;
  };
  for (const Row& row : m_rows) {
    const auto v = number(row.edit);
    if (!v) return tl::make_unexpected(v.error());
    (*foam).*row.field = *v / row.times;
  }
  foam->thickness_mm.clear();
  for (const QString& one : m_thick->text().split(QRegularExpression(QStringLiteral("[,;\\s]+")), Qt::SkipEmptyParts)) {
    bool good = false;
    foam->thickness_mm.push_back(one.toDouble(&good));
    if (!good) return fail(Errc::not_a_number, "\"" + one.toStdString() + "\" under \"" + m_thick->accessibleName().toStdString() + "\" is no number; write 2, 4, 6.", "materials");
  }
  std::sort(foam->thickness_mm.begin(), foam->thickness_mm.end());
  if (!m_price->text().trimmed().isEmpty()) {
    const auto v = number(m_price);
    if (!v) return tl::make_unexpected(v.error());
    if (SoldSheet* sold = sold_for(*foam, spec)) sold->price = *v;
    else foam->sold.push_back({spec.sheet.width_mm, spec.sheet.height_mm, spec.thickness_mm, *v});
  }
  const std::string name = m_name->text().trimmed().toStdString();
  if (name != foam->name) {
    foam->name = name;
    foam->id = "own-";
    for (const char c : name) foam->id += std::isalnum(static_cast<unsigned char>(c)) ? static_cast<char>(std::tolower(static_cast<unsigned char>(c))) : '-';
  }
  if (auto good = check_foam_kind(*foam); !good) return tl::make_unexpected(good.error());
  return foam;
}

void MaterialTray::keep() {
  const auto foam = typed();
  if (!foam) return m_said->setText(qs(foam.error().text));
  const auto book = m_book.get();
  if (!book) return m_said->setText(qs(book.error().text));
  if (const auto kept = (*book)->keep_kind(*foam); !kept) return m_said->setText(qs(kept.error().text));
  m_said->setText(tr("\u201c%1\u201d is in the shop book with these numbers.").arg(qs(foam->name)));
  m_document.change(tr("Numbers of the foam"), [foam = *foam](const Build& b) -> Result<Build> {
    Build next = b;
    next.foam.foam = foam.id, next.foam.own_kind = foam;
    // A thickness that is not made any more gives way to the nearest.
    next.foam.thickness_mm = *std::min_element(foam.thickness_mm.begin(), foam.thickness_mm.end(), [&](double a, double c) { return std::abs(a - b.foam.thickness_mm) < std::abs(c - b.foam.thickness_mm); });
    return next;
  });
  renewBook();
}

void MaterialTray::drop() {
  const auto& own = m_document.build().foam.own_kind;
  if (!own) return;
  const std::string id = own->id;
  if (!m_chain.materials().foam(id)) return m_said->setText(tr("This kind is your own; there is none shipped to go back to. Choose another kind above."));
  if (const auto book = m_book.get()) (void)(*book)->drop_kind(id);
  m_document.change(tr("Numbers of the foam"), [](const Build& b) -> Result<Build> {
    Build next = b;
    next.foam.own_kind.reset();
    return next;
  });
  m_said->setText(tr("As shipped again."));
  renewBook();
}

}  // namespace awl
