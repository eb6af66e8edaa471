#include "print/fit_words.hpp"

#include <QCoreApplication>
#include <QStringList>
#include <cmath>

#include "print/text.hpp"
#include "core/base/numbers.hpp"

namespace awl {
namespace {

struct Said {
  Q_DECLARE_TR_FUNCTIONS(FitWords)
};
QString tr(const char* text) { return Said::tr(text); }
QString whole(double value) { return QString::number(std::lround(value)); }
QString joined(const QStringList& lines) { return lines.join(QLatin1Char('\n')); }
QString waiting() { return tr("Being tried on\u2026"); }

}  // namespace

QString goingOnWords(const GoingOn& on, const Build& build) {
  const auto length = [&](double mm) { return qs(format_length(std::round(mm), build.shown)); };
  QStringList lines;
  const QString from = on.from == WayOn::from_the_front ? tr("from the front")
      : on.from == WayOn::from_below                    ? tr("from below")
                                                        : tr("from above");
  if (is_parted(build.fit, on.part)) return tr("Parted in two halves it is laid round the head.");
  if (on.stiff) {
    lines << (on.passes ? tr("It goes on %1 and reaches its place.").arg(from)
                        : tr("It does not: %1 it stops %2 before its place.").arg(from, length(on.stops_short_mm)));
    return joined(lines);
  }
  if (!on.has_rings) return tr("Nothing of it goes round the head.");
  const double opened = slit_opening(build.fit, on.part);
  if (on.passes && on.short_mm <= 0.0)
    lines << tr("It goes on %1, its tightest place %2 longer round than it must be.").arg(from, length(-on.short_mm));
  else if (goes_on_opened(build.fit, on))
    lines << tr("With its slit it goes on: %1 are needed, it opens by %2.").arg(length(on.opens_mm), length(opened));
  else
    lines << tr("It does not: %1 in from its rim it is %2 round and lacks %3.")
                 .arg(length(on.ring_mm), length(on.ring_girth_mm), length(on.short_mm));
  if (std::abs(on.pitch_deg) >= 5.0)
    lines << (on.pitch_deg > 0.0 ? tr("Best chin first, tilted by %1\u00b0.")
                                 : tr("Best crown first, tilted by %1\u00b0."))
                 .arg(whole(std::abs(on.pitch_deg)));
  if (on.spread_mm > 3.0) lines << tr("Its open rim is spread by %1.").arg(length(on.spread_mm));
  lines << tr("The foam gives %1 %.").arg(qs(fixed(100.0 * on.gives, 1)));
  if (on.rests_up_mm > 3.0 && on.passes)
    lines << tr("It comes to sit about %1 above its place.").arg(length(on.rests_up_mm));
  return joined(lines);
}

QString insideWords(const Derived& d) {
  if (!d.worn) return waiting();
  QStringList lines;
  for (const PartClearance& c : d.worn->clearance) {
    if (c.pressing_mm > 0.5)
      lines << tr("%1: presses %2 mm at %3, padding squeezed.")
                   .arg(qs(c.name), qs(fixed(c.pressing_mm, 1)), qs(c.pressing_at));
    else
      lines << tr("%1: presses nowhere; at its nearest %2 mm beyond hair and padding.")
                   .arg(qs(c.name), qs(fixed(std::max(0.0, c.least_mm), 0)));
    if (!c.gapes.empty() && c.gapes.front().widest_mm < 40.0)  // beyond that it is meant
      lines << tr("%1: its rim stands off by %2 mm at %3.")
                   .arg(qs(c.name), whole(c.gapes.front().widest_mm), qs(c.gapes.front().place));
  }
  for (const EarRoom& e : d.worn->ears) {
    const QString side = e.left ? tr("Left ear") : tr("Right ear");
    if (e.state == EarRoom::State::free) lines << tr("%1: free.").arg(side);
    if (e.state == EarRoom::State::uncovered) lines << tr("%1: not covered.").arg(side);
    if (e.state == EarRoom::State::folded) lines << tr("%1: folded back by %2 mm.").arg(side, whole(e.by_mm));
    if (e.state == EarRoom::State::pushes) lines << tr("%1: pushes the side out by %2 mm.").arg(side, whole(e.by_mm));
  }
  return joined(lines);
}

QString sightWords(const Derived& d) {
  if (!d.worn) return waiting();
  if (!d.worn->sight) return tr("Nothing is worn before the eyes.");
  const Sight& s = *d.worn->sight;
  QStringList lines{tr("About %1 % of the field ahead is left.").arg(whole(100 * s.kept))};
  lines << tr("%1 % of it with both eyes; %2 % of what eyes can be turned to.")
               .arg(whole(100 * s.kept_both), whole(100 * s.looked));
  for (const SightZone& z : s.zones)
    if (z.there) lines << tr("%1: %2 %").arg(qs(z.words), whole(100 * z.kept));
  const auto metres = [](double m) { return qs(fixed(m, 1)); };
  lines << (s.floor_level_m ? tr("Nearest floor: %1 m ahead, %2 m with the head bent.")
                                  .arg(metres(*s.floor_level_m), metres(s.floor_nod_m.value_or(0.0)))
                            : tr("No floor is seen ahead without bending the head."));
  for (const FloorWindow& w : s.windows)
    lines << tr("And through an opening below, from %1 to %2 m.").arg(metres(w.from_m), metres(w.to_m));
  int bars = 0;
  for (const BlindPlace& b : s.blind)
    if (b.is_bar && bars++ < 2) lines << tr("Blind: %1.").arg(qs(b.words));
  return joined(lines);
}

QString movingWords(const Derived& d) {
  if (!d.worn) return waiting();
  if (!d.worn->turning) return {};
  const Turning& t = *d.worn->turning;
  QStringList lines{tr("Nod %1\u00b0, up %2\u00b0.").arg(whole(t.nod_deg), whole(t.up_deg)),
      tr("Turn %1\u00b0 left, %2\u00b0 right; tilt %3\u00b0 and %4\u00b0.")
          .arg(whole(t.turn_deg[0]), whole(t.turn_deg[1]), whole(t.tilt_deg[0]), whole(t.tilt_deg[1]))};
  if (t.jaw_deg)
    lines << tr("The jaw opens by %1\u00b0 before the chin meets it: 8\u00b0 is talking, 25\u00b0 is wide.")
                 .arg(whole(*t.jaw_deg));
  return joined(lines);
}

QString balanceWords(const Derived& d) {
  if (!d.worn) return waiting();
  const Balance& b = d.worn->balance;
  QStringList lines{tr("About %1 g with its coats.").arg(whole(b.mass_g))};
  lines << tr("It pulls %1 with %2 N m, %3 % of what the head itself does.")
               .arg(b.forward_nm >= 0.0 ? tr("forward") : tr("back"), qs(fixed(std::abs(b.forward_nm), 3)),
                   whole(100.0 * std::abs(b.share)));
  if (std::abs(b.side_nm) > 0.01)
    lines << tr("And %1 with %2 N m.")
                 .arg(b.side_nm > 0.0 ? tr("to the left") : tr("to the right"), qs(fixed(std::abs(b.side_nm), 3)));
  if (d.worn->tips_at_deg && *d.worn->tips_at_deg > 4.0 && *d.worn->tips_at_deg < 60.0)
    lines << tr("Resting alone it would tip off at a nod of %1\u00b0.").arg(whole(*d.worn->tips_at_deg));
  return joined(lines);
}

QString airWords(const Derived& d) {
  if (!d.worn) return waiting();
  const Air& a = d.worn->air;
  QStringList lines;
  for (const auto& o : a.openings) lines << tr("Open %1: %2 cm\u00b2.").arg(qs(o.zone), whole(o.mm2 / 100.0));
  if (a.dead_ml && *a.dead_ml < 500.0)
    lines << tr("Air that stays before nose and mouth: about %1 ml.").arg(whole(*a.dead_ml));
  if (a.fogs) lines << tr("The visor will fog: open something above it.");
  lines << tr("%1 % of the scalp is covered. A rest and a drink every quarter of an hour; off at once when dizzy.")
               .arg(whole(100.0 * a.covered_share));
  return joined(lines);
}

QString fittingWords(const Derived& d, int part, const QString& none) {
  QStringList lines;
  if (d.fittings)
    for (const Yield& y : *d.fittings)
      if (closes(y, part))
        for (const std::string& f : y.facts) lines << qs(f);
  return lines.isEmpty() ? none : joined(lines);
}

QString holdWords(const Derived& d, const Hold& hold) {
  QStringList lines;
  if (d.fittings)
    for (const Yield& y : *d.fittings)
      if (is_of(y, hold))
        for (const std::string& f : y.facts) lines << qs(f);
  if (d.worn)
    for (const HoldCheck& h : d.worn->holds)
      if (h.hold == hold.id)
        lines << (!h.force_n ? QString() : h.falls_short() ? tr("Does not hold. ") : tr("Holds. ")) + qs(h.words);
  return joined(lines);
}

}  // namespace awl
