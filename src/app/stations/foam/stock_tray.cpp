#include "app/stations/foam/stock_tray.hpp"

#include <QDate>
#include <QRegularExpression>
#include <QSignalBlocker>

#include "app/widgets/theme.hpp"
#include "core/base/numbers.hpp"
#include "core/base/text.hpp"
#include "core/geom/polygon.hpp"
#include "app/widgets/text.hpp"
#include "print/money.hpp"

namespace awl {
namespace {

/// "300 x 200" or corners "0,0 300,0 280,150": lengths as makers type them, in the unit shown.
Result<std::vector<Vec2>> outline_from(const QString& typed, LengthUnit unit) {
  const QStringList sides = typed.split(QRegularExpression(QStringLiteral("\\s*[xX\u00d7]\\s*")), Qt::SkipEmptyParts);
  const auto number = [&](const QString& text) { return parse_length(text.trimmed().toStdString(), unit); };
  if (sides.size() == 2 && !typed.contains(QLatin1Char(','))) {
    const auto w = number(sides[0]), h = number(sides[1]);
    if (!w) return fail(w);
    if (!h) return fail(h);
    return std::vector<Vec2>{{0, 0}, {*w, 0}, {*w, *h}, {0, *h}};
  }
  std::vector<Vec2> corners;
  for (const QString& pair : typed.split(QRegularExpression(QStringLiteral("[\\s;]+")), Qt::SkipEmptyParts)) {
    const QStringList at = pair.split(QLatin1Char(','));
    if (at.size() != 2)
      return fail(Errc::bad_file,
          "\"" + pair.toStdString() + "\" is no corner; write 300 x 200, or corners like 0,0 300,0 280,150.",
          "offcuts/outline");
    const auto x = number(at[0]), y = number(at[1]);
    if (!x) return fail(x);
    if (!y) return fail(y);
    corners.push_back({*x, *y});
  }
  if (corners.empty())
    return fail(Errc::empty_input,
        "Write how large it is: 300 x 200, or its corners one after the other: 0,0 300,0 280,150.", "offcuts/outline");
  return corners;
}

}  // namespace

StockTray::StockTray(Station* station, Document& document, const Chain& chain, Book& book)
    : QObject(station), m_station(station), m_document(document), m_chain(chain), m_book(book),
      m_grain(new QCheckBox(tr("It has a grain or a texture"), station)), m_list(new QListWidget(station)),
      m_name(new QLineEdit(station)), m_outline(new QLineEdit(station)),
      m_keep(new QPushButton(tr("Keep what is left"), station)), m_add(new QPushButton(tr("Put it by"), station)),
      m_remove(new QPushButton(tr("Used up"), station)), m_bring(new QPushButton(tr("Bring back"), station)),
      m_held(new QPushButton(station)), m_photo(new QPushButton(tr("From a photo\u2026"), station)), m_summary(nullptr),
      m_said(nullptr) {}

void StockTray::makeSheet() {
  TrayGroup* sheet = m_station->addGroup(tr("The sheet"));
  m_size = m_station->addChoice(sheet, QStringLiteral("sheet-size"), tr("As sold"),
      tr("Sizes this kind is sold in, with what one costs."), {}, [](Build& b, const std::string& id) {
        const QStringList sides = QString::fromStdString(id).split(QLatin1Char('x'));
        if (sides.size() == 2) b.foam.sheet = {sides[0].toDouble(), sides[1].toDouble()};
      });
  m_fields = new DialFields(m_station, dial_facts<FoamSpec>(), "foam");
  m_station->leadTo(
      m_fields->add<LengthField>(sheet, QStringLiteral("sheet-width"), "width"), QStringLiteral("foam/sheet"));
  m_fields->add<LengthField>(sheet, QStringLiteral("sheet-height"), "height");
  m_fields->add<LengthField>(sheet, QStringLiteral("sheet-gap"), "gap");
  m_fields->addChoice(sheet, QStringLiteral("sheet-tries"), "tries",
      {{"1", tr("At once")}, {"30", tr("Searching, some seconds")}, {"150", tr("Searching long")}});
  m_grain->setObjectName(QStringLiteral("sheet-grain"));
  m_grain->setToolTip(tr("Pieces are then only turned about by half, never across."));
  sheet->body()->addWidget(m_grain);
  connect(m_grain, &QCheckBox::clicked, this,
      [this](bool on) { m_document.edit(tr("Grain"), [on](Build& next) { next.foam.turn_freely = !on; }); });
  m_held->setObjectName(QStringLiteral("held-release"));
  m_held->setToolTip(
      tr("Pieces dragged or held on the mat stay where they are; let go, they are laid out with the rest."));
  sheet->body()->addWidget(m_held);
  connect(m_held, &QPushButton::clicked, this,
      [this] { m_document.edit(tr("Let all go"), [](Build& next) { next.foam.held.clear(); }); });
  m_summary = sheet->addText({});
  m_summary->setObjectName(QStringLiteral("foam-summary"));
  m_summary->setProperty("figure", true);
}

void StockTray::makeOffcuts() {
  TrayGroup* group = m_station->addGroup(tr("Offcuts"));
  m_list->setObjectName(QStringLiteral("offcuts"));
  m_list->setAccessibleName(tr("Offcuts of this foam"));
  m_list->setToolTip(
      tr("Those that are ticked are cut up first, the smallest that holds something before the larger ones."));
  setTypeHeight(*m_list, 110, 110);
  m_list->setWordWrap(true);
  m_list->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
  group->body()->addWidget(m_list);
  connect(m_list, &QListWidget::itemChanged, this, &StockTray::useOffcut);
  group->body()->addWidget(m_keep);
  auto* keep = new QHBoxLayout;
  keep->addWidget(m_remove);
  keep->addWidget(m_bring);
  group->body()->addLayout(keep);
  m_name->setObjectName(QStringLiteral("offcut-name"));
  m_name->setAccessibleName(tr("What is written on it"));
  m_name->setPlaceholderText(tr("blue, from the crest"));
  group->addRow(tr("Name"), m_name);
  m_outline->setObjectName(QStringLiteral("offcut-outline"));
  m_outline->setAccessibleName(tr("Size or corners"));
  m_outline->setPlaceholderText(tr("300 x 200   or   0,0 300,0 280,150"));
  m_outline->setToolTip(tr("A rectangle, or the corners one after the other, measured from any place."));
  group->addRow(tr("Size"), m_outline);
  auto* put = new QHBoxLayout;
  put->addWidget(m_photo);
  put->addWidget(m_add);
  group->body()->addLayout(put);
  m_photo->setObjectName(QStringLiteral("offcut-photo"));
  m_photo->setToolTip(tr("Traces its outline on a photograph with a square of known side lying on it."));
  connect(m_photo, &QPushButton::clicked, this, &StockTray::photoWanted);
  const struct {
    QPushButton* button;
    const char* name;
    QString tip;
    void (StockTray::*press)();
  } buttons[] = {
      {m_keep, "offcut-keep",
          tr("Once this layout is cut: what is left of its sheets goes into the shop book with today's date."),
          &StockTray::keepLeftovers},
      {m_add, "offcut-add", tr("Puts an offcut of this foam and thickness into the shop book."), &StockTray::addOffcut},
      {m_remove, "offcut-remove", tr("Takes the offcut out of the shop book; it can be brought back."),
          &StockTray::removeOffcut}};
  for (const auto& b : buttons) {
    b.button->setObjectName(QLatin1String(b.name));
    b.button->setToolTip(b.tip);
    connect(b.button, &QPushButton::clicked, this, b.press);
  }
  m_bring->setObjectName(QStringLiteral("offcut-back"));
  m_bring->setToolTip(tr("The one taken out last."));
  connect(m_bring, &QPushButton::clicked, this, [this] {
    const auto book = m_book.get();
    if (!good(book) || m_removed.empty() || !good((*book)->restore_offcut(m_removed.back()))) return;
    m_removed.pop_back();
    renewBook();
  });
  m_said = group->addText({});
  m_said->setObjectName(QStringLiteral("offcut-said"));
}

template <class T>
bool StockTray::good(const Result<T>& result) {
  if (!result) m_said->setText(qs(result.error().text));
  return result.has_value();
}

void StockTray::renewBook() {
  const auto book = m_book.get();
  if (!good(book)) return;
  const auto kept = (*book)->offcuts();
  if (!good(kept)) return;
  m_kept = *kept;
  fillList(m_document.build());
}

void StockTray::fillList(const Build& build) {
  const QSignalBlocker quiet(m_list);
  m_list->clear();
  for (const Offcut& o : m_kept) {
    if (o.foam != build.foam.foam) continue;
    Vec2 high = Vec2::Zero();
    for (const Vec2& p : o.outline) high = high.cwiseMax(p);
    auto* item =
        new QListWidgetItem(tr("%1, %2 \u00d7 %3, %4 mm thick")
                                .arg(qs(o.name), qs(format_length(std::round(high.x()), build.shown, false)),
                                    qs(format_length(std::round(high.y()), build.shown)), qs(fixed(o.thickness_mm, 0))),
            m_list);
    if (o.kept.number > 0) item->setToolTip(tr("Kept since %1").arg(qs(o.kept.iso())));
    item->setData(Qt::UserRole, o.id);
    item->setFlags(item->flags() | Qt::ItemIsUserCheckable);
    const bool used = std::any_of(
        build.foam.offcuts.begin(), build.foam.offcuts.end(), [&](const Offcut& u) { return u.id == o.id; });
    item->setCheckState(used ? Qt::Checked : Qt::Unchecked);
  }
  m_remove->setEnabled(m_list->count() > 0);
  m_bring->setEnabled(!m_removed.empty());
}

void StockTray::useOffcut(QListWidgetItem* item) {
  const int id = item->data(Qt::UserRole).toInt();
  const auto offcut = std::find_if(m_kept.begin(), m_kept.end(), [&](const Offcut& o) { return o.id == id; });
  if (offcut == m_kept.end()) return;
  m_document.change(
      tr("Offcut"), [o = *offcut, use = item->checkState() == Qt::Checked](const Build& b) -> Result<Build> {
        Build next = b;
        std::erase_if(next.foam.offcuts, [&](const Offcut& u) { return u.id == o.id; });
        if (use) next.foam.offcuts.push_back(o);
        return next;
      });
}

void StockTray::addOffcut() {
  const Build& b = m_document.build();
  const auto outline = outline_from(m_outline->text(), b.shown);
  if (!good(outline)) return;
  const std::string name = m_name->text().trimmed().isEmpty() ? "offcut" : m_name->text().trimmed().toStdString();
  const auto book = m_book.get();
  if (!good(book) || !good((*book)->keep_offcut({0, name, b.foam.foam, b.foam.thickness_mm, *outline, today()})))
    return;
  m_name->clear(), m_outline->clear();
  m_said->setText(tr("\u201c%1\u201d is in the shop book. Tick it to cut this build from it.").arg(qs(name)));
  renewBook();
}

void StockTray::takeOutline(const std::vector<Vec2>& outline) {
  QStringList corners;
  for (const Vec2& p : outline) corners << qs(fixed(p.x(), 1) + "mm," + fixed(p.y(), 1) + "mm");
  m_outline->setText(corners.join(QLatin1Char(' ')));
  m_said->setText(tr("Traced with %1 corners. Name it and put it by.").arg(outline.size()));
  m_name->setFocus();
}

void StockTray::keepLeftovers() {
  if (!m_derived.layout || !m_derived.pieces) return;
  const Build& b = m_document.build();
  const auto left = leftovers(*m_derived.pieces, *m_derived.layout, b.foam.foam, b.foam.gap_mm);
  const auto book = m_book.get();
  if (!good(book)) return;
  for (Offcut o : left) {
    o.kept = today(), o.name = b.name + ", " + o.name;
    if (!good((*book)->keep_offcut(o))) return;
  }
  // What was cut up is gone.
  for (const Blank& blank : m_derived.layout->blanks)
    if (blank.offcut != 0)
      if (const auto gone = (*book)->remove_offcut(blank.offcut)) m_removed.push_back(blank.offcut);
  m_said->setText(left.empty() ? tr("Nothing larger than a hand's breadth is left.")
                               : tr("%1 offcuts are in the shop book.").arg(left.size()));
  renewBook();
}

void StockTray::removeOffcut() {
  const auto* item = m_list->currentItem();
  if (item == nullptr) return m_said->setText(tr("Choose an offcut in the list first."));
  const int id = item->data(Qt::UserRole).toInt();
  const auto book = m_book.get();
  if (!good(book) || !good((*book)->remove_offcut(id))) return;
  m_removed.push_back(id);
  m_document.change(tr("Offcut used up"), [id](const Build& b) -> Result<Build> {
    Build next = b;
    std::erase_if(next.foam.offcuts, [&](const Offcut& u) { return u.id == id; });
    return next;
  });
  renewBook();
}

void StockTray::show(const Build& build, const Derived& derived) {
  m_held->setVisible(!build.foam.held.empty());
  m_held->setText(tr("Let go the %n laid by hand", nullptr, static_cast<int>(build.foam.held.size())));
  m_derived = derived;
  {
    const QSignalBlocker quiet(m_size);
    m_size->clear();
    if (const auto foam = foam_of(build.foam, m_chain.materials()))
      for (const SoldSheet& s : foam->sold)
        if (std::abs(s.thickness_mm - build.foam.thickness_mm) < 0.05)
          m_size->addItem(tr("%1 \u00d7 %2, %3")
                              .arg(qs(format_length(s.width_mm, build.shown, false)),
                                  qs(format_length(s.height_mm, build.shown)), money(s.price)),
              QStringLiteral("%1x%2").arg(s.width_mm).arg(s.height_mm));
    m_size->setCurrentIndex(
        m_size->findData(QStringLiteral("%1x%2").arg(build.foam.sheet.width_mm).arg(build.foam.sheet.height_mm)));
    m_size->setPlaceholderText(tr("another size"));
  }
  m_fields->show(build);
  m_grain->setChecked(!build.foam.turn_freely);
  fillList(build);
  m_keep->setEnabled(derived.layout != nullptr);
  if (!derived.layout || !derived.pieces) return m_summary->setText(tr("No sheets yet."));
  const Layout& l = *derived.layout;
  const auto odd = std::count_if(l.blanks.begin(), l.blanks.end(), [](const Blank& b) { return b.offcut != 0; });
  const int fresh = l.sheets - static_cast<int>(odd);
  QString on = fresh == 1 ? tr("1 sheet") : tr("%1 sheets").arg(fresh);
  if (odd > 0)
    on = fresh == 0 ? (odd == 1 ? tr("1 offcut") : tr("%1 offcuts").arg(odd))
                    : on + (odd == 1 ? tr(" and 1 offcut") : tr(" and %1 offcuts").arg(odd));
  m_summary->setText(tr("%1 copies of %2 pieces on %3, %4 % of it used")
                         .arg(l.placements.size())
                         .arg(derived.pieces->size())
                         .arg(on, qs(fixed(100.0 * l.density, 0))));
}

}  // namespace awl
