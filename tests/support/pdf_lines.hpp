#pragma once
#include <catch2/catch.hpp>
#include <QFile>
#include <QProcess>
#include <QRegularExpression>
#include <algorithm>

#include "core/stock/nest.hpp"
#include "print/tiled_pdf.hpp"

namespace awl::test {

using Stretch = std::pair<Vec2, Vec2>;

/// Every straight stretch of every path on a page, in millimetres from its upper left corner, as poppler reads the
/// file; curves as short chords, but for those as small as letters'.
inline std::vector<Stretch> stretchesOn(const QString& pdf, int number) {
  const QString to = pdf + QStringLiteral("-%1.svg").arg(number);
  QProcess::execute(QStringLiteral("pdftocairo"),
      {QStringLiteral("-svg"), QStringLiteral("-f"), QString::number(number), QStringLiteral("-l"),
          QString::number(number), pdf, to});
  QFile file(to);
  REQUIRE(file.open(QIODevice::ReadOnly));
  const QString svg = QString::fromUtf8(file.readAll());
  static const QRegularExpression path(
      QStringLiteral("<path[^>]*?\\sd=\"([^\"]*)\"(?:[^>]*?transform=\"matrix\\(([^)]*)\\)\")?[^>]*/>")),
      word(QStringLiteral("[MLCZ]|-?[0-9.]+(?:e-?[0-9]+)?"));
  constexpr double kLetterMm = 1.5;
  std::vector<Stretch> stretches;
  for (auto it = path.globalMatch(svg); it.hasNext();) {
    const auto match = it.next();
    double m[6] = {1, 0, 0, 1, 0, 0};
    int k = 0;
    for (auto n = word.globalMatch(match.captured(2)); n.hasNext() && k < 6;) m[k++] = n.next().captured().toDouble();
    Vec2 first = Vec2::Zero(), last = Vec2::Zero();
    for (auto n = word.globalMatch(match.captured(1)); n.hasNext();) {
      const QString act = n.next().captured();
      if (act == QLatin1String("Z")) {
        stretches.push_back({last, first});
        continue;
      }
      Cubic curve{{last, last, last, last}};
      const int pairs = act == QLatin1String("C") ? 3 : 1;
      for (int corner = 4 - pairs; corner < 4; ++corner) {
        const double x = n.next().captured().toDouble(), y = n.next().captured().toDouble();
        curve.p[static_cast<std::size_t>(corner)] =
            25.4 / 72.0 * Vec2(m[0] * x + m[2] * y + m[4], m[1] * x + m[3] * y + m[5]);
      }
      const Vec2 at = curve.p[3];
      if (const double mm = length_mm(curve); pairs == 3 && mm > kLetterMm) {
        const int chords = 16 + static_cast<int>(1.5 * mm);
        for (int step = 0; step < chords; ++step)
          stretches.push_back({curve.at(1.0 * step / chords), curve.at((step + 1.0) / chords)});
      }
      if (act == QLatin1String("M")) first = at;
      if (act == QLatin1String("L")) stretches.push_back({last, at});
      last = at;
    }
  }
  return stretches;
}

/// How far a corner of any outline of a sheet is from the nearest line on its page of a PDF of whole sheets,
/// millimetres. Lines, not corners: poppler joins stretches that run straight on.
inline double worstOutline(
    const QString& pdf, const std::vector<Piece>& pieces, const Layout& layout, int sheet, double margin_mm) {
  const auto stretches = stretchesOn(pdf, 2 + sheet);
  REQUIRE(stretches.size() > 4);
  // The sheet's low corner: the page is the sheet, its margins and a footer.
  const double foot = margin_mm + room_of(layout).height_mm;
  double worst = 0.0;
  for (const Placement& p : layout.placements) {
    if (p.sheet != sheet) continue;
    for (const Vec2& q : pieces[p.piece.value].knife_line()) {
      const Vec2 at(margin_mm + p.pose(q).x(), foot - p.pose(q).y());
      double best = 1e9;
      for (const auto& [a, b] : stretches) {
        // Most lie nowhere near.
        if (((a.cwiseMin(b) - at).array() > best).any() || ((at - a.cwiseMax(b)).array() > best).any()) continue;
        const Vec2 along = b - a;
        const double share =
            along.squaredNorm() > 0.0 ? std::clamp((at - a).dot(along) / along.squaredNorm(), 0.0, 1.0) : 0.0;
        best = std::min(best, (a + share * along - at).norm());
      }
      worst = std::max(worst, best);
    }
  }
  return worst;
}

}  // namespace awl::test
