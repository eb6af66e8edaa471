#include "app/stations/book/book_station.hpp"

#include <algorithm>

#include "core/base/data_files.hpp"
#include "print/text.hpp"

namespace awl {

BookStation::BookStation(const Workplace& place, QWidget* parent)
    : Station(place, QStringLiteral("book"), tr("Book"), parent), m_chain(place.chain), m_book(place.book),
      m_page(new BookPage(this)), m_said(new QLabel(this)) {
  addButtons();
  m_said->setObjectName(QStringLiteral("book-said"));
  m_said->setWordWrap(true);
  m_said->setProperty("quiet", true);
  m_column->addWidget(m_said);
  m_column->addStretch(1);
  connect(&m_book, &Book::changed, this, &BookStation::renew);
  connect(&m_book, &Book::told, this, &Station::told);
  connect(m_page, &BookPage::searchChanged, this, &BookStation::renew);
  connect(m_page, &BookPage::wearerChosen, this, &BookStation::renewSheets);
  connect(m_page, &BookPage::sheetsChosen, this, &BookStation::renewButtons);
}

void BookStation::addButtons() {
  addDrawer(QStringLiteral("build"), tr("This build"), tr("Measures from the book, and into it."));
  TrayGroup* build = addGroup(tr("This build and the book"));
  m_use = addButton(build, QStringLiteral("book-use"), tr("Use the chosen set in this build"),
      tr("Copies the measures; everything is made anew for that head."), [this] { useInBuild(); });
  m_use->setProperty("act", true);
  m_put = addButton(build, QStringLiteral("book-put"), tr("Put this build's measures in"),
      tr("Under the wearer named on the ticket, with the day they were taken."), [this] { putBuild(); });
  m_job = new JobTray(*this, m_place);
  addDrawer(QStringLiteral("troupe"), tr("Troupe"), tr("The same build for everybody in the book."));
  TrayGroup* many = addGroup(tr("For a whole troupe"));
  m_all = addButton(many, QStringLiteral("book-all"), tr("Make it for every wearer\u2026"),
      tr("This build for everyone in the book, from the newest measures, each with its sheets, into a folder you "
         "choose."),
      [this] {
        const QString folder = m_place.asking.folder(tr("Folder for the builds"));
        if (!folder.isEmpty()) makeForAll(folder);
      });
  m_stop =
      addButton(many, QStringLiteral("book-all-stop"), tr("Stop"), tr("Stops after what is written already."), [] {});
  m_stop->setEnabled(false);
  m_progress = new QProgressBar(this);
  m_progress->setObjectName(QStringLiteral("book-progress"));
  m_progress->hide();
  many->body()->addWidget(m_progress);
  m_making = std::make_unique<Search<std::vector<Result<Regraded>>>>(
      this, [this](const auto& made) { madeForAll(made); }, m_progress, m_stop);
  addDrawer(QStringLiteral("tables"), tr("Tables"), tr("In and out as CSV."));
  TrayGroup* tables = addGroup(tr("As a table"));
  addButton(tables, QStringLiteral("book-read"), tr("Read a table (CSV)\u2026"),
      tr("Adds to the book; what cannot be read is told with line and column, and nothing is added."),
      [this] { askCsv(false); });
  addButton(tables, QStringLiteral("book-write"), tr("Write a table (CSV)\u2026"),
      tr("All wearers and all dates, one line each."), [this] { askCsv(true); });
  addButton(tables, QStringLiteral("book-demo"), tr("Add the demo's wearers"),
      tr("Made-up people of the Saltmarsh Lantern Walk, to try things on."),
      [this] { readCsv(QString::fromStdString((data_folder() / "demo" / "wearers.csv").string())); });
  addDrawer(QStringLiteral("remove"), tr("Take out"), tr("Wearers and sets; it can be brought back."));
  TrayGroup* removing = addGroup(tr("Take out"));
  m_removeSheet = addButton(removing, QStringLiteral("book-remove-sheet"), tr("Remove the chosen set"),
      tr("Can be brought back until the program ends."), [this] {
        for (const int id : m_page->chosenSheets())
          if (!good(m_book.removeSheet(id))) return;
      });
  m_removeWearer = addButton(removing, QStringLiteral("book-remove-wearer"), tr("Remove the wearer"),
      tr("With all their measures; can be brought back until the program ends."),
      [this] { good(m_book.removeWearer(m_page->wearer())); });
  m_bringBack = addButton(removing, QStringLiteral("book-bring-back"), tr("Bring the last one back"),
      tr("Undoes the last removal."), [this] { good(m_book.bringBack()); });
  TrayGroup* people = addGroup(tr("What is kept of the chosen wearer"));
  m_all_of = people->addText({});
  m_all_of->setObjectName(QStringLiteral("book-all-of"));
  addButton(people, QStringLiteral("book-carry-out"), tr("Carry it out as files\u2026"),
      tr("Measures, notes and pictures, into a folder."), [this] {
        const QString folder = m_place.asking.folder(tr("Folder for what is kept"));
        if (!folder.isEmpty()) carryOut(folder);
      });
  m_files = people->addText({});
  m_files->setObjectName(QStringLiteral("book-files"));
  m_deleteFiles = addButton(people, QStringLiteral("book-files-delete"), tr("Delete these files"),
      tr("Builds, prints and tables of the chosen wearer, with the copies beside them."), [this] { deleteFiles(); });
  m_forget = addButton(people, QStringLiteral("book-forget"), tr("Forget for good"),
      tr("Measures, pictures, notes and names go from the book, its log and its free pages. Prices and hours stay."),
      [this] { forget(); });
  people->addText(
      tr("Kept on this machine alone, in %1. Files that were moved, printed paper, and builds that were made before "
         "their wearer was in the book are not known here: look for those yourself.")
          .arg(Book::path().replace(QLatin1Char('/'), QStringLiteral("/\u200b"))));
}

template <class T>
bool BookStation::good(const Result<T>& result) {
  if (!result) emit told(qs(result.error().text));
  return result.has_value();
}

void BookStation::entered() {
  renew();
  m_job->renew();
}

void BookStation::renew() {
  const auto book = m_book.get();
  if (!good(book)) return;
  const auto wearers = (*book)->wearers(m_page->search().toStdString());
  if (!good(wearers)) return;
  int chosen = m_page->wearer();
  const auto there = [&](int id) {
    return std::any_of(wearers->begin(), wearers->end(), [&](const BookWearer& w) { return w.id == id; });
  };
  if (!there(chosen)) {
    chosen = wearers->empty() ? 0 : wearers->front().id;
    for (const BookWearer& w : *wearers)
      if (w.name == m_document.build().wearer) chosen = w.id;
  }
  m_page->showWearers(*wearers, chosen);
  renewSheets();
}

void BookStation::renewSheets() {
  const auto book = m_book.get();
  if (!good(book)) return;
  const auto sheets = (*book)->sheets(m_page->wearer());
  if (!good(sheets)) return;
  m_page->showSheets(*sheets, m_document.build().shown);
  renewButtons();
}

void BookStation::renewButtons() {
  const bool any = !m_page->chosenSheets().empty();
  m_use->setEnabled(any);
  m_removeSheet->setEnabled(any);
  m_removeWearer->setEnabled(m_page->wearer() != 0);
  m_bringBack->setEnabled(m_book.canBringBack());
  m_forget->setEnabled(m_page->wearer() != 0);
  if (m_forgetting != m_page->wearer()) {
    m_forgetting = 0;
    m_forget->setText(tr("Forget for good"));
  }
  if (m_deleting != m_page->wearer()) m_deleting = 0;
  if (m_deleting == 0) m_deleteFiles->setText(tr("Delete these files"));
  const auto book = m_book.get();
  const auto record =
      book && m_page->wearer() != 0 ? JobPages(**book).all_of(m_page->wearer()) : Result<WearerRecord>(WearerRecord{});
  m_all_of->setText(m_page->wearer() == 0 || !record
          ? tr("Nobody is chosen.")
          : tr("%1: %2 sets of measures, %3 jobs, %4 fittings, %5 pictures, %6 changes on foam.")
                .arg(QString::fromStdString(record->wearer.name))
                .arg(record->sheets.size())
                .arg(record->jobs.size())
                .arg(record->fittings.size())
                .arg(record->photos.size())
                .arg(record->changes.size()));
  QStringList files;
  if (record)
    for (const auto& file : record->files)
      files << QString::fromStdString(file.string()).replace(QLatin1Char('/'), QStringLiteral("/\u200b"));
  m_files->setText(files.isEmpty() ? tr("No files of theirs are known.")
                                   : tr("Files that hold their measures:\n%1").arg(files.join(QLatin1Char('\n'))));
  m_deleteFiles->setEnabled(!files.isEmpty());
}

void BookStation::carryOut(const QString& folder) {
  const auto book = m_book.get();
  if (!good(book)) return;
  const auto record = JobPages(**book).all_of(m_page->wearer());
  if (!good(record)) return;
  const auto files = carry_out(*record, folder.toStdString());
  if (good(files)) m_said->setText(tr("%1 files were written to %2.").arg(files->size()).arg(folder));
}

/// The first press asks, the second does it. What cannot be deleted is named, and the rest is deleted all the same.
void BookStation::deleteFiles() {
  const int wearer = m_page->wearer();
  if (m_deleting != wearer) {
    m_deleting = wearer;
    m_deleteFiles->setText(tr("Press again: they are gone then"));
    return;
  }
  m_deleting = 0;
  const auto book = m_book.get();
  if (!good(book)) return;
  const auto files = JobPages(**book).files_of(wearer);
  if (!good(files)) return;
  QStringList left;
  for (const auto& file : *files)
    if (std::error_code error; !std::filesystem::remove(file, error) || error)
      left << QString::fromStdString(file.string());
  m_said->setText(left.isEmpty() ? tr("%1 files were deleted.").arg(files->size())
                                 : tr("These could not be deleted: %1.").arg(left.join(QStringLiteral(", "))));
  renewButtons();
}

/// The first press asks, the second does it: it cannot be undone.
void BookStation::forget() {
  const int wearer = m_page->wearer();
  if (m_forgetting != wearer) {
    m_forgetting = wearer;
    m_forget->setText(tr("Press again: it cannot be undone"));
    return;
  }
  m_forgetting = 0;
  m_forget->setText(tr("Forget for good"));
  const auto book = m_book.get();
  if (!good(book)) return;
  if (good(JobPages(**book).forget(wearer))) {
    m_said->setText(tr("Forgotten."));
    renew();
  }
}

void BookStation::useInBuild() {
  const auto book = m_book.get();
  if (!good(book) || m_page->chosenSheets().empty()) return;
  const auto sheet = (*book)->sheet(m_page->chosenSheets().back());
  const auto wearers = (*book)->wearers();
  if (!good(sheet) || !good(wearers)) return;
  std::string name = m_document.build().wearer;
  for (const BookWearer& w : *wearers)
    if (w.id == sheet->wearer) name = w.name;
  const bool done = m_document.edit(tr("Measures from the book"), [&](Build& next) {
    next.tape = sheet->sheet;
    next.wearer = name;
  });
  if (done)
    m_said->setText(tr("This build is now made for %1, measured %2.")
                        .arg(QString::fromStdString(name), QString::fromStdString(sheet->sheet.day.iso())));
}

void BookStation::putBuild() {
  const Build& build = m_document.build();
  if (good(m_book.put(build.wearer, build.tape)))
    m_said->setText(tr("The measures of %1 are in the book.").arg(QString::fromStdString(build.wearer)));
}

void BookStation::readCsv(const QString& path) {
  const auto added = m_book.readCsv(path);
  if (good(added)) m_said->setText(tr("%1 sets of measures were added.").arg(*added));
}

void BookStation::writeCsv(const QString& path) {
  if (good(m_book.writeCsv(path))) m_said->setText(tr("Written to %1.").arg(path));
}

Result<std::vector<NamedSheet>> BookStation::newestSheets() {
  const auto book = m_book.get();
  if (!book) return fail(book);
  const auto wearers = (*book)->wearers();
  if (!wearers) return fail(wearers);
  std::vector<NamedSheet> newest;
  for (const BookWearer& w : *wearers) {
    const auto sheets = (*book)->sheets(w.id);
    if (!sheets) return fail(sheets);
    const auto last = std::max_element(
        sheets->begin(), sheets->end(), [](const auto& a, const auto& b) { return a.sheet.day < b.sheet.day; });
    if (last != sheets->end()) newest.push_back({w.name, last->sheet});
  }
  if (newest.empty())
    return fail(Errc::empty_input, "Nobody's measures are in the book yet; put them in, or read a table.", "book");
  return newest;
}

void BookStation::makeForAll(const QString& folder) {
  if (m_making->isRunning()) return;
  const auto wearers = newestSheets();
  if (!good(wearers)) return;
  m_all->setEnabled(false);
  m_said->setText(tr("Making it for %1 wearers\u2026").arg(wearers->size()));
  m_making->begin([chain = &m_chain, build = m_document.build(), before = m_derived, wearers = *wearers,
                      at = std::filesystem::path(folder.toStdString())](
                      const Progress& progress) -> Result<std::vector<Result<Regraded>>> {
    std::vector<Result<Regraded>> made;
    const auto names = names_for(wearers);
    const double n = static_cast<double>(wearers.size());
    for (std::size_t i = 0; i < wearers.size(); ++i) {
      made.push_back(regrade(*chain, build, before, wearers[i], at / names[i], progress.span(i / n, (i + 1) / n)));
      if (!made.back() && made.back().error().code == Errc::cancelled) break;
    }
    return made;
  });
}

/// Everyone's outcome: those that could not be made do not stop the others.
void BookStation::madeForAll(const Result<std::vector<Result<Regraded>>>& all) {
  m_all->setEnabled(true);
  if (!all) return m_said->setText(tr("Stopped; what was written before stays."));
  QStringList lines;
  int count = 0;
  for (const auto& one : *all) {
    if (!one) {
      lines << qs(one.error().text);
      continue;
    }
    ++count;
    const auto changed = std::count_if(one->changes.begin(), one->changes.end(),
        [](const PieceChange& c) { return c.kind != PieceChange::Kind::same; });
    const auto look = std::count_if(
        one->remarks.begin(), one->remarks.end(), [](const Remark& r) { return r.severity != Severity::note; });
    lines << tr("%1: %2 pieces on %3 sheets, %4 changed")
                 .arg(QString::fromStdString(one->wearer))
                 .arg(one->pieces)
                 .arg(one->sheet_count)
                 .arg(changed) +
            (look > 0 ? tr(", %1 to look at").arg(look) : QString());
  }
  m_said->setText(tr("%1 of %2 made, each with a build and its sheets.").arg(count).arg(all->size()) +
      QLatin1Char('\n') + lines.join(QLatin1Char('\n')));
}

void BookStation::show(const Build& build, const Derived& derived) {
  m_job->show(build);
  m_derived = derived;
  m_put->setEnabled(!build.wearer.empty());
  m_all->setEnabled(derived.pieces != nullptr && !m_making->isRunning());
}

void BookStation::askCsv(bool save) {
  const QString path =
      m_place.asking.path(save, tr("Table of wearers"), QStringLiteral("wearers.csv"), tr("Tables (*.csv *.txt)"));
  if (path.isEmpty()) return;
  save ? writeCsv(path) : readCsv(path);
}

}  // namespace awl
