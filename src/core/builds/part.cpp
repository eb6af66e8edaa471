#include "core/builds/part.hpp"

#include <algorithm>

#include "core/seam/suggest.hpp"

namespace awl {

const char* source_of(const Shape& shape) {
  constexpr const char* kNames[] = {"Wrap", "Rings", "Sweep", "Sweep", "Plate", "Wrap", "Import", "Cover", "Body"};
  return kNames[shape.index()];
}

const char* kind_of(const Shape& shape) {
  constexpr const char* kNames[] = {"wrap", "rings", "sweep", "tongue", "plate", "limb", "import", "cover", "body"};
  return kNames[shape.index()];
}

Part with_way(Part part, const Suggestion& way, bool ink) {
  std::erase_if(part.drawn, [&](const DrawnSeam& s) { return s.role == LineRole::cut && (ink || !s.inked); });
  auto* import = std::get_if<ImportSpec>(&part.shape);
  if (ink && std::holds_alternative<WrapSpec>(part.shape)) part.seams.preset = SeamPreset::none;
  if (ink) part.own_seams = false;
  if (ink && import != nullptr) {
    import->cut.reset();
    if (way.cut) {
      auto cut = std::make_shared<CutMesh>(*way.cut);
      cut->cut_for = import->cut_facts();
      import->cut = std::move(cut), import->belts = 0, import->cut_middle = import->cut_across = false;
      part.own_seams = true;
      return part;
    }
  }
  int next = 1;
  for (const DrawnSeam& s : part.drawn) next = std::max(next, s.id + 1);
  for (DrawnSeam s : way.seams) {
    s.id = next++, s.inked = ink;
    part.drawn.push_back(std::move(s));
  }
  return part;
}

Part cut_to_base(Part part, int on) {
  const auto* sweep = std::get_if<SweepSpec>(&part.shape);
  const bool grows = (sweep != nullptr && sweep->base == BaseCut::by_surface && sweep->seat.gap_mm == 0.0) ||
      std::holds_alternative<BodySpec>(part.shape);
  if (grows && on != 0) part.meets = {{on, MeetHow::sits}};
  return part;
}

Part sat_on(Part part, int host) {
  const int before = part.on;
  part.on = host;
  if (before == host) return part;
  std::erase_if(part.meets, [&](const Meet& m) { return m.with == host || (m.with == before && host == 0); });
  for (Meet& m : part.meets)
    if (m.with == before) m.with = host;
  return part.meets.empty() ? cut_to_base(std::move(part), host) : part;
}

std::vector<Dial> dials_of(Part& part) {
  return std::visit([](auto& spec) { return dials_of(spec); }, part.shape);
}

Seat* seat_of(Part& part) {
  return std::visit(
      [](auto& spec) -> Seat* {
        if constexpr (requires { Seat{spec.seat}; })
          return &spec.seat;
        else
          return nullptr;
      },
      part.shape);
}

std::vector<Dial> hidden_dials_of(Part& part) {
  if (auto* wrap = std::get_if<WrapSpec>(&part.shape)) return hidden_dials_of(*wrap);
  if (auto* sweep = std::get_if<SweepSpec>(&part.shape)) return hidden_dials_of(*sweep);
  if (auto* plate = std::get_if<PlateSpec>(&part.shape)) return hidden_dials_of(*plate);
  Seat* seat = seat_of(part);
  return seat != nullptr ? hidden_dials_of(*seat) : std::vector<Dial>{};
}

Result<double> dial_value(const Part& part, const std::string& id) {
  Part copy = part;
  for (const Dial& d : dials_of(copy))
    if (d.facts.id == id) return d.value();
  return fail(Errc::unknown_name, "There is nothing called \"" + id + "\" to set on " + part.name + ".",
      "parts/" + std::to_string(part.id));
}

Result<Part> with_dial(Part part, const std::string& id, double value) {
  if (auto turned = turn_dial(dials_of(part), id, value, "parts/" + std::to_string(part.id)); !turned)
    return fail(turned);
  return part;
}

Result<void> check_part(const Part& part) {
  Part copy = part;
  if (auto good = check_dials(dials_of(copy), "parts/" + std::to_string(part.id)); !good) return good;
  if (std::holds_alternative<WrapSpec>(part.shape)) {
    if (auto good = check_wrap(std::get<WrapSpec>(part.shape)); !good) {
      const auto slash = good.error().where.find('/');
      return fail(good.error().code, good.error().text,
          "parts/" + std::to_string(part.id) + (slash == std::string::npos ? "" : good.error().where.substr(slash)));
    }
    if (auto good = check_seams(part.seams); !good) return good;
  }
  for (const DrawnSeam& seam : part.drawn)
    if (auto good = check_drawn(seam); !good)
      return fail(good.error().code, good.error().text, "parts/" + std::to_string(part.id) + "/" + good.error().where);
  return {};
}

Result<Part> part_from_preset(const std::string& id) {
  for (const PartPreset& preset : part_presets())
    if (preset.id == id) return preset.make();
  return fail(Errc::unknown_name, "There is no part called \"" + id + "\" to start from.");
}

}  // namespace awl
