#pragma once
#include <QAction>

#include "app/station/station.hpp"

namespace awl {

/// One page of the help, as Markdown.
struct HelpPage {
  QString id, group, title, text;
};

/// Where the words and pictures of the help stand: beside the program, or in the source tree.
QString helpFolder();
QString helpPictures();

/// What a control is called in the help: its name for a screen reader, or what stands on it.
QString nameOf(const QWidget& control);

/// All pages: what is written by hand in data/help, with what the program says of itself added: the drawers and
/// controls of each station, the dials of every kind of part and detail, the glossary, the keys.
std::vector<HelpPage> helpPages(const std::vector<Station*>& stations, const QList<QAction*>& actions);

}  // namespace awl
