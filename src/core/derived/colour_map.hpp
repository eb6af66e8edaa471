#pragma once
#include "core/coat/coat_spec.hpp"
#include "core/derived/paint_ground.hpp"

namespace awl {

/// Where the colours of a build lie on its form, how large they are and along what lengths they meet.
struct ColourMap {
  std::shared_ptr<const PaintGround> ground;  ///< null where no line parts the form
  /// Id of the colour area, by triangle of the ground, or of the form's surface without one; 0: none.
  std::vector<int> area_of_face;
  std::vector<std::pair<int, int>> details;  ///< detail, area: what is painted for itself
  std::vector<int> areas;                    ///< ids of those that are found, in the spec's order
  std::vector<double> area_mm2;              ///< of each
  std::vector<std::string> host;             ///< name of the part each lies on
  std::vector<int> part;                     ///< id of that part
  std::vector<std::vector<double>> border_mm, reach_mm;
  std::vector<double> bare_mm;    ///< along what is never painted
  std::vector<Error> lost;        ///< areas whose part, panel or detail is not there, with their places
  std::vector<Error> lost_lines;  ///< that could not be followed on the form
  int area_of_detail(int detail) const;
};

/// What a colour area is of, read from its words: "part 2", "inside 2", "panel 2 crown left", "detail 5",
/// "field 2 12.5 80 40" and "field 2 12.5 80 40 alone".
struct AreaOf {
  enum class Kind { part, inside, panel, field, detail } kind = Kind::part;
  int id = 0;
  std::string panel;
  Vec3 seed = Vec3::Zero();  ///< of a field, a place in it, in the frame of the part's form
  bool both_sides = true;
};
/// Errors: bad_file with the words.
Result<AreaOf> area_of(const ColourArea& area);

/// The words of an area that is a field, and its image on the other side.
std::string words_of(const PaintField& field);

/// What colours are laid on.
struct ColourGround {
  const Form& form;
  const PanelSet* panels = nullptr;
  const std::vector<std::shared_ptr<const Dressed>>* dressed = nullptr;
  const std::vector<ColourArea>& areas;
  std::function<int(int part)> on;  ///< the part a part stands on; 0: the head
};

/// What is between lines goes before a panel, and that before the part it lies on, whatever their order.
/// Accuracy: borders run along edges of the form's mesh or of its ground; of a detail, along its pieces' outlines; the
/// reach of spray is
///           taken between areas of one part that do not meet. Feet of parts on parts within 12 mm count as borders.
ColourMap colour_map(const ColourGround& ground);

}  // namespace awl
