#include "app/desk/preferences.hpp"

#include <QCheckBox>
#include <QComboBox>
#include <QDialogButtonBox>
#include <QDoubleSpinBox>
#include <QFileDialog>
#include <QFileInfo>
#include <QFormLayout>
#include <QLineEdit>
#include <QLocale>
#include <QPushButton>
#include <QSettings>
#include <QVBoxLayout>
#include <filesystem>

#include "app/desk/book.hpp"
#include "core/base/data_files.hpp"
#include "print/language.hpp"
#include "print/text.hpp"

namespace awl {
namespace {

constexpr double kLeastRate = 0.0, kMostRate = 1000.0;
constexpr double kLeastHours = 0.5, kMostHours = 16.0, kLatestOpening = 20.0;

constexpr int kMostSign = 4;
const QStringList kPapers{QStringLiteral("a4"), QStringLiteral("a3"), QStringLiteral("letter")};

double between(double value, double least, double most, double usual) {
  return value >= least && value <= most ? value : usual;
}

}  // namespace

void Preferences::keepFromOthers() {
  const std::filesystem::path file = QSettings().fileName().toStdString();
  if (make_folder(file.parent_path())) keep_from_others(file);
}

Preferences Preferences::load() {
  const Preferences usual;
  Preferences p;
  const QSettings kept;
  const auto value = [&](const char* key, const QVariant& without) {
    return kept.value(QStringLiteral("prefs/") + QLatin1String(key), without);
  };
  p.unit = unit_from_symbol(value("unit", QLatin1String(symbol_of(usual.unit))).toString().toStdString())
               .value_or(usual.unit);
  p.language = value("language", QString()).toString();
  p.dark = value("dark", usual.dark).toBool();
  // Before there were four sizes there was one large one.
  const int type = value("type", value("large", false).toBool() ? kTypeSizes[1] : usual.type).toInt();
  if (std::find(kTypeSizes.begin(), kTypeSizes.end(), type) != kTypeSizes.end()) p.type = type;
  p.still = value("still", usual.still).toBool(), p.next = value("next", usual.next).toBool();
  if (const QString paper = value("paper", usual.paper).toString(); kPapers.contains(paper)) p.paper = paper;
  p.money = value("money", usual.money).toString().left(kMostSign);
  p.book = value("book", usual.book).toString();
  p.rate = between(value("rate", usual.rate).toDouble(), kLeastRate, kMostRate, usual.rate);
  p.hours_a_day =
      between(value("hours-a-day", usual.hours_a_day).toDouble(), kLeastHours, kMostHours, usual.hours_a_day);
  p.opens_h = between(value("opens", usual.opens_h).toDouble(), 0.0, kLatestOpening, usual.opens_h);
  const QString days = value("open-on", QStringLiteral("1111111")).toString();
  for (int i = 0; i < 7 && days.size() == 7 && days.contains(QLatin1Char('1')); ++i)
    p.open_on[static_cast<std::size_t>(i)] = days[i] == QLatin1Char('1');
  return p;
}

bool Preferences::save() const {
  QSettings kept;
  const auto put = [&](const char* key, const QVariant& value) {
    kept.setValue(QStringLiteral("prefs/") + QLatin1String(key), value);
  };
  QString days;
  for (const bool open : open_on) days += open ? QLatin1Char('1') : QLatin1Char('0');
  put("language", language);
  put("unit", QLatin1String(symbol_of(unit))), put("dark", dark), put("type", type), put("rate", rate);
  if (next && !kept.value(QStringLiteral("prefs/next"), true).toBool()) kept.remove(kIgnoredKey);
  put("still", still), put("next", next), put("paper", paper), put("money", money), put("book", book);
  put("hours-a-day", hours_a_day), put("opens", opens_h), put("open-on", days);
  kept.sync();
  return kept.status() == QSettings::NoError;
}

void Preferences::give(Build& build) const {
  build.shown = unit;
  build.coat.rates.rate = rate;
  build.coat.hours_a_day = hours_a_day, build.coat.opens_h = opens_h, build.coat.open_on = open_on;
}

namespace {

void addNamed(QFormLayout& form, const char* name, const QString& label, const QString& tip, QWidget* control) {
  control->setObjectName(QLatin1String(name));
  control->setAccessibleName(label);
  control->setToolTip(tip);
  form.addRow(label, control);
}

QWidget* daysOf(const Preferences& now, QWidget* parent) {
  auto* days = new QWidget(parent);
  auto* row = new QHBoxLayout(days);
  row->setContentsMargins(0, 0, 0, 0);
  for (int i = 0; i < 7; ++i) {
    auto* day = new QCheckBox(spokenLocale().dayName(i + 1, QLocale::ShortFormat), days);
    day->setObjectName(QStringLiteral("prefs-day-%1").arg(i + 1));
    day->setAccessibleName(spokenLocale().dayName(i + 1));
    day->setToolTip(PreferencesDialog::tr("Whether you work on that day."));
    day->setChecked(now.open_on[static_cast<std::size_t>(i)]);
    row->addWidget(day);
  }
  return days;
}

void addBookPlace(QFormLayout& form, QWidget* parent) {
  auto* book = new QLineEdit(QFileInfo(Book::path()).absolutePath(), parent);
  book->setCursorPosition(0);
  addNamed(form, "prefs-book", PreferencesDialog::tr("The shop book is in"),
      PreferencesDialog::tr(
          "A folder; the book is copied there if none lies there yet, and the one before stays. Empty: the usual "
          "place."),
      book);
  auto* look = new QPushButton(PreferencesDialog::tr("Choose a folder\u2026"), parent);
  look->setObjectName(QStringLiteral("prefs-book-choose"));
  look->setAccessibleName(look->text());
  look->setToolTip(PreferencesDialog::tr("Where the shop book is to be kept."));
  QObject::connect(look, &QPushButton::clicked, parent, [parent, book] {
    const QString folder =
        QFileDialog::getExistingDirectory(parent, PreferencesDialog::tr("The shop book is in"), book->text());
    if (!folder.isEmpty()) book->setText(folder);
  });
  form.addRow(QString(), look);
}

}  // namespace

PreferencesDialog::PreferencesDialog(const Preferences& now, QWidget* parent) : EyeDialog(parent) {
  setObjectName(QStringLiteral("preferences"));
  setWindowTitle(tr("Preferences"));
  auto* column = new QVBoxLayout(this);
  auto* form = new QFormLayout;
  const auto add = [form](const char* name, const QString& label, const QString& tip, QWidget* control) {
    addNamed(*form, name, label, tip, control);
  };
  auto* languages = new QComboBox(this);
  languages->addItem(QStringLiteral("English"), QString());
  for (const Language::Choice& choice : Language::choices()) languages->addItem(choice.name, choice.code);
  languages->setCurrentIndex(std::max(0, languages->findData(now.language)));
  add("prefs-language", tr("Language"),
      tr("From the next start on. What the judgements say is English where no words are known."), languages);
  auto* units = new QComboBox(this);
  for (const LengthUnit u : {LengthUnit::mm, LengthUnit::cm, LengthUnit::inch})
    units->addItem(QLatin1String(symbol_of(u)), static_cast<int>(u));
  units->setCurrentIndex(units->findData(static_cast<int>(now.unit)));
  add("prefs-unit", tr("Lengths of new builds"), tr("Any unit may be typed at any time."), units);
  const auto check = [&](const char* name, const QString& label, const QString& tip, bool on) {
    auto* box = new QCheckBox(this);
    box->setChecked(on);
    add(name, label, tip, box);
  };
  auto* types = new QComboBox(this);
  for (const int size : kTypeSizes) types->addItem(size == 100 ? tr("as usual") : tr("%1 %").arg(size), size);
  types->setCurrentIndex(std::max(0, types->findData(now.type)));
  add("prefs-type", tr("Type"), tr("Larger is read from a step away; twice as large wants a wide window."), types);
  check("prefs-dark", tr("Evening light"), tr("A dark bench for a dark room."), now.dark);
  check("prefs-still", tr("No motion"),
      tr("What would play is shown in a few still pictures. Also where the desktop asks for it."), now.still);
  check("prefs-next", tr("Say what comes next"),
      tr("In the line below, where nothing is wrong. Switched on again, it also says what was left out for good."),
      now.next);
  auto* papers = new QComboBox(this);
  for (const auto& [name, id] :
      {std::pair(QStringLiteral("A4"), "a4"), {QStringLiteral("A3"), "a3"}, {QStringLiteral("Letter"), "letter"}})
    papers->addItem(name, QLatin1String(id));
  papers->setCurrentIndex(std::max(0, papers->findData(now.paper)));
  add("prefs-paper", tr("Paper"), tr("What printing begins with."), papers);
  const auto number = [&](const char* name, const QString& label, const QString& tip, double value, double least,
                          double most, double step) {
    auto* box = new QDoubleSpinBox(this);
    box->setRange(least, most);
    box->setSingleStep(step);
    box->setValue(value);
    add(name, label, tip, box);
  };
  auto* sign = new QLineEdit(now.money, this);
  sign->setMaxLength(kMostSign);
  add("prefs-money", tr("Money is written in"), tr("A sign or a word of four letters at most; empty: amounts alone."),
      sign);
  number("prefs-rate", tr("Your hour costs"), tr("In your own money; quotes of new builds begin with it."), now.rate,
      kLeastRate, kMostRate, 1.0);
  number("prefs-hours", tr("Hours at the bench, a day"), tr("Plans of new builds begin with it."), now.hours_a_day,
      kLeastHours, kMostHours, 0.5);
  number("prefs-opens", tr("From, o'clock"), tr("When you begin of a day."), now.opens_h, 0.0, kLatestOpening, 0.5);
  form->addRow(tr("Working days"), daysOf(now, this));
  addBookPlace(*form, this);
  column->addLayout(form);
  auto* buttons = new QDialogButtonBox(QDialogButtonBox::Ok | QDialogButtonBox::Cancel, this);
  connect(buttons, &QDialogButtonBox::accepted, this, &QDialog::accept);
  connect(buttons, &QDialogButtonBox::rejected, this, &QDialog::reject);
  column->addWidget(buttons);
}

Preferences PreferencesDialog::chosen() const {
  const auto checked = [this](const QString& name) { return findChild<QCheckBox*>(name)->isChecked(); };
  const auto number = [this](const char* name) { return findChild<QDoubleSpinBox*>(QLatin1String(name))->value(); };
  Preferences p;
  p.unit = static_cast<LengthUnit>(findChild<QComboBox*>(QStringLiteral("prefs-unit"))->currentData().toInt());
  p.language = findChild<QComboBox*>(QStringLiteral("prefs-language"))->currentData().toString();
  p.type = findChild<QComboBox*>(QStringLiteral("prefs-type"))->currentData().toInt();
  p.dark = checked(QStringLiteral("prefs-dark"));
  p.still = checked(QStringLiteral("prefs-still")), p.next = checked(QStringLiteral("prefs-next"));
  p.paper = findChild<QComboBox*>(QStringLiteral("prefs-paper"))->currentData().toString();
  p.money = findChild<QLineEdit*>(QStringLiteral("prefs-money"))->text().trimmed();
  p.book = findChild<QLineEdit*>(QStringLiteral("prefs-book"))->text().trimmed();
  if (p.book == QFileInfo(Book::usualPath()).absolutePath()) p.book.clear();
  p.rate = number("prefs-rate"), p.hours_a_day = number("prefs-hours"), p.opens_h = number("prefs-opens");
  for (int i = 0; i < 7; ++i)
    p.open_on[static_cast<std::size_t>(i)] = checked(QStringLiteral("prefs-day-%1").arg(i + 1));
  // A week without any day would leave a plan nowhere to go.
  if (std::none_of(p.open_on.begin(), p.open_on.end(), [](bool open) { return open; }))
    p.open_on = Preferences{}.open_on;
  return p;
}

}  // namespace awl
