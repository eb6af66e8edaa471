#pragma once
#include <QComboBox>
#include <QLabel>
#include <QLineEdit>
#include <QPrinter>
#include <QPushButton>
#include <QVBoxLayout>

#include "app/desk/tab_order.hpp"
#include "core/derived/derived.hpp"
#include "print/tiled_pdf.hpp"

namespace awl {

/// Patterns onto a printer at true size: which printer and paper, a test page to measure, a look before, and the pages.
class PrintDesk : public EyeDialog {
  Q_OBJECT

 public:
  /// `part_of`: patterns of one part share pages. Ownership: shares what is printed.
  PrintDesk(std::shared_ptr<const std::vector<Piece>> pieces, std::shared_ptr<const Layout> layout, QString title,
      std::function<std::string(const Piece&)> part_of, QWidget* parent);

  /// Pages onto a printer that is set up: all, or the test page alone. Answers how many. Errors: out_of_range for paper
  /// without room; cannot_write if the printer takes nothing.
  Result<int> printOn(QPrinter& printer, bool test_only);
  /// What the measured side of the test square says of the printer's driver; empty if it is as it should be.
  static QString judgedSquare(double measured_mm);
  /// Stays while pages are looked at or printed, whoever wants it gone.
  void done(int result) override;

 private:
  void lay(QVBoxLayout* column);
  void renewPapers();
  void renewWords();
  std::unique_ptr<QPrinter> chosen() const;
  void look();
  void print(bool test_only);
  void judgeTyped();

  std::shared_ptr<const std::vector<Piece>> m_pieces;
  std::shared_ptr<const Layout> m_layout;
  QString m_title;
  std::function<std::string(const Piece&)> m_partOf;
  QComboBox *m_printer, *m_paper, *m_pages;
  QLineEdit* m_measured;
  QLabel* m_words;
  QPushButton *m_test, *m_look, *m_print;
  bool m_isAtWork = false;
};

}  // namespace awl
