#include "core/seam/truing_moves.hpp"

#include <Eigen/SparseCholesky>
#include <algorithm>
#include <array>
#include <cmath>
#include <optional>
#include <set>

#include "core/seam/follow.hpp"

namespace awl {
namespace {

constexpr double kTurnedCornerDeg = 32.0, kEvenSidesMm = 1e-4;
constexpr int kEvenSideRounds = 4;

std::map<int, std::size_t> border_places(const Panel& panel) {
  std::map<int, std::size_t> place;
  for (std::size_t i = 0; i < panel.border.size(); ++i) place[panel.vertex_of[panel.border[i].a]] = i;
  return place;
}

/// Whether a panel of a mirrored set lies across the middle.
bool lies_across(const PanelSet& set, const Panel& panel) {
  const auto place = border_places(panel);
  return std::any_of(panel.border.begin(), panel.border.end(), [&](const BorderEdge& e) {
    const int v = panel.vertex_of[e.a], twin = set.form.twin_of[v];
    return twin != v && place.count(twin) != 0;
  });
}

/// Vertices of the triangles of the left half of a mirrored form.
std::vector<char> left_vertices(const PanelSet& set) {
  std::vector<char> left(set.form.mesh.vertices.size(), 0);
  for (std::size_t f = 0; f < set.form.mesh.triangles.size() / 2; ++f)
    for (const int v : set.form.mesh.triangles[f]) left[v] = 1;
  return left;
}

/// How much of each knot's move a place along a stretch takes: cubic Hermite, tangents by the knots beside.
std::vector<std::pair<int, double>> shares_at(double s, int spans) {
  const int k = std::min(spans - 1, static_cast<int>(s));
  const double t = s - k, h0 = (1 + 2 * t) * (1 - t) * (1 - t), h1 = t * t * (3 - 2 * t), m0 = t * (1 - t) * (1 - t),
               m1 = t * t * (t - 1);
  std::map<int, double> shares;
  shares[k] += h0, shares[k + 1] += h1;
  const auto tangent = [&](int at, double m) {
    const int from = std::max(0, at - 1), to = std::min(spans, at + 1);
    const double step = 1.0 / (to - from);
    shares[to] += m * step, shares[from] -= m * step;
  };
  tangent(k, m0), tangent(k + 1, m1);
  return {shares.begin(), shares.end()};
}

/// How a panel moves, from what each number does to the rows of its border.
TruingMoves::OfPanel of_entries(const Panel& panel, const std::map<std::pair<std::size_t, int>, double>& entries) {
  TruingMoves::OfPanel made;
  made.panel = panel.id.value;
  const auto rows = static_cast<Eigen::Index>(2 * panel.border.size());
  std::map<int, Eigen::Index> column;
  for (const auto& [key, share] : entries) column.try_emplace(key.second, 0);
  for (auto& [number, c] : column) c = static_cast<Eigen::Index>(made.columns.size()), made.columns.push_back(number);
  made.border = Eigen::MatrixXd::Zero(rows, static_cast<Eigen::Index>(made.columns.size()));
  for (const auto& [key, share] : entries)
    made.border(static_cast<Eigen::Index>(key.first), column[key.second]) = share;
  made.flat = followed_border(panel, made.border);
  return made;
}

}  // namespace

Eigen::Matrix2d flat_mirror(const PanelSet& set, const Panel& panel) {
  std::map<int, int> local;
  for (std::size_t v = 0; v < panel.vertex_of.size(); ++v) local[panel.vertex_of[v]] = static_cast<int>(v);
  Vec2 middle = Vec2::Zero();
  for (const Vec2& p : panel.flat) middle += p / static_cast<double>(panel.flat.size());
  Eigen::Matrix2d m = Eigen::Matrix2d::Zero();
  for (std::size_t v = 0; v < panel.flat.size(); ++v)
    if (const auto twin = local.find(set.form.twin_of[panel.vertex_of[v]]); twin != local.end())
      m += (panel.flat[v] - middle) * (panel.flat[twin->second] - middle).transpose();
  const double twice = std::atan2(m(0, 1) + m(1, 0), m(0, 0) - m(1, 1));
  Eigen::Matrix2d mirror;
  mirror << std::cos(twice), std::sin(twice), std::sin(twice), -std::cos(twice);
  return mirror;
}

TruingMoves::TruingMoves(const PanelSet& set, bool half, double knot_mm) : half_(half), knot_mm_(knot_mm) {
  if (half) left_ = left_vertices(set);
  const Borders borders(set, kTurnedCornerDeg);
  for (const Panel& panel : set.panels)
    if (!half || !panel.mirror_of) add_panel(set, borders, panel.id.value);
}

void TruingMoves::add_panel(const PanelSet& set, const Borders& borders, int index) {
  const Panel& panel = set.panels[static_cast<std::size_t>(index)];
  const Mesh& form = set.form.mesh;
  const std::size_t n = panel.border.size();
  const bool across = half_ && lies_across(set, panel);
  const auto vertex = [&](std::size_t i) { return panel.vertex_of[panel.border[i % n].a]; };
  const auto is_left = [&](std::size_t i) { return !across || left_[vertex(i)] != 0; };
  const auto in_middle = [&](std::size_t i) { return half_ && set.form.twin_of[vertex(i)] == vertex(i); };
  // Of an edge in the middle of a panel across it neither end alone tells the side; both ends left do.
  const auto own = [&](std::size_t i) {
    return is_left(i) && is_left(i + 1) && !(across && in_middle(i) && in_middle(i + 1));
  };
  const auto is_corner = [&](std::size_t i) {
    return borders.corner({index, i % n}) || in_middle(i) || own(i % n) != own((i + n - 1) % n);
  };
  const Eigen::Matrix2d mirror = across ? flat_mirror(set, panel) : Eigen::Matrix2d::Identity();
  const double axis_rad = 0.5 * std::atan2(mirror(0, 1), mirror(0, 0));
  const Vec2 axis(std::cos(axis_rad), std::sin(axis_rad));

  std::map<std::pair<std::size_t, int>, double> entries;  // row of the border, number -> share
  const auto put = [&](std::size_t i, int number, const Vec2& share) {
    entries[{2 * i, number}] += share.x(), entries[{2 * i + 1, number}] += share.y();
  };
  using Knot = std::vector<std::pair<int, Vec2>>;  // its numbers, and which way each moves it
  const auto fresh_knot = [&](bool on_axis) {
    if (on_axis) return Knot{{count_++, axis}};
    const int x = count_++, y = count_++;
    return Knot{{x, Vec2::UnitX()}, {y, Vec2::UnitY()}};
  };
  std::map<std::size_t, Knot> corners;
  const auto corner = [&](std::size_t i) -> const Knot& {
    const auto [at, fresh] = corners.try_emplace(i % n);
    if (fresh) at->second = fresh_knot(across && in_middle(i));
    return at->second;
  };
  const auto run_from = [&](std::size_t from, bool round) {
    std::vector<double> along{0.0};
    std::size_t to = from;
    do {
      along.push_back(along.back() + (form.vertices[vertex(to)] - form.vertices[vertex(to + 1)]).norm()), ++to;
    } while (to < from + n && (round || !is_corner(to)));
    const int spans = std::max(round ? 4 : 1, static_cast<int>(std::lround(along.back() / knot_mm_)));
    std::vector<Knot> knots{corner(from)};
    for (int k = 1; k < spans; ++k) knots.push_back(fresh_knot(false));
    knots.push_back(corner(to));
    for (std::size_t k = from + 1; k < to; ++k)
      for (const auto& [knot, share] : shares_at(spans * along[k - from] / along.back(), spans))
        for (const auto& [number, way] : knots[static_cast<std::size_t>(knot)]) put(k % n, number, share * way);
  };
  bool any = false;
  for (std::size_t i = 0; i < n; ++i)
    if (own(i) && is_corner(i)) run_from(i, false), any = true;
  if (!any) run_from(0, true);
  for (const auto& [i, knot] : corners)
    for (const auto& [number, way] : knot) put(i, number, way);
  // The other half moves as the image of this one.
  if (across) {
    const auto place = border_places(panel);
    std::map<std::size_t, std::map<int, Vec2>> by_place;
    for (const auto& [key, share] : entries) {
      auto [at, made] = by_place[key.first / 2].try_emplace(key.second, Vec2::Zero());
      at->second[key.first % 2 == 0 ? 0 : 1] += share;
    }
    for (std::size_t k = 0; k < n; ++k) {
      if (is_left(k)) continue;
      const auto twin = place.find(set.form.twin_of[vertex(k)]);
      if (twin == place.end()) continue;
      if (const auto of = by_place.find(twin->second); of != by_place.end())
        for (const auto& [number, way] : of->second) put(k, number, mirror * way);
    }
  }
  panels_.push_back(of_entries(panel, entries));
}

namespace {

/// The border vertices of the panels that are worked on, and which of them each other one follows.
class FreeVertices {
 public:
  FreeVertices(const PanelSet& set, bool half) : set_(set), half_(half) {
    if (half) left_ = left_vertices(set);
    for (const Panel& panel : set.panels) {
      place_.push_back(border_places(panel));
      across_.push_back(half && !panel.mirror_of && lies_across(set, panel));
    }
  }

  struct Vertex {
    int panel = -1;
    std::size_t at = 0;
    bool operator==(const Vertex&) const = default;
    auto operator<=>(const Vertex&) const = default;
  };
  /// The vertex that stands for this one in the half that is worked on.
  std::optional<Vertex> stands_for(int panel, int form_vertex) const {
    const Panel& p = set_.panels[static_cast<std::size_t>(panel)];
    if (half_ && p.mirror_of) return found(p.mirror_of->value, set_.form.twin_of[form_vertex]);
    const bool other = half_ && across_[static_cast<std::size_t>(panel)] && left_[form_vertex] == 0;
    return found(panel, other ? set_.form.twin_of[form_vertex] : form_vertex);
  }
  bool works_on(const Panel& panel) const { return !half_ || !panel.mirror_of; }
  bool across(int panel) const { return across_[static_cast<std::size_t>(panel)] != 0; }
  bool left(int form_vertex) const { return !half_ || left_[form_vertex] != 0; }

 private:
  std::optional<Vertex> found(int panel, int form_vertex) const {
    const auto& places = place_[static_cast<std::size_t>(panel)];
    const auto at = places.find(form_vertex);
    if (at == places.end()) return std::nullopt;
    return Vertex{panel, at->second};
  }
  const PanelSet& set_;
  bool half_;
  std::vector<char> left_, across_;
  std::vector<std::map<int, std::size_t>> place_;
};

/// Sides of a seam's edge that are to be equally long: from vertex to vertex, on one panel and on the other.
using EvenPair = std::array<FreeVertices::Vertex, 4>;

std::vector<EvenPair> pairs_to_even(const PanelSet& set, const FreeVertices& free) {
  const Borders borders(set, kTurnedCornerDeg);
  std::set<EvenPair> pairs;
  for (const Panel& panel : set.panels) {
    if (!free.works_on(panel)) continue;
    for (std::size_t i = 0; i < panel.border.size(); ++i) {
      const BorderSpot& other = borders.partner({panel.id.value, i});
      if (!other.there()) continue;
      const int va = panel.vertex_of[panel.border[i].a], vb = panel.vertex_of[panel.border[i].b];
      const auto a = free.stands_for(panel.id.value, va), b = free.stands_for(panel.id.value, vb),
                 c = free.stands_for(other.panel, va), d = free.stands_for(other.panel, vb);
      if (!a || !b || !c || !d || (std::minmax(*a, *b) == std::minmax(*c, *d))) continue;
      EvenPair pair{std::min(*a, *b), std::max(*a, *b), std::min(*c, *d), std::max(*c, *d)};
      if (std::pair(pair[2], pair[3]) < std::pair(pair[0], pair[1])) pair = {pair[2], pair[3], pair[0], pair[1]};
      pairs.insert(pair);
    }
  }
  return {pairs.begin(), pairs.end()};
}

void copy_flat_images(const PanelSet& set, std::vector<std::vector<Vec2>>& flat) {
  for (const Panel& right : set.panels) {
    if (!right.mirror_of) continue;
    auto& image = flat[static_cast<std::size_t>(right.id.value)];
    image = flat[static_cast<std::size_t>(right.mirror_of->value)];
    for (Vec2& p : image) p.x() = -p.x();
  }
}

}  // namespace

std::vector<SeamPair> seam_pairs(const PanelSet& set, bool half) {
  const FreeVertices free(set, half);
  const auto local = [&](const FreeVertices::Vertex& v) {
    return set.panels[static_cast<std::size_t>(v.panel)].border[v.at].a;
  };
  std::vector<SeamPair> all;
  for (const EvenPair& pair : pairs_to_even(set, free))
    all.push_back({{pair[0].panel, local(pair[0]), local(pair[1])}, {pair[2].panel, local(pair[2]), local(pair[3])}});
  return all;
}

double even_seams(const PanelSet& set, bool half, std::vector<std::vector<Vec2>>& flat) {
  const FreeVertices free(set, half);
  const auto pairs = pairs_to_even(set, free);
  std::map<FreeVertices::Vertex, int> number;
  for (const EvenPair& pair : pairs)
    for (const auto& v : pair) number.try_emplace(v, static_cast<int>(number.size()));
  const auto place = [&](const FreeVertices::Vertex& v) -> const Vec2& {
    return flat[static_cast<std::size_t>(v.panel)]
               [static_cast<std::size_t>(set.panels[static_cast<std::size_t>(v.panel)].border[v.at].a)];
  };
  double worst = 0.0;
  for (int round = 0; round <= kEvenSideRounds; ++round) {
    Eigen::VectorXd rest(static_cast<Eigen::Index>(pairs.size()));
    std::vector<Eigen::Triplet<double>> entries;
    for (std::size_t k = 0; k < pairs.size(); ++k) {
      double gap = 0.0;
      for (const int side : {0, 1}) {
        const auto &a = pairs[k][static_cast<std::size_t>(2 * side)],
                   &b = pairs[k][static_cast<std::size_t>(2 * side + 1)];
        const Vec2 edge = place(b) - place(a), way = (side == 0 ? 1.0 : -1.0) * edge.normalized();
        gap += (side == 0 ? 1.0 : -1.0) * edge.norm();
        for (const int xy : {0, 1}) {
          entries.emplace_back(static_cast<int>(k), 2 * number.at(b) + xy, way[xy]);
          entries.emplace_back(static_cast<int>(k), 2 * number.at(a) + xy, -way[xy]);
        }
      }
      rest[static_cast<Eigen::Index>(k)] = gap;
    }
    worst = pairs.empty() ? 0.0 : rest.cwiseAbs().maxCoeff();
    if (worst < kEvenSidesMm || round == kEvenSideRounds) break;
    Eigen::SparseMatrix<double> j(rest.size(), static_cast<Eigen::Index>(2 * number.size()));
    j.setFromTriplets(entries.begin(), entries.end());
    Eigen::SparseMatrix<double> square = j * j.transpose();
    for (Eigen::Index i = 0; i < square.rows(); ++i) square.coeffRef(i, i) += 1e-9;
    const Eigen::SimplicialLDLT<Eigen::SparseMatrix<double>> solver(square);
    if (solver.info() != Eigen::Success) break;
    const Eigen::VectorXd moves = j.transpose() * solver.solve(-rest);
    for (const Panel& panel : set.panels) {
      if (!free.works_on(panel)) continue;
      const bool across = free.across(panel.id.value);
      const Eigen::Matrix2d mirror = across ? flat_mirror(set, panel) : Eigen::Matrix2d::Identity();
      Eigen::MatrixXd border = Eigen::MatrixXd::Zero(static_cast<Eigen::Index>(2 * panel.border.size()), 1);
      for (std::size_t i = 0; i < panel.border.size(); ++i) {
        const int v = panel.vertex_of[panel.border[i].a];
        const auto of = free.stands_for(panel.id.value, v);
        if (!of) continue;
        const auto at = number.find(*of);
        if (at == number.end()) continue;
        Vec2 move = moves.segment<2>(2 * at->second);
        if (across && !free.left(v)) move = mirror * move;
        if (across && set.form.twin_of[v] == v) move = 0.5 * (move + mirror * move);
        border.block<2, 1>(static_cast<Eigen::Index>(2 * i), 0) = move;
      }
      const Eigen::MatrixXd all = followed_border(panel, border);
      auto& places = flat[static_cast<std::size_t>(panel.id.value)];
      for (std::size_t v = 0; v < places.size(); ++v) places[v] += all.block<2, 1>(static_cast<Eigen::Index>(2 * v), 0);
    }
    copy_flat_images(set, flat);
  }
  return worst;
}

std::vector<std::vector<Vec2>> TruingMoves::moved(
    const PanelSet& set, const std::vector<std::vector<Vec2>>& from, const Eigen::VectorXd& by) const {
  std::vector<std::vector<Vec2>> flat = from;
  for (const OfPanel& of : panels_) {
    Eigen::VectorXd own(static_cast<Eigen::Index>(of.columns.size()));
    for (std::size_t c = 0; c < of.columns.size(); ++c) own[static_cast<Eigen::Index>(c)] = by[of.columns[c]];
    const Eigen::VectorXd moves = of.flat * own;
    auto& places = flat[static_cast<std::size_t>(of.panel)];
    for (std::size_t v = 0; v < places.size(); ++v) places[v] += moves.segment<2>(static_cast<Eigen::Index>(2 * v));
  }
  copy_flat_images(set, flat);
  return flat;
}

}  // namespace awl
