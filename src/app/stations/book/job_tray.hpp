#pragma once
#include <QDateEdit>
#include <QDoubleSpinBox>
#include <QLineEdit>
#include <QListWidget>
#include <QPlainTextEdit>
#include <QPushButton>

#include "app/station/station.hpp"
#include "core/io/shop_jobs.hpp"

namespace awl {

/// The build at hand as a commission: what was agreed, fittings, hours, pictures, what was changed on the foam; and the
/// search over all jobs.
class JobTray : public QWidget {
  Q_OBJECT

 public:
  /// Adds its drawers to the station.
  JobTray(Station& station, const Workplace& place);
  /// Reads the book anew.
  void renew();
  /// Another build has another page, which is read if one was before.
  void show(const Build& build);
  using QWidget::show;
  /// Adds a picture from a file.
  void addPicture(const QString& path);

 private:
  struct DayField {
    QDateEdit* edit;
    Day Job::*field;
  };
  void addAgreed();
  void addFittings();
  void addLog();
  void addFind();
  QPlainTextEdit* addText(TrayGroup* group, const QString& name, const QString& label, std::string Job::*field);
  QDoubleSpinBox* addMoney(
      TrayGroup* group, const QString& name, const QString& label, const std::function<void(Job&, int)>& put);
  void addDay(TrayGroup* group, const QString& name, const QString& label, Day Job::*field);
  /// The job is begun in the book if it is not there; written is it when the hands rest. `field`: what is changed of
  /// it.
  void change(const QString& field, const std::function<void(Job&)>& edit);
  std::optional<JobPages> pages();
  int jobHere();
  template <class T>
  bool good(const Result<T>& result);
  QString quoteAgainst(const GivenQuote& quote, double worked_min) const;
  void showLog(JobPages& pages, int job);

  Station& m_station;
  Workplace m_place;
  Job m_job;  ///< as it stands here: without a uid until a page is read, without a number until there is one
  std::vector<DayField> m_days;
  QPlainTextEdit *m_wishes, *m_better;
  QDoubleSpinBox *m_price, *m_deposit;
  QListWidget *m_fittings, *m_work, *m_photos, *m_found;
  QLineEdit *m_fitNote, *m_changePlace, *m_changeText, *m_search;
  QDateEdit* m_fitDay;
  QLabel *m_hours, *m_foundNone;
  bool m_showing = false;
};

}  // namespace awl
