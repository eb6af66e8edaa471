#pragma once
#include <QComboBox>
#include <QVBoxLayout>
#include <QWidget>

#include "app/shell/document.hpp"
#include "app/stand/stand_scene.hpp"
#include "app/widgets/length_field.hpp"
#include "app/widgets/tray_group.hpp"
#include "core/piece/changes.hpp"

namespace awl {

/// One step of the work: its tray, and what stand and mat show while it is open. Lays out controls and submits changes.
class Station : public QWidget {
  Q_OBJECT

 public:
  enum class View { stand, standAndMat, plan, page };

  Station(Document& document, const QString& id, const QString& word, QWidget* parent);

  QString id() const { return m_id; }
  QString word() const { return m_word; }
  virtual View view() const { return View::stand; }
  virtual StandChoice standChoice() const { return {}; }
  virtual bool matStrain() const { return false; }
  /// Whether pieces may be laid by hand on the mat.
  virtual bool matMovable() const { return false; }
  /// Outlines of another version for the mat.
  virtual std::vector<PieceChange> matFormer() const { return {}; }
  /// Shows the build and what has been derived of it; parts being renewed may be older than the build.
  virtual void show(const Build& build, const Derived& derived) = 0;
  /// Whether what this station is for is there, for its mark on the rail.
  virtual bool isDone(const Derived& derived) const = 0;
  /// Whether a remark is one of this station's; the first station that says so marks it.
  virtual bool owns(const Remark& remark) const = 0;
  /// Brings the control for a remark's place into focus. False if this station has none.
  virtual bool focusPlace(const QString& where);
  virtual void setDark(bool) {}
  /// A page of its own for the middle of the bench, for View::page.
  virtual QWidget* page() { return nullptr; }
  /// A drawing of its own to the right of the stand, shown while it has something on it; for View::stand.
  virtual QWidget* beside() { return nullptr; }
  /// Called when the station comes to the front.
  virtual void entered() {}

  // For the parts a tray is made of:
  /// Submits a change; if it is refused, the field keeps what was typed and says why.
  /// Whether a remark's id is of one of these areas: "form.", "make.".
  static bool isOf(const Remark& remark, std::initializer_list<const char*> areas);
  /// Remarks about the head that come of the headform or its scan, not of a tape.
  static bool isOfHeadform(const Remark& remark) { return remark.where == "headform" || remark.where == "scan"; }
  bool submit(LengthField* field, const QString& label, const Document::Change& change);
  LengthField* addLength(TrayGroup* group, const QString& name, const QString& label, const QString& tip,
      const QString& place, const std::function<void(Build&, double)>& apply);
  /// A choice from fixed (id, text) pairs.
  QComboBox* addChoice(TrayGroup* group, const QString& name, const QString& label, const QString& tip,
      const std::vector<std::pair<std::string, QString>>& choices,
      const std::function<void(Build&, const std::string&)>& apply);
  static void showChoice(QComboBox* box, const std::string& id);
  TrayGroup* addGroup(const QString& title, bool open = true);

 signals:
  void panelChosen(int panel);
  /// What this station wants on the stand is another than before.
  void standChanged();
  /// A sentence for the remarks line: something could not be done.
  void told(const QString& sentence);

 protected:
  Document& m_document;
  QVBoxLayout* m_column;

 private:
  QString m_id, m_word;
  LengthField* m_asking = nullptr;
  std::map<QString, QWidget*> m_places;
};

class Book;

/// All stations there are, in the order of the work.
std::vector<Station*> makeStations(Document& document, const Chain& chain, Book& book, QWidget* parent);

}  // namespace awl
