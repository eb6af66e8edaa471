#pragma once
#include <QComboBox>
#include <QLabel>
#include <QObject>
#include <QPushButton>

#include "app/station/station.hpp"

namespace awl {

/// Paper, files and the build sheet: everything that leaves the bench as a file.
class OutputTray : public QObject {
  Q_OBJECT

 public:
  explicit OutputTray(Station* station);
  void show(const Derived& derived);

 signals:
  void exportWanted(const QString& kind);
  void sheetWanted();

 private:
  QPushButton* addButton(
      const char* name, const QString& text, const QString& tip, const std::function<QString()>& kind);

  Station* m_station;
  QComboBox *m_paper, *m_pages, *m_per, *m_curves;
  std::vector<QPushButton*> m_files;
  QPushButton* m_read;
};

}  // namespace awl
