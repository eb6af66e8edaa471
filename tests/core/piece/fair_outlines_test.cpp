#include "core/piece/fair_outlines.hpp"

#include <catch2/catch.hpp>
#include <cmath>

#include "core/base/numbers.hpp"
#include "core/seam/flatten.hpp"
#include "support/bench_data.hpp"

using namespace awl;

namespace {

const PanelSet& panels_of(const char* demo) {
  static std::map<std::string, std::shared_ptr<const PanelSet>> kept;
  auto& set = kept[demo];
  if (!set) set = test::chain()->derive(*demo_by_name(demo, Day{20731})).panels;
  REQUIRE(set);
  return *set;
}

std::vector<Vec2> chords_of(const Panel& panel) {
  std::vector<Vec2> outline;
  for (const BorderEdge& e : panel.border) outline.push_back(panel.flat[e.a]);
  return outline;
}

/// Lengths of every stretch of every seam, by the form's vertices it runs between.
std::map<std::pair<int, std::pair<int, int>>, std::vector<double>> seam_stretches(
    const PanelSet& set, const FairOutlines& fair) {
  std::map<std::pair<int, std::pair<int, int>>, std::vector<double>> lengths;
  for (std::size_t p = 0; p < set.panels.size(); ++p) {
    const Panel& panel = set.panels[p];
    for (const FairStretch& s : fair.panels[p].stretches) {
      const BorderEdge &first = panel.border[s.first],
                       &last = panel.border[(s.first + s.count - 1) % panel.border.size()];
      if (first.seam.valid())
        lengths[{first.seam.value, edge_of(panel.vertex_of[first.a], panel.vertex_of[last.b])}].push_back(
            length_mm(s.curve));
    }
  }
  return lengths;
}

}  // namespace

TEST_CASE("both sides of every seam are equally long, stretch by stretch", "[piece][fair]") {
  const std::string demo = GENERATE("hood", "heron-warden", "thicket-ram", "toll-clerk");
  CAPTURE(demo);
  const PanelSet& set = panels_of(demo.c_str());
  const FairOutlines fair = fair_outlines(set);
  CHECK(fair.uneven_mm < 1e-3);
  std::size_t pairs = 0;
  for (const auto& [stretch, mm] : seam_stretches(set, fair)) {
    if (mm.size() != 2) continue;
    ++pairs;
    CHECK(mm[0] == Approx(mm[1]).margin(0.01));
  }
  CHECK(pairs >= 2);
}

TEST_CASE("fitted outlines keep to the flat panels with few cubics", "[piece][fair]") {
  const std::string demo = GENERATE("hood", "ferry-keeper", "otter-pup", "eel-catcher");
  CAPTURE(demo);
  const PanelSet& set = panels_of(demo.c_str());
  const FairOutlines fair = fair_outlines(set);
  REQUIRE(fair.panels.size() == set.panels.size());
  int chords = 0;
  std::vector<double> off;
  for (std::size_t p = 0; p < set.panels.size(); ++p) {
    const Panel& panel = set.panels[p];
    CAPTURE(panel.name);
    std::size_t edges = 0;
    for (const FairStretch& s : fair.panels[p].stretches) {
      CHECK(s.first == (fair.panels[p].stretches.front().first + edges) % panel.border.size());
      REQUIRE(s.at_mm.size() == s.count + 1);
      edges += s.count;
      for (std::size_t k = 0; k < s.count; ++k) {
        CHECK(s.at_mm[k] < s.at_mm[k + 1]);
        off.push_back(
            (at_length(s.curve, s.at_mm[k]).at - panel.flat[panel.border[(s.first + k) % panel.border.size()].a])
                .norm());
      }
    }
    CHECK(edges == panel.border.size());
    chords += static_cast<int>(edges);
    const auto before = chords_of(panel), after = fair.panels[p].outline();
    CHECK((crosses_itself(before) || !crosses_itself(after)));
    CHECK(signed_area_mm2(after) == Approx(signed_area_mm2(before)).epsilon(4e-3));
  }
  std::sort(off.begin(), off.end());
  CHECK(off[off.size() / 2] < 0.05);
  CHECK(off[off.size() * 99 / 100] < 0.3);
  CHECK(off.back() < 1.1);
  CHECK(fair.cubics * 4 < chords);
}

TEST_CASE("a mirrored pair's outlines are each other's image", "[piece][fair]") {
  const PanelSet& set = panels_of("hood");
  const FairOutlines fair = fair_outlines(set);
  std::size_t pairs = 0;
  for (const Panel& panel : set.panels) {
    if (!panel.mirror_of) continue;
    ++pairs;
    const auto right = fair.panels[panel.id.value].outline(), left = fair.panels[panel.mirror_of->value].outline();
    for (const Vec2& p : right) CHECK(distance_to_outline(left, Vec2(-p.x(), p.y())) < 0.03);
  }
  CHECK(pairs == 7);
}

TEST_CASE("a border that zigzags along a mesh is smoothed, one that was drawn is not", "[piece][fair]") {
  PanelSet set = panels_of("hood");
  const auto turning = [&](const FairOutlines& fair) {
    double sum = 0.0;
    for (const FairPanel& p : fair.panels) {
      const auto line = p.outline();
      for (std::size_t i = 0; i < line.size(); ++i) sum += std::abs(turn_at(line, true, i, 1));
    }
    return sum;
  };
  const double drawn = turning(fair_outlines(set));
  // Every other vertex of every border aside by two millimetres, the same on both sides of a seam.
  for (Panel& panel : set.panels) {
    const auto chords = chords_of(panel);
    const double sign = panel.mirror_of ? -1.0 : 1.0;
    for (std::size_t i = 0; i < panel.border.size(); i += 2) {
      const Vec2 along = chords[(i + 1) % chords.size()] - chords[(i + chords.size() - 1) % chords.size()];
      panel.flat[panel.border[i].a] += sign * 2.0 * Vec2(-along.y(), along.x()).normalized();
    }
  }
  double zigzag = 0.0;
  for (const Panel& panel : set.panels) {
    const auto line = chords_of(panel);
    for (std::size_t i = 0; i < line.size(); ++i) zigzag += std::abs(turn_at(line, true, i, 1));
  }
  const double smoothed = turning(fair_outlines(set));
  CHECK(zigzag > 5.0 * drawn);
  CHECK(smoothed < 0.35 * zigzag);
}

TEST_CASE("from tick to tick both sides of a seam measure the same along their curves", "[piece][fair][ticks]") {
  const PanelSet& set = panels_of("thicket-ram");
  std::map<std::pair<int, int>, std::vector<double>> gaps;  // seam, number of the earlier tick -> along the curve
  for (const Piece& piece : make_pieces(set))
    for (const PieceEdge& edge : piece.edges) {
      std::vector<std::pair<int, double>> at;
      for (const Tick& tick : edge.ticks) {
        double best = 1e9, along = 0.0;
        const double whole = length_mm(edge.curve);
        for (double mm = 0.0; mm <= whole; mm += 0.05)
          if (const double off = (at_length(edge.curve, mm).at - tick.at).norm(); off < best) best = off, along = mm;
        CHECK(best < 0.05);
        at.emplace_back(tick.number, along);
      }
      std::sort(at.begin(), at.end());
      for (std::size_t i = 0; i + 1 < at.size(); ++i)
        if (at[i + 1].first == at[i].first + 1)
          gaps[{edge.seam.value, at[i].first}].push_back(std::abs(at[i + 1].second - at[i].second));
    }
  std::size_t pairs = 0;
  for (const auto& [gap, mm] : gaps) {
    if (mm.size() != 2) continue;
    ++pairs;
    CHECK(mm[0] == Approx(mm[1]).margin(0.12));
  }
  CHECK(pairs > 5);
}
