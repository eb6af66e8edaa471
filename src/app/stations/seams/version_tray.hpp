#pragma once
#include <QCheckBox>
#include <QLabel>
#include <QLineEdit>
#include <QTableWidget>

#include "app/desk/search.hpp"
#include "app/station/station.hpp"
#include "core/chain/difference.hpp"

namespace awl {

/// Versions of the pattern: kept under a name, laid over what is now on mat and stand, gone back to.
class VersionTray : public QObject {
  Q_OBJECT

 public:
  VersionTray(Station* station, Document& document, const Chain& chain);
  void show(const Build& build, const Derived& derived);
  void apply(StandChoice& choice) const;
  std::vector<PieceChange> former() const;

 private:
  void makeTable(TrayGroup* group);
  QPushButton* addButton(QBoxLayout* row, const char* name, const QString& text, const QString& tip);
  int chosen() const;
  void keep();
  void compare();
  void compared(const Result<Difference>& found);

  Station* m_station;
  Document& m_document;
  const Chain& m_chain;
  Derived m_derived;
  QLineEdit *m_name, *m_note;
  QPushButton *m_keep, *m_compare, *m_back, *m_forget;
  QTableWidget* m_table;
  QCheckBox* m_show;
  QLabel* m_said;
  std::optional<Difference> m_difference;
  std::shared_ptr<const WornMap> m_map;
  std::shared_ptr<const PanelSet> m_asked;  ///< what was compared
  Search<Difference> m_search;
};

}  // namespace awl
