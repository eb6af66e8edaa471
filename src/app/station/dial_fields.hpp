#pragma once
#include <QCheckBox>
#include <QComboBox>
#include <QDoubleSpinBox>
#include <QSpinBox>

#include "app/station/station.hpp"

namespace awl {

/// What can be set on a spec.
template <class Spec>
std::vector<DialFacts> dial_facts() {
  Spec spec;
  std::vector<DialFacts> facts;
  for (const Dial& d : dials_of(spec)) facts.push_back(d.facts);
  return facts;
}

/// Fields for the dials of one place of the build (core/builds/settings), each put where its tray wants it: what it is
/// called, when one would use it, how far it goes and what is refused come of its dial.
class DialFields : public QObject {
  Q_OBJECT

 public:
  /// `facts`: of a spec as it is kept there. `place`: where it is kept now ("parts/3/way" of the part in hand); empty
  /// while there is none.
  DialFields(Station* station, std::vector<DialFacts> facts, std::function<std::string()> place);
  /// The same of a place that is always there.
  DialFields(Station* station, std::vector<DialFacts> facts, const std::string& place);

  /// A field of the kind the dial is of, in a row of its own; a flag under what there is. Lengths are typed, shares are
  /// percent. `Field`: what it is known to be. Contract: there is such a dial.
  template <class Field>
  Field* add(TrayGroup* group, const QString& name, const std::string& dial) {
    return qobject_cast<Field*>(make(group, name, dial));
  }
  /// Chosen from (value, text) pairs: of a word, or of numbers of which only these make sense.
  QComboBox* addChoice(TrayGroup* group, const QString& name, const std::string& dial,
      const std::vector<std::pair<std::string, QString>>& choices);
  /// One of these of a choice's options, by their words.
  QComboBox* addSome(
      TrayGroup* group, const QString& name, const std::string& dial, const std::vector<std::string>& words);
  /// A field for a dial, in no group yet.
  QWidget* field(const QString& name, const std::string& dial, QWidget* parent = nullptr);
  /// Shows what the build says now; fields of nothing are empty.
  void show(const Build& build);

 private:
  struct Held {
    QWidget* field;
    DialFacts facts;
  };
  const DialFacts& factsOf(const std::string& dial) const;
  QWidget* make(TrayGroup* group, const QString& name, const std::string& dial);
  QWidget* makeField(const QString& name, const DialFacts& facts, QWidget* parent);
  QWidget* makeSpin(const DialFacts& facts, QWidget* parent);
  void turn(const DialFacts& facts, double value, LengthField* asking = nullptr);
  void say(const DialFacts& facts, const std::string& to);
  static void showIn(QWidget* field, const Dial& dial, LengthUnit unit);

  Station* m_station;
  std::vector<DialFacts> m_facts;
  std::function<std::string()> m_place;
  std::string m_always;  ///< the place, if it is always there: remarks about it lead to its fields
  std::vector<Held> m_held;
};

}  // namespace awl
