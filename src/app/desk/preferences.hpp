#pragma once
#include <QString>
#include <array>

#include "app/desk/tab_order.hpp"
#include "core/builds/build.hpp"

namespace awl {

/// The settings' key of what is not to be said again of what comes next.
inline const QString kIgnoredKey = QStringLiteral("next/ignored");

/// Sizes of the type there are, in hundredths of the usual.
inline constexpr std::array<int, 4> kTypeSizes{100, 125, 160, 200};

/// What a maker set once for all builds. Kept with QSettings under "prefs/"; what is spoilt there counts as not set.
struct Preferences {
  LengthUnit unit = LengthUnit::mm;  ///< of new builds
  QString language;                  ///< "de"; empty: English
  bool dark = false;
  int type = 100;                           ///< size of the type in hundredths of the usual: one of kTypeSizes
  bool still = false;                       ///< nothing moves by itself
  bool next = true;                         ///< what comes next is said
  QString paper{QStringLiteral("a4")};      ///< "a4", "a3" or "letter"
  QString money;                            ///< what stands beside an amount
  QString book;                             ///< the folder of the shop book; empty: the usual one
  double rate = QuoteRates{}.rate;          ///< an hour, of new builds
  double hours_a_day = 4.0, opens_h = 9.0;  ///< at the bench, of new builds
  std::vector<bool> open_on{true, true, true, true, true, true, true};  ///< Monday to Sunday, of new builds
  bool operator==(const Preferences&) const = default;

  static Preferences load();
  /// The file all settings are in, names of builds among them, is its owner's alone from now on.
  static void keepFromOthers();
  /// False where they cannot be kept: a settings folder that may not be written.
  bool save() const;
  /// A build begun now has them.
  void give(Build& build) const;
};

/// The preferences, to be changed.
class PreferencesDialog : public EyeDialog {
  Q_OBJECT

 public:
  PreferencesDialog(const Preferences& now, QWidget* parent);
  Preferences chosen() const;
};

}  // namespace awl
