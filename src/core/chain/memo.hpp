#pragma once
#include <algorithm>
#include <deque>
#include <functional>
#include <memory>

#include "core/base/result.hpp"

namespace awl {

/// Remembers the last few results under their inputs; what was asked for last is forgotten last.
template <class Key, class Value>
class Memo {
 public:
  using Held = std::shared_ptr<const Value>;
  explicit Memo(std::size_t kept = 4) : kept_(kept) {}

  Result<Held> get(const Key& key, const std::function<Result<Value>()>& make) {
    for (std::size_t i = 0; i < entries_.size(); ++i)
      if (entries_[i].first == key) {
        std::rotate(
            entries_.begin(), entries_.begin() + static_cast<long>(i), entries_.begin() + static_cast<long>(i) + 1);
        return entries_.front().second;
      }
    auto made = make();
    if (!made) return fail(made);
    entries_.push_front({key, std::make_shared<const Value>(std::move(*made))});
    if (entries_.size() > kept_) entries_.pop_back();
    return entries_.front().second;
  }

 private:
  std::size_t kept_;
  std::deque<std::pair<Key, Held>> entries_;
};

}  // namespace awl
