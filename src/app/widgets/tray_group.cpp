#include "app/widgets/tray_group.hpp"

#include "app/widgets/length_field.hpp"

namespace awl {

TrayGroup::TrayGroup(const QString& title, bool open, QWidget* parent)
    : QWidget(parent), m_title(new QToolButton(this)), m_body(new QWidget(this)), m_layout(new QVBoxLayout(m_body)) {
  m_title->setText(title);
  m_title->setObjectName(QStringLiteral("group-") + title.toLower().replace(QLatin1Char(' '), QLatin1Char('-')));
  m_title->setProperty("trayTitle", true);
  m_title->setCheckable(true);
  m_title->setToolButtonStyle(Qt::ToolButtonTextBesideIcon);
  m_title->setSizePolicy(QSizePolicy::Expanding, QSizePolicy::Fixed);
  m_layout->setContentsMargins(4, 2, 4, 8);
  m_layout->setSpacing(5);
  auto* all = new QVBoxLayout(this);
  all->setContentsMargins(0, 0, 0, 0);
  all->setSpacing(2);
  all->addWidget(m_title);
  all->addWidget(m_body);
  connect(m_title, &QToolButton::toggled, this, &TrayGroup::setOpen);
  m_title->setChecked(open);
  setOpen(open);
}

void TrayGroup::setOpen(bool open) {
  m_body->setVisible(open);
  m_title->setArrowType(open ? Qt::DownArrow : Qt::RightArrow);
  if (m_title->isChecked() != open) m_title->setChecked(open);
}

QLabel* TrayGroup::addRow(const QString& label, QWidget* field) {
  auto* row = new QHBoxLayout;
  row->setSpacing(8);
  auto* name = new QLabel(label, m_body);
  name->setWordWrap(true);
  name->setBuddy(field);
  if (field->toolTip().size() > 0) name->setToolTip(field->toolTip());
  row->addWidget(name, 1);
  row->addWidget(field, 0);
  m_layout->addLayout(row);
  auto* sentence = new QLabel(m_body);
  sentence->setProperty("sentence", true);
  sentence->setObjectName(field->objectName() + QStringLiteral("-sentence"));
  sentence->setWordWrap(true);
  sentence->hide();
  m_layout->addWidget(sentence);
  if (auto* length = qobject_cast<LengthField*>(field))
    connect(length, &LengthField::sentenceChanged, sentence, [sentence](const QString& text) {
      sentence->setText(text);
      sentence->setVisible(!text.isEmpty());
    });
  return sentence;
}

void TrayGroup::showRow(QWidget* field, bool wanted) {
  field->setVisible(wanted);
  for (auto* label : findChildren<QLabel*>())
    if (label->buddy() == field) label->setVisible(wanted);
}

QLabel* TrayGroup::addText(const QString& text) {
  auto* label = new QLabel(text, m_body);
  label->setWordWrap(true);
  label->setProperty("quiet", true);
  m_layout->addWidget(label);
  return label;
}

}  // namespace awl
