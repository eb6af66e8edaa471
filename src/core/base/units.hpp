#pragma once
#include <string>
#include <string_view>

#include "core/base/result.hpp"

namespace awl {

/// Density of steel, g per cubic millimetre.
inline constexpr double kSteelGMm3 = 0.00785;

enum class LengthUnit { mm, cm, inch };

/// Millimetres in one unit.
double mm_per(LengthUnit unit);

/// "mm", "cm" or "in".
const char* symbol_of(LengthUnit unit);

/// The unit of a symbol ("mm", "cm", "in", "inch").
Result<LengthUnit> unit_from_symbol(std::string_view symbol);

/// Reads a length the way makers type it: `57 cm`, `22 1/2 in`, `22.5"`, `570`, `2*6+3`, `1 ft 2 in`, `56,5`.
///
/// Units:  the answer is in millimetres; numbers without a unit are in `shown`. A single unit at the very
///         end holds for the whole sum: `2*6+3 cm` is 15 cm.
/// Errors: empty_input; not_a_number names the text that could not be read and its column;
///         wrong_unit when two lengths are multiplied or a unit is unknown.
Result<double> parse_length(std::string_view text, LengthUnit shown);

/// Writes a length for the maker: `563 mm`, `56.3 cm`, `22 3/16 in` (nearest 1/16).
std::string format_length(double length_mm, LengthUnit shown, bool with_symbol = true);

}  // namespace awl
