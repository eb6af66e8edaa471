#include "app/stations/foam/material_tray.hpp"

#include <QRegularExpression>
#include <algorithm>
#include <cmath>

#include "core/base/numbers.hpp"
#include "app/widgets/text.hpp"

namespace awl {
namespace {

QString shown(double v) {
  std::string text = fixed(v, 3);
  while (text.back() == '0') text.pop_back();
  if (text.back() == '.') text.pop_back();
  return qs(text);
}

double nearest_to(const std::vector<double>& all, double wanted) {
  return *std::min_element(
      all.begin(), all.end(), [&](double a, double b) { return std::abs(a - wanted) < std::abs(b - wanted); });
}

/// The number typed into a field. Errors: not_a_number with the text and the field's label.
Result<double> number_in(const QLineEdit* edit) {
  const std::string label = edit->accessibleName().toStdString(), text = edit->text().trimmed().toStdString();
  if (text.empty()) return fail(Errc::not_a_number, "\"" + label + "\" is empty; a number must be there.", "materials");
  bool good = false;
  const double v = QString(edit->text()).replace(QLatin1Char(','), QLatin1Char('.')).toDouble(&good);
  if (!good) return fail(Errc::not_a_number, "\"" + text + "\" under \"" + label + "\" is no number.", "materials");
  return v;
}

/// The sheet as sold that the build is laid on; null if none is.
SoldSheet* sold_for(Foam& foam, const FoamSpec& spec) {
  for (SoldSheet& s : foam.sold)
    if (std::abs(s.thickness_mm - spec.thickness_mm) < 0.05 && s.width_mm == spec.sheet.width_mm &&
        s.height_mm == spec.sheet.height_mm)
      return &s;
  return nullptr;
}

}  // namespace

MaterialTray::MaterialTray(Station* station, Document& document, const Chain& chain, Book& book)
    : QObject(station), m_document(document), m_chain(chain), m_book(book) {
  TrayGroup* group = station->addGroup(tr("Its numbers"), false);
  addFields(station, group);
  addButtons(station, group);
  m_said = group->addText(tr("Workshop values; try a scrap and put them right."));
  m_said->setObjectName(QStringLiteral("material-said"));
}

void MaterialTray::addFields(Station* station, TrayGroup* group) {
  const auto add = [&](const char* name, const QString& label, const QString& tip) {
    auto* edit = new QLineEdit(station);
    edit->setObjectName(QLatin1String(name));
    edit->setAccessibleName(label);
    edit->setToolTip(tip);
    group->addRow(label, edit);
    return edit;
  };
  const auto number = [&](const char* name, const QString& label, const QString& tip, double Foam::*field,
                          double times) {
    m_rows.push_back({add(name, label, tip), field, times});
  };
  m_name = add("material-name", tr("Name"), tr("Another name makes another kind of it, beside the one there is."));
  m_kind = new QComboBox(station);
  m_kind->setObjectName(QStringLiteral("material-kind"));
  m_kind->setAccessibleName(tr("What it is"));
  m_kind->setToolTip(tr("What may be done to it follows from this: heat, blades, glue."));
  for (const auto& [kind, words] : {std::pair{SheetKind::foam, tr("foam sheet")}, {SheetKind::block, tr("foam block")},
           {SheetKind::board, tr("insulation board")}, {SheetKind::thermoplastic, tr("thermoplastic sheet")},
           {SheetKind::rigid, tr("rigid board")}, {SheetKind::clear, tr("clear sheet")}, {SheetKind::card, tr("card")},
           {SheetKind::fabric, tr("fabric, leather")}, {SheetKind::mesh, tr("mesh")}})
    m_kind->addItem(words, static_cast<int>(kind));
  group->addRow(tr("What it is"), m_kind);
  m_thick =
      add("material-thick", tr("Comes in, mm"), tr("All thicknesses it is sold in, one after the other: 2, 4, 6."));
  m_price =
      add("material-price", tr("One sheet costs"), tr("Of the thickness and size chosen above, in your own money."));
  number("material-density", tr("kg a cubic metre"), tr("For the weight of the piece on the head."),
      &Foam::density_kg_m3, 1.0);
  number("material-cold", tr("Gives cold, %"), tr("How far a scrap stretches or squeezes before it puckers."),
      &Foam::strain_cold, 100.0);
  number("material-heated", tr("Gives heated, %"), tr("The same, warmed through."), &Foam::strain_heated, 100.0);
  number("material-bend", tr("Bends cold, %"), tr("Stretch of the outside when it bends and does not crack."),
      &Foam::bend_cold, 100.0);
  number("material-bend-heated", tr("Bends heated, %"), tr("The same, warmed through."), &Foam::bend_heated, 100.0);
  number("material-keeps", tr("Keeps of a bend, %"),
      tr("How much of a bend it keeps that was made warm and held until cool."), &Foam::keeps_bend_heated, 100.0);
  number("material-squeeze", tr("Squeezed, stiff by"),
      tr("Times as stiff squeezed as stretched: soft foam gives way sooner, 0.6; sheet plastic does not, 1."),
      &Foam::squeeze_stiffness, 1.0);
  number("material-seam-margin", tr("Margin at seams, mm"),
      tr("What is usually left on for a seam; 0 for foam that meets edge to edge."), &Foam::seam_margin_mm, 1.0);
  number("material-rim-margin", tr("Margin at edges, mm"), tr("What is usually folded over a free edge."),
      &Foam::rim_margin_mm, 1.0);
  number("material-hole-margin", tr("Margin at openings, mm"), tr("What is usually left round a lens."),
      &Foam::hole_margin_mm, 1.0);
  number("material-forming-low", tr("Formed from, \u00b0C"), tr("0 if heat does not form it. As its label says."),
      &Foam::forming_low_c, 1.0);
  number("material-forming-high", tr("Formed up to, \u00b0C"), tr("0 if heat does not form it. As its label says."),
      &Foam::forming_high_c, 1.0);
  number("material-light", tr("Lets light through, %"), tr("0 if it is not made to be looked through."), &Foam::light,
      100.0);
  m_taboos = add("material-taboos", tr("Must not meet"),
      tr("What, then why, one after the other: contact: its solvent eats it; heat: it gives off gas."));
  m_caution =
      add("material-caution", tr("Caution"), tr("What must be heeded when it is warmed or cut, from its label."));
}

void MaterialTray::addButtons(Station* station, TrayGroup* group) {
  const auto add = [&](const char* name, const QString& text, const QString& tip, void (MaterialTray::*pressed)()) {
    auto* button = new QPushButton(text, station);
    button->setObjectName(QLatin1String(name));
    button->setToolTip(tip);
    connect(button, &QPushButton::clicked, this, pressed);
    return button;
  };
  m_keep = add("material-keep", tr("Keep for the shop"),
      tr("These numbers go into the shop book, and this build takes its own copy of them."), &MaterialTray::keep);
  m_drop = add("material-drop", tr("As it was shipped"), tr("Back to the workshop values that came with the program."),
      &MaterialTray::drop);
  m_new = add("material-new", tr("A kind of your own, from a clean slate"),
      tr("Empties every field above. Nothing is kept before you press Keep."), &MaterialTray::startAnew);
  auto* row = new QHBoxLayout;
  row->addWidget(m_keep), row->addWidget(m_drop);
  group->body()->addLayout(row);
  group->body()->addWidget(m_new);
}

void MaterialTray::startAnew() {
  m_anew = !m_anew;
  if (!m_anew) {
    m_said->setText(tr("Left as it was."));
    m_shown.reset();
    return show(m_document.build());
  }
  for (QLineEdit* edit : {m_name, m_thick, m_price, m_taboos, m_caution}) edit->clear();
  for (const Row& row : m_rows) row.edit->clear();
  m_keep->setEnabled(true), m_drop->setEnabled(false);
  m_new->setText(tr("Leave it, back to the kind in hand"));
  m_said->setText(
      tr("Type what you know of it from its label and from scraps, then keep it. What must not be empty is named."));
  m_name->setFocus();
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
  // What was typed and not yet kept stays until the build's own foam is another.
  if (m_anew || m_shown == build.foam) return;
  m_shown = build.foam;
  auto foam = foam_of(build.foam, m_chain.materials());
  m_new->setText(tr("A kind of your own, from a clean slate"));
  m_keep->setEnabled(foam.has_value());
  m_drop->setEnabled(build.foam.own_kind.has_value());
  if (!foam) return;
  const auto put = [](QLineEdit* edit, const QString& text) {
    if (edit->hasFocus()) return;
    edit->setText(text);
    edit->setCursorPosition(0);  // a long name is read from its beginning
  };
  put(m_name, qs(foam->name));
  m_kind->setCurrentIndex(m_kind->findData(static_cast<int>(foam->kind)));
  for (const Row& row : m_rows) put(row.edit, shown(row.times * ((*foam).*row.field)));
  QStringList comes, taboos;
  for (const double mm : foam->thickness_mm) comes << QString::number(mm);
  for (const Taboo& t : foam->taboos) taboos << qs(t.what + ": " + t.why);
  put(m_thick, comes.join(QStringLiteral(", ")));
  put(m_taboos, taboos.join(QStringLiteral("; ")));
  put(m_caution, qs(foam->forming_caution));
  const SoldSheet* sold = sold_for(*foam, build.foam);
  put(m_price, sold != nullptr ? shown(sold->price) : QString());
}

Result<void> MaterialTray::typeNumbers(Foam& foam) const {
  for (const Row& row : m_rows) {
    const auto v = number_in(row.edit);
    if (!v) return fail(v);
    foam.*row.field = *v / row.times;
  }
  foam.thickness_mm.clear();
  for (const QString& one : m_thick->text().split(QRegularExpression(QStringLiteral("[,;\\s]+")), Qt::SkipEmptyParts)) {
    bool good = false;
    foam.thickness_mm.push_back(one.toDouble(&good));
    if (!good)
      return fail(Errc::not_a_number,
          "\"" + one.toStdString() + "\" under \"" + m_thick->accessibleName().toStdString() +
              "\" is no number; write 2, 4, 6.",
          "materials");
  }
  std::sort(foam.thickness_mm.begin(), foam.thickness_mm.end());
  return {};
}

Result<void> MaterialTray::typeTaboos(Foam& foam) const {
  foam.taboos.clear();
  for (const QString& one : m_taboos->text().split(QLatin1Char(';'), Qt::SkipEmptyParts)) {
    const auto colon = one.indexOf(QLatin1Char(':'));
    const QString what = one.left(colon).trimmed(), why = one.mid(colon + 1).trimmed();
    if (colon < 0 || what.isEmpty() || why.isEmpty())
      return fail(Errc::out_of_range,
          "Under \"Must not meet\", \"" + one.trimmed().toStdString() +
              "\" has no reason; write what, a colon, and why.",
          "materials");
    foam.taboos.push_back({what.toStdString(), why.toStdString()});
  }
  return {};
}

/// What a sheet of the size in hand costs; of a kind made anew, of its middle thickness.
Result<void> MaterialTray::typePrice(Foam& foam) const {
  if (m_price->text().trimmed().isEmpty()) return {};
  const auto v = number_in(m_price);
  if (!v) return fail(v);
  FoamSpec spec = m_document.build().foam;
  if (!foam.thickness_mm.empty()) spec.thickness_mm = nearest_to(foam.thickness_mm, spec.thickness_mm);
  if (SoldSheet* sold = sold_for(foam, spec))
    sold->price = *v;
  else
    foam.sold.push_back({spec.sheet.width_mm, spec.sheet.height_mm, spec.thickness_mm, *v});
  return {};
}

Result<Foam> MaterialTray::typed() const {
  const std::string name = m_name->text().trimmed().toStdString();
  Foam foam;
  if (!m_anew) {
    const auto known = foam_of(m_document.build().foam, m_chain.materials());
    if (!known) return known;
    foam = *known;
  }
  if (m_anew && name.empty())
    return fail(Errc::out_of_range, "\"Name\" is empty: a kind of your own needs one.", "materials");
  const SheetKind was = foam.kind;
  foam.kind = static_cast<SheetKind>(m_kind->currentData().toInt());
  for (const auto& type : {&MaterialTray::typeNumbers, &MaterialTray::typeTaboos, &MaterialTray::typePrice})
    if (auto good = (this->*type)(foam); !good) return fail(good);
  foam.forming_caution = m_caution->text().trimmed().toStdString();
  // What it bears follows from its kind and what it must not meet; what was stricter stays so.
  const Foam usual = with_usual_facts(foam);
  if (m_anew || usual.kind != was) foam = usual;
  foam.heat = std::max(foam.heat, usual.heat), foam.solvent = std::max(foam.solvent, usual.solvent);
  const bool renamed = name != foam.name;
  if (renamed) {
    foam.name = name;
    foam.id = "own-";
    for (const char c : name)
      foam.id += std::isalnum(static_cast<unsigned char>(c))
          ? static_cast<char>(std::tolower(static_cast<unsigned char>(c)))
          : '-';
  }
  const auto same = std::find_if(m_own.begin(), m_own.end(), [&](const Foam& own) { return own.id == foam.id; });
  if (renamed && same != m_own.end())
    return fail(Errc::out_of_range,
        "The shop book has a kind called \"" + same->name +
            "\" already: give this one another name, or choose that one above to change it.",
        "materials");
  if (auto good = check_foam_kind(foam); !good) return fail(good);
  return foam;
}

void MaterialTray::keep() {
  const auto foam = typed();
  if (!foam) return m_said->setText(qs(foam.error().text));
  const auto book = m_book.get();
  if (!book) return m_said->setText(qs(book.error().text));
  if (const auto kept = (*book)->keep_kind(*foam); !kept) return m_said->setText(qs(kept.error().text));
  m_anew = false;
  m_shown.reset();
  m_said->setText(tr("\u201c%1\u201d is in the shop book with these numbers.").arg(qs(foam->name)));
  m_document.change(tr("Numbers of the foam"), [foam = *foam](const Build& b) -> Result<Build> {
    Build next = b;
    next.foam.foam = foam.id, next.foam.own_kind = foam;
    // A thickness that is not made any more gives way to the nearest.
    next.foam.thickness_mm = nearest_to(foam.thickness_mm, b.foam.thickness_mm);
    return next;
  });
  renewBook();
}

void MaterialTray::drop() {
  const auto& own = m_document.build().foam.own_kind;
  if (!own) return;
  const std::string id = own->id;
  if (!m_chain.materials().foam(id))
    return m_said->setText(
        tr("This kind is your own; there is none shipped to go back to. Choose another kind above."));
  if (const auto book = m_book.get()) (void)(*book)->drop_kind(id);
  m_document.edit(tr("Numbers of the foam"), [](Build& next) { next.foam.own_kind.reset(); });
  m_said->setText(tr("As shipped again."));
  renewBook();
}

}  // namespace awl
