#include "core/builds/order.hpp"

#include <algorithm>
#include <functional>
#include <set>

namespace awl {
namespace {

std::vector<int> meant_by(const std::string& word, const std::vector<std::string>& names) {
  std::vector<int> found;
  for (int i = 0; i < static_cast<int>(names.size()); ++i)
    if (names[i] == word || names[i].starts_with(word + ",")) found.push_back(i);
  return found;
}

/// A circle among those not yet placed: every one of them waits for another of them.
std::string circle_in(
    const std::vector<std::string>& names, const std::vector<std::set<int>>& before, const std::vector<char>& placed) {
  int at = static_cast<int>(std::find(placed.begin(), placed.end(), 0) - placed.begin());
  std::vector<int> way;
  while (std::find(way.begin(), way.end(), at) == way.end()) {
    way.push_back(at);
    at = *std::find_if(before[at].begin(), before[at].end(), [&](int b) { return !placed[b]; });
  }
  // The way runs backwards in time; what lies before the circle is no part of it.
  std::string text = names[at];
  for (auto i = way.end(); i != std::find(way.begin(), way.end(), at);) text += " before " + names[*--i];
  return text;
}

}  // namespace

Result<std::vector<int>> in_order(const std::vector<std::string>& names, const std::vector<OrderRule>& rules) {
  const int n = static_cast<int>(names.size());
  std::vector<std::set<int>> before(n);
  for (const OrderRule& rule : rules) {
    const auto first = meant_by(rule.first, names), then = meant_by(rule.then, names);
    for (const auto& [word, found] : {std::pair(&rule.first, &first), std::pair(&rule.then, &then)})
      if (found->empty())
        return fail(Errc::unknown_name, "There is no piece or part called \"" + *word + "\" to put in order.",
            "order/" + *word);
    for (const int b : then)
      for (const int a : first)
        if (a != b)
          before[b].insert(a);
        else if (rule.first == rule.then)
          return fail(Errc::no_solution, "\"" + rule.first + "\" cannot go on before itself.", "order/" + rule.first);
  }
  std::vector<int> order;
  std::vector<char> placed(n, 0);
  while (static_cast<int>(order.size()) < n) {
    int next = -1;
    for (int i = 0; i < n && next < 0; ++i)
      if (!placed[i] && std::all_of(before[i].begin(), before[i].end(), [&](int b) { return placed[b] != 0; }))
        next = i;
    if (next < 0) {
      const std::string circle = circle_in(names, before, placed);
      return fail(Errc::no_solution, "The order runs in a circle: " + circle + ". Take one of these rules out.",
          "order/" + circle.substr(0, circle.find(" before ")));
    }
    placed[next] = 1;
    order.push_back(next);
  }
  return order;
}

}  // namespace awl
