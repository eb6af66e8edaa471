#pragma once
#include <filesystem>
#include <string>
#include <vector>

#include "core/base/json_reader.hpp"
#include "core/base/result.hpp"

namespace awl {

/// What a sheet is made of, for what may be done to it.
enum class SheetKind { foam, block, board, thermoplastic, rigid, clear, card, fabric, mesh };
const char* name_of(SheetKind kind);
Result<SheetKind> sheet_kind_from(const std::string& name);

/// What a material takes of heat, of solvents, and what its surface does with what is put on it. See stuff/bears.hpp.
enum class Heat { yes, outdoors, never };
enum class Solvent { bears, eaten, fogged };
enum class Pores { open, closed, soaks };
const char* name_of(Heat heat);
const char* name_of(Solvent solvent);
const char* name_of(Pores pores);

/// A size it is sold in, and what one costs in the shop's own money.
struct SoldSheet {
  double width_mm = 1000.0, height_mm = 600.0;
  double thickness_mm = 5.0;
  double price = 0.0;
  bool operator==(const SoldSheet&) const = default;
};

/// Something it must not meet, and why.
struct Taboo {
  std::string what, why;  ///< "hot-glue", a glue's id; or "heat", "solvent"
  bool operator==(const Taboo&) const = default;
};

/// A kind of sheet. All numbers are workshop values from data/materials/foams.json, or the maker's own from the shop
/// book.
struct Foam {
  std::string id, name;
  std::vector<double> thickness_mm;
  double density_kg_m3 = 0.0;
  double strain_cold = 0.0, strain_heated = 0.0;  ///< what it bears, as |e|
  bool heat_seal = false, sands = false;
  double squeeze_stiffness = 0.6;  ///< squeezed over stretched
  double keeps_bend_heated = 0.8;  ///< share of a bend it keeps when it was bent warm
  SheetKind kind = SheetKind::foam;
  double bend_cold = 0.1, bend_heated = 0.2;  ///< strain of the outer fibre it bears when bent
  std::vector<SoldSheet> sold;
  std::vector<Taboo> taboos;
  double seam_margin_mm = 0.0, rim_margin_mm = 0.0, hole_margin_mm = 0.0;  ///< what is usual for it
  double forming_low_c = 0.0, forming_high_c = 0.0;                        ///< 0: not formed by heat
  std::string forming_caution;                                             ///< heeded when it is warmed
  std::string cutting_caution;                                             ///< heeded when it is cut
  Heat heat = Heat::yes;
  Solvent solvent = Solvent::bears;
  Pores pores = Pores::open;
  int flex = 2;  ///< 0 stiff to 3 soft
  double light =
      0.0;  ///< share of the light a sheet lets through before it is formed; 0: not made to be looked through
  bool operator==(const Foam&) const = default;

  /// Why it must not meet this; null if it may.
  const Taboo* taboo(const std::string& what) const;
};

/// Facts that are usual for its kind and follow from what it must not meet: for kinds that say nothing of them.
Foam with_usual_facts(Foam foam);

/// Errors: out_of_range naming the value and its limits.
Result<void> check_foam_kind(const Foam& foam);

struct Glue {
  std::string id, name, caution;
  double hands_min_per_m = 0.0, wait_min = 0.0, cure_min = 0.0, ml_per_m = 0.0;
  std::vector<std::string> not_on;  ///< foams it must not meet
  std::string base;                 ///< "solvent", "water", "cyano", "hot", "epoxy"
  double open_min = 0.0;            ///< past its wait it must be joined within this; 0: it is joined as it is put on
};

/// A seal, paint or clear coat.
struct Coating {
  std::string id, name, kind, caution;
  int coats = 0;
  double hands_min_per_m2 = 0.0, wait_min = 0.0, last_wait_min = 0.0, ml_per_m2 = 0.0;
  std::vector<std::string> holds;               ///< kinds of paint that stay on it
  std::string base = {};                        ///< "solvent", "water", "oil"; empty for none
  double within_min = 0.0, or_after_min = 0.0;  ///< the next coat: at most so late, or again from here on; 0: any time
  bool sand_between = false;
  bool sprayed = false;
  int stretch = 2;                          ///< 0 stiff to 3 as soft as the softest foam
  std::string needs = {};                   ///< "smooth": what lies below must be
  double can_ml = 250.0;                    ///< as it is sold
  double price = 0.0;                       ///< of a can, in the shop's own money; 0: not known
  double density_g_ml = 1.1, solids = 0.4;  ///< solids by mass
};

/// Everything in data/materials.
struct Materials {
  std::vector<Foam> foams;
  std::vector<Glue> glues;
  std::vector<Coating> seals, paints, clears;

  /// Errors of all five: unknown_name with the id and what it was wanted for.
  Result<Foam> foam(const std::string& id) const;
  Result<Glue> glue(const std::string& id) const;
  Result<Coating> seal(const std::string& id) const;
  Result<Coating> paint(const std::string& id) const;
  Result<Coating> clear(const std::string& id) const;
  /// A coat of any of the three; null if there is none.
  const Coating* coating(const std::string& id) const;
};

/// The maker's own kinds over those of the data: the same id replaces, others are added.
Materials with_own(Materials materials, const std::vector<Foam>& own);

/// One kind as kept in files and the shop book (JSON, docs/formats/materials.md), and back. Errors: bad_file; those of
/// check_foam_kind.
std::string foam_text(const Foam& foam);
Result<Foam> foam_from_text(const std::string& text);
/// Contract: in read_json.
Foam foam_from_json_at(const JsonAt& json);

/// Errors: cannot_read; bad_file with the file and what is missing in it.
Result<Materials> load_materials(const std::filesystem::path& folder);

}  // namespace awl
