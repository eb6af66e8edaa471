#pragma once
#include <algorithm>
#include <condition_variable>
#include <deque>
#include <functional>
#include <list>
#include <memory>
#include <mutex>
#include <optional>

#include "core/base/parallel.hpp"
#include "core/base/result.hpp"

namespace awl {

/// Remembers the last few results under their inputs; what was asked for last is forgotten last.
///
/// Threads: several may ask at once, and what two ask for is made by one of them while the other waits. What is made
/// may itself ask, as long as nothing asks for itself.
template <class Key, class Value>
class Memo {
 public:
  using Held = std::shared_ptr<const Value>;
  explicit Memo(std::size_t kept = 4) : kept_(kept) {}

  /// Errors: those of `make`, for all who wait; nothing is remembered then.
  Result<Held> get(const Key& key, const std::function<Result<Value>()>& make) {
    std::unique_lock lock(door_);
    for (;;) {
      if (const auto known = remembered(key)) return known;
      const auto made = std::find_if(making_.begin(), making_.end(), [&](const auto& one) { return one->key == key; });
      if (made == making_.end()) break;
      const std::shared_ptr<Making> one = *made;
      const LentCore lent;
      finished_.wait(lock, [&] { return one->is_done; });
      if (one->result) return *one->result;  // else it threw: made once more here
    }
    const auto own = std::make_shared<Making>(key);
    making_.push_back(own);
    struct Leaving {
      Memo& memo;
      std::unique_lock<std::mutex>& lock;
      std::shared_ptr<Making> own;
      ~Leaving() {
        if (!lock.owns_lock()) lock.lock();
        own->is_done = true;
        memo.making_.remove(own);
        memo.finished_.notify_all();
      }
    } const leaving{*this, lock, own};
    lock.unlock();
    auto made = make();
    Result<Held> result = made ? Result<Held>(std::make_shared<const Value>(std::move(*made))) : fail(made);
    lock.lock();
    own->result = result;
    if (!result) return result;
    entries_.push_front({key, *result});
    if (entries_.size() > kept_) entries_.pop_back();
    return result;
  }

 private:
  struct Making {
    explicit Making(Key k) : key(std::move(k)) {}
    Key key;
    bool is_done = false;
    std::optional<Result<Held>> result;  ///< none: it threw
  };

  Held remembered(const Key& key) {
    for (auto at = entries_.begin(); at != entries_.end(); ++at)
      if (at->first == key) {
        std::rotate(entries_.begin(), at, std::next(at));
        return entries_.front().second;
      }
    return nullptr;
  }

  std::size_t kept_;
  std::mutex door_;
  std::condition_variable finished_;
  std::deque<std::pair<Key, Held>> entries_;
  std::list<std::shared_ptr<Making>> making_;
};

}  // namespace awl
