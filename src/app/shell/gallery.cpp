#include "app/shell/gallery.hpp"

#include <QDialogButtonBox>
#include <QIcon>
#include <QLabel>
#include <QPixmap>
#include <QPushButton>
#include <QVBoxLayout>

#include "app/shell/build_picture.hpp"
#include "core/base/guard.hpp"
#include "core/base/data_files.hpp"

namespace awl {
namespace {

constexpr QSize kPicture(208, 208);

}  // namespace

Gallery::Gallery(QWidget* parent, Day today) : EyeDialog(parent), m_list(new QListWidget(this)) {
  setObjectName(QStringLiteral("gallery"));
  setWindowTitle(tr("The Saltmarsh Lantern Walk"));
  resize(1160, 700);
  auto* column = new QVBoxLayout(this);
  column->addWidget(
      new QLabel(tr("Ten made-up builds for five made-up wearers. Open one and change what you like."), this));
  m_list->setObjectName(QStringLiteral("gallery-list"));
  m_list->setAccessibleName(tr("Demo builds"));
  m_list->setViewMode(QListView::IconMode);
  m_list->setResizeMode(QListView::Adjust);
  m_list->setMovement(QListView::Static);
  m_list->setIconSize(kPicture);
  m_list->setGridSize(QSize(222, 278));
  m_list->setWordWrap(true);
  m_list->setSpacing(4);
  column->addWidget(m_list, 1);
  auto* buttons = new QDialogButtonBox(QDialogButtonBox::Open | QDialogButtonBox::Cancel, this);
  column->addWidget(buttons);
  connect(buttons, &QDialogButtonBox::accepted, this, &QDialog::accept);
  connect(buttons, &QDialogButtonBox::rejected, this, &QDialog::reject);
  connect(m_list, &QListWidget::itemDoubleClicked, this, &QDialog::accept);
  QPixmap empty(kPicture);
  empty.fill(palette().color(QPalette::AlternateBase));
  for (const DemoEntry& entry : demo_gallery()) {
    auto* item = new QListWidgetItem(QIcon(empty), QString::fromStdString(entry.name + "\n" + entry.about), m_list);
    item->setData(Qt::UserRole, QString::fromStdString(entry.id));
    item->setTextAlignment(Qt::AlignHCenter);
  }
  m_list->setCurrentRow(0);
  m_left = m_list->count();
  connect(this, &Gallery::pictured, this, [this](int row, const QImage& picture) {
    --m_left;
    if (!picture.isNull()) m_list->item(row)->setIcon(QIcon(QPixmap::fromImage(picture)));
  });
  m_pool.setMaxThreadCount(1);
  m_pool.start([this, today, wanted = m_wanted] {
    // A chain of its own, so that the open build is not kept waiting.
    const auto chain = guarded("opening the gallery", [] { return Chain::load(data_folder()); });
    for (int i = 0; chain && i < static_cast<int>(demo_gallery().size()) && wanted->load(); ++i) {
      const auto picture = guarded("making a picture", [&]() -> Result<QImage> {
        return pictureOf(**chain, demo_gallery()[static_cast<std::size_t>(i)].make(today), kPicture, *wanted);
      });
      emit pictured(i, picture.value_or(QImage()));
    }
  });
}

Gallery::~Gallery() {
  *m_wanted = false;
  m_pool.waitForDone();
}

QString Gallery::chosen() const {
  return m_list->currentItem() != nullptr ? m_list->currentItem()->data(Qt::UserRole).toString() : QString();
}

}  // namespace awl
