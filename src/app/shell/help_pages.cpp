#include "app/shell/help_pages.hpp"

#include <QAbstractSpinBox>
#include <QCheckBox>
#include <QCoreApplication>
#include <QFileInfo>
#include <QLineEdit>
#include <QListWidget>
#include <QPushButton>
#include <QTableWidget>
#include <QToolButton>

#include "core/base/data_files.hpp"
#include "core/dress/detail.hpp"
#include "print/language.hpp"
#include "print/text.hpp"

namespace awl {
namespace {

QString word(const char* text) { return QCoreApplication::translate("awl::Help", text); }
QString fromStd(const std::string& text) { return QString::fromStdString(text); }

/// A cell of a table: no line ends, no bars.
QString cell(QString text) {
  return text.replace(QLatin1Char('\n'), QLatin1Char(' ')).replace(QLatin1Char('|'), QLatin1Char('/')).simplified();
}

QString table(const QStringList& head, const std::vector<QStringList>& rows) {
  if (rows.empty()) return {};
  QString text = QStringLiteral("\n| ") + head.join(QStringLiteral(" | ")) + QStringLiteral(" |\n|");
  for (int i = 0; i < head.size(); ++i) text += QStringLiteral("---|");
  for (const QStringList& row : rows) {
    text += QStringLiteral("\n|");
    for (const QString& one : row) text += QStringLiteral(" ") + cell(one) + QStringLiteral(" |");
  }
  return text + QStringLiteral("\n\n");
}

/// A page written by hand; empty if its file is missing, which is said in its place.
HelpPage written(const QString& id, const QString& group) {
  HelpPage page{id, group, id, {}};
  const QString file = QStringLiteral("/") + id + QStringLiteral(".md"),
                own = Language::inUse() != nullptr ? helpFolder() + QLatin1Char('/') + Language::inUse()->code() + file
                                                   : QString();
  const auto bytes = read_file((QFileInfo::exists(own) ? own : helpFolder() + file).toStdString());
  if (!bytes) {
    page.text = QStringLiteral("# ") + id + QStringLiteral("\n\n") +
        word("This page is missing from the installation: %1").arg(fromStd(bytes.error().text));
    return page;
  }
  page.text = fromStd(*bytes);
  const QString first = page.text.section(QLatin1Char('\n'), 0, 0);
  if (first.startsWith(QLatin1String("# "))) page.title = first.mid(2).trimmed();
  return page;
}

bool isControl(const QWidget& w) {
  return qobject_cast<const QAbstractButton*>(&w) || qobject_cast<const QLineEdit*>(&w) ||
      qobject_cast<const QComboBox*>(&w) || qobject_cast<const QAbstractSpinBox*>(&w) ||
      qobject_cast<const QTableWidget*>(&w) || qobject_cast<const QListWidget*>(&w);
}

/// What lies in each drawer of a station, in the words of its own tips.
QString drawersOf(const Station& station) {
  QString text;
  for (const auto* tab : station.findChildren<QToolButton*>()) {
    if (!tab->property("drawerWord").toBool()) continue;
    const auto* drawer =
        station.findChild<QWidget*>(QStringLiteral("drawer-") + tab->objectName().mid(QStringLiteral("tab-").size()));
    if (drawer == nullptr) continue;
    text += QStringLiteral("\n## ") + tab->text() + QStringLiteral("\n\n") + tab->toolTip() + QStringLiteral("\n");
    std::vector<QStringList> rows;
    QStringList said;
    for (const auto* control : drawer->findChildren<QWidget*>()) {
      if (!isControl(*control) || control->toolTip().isEmpty()) continue;
      const QString name = nameOf(*control);
      if (name.isEmpty() || name == control->toolTip() || said.contains(name)) continue;
      said << name;
      rows.push_back({name, control->toolTip()});
    }
    text += table({word("What"), word("When")}, rows);
  }
  return text;
}

std::vector<QStringList> rowsOf(const std::vector<Dial>& dials) {
  std::vector<QStringList> rows;
  for (const Dial& d : dials) {
    const QString goes = d.facts.kind == DialKind::choice
        ? QString()
        : qs(dial_text(d.facts, d.facts.least)) + word(" to ") + qs(dial_text(d.facts, d.facts.most));
    rows.push_back({qs(d.facts.label), qs(d.facts.tip), goes});
  }
  return rows;
}

std::vector<HelpPage> partPages() {
  std::vector<HelpPage> pages;
  for (const std::string& thing : things()) {
    HelpPage page{Station::thingPage(thing), word("Things"), qs(thing), {}};
    page.text = QStringLiteral("# ") + page.title + QStringLiteral("\n");
    std::set<std::string> told;
    for (const PartPreset& p : part_presets()) {
      if (p.thing != thing) continue;
      Part part = p.make();
      page.text += QStringLiteral("\n## ") + qs(p.label) + QStringLiteral("\n\n") + qs(p.tip) + QStringLiteral("\n");
      if (QFileInfo::exists(fromStd((data_folder() / "starts" / (p.id + ".png")).string())))
        page.text += QStringLiteral("\n![%2](start-%1.png)\n").arg(fromStd(p.id), qs(p.label));
      // What can be turned on it is told once for all of a source.
      if (told.insert(kind_of(part.shape)).second)
        page.text += table({word("What"), word("When"), word("From, to")}, rowsOf(dials_of(part)));
    }
    pages.push_back(std::move(page));
  }
  return pages;
}

std::vector<HelpPage> detailPages() {
  std::vector<HelpPage> pages;
  for (const DetailShape& shape : detail_kinds()) {
    Detail detail;
    detail.shape = shape;
    HelpPage page{QStringLiteral("detail-") + QLatin1String(kind_of(shape)), word("Details"), qs(label_of(shape)), {}};
    page.text = QStringLiteral("# ") + page.title + QStringLiteral("\n") +
        table({word("What"), word("When"), word("From, to")}, rowsOf(dials_of(detail)));
    pages.push_back(std::move(page));
  }
  return pages;
}

HelpPage wordsPage() {
  HelpPage page{QStringLiteral("words"), word("Looking up"), word("Words"), {}};
  page.text = QStringLiteral("# ") + page.title + QStringLiteral("\n\n");
  for (const std::filesystem::path& place :
      {data_folder() / "help" / "words.md", data_folder() / ".." / "docs" / "words.md"}) {
    const auto bytes = read_file(place);
    if (!bytes) continue;
    // One meaning a word, "word: meaning." after each other: a list in the order of the alphabet is found sooner.
    QStringList entries;
    for (const QString& line : fromStd(*bytes).split(QLatin1Char('\n'))) {
      if (line.startsWith(QLatin1Char('#'))) continue;
      for (const QString& sentence : line.split(QStringLiteral(". "))) {
        const int at = sentence.indexOf(QLatin1Char(':'));
        if (at > 0 && at < 60)
          entries << QStringLiteral("**%1**: %2").arg(sentence.left(at).trimmed(), sentence.mid(at + 1).trimmed());
        else if (!entries.isEmpty() && !sentence.trimmed().isEmpty())
          entries.back() += QStringLiteral(". ") + sentence.trimmed();
      }
    }
    entries.sort(Qt::CaseInsensitive);
    for (const QString& entry : entries) page.text += QStringLiteral("- ") + entry + QStringLiteral("\n");
    break;
  }
  return page;
}

HelpPage keysPage(const QList<QAction*>& actions) {
  HelpPage page{QStringLiteral("keys"), word("Looking up"), word("Keys"), {}};
  std::vector<QStringList> rows;
  for (const QAction* action : actions)
    for (const QKeySequence& keys : action->shortcuts())
      rows.push_back({keys.toString(QKeySequence::NativeText), QString(action->text()).remove(QLatin1Char('&'))});
  rows.push_back({word("Tab, Shift+Tab"), word("To the next control, and back")});
  rows.push_back({word("Arrow keys"), word("Within a table or a list; on the stand, turn it")});
  rows.push_back({word("Drag left, middle; wheel"), word("On the stand: turn, move; come nearer")});
  page.text =
      QStringLiteral("# ") + page.title + QStringLiteral("\n") + table({word("Keys"), word("What they do")}, rows);
  return page;
}

}  // namespace

QString nameOf(const QWidget& control) {
  if (!control.accessibleName().isEmpty()) return control.accessibleName();
  if (const auto* button = qobject_cast<const QAbstractButton*>(&control))
    return QString(button->text()).remove(QLatin1Char('&'));
  return {};
}

QString helpFolder() { return fromStd((data_folder() / "help").string()); }

QString helpPictures() {
  const QString installed = helpFolder() + QStringLiteral("/pictures");
  return QFileInfo::exists(installed) ? installed : fromStd((data_folder() / ".." / "docs" / "screenshots").string());
}

std::vector<HelpPage> helpPages(const std::vector<Station*>& stations, const QList<QAction*>& actions) {
  std::vector<HelpPage> pages{
      written(QStringLiteral("start"), word("First")), written(QStringLiteral("walk"), word("First"))};
  for (const Station* s : stations) {
    HelpPage page = written(QStringLiteral("station-") + s->id(), word("Stations"));
    page.text += drawersOf(*s);
    pages.push_back(std::move(page));
  }
  for (HelpPage& page : partPages()) pages.push_back(std::move(page));
  for (HelpPage& page : detailPages()) pages.push_back(std::move(page));
  pages.push_back(written(QStringLiteral("printing"), word("Looking up")));
  pages.push_back(written(QStringLiteral("safety"), word("Looking up")));
  pages.push_back(written(QStringLiteral("formats"), word("Looking up")));
  pages.push_back(written(QStringLiteral("preferences"), word("Looking up")));
  pages.push_back(wordsPage());
  pages.push_back(keysPage(actions));
  pages.push_back(written(QStringLiteral("trouble"), word("Looking up")));
  return pages;
}

}  // namespace awl
