#pragma once
#include <QFormLayout>
#include <QLabel>
#include <QToolButton>
#include <QVBoxLayout>
#include <QWidget>

namespace awl {

/// A titled group of the tray that can be folded away.
class TrayGroup : public QWidget {
  Q_OBJECT

 public:
  explicit TrayGroup(const QString& title, bool open = true, QWidget* parent = nullptr);
  QVBoxLayout* body() { return m_layout; }
  /// What its rows stand in. A field made for a row is best made in here: moving it later is slow.
  QWidget* place() { return m_body; }
  /// A row with its label above or beside, and a place for a sentence about it underneath.
  QLabel* addRow(const QString& label, QWidget* field);
  /// A field with its label, where it is not always wanted.
  void showRow(QWidget* field, bool wanted);
  QLabel* addText(const QString& text);
  void setOpen(bool open);
  QString title() const { return m_title->text(); }

 private:
  QToolButton* m_title;
  QWidget* m_body;
  QVBoxLayout* m_layout;
};

}  // namespace awl
