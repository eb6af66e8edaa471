#pragma once
#include <QCheckBox>
#include <QLabel>
#include <QSpinBox>
#include <QTableWidget>

#include "app/desk/search.hpp"
#include "app/station/station.hpp"
#include "core/derived/whereabouts.hpp"
#include "core/seam/darts.hpp"
#include "core/derived/part_ground.hpp"

namespace awl {

/// Seams drawn by hand on the part at hand, suggested ones, and darts: what is chosen, drawn and dragged.
class LineTray : public QObject {
  Q_OBJECT

 public:
  LineTray(Station* station, Document& document, const Chain& chain);

  void show(const Build& build, const Derived& derived);
  /// Adds the lines and markers to what the stand shows.
  void apply(StandChoice& choice) const;
  bool isDrawing() const { return m_drawing; }

  // From the stand:
  void placeClicked(const Vec3& place);
  void markerMoved(const QString& marker, const Vec3& place, bool whole, bool last);
  // From remarks:
  void suggest();
  void addDarts(int panel);
  void freeSeams();
  void panelChosen(int panel);
  /// Begins a line that is for this.
  void drawFor(LineRole role);

 signals:
  /// Text beside the marker that is being dragged.
  void gripText(const QString& text);

 private:
  using Ways = std::vector<Suggestion>;
  /// Roughly what the panels come to, and how that is seen.
  struct Sketch {
    std::shared_ptr<const PanelSet> panels;
    std::shared_ptr<const SheetFaces> faces;
  };
  void makeDrawing(TrayGroup* group);
  void makeLines(TrayGroup* group);
  void makeSuggestions(TrayGroup* group);
  QPushButton* addButton(QBoxLayout* row, const char* name, const QString& text, const QString& tip);
  void setDrawing(bool on);
  void finishLine();
  void showTable(const Build& build);
  void makeRole(TrayGroup* group);
  void makeDarts(TrayGroup* group);
  void showWays(const Result<Ways>& ways);
  void renewSketch();
  void sketched(const Result<Sketch>& sketch);
  void showRole();
  const Part* part() const { return find_part(m_document.build(), m_document.partAtHand()); }
  const PartForm* form() const;
  /// The part at hand, ready to be drawn on; null while there is none.
  const PartGround* ground() const;
  int chosen() const;
  /// Changes the part's lines in one step.
  bool change(const QString& label, const std::function<void(Part&)>& edit);
  bool changeChosen(const QString& label, const std::function<void(DrawnSeam&)>& edit);
  void takeWay(bool ink);
  void dartsFound(const Result<Darts>& darts);
  void say(const QString& text);

  Station* m_station;
  Document& m_document;
  const Chain& m_chain;
  std::shared_ptr<const Form> m_form;
  std::shared_ptr<const PanelSet> m_panels;
  std::shared_ptr<const Headform> m_head;
  mutable std::shared_ptr<const PartGround> m_ground;
  QPushButton *m_draw, *m_close, *m_ink, *m_delete, *m_hide, *m_lock, *m_side, *m_takeUp, *m_suggest, *m_cancel,
      *m_pencil, *m_inkWay, *m_darts;
  QCheckBox *m_mirrored, *m_own;
  QTableWidget *m_table, *m_ways;
  QLabel* m_hint;
  QComboBox* m_role;
  LengthField *m_reach, *m_longest;
  QSpinBox* m_most;
  double m_longestMm = DartOptions{}.longest_mm;
  QProgressBar* m_progress;
  std::unique_ptr<Search<Ways>> m_search;
  std::unique_ptr<Search<Darts>> m_dartSearch;
  std::unique_ptr<Search<Sketch>> m_sketching;
  std::vector<std::shared_ptr<const PanelSet>> m_partPanels;
  Sketch m_sketch;  ///< while a marker is dragged
  QString m_snapped;
  std::vector<Suggestion> m_found;
  std::vector<Vec3> m_line;  ///< being drawn, home coordinates
  DrawnSeam m_dragged;       ///< as it is while a marker is dragged
  LineRole m_drawnFor = LineRole::cut;
  int m_panel = -1, m_dartPart = 0;
  bool m_drawing = false, m_isDragging = false, m_sketchAgain = false;
};

}  // namespace awl
