#pragma once
#include <QComboBox>
#include <QPushButton>
#include <QVBoxLayout>
#include <QWidget>

#include "app/desk/workplace.hpp"
#include "app/mat/mat_gestures.hpp"
#include "app/stand/stand_gestures.hpp"
#include "app/stand/stand_scene.hpp"
#include "app/station/shot.hpp"
#include "app/widgets/drawers.hpp"
#include "app/widgets/length_field.hpp"
#include "app/widgets/tray_group.hpp"
#include "core/piece/changes.hpp"

namespace awl {

/// One step of the work: its tray, and what stand and mat show while it is open. Lays out controls and submits changes.
class Station : public QWidget, public StandGestures, public MatGestures {
  Q_OBJECT

 public:
  enum class View { stand, standAndMat, page };

  Station(const Workplace& place, const QString& id, const QString& word, QWidget* parent);

  QString id() const { return m_id; }
  QString word() const { return m_word; }
  virtual View view() const { return View::stand; }
  /// Of the room for stand and mat, what the stand has until the maker moves the line between them, percent.
  virtual int standShare() const { return 43; }
  virtual StandChoice standChoice() const { return {}; }
  virtual bool matStrain() const { return false; }
  /// Whether pieces may be laid by hand on the mat.
  virtual bool matMovable() const { return false; }
  /// Outlines of another version for the mat.
  virtual std::vector<PieceChange> matFormer() const { return {}; }
  /// Whether what there is so far of a derivation under way is enough for this station; else it shows the last whole
  /// one.
  virtual bool isEnough(const Derived&) const { return false; }
  /// Shows the build and what has been derived of it or, while that is being worked out, of the build before.
  virtual void show(const Build& build, const Derived& derived) = 0;
  /// Whether what this station is for is there, for its mark on the rail.
  virtual bool isDone(const Derived& derived) const = 0;
  /// Whether a remark is one of this station's; the first station that says so marks it.
  virtual bool owns(const Remark& remark) const = 0;
  /// Brings the control for a remark's place into focus. False if this station has none.
  virtual bool focusPlace(const QString& where);
  /// The page of the help a control's row stands on, where that is not the station's own.
  virtual QString helpPage(const QWidget& /*control*/) const { return {}; }
  /// The page of the help about one of the things ready starts are sorted by.
  static QString thingPage(const std::string& thing) {
    return QStringLiteral("thing-") +
        QString::fromStdString(thing).toLower().replace(QLatin1Char(' '), QLatin1Char('-'));
  }
  virtual void setDark(bool) {}
  /// Whether it is a step of the work, and so can be done and have something to look at.
  virtual bool isStep() const { return true; }
  /// Whether a file with this ending, dropped on the window, is brought in here; and that it was.
  virtual bool takesFile(const QString& /*ending*/) const { return false; }
  virtual void takeFile(const QString& /*path*/) {}
  /// Whether an act of a remark is this station's own; it is then shown and carries it out.
  virtual bool knowsAct(const QString&) const { return false; }
  virtual void carryOut(const QString&) {}
  /// A picture pinned behind the form; null for none.
  virtual const Reference* backdrop() const { return nullptr; }
  /// A page of its own for the middle of the bench, for View::page.
  virtual QWidget* page() { return nullptr; }
  /// A drawing of its own to the right of the stand, shown while it has something on it; for View::stand.
  virtual QWidget* beside() { return nullptr; }
  /// Called when the station comes to the front.
  virtual void entered() {}
  /// The pictures the documentation shows it with.
  virtual std::vector<Shot> shots() { return {{m_id}}; }
  Drawers& drawers() { return *m_drawers; }
  const Drawers& drawers() const { return *m_drawers; }

  // For the parts a tray is made of:
  /// Whether a remark's id is of one of these areas: "form.", "make.".
  static bool isOf(const Remark& remark, std::initializer_list<const char*> areas);
  /// Remarks about the head that come of the headform or its scan, not of a tape.
  static bool isOfHeadform(const Remark& remark) { return remark.where == "headform" || remark.where == "scan"; }
  /// Submits a change; if it is refused, the field keeps what was typed and says why.
  bool submit(LengthField* field, const QString& label, const Document::Change& change);
  LengthField* addLength(TrayGroup* group, const QString& name, const QString& label, const QString& tip,
      const QString& place, const std::function<void(Build&, double)>& apply);
  /// The same for what is no length.
  bool change(const QString& label, const Document::Change& change, const QString& gesture) {
    return m_document.change(label, change, gesture);
  }
  /// A remark's place leads to this control.
  void leadTo(QWidget* control, const QString& place) { m_places[place] = control; }
  /// A choice from fixed (id, text) pairs.
  QComboBox* addChoice(TrayGroup* group, const QString& name, const QString& label, const QString& tip,
      const std::vector<std::pair<std::string, QString>>& choices,
      const std::function<void(Build&, const std::string&)>& apply);
  QPushButton* addButton(TrayGroup* group, const QString& name, const QString& text, const QString& tip,
      const std::function<void()>& press);
  static void showChoice(QComboBox* box, const std::string& id);
  /// What is added after this lies in a drawer of its own, behind a word. Before the first, it stands above the words.
  void addDrawer(const QString& id, const QString& word, const QString& tip);
  /// Opens the drawer a control lies in, and takes the keyboard there.
  void focusOn(QWidget* control);
  TrayGroup* addGroup(const QString& title, bool open = true);

 signals:
  void panelChosen(int panel);
  /// Another drawer is open: what lies in it wants to be shown.
  void drawerOpened();
  /// What this station wants on the stand is another than before.
  void standChanged();
  /// A sentence for the remarks line: something could not be done.
  void told(const QString& sentence);
  /// This station wants to be shown anew.
  void renewWanted();
  /// What is being dragged reads now; beside the hand, on the stand.
  void gripText(const QString& text);
  /// A kind of exportBuild, to be asked a path for and written.
  void exportWanted(const QString& kind);
  /// Another station is to do this.
  void actWanted(const QString& act);
  /// The stand is to be looked at from a plain side.
  void lookWanted(const QString& view);
  void backdropChanged();
  /// The glue clock is to run: how long to wait, and from when on it can be glued.
  void waitWanted(
      const QString& label, double wait_min, double open_min, const QString& meanwhile, const QString& caution);

 protected:
  Workplace m_place;
  Document& m_document;
  QVBoxLayout* m_column;  ///< of the drawer being filled

 private:
  Drawers* m_drawers;
  QString m_id, m_word;
  LengthField* m_asking = nullptr;
  std::map<QString, QWidget*> m_places;
};

}  // namespace awl
