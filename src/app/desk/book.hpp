#pragma once
#include <QObject>
#include <QString>
#include <QTimer>
#include <functional>
#include <optional>

#include "core/builds/build.hpp"
#include "core/io/shop_jobs.hpp"
#include "core/io/wearers_csv.hpp"

namespace awl {

/// The shop book of this machine, opened when it is first needed; stations share it.
class Book : public QObject {
  Q_OBJECT

 public:
  explicit Book(QObject* parent = nullptr);
  ~Book() override;

  /// Where it is kept: the folder of the preferences, or the usual one.
  static QString path();
  /// Without preferences: in the XDG data folder.
  static QString usualPath();
  /// From now on it is kept in `folder`, empty for the usual one; copied there if none lies there yet, the one before
  /// stays. Remembered with QSettings. Errors: cannot_write, with the folder; then nothing is changed.
  Result<void> moveTo(const QString& folder);
  /// The open book. Errors: those of ShopBook::open, each time it is tried.
  Result<ShopBook*> get();
  /// Done once nothing more comes for a moment, and in any case before anything else is done with the book: a slow disk
  /// would be felt at every letter typed. The last of a name counts; what goes wrong is told.
  void whenHandsRest(const QString& name, std::function<Result<void>(ShopBook&)> write);

  /// Puts a sheet under the wearer of this name, who is added if not there. Answers the sheet's number.
  Result<int> put(const std::string& wearer, const TapeSheet& sheet);
  /// The job of a build, by its name and its wearer's; begun in the book if it is not there. Answers its number.
  Result<int> jobOf(const Build& build);
  /// A file of this build was written; remembered only of builds that are in the book, so that it can be told later
  /// where their wearers' measures lie. Nothing is said where the book cannot be opened.
  void wrote(const Build& build, const QString& file);
  /// All or nothing: a table that cannot be read changes nothing.
  Result<int> readCsv(const QString& path);
  Result<void> writeCsv(const QString& path);

  /// Removals, the last first, so that they can be brought back.
  Result<void> removeWearer(int id);
  Result<void> removeSheet(int id);
  bool canBringBack() const { return !m_removed.empty(); }
  Result<void> bringBack();

 signals:
  void changed();
  /// Something the maker should know, for example that a damaged book was set aside.
  void told(const QString& sentence);

 private:
  struct Removed {
    bool wearer;
    int id;
  };
  struct Waiting {
    QString name;
    std::function<Result<void>(ShopBook&)> write;
  };
  Result<ShopBook*> opened();
  void writeWaiting();

  std::optional<ShopBook> m_book;
  std::vector<Removed> m_removed;
  std::vector<Waiting> m_waiting;
  QTimer m_rest;
};

}  // namespace awl
