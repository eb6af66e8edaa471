#pragma once
#include <optional>
#include <string>
#include <vector>

namespace awl {

enum class Severity { note, warning, stop };

/// "note", "warning" or "stop".
const char* name_of(Severity severity);

/// One act that mends what a remark found.
struct Remedy {
  std::string text;  ///< on the button
  std::string act;   ///< machine name of the act with its value, for example "set-gores 4"
  bool operator==(const Remedy&) const = default;
};

/// A judgement about the work: what is wrong, why it matters, and the act that mends it.
struct Remark {
  std::string id;  ///< stable name of the kind, for example "head.contradiction"
  Severity severity = Severity::note;
  std::string where;  ///< the place, for example "HC" or "panels/crown left"
  std::string sentence;
  std::optional<double> measured, limit;
  std::vector<Remedy> remedies;  ///< what to press, the best first; empty if there is nothing to press
  bool operator==(const Remark&) const = default;
};

/// Remarks as they are made: what, where, in which words, then what was measured and what to press.
class Remarks {
 public:
  /// The remark just made, until the next one is.
  class Made {
   public:
    explicit Made(Remark& remark) : remark_(remark) {}
    Made& measured(double value, std::optional<double> limit = {}) {
      remark_.measured = value;
      remark_.limit = limit;
      return *this;
    }
    Made& offer(std::string text, std::string act) { return offer({{std::move(text), std::move(act)}}); }
    Made& offer(const std::vector<Remedy>& remedies) {
      remark_.remedies.insert(remark_.remedies.end(), remedies.begin(), remedies.end());
      return *this;
    }

   private:
    Remark& remark_;
  };
  Made note(std::string id, std::string where, std::string sentence);
  Made warn(std::string id, std::string where, std::string sentence);
  Made stop(std::string id, std::string where, std::string sentence);
  Made add(Remark remark);
  void add(const std::vector<Remark>& remarks);
  /// Most serious first, otherwise as they came.
  std::vector<Remark> sorted() &&;

 private:
  std::vector<Remark> all_;
};

/// Most serious first, otherwise as they came.
void sort_remarks(std::vector<Remark>& remarks);

}  // namespace awl
