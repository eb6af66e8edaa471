#pragma once
#include <QCheckBox>
#include <QLabel>
#include <QObject>
#include <QPushButton>

#include "app/station/station.hpp"
#include "core/io/cutting_machine.hpp"

namespace awl {

/// A cutting machine's mat: how the sheets are moved on it, its files, and a rehearsal without foam. Its facts belong
/// to the workshop and are kept in the settings, not in the build.
class MachineTray : public QObject {
  Q_OBJECT

 public:
  MachineTray(Station* station, Document& document);
  void show(const Build& build, const Derived& derived);
  /// One SVG a mat, as they would be saved.
  Result<std::vector<std::string>> files() const;
  const MachineFacts& facts() const { return m_facts; }

 signals:
  /// A folder is wanted to put the files into.
  void saveWanted();
  void told(const QString& sentence);

 private:
  void addFact(TrayGroup* group, const char* name, const QString& label, const QString& tip, double least, double most,
      double& value);
  void load();
  void keep();
  void tell();
  void rehearse();

  Station* m_station;
  Document& m_document;
  Derived m_derived;
  MachineFacts m_facts;
  std::vector<std::pair<LengthField*, double*>> m_fields;
  QCheckBox* m_backed;
  QLabel* m_said;
  QPushButton *m_save, *m_rehearse;
};

}  // namespace awl
