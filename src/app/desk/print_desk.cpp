#include "app/desk/print_desk.hpp"

#include <QFormLayout>
#include <QHBoxLayout>
#include <QPrintPreviewDialog>
#include <QPrinterInfo>
#include <QProgressDialog>
#include <QScopedValueRollback>
#include <QSettings>
#include <QVBoxLayout>
#include <cmath>

#include "core/base/numbers.hpp"
#include "core/base/units.hpp"
#include "print/text.hpp"

namespace awl {
namespace {

constexpr double kLeastMarginMm = 8.0, kTrueWithinMm = 0.5, kLeastPaperMm = 140.0;
const QString kPrinterKey = QStringLiteral("print/printer"), kPaperKey = QStringLiteral("print/paper"),
              kPagesKey = QStringLiteral("print/pages");

void describe(QWidget* control, const char* id, const QString& accessible, const QString& tip) {
  control->setObjectName(QLatin1String(id));
  control->setAccessibleName(accessible);
  control->setToolTip(tip);
}

}  // namespace

PrintDesk::PrintDesk(std::shared_ptr<const std::vector<Piece>> pieces, std::shared_ptr<const Layout> layout,
    QString title, std::function<std::string(const Piece&)> part_of, QWidget* parent)
    : EyeDialog(parent), m_pieces(std::move(pieces)), m_layout(std::move(layout)), m_title(std::move(title)),
      m_partOf(std::move(part_of)), m_printer(new QComboBox(this)), m_paper(new QComboBox(this)),
      m_pages(new QComboBox(this)), m_measured(new QLineEdit(this)), m_words(new QLabel(this)),
      m_test(new QPushButton(tr("Print the test page"), this)),
      m_look(new QPushButton(tr("Look at the pages\u2026"), this)), m_print(new QPushButton(tr("Print"), this)) {
  setObjectName(QStringLiteral("print-desk"));
  setWindowTitle(tr("Print at true size"));
  resize(540, 380);
  lay(new QVBoxLayout(this));
  const QSettings kept;
  for (const QPrinterInfo& one : QPrinterInfo::availablePrinters())
    m_printer->addItem(one.description().isEmpty() ? one.printerName() : one.description(), one.printerName());
  if (const int at = m_printer->findData(kept.value(kPrinterKey)); at >= 0) m_printer->setCurrentIndex(at);
  m_pages->setCurrentIndex(std::max(0, m_pages->findData(kept.value(kPagesKey, 0))));
  connect(m_printer, &QComboBox::currentIndexChanged, this, &PrintDesk::renewPapers);
  connect(m_paper, &QComboBox::currentIndexChanged, this, &PrintDesk::renewWords);
  connect(m_measured, &QLineEdit::editingFinished, this, &PrintDesk::judgeTyped);
  connect(m_test, &QPushButton::clicked, this, [this] { print(true); });
  connect(m_look, &QPushButton::clicked, this, &PrintDesk::look);
  connect(m_print, &QPushButton::clicked, this, [this] { print(false); });
  renewPapers();
}

void PrintDesk::lay(QVBoxLayout* column) {
  describe(m_printer, "print-printer", tr("Printer"), tr("The one used last stands first."));
  describe(m_paper, "print-desk-paper", tr("Paper"), tr("What lies in the printer."));
  describe(m_pages, "print-desk-pages", tr("Pages show"), tr("Each pattern once needs the fewest pages and joins."));
  m_pages->addItem(tr("Each pattern once"), static_cast<int>(PagesOf::patterns));
  m_pages->addItem(tr("The sheets as laid out"), static_cast<int>(PagesOf::sheets));
  describe(m_measured, "print-measured", tr("The square measures"),
      tr("Of the test page, each way: 100 mm if all is well."));
  m_measured->setPlaceholderText(tr("100 mm"));
  describe(m_test, "print-test", m_test->text(), tr("One page with the map and the 100 mm square."));
  describe(m_look, "print-look", m_look->text(), tr("All pages as they will come out."));
  describe(m_print, "print-go", m_print->text(), tr("At 100 %; set the driver to no scaling."));
  m_print->setProperty("act", true);
  auto* form = new QFormLayout;
  form->addRow(tr("Printer"), m_printer);
  form->addRow(tr("Paper"), m_paper);
  form->addRow(tr("Pages show"), m_pages);
  form->addRow(tr("First a test page"), m_test);
  form->addRow(tr("Its square measures"), m_measured);
  column->addLayout(form);
  m_words->setObjectName(QStringLiteral("print-words"));
  m_words->setWordWrap(true);
  m_words->setProperty("sentence", true);
  column->addWidget(m_words);
  column->addStretch(1);
  auto* row = new QHBoxLayout;
  row->addWidget(m_look);
  row->addStretch(1);
  row->addWidget(m_print);
  column->addLayout(row);
}

void PrintDesk::renewPapers() {
  const QSignalBlocker quiet(m_paper);
  m_paper->clear();
  const QPrinterInfo info = QPrinterInfo::printerInfo(m_printer->currentData().toString());
  QList<QPageSize> sizes = info.isNull() ? QList<QPageSize>{} : info.supportedPageSizes();
  if (sizes.isEmpty()) sizes = {QPageSize(QPageSize::A4), QPageSize(QPageSize::Letter), QPageSize(QPageSize::A3)};
  for (const QPageSize& size : sizes) {
    const QSizeF mm = size.size(QPageSize::Millimeter);
    if (std::min(mm.width(), mm.height()) >= kLeastPaperMm) m_paper->addItem(size.name(), size.id());
  }
  const QString mine = QSettings().value(QStringLiteral("prefs/paper")).toString();
  const int usual = static_cast<int>(mine == QLatin1String("a3") ? QPageSize::A3
          : mine == QLatin1String("letter")                      ? QPageSize::Letter
          : mine == QLatin1String("a4") || info.isNull()         ? QPageSize::A4
                                                                 : info.defaultPageSize().id());
  m_paper->setCurrentIndex(std::max(0, m_paper->findData(QSettings().value(kPaperKey, usual))));
  renewWords();
}

void PrintDesk::renewWords() {
  const bool printer = m_printer->count() > 0, paper = m_paper->count() > 0;
  for (QPushButton* b : {m_test, m_print}) b->setEnabled(printer && paper);
  m_look->setEnabled(paper);
  m_words->setText(!printer ? tr("No printer is known to this machine. \"Pattern as PDF\" saves the pages; "
                                 "any other machine prints that at 100 %.")
          : !paper          ? tr("No paper of this printer is large enough for the 100 mm test square.")
                            : QString());
}

std::unique_ptr<QPrinter> PrintDesk::chosen() const {
  const QPrinterInfo info = QPrinterInfo::printerInfo(m_printer->currentData().toString());
  auto printer = info.isNull() ? std::make_unique<QPrinter>(QPrinter::HighResolution)
                               : std::make_unique<QPrinter>(info, QPrinter::HighResolution);
  printer->setPageSize(QPageSize(static_cast<QPageSize::PageSizeId>(m_paper->currentData().toInt())));
  printer->setDocName(m_title);
  return printer;
}

void PrintDesk::done(int result) {
  if (!m_isAtWork) EyeDialog::done(result);
}

Result<int> PrintDesk::printOn(QPrinter& printer, bool test_only) {
  const QScopedValueRollback<bool> at_work(m_isAtWork, true);
  printer.setPageOrientation(QPageLayout::Portrait);
  printer.setFullPage(true);
  const double unit = printer.pageLayout().units() == QPageLayout::Millimeter ? 1.0 : 25.4 / 72.0;
  const QMarginsF least = printer.pageLayout().minimumMargins();
  TileOptions options;
  options.of = static_cast<PagesOf>(m_pages->currentData().toInt());
  options.part_of = m_partOf, options.title = m_title, options.test_only = test_only;
  options.page_mm = printer.pageLayout().fullRect(QPageLayout::Millimeter).size();
  options.margin_mm =
      std::max(kLeastMarginMm, unit * std::max({least.left(), least.right(), least.top(), least.bottom()}));
  QProgressDialog progress(tr("Printing\u2026"), tr("Stop"), 0, 0, this);
  progress.setWindowModality(Qt::WindowModal);
  progress.setMinimumDuration(700);
  const auto made = printTiled(printer, *m_pieces, *m_layout, options, [&](int page) {
    progress.setLabelText(tr("Page %1").arg(page + 1));
    progress.setValue(0);
    return !progress.wasCanceled();
  });
  if (!made) return fail(made);
  return made->pages;
}

void PrintDesk::look() {
  const QScopedValueRollback<bool> at_work(m_isAtWork, true);
  const auto printer = chosen();
  QPrintPreviewDialog preview(printer.get(), this);
  preview.setWindowTitle(tr("The pages at true size"));
  connect(&preview, &QPrintPreviewDialog::paintRequested, this, [this](QPrinter* on) {
    if (const auto done = printOn(*on, false); !done) m_words->setText(qs(done.error().text));
  });
  preview.exec();
}

void PrintDesk::print(bool test_only) {
  QSettings kept;
  kept.setValue(kPrinterKey, m_printer->currentData());
  kept.setValue(kPaperKey, m_paper->currentData());
  kept.setValue(kPagesKey, m_pages->currentData());
  const auto printer = chosen();
  const auto done = printOn(*printer, test_only);
  if (!done) return m_words->setText(qs(done.error().text));
  m_words->setText(test_only
          ? tr("The test page is on its way. Measure its square and type what you read.")
          : tr("%n page(s) are on their way. Measure the square on the first before you cut.", nullptr, *done));
}

QString PrintDesk::judgedSquare(double measured_mm) {
  if (std::abs(measured_mm - kTestSquareMm) <= kTrueWithinMm) return {};
  return tr(
      "The driver scales to %1 %. Look for \"actual size\" or \"100 %\" in its own settings, switch borderless "
      "printing off, and print the test page once more; patterns printed so would not fit.")
      .arg(QString::fromStdString(fixed(100.0 * measured_mm / kTestSquareMm, 1)));
}

void PrintDesk::judgeTyped() {
  if (m_measured->text().trimmed().isEmpty()) return;
  const auto mm = parse_length(m_measured->text().toStdString(), LengthUnit::mm);
  if (!mm) return m_words->setText(qs(mm.error().text));
  const QString judged = judgedSquare(*mm);
  m_words->setText(judged.isEmpty() ? tr("True to size: print away.") : judged);
}

}  // namespace awl
