#include "core/chain/ways.hpp"

#include <algorithm>
#include <cmath>
#include <map>

#include "core/base/numbers.hpp"
#include "core/stuff/bears.hpp"
#include "core/geom/solid.hpp"
#include "core/make/carve.hpp"
#include "core/make/cast.hpp"
#include "core/make/drawn_visor.hpp"
#include "core/make/paper_net.hpp"
#include "core/make/slabs.hpp"

namespace awl {
namespace {

constexpr double kTemplateCardMm = 1.0, kNetPaperMm = 0.3;
constexpr double kDimLight = 0.25;  // less light than this is told: workshop value
constexpr double kThinShare = 0.5;  // of the sheet: thinner than that it dents and tears (workshop value)

Vec3 direction(Axis axis, const Mesh& solid) {
  switch (axis) {
    case Axis::up:
      return Vec3::UnitY();
    case Axis::front:
      return Vec3::UnitZ();
    case Axis::side:
      return Vec3::UnitX();
    case Axis::own:
      return own_axes(solid).along;
  }
  return Vec3::UnitY();
}

Mesh outer_of(const PartForm& form) {
  return sheet_face(form.surface.mesh, {span_of(form.surface, form.name, form.outside, form.thickness_mm)}, true);
}

std::string litres(double mm3) { return fixed(mm3 * 1e-6, 2) + " l"; }

std::string counted(const std::vector<Slab>& slabs) {
  std::map<double, int> count;
  for (const Slab& s : slabs) ++count[s.thickness_mm];
  std::string text;
  for (const auto& [mm, n] : count)
    text += (text.empty() ? "" : ", ") + std::to_string(n) + " of " + fixed(mm, 0) + " mm";
  return text;
}

class Maker {
 public:
  Maker(const PartForm& form, const WaySpec& spec, const Materials& materials)
      : form_(form), spec_(spec), materials_(materials) {
    made_.part = form.part, made_.name = form.name, made_.way = spec.way;
    bodies_ = bodies_of(outer_of(form), is_mirrored(form.surface), form.name);
  }

  Result<MadeWay> run(const Progress& progress) {
    Result<void> done;
    if (spec_.way == Way::slabs) done = slabs(progress);
    if (spec_.way == Way::carve) done = carve();
    if (spec_.way == Way::net) done = net(progress);
    if (spec_.way == Way::drawn) done = drawn();
    if (spec_.way == Way::cast) done = cast();
    if (!done) return fail(done);
    constexpr const char* kTitles[] = {"", "Stack the %1 from slabs", "Carve the %1 from a block",
        "Join the paper net of the %1", "Draw the %1 over its buck", "Cast the %1 in a wrap"};
    BenchStep step;
    step.title = kTitles[static_cast<int>(spec_.way)];
    step.title.replace(step.title.find("%1"), 2, form_.name);
    step.lines = made_.facts;
    step.lines.insert(step.lines.end(), todo_.begin(), todo_.end());
    step.caution = caution_, step.glued = spec_.way == Way::slabs;
    made_.steps.push_back(std::move(step));
    return std::move(made_);
  }

 private:
  /// `copies`: 2 where the mirror image is wanted too.
  void take(std::vector<Piece> pieces, int copies = 1) {
    for (Piece& p : pieces)
      p.part = form_.part, p.copies = std::max(p.copies, copies), made_.pieces.push_back(std::move(p));
  }

  Result<void> slabs(const Progress& progress) {
    const auto block = materials_.foam(spec_.block);
    if (!block) return fail(block);
    caution_ = joined_cautions({"Blades cut away from the hand; mask and goggles for dust.", block->cutting_caution});
    for (std::size_t i = 0; i < bodies_.size(); ++i) {
      const Body& body = bodies_[i];
      SlabOptions options;
      options.up = direction(spec_.along, body.solid);
      options.heights_mm = block->thickness_mm, options.wall_mm = spec_.wall_mm, options.spare_mm = spec_.spare_mm;
      const auto plan = plan_slabs(
          body.solid, options, progress.span(static_cast<double>(i) / bodies_.size(), (i + 1.0) / bodies_.size()));
      if (!plan) return fail(plan);
      const double waste = 1.0 - plan->form_mm3 / std::max(1.0, plan->slabs_mm3);
      made_.facts.push_back("The " + body.name + (body.paired ? " (each of two)" : "") + ": " +
          fixed(plan->height_mm, 0) + " mm high in " + std::to_string(plan->slabs.size()) + " slabs, " +
          counted(plan->slabs) + ".");
      if (spec_.wall_mm == 0.0)
        made_.facts.push_back(litres(plan->slabs_mm3) + " of slab for " + litres(plan->form_mm3) +
            " of form: " + fixed(100.0 * waste, 0) + " % is carved away.");
      else
        made_.facts.push_back(
            litres(plan->slabs_mm3) + " of slab, hollow with a wall of " + fixed(spec_.wall_mm, 0) + " mm or more.");
      double trim = 0.0;
      for (const Slab& s : plan->slabs) trim = std::max({trim, s.upper_trim_mm, s.lower_trim_mm});
      made_.facts.push_back("Glue: " + std::to_string(plan->slabs.size() - 1) + " planes, " +
          fixed(2.0 * plan->glue_mm2 / 100.0, 0) +
          " cm\u00b2 both faces. Largest step to carve away: " + fixed(trim, 0) + " mm.");
      if (plan->stacked_mm > plan->height_mm + 1.0)
        made_.facts.push_back("The stack is " + fixed(plan->stacked_mm - plan->height_mm, 0) +
            " mm higher than the form: that comes off at the top.");
      for (std::size_t k = 1; k < plan->slabs.size(); ++k) {
        const Plane level{plan->frame.origin + plan->slabs[k].from_mm * options.up, options.up};
        for (auto& line : section_lines(body.solid, level)) show(std::move(line), body.paired);
      }
      made_.glue_mm2 += 2.0 * plan->glue_mm2 * (body.paired ? 2.0 : 1.0);
      take(slab_pieces(*plan, body, spec_.block));
    }
    todo_ = {"Cut every slab upright, outside the line; number them before they leave the block.",
        "Cut the hollows before gluing.",
        "Glue from the bottom: each slab on the broken line of the one below, front arrows one over the other.",
        "Let it set overnight, then carve the steps away to the printed slopes.", "Sand or trim the seams last."};
    if (spec_.wall_mm == 0.0) todo_.erase(todo_.begin() + 1);
    return {};
  }

  Result<void> carve() {
    const auto block = materials_.foam(spec_.block);
    if (!block) return fail(block);
    caution_ = joined_cautions({"Blades cut away from the hand; mask and goggles for dust.", block->cutting_caution});
    for (const Body& body : bodies_) {
      CarveOptions options;
      options.axes =
          spec_.along == Axis::own ? own_axes(body.solid) : OwnAxes{Vec3::UnitY(), Vec3::UnitX(), Vec3::UnitZ()};
      options.spare_mm = spec_.spare_mm, options.heights_mm = block->thickness_mm;
      const auto plan = plan_carving(body, options);
      if (!plan) return fail(plan);
      made_.facts.push_back("The " + body.name + (body.paired ? " (two, mirrored)" : "") + ": a block " +
          fixed(plan->block_mm.x(), 0) + " x " + fixed(plan->block_mm.y(), 0) + " x " + fixed(plan->block_mm.z(), 0) +
          " mm (wide, high, deep)" +
          (plan->layers > 1
                  ? ", glued up from " + std::to_string(plan->layers) + " of " + fixed(plan->layer_mm, 0) + " mm"
                  : "") +
          ".");
      if (plan->has_base)
        made_.facts.push_back("Its foot is cut at " + fixed(std::abs(plan->mitre_front_deg), 0) +
            " degrees seen from the front and " + fixed(std::abs(plan->mitre_side_deg), 0) + " from the side.");
      made_.facts.push_back(litres(plan->form_mm3) + " of form in " + litres(plan->block_mm3) + " of block.");
      show_block(*plan, options, body);
      const auto steps = carve_steps(*plan, body);
      todo_.insert(todo_.end(), steps.begin(), steps.end());
      take(carve_templates(*plan, body, kTemplateCardMm));
      take(blocks(*plan, body));
    }
    return {};
  }

  Result<void> cast() {
    const CastFacts& facts = facts_of(spec_.fill);
    caution_ = joined_cautions({facts.caution,
        "Casting on a person is for those who were taught it: airways free, never alone, nothing that sets hot."});
    for (const Body& body : bodies_) {
      const auto plan = plan_cast(body, spec_);
      if (!plan) return fail(plan);
      made_.facts.push_back("The " + body.name + (body.paired ? " (each of two)" : "") + ": " +
          fixed(plan->form_litres, 2) + " l, filled with " + fixed(plan->litres, 2) + " l of " + facts.words + ", " +
          fixed(plan->dry_kg, plan->dry_kg < 1.0 ? 2 : 1) + " kg when dry.");
      made_.facts.push_back(std::to_string(plan->pours) + (plan->pours == 1 ? " pour, " : " pours, ") +
          fixed(plan->hours, 0) + " hours of waiting in all; " + fixed(plan->shell_mm2 * 1e-2, 0) +
          " cm\u00b2 of wrap.");
      show(plan->cut, body.paired);
      const auto steps = cast_steps(*plan, body, spec_);
      todo_.insert(todo_.end(), steps.begin(), steps.end());
      for (Want& want : cast_wants(*plan, spec_)) {
        if (body.paired) want.need *= 2.0;
        made_.wants.push_back(std::move(want));
      }
    }
    return {};
  }

  /// A line on the form, and its mirror image where there are two of it.
  void show(std::vector<Vec3> line, bool paired) {
    if (paired) {
      auto image = line;
      for (Vec3& p : image) p.x() = -p.x();
      made_.lines.push_back(std::move(image));
    }
    made_.lines.push_back(std::move(line));
  }

  void show_block(const CarvePlan& plan, const CarveOptions& options, const Body& body) {
    const OwnAxes& a = options.axes;
    Vec3 low = Vec3::Constant(1e300), high = -low;
    for (const Vec3& p : body.solid.vertices) {
      const Vec3 own(a.across.dot(p), a.along.dot(p), a.deep.dot(p));
      low = low.cwiseMin(own), high = high.cwiseMax(own);
    }
    const Vec3 middle = 0.5 * (low + high), half = 0.5 * plan.block_mm;
    const auto corner = [&](int i) {
      return Vec3((middle.x() + (i & 1 ? 1 : -1) * half.x()) * a.across +
          (middle.y() + (i & 2 ? 1 : -1) * half.y()) * a.along + (middle.z() + (i & 4 ? 1 : -1) * half.z()) * a.deep);
    };
    for (int i = 0; i < 8; ++i)
      for (const int bit : {1, 2, 4})
        if ((i & bit) == 0) show({corner(i), corner(i | bit)}, body.paired);
  }

  /// What the block is cut from: layers that lie flat against its thinnest way.
  std::vector<Piece> blocks(const CarvePlan& plan, const Body& body) const {
    Vec3 size = plan.block_mm;
    std::sort(size.data(), size.data() + 3);
    std::vector<Piece> pieces;
    for (int i = 0; i < plan.layers; ++i) {
      const Vec2 half(0.5 * size.z(), 0.5 * size.y());
      Piece piece = plate_piece(body.name + (plan.layers > 1 ? ", block layer " + std::to_string(i + 1) : ", block"), 1,
          {-half, Vec2(half.x(), -half.y()), half, Vec2(-half.x(), half.y())}, {}, plan.layer_mm);
      piece.stuff = spec_.block, piece.face_up = "any side up", piece.copies = body.paired ? 2 : 1, piece.front.reset();
      pieces.push_back(std::move(piece));
    }
    return pieces;
  }

  Result<void> net(const Progress& progress) {
    for (std::size_t i = 0; i < bodies_.size(); ++i) {
      NetOptions options;
      options.faces = spec_.net_faces, options.tab_mm = spec_.net_tab_mm;
      const auto plan = plan_net(
          bodies_[i].open, options, progress.span(static_cast<double>(i) / bodies_.size(), (i + 1.0) / bodies_.size()));
      if (!plan) return fail(plan);
      const auto taped =
          std::count_if(plan->joins.begin(), plan->joins.end(), [](const NetJoin& j) { return j.tab_mm == 0.0; });
      made_.facts.push_back("The " + bodies_[i].name + ": " + std::to_string(plan->mesh.triangles.size()) +
          " faces in " + std::to_string(plan->islands.size()) + (plan->islands.size() == 1 ? " sheet, " : " sheets, ") +
          std::to_string(plan->folds) + " folds, " + std::to_string(plan->joins.size()) + " numbered joins" +
          (taped > 0 ? ", " + std::to_string(taped) + " of them taped" : "") + ".");
      made_.facts.push_back("It stays within " + fixed(plan->off_mm, 1) + " mm of the form.");
      take(net_pieces(*plan, bodies_[i].name, kNetPaperMm), bodies_[i].paired ? 2 : 1);
    }
    todo_ = {"Print on card at 100 %, check the test square.", "Score along the broken lines, cut along the others.",
        "Join equal numbers, from the middle of the largest sheet outwards; tabs go inside.",
        "Hold it to the head: it tells the size, not the finish. It is a check only, thrown away after."};
    return {};
  }

  Result<void> drawn() {
    const auto sheet = materials_.foam(spec_.sheet);
    if (!sheet) return fail(sheet);
    for (const Body& body : bodies_) {
      DrawnOptions options;
      options.pull = direction(spec_.pull, body.solid);
      options.sheet_mm = spec_.sheet_mm, options.skirt_mm = spec_.skirt_mm, options.clamp_mm = spec_.clamp_mm;
      auto plan = plan_drawing(body.open, options);
      if (!plan) return fail(plan);
      tell_drawn(*plan, body, *sheet);
      take({drawn_blank(*plan, body.name, spec_.sheet, spec_.sheet_mm)}, body.paired ? 2 : 1);
      keep_buck(plan->buck, body.paired);
    }
    const Verdict heat = heat_on(*sheet);
    if (!heat.allowed)
      return fail(Errc::no_solution,
          heat.why + " It cannot be drawn over a buck; choose clear sheet, thermoplastic or rigid board.");
    caution_ =
        joined_cautions({heat.caution, sheet->cutting_caution, "Drilling: clamp it, goggles, no gloves at the drill.",
            "A visor takes sight and air: it is no eye protection and no protective headgear."});
    todo_ = {
        "Make the buck from the mesh that is saved here, in wood, plaster or print; round every edge to 2 mm and drill "
        "vent holes in its hollows.",
        "Cut the blank, clamp it in the frame, dry it as the sheet's maker says.",
        std::string(heat.outdoors ? "Outdoors: heat" : "Heat") + " it until it sags evenly" +
            (sheet->forming_high_c > 0.0
                    ? ", " + fixed(sheet->forming_low_c, 0) + " to " + fixed(sheet->forming_high_c, 0) + " \u00b0C"
                    : std::string()) +
            ", then draw it down in one go and hold it until it is stiff.",
        "Trim to the line, a little outside first; file the edge smooth."};
    return {};
  }

  void tell_drawn(const DrawnPlan& plan, const Body& body, const Foam& sheet) {
    const std::string where = "parts/" + std::to_string(form_.part) + "/way";
    made_.facts.push_back("The " + body.name + ": drawn " + fixed(plan.depth_mm, 0) + " mm deep, blank " +
        fixed(plan.blank_mm.x(), 0) + " x " + fixed(plan.blank_mm.y(), 0) + " mm, frame inside " +
        fixed(plan.frame_mm.x(), 0) + " x " + fixed(plan.frame_mm.y(), 0) + " mm, buck " + fixed(plan.buck_high_mm, 0) +
        " mm high with its skirt.");
    made_.facts.push_back("The sheet of " + fixed(spec_.sheet_mm, 1) + " mm is " + fixed(plan.mean_mm, 2) +
        " mm on average and " + fixed(plan.thinnest_mm, 2) + " mm at its thinnest, " + place(plan.thinnest_at) + ".");
    if (sheet.light > 0.0) {
      const double drawn = std::pow(sheet.light, plan.mean_mm / spec_.sheet_mm),
                   thin = std::pow(sheet.light, plan.thinnest_mm / spec_.sheet_mm);
      made_.facts.push_back("It lets " + fixed(100.0 * sheet.light, 0) + " % of the light through as a flat sheet, " +
          fixed(100.0 * drawn, 0) + " % drawn, " + fixed(100.0 * thin, 0) + " % where it is thinnest.");
      if (drawn < kDimLight)
        made_.remarks.push_back({"make.dim", Severity::warning, where,
            "The " + body.name + " lets " + fixed(100.0 * drawn, 0) +
                " % of the light through: the wearer sees little outdoors and next to nothing indoors or at dusk. Take "
                "a paler sheet, or go with a handler.",
            100.0 * drawn, 100.0 * kDimLight, {}});
    }
    made_.facts.push_back("Draft: " + fixed(plan.least_draft_deg, 0) + " degrees at its steepest walls.");
    if (plan.undercut_mm2 > 50.0) {
      Remark remark{"make.undercut", Severity::warning, where,
          "The " + body.name + " has " + fixed(plan.undercut_mm2 / 100.0, 0) + " cm\u00b2 of undercut, " +
              place(plan.undercut_at) +
              ": the sheet locks on the buck there. Pull from another side, or split the buck.",
          plan.undercut_mm2 / 100.0, 0.0, {}};
      for (const auto& [axis, words] :
          {std::pair{Axis::front, "Pull to the front"}, {Axis::up, "Pull upwards"}, {Axis::side, "Pull sideways"}})
        if (axis != spec_.pull) {
          const auto other =
              plan_drawing(body.open, {direction(axis, body.solid), spec_.sheet_mm, spec_.skirt_mm, spec_.clamp_mm});
          if (other && other->undercut_mm2 < 0.5 * plan.undercut_mm2)
            remark.remedies.push_back({words, "set-pull " + std::to_string(form_.part) + " " + name_of(axis)});
        }
      made_.remarks.push_back(std::move(remark));
    }
    if (plan.steep_mm2 > 100.0)
      made_.facts.push_back(fixed(plan.steep_mm2 / 100.0, 0) +
          " cm\u00b2 of wall has less than 3 degrees of draft: grease the buck well, or let it lean more.");
    if (plan.thinnest_mm < kThinShare * spec_.sheet_mm)
      made_.remarks.push_back({"make.thin", Severity::warning, where,
          "The sheet of the " + body.name + " thins to " + fixed(plan.thinnest_mm, 2) + " mm, " +
              place(plan.thinnest_at) + ", less than half of what it was: take a thicker sheet or a flatter form.",
          plan.thinnest_mm, kThinShare * spec_.sheet_mm, {}});
    if (sheet.kind != SheetKind::clear && sheet.kind != SheetKind::thermoplastic && sheet.kind != SheetKind::rigid)
      made_.remarks.push_back({"make.not-drawn", Severity::stop, where,
          sheet.name + " is not drawn over a buck; choose clear sheet, thermoplastic or rigid board.", {}, {}, {}});
    double largest = 0.0;
    for (const SoldSheet& s : sheet.sold)
      largest =
          std::max(largest, std::min({s.width_mm / plan.blank_mm.maxCoeff(), s.height_mm / plan.blank_mm.minCoeff()}));
    if (largest < 1.0)
      made_.facts.push_back("No " + sheet.name + " is sold that large: ask for a bigger sheet, or split the visor.");
  }

  static std::string place(const Vec3& p) {
    const std::string side = p.x() > 15.0 ? "on the wearer's left"
        : p.x() < -15.0                   ? "on the wearer's right"
                                          : "in the middle";
    return side + (p.y() > 40.0 ? ", high up" : p.y() < -40.0 ? ", low down" : ", at eye height");
  }

  /// Of a pair both bucks: the sheet is drawn over each.
  void keep_buck(const Mesh& buck, bool paired) {
    if (!made_.buck) made_.buck.emplace();
    add_mesh(*made_.buck, buck);
    if (!paired) return;
    Mesh image = buck;
    for (Vec3& p : image.vertices) p.x() = -p.x();
    for (Tri& t : image.triangles) std::swap(t[1], t[2]);
    add_mesh(*made_.buck, image);
  }

  const PartForm& form_;
  const WaySpec& spec_;
  const Materials& materials_;
  std::vector<Body> bodies_;
  std::vector<std::string> todo_;
  std::string caution_;
  MadeWay made_;
};

}  // namespace

Result<MadeWay> make_way(
    const PartForm& form, const WaySpec& spec, const Materials& materials, const Progress& progress) {
  expects(spec.way != Way::skin, "make_way: a skin is made of panels");
  if (auto good = check_way(spec); !good) return fail(good);
  auto made = Maker(form, spec, materials).run(progress);
  if (made || made.error().code == Errc::cancelled) return made;
  Error error = made.error();
  error.text = "The " + form.name + ": " + error.text, error.where = "parts/" + std::to_string(form.part) + "/way";
  return fail(error);
}

std::vector<OtherSheet> sheets_for(const std::vector<Piece>& pieces, const Materials& materials) {
  std::vector<OtherSheet> sheets;
  for (const Piece& p : pieces) {
    const auto kind = materials.foam(p.stuff);
    if (p.stuff.empty() || !kind || std::any_of(sheets.begin(), sheets.end(), [&](const OtherSheet& o) {
          return o.stuff == p.stuff && o.thickness_mm == p.thickness_mm;
        }))
      continue;
    OtherSheet other{p.stuff, p.thickness_mm, {}};
    for (const SoldSheet& s : kind->sold)
      if (std::abs(s.thickness_mm - p.thickness_mm) < 0.05) other.size = {s.width_mm, s.height_mm};
    sheets.push_back(std::move(other));
  }
  return sheets;
}

}  // namespace awl
