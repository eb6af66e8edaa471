#pragma once
#include <QLabel>
#include <QLineEdit>
#include <QListWidget>
#include <QPointer>
#include <vector>

#include "app/desk/tab_order.hpp"
#include "app/station/station.hpp"

namespace awl {

/// Where something is set or done: a word or two of it, and every control of every station that has them in its name,
/// its tip or the place it lies in. Enter goes there.
class Finder : public EyeDialog {
  Q_OBJECT

 public:
  Finder(std::vector<Station*> stations, QWidget* parent);
  /// Looks through the stations once more: some trays are filled only once they have been shown.
  void renew();

 signals:
  void chosen(Station* station, QWidget* control, const QString& name);

 protected:
  /// Up and down go through the list while words are typed.
  bool eventFilter(QObject* watched, QEvent* event) override;

 private:
  struct Place {
    Station* station;
    QPointer<QWidget> control;
    QString name;   ///< of the control
    QString words;  ///< all that is searched
    QString where;  ///< "Foam, Margins"
  };
  void collect(Station* station);
  void search();
  void take();

  std::vector<Station*> m_stations;
  std::vector<Place> m_places;
  QLineEdit* m_words;
  QListWidget* m_list;
  QLabel* m_said;
  QString m_searched;
};

}  // namespace awl
