#include "app/stations/tape/measure_card.hpp"
#include "app/widgets/theme.hpp"
#include "print/text.hpp"

#include <QGridLayout>
#include <QVBoxLayout>

namespace awl {

MeasureCard::MeasureCard(QWidget* parent)
    : QFrame(parent), m_picture(new QLabel(this)), m_title(new QLabel(this)), m_how(new QLabel(this)),
      m_facts(new QLabel(this)), m_spread(new QLabel(this)),
      m_second(new LengthField(QStringLiteral("second-reading"), tr("Second reading"),
          tr("Take it twice when it decides something; the mean of both counts."), this)),
      m_hair(new LengthField(QStringLiteral("over-hair"), tr("Over hair"),
          tr("Thickness of hair or a cap under the tape; it is taken off."), this)) {
  setObjectName(QStringLiteral("measure-card"));
  m_picture->setObjectName(QStringLiteral("measure-picture"));
  m_picture->setFixedSize(pictureSize());
  m_title->setProperty("figure", true);
  m_title->setObjectName(QStringLiteral("measure-title"));
  m_how->setObjectName(QStringLiteral("how"));
  m_facts->setObjectName(QStringLiteral("measure-facts"));
  m_facts->setProperty("quiet", true);
  m_spread->setObjectName(QStringLiteral("measure-spread"));
  m_spread->setProperty("quiet", true);
  for (QLabel* label : {m_how, m_facts, m_spread}) label->setWordWrap(true);
  auto* column = new QVBoxLayout(this);
  column->setContentsMargins(0, 0, 0, 4);
  column->setSpacing(3);
  for (QLabel* label : {m_picture, m_title, m_how, m_facts}) column->addWidget(label);
  auto* grid = new QGridLayout;
  grid->setHorizontalSpacing(8);
  grid->addWidget(new QLabel(tr("Second reading"), this), 0, 0);
  grid->addWidget(new QLabel(tr("Over hair"), this), 0, 1);
  grid->addWidget(m_second, 1, 0);
  grid->addWidget(m_hair, 1, 1);
  column->addLayout(grid);
  auto* wrong = new QLabel(this);
  wrong->setObjectName(QStringLiteral("card-sentence"));
  wrong->setProperty("sentence", true);
  wrong->setWordWrap(true);
  wrong->hide();
  for (LengthField* field : {m_second, m_hair}) {
    field->setMinimumWidth(80);
    connect(field, &LengthField::sentenceChanged, wrong, [wrong](const QString& text) {
      wrong->setText(text);
      wrong->setVisible(!text.isEmpty());
    });
  }
  column->addWidget(wrong);
  column->addWidget(m_spread);
}

void MeasureCard::fitPicture() {
  const double dots = m_image.devicePixelRatio();
  const int high = static_cast<int>(m_picture->height() * dots);
  m_picture->setPixmap(QPixmap::fromImage(
      m_image.height() > high + 1 ? m_image.scaledToHeight(std::max(1, high), Qt::SmoothTransformation) : m_image));
}

void MeasureCard::giveRoom(int height) {
  // Of the station, with a list of four rows left below.
  const double whole = 610.0 * typeScale(*this), half = 540.0 * typeScale(*this);
  const int want = height >= whole ? pictureSize().height() : height >= half ? pictureSize().height() - 66 : 0;
  holdHeight();
  if (want == m_picture->height() && m_picture->isVisible() == (want > 0)) return;
  m_picture->setFixedHeight(std::max(want, 1));
  m_picture->setVisible(want > 0);
  fitPicture();
  holdHeight();
}

/// Words that wrap tell a layout less than they need: the list below is what gives way.
void MeasureCard::holdHeight() {
  if (width() > 0) setMinimumHeight(layout()->totalHeightForWidth(width()));
}

void MeasureCard::show(MeasureId measure, const TapeEntry* entry, LengthUnit unit, const QImage& picture) {
  const MeasureFacts& f = facts_of(measure);
  m_image = picture;
  fitPicture();
  m_picture->setAccessibleName(tr("Where the tape runs: %1").arg(qs(f.how)));
  m_title->setText(qs(f.name));
  m_how->setText(qs(f.how));
  m_facts->setText(tr("With %1. %2").arg(qs(name_of(f.tool)), qs(f.decides)));
  m_second->setEnabled(entry != nullptr);
  m_hair->setEnabled(entry != nullptr && f.hair_share > 0.0);
  m_second->showValue(entry != nullptr ? entry->second_mm : std::nullopt, unit);
  m_hair->showValue(
      entry != nullptr && entry->over_hair_mm > 0.0 ? std::optional(entry->over_hair_mm) : std::nullopt, unit);
  if (entry == nullptr) return m_spread->setText(tr("Not measured yet."));
  const auto length = [&](double mm) { return QString::fromStdString(format_length(mm, unit)); };
  QString text;
  if (entry->second_mm)
    text = tr("Mean of both %1, %2 apart. ").arg(length(entry->mean_mm()), length(entry->spread_mm()));
  if (entry->over_hair_mm > 0.0) text += tr("Without the hair %1. ").arg(length(entry->skin_mm(measure)));
  if (entry->day != Day{})
    text += entry->by.empty() ? tr("Taken %1.").arg(qs(entry->day.spoken()))
                              : tr("Taken %1 by %2.").arg(qs(entry->day.spoken()), QString::fromStdString(entry->by));
  m_spread->setText(text);
  holdHeight();
}

}  // namespace awl
