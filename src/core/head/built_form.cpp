#include "core/head/built_form.hpp"

#include <Eigen/Cholesky>
#include <Eigen/LU>
#include <algorithm>
#include <cmath>
#include <functional>

#include "core/base/numbers.hpp"
#include "core/head/tape_path.hpp"

namespace awl {
namespace {

using L = Landmark;
constexpr double kReadingSdMm = 0.8;   // workshop value: callipers and tape on foam
constexpr double kWorthTelling = 0.8;  // mm or degrees; less nobody builds better
constexpr double kMostOffMm = 80.0;
constexpr int kMostDistances = 22;
constexpr double kGoodSd = 0.4;  // mm or degrees; then 1 mm and 1 degree can be told

/// Standard deviation of each flaw before anything is read: workshop values.
Flaws usual_flaws() {
  Flaws sd;
  sd << 2.0, 5.0, 5.0, 5.0, 5.0, 5.0, 5.0, 6.0, 4.0, 4.0;
  return sd;
}

/// How closely each flaw is wanted, in its own unit.
Flaws wanted_accuracy() {
  Flaws w = Flaws::Ones();
  w[static_cast<int>(Flaw::size)] = 0.4;   // of 250 mm: 1 mm
  w[static_cast<int>(Flaw::twist)] = 0.7;  // it shows little in any distance, so more of them must tell it
  return w;
}

double of(const Flaws& flaws, Flaw f) { return flaws[static_cast<int>(f)]; }

double straight_or_round(const BuiltDistance& d, const std::vector<BuiltMark>& marks, const BuiltShape& shape) {
  if (d.round.empty()) return (shape(marks[d.to].at) - shape(marks[d.from].at)).norm();
  double length = 0.0;
  for (std::size_t i = 0; i + 1 < d.round.size(); ++i) length += (shape(d.round[i + 1]) - shape(d.round[i])).norm();
  return length;
}

Flaws gradient(const BuiltDistance& d, const CheckPlan& plan, const BuiltShape& at) {
  Flaws g;
  constexpr double kStep = 0.05;
  for (int k = 0; k < kFlawCount; ++k) {
    BuiltShape low = at, high = at;
    low.flaws[k] -= kStep, high.flaws[k] += kStep;
    g[k] = (straight_or_round(d, plan.marks, high) - straight_or_round(d, plan.marks, low)) / (2.0 * kStep);
  }
  return g;
}

std::vector<BuiltMark> marks_of(const Headform& head, double foot_y_mm) {
  std::vector<BuiltMark> marks{{"crown", head.at(L::vertex)}, {"brow", head.at(L::glabella)},
      {"chin", head.at(L::pogonion)}, {"back", head.at(L::opisthocranion)}, {"left widest", head.at(L::euryon_l)},
      {"right widest", head.at(L::euryon_r)}, {"left ear", head.at(L::tragion_l)}, {"right ear", head.at(L::tragion_r)},
      {"left jaw", head.at(L::gonion_l)}, {"right jaw", head.at(L::gonion_r)}};
  std::vector<Vec3> foot;
  for (const auto& line : section_lines(head.mesh, {Vec3(0, foot_y_mm, 0), Vec3::UnitY()}))
    foot.insert(foot.end(), line.begin(), line.end());
  if (foot.empty()) return marks;
  const auto furthest = [&](const Vec3& way) {
    return *std::max_element(
        foot.begin(), foot.end(), [&](const Vec3& a, const Vec3& b) { return way.dot(a) < way.dot(b); });
  };
  for (const auto& [name, way] : {std::pair{"foot front", Vec3(0, 0, 1)}, {"foot back", Vec3(0, 0, -1)},
           {"foot left", Vec3(1, 0, 0)}, {"foot right", Vec3(-1, 0, 0)}})
    marks.push_back({name, furthest(way)});
  return marks;
}

std::vector<BuiltDistance> every_distance(const HeadFitter& fitter, const Headform& head, const CheckPlan& plan) {
  std::vector<BuiltDistance> all;
  for (int i = 0; i < static_cast<int>(plan.marks.size()); ++i)
    for (int j = i + 1; j < static_cast<int>(plan.marks.size()); ++j)
      all.push_back({plan.marks[i].name + " to " + plan.marks[j].name, i, j, {}, 0.0, 2.0});
  const auto paths = tape_paths(fitter, head);
  for (const auto& [id, name] : {std::pair{MeasureId::HC, "round the head"}, {MeasureId::NC, "round the neck"}})
    all.push_back({name, -1, -1, paths[index_of(id)].line, 0.0, 3.0});
  for (BuiltDistance& d : all) d.target_mm = straight_or_round(d, plan.marks, plan.meant);
  all.erase(
      std::remove_if(all.begin(), all.end(), [](const BuiltDistance& d) { return d.target_mm < 70.0; }), all.end());
  return all;
}

using FlawSquare = Eigen::Matrix<double, kFlawCount, kFlawCount>;

void learn(FlawSquare& c, const Flaws& g) {
  const Flaws cg = c * g;
  c -= cg * cg.transpose() / (g.dot(cg) + kReadingSdMm * kReadingSdMm);
}

struct Words {
  const char *more, *less;  ///< sentence with %A for the amount
  const char *more_remedy, *less_remedy;
};
const Words& words_of(Flaw flaw) {
  static const Words words[kFlawCount] = {{"The whole form is %A too large.", "The whole form is %A too small.",
                                              "Sand it down all over, or fit the build to the form as built.",
                                              "Cover it with a thin layer, or fit the build to the form as built."},
      {"The left side stands out %A too far at its widest.", "The left side is %A short at its widest.",
          "Sand the left side down, or take its seams in.", "Glue a thin layer on the left side and feather its edge."},
      {"The right side stands out %A too far at its widest.", "The right side is %A short at its widest.",
          "Sand the right side down, or take its seams in.",
          "Glue a thin layer on the right side and feather its edge."},
      {"The brow stands forward %A too far.", "The brow is %A short.", "Sand the brow down.",
          "Glue a thin layer on the brow."},
      {"The back of the head stands out %A too far.", "The back of the head is %A short.", "Sand the back down.",
          "Glue a thin layer on the back."},
      {"The crown is %A too high.", "The crown is %A too low.", "Sand the crown down.",
          "Glue a round pad on the crown."},
      {"The neck is %A too thick on each side.", "The neck is %A too thin on each side.",
          "Sand the neck; it only matters for cowls.", "Wrap the neck; it only matters for cowls."},
      {"The head is turned %A to the wearer's left against its foot.",
          "The head is turned %A to the wearer's right against its foot.",
          "Loosen the base and glue it on turned back; take front marks from the face, not from the base.",
          "Loosen the base and glue it on turned back; take front marks from the face, not from the base."},
      {"The head leans %A to the wearer's left.", "The head leans %A to the wearer's right.",
          "Wedge the foot on the left.", "Wedge the foot on the right."},
      {"The head leans forward by %A.", "The head leans back by %A.", "Wedge the foot in front.",
          "Wedge the foot behind."}};
  return words[static_cast<int>(flaw)];
}

Vec3 shows_at(Flaw flaw, const Headform& head) {
  switch (flaw) {
    case Flaw::left:
      return head.at(L::euryon_l);
    case Flaw::right:
      return head.at(L::euryon_r);
    case Flaw::front:
    case Flaw::lean_forward:
    case Flaw::twist:
      return head.at(L::glabella);
    case Flaw::back:
      return head.at(L::opisthocranion);
    case Flaw::neck:
      return head.at(L::larynx);
    default:
      return head.at(L::vertex);
  }
}

Finding told(Flaw flaw, double amount, double sd, const BuiltShape& shape, const Headform& head) {
  const Words& w = words_of(flaw);
  Finding f{flaw, amount, sd, amount > 0.0 ? w.more : w.less, amount > 0.0 ? w.more_remedy : w.less_remedy,
      shape(shows_at(flaw, head))};
  f.sentence.replace(f.sentence.find("%A"), 2, fixed(std::abs(amount), 1) + " " + unit_of(flaw));
  return f;
}

/// Gauss-Newton with the usual flaws as prior. `used` are (distance, reading).
void descend(const CheckPlan& plan, const std::vector<std::pair<const BuiltDistance*, double>>& used, BuiltShape& shape,
    FlawSquare& covariance) {
  const Flaws sd = usual_flaws();
  for (int step = 0; step < 8; ++step) {
    FlawSquare h = sd.cwiseAbs2().cwiseInverse().asDiagonal();
    Flaws g = -shape.flaws.cwiseQuotient(sd.cwiseAbs2());
    constexpr double kWeight = 1.0 / (kReadingSdMm * kReadingSdMm);
    for (const auto& [d, reading] : used) {
      const Flaws j = gradient(*d, plan, shape);
      h += kWeight * j * j.transpose();
      g += kWeight * (reading - straight_or_round(*d, plan.marks, shape)) * j;
    }
    const Flaws move = h.ldlt().solve(g);
    shape.flaws += move;
    covariance = h.inverse();
    if (move.norm() < 1e-5) break;
  }
}

}  // namespace

const char* unit_of(Flaw flaw) {
  return flaw == Flaw::size                                                          ? "%"
      : flaw == Flaw::twist || flaw == Flaw::lean_side || flaw == Flaw::lean_forward ? "degrees"
                                                                                     : "mm";
}

Vec3 BuiltShape::operator()(const Vec3& meant) const {
  Vec3 p = meant;
  const double on_head = smoothstep(-100.0, -20.0, meant.y());
  p.x() += on_head *
      (meant.x() > 0.0 ? of(flaws, Flaw::left) * meant.x() / left_mm : of(flaws, Flaw::right) * meant.x() / right_mm);
  p.z() += on_head *
      (meant.z() > 0.0 ? of(flaws, Flaw::front) * meant.z() / front_mm : of(flaws, Flaw::back) * meant.z() / back_mm);
  p.y() += of(flaws, Flaw::height) * std::max(0.0, meant.y()) / crown_y_mm;
  const double on_neck = (1.0 - smoothstep(-90.0, -50.0, meant.y())) * of(flaws, Flaw::neck) / neck_mm;
  constexpr double kNeckAxisZ = -22.0;
  p.x() += on_neck * meant.x();
  p.z() += on_neck * (meant.z() - kNeckAxisZ);
  const Vec3 foot(0.0, foot_y_mm, kNeckAxisZ);
  p = foot + (1.0 + 0.01 * of(flaws, Flaw::size)) * (p - foot);
  const double up = p.y() - foot_y_mm, share = up / (crown_y_mm - foot_y_mm);
  const double a = radians(of(flaws, Flaw::twist)) * share, s = std::sin(a), c = std::cos(a);
  const double x = p.x(), z = p.z() - kNeckAxisZ;
  p.x() = c * x + s * z;  // + turns the front to the wearer's left
  p.z() = kNeckAxisZ - s * x + c * z;
  p.x() += up * std::tan(radians(of(flaws, Flaw::lean_side)));
  p.z() += up * std::tan(radians(of(flaws, Flaw::lean_forward)));
  return p;
}

CheckPlan plan_check(const HeadFitter& fitter, const Headform& head, double foot_y_mm) {
  CheckPlan plan;
  plan.marks = marks_of(head, foot_y_mm);
  BuiltShape& m = plan.meant;
  m.foot_y_mm = foot_y_mm, m.crown_y_mm = head.at(L::vertex).y();
  m.left_mm = head.at(L::euryon_l).x(), m.right_mm = -head.at(L::euryon_r).x(), m.front_mm = head.at(L::glabella).z(),
  m.back_mm = -head.at(L::opisthocranion).z();
  m.neck_mm = 0.5 * head.reading(MeasureId::NC).reads_mm / kPi;
  const auto all = every_distance(fitter, head, plan);
  std::vector<Flaws> gradients;
  for (const BuiltDistance& d : all) gradients.push_back(gradient(d, plan, plan.meant));
  FlawSquare c = usual_flaws().cwiseAbs2().asDiagonal();
  const Flaws wanted = wanted_accuracy();
  std::vector<char> taken(all.size(), 0);
  while (static_cast<int>(plan.distances.size()) < kMostDistances &&
      (c.diagonal().cwiseSqrt().cwiseQuotient(wanted)).maxCoeff() > kGoodSd) {
    double best = -1.0;
    std::size_t chosen = 0;
    for (std::size_t i = 0; i < all.size(); ++i) {
      if (taken[i]) continue;
      FlawSquare after = c;
      learn(after, gradients[i]);
      // Squares of the variances: what is known worst counts most.
      const Flaws was = c.diagonal().cwiseQuotient(wanted.cwiseAbs2()),
                  is = after.diagonal().cwiseQuotient(wanted.cwiseAbs2());
      const double gain = was.squaredNorm() - is.squaredNorm();
      if (gain > best) best = gain, chosen = i;
    }
    taken[chosen] = 1;
    learn(c, gradients[chosen]);
    plan.distances.push_back(all[chosen]);
  }
  return plan;
}

Result<BuiltForm> judge_built(
    const CheckPlan& plan, const Headform& head, const std::map<std::string, double>& readings) {
  std::vector<std::pair<const BuiltDistance*, double>> used;
  for (const auto& [id, mm] : readings) {
    const auto d = std::find_if(
        plan.distances.begin(), plan.distances.end(), [&](const BuiltDistance& one) { return one.id == id; });
    if (d == plan.distances.end())
      return fail(Errc::unknown_name, "\"" + id + "\" is not on this form's check sheet.", "check/" + id);
    if (!(std::abs(mm - d->target_mm) <= kMostOffMm))
      return fail(Errc::out_of_range,
          "A distance " + id + " of " + fixed(mm, 0) + " mm is more than " + fixed(kMostOffMm, 0) +
              " mm off its target of " + fixed(d->target_mm, 0) + " mm; read it again.",
          "check/" + id);
    used.push_back({&*d, mm});
  }
  if (used.empty()) return fail(Errc::empty_input, "No distance of the check sheet was entered yet.", "check");
  BuiltForm built;
  built.shape = plan.meant;
  FlawSquare covariance = FlawSquare::Identity();
  // A reading that fits nothing else is set aside, one at a time, while enough remain.
  for (int round = 0; round < 2; ++round) {
    built.shape.flaws.setZero();
    descend(plan, used, built.shape, covariance);
    auto worst = used.end();
    double most = 5.0;
    for (auto it = used.begin(); it != used.end(); ++it) {
      const Flaws j = gradient(*it->first, plan, built.shape);
      const double spread = std::sqrt(std::max(0.05, kReadingSdMm * kReadingSdMm - j.dot(covariance * j)));
      if (const double z = std::abs(it->second - straight_or_round(*it->first, plan.marks, built.shape)) / spread;
          z > most)
        most = z, worst = it;
    }
    if (worst == used.end() || used.size() <= kFlawCount) break;
    built.doubted.push_back(worst->first->id);
    used.erase(worst);
  }
  if (!built.doubted.empty()) {
    built.shape.flaws.setZero();
    descend(plan, used, built.shape, covariance);
  }
  built.sd = covariance.diagonal().cwiseSqrt();
  for (int k = 0; k < kFlawCount; ++k) {
    const double amount = built.shape.flaws[k], least = kWorthTelling * wanted_accuracy()[k];
    if (std::abs(amount) >= std::max(least, 2.0 * built.sd[k]))
      built.findings.push_back(told(static_cast<Flaw>(k), amount, built.sd[k], built.shape, head));
  }
  std::sort(built.findings.begin(), built.findings.end(),
      [](const Finding& a, const Finding& b) { return std::abs(a.amount) > std::abs(b.amount); });
  built.mesh = head.mesh;
  for (Vec3& p : built.mesh.vertices) p = built.shape(p);
  built.map = distance_map(built.mesh, head.mesh);
  return built;
}

}  // namespace awl
