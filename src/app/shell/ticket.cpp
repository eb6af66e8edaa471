#include "app/shell/ticket.hpp"

#include <QHBoxLayout>
#include <QPainter>
#include <QPainterPath>

#include "app/widgets/theme.hpp"
#include "print/text.hpp"

namespace awl {

Ticket::Ticket(Document& document, QWidget* parent)
    : QWidget(parent), m_document(document), m_due(new QLabel(this)), m_saved(new QLabel(this)),
      m_units(new QComboBox(this)) {
  setObjectName(QStringLiteral("ticket"));
  auto* row = new QHBoxLayout(this);
  row->setContentsMargins(56, 12, 22, 12);
  row->setSpacing(10);
  const auto quiet = [&](const QString& text) {
    auto* label = new QLabel(text, this);
    label->setProperty("quiet", true);
    row->addWidget(label);
  };
  m_name = addWords(QStringLiteral("build-name"), tr("Name of the build"), &Build::name, 120);
  setTypeTimes(*m_name, 1.25, QFont::Bold);
  row->addWidget(m_name, 2);
  quiet(tr("for"));
  m_wearer = addWords(QStringLiteral("build-wearer"), tr("Wearer"), &Build::wearer, 80);
  row->addWidget(m_wearer, 1);
  quiet(tr("ready by"));
  m_due->setObjectName(QStringLiteral("ticket-due"));
  m_due->setProperty("figure", true);
  row->addWidget(m_due);
  row->addStretch(1);
  m_units->setObjectName(QStringLiteral("units"));
  m_units->setAccessibleName(tr("Units shown"));
  m_units->setToolTip(tr("What lengths are shown in. Any unit may be typed at any time."));
  for (const LengthUnit u : {LengthUnit::mm, LengthUnit::cm, LengthUnit::inch})
    m_units->addItem(QLatin1String(symbol_of(u)), static_cast<int>(u));
  row->addWidget(m_units);
  m_saved->setObjectName(QStringLiteral("saved-state"));
  m_saved->setMinimumWidth(112);
  row->addWidget(m_saved);
  connect(m_units, &QComboBox::activated, this, [this](int i) {
    m_document.edit(tr("Units"),
        [unit = static_cast<LengthUnit>(m_units->itemData(i).toInt())](Build& next) { next.shown = unit; });
  });
  connect(&document, &Document::savedStateChanged, this, &Ticket::showSaved);
}

QLineEdit* Ticket::addWords(const QString& name, const QString& label, std::string Build::*member, int width) {
  auto* edit = new QLineEdit(this);
  edit->setObjectName(name);
  edit->setAccessibleName(label);
  edit->setToolTip(label);
  edit->setMinimumWidth(width);
  connect(edit, &QLineEdit::editingFinished, this, [this, edit, label, member] {
    m_document.edit(label, [&](Build& next) { next.*member = edit->text().trimmed().toStdString(); });
  });
  return edit;
}

void Ticket::show(const Build& build) {
  const auto put = [](QLineEdit* edit, const std::string& text) {
    if (edit->text() != QString::fromStdString(text))
      edit->setText(QString::fromStdString(text)), edit->setCursorPosition(0);
  };
  put(m_name, build.name);
  put(m_wearer, build.wearer);
  m_due->setText(qs(build.coat.due.spoken()));
  m_units->setCurrentIndex(static_cast<int>(build.shown));
  showSaved();
}

void Ticket::showSaved() {
  m_saved->setText(m_document.isSaved() ? tr("\u2713 saved")
          : m_document.path().isEmpty() ? tr("\u25cb not yet a file")
                                        : tr("\u25cf unsaved"));
}

void Ticket::paintEvent(QPaintEvent*) {
  QPainter painter(this);
  painter.setRenderHint(QPainter::Antialiasing);
  const QRectF card = QRectF(rect()).adjusted(8.5, 5.5, -8.5, -5.5);
  // A tag: two corners cut off on the left, and a punched hole with its ring.
  QPainterPath tag;
  tag.moveTo(card.left() + 18, card.top());
  tag.lineTo(card.right(), card.top());
  tag.lineTo(card.right(), card.bottom());
  tag.lineTo(card.left() + 18, card.bottom());
  tag.lineTo(card.left(), card.bottom() - 16);
  tag.lineTo(card.left(), card.top() + 16);
  tag.closeSubpath();
  const QPointF hole(card.left() + 24, card.center().y());
  QPainterPath punched = tag;
  punched.addEllipse(hole, 6, 6);
  painter.setPen(QPen(palette().color(QPalette::Mid), 1));
  painter.fillPath(punched, palette().color(QPalette::Base));
  painter.strokePath(tag, QPen(QColor(0xa8, 0x9c, 0x82), 1.2));
  painter.setBrush(Qt::NoBrush);
  painter.setPen(QPen(QColor(0xb4, 0x6a, 0x33), 3));
  painter.drawEllipse(hole, 8, 8);
}

}  // namespace awl
