#include "app/stand/painted_look.hpp"

namespace awl {

Vec3f colourOf(int rgb) {
  const auto part = [rgb](int shift) { return static_cast<float>((rgb >> shift) & 0xff) / 255.0f; };
  return {part(16), part(8), part(0)};
}

const PaintedLook* paintedOn(const Derived& d, const PaintedLook* look, std::size_t triangles) {
  if (look == nullptr || look->on != d.form) return nullptr;
  return look->rgb_of_face.size() == (look->ground ? look->ground->face_of.size() : triangles) ? look : nullptr;
}

void paintShell(StandBody& shell, const PaintedLook& look) {
  shell.owner.clear();  // colours are looked at, not panels: none is lit
  shell.paint.reserve(look.rgb_of_face.size());
  for (const int rgb : look.rgb_of_face) shell.paint.push_back(colourOf(rgb >= 0 ? rgb : look.rest));
  shell.colour = colourOf(look.rest);
  shell.gloss = look.gloss;
}

}  // namespace awl
