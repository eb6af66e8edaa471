#include "app/shell/start_page.hpp"

#include <QButtonGroup>
#include <QCompleter>
#include <QFileInfo>
#include <QFormLayout>
#include <QHBoxLayout>
#include <QKeyEvent>
#include <QRegularExpression>
#include <QToolButton>
#include <QVBoxLayout>

#include "app/desk/recent.hpp"
#include "app/widgets/drawers.hpp"
#include "app/widgets/theme.hpp"
#include "app/widgets/picture_file.hpp"
#include "core/base/data_files.hpp"
#include "core/base/numbers.hpp"
#include "core/io/build_file.hpp"
#include "print/text.hpp"

namespace awl {
namespace {

constexpr QSize kTile(116, 116), kRecentTile(84, 84);
constexpr int kWishWidth = 372, kRecentHeight = 128;
constexpr int kUsualDays = 14;

QString dataPath(const char* below) { return QString::fromStdString((data_folder() / below).string()); }

QIcon startPicture(const std::string& id) {
  const QPixmap picture(dataPath("starts") + QStringLiteral("/") + QString::fromStdString(id) + QStringLiteral(".png"));
  return picture.isNull() ? QIcon() : QIcon(picture.scaled(2 * kTile, Qt::KeepAspectRatio, Qt::SmoothTransformation));
}

Day dayOf(const QDate& date) { return Day{static_cast<int>(QDate(1970, 1, 1).daysTo(date))}; }

/// "58,2" on no tape is millimetres: a bare number is taken in the only unit a head has it in, and shown with it.
double inTheUnitOfHeads(MeasureId id, double mm, LengthField& field) {
  if (field.text().contains(QRegularExpression(QStringLiteral("[a-zA-Z\"]"))) || check_possible(id, mm)) return mm;
  for (const auto& [times, unit] : {std::pair(10.0, LengthUnit::cm), std::pair(25.4, LengthUnit::inch)})
    if (check_possible(id, mm * times)) {
      field.showValue(mm * times, unit);
      return mm * times;
    }
  return mm;
}

}  // namespace

StartPage::StartPage(const Chain& chain, Book& book, QWidget* parent)
    : QWidget(parent), m_chain(chain), m_book(book), m_starts(new QListWidget(this)), m_recent(new QListWidget(this)),
      m_chosen(new QLabel(this)), m_known(new QLabel(this)), m_words(new QLabel(this)), m_recentWords(new QLabel(this)),
      m_wearer(new QComboBox(this)), m_foam(new QComboBox(this)), m_thickness(new QComboBox(this)),
      m_due(new QDateEdit(this)), m_go(new QPushButton(tr("Start it"), this)),
      m_back(new QPushButton(tr("Back to the bench"), this)) {
  setObjectName(QStringLiteral("start-page"));
  auto* column = new QVBoxLayout(this);
  column->setContentsMargins(26, 16, 26, 14);
  column->setSpacing(10);
  auto* head = new QHBoxLayout;
  auto* title = new QLabel(tr("What is it to be?"), this);
  title->setProperty("startTitle", true);
  head->addWidget(title);
  head->addStretch(1);
  m_back->setObjectName(QStringLiteral("start-back"));
  m_back->setToolTip(tr("The build that is open stays as it is."));
  m_back->setAccessibleName(m_back->text());
  connect(m_back, &QPushButton::clicked, this, &StartPage::backWanted);
  head->addWidget(m_back);
  column->addLayout(head);
  auto* row = new QHBoxLayout;
  row->setSpacing(18);
  row->addWidget(makeChoice(), 1);
  row->addWidget(makeWish());
  column->addLayout(row, 1);
  column->addWidget(makeRecent());
  fitType();
}

QWidget* StartPage::makeChoice() {
  auto* box = new QWidget(this);
  auto* column = new QVBoxLayout(box);
  column->setContentsMargins(0, 0, 0, 0);
  auto* words = new QWidget(box);
  words->setProperty("drawerWords", true);
  auto* rows = new RowsLayout(4);
  rows->setContentsMargins(0, 0, 0, 4);
  words->setLayout(rows);
  auto* group = new QButtonGroup(box);
  const auto add = [&](const QString& text, const QString& thing) {
    auto* word = new QToolButton(words);
    word->setText(text);
    word->setObjectName(QStringLiteral("start-thing-") +
        (thing.isEmpty() ? QStringLiteral("All") : thing).toLower().replace(QLatin1Char(' '), QLatin1Char('-')));
    word->setCheckable(true);
    word->setProperty("drawerWord", true);
    word->setToolTip(thing.isEmpty() ? tr("Every ready start.") : tr("Ready starts for %1.").arg(text.toLower()));
    word->setAccessibleName(text);
    group->addButton(word);
    rows->addWidget(word);
    connect(word, &QToolButton::clicked, this, [this, thing] { showThing(thing); });
    if (thing.isEmpty()) word->setChecked(true);
  };
  add(tr("All"), {});
  for (const std::string& thing : things())
    if (thing != "Covers and linings") add(qs(thing), QString::fromStdString(thing));
  column->addWidget(words);
  m_starts->setObjectName(QStringLiteral("start-list"));
  m_starts->setAccessibleName(tr("What it is to be"));
  m_starts->setToolTip(tr("A ready start to change as you like; more parts can be put on it later."));
  m_starts->setViewMode(QListView::IconMode);
  m_starts->setResizeMode(QListView::Adjust);
  m_starts->setMovement(QListView::Static);
  m_starts->setIconSize(kTile);
  m_starts->setTextElideMode(Qt::ElideNone);
  m_starts->setWordWrap(true);
  connect(m_starts, &QListWidget::currentRowChanged, this, &StartPage::renewStart);
  connect(m_starts, &QListWidget::itemDoubleClicked, this, &StartPage::start);
  column->addWidget(m_starts, 1);
  return box;
}

void StartPage::addMeasures(QFormLayout& form) {
  const std::tuple<MeasureId, const char*, QString> asked[]{{MeasureId::HC, "start-hc", tr("Round the head")},
      {MeasureId::TOP, "start-top", tr("Ear to ear over the top")}, {MeasureId::BNA, "start-bna", tr("Brow to nape")}};
  for (const auto& [id, object, label] : asked) {
    auto* field = new LengthField(QLatin1String(object), label, QString::fromLatin1(facts_of(id).how), this);
    field->setPlaceholderText(tr("average"));
    connect(field, &LengthField::entered, this,
        [this, id = id, field](double mm) { m_typed[id] = inTheUnitOfHeads(id, mm, *field); });
    connect(field, &LengthField::emptied, this, [this, id = id] { m_typed.erase(id); });
    connect(field, &LengthField::sentenceChanged, m_words, &QLabel::setText);
    form.addRow(label, field);
    m_measures.push_back({id, field});
  }
}

QWidget* StartPage::makeWish() {
  auto* box = new QWidget(this);
  box->setObjectName(QStringLiteral("start-wish"));
  auto* column = new QVBoxLayout(box);
  column->setContentsMargins(0, 0, 0, 0);
  column->setSpacing(8);
  m_chosen->setObjectName(QStringLiteral("start-chosen"));
  m_chosen->setWordWrap(true);
  m_chosen->setTextFormat(Qt::RichText);
  column->addWidget(m_chosen);
  auto* form = new QFormLayout;
  form->setFieldGrowthPolicy(QFormLayout::ExpandingFieldsGrow);
  form->setRowWrapPolicy(QFormLayout::WrapLongRows);
  const auto name = [](QWidget* w, const char* id, const QString& accessible, const QString& tip) {
    w->setObjectName(QLatin1String(id));
    w->setAccessibleName(accessible);
    w->setToolTip(tip);
  };
  name(m_wearer, "start-wearer", tr("For whom"),
      tr("Somebody from the book, with their measures, or a new name. Empty: an average adult, until you measure."));
  m_wearer->setEditable(true);
  m_wearer->setSizePolicy(QSizePolicy::Expanding, QSizePolicy::Fixed);
  m_wearer->setInsertPolicy(QComboBox::NoInsert);
  m_wearer->lineEdit()->setPlaceholderText(tr("anybody; or a name"));
  m_wearer->lineEdit()->setAccessibleName(tr("For whom"));
  m_wearer->lineEdit()->setToolTip(m_wearer->toolTip());
  connect(m_wearer, &QComboBox::editTextChanged, this, &StartPage::renewWearer);
  form->addRow(tr("For whom"), m_wearer);
  addMeasures(*form);
  m_known->setObjectName(QStringLiteral("start-known"));
  m_known->setWordWrap(true);
  m_known->setProperty("quiet", true);
  form->addRow(m_known);
  name(m_foam, "start-foam", tr("Material at hand"),
      tr("What you have, or mean to buy. Each part can be of its own later."));
  for (const Foam& foam : m_chain.materials().foams)
    if (foam.kind == SheetKind::foam || foam.kind == SheetKind::block || foam.kind == SheetKind::thermoplastic ||
        foam.kind == SheetKind::rigid || foam.kind == SheetKind::card)
      m_foam->addItem(qs(foam.name), QString::fromStdString(foam.id));
  m_foam->setCurrentIndex(std::max(0, m_foam->findData(QStringLiteral("eva-firm"))));
  connect(m_foam, &QComboBox::currentIndexChanged, this, &StartPage::renewThickness);
  form->addRow(tr("Of"), m_foam);
  name(m_thickness, "start-thickness", tr("Thickness"), tr("Of the sheet at hand."));
  form->addRow(tr("Thick"), m_thickness);
  name(m_due, "start-due", tr("Ready by"), tr("The plan counts back from this day."));
  m_due->setCalendarPopup(true);
  m_due->setLocale(spokenLocale());
  m_due->setDisplayFormat(QStringLiteral("d MMM yyyy"));
  form->addRow(tr("Ready by"), m_due);
  column->addLayout(form);
  m_words->setObjectName(QStringLiteral("start-words"));
  m_words->setProperty("sentence", true);
  m_words->setWordWrap(true);
  column->addWidget(m_words);
  column->addStretch(1);
  name(m_go, "start-go", m_go->text(), tr("Opens the bench with it; nothing here is final."));
  m_go->setProperty("act", true);
  m_go->setMinimumHeight(46);
  m_go->setDefault(true);
  connect(m_go, &QPushButton::clicked, this, &StartPage::start);
  column->addWidget(m_go);
  auto* caution = new QLabel(tr("A costume is no helmet: nothing made with this protects a head."), box);
  caution->setProperty("quiet", true);
  caution->setWordWrap(true);
  column->addWidget(caution);
  renewThickness();
  return box;
}

QWidget* StartPage::makeRecent() {
  auto* box = new QWidget(this);
  auto* column = new QVBoxLayout(box);
  column->setContentsMargins(0, 0, 0, 0);
  column->setSpacing(4);
  auto* row = new QHBoxLayout;
  m_recentWords->setProperty("figure", true);
  row->addWidget(m_recentWords);
  row->addStretch(1);
  const auto add = [&](const char* id, const QString& text, const QString& tip, void (StartPage::*signal)()) {
    auto* button = new QPushButton(text, box);
    button->setObjectName(QLatin1String(id));
    button->setAccessibleName(text);
    button->setToolTip(tip);
    connect(button, &QPushButton::clicked, this, signal);
    row->addWidget(button);
  };
  add("start-open", tr("Open a file\u2026"), tr("A build saved before, wherever it is."), &StartPage::browseWanted);
  add("start-gallery", tr("Look at the demos\u2026"), tr("Ten made-up builds to try everything on."),
      &StartPage::galleryWanted);
  column->addLayout(row);
  m_recent->setObjectName(QStringLiteral("start-recent"));
  m_recent->setAccessibleName(tr("Builds worked on of late"));
  m_recent->setToolTip(tr("Press Enter or click twice to go on with one."));
  m_recent->setViewMode(QListView::IconMode);
  m_recent->setFlow(QListView::LeftToRight);
  m_recent->setWrapping(false);
  m_recent->setMovement(QListView::Static);
  m_recent->setIconSize(kRecentTile);
  m_recent->setTextElideMode(Qt::ElideMiddle);
  connect(m_recent, &QListWidget::itemActivated, this,
      [this](const QListWidgetItem* item) { emit openWanted(item->data(Qt::UserRole).toString()); });
  column->addWidget(m_recent);
  return box;
}

/// Tiles and columns as wide as the words in them want.
void StartPage::fitType() {
  const double more = typeScale(*this) - 1.0;
  const auto grown = [more](int px, double share) { return static_cast<int>(px * (1.0 + share * more)); };
  m_starts->setGridSize({grown(kTile.width() + 17, 0.62), kTile.height() + grown(48, 1.0)});
  m_recent->setGridSize({grown(kRecentTile.width() + 60, 0.62), kRecentTile.height() + grown(26, 1.0)});
  m_recent->setFixedHeight(kRecentTile.height() + grown(kRecentHeight - kRecentTile.height(), 1.0));
  if (auto* wish = findChild<QWidget*>(QStringLiteral("start-wish"))) wish->setFixedWidth(grown(kWishWidth, 0.5));
}

void StartPage::changeEvent(QEvent* event) {
  QWidget::changeEvent(event);
  if (event->type() == QEvent::FontChange || event->type() == QEvent::StyleChange) fitType();
}

void StartPage::showThing(const QString& thing) {
  const QString before = m_starts->currentItem() != nullptr ? m_starts->currentItem()->data(Qt::UserRole).toString()
                                                            : QStringLiteral("hood");
  m_starts->clear();
  const auto add = [&](const std::string& id, const std::string& label, const std::string& tip) {
    auto* item = new QListWidgetItem(startPicture(id), qs(label), m_starts);
    item->setData(Qt::UserRole, QString::fromStdString(id));
    item->setToolTip(qs(tip));
    item->setTextAlignment(Qt::AlignHCenter | Qt::AlignTop);
  };
  for (const std::string& of : things())
    for (const PartPreset* p : first_starts())
      if (p->thing == of && (thing.isEmpty() || thing.toStdString() == of)) add(p->id, p->label, p->tip);
  if (thing.isEmpty()) add(kHeadformStart, "Headform", "The head itself in foam, to build on.");
  int row = 0;
  for (int i = 0; i < m_starts->count(); ++i)
    if (m_starts->item(i)->data(Qt::UserRole).toString() == before) row = i;
  m_starts->setCurrentRow(row);
}

void StartPage::renewStart() {
  const QListWidgetItem* item = m_starts->currentItem();
  m_go->setEnabled(item != nullptr);
  if (item == nullptr) return;
  m_chosen->setText(QStringLiteral("<b style='font-size:large'>%1</b><br>%2")
                        .arg(item->text().toHtmlEscaped(), item->toolTip().toHtmlEscaped()));
}

void StartPage::renewWearer() {
  m_sheet.reset();
  const QString typed = m_wearer->currentText().trimmed();
  if (const int at = m_wearer->findText(typed); at >= 0 && m_wearer->itemData(at).isValid())
    if (const auto book = m_book.get())
      if (const auto sheets = (*book)->sheets(m_wearer->itemData(at).toInt()); sheets && !sheets->empty())
        m_sheet = sheets->front().sheet;
  for (const auto& [id, field] : m_measures) {
    field->setEnabled(!m_sheet);
    if (!m_sheet) continue;
    const auto known = m_sheet->head.find(id);
    field->showValue(
        known != m_sheet->head.end() ? std::optional(known->second.mean_mm()) : std::nullopt, LengthUnit::mm);
  }
  m_known->setText(m_sheet
          ? tr("%n measure(s) from the book.", nullptr, static_cast<int>(m_sheet->head.size()))
          : tr("As you read them: 57 cm, 22 1/2 in, 570. Three are enough to see it; more make it sit."));
}

void StartPage::renewThickness() {
  const auto foam = m_chain.materials().foam(m_foam->currentData().toString().toStdString());
  m_thickness->clear();
  if (!foam) return;
  for (const double mm : foam->thickness_mm)
    m_thickness->addItem(tr("%1 mm").arg(QString::fromStdString(fixed(mm, mm == std::round(mm) ? 0 : 1))), mm);
  constexpr double kUsualMm = 5.0;
  int best = 0;
  for (int i = 1; i < m_thickness->count(); ++i)
    if (std::abs(m_thickness->itemData(i).toDouble() - kUsualMm) <
        std::abs(m_thickness->itemData(best).toDouble() - kUsualMm))
      best = i;
  m_thickness->setCurrentIndex(best);
}

void StartPage::renew(bool back) {
  m_offersBack = back;
  m_back->setVisible(back);
  if (m_starts->count() == 0) showThing({});  // its pictures are read when they are first wanted
  const QSignalBlocker quiet(m_wearer);
  const QString typed = m_wearer->currentText();
  m_wearer->clear();
  if (const auto book = m_book.get())
    if (const auto all = (*book)->wearers())
      for (const BookWearer& w : *all) m_wearer->addItem(QString::fromStdString(w.name), w.id);
  m_wearer->setEditText(typed);
  m_due->setDate(QDate::currentDate().addDays(kUsualDays));
  m_recent->clear();
  QPixmap blank(kRecentTile);
  blank.fill(palette().color(QPalette::AlternateBase));
  for (const QString& path : Recent::list()) {
    const QFileInfo file(path);
    QPixmap picture = blank;
    if (file.exists())
      if (const auto png = picture_in_build(path.toStdString())) {
        if (const auto read = pictureFrom(QByteArray::fromStdString(*png), {}, 3 * kRecentTile.width()))
          picture = QPixmap::fromImage(*read);
      }
    auto* item = new QListWidgetItem(QIcon(picture), file.completeBaseName(), m_recent);
    item->setData(Qt::UserRole, path);
    item->setTextAlignment(Qt::AlignHCenter);
    item->setToolTip(file.exists() ? path : tr("%1 is not there now.").arg(path));
  }
  const bool any = m_recent->count() > 0;
  m_recent->setVisible(any);
  m_recentWords->setText(any ? tr("Go on with") : tr("What you save is listed here, to go on with."));
  m_words->clear();
  renewWearer();
  m_starts->setFocus();
}

FreshBuild StartPage::wish() const {
  FreshBuild wish;
  if (m_starts->currentItem() != nullptr)
    wish.start = m_starts->currentItem()->data(Qt::UserRole).toString().toStdString();
  wish.wearer = m_wearer->currentText().trimmed().toStdString();
  if (m_sheet)
    wish.tape = *m_sheet;
  else
    for (const auto& [id, mm] : m_typed) wish.tape.set(id, mm);
  wish.foam = m_foam->currentData().toString().toStdString();
  wish.thickness_mm = m_thickness->currentData().toDouble();
  wish.today = dayOf(QDate::currentDate()), wish.due = dayOf(m_due->date());
  return wish;
}

void StartPage::start() {
  for (const auto& [id, field] : m_measures)
    if (!m_sheet && field->isWrong()) {
      field->setFocus();
      return m_words->setText(field->sentence());
    }
  const FreshBuild asked = wish();
  if (const auto build = fresh_build(asked, m_chain.materials(), m_chain.fitter().populations()); !build)
    return m_words->setText(qs(build.error().text));
  emit startWanted(asked);
}

void StartPage::keyPressEvent(QKeyEvent* event) {
  if (event->key() == Qt::Key_Escape && m_back->isVisible()) return emit backWanted();
  if (event->key() == Qt::Key_Return || event->key() == Qt::Key_Enter) return start();
  QWidget::keyPressEvent(event);
}

}  // namespace awl
