#include "app/widgets/pages_view.hpp"

#include <QDialogButtonBox>
#include <QLabel>
#include <QPushButton>
#include <QScreen>
#include <QScrollArea>
#include <QVBoxLayout>

namespace awl {

PagesView::PagesView(const QString& title, std::vector<QImage> pages, const QString& words, QWidget* parent)
    : EyeDialog(parent) {
  setObjectName(QStringLiteral("pages-view"));
  setWindowTitle(title);
  setAttribute(Qt::WA_DeleteOnClose);
  auto* column = new QVBoxLayout(this);
  auto* scroll = new QScrollArea(this);
  scroll->setObjectName(QStringLiteral("pages-scroll"));
  scroll->setAccessibleName(title);
  scroll->setAccessibleDescription(words);
  scroll->setWidgetResizable(true);
  auto* sheet = new QWidget(scroll);
  auto* list = new QVBoxLayout(sheet);
  int wide = 0;
  for (const QImage& page : pages) {
    auto* label = new QLabel(sheet);
    label->setObjectName(QStringLiteral("page-picture"));
    label->setPixmap(QPixmap::fromImage(page));
    label->setFrameShape(QFrame::Box);
    list->addWidget(label, 0, Qt::AlignHCenter);
    wide = std::max(wide, page.width());
  }
  scroll->setWidget(sheet);
  column->addWidget(scroll, 1);
  auto* buttons = new QDialogButtonBox(QDialogButtonBox::Close, this);
  auto* save = buttons->addButton(tr("Save as PDF\u2026"), QDialogButtonBox::ActionRole);
  save->setObjectName(QStringLiteral("pages-save"));
  connect(save, &QPushButton::clicked, this, &PagesView::saveWanted);
  connect(buttons, &QDialogButtonBox::rejected, this, &QDialog::reject);
  column->addWidget(buttons);
  const QSize room = screen() != nullptr ? screen()->availableSize() : QSize(1024, 700);
  resize(std::min(wide + 70, room.width() - 40), std::min(900, room.height() - 60));
}

}  // namespace awl
