#pragma once
#include <QHeaderView>
#include <QTableWidget>

namespace awl {

/// A table to choose one row of: no row numbers, nothing typed in it.
inline void asPickTable(QTableWidget* table) {
  table->verticalHeader()->hide();
  table->setEditTriggers(QAbstractItemView::NoEditTriggers);
  table->setSelectionBehavior(QAbstractItemView::SelectRows);
  table->setSelectionMode(QAbstractItemView::SingleSelection);
}

}  // namespace awl
