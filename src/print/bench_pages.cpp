#include "print/bench_pages.hpp"

#include <QPainter>
#include <algorithm>
#include <cmath>

#include "core/base/numbers.hpp"
#include "print/head_figure.hpp"
#include "print/page.hpp"
#include "print/paint_drawing.hpp"
#include "print/text.hpp"
#include "print/pens.hpp"

namespace awl {
namespace {

const QColor kTape(0xb4, 0x4a, 0x18);

std::vector<FigureMark> figureMarks(const CheckPlan& plan) {
  std::vector<FigureMark> marks;
  for (const BuiltMark& m : plan.marks) marks.push_back({m.at, qs(m.name)});
  return marks;
}

void checkTable(Page& page, const Build& build, const CheckPlan& plan) {
  const double columns[] = {page.left(), page.left() + 78.0, page.left() + 112.0, page.left() + 142.0};
  const QString headings[] = {printed("Measure"), printed("Should read"), printed("Within"), printed("Reads")};
  for (int i = 0; i < 4; ++i) page.at(columns[i], headings[i], 2.4, true);
  page.skip(5.2);
  page.rule(0.4);
  for (const BuiltDistance& d : plan.distances) {
    page.skip(1.7);
    const QString name = QString::fromStdString(d.id);
    page.at(columns[0], name.at(0).toUpper() + name.mid(1), 2.3);
    page.at(columns[1], qs(format_length(d.target_mm, build.shown)), 2.3, true);
    page.at(columns[2], QStringLiteral("\u00b1 ") + qs(format_length(d.tolerance_mm, build.shown)), 2.3);
    page.painter().setPen(QPen(kRule, 0.3));
    page.painter().drawLine(QPointF(columns[3], page.y() + 3.2), QPointF(columns[3] + 30.0, page.y() + 3.2));
    page.skip(4.6);
    page.rule();
  }
}

}  // namespace

Result<void> writeCheckSheet(const QString& path, const Build& build, const Derived& d, Paper paper) {
  if (!d.head || !d.check) return fail(Errc::no_solution, "There is no headform to check yet.", "check");
  Page page(paper, printed("Check sheet"));
  page.text(printed("Check the built headform"), 4.6, true);
  page.text(printed("%1, for %2. Callipers or a straight ruler between the marks, a tape where it says round. "
                    "Read each twice, write it down, and enter it at the station Head.")
                .arg(qs(build.name), QString::fromStdString(build.wearer)),
      2.3);
  page.skip(2.0);
  const double wide = page.width() / 3.0, tall = 78.0;
  int i = 0;
  for (const Side side : {Side::front, Side::left, Side::back}) {
    paintHeadFigure(page.painter(), {page.left() + wide * i + 15.0, page.y(), wide - 30.0, tall - 4.0}, d.head->mesh,
        side, {}, figureMarks(*d.check));
    ++i;
  }
  page.skip(tall);
  checkTable(page, build, *d.check);
  page.skip(3.0);
  page.text(printed("A form a little large is fine under padding and bad under a mask. Nothing made with it is "
                    "protective headgear."),
      2.1);
  return page.writeTo(path);
}

namespace {

/// Points of one seam in order, on the inner face of the form.
std::vector<Vec3> seamPoints(const SeamMesh& form, SeamId id) {
  std::vector<Vec3> points;
  for (const auto& [edge, of] : form.seam_of)
    if (of == id) points.push_back(form.mesh.vertices[edge.first]), points.push_back(form.mesh.vertices[edge.second]);
  return points;
}

/// Way over the head along the middle line from the brow to where `to` lies, measured on the skin.
double alongMiddle(const Headform& head, const Vec3& to) {
  const auto lines = section_lines(head.mesh, {Vec3(1e-3, 0, 0), Vec3::UnitX()});
  const auto longest =
      std::max_element(lines.begin(), lines.end(), [](const auto& a, const auto& b) { return a.size() < b.size(); });
  if (longest == lines.end()) return 0.0;
  std::vector<Vec3> line(longest->begin(), longest->end() - 1);
  const auto closest = [&](const Vec3& p) {
    return std::min_element(line.begin(), line.end(),
        [&](const Vec3& a, const Vec3& b) { return (a - p).squaredNorm() < (b - p).squaredNorm(); });
  };
  std::rotate(line.begin(), closest(head.at(Landmark::glabella)), line.end());
  if (line.size() > 5 && line[3].y() < line[0].y()) std::reverse(line.begin() + 1, line.end());
  double sum = 0.0;
  const auto end = closest(to);
  for (auto it = line.begin(); it != end; ++it) sum += (*(it + 1) - *it).norm();
  return sum;
}

}  // namespace

std::vector<WrapRow> wrapRows(const Build& build, const Derived& d) {
  std::vector<WrapRow> rows;
  if (!d.head || !d.panels) return rows;
  const auto length = [&](double mm) { return format_length(std::round(mm), build.shown); };
  std::map<std::string, char> told;
  for (const Seam& seam : d.panels->seams) {
    if (seam.letter.empty() || !told.try_emplace(seam.letter, 1).second) continue;
    const auto points = seamPoints(d.panels->form, seam.id);
    if (points.empty()) continue;
    const Vec3 middle = *std::min_element(
        points.begin(), points.end(), [](const Vec3& a, const Vec3& b) { return std::abs(a.x()) < std::abs(b.x()); });
    const Vec3 widest = *std::max_element(
        points.begin(), points.end(), [](const Vec3& a, const Vec3& b) { return std::abs(a.x()) < std::abs(b.x()); });
    WrapRow row{seam.letter, seam.name, {}};
    if (const auto at = row.name.find(" left"); at != std::string::npos) row.name.erase(at, 5);
    const auto [lowest, highest] =
        std::minmax_element(points.begin(), points.end(), [](const Vec3& a, const Vec3& b) { return a.y() < b.y(); });
    const double level = 0.5 * (lowest->y() + highest->y()) - d.head->at(Landmark::tragion_l).y();
    if (highest->y() - lowest->y() < 25.0)
      row.how =
          "level round the head, " + length(std::abs(level)) + (level > 0 ? " above" : " below") + " the ear flaps";
    else if (std::abs(widest.x()) < 2.0)
      row.how = "along the middle line, from the brow over the crown to the nape";
    else if (std::abs(middle.x()) < 6.0) {
      row.how = "from the middle line " + length(alongMiddle(*d.head, middle)) + " over the brow";
      const double up = widest.y() - d.head->at(Landmark::tragion_l).y(),
                   on = widest.z() - d.head->at(Landmark::tragion_l).z();
      row.how += "; at the side " + length(std::abs(up)) + (up > 0 ? " above" : " below") + " and " +
          length(std::abs(on)) + (on > 0 ? " before" : " behind") + " the ear flap";
    } else {
      row.how = length(std::abs(widest.x())) + " beside the middle line, from front to back";
    }
    rows.push_back(std::move(row));
  }
  return rows;
}

Result<void> writeWrapGuide(const QString& path, const Build& build, const Derived& d, Paper paper) {
  if (!d.head || !d.panels)
    return fail(Errc::no_solution, "There are no seams to draw on a wrapped head yet.", "guide");
  Page page(paper, printed("Wrapping a head by hand"));
  page.text(printed("Wrapping a head by hand"), 4.6, true);
  page.skip(1.0);
  for (const char* caution : {"Never over nose and mouth: the face stays open from brow to chin, always.",
           "Never alone: a helper wraps, talks and stays. Stop at once when it is tight, warm or frightening.",
           "Cut at the back only, blunt-nosed scissors, a finger between blade and neck. Never on children who cannot "
           "sit still.",
           "Film is never shrunk with hot air on a person: wait until it is off and stuffed, then outdoors or with the "
           "window open, gloves on."})
    page.text(QStringLiteral("\u25b2 ") + QLatin1String(caution), 2.5, true, 0.0, 0.0, kTape);
  page.skip(1.5);
  int number = 1;
  for (const char* step : {"Hair flat under a thin cap. Kitchen film once round, then short strips of tape, each half "
                           "over the last, pulled evenly left and right: a form wrapped alone comes out crooked.",
           "Draw the middle line first, with a string from the brow over the crown to the nape. Mark brow, both ear "
           "flaps and nape.",
           "Draw the seams of this build where the table says, letter both sides of each, and set a tick across each "
           "seam about every 60 mm.",
           "Write front, top, left and right on every part, and photograph it from all sides. Only then cut up the "
           "back and take it off.",
           "Stuff it, close it, and check it against the sheet \"Check the built headform\"; or cut it apart and trace "
           "the parts."})
    page.text(QStringLiteral("%1.  ").arg(number++) + QLatin1String(step), 2.3);
  page.skip(2.0);
  std::vector<FigureLine> lines;
  for (const auto& [edge, id] : d.panels->form.seam_of)
    lines.push_back(
        {{d.panels->form.mesh.vertices[edge.first], d.panels->form.mesh.vertices[edge.second]}, kTape, 0.6, false});
  // The hood's own surface, so that its seams lie on what is drawn.
  int i = 0;
  const double wide = page.width() / 3.0, tall = 70.0;
  for (const Side side : {Side::front, Side::left, Side::back})
    paintHeadFigure(page.painter(), {page.left() + wide * i++ + 6.0, page.y(), wide - 12.0, tall - 4.0},
        d.panels->form.mesh, side, lines, {});
  page.skip(tall);
  for (const WrapRow& row : wrapRows(build, d)) {
    page.at(page.left(), qs(row.letter), 2.8, true);
    page.at(page.left() + 9.0, qs(row.name), 2.2, true);
    page.at(page.left() + 44.0, qs(row.how), 2.2);
    page.skip(5.6);
  }
  page.skip(2.0);
  page.text(printed("Lengths are measured on the skin of %1. Nothing made with this is protective headgear.")
                .arg(QString::fromStdString(build.wearer)),
      2.1);
  return page.writeTo(path);
}

}  // namespace awl
