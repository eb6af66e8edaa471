#include "app/shell/help_window.hpp"

#include <QHBoxLayout>
#include <QLabel>
#include <QTextBlock>
#include <QTextTable>
#include <QVBoxLayout>

#include "core/base/data_files.hpp"

namespace awl {
namespace {

constexpr int kListWidth = 236, kPictureWidth = 640, kStartWidth = 120;

/// Pictures of the bench as wide as the page, those of ready starts small.
class HelpText : public QTextBrowser {
 public:
  using QTextBrowser::QTextBrowser;
  QVariant loadResource(int type, const QUrl& name) override {
    if (type != QTextDocument::ImageResource) return QTextBrowser::loadResource(type, name);
    QString file = name.fileName();
    const bool start = file.startsWith(QLatin1String("start-"));
    const QString folder = start ? QString::fromStdString((data_folder() / "starts").string()) : helpPictures();
    const QImage picture(folder + QStringLiteral("/") + (start ? file.mid(6) : file));
    return picture.isNull()
        ? QVariant()
        : QVariant(picture.scaledToWidth(start ? kStartWidth : kPictureWidth, Qt::SmoothTransformation));
  }
};

}  // namespace

namespace {

/// Tables as the rest of the bench has them: thin lines, room in the cells.
void dressTables(QTextDocument& document, const QColor& line) {
  constexpr double kPadding = 4.0;
  for (QTextFrame* frame : document.rootFrame()->childFrames()) {
    auto* table = qobject_cast<QTextTable*>(frame);
    if (table == nullptr) continue;
    QTextTableFormat format = table->format();
    format.setCellPadding(kPadding);
    format.setCellSpacing(0);
    format.setBorder(1);
    format.setBorderBrush(line);
    format.setBorderStyle(QTextFrameFormat::BorderStyle_Solid);
    format.setBorderCollapse(true);
    table->setFormat(format);
  }
}

}  // namespace

HelpWindow::HelpWindow(std::vector<HelpPage> pages, QWidget* parent)
    : EyeDialog(parent), m_pages(std::move(pages)), m_search(new QLineEdit(this)), m_list(new QListWidget(this)),
      m_text(new HelpText(this)) {
  setObjectName(QStringLiteral("help"));
  setWindowTitle(tr("Help"));
  resize(1000, 720);
  auto* row = new QHBoxLayout(this);
  auto* left = new QVBoxLayout;
  m_search->setObjectName(QStringLiteral("help-search"));
  m_search->setAccessibleName(tr("Search the help"));
  m_search->setToolTip(tr("Pages that hold all these words."));
  m_search->setPlaceholderText(tr("search"));
  m_search->setClearButtonEnabled(true);
  m_list->setObjectName(QStringLiteral("help-pages"));
  m_list->setAccessibleName(tr("Pages"));
  m_list->setToolTip(tr("Choose a page to read."));
  m_search->setFixedWidth(kListWidth);
  m_list->setFixedWidth(kListWidth);
  m_list->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
  left->addWidget(m_search);
  left->addWidget(m_list, 1);
  row->addLayout(left);
  m_text->setObjectName(QStringLiteral("help-text"));
  m_text->setAccessibleName(tr("The page"));
  m_text->setToolTip(tr("Page up and down to read on."));
  m_text->setOpenLinks(false);
  m_text->document()->setDocumentMargin(18);
  row->addWidget(m_text, 1);
  connect(m_search, &QLineEdit::textChanged, this, &HelpWindow::search);
  connect(m_list, &QListWidget::currentRowChanged, this, &HelpWindow::showRow);
  search({});
}

void HelpWindow::search(const QString& words) {
  const QString before = pageId();
  const QSignalBlocker quiet(m_list);
  m_list->clear();
  const QStringList wanted = words.simplified().split(QLatin1Char(' '), Qt::SkipEmptyParts);
  QString group;
  for (std::size_t i = 0; i < m_pages.size(); ++i) {
    const HelpPage& page = m_pages[i];
    if (!std::all_of(
            wanted.begin(), wanted.end(), [&](const QString& w) { return page.text.contains(w, Qt::CaseInsensitive); }))
      continue;
    if (page.group != group) {
      group = page.group;
      auto* title = new QListWidgetItem(group, m_list);
      title->setFlags(Qt::NoItemFlags);
      QFont bold = title->font();
      bold.setBold(true);
      title->setFont(bold);
    }
    auto* item = new QListWidgetItem(QStringLiteral("   ") + page.title, m_list);
    item->setData(Qt::UserRole, static_cast<int>(i));
    if (page.id == before) m_list->setCurrentItem(item);
  }
  if (m_list->count() == 0) return m_text->setMarkdown(tr("No page holds all of these words. Take fewer, or others."));
  if (m_list->currentRow() < 0) m_list->setCurrentRow(1);
  showRow(m_list->currentRow());
}

void HelpWindow::showRow(int row) {
  const QListWidgetItem* item = m_list->item(row);
  if (item == nullptr || !item->data(Qt::UserRole).isValid()) return;
  m_text->setMarkdown(m_pages[static_cast<std::size_t>(item->data(Qt::UserRole).toInt())].text);
  dressTables(*m_text->document(), palette().color(QPalette::Mid));
  const QStringList wanted = m_search->text().simplified().split(QLatin1Char(' '), Qt::SkipEmptyParts);
  m_text->moveCursor(QTextCursor::Start);
  if (!wanted.isEmpty() && m_text->find(wanted.front())) m_text->ensureCursorVisible();
}

bool HelpWindow::showPage(const QString& id, const QString& heading, const QString& marked) {
  m_search->clear();
  for (int row = 0; row < m_list->count(); ++row) {
    const QVariant at = m_list->item(row)->data(Qt::UserRole);
    if (!at.isValid() || m_pages[static_cast<std::size_t>(at.toInt())].id != id) continue;
    m_list->setCurrentRow(row);
    showRow(row);
    for (QTextBlock block = m_text->document()->begin(); !heading.isEmpty() && block.isValid(); block = block.next())
      if (block.blockFormat().headingLevel() > 1 && block.text() == heading) {
        // The end first, so that the heading comes to stand at the top.
        m_text->moveCursor(QTextCursor::End);
        m_text->setTextCursor(QTextCursor(block));
        m_text->ensureCursorVisible();
      }
    if (!marked.isEmpty() && m_text->find(marked)) m_text->ensureCursorVisible();
    return true;
  }
  return false;
}

QString HelpWindow::pageId() const {
  const QListWidgetItem* item = m_list->currentItem();
  return item != nullptr && item->data(Qt::UserRole).isValid()
      ? m_pages[static_cast<std::size_t>(item->data(Qt::UserRole).toInt())].id
      : QString();
}

}  // namespace awl
