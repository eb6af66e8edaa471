#include "core/head/field.hpp"

#include <Eigen/Geometry>
#include <algorithm>
#include <cmath>
#include <sstream>

#include "core/base/numbers.hpp"
#include "core/base/text.hpp"

namespace awl {

/// One line of the recipe: fold a primitive into the distance so far.
struct Field::Step {
  enum class Shape { ellipsoid, superellipsoid, round_cone, chain, plane, bump, group };
  std::string name;
  char op = 'a';    ///< a add, s subtract, i intersect
  char side = 's';  ///< s centred, a evaluate at |x|, m both sides joined smoothly
  double blend_mm = 0.0;
  Shape shape = Shape::ellipsoid;
  std::vector<double> numbers;
  Eigen::Matrix3d turn_back = Eigen::Matrix3d::Identity();  ///< world to local
  std::vector<Step> inner;

  double distance(const Vec3& p) const;
  double folded(double d, const Vec3& p) const;
};

namespace {

using Numbers = std::vector<double>;

double ellipsoid(const Vec3& q, const double* r) {
  const Vec3 a(q.x() / r[0], q.y() / r[1], q.z() / r[2]);
  const double k0 = a.norm();
  const double k1 = Vec3(a.x() / r[0], a.y() / r[1], a.z() / r[2]).norm();
  return k1 < 1e-12 ? -std::min({r[0], r[1], r[2]}) : k0 * (k0 - 1.0) / k1;
}

double superellipsoid(const Vec3& q, const double* r, double e) {
  double sum = 0.0;
  for (int k = 0; k < 3; ++k) sum += std::pow(std::abs(q[k] / r[k]), e);
  const double f = std::pow(sum, 1.0 / e);
  if (f < 1e-9) return -std::min({r[0], r[1], r[2]});
  Vec3 g;
  for (int k = 0; k < 3; ++k) g[k] = std::pow(std::abs(q[k] / r[k]) / f, e - 1.0) / r[k];
  return (f - 1.0) / g.norm();
}

/// Exact distance to two balls and the cone that touches both.
double round_cone(const Vec3& p, const Vec3& a, const Vec3& b, double ra, double rb) {
  const Vec3 ba = b - a, pa = p - a;
  const double l2 = ba.squaredNorm(), rr = ra - rb, a2 = l2 - rr * rr;
  const double y = pa.dot(ba), z = y - l2;
  const double x2 = (pa * l2 - ba * y).squaredNorm(), y2 = y * y * l2, z2 = z * z * l2;
  const double k = (rr > 0 ? 1.0 : rr < 0 ? -1.0 : 0.0) * rr * rr * x2;
  if ((z > 0 ? 1.0 : -1.0) * a2 * z2 > k) return std::sqrt(x2 + z2) / l2 - rb;
  if ((y > 0 ? 1.0 : -1.0) * a2 * y2 < k) return std::sqrt(x2 + y2) / l2 - ra;
  return (std::sqrt(x2 * a2 / l2) + y * rr) / l2 - ra;
}

double capsule_chain(const Vec3& p, const Numbers& n) {
  double best = 1e3;
  for (std::size_t i = 0; i + 7 < n.size(); i += 4) {
    const Vec3 a(n[i], n[i + 1], n[i + 2]), b(n[i + 4], n[i + 5], n[i + 6]);
    const double t = std::clamp((p - a).dot(b - a) / (b - a).squaredNorm(), 0.0, 1.0);
    best = std::min(best, (p - a - t * (b - a)).norm() - (n[i + 3] + t * (n[i + 7] - n[i + 3])));
  }
  return best;
}

/// Catmull-Rom samples through (x y z r)*, five to a span.
Numbers splined(const Numbers& n) {
  const int count = static_cast<int>(n.size() / 4);
  const auto knot = [&](int i, int k) { return n[4 * std::clamp(i, 0, count - 1) + k]; };
  Numbers out;
  for (int i = 0; i + 1 < count; ++i)
    for (int s = 0; s < 5; ++s)
      for (int k = 0; k < 4; ++k) {
        const double t = s / 5.0, a = knot(i - 1, k), b = knot(i, k), c = knot(i + 1, k), d = knot(i + 2, k);
        out.push_back(
            0.5 * (2 * b + (c - a) * t + (2 * a - 5 * b + 4 * c - d) * t * t + (3 * b - a - 3 * c + d) * t * t * t));
      }
  out.insert(out.end(), n.end() - 4, n.end());
  return out;
}

Eigen::Matrix3d euler_deg(double x, double y, double z) {
  using Eigen::AngleAxisd;
  return (AngleAxisd(radians(z), Vec3::UnitZ()) * AngleAxisd(radians(y), Vec3::UnitY()) *
      AngleAxisd(radians(x), Vec3::UnitX()))
      .toRotationMatrix();
}

}  // namespace

double Field::Step::distance(const Vec3& p) const {
  const Numbers& n = numbers;
  const auto local = [&] { return Vec3(turn_back * (p - Vec3(n[0], n[1], n[2]))); };
  switch (shape) {
    case Shape::ellipsoid:
      return ellipsoid(local(), &n[3]);
    case Shape::superellipsoid:
      return superellipsoid(local(), &n[3], n[6]);
    case Shape::round_cone:
      return round_cone(p, {n[0], n[1], n[2]}, {n[3], n[4], n[5]}, n[6], n[7]);
    case Shape::chain:
      return capsule_chain(p, n);
    case Shape::plane:
      return n[0] * p.x() + n[1] * p.y() + n[2] * p.z() - n[3];
    case Shape::bump:
      return n[6] *
          std::exp(-0.5 *
              (std::pow((p.x() - n[0]) / n[3], 2) + std::pow((p.y() - n[1]) / n[4], 2) +
                  std::pow((p.z() - n[2]) / n[5], 2)));
    case Shape::group:
      break;
  }
  double d = 1e3;
  const Vec3 q = local();
  for (const Step& step : inner) d = step.folded(d, q);
  return d;
}

double Field::Step::folded(double d, const Vec3& p) const {
  const Vec3 right(std::abs(p.x()), p.y(), p.z());
  if (shape == Shape::bump) return d - distance(side == 'a' ? right : p);
  double s = distance(side == 's' ? p : right);
  if (side == 'm') s = smooth_min(s, distance({-right.x(), p.y(), p.z()}), blend_mm);
  if (op == 'a') return smooth_min(d, s, blend_mm);
  return smooth_max(d, op == 's' ? -s : s, blend_mm);
}

namespace {

/// Reads the lines of a recipe, groups nested by "grp" ... "end".
template <class Step>
class RecipeReader {
 public:
  explicit RecipeReader(std::string_view text) : in_(std::string(text)) {}

  Result<std::vector<Step>> block(bool nested) {
    std::vector<Step> steps;
    for (std::string line; std::getline(in_, line);) {
      ++line_;
      std::istringstream words(line.substr(0, line.find('#')));
      std::string op;
      if (!(words >> op)) continue;
      if (op == "end" && nested) return steps;
      auto step = read_step(op, words);
      if (!step) return fail(step);
      if (const auto mark = line.find("# name "); mark != std::string::npos) step->name = line.substr(mark + 7);
      steps.push_back(std::move(*step));
    }
    if (nested) return bad("a group is not ended");
    return steps;
  }

 private:
  tl::unexpected<Error> bad(const std::string& what) const {
    return fail(
        Errc::bad_file, "Line " + std::to_string(line_) + " of the head recipe: " + what + ".", "template.field");
  }

  Result<Step> read_step(const std::string& op, std::istringstream& words) {
    Step step;
    std::string shape, side;
    const bool bump = op == "bmp";
    if (!bump) words >> shape;
    words >> side;
    if (!bump) words >> step.blend_mm;
    if (!words || side.size() != 1) return bad("shape, side and blend are wanted");
    step.op = op[0];
    step.side = side[0];
    if (auto good = read_numbers(step, words); !good) return fail(good);
    return finish(step, bump ? "bmp" : shape);
  }

  Result<void> read_numbers(Step& step, std::istringstream& words) const {
    for (std::string word; words >> word;) {
      if (word == "rot") {
        double x = 0, y = 0, z = 0;
        if (!(words >> x >> y >> z)) return bad("a turn wants three angles");
        step.turn_back = euler_deg(x, y, z).transpose();
        continue;
      }
      const auto number = number_in(word);
      if (!number) return bad(number.error().text);
      step.numbers.push_back(*number);
    }
    return {};
  }

  Result<Step> finish(Step step, const std::string& shape) {
    using Shape = typename Step::Shape;
    struct Known {
      const char* word;
      Shape shape;
      std::size_t count;
    };
    static const Known known[] = {{"ell", Shape::ellipsoid, 6}, {"sup", Shape::superellipsoid, 7},
        {"rc", Shape::round_cone, 8}, {"cap", Shape::chain, 0}, {"tub", Shape::chain, 0}, {"pln", Shape::plane, 4},
        {"bmp", Shape::bump, 7}, {"grp", Shape::group, 3}};
    for (const Known& k : known) {
      if (shape != k.word) continue;
      step.shape = k.shape;
      const bool fits =
          k.count != 0 ? step.numbers.size() == k.count : step.numbers.size() >= 8 && step.numbers.size() % 4 == 0;
      if (!fits) return bad(shape + " has the wrong count of numbers");
      if (shape == "tub") step.numbers = splined(step.numbers);
      if (step.shape != Shape::group) return step;
      auto inner = block(true);
      if (!inner) return fail(inner);
      step.inner = std::move(*inner);
      return step;
    }
    return bad("the shape \"" + shape + "\" is not known");
  }

  std::istringstream in_;
  int line_ = 0;
};

}  // namespace

Result<Field> Field::parse(std::string_view recipe) {
  auto steps = RecipeReader<Step>(recipe).block(false);
  if (!steps) return fail(steps);
  if (steps->empty()) return fail(Errc::bad_file, "The head recipe holds no steps.", "template.field");
  Field field;
  field.steps_ = std::make_shared<const std::vector<Step>>(std::move(*steps));
  return field;
}

double Field::operator()(const Vec3& p) const {
  double d = 1e3;
  for (const Step& step : *steps_) d = step.folded(d, p);
  return d;
}

Vec3 Field::gradient(const Vec3& p) const {
  constexpr double h = 1e-3;
  Vec3 g;
  for (int k = 0; k < 3; ++k) {
    const Vec3 e = h * Vec3::Unit(k);
    g[k] = ((*this)(p + e) - (*this)(p - e)) / (2.0 * h);
  }
  return g;
}

Vec3 Field::project(Vec3 p, bool keep_x) const {
  for (int i = 0; i < 4; ++i) {
    Vec3 g = gradient(p);
    if (keep_x) g.x() = 0.0;
    const double d = (*this)(p);
    if (std::abs(d) < 1e-5 || g.squaredNorm() < 1e-6) break;
    p -= std::clamp(d, -2.0, 2.0) * g / std::max(g.squaredNorm(), 0.25);
  }
  return p;
}

Field Field::without(const std::string& name) const {
  std::vector<Step> kept;
  std::copy_if(steps_->begin(), steps_->end(), std::back_inserter(kept), [&](const Step& s) { return s.name != name; });
  Field field;
  field.steps_ = std::make_shared<const std::vector<Step>>(std::move(kept));
  return field;
}

}  // namespace awl
