#pragma once
#include <QComboBox>
#include <QLabel>
#include <QLineEdit>

#include "app/desk/document.hpp"

namespace awl {

/// The job ticket: a punched card tag with the build's name, its wearer, the day, the units and whether it is saved.
class Ticket : public QWidget {
  Q_OBJECT

 public:
  explicit Ticket(Document& document, QWidget* parent = nullptr);
  void show(const Build& build);

 protected:
  void paintEvent(QPaintEvent*) override;

 private:
  QLineEdit* addWords(const QString& name, const QString& label, std::string Build::*member, int width);
  void showSaved();

  Document& m_document;
  QLineEdit *m_name, *m_wearer;
  QLabel *m_due, *m_saved;
  QComboBox* m_units;
};

}  // namespace awl
