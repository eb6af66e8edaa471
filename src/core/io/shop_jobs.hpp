#pragma once
#include "core/base/moment.hpp"
#include "core/coat/learn.hpp"
#include "core/io/shop_book.hpp"

namespace awl {

/// One commission: who it is for, what was agreed, and when.
struct Job {
  int id = 0;
  std::string uid;  ///< of the build and its calendar; the same for good
  std::string title;
  int wearer = 0;  ///< 0: nobody of the book
  std::string build_file, wishes, better;
  std::optional<int> price_cents;
  int deposit_cents = 0;
  Day deposit_day, agreed, due, handed_over;  ///< Day{0}: not yet
  bool operator==(const Job&) const = default;
};

/// By which a build's job and calendar are known: of its name and its wearer's.
std::string job_uid(const std::string& build, const std::string& wearer);

struct Fitting {
  int id = 0, job = 0;
  Day due, done;  ///< Day{0}: not yet
  std::string note;
  bool operator==(const Fitting&) const = default;
};

struct Photo {
  int id = 0, job = 0, wearer = 0;  ///< 0: of none
  Moment taken = 0;
  std::string step, note;
  std::string bytes;  ///< PNG or JPEG as it came
};

/// Hours at the bench. `ended` is missing while it goes on.
struct Work {
  int id = 0, job = 0;
  std::string stage, step;
  Moment began = 0;
  std::optional<Moment> ended;
  double rule_min = 0.0;
  std::string note = {};
  bool operator==(const Work&) const = default;
};

/// What was cut or taken in on the foam, and whether the pattern has it too.
struct FoamChange {
  int id = 0, job = 0;
  Day day;
  int version = 0;
  std::string place, text;
  bool on_pattern = false;
  bool operator==(const FoamChange&) const = default;
};

struct GivenQuote {
  int id = 0, job = 0;
  Day day;
  std::string text;
  int price_cents = 0;
};

/// Where words were found.
struct Found {
  int job = 0;
  std::string kind, text;  ///< "wishes", "better", "note", "fitting", "foam", "picture"
};

/// All the book holds of one wearer.
struct WearerRecord {
  BookWearer wearer;
  std::vector<BookSheet> sheets;
  std::vector<Job> jobs;
  std::vector<Fitting> fittings;
  std::vector<Photo> photos;  ///< with their bytes
  std::vector<FoamChange> changes;
  std::vector<Work> work;
  std::vector<std::filesystem::path> files;  ///< that were written of their jobs and are still there
};

/// The pages of the book that tell of work: jobs, hours, pictures, notes; and forgetting people for good.
///
/// Contract: the book outlives it. Errors of all members: as of ShopBook's.
class JobPages {
 public:
  explicit JobPages(ShopBook& book) : base_(*book.base_) {}

  /// Newest first.
  Result<std::vector<Job>> jobs() const;
  Result<std::optional<Job>> job_of(const std::string& uid) const;
  /// Adds it, or changes the one of the same uid; answers its number. Errors: empty_input without a title or uid.
  Result<int> keep(const Job& job);
  Result<void> remove(int job);
  Result<void> restore(int job);

  Result<std::vector<Fitting>> fittings(int job) const;
  Result<int> keep(const Fitting& fitting);  ///< id 0 adds
  Result<void> drop_fitting(int id);

  /// Without their bytes. Errors of adding: bad_file if it is no picture, too_large beyond 20 MB.
  Result<std::vector<Photo>> photos(int job) const;
  Result<std::string> picture(int photo) const;
  Result<int> add(const Photo& photo);
  Result<void> drop_photo(int id);

  Result<std::vector<FoamChange>> changes(int job) const;
  Result<int> keep(const FoamChange& change);  ///< id 0 adds

  /// Begins a step; whatever is still going on of this job is ended then. Errors: out_of_range if the clock was set
  /// back behind its beginning: the work then counts as nothing, and is told.
  Result<int> begin_work(const Work& work);
  Result<void> end_work(int id, Moment ended);
  Result<std::vector<Work>> work(int job) const;
  Result<std::optional<Work>> going_on(int job) const;
  Result<void> drop_work(int id);
  /// What is to be remembered of a step, in place of what was written before.
  Result<void> note_work(int id, const std::string& note);

  /// A file that holds something of a job was written: a build, a print, a table.
  Result<void> wrote(int job, const std::filesystem::path& file);
  /// Those of a wearer that are still there, with the copies ("~") beside them.
  Result<std::vector<std::filesystem::path>> files_of(int wearer) const;

  /// What is logged of each stage over all jobs but one: sums of a job's steps of that stage.
  Result<std::map<std::string, std::vector<StageLog>>> logs(int but_job = 0) const;

  Result<int> give(const GivenQuote& quote);
  Result<std::vector<GivenQuote>> quotes(int job) const;

  /// Jobs, notes, fittings and changes that hold all these words, or their beginnings.
  Result<std::vector<Found>> search(const std::string& words) const;

  Result<WearerRecord> all_of(int wearer) const;
  /// Measures, pictures, notes and what was said of fittings, gone from the file, its log and its free pages; prices
  /// and hours of the jobs stay, without a name. Cannot be undone. Errors: unknown_name; locked if another window
  /// reads the book, whose log then holds traces until that is closed.
  Result<void> forget(int wearer);

 private:
  ShopBook::Base& base_;
};

/// All of one wearer into a folder: measures as CSV, what is written as text, pictures as they are. Answers the files.
Result<std::vector<std::filesystem::path>> carry_out(const WearerRecord& record, const std::filesystem::path& folder);

}  // namespace awl
