#pragma once
#include <QString>
#include <functional>

#include "app/desk/book.hpp"
#include "app/desk/document.hpp"
#include "core/chain/chain.hpp"

namespace awl {

/// How a maker is asked for files; by dialogs unless somebody else answers.
struct Asking {
  /// `save` false: a file that is there. Empty: none.
  std::function<QString(bool save, const QString& title, const QString& suggested, const QString& filter)> path;
  std::function<QString(const QString& title)> folder;
};

/// What a station works with. All of it outlives the stations.
struct Workplace {
  Document& document;
  const Chain& chain;
  Book& book;
  const Asking& asking;
};

}  // namespace awl
