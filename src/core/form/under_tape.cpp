#include "core/form/under_tape.hpp"

#include <algorithm>
#include <cmath>

#include "core/head/landmarks.hpp"

namespace awl {
namespace {

using L = Landmark;

/// A fan of card from a first corner.
void fan(Mesh& mesh, const std::vector<Vec3>& corners) {
  const int first = static_cast<int>(mesh.vertices.size());
  mesh.vertices.insert(mesh.vertices.end(), corners.begin(), corners.end());
  for (int i = 1; i + 1 < static_cast<int>(corners.size()); ++i)
    mesh.triangles.push_back({first, first + i, first + i + 1});
}

CardShape brow(const Card& c) {
  const Vec3 move(0.4 * c.aside_mm, c.up_mm, 0.0);
  const Vec3 inner = Vec3(5, 36, 97 + c.reach_mm) + move,
             outer = Vec3(8 + 0.8 * c.wide_mm, 33 - c.droop_mm, 84 + 0.6 * c.reach_mm - 0.25 * c.wide_mm) + move;
  const Vec3 lift(0, 0.5 * c.tall_mm, -0.5 * c.reach_mm - 8), sink(0, -0.25 * c.tall_mm, -0.8 * c.reach_mm - 6);
  CardShape s;
  fan(s.half, {inner, outer, outer + lift, inner + lift});
  fan(s.half, {inner, outer, outer + sink, inner + sink});
  s.ridge = {inner, outer}, s.tip = 0.5 * (inner + outer);
  return s;
}

CardShape cheek(const Card& c) {
  const Vec3 move(c.aside_mm, c.up_mm, 0.0), bone = template_place(L::zygion_l);
  const Vec3 top = bone + Vec3(0.35 * c.reach_mm - 10, 6, 26 + 0.5 * c.reach_mm) + move,
             back = bone + Vec3(0.6 * c.reach_mm + 2, -8, -0.25 * c.wide_mm) + move;
  const Vec3 low = bone + Vec3(-14, -6 - c.tall_mm - c.droop_mm, 30 + 0.3 * c.reach_mm) + move,
             front = bone + Vec3(-34, -10, 50 + 0.45 * c.reach_mm) + move;
  CardShape s;
  fan(s.half, {top, back, low});
  fan(s.half, {top, low, front});
  s.ridge = {front, top, back}, s.tip = top, s.outward = Vec3(0.57, 0, 0.82);
  return s;
}

CardShape beak(const Card& c) {
  const Vec3 nose = template_place(L::pronasale), forward(0, c.up_mm, c.aside_mm);
  const Vec3 tip = nose + Vec3(0, -c.droop_mm, c.reach_mm) + forward,
             root = template_place(L::glabella) + Vec3(0, 4, 6) + forward;
  const Vec3 arch = 0.5 * (root + tip) + Vec3(0, 0.16 * c.reach_mm + 0.25 * c.droop_mm, 0);
  const Vec3 side(0.5 * c.wide_mm, nose.y() + 8 + c.up_mm, 88),
      low(0.34 * c.wide_mm, nose.y() - c.tall_mm + c.up_mm, 96),
      under(0, nose.y() - c.tall_mm - 3 + c.up_mm, 100 + 0.2 * c.reach_mm);
  CardShape s;
  fan(s.half, {tip, arch, side, low});
  fan(s.half, {arch, root, side});
  fan(s.half, {tip, low, under});
  s.ridge = {root, arch, tip}, s.tip = tip;
  return s;
}

CardShape muzzle(const Card& c) {
  const Vec3 forward(0, c.up_mm, c.aside_mm);
  const double w = 0.5 * c.wide_mm, z = 100 + c.reach_mm, mid = -38, h = 0.5 * c.tall_mm;
  const Vec3 tl(0.8 * w, mid + h - c.droop_mm, z - 6), bl(0.72 * w, mid - h - c.droop_mm, z - 8),
      tm(0, mid + h + 3 - c.droop_mm, z), bm(0, mid - h - 2 - c.droop_mm, z - 2);
  const Vec3 back_top(w + 4, mid + h + 12, 76), back_low(w + 2, mid - h - 4, 72), bridge(0, mid + h + 22, 100);
  CardShape s;
  const auto put = [&](std::vector<Vec3> corners) {
    for (Vec3& p : corners) p += forward;
    fan(s.half, corners);
  };
  put({tm, tl, bl, bm});
  put({tl, back_top, back_low, bl});
  put({tm, bridge, back_top, tl});
  s.ridge = {bridge + forward, tm + forward}, s.tip = tm + forward;
  return s;
}

CardShape chin(const Card& c) {
  const Vec3 at = template_place(L::pogonion) + Vec3(0, c.up_mm, c.aside_mm),
             tip = at + Vec3(0, -8 - c.droop_mm, c.reach_mm),
             jaw = template_place(L::gonion_l) + Vec3(0.1 * c.wide_mm, -4, 10);
  const Vec3 corner = at + Vec3(0.4 * c.wide_mm, -10, -12 + 0.5 * c.reach_mm), top = at + Vec3(0, 0.5 * c.tall_mm, 2);
  CardShape s;
  fan(s.half, {tip, corner, top});
  fan(s.half, {corner, jaw, at + Vec3(0.4 * c.wide_mm, 0.4 * c.tall_mm, -16)});
  s.ridge = {tip, corner, jaw}, s.tip = tip;
  return s;
}

CardShape ear_point(const Card& c) {
  const Vec3 ear = template_place(L::ear_top_l) + Vec3(c.aside_mm - 4, c.up_mm, 0),
             tip = ear + Vec3(0.55 * c.reach_mm, 0.85 * c.reach_mm - c.droop_mm, -0.35 * c.reach_mm);
  CardShape s;
  fan(s.half,
      {tip, ear + Vec3(0, 0.3 * c.tall_mm, 0.5 * c.wide_mm), ear + Vec3(0, -0.5 * c.tall_mm, -0.5 * c.wide_mm)});
  s.ridge = {ear + Vec3(0, 0.3 * c.tall_mm, 0.5 * c.wide_mm), tip}, s.tip = tip, s.outward = Vec3(0.52, 0.80, -0.33);
  return s;
}

CardShape crest(const Card& c) {
  CardShape s;
  std::vector<Vec3> foot, edge;
  constexpr int kSteps = 14;
  const double reach = std::clamp(c.wide_mm / 220.0, 0.2, 1.0);
  for (int i = 0; i <= kSteps; ++i) {
    const double t = static_cast<double>(i) / kSteps, a = (0.16 + (0.5 + 0.95 * reach) * t) * 1.55;
    const Vec3 dir(0, std::sin(a), std::cos(a)),
        at = Vec3(0, 34 + c.up_mm, 1 + c.aside_mm) + dir.cwiseProduct(Vec3(0, 95, 99));
    const double high = c.reach_mm * std::sin(3.1416 * std::pow(t, 0.8)) * (1.0 - 0.25 * t) + 1.0;
    foot.push_back(at), edge.push_back(at + high * dir - Vec3(0, c.droop_mm * t, 0));
  }
  for (int i = 0; i < kSteps; ++i) fan(s.half, {foot[i], edge[i], edge[i + 1], foot[i + 1]});
  s.ridge = edge, s.tip = edge[kSteps / 2], s.outward = Vec3::UnitY();
  return s;
}

CardShape temple(const Card& c) {
  const Vec3 at = Vec3(72 + c.aside_mm, 26 + c.up_mm, 34),
             tip = at + Vec3(c.reach_mm, 0.35 * c.tall_mm - c.droop_mm, -0.6 * c.wide_mm);
  CardShape s;
  fan(s.half, {tip, at + Vec3(-6, 0.5 * c.tall_mm, 6), at + Vec3(-4, -0.5 * c.tall_mm, 8)});
  s.ridge = {at + Vec3(-6, 0.5 * c.tall_mm, 6), tip}, s.tip = tip, s.outward = Vec3::UnitX();
  return s;
}

CardShape facet(const Card& c) {
  const Vec3 at(0, 66 + c.up_mm, 90 + c.reach_mm + c.aside_mm);
  const double w = 0.5 * c.wide_mm, h = 0.5 * c.tall_mm;
  CardShape s;
  fan(s.half,
      {at + Vec3(0, h, -0.35 * h), at + Vec3(0.8 * w, h, -0.4 * h), at + Vec3(w, -h - c.droop_mm, 0),
          at + Vec3(0, -h - c.droop_mm, 0.1 * h)});
  s.ridge = {at + Vec3(0, h, -0.35 * h), at + Vec3(0.8 * w, h, -0.4 * h), at + Vec3(w, -h - c.droop_mm, 0)}, s.tip = at;
  return s;
}

}  // namespace

const std::vector<std::string>& card_kinds() {
  static const std::vector<std::string> names{"brow ridge", "cheek plane", "beak", "muzzle", "jaw and chin",
      "ear point", "crest", "temple flare", "flat facet"};
  return names;
}
const char* name_of(CardKind kind) { return card_kinds()[static_cast<std::size_t>(kind)].c_str(); }

CardShape shape_of(const Card& card) {
  switch (card.kind) {
    case CardKind::brow_ridge:
      return brow(card);
    case CardKind::cheek_plane:
      return cheek(card);
    case CardKind::beak:
      return beak(card);
    case CardKind::muzzle:
      return muzzle(card);
    case CardKind::chin:
      return chin(card);
    case CardKind::ear_point:
      return ear_point(card);
    case CardKind::crest:
      return crest(card);
    case CardKind::temple_flare:
      return temple(card);
    case CardKind::facet:
      return facet(card);
  }
  return {};
}

CardField::CardField(const std::vector<Card>& cards) {
  for (const Card& card : cards) {
    Mesh both = shape_of(card).half;
    const int n = static_cast<int>(both.vertices.size());
    for (int v = 0; v < n; ++v)
      both.vertices.push_back({-both.vertices[v].x(), both.vertices[v].y(), both.vertices[v].z()});
    const std::vector<Tri> half = both.triangles;
    for (const Tri& t : half) both.triangles.push_back({t[0] + n, t[2] + n, t[1] + n});
    for (const Vec3& p : both.vertices)
      box_.include(p + Vec3::Constant(card.soft_mm)), box_.include(p - Vec3::Constant(card.soft_mm));
    cards_.push_back({Nearest(both), card.soft_mm});
  }
}

double CardField::operator()(const Vec3& p) const {
  double least = 1e6;
  for (const One& one : cards_) least = std::min(least, std::abs(one.near.to(p).signed_mm) - one.soft_mm);
  return least;
}

std::vector<Dial> dials_of(Card& c, int number) {
  const std::string id = "card" + std::to_string(number) + ".", group = "Under the tape, " + std::to_string(number);
  Dials dials;
  dials.group(group);
  dials.choice(id + "kind", c.kind, card_kinds(), "Card shape", "What is laid on the headform before the tape.");
  dials.length(id + "reach", c.reach_mm, {2, 220}, "Stands off", "How far its edge is from the head.");
  dials.length(id + "wide", c.wide_mm, {10, 240}, "Wide", "Along the head.");
  dials.length(id + "tall", c.tall_mm, {5, 120}, "Tall", "The other way.");
  dials.length(id + "up", c.up_mm, {-60, 80}, "Moved up", "A minus lowers it.");
  dials.length(id + "aside", c.aside_mm, {-40, 60}, "Moved outwards", "Of a shape in the middle: forward.");
  dials.length(id + "droop", c.droop_mm, {-80, 100}, "Tip lowered", "A minus raises it.");
  dials.length(id + "soft", c.soft_mm, {0.5, 15}, "Edge radius", "Small is a sharp edge under the tape.");

  return std::move(dials).all();
}

}  // namespace awl
