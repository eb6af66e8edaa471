#pragma once
#include <vector>

namespace awl {

/// A picture without its colours, row by row from above; pixel (i, j) has its middle at (i + 0.5, j + 0.5). From 0,
/// black, to 255.
struct GreyPicture {
  int width = 0, height = 0;
  std::vector<float> grey;
  float at(int x, int y) const { return grey[static_cast<std::size_t>(y) * width + x]; }
};

}  // namespace awl
