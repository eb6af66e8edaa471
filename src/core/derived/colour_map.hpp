#pragma once
#include "core/coat/coat_spec.hpp"
#include "core/derived/derived.hpp"

namespace awl {

/// Where the colours of a build lie on its form, how large they are and along what lengths they meet.
struct ColourMap {
  std::vector<int> area_of_face;             ///< id of the colour area, by triangle of the form's surface; 0: none
  std::vector<std::pair<int, int>> details;  ///< detail, area: what is painted for itself
  std::vector<int> areas;                    ///< ids of those that are found, in the spec's order
  std::vector<double> area_mm2;              ///< of each
  std::vector<std::string> host;             ///< name of the part each lies on
  std::vector<int> part;                     ///< id of that part
  std::vector<std::vector<double>> border_mm, reach_mm;
  std::vector<double> bare_mm;  ///< along what is never painted
  std::vector<Error> lost;      ///< areas whose part, panel or detail is not there, with their places
  int area_of_detail(int detail) const;
};

/// What a colour area is of, read from its words: "part 2", "inside 2", "panel 2 crown left", "detail 5".
struct AreaOf {
  enum class Kind { part, inside, panel, detail } kind = Kind::part;
  int id = 0;
  std::string panel;
};
/// Errors: bad_file with the words.
Result<AreaOf> area_of(const ColourArea& area);

/// What colours are laid on.
struct ColourGround {
  const Form& form;
  const PanelSet* panels = nullptr;
  const std::vector<std::shared_ptr<const Dressed>>* dressed = nullptr;
  const std::vector<ColourArea>& areas;
  std::function<int(int part)> on;  ///< the part a part stands on; 0: the head
};

/// A panel or a detail goes before the part it lies on, whatever their order.
/// Accuracy: borders run along edges of the form's mesh; of a detail, along its pieces' outlines; the reach of spray is
///           taken between areas of one part that do not meet. Feet of parts on parts within 12 mm count as borders.
ColourMap colour_map(const ColourGround& ground);

}  // namespace awl
