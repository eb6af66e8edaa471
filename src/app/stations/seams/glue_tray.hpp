#pragma once
#include <QCheckBox>
#include <QComboBox>
#include <QLabel>
#include <QListWidget>

#include "app/desk/search.hpp"
#include "app/station/station.hpp"
#include "core/chain/corrected.hpp"
#include "core/chain/glued.hpp"

namespace awl {

/// The pieces glued up before any foam is cut: what they come to, and where that is not the form.
class GlueTray : public QObject {
  Q_OBJECT

 public:
  GlueTray(Station* station, Document& document, const Chain& chain);
  void show(const Derived& derived);
  void apply(StandChoice& choice) const;

 private:
  void glue();
  void showRemedy();
  void glued(const Result<GluedForm>& made);
  void addCorrecting();
  void correct();
  void correctedTo(const Result<CorrectedForm>& made);
  void showCorrecting(const Derived& derived);

  Station* m_station;
  Document& m_document;
  const Chain& m_chain;
  Derived m_derived;
  QPushButton *m_glue, *m_stop;
  QProgressBar* m_progress;
  QCheckBox* m_show;
  QListWidget* m_list;
  QPushButton* m_remedy;  ///< of the finding chosen
  QLabel* m_said;
  QString m_summary;  ///< of what was glued up last; holds again when a change is undone
  std::optional<GluedForm> m_made;
  std::shared_ptr<const WornMap> m_map;
  Search<GluedForm> m_search;
  QPushButton *m_correct, *m_drawn;
  QComboBox* m_far = nullptr;
  QLabel* m_corrected = nullptr;
  Search<CorrectedForm> m_correcting;
};

}  // namespace awl
