#include "app/shell/finder.hpp"

#include <QAbstractButton>
#include <QAbstractSpinBox>
#include <QComboBox>
#include <QKeyEvent>
#include <QSlider>
#include <QVBoxLayout>
#include <algorithm>
#include <utility>

namespace awl {
namespace {

constexpr int kWide = 520, kTall = 420;

/// What a maker would call it; empty for what is no control of its own.
QString nameOf(const QWidget& w) {
  const QString id = w.objectName();
  if (id.isEmpty() || id.startsWith(QLatin1String("qt_")) || id.startsWith(QLatin1String("tab-")) ||
      id.startsWith(QLatin1String("group-")))
    return {};
  if (const auto* button = qobject_cast<const QAbstractButton*>(&w))
    return button->text().isEmpty() ? button->accessibleName() : button->text().remove(QLatin1Char('&'));
  const bool control = qobject_cast<const QLineEdit*>(&w) != nullptr || qobject_cast<const QComboBox*>(&w) != nullptr ||
      qobject_cast<const QAbstractSpinBox*>(&w) != nullptr || qobject_cast<const QAbstractItemView*>(&w) != nullptr ||
      qobject_cast<const QSlider*>(&w) != nullptr;
  return control ? w.accessibleName() : QString();
}

/// Whether it is wanted where it lies; what is folded away is.
bool isWanted(const QWidget& control, const QWidget& station) {
  for (const QWidget* w = &control; w != nullptr && w != &station; w = w->parentWidget()) {
    const QWidget* in = w->parentWidget();
    const bool folded = w != &control && qobject_cast<const TrayGroup*>(in) != nullptr;
    const bool drawer = qobject_cast<const QStackedWidget*>(in) != nullptr;
    if (w->isHidden() && !folded && !drawer) return false;
  }
  return true;
}

/// How near a name comes to what was typed: it is that, begins so, has a word that begins so, has it inside, or only
/// its tip or its place has it.
int distanceOf(const QString& name, const QString& typed) {
  if (name.compare(typed, Qt::CaseInsensitive) == 0) return 0;
  if (name.startsWith(typed, Qt::CaseInsensitive)) return 1;
  if (name.contains(QLatin1Char(' ') + typed, Qt::CaseInsensitive)) return 2;
  return name.contains(typed, Qt::CaseInsensitive) ? 3 : 4;
}

}  // namespace

Finder::Finder(std::vector<Station*> stations, QWidget* parent)
    : EyeDialog(parent), m_stations(std::move(stations)), m_words(new QLineEdit(this)), m_list(new QListWidget(this)),
      m_said(new QLabel(this)) {
  setObjectName(QStringLiteral("finder"));
  setWindowTitle(tr("Where is it set?"));
  resize(kWide, kTall);
  auto* column = new QVBoxLayout(this);
  m_words->setObjectName(QStringLiteral("finder-words"));
  m_words->setAccessibleName(tr("What you want to set or do"));
  m_words->setToolTip(tr("All the words must be in its name, its tip or its place."));
  m_words->setPlaceholderText(tr("hours, lens, eye holes, print"));
  m_words->setClearButtonEnabled(true);
  m_words->installEventFilter(this);
  m_list->setObjectName(QStringLiteral("finder-list"));
  m_list->setAccessibleName(tr("Places that have it"));
  m_list->setUniformItemSizes(true);
  m_list->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
  m_said->setObjectName(QStringLiteral("finder-said"));
  m_said->setProperty("quiet", true);
  m_said->setWordWrap(true);
  column->addWidget(m_words);
  column->addWidget(m_list, 1);
  column->addWidget(m_said);
  connect(m_words, &QLineEdit::textChanged, this, &Finder::search);
  connect(m_words, &QLineEdit::returnPressed, this, &Finder::take);
  connect(m_list, &QListWidget::itemActivated, this, &Finder::take);
  connect(m_list, &QListWidget::itemClicked, this, &Finder::take);
  renew();
}

void Finder::collect(Station* station) {
  for (QWidget* w : station->findChildren<QWidget*>()) {
    const QString name = nameOf(*w);
    if (name.isEmpty() || !isWanted(*w, *station)) continue;
    QString where = station->word();
    if (const QString drawer = station->drawers().wordOf(w); !drawer.isEmpty()) where += tr(", %1").arg(drawer);
    QString group;
    for (const QWidget* in = w->parentWidget(); in != nullptr && in != station; in = in->parentWidget())
      if (const auto* tray = qobject_cast<const TrayGroup*>(in)) group = tray->title();
    m_places.push_back(
        {station, w, name, QStringList{name, w->toolTip(), where, group}.join(QLatin1Char('\n')), where});
  }
}

void Finder::renew() {
  m_places.clear();
  for (Station* station : m_stations) collect(station);
  search();
}

void Finder::search() {
  const QString typed = m_words->text().simplified();
  const QStringList words = typed.split(QLatin1Char(' '), Qt::SkipEmptyParts);
  const auto has = [&](const Place& p) {
    return std::all_of(
        words.begin(), words.end(), [&](const QString& word) { return p.words.contains(word, Qt::CaseInsensitive); });
  };
  std::vector<int> found;
  if (!words.isEmpty())
    for (std::size_t i = 0; i < m_places.size(); ++i)
      if (has(m_places[i])) found.push_back(static_cast<int>(i));
  std::stable_sort(found.begin(), found.end(),
      [&](int a, int b) { return distanceOf(m_places[a].name, typed) < distanceOf(m_places[b].name, typed); });
  const QListWidgetItem* before = m_list->currentItem();
  const QString kept = before != nullptr ? before->text() : QString();
  m_list->clear();
  for (const int i : found) {
    const Place& p = m_places[i];
    auto* item = new QListWidgetItem(QStringLiteral("%1   (%2)").arg(p.name, p.where), m_list);
    item->setData(Qt::UserRole, i);
    if (p.control != nullptr) item->setToolTip(p.control->toolTip());
  }
  if (m_list->count() > 0) m_list->setCurrentRow(0);
  // What was chosen stays chosen while trays are filled; other words begin anew.
  if (std::exchange(m_searched, typed) == typed)
    for (int row = 0; row < m_list->count(); ++row)
      if (m_list->item(row)->text() == kept) m_list->setCurrentRow(row);
  m_said->setText(words.isEmpty() ? tr("A word or two of what you want to set or do.")
          : found.empty()         ? tr("Nothing at the stations is called that, or says so in its tip.")
                                  : tr("Enter goes there."));
}

void Finder::take() {
  const QListWidgetItem* item = m_list->currentItem();
  if (item == nullptr) return;
  const Place p = m_places[static_cast<std::size_t>(item->data(Qt::UserRole).toInt())];
  if (p.control == nullptr) return renew();  // its tray was filled anew meanwhile
  accept();
  emit chosen(p.station, p.control, p.name);
}

bool Finder::eventFilter(QObject* watched, QEvent* event) {
  if (watched == m_words && event->type() == QEvent::KeyPress) {
    const int key = static_cast<QKeyEvent*>(event)->key();
    const int by = key == Qt::Key_Down ? 1 : key == Qt::Key_Up ? -1 : 0;
    if (by != 0 && m_list->count() > 0) {
      m_list->setCurrentRow(std::clamp(m_list->currentRow() + by, 0, m_list->count() - 1));
      return true;
    }
  }
  return EyeDialog::eventFilter(watched, event);
}

}  // namespace awl
