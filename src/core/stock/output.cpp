#include "core/stock/output.hpp"

#include <Eigen/Geometry>
#include <algorithm>
#include <array>
#include <cctype>
#include <cmath>
#include <map>
#include <optional>

#include "core/base/numbers.hpp"

namespace awl {
namespace {

constexpr std::array<const char*, 4> kPer{"all", "sheet", "part", "piece"};

Eigen::AlignedBox2d extent_of(const Piece& piece, const Pose& pose) {
  Eigen::AlignedBox2d box;
  for (const Vec2& p : piece.knife_line()) box.extend(pose(p));
  return box;
}

std::string file_word(const std::string& name) {
  std::string word;
  for (const char c : name) {
    if (std::isalnum(static_cast<unsigned char>(c)))
      word += static_cast<char>(std::tolower(static_cast<unsigned char>(c)));
    else if (!word.empty() && word.back() != '-')
      word += '-';
  }
  while (!word.empty() && word.back() == '-') word.pop_back();
  return word.empty() ? "part" : word;
}

/// Starts of windows along one side: all of it covered, neighbours sharing at least the overlap, spread evenly.
std::vector<double> starts(double length, double window, double overlap) {
  if (length <= window) return {0.0};
  const int count = static_cast<int>(std::ceil((length - overlap) / (window - overlap) - 1e-9));
  std::vector<double> at;
  for (int i = 0; i < count; ++i) at.push_back((length - window) * i / (count - 1));
  return at;
}

/// The part of a stretch within the window; empty if none.
std::optional<std::pair<Vec2, Vec2>> clipped(const Vec2& a, const Vec2& b, const Vec2& size) {
  double from = 0.0, to = 1.0;
  const Vec2 d = b - a;
  for (int k = 0; k < 2; ++k)
    for (const auto& [p, q] : {std::pair(-d[k], a[k]), std::pair(d[k], size[k] - a[k])}) {
      if (std::abs(p) < 1e-12) {
        if (q < 0.0) return std::nullopt;
      } else if (const double t = q / p; p < 0.0) {
        from = std::max(from, t);
      } else {
        to = std::min(to, t);
      }
    }
  if (from >= to) return std::nullopt;
  return std::pair<Vec2, Vec2>(a + from * d, a + to * d);
}

/// A line cut off at the window's edges: as many open lines as are left of it.
std::vector<Mark> cut_off(const Mark& mark, const Vec2& size) {
  std::vector<Mark> kept;
  if (mark.line.empty()) {
    if ((mark.at.array() >= 0.0).all() && (mark.at.array() <= size.array()).all()) kept.push_back(mark);
    return kept;
  }
  Mark run = mark;
  run.line.clear(), run.curve.clear(), run.closed = false, run.filled = false;
  const std::size_t n = mark.line.size(), stretches = mark.closed ? n : n - 1;
  for (std::size_t i = 0; i < stretches; ++i) {
    const auto part = clipped(mark.line[i], mark.line[(i + 1) % n], size);
    if (!part) continue;
    if (!run.line.empty() && (run.line.back() - part->first).norm() > 1e-9) kept.push_back(run), run.line.clear();
    if (run.line.empty()) run.line.push_back(part->first);
    run.line.push_back(part->second);
  }
  if (run.line.size() > 1) kept.push_back(run);
  return kept;
}

}  // namespace

const char* name_of(OutputPer per) { return kPer[static_cast<std::size_t>(per)]; }

Result<OutputPer> output_per_from(const std::string& name) {
  for (std::size_t i = 0; i < kPer.size(); ++i)
    if (name == kPer[i]) return static_cast<OutputPer>(i);
  return fail(
      Errc::unknown_name, "\"" + name + "\" is not what files are made for; there are: all, sheet, part, piece.");
}

Layout only_sheet(const Layout& layout, int sheet) {
  Layout one = layout;
  one.placements.clear(), one.blanks.clear(), one.sheets = 1;
  if (sheet < static_cast<int>(layout.blanks.size())) one.blanks = {layout.blanks[sheet]};
  for (Placement p : layout.placements)
    if (p.sheet == sheet) p.sheet = 0, one.placements.push_back(p);
  return one;
}

Layout only_pieces(
    const std::vector<Piece>& pieces, const Layout& layout, const std::function<bool(const Piece&)>& wanted) {
  Layout some = layout;
  some.placements.clear(), some.blanks.clear();
  std::map<int, int> number;
  for (const Placement& p : layout.placements)
    if (wanted(pieces[p.piece.value])) number[p.sheet] = 0;
  int next = 0;
  for (auto& [sheet, n] : number) {
    n = next++;
    if (sheet < static_cast<int>(layout.blanks.size())) some.blanks.push_back(layout.blanks[sheet]);
  }
  some.sheets = next;
  for (Placement p : layout.placements)
    if (wanted(pieces[p.piece.value])) p.sheet = number[p.sheet], some.placements.push_back(p);
  return some;
}

Layout one_piece(const Piece& piece, double margin) {
  Layout one;
  double x = margin, high = 0.0;
  for (int copy = 0; copy < piece.copies; ++copy) {
    Pose pose;
    pose.flipped = copy == 1;
    const Eigen::AlignedBox2d e = extent_of(piece, pose);
    pose.at = Vec2(x, margin) - e.min();
    x += e.sizes().x() + margin, high = std::max(high, e.sizes().y());
    one.placements.push_back({piece.id, 0, pose, copy, false});
  }
  one.sheet = {x, high + 2.0 * margin}, one.sheets = 1;
  Blank blank;
  blank.thickness_mm = piece.thickness_mm, blank.stuff = piece.stuff;
  blank.outline = {
      {0, 0}, {one.sheet.width_mm, 0}, {one.sheet.width_mm, one.sheet.height_mm}, {0, one.sheet.height_mm}};
  blank.area_mm2 = signed_area_mm2(blank.outline);
  one.blanks = {blank};
  return one;
}

std::vector<Output> outputs_of(const std::vector<Piece>& pieces, const Layout& layout, OutputPer per,
    const std::function<std::string(const Piece&)>& part_of) {
  std::vector<Output> outputs;
  if (per == OutputPer::all) return {{"", layout}};
  if (per == OutputPer::sheet)
    for (int s = 0; s < layout.sheets; ++s)
      outputs.push_back({"sheet-" + std::to_string(s + 1), only_sheet(layout, s)});
  if (per == OutputPer::piece)
    for (const Piece& p : pieces)
      outputs.push_back(
          {(p.number < 10 ? "0" : "") + std::to_string(p.number) + "-" + file_word(p.name), one_piece(p)});
  if (per == OutputPer::part) {
    std::vector<std::string> parts;
    for (const Piece& p : pieces)
      if (std::find(parts.begin(), parts.end(), part_of(p)) == parts.end()) parts.push_back(part_of(p));
    for (const std::string& part : parts)
      outputs.push_back(
          {file_word(part), only_pieces(pieces, layout, [&](const Piece& p) { return part_of(p) == part; })});
  }
  return outputs;
}

Result<std::vector<MatWindow>> mat_windows(
    const std::vector<Piece>& pieces, const Layout& layout, const MachineMat& mat) {
  const double least = std::min(mat.width_mm, mat.height_mm);
  if (!(least >= 50.0))
    return fail(Errc::out_of_range,
        "A mat of " + fixed(mat.width_mm, 0) + " x " + fixed(mat.height_mm, 0) + " mm is smaller than 50 mm.",
        "machine/mat");
  if (!(mat.overlap_mm >= 0.0 && mat.overlap_mm <= 0.5 * least))
    return fail(Errc::out_of_range,
        "An overlap of " + fixed(mat.overlap_mm, 0) + " mm is outside 0 to " + fixed(0.5 * least, 0) +
            " mm, half the mat.",
        "machine/overlap");
  const Vec2 size(mat.width_mm, mat.height_mm);
  std::vector<MatWindow> used;
  for (int s = 0; s < layout.sheets; ++s) {
    Eigen::AlignedBox2d sheet{Vec2(Vec2::Zero())};
    for (const Placement& p : layout.placements)
      if (p.sheet == s) sheet.extend(extent_of(pieces[p.piece.value], p.pose).max());
    std::vector<MatWindow> windows;
    for (const double y : starts(sheet.max().y(), size.y(), mat.overlap_mm))
      for (const double x : starts(sheet.max().x(), size.x(), mat.overlap_mm))
        windows.push_back({s, Vec2(x, y), {}, {}});
    for (int i = 0; i < static_cast<int>(layout.placements.size()); ++i) {
      const Placement& p = layout.placements[i];
      if (p.sheet != s) continue;
      const Eigen::AlignedBox2d e = extent_of(pieces[p.piece.value], p.pose);
      const auto whole = std::find_if(windows.begin(), windows.end(), [&](const MatWindow& w) {
        return ((e.min() - w.low).array() >= -1e-9).all() && ((w.low + size - e.max()).array() >= -1e-9).all();
      });
      if (whole != windows.end())
        whole->placements.push_back(i);
      else
        for (MatWindow& w : windows)
          if ((e.max().array() > w.low.array()).all() && (e.min().array() < (w.low + size).array()).all())
            w.in_parts.push_back(i);
    }
    for (MatWindow& w : windows)
      if (!w.placements.empty() || !w.in_parts.empty()) used.push_back(std::move(w));
  }
  return used;
}

Drawing draw_window(
    const std::vector<Piece>& pieces, const Layout& layout, const MatWindow& window, const MachineMat& mat) {
  Drawing out;
  const auto drawn = [&](int i) {
    const Placement& p = layout.placements[i];
    Pose pose = p.pose;
    pose.at -= window.low;
    return placed(draw_piece(pieces[p.piece.value], p.pose.flipped ? Copy::right : Copy::left), pose);
  };
  std::vector<std::pair<int, bool>> all;
  for (const int i : window.placements) all.emplace_back(i, true);
  for (const int i : window.in_parts) all.emplace_back(i, false);
  // In the order of the pieces, whatever the layout's.
  std::sort(all.begin(), all.end(), [&](const auto& a, const auto& b) {
    return std::pair(layout.placements[a.first].piece, a.first) < std::pair(layout.placements[b.first].piece, b.first);
  });
  for (const auto& [i, whole] : all)
    for (const Mark& m : drawn(i).marks) {
      if (whole)
        out.marks.push_back(m);
      else
        for (Mark& part : cut_off(m, {mat.width_mm, mat.height_mm})) out.marks.push_back(std::move(part));
    }
  return out;
}

}  // namespace awl
