#pragma once
#include <QCheckBox>
#include <QDateEdit>
#include <QPushButton>

#include "app/stations/tape/digital_tape.hpp"
#include "app/stations/tape/simulated_tape.hpp"
#include "app/station/station.hpp"
#include "app/stations/tape/measure_card.hpp"
#include "app/stations/tape/measure_row.hpp"

namespace awl {

/// Tape: what the tape said. Any subset will do; the rest is estimated beside it.
class TapeStation : public Station {
  Q_OBJECT

 public:
  TapeStation(const Workplace& place, QWidget* parent);
  ~TapeStation() override;
  StandChoice standChoice() const override;
  bool isDone(const Derived& d) const override { return d.head != nullptr; }
  bool owns(const Remark& r) const override { return isOf(r, {"tape."}) || (isOf(r, {"head."}) && !isOfHeadform(r)); }
  bool isEnough(const Derived& d) const override { return d.next || !d.short_list.empty(); }
  void show(const Build& build, const Derived& derived) override;
  bool focusPlace(const QString& where) override;
  void setDark(bool dark) override;
  void resizeEvent(QResizeEvent* event) override;
  DigitalTape& digitalTape() { return m_tape; }

 private:
  using Edit = std::function<void(TapeEntry&)>;
  void addMeasure(MeasureId id);
  void addBeside();
  void addWhose(const Chain& chain);
  void addDigitalTape(const Chain& chain);
  void takeReading(double mm);
  void showTape();
  void practise(const Chain& chain);
  void changeEntry(LengthField* field, const QString& label, const Edit& edit);
  void pick(MeasureId id);
  void sortRows(const std::vector<Telling>& shortList);
  void showCard(const Build& build, const Derived& derived);
  void showWhose(const Build& build, const Derived& derived);

  MeasureId m_picked = MeasureId::HC;
  MeasureCard* m_card;
  TrayGroup *m_first, *m_skull, *m_face;
  std::map<MeasureId, MeasureRow*> m_rows;
  std::map<BodyMeasure, LengthField*> m_body;
  std::map<Extra, QCheckBox*> m_extras;
  std::vector<MeasureId> m_shortList;
  QLabel *m_next, *m_held;
  QComboBox* m_people = nullptr;
  QDateEdit* m_day;
  QLineEdit* m_by;
  Derived m_derived;  ///< as last shown, for the picture
  std::pair<std::shared_ptr<const Headform>, MeasureId> m_pictured{nullptr, MeasureId::HC};
  QImage m_picture;
  bool m_dark = false;
  DigitalTape m_tape;
  SimulatedTape* m_practice = nullptr;
  QLineEdit* m_socket;
  QPushButton *m_connect, *m_press;
  QLabel* m_tapeState;
};

}  // namespace awl
