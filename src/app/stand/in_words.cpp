#include "app/stand/in_words.hpp"

#include <QCoreApplication>
#include <QStringList>
#include <cmath>

#include "print/text.hpp"

namespace awl {
namespace {

QString length(double mm, LengthUnit unit) { return qs(format_length(std::round(mm), unit)); }

}  // namespace

QString standInWords(const Build& build, const Derived& d) {
  if (!d.head) return QCoreApplication::translate("awl::InWords", "Nothing stands there yet.");
  QStringList said;
  const QString wearer = QString::fromStdString(build.wearer);
  said << (wearer.isEmpty() ? QCoreApplication::translate("awl::InWords", "A head.")
                            : QCoreApplication::translate("awl::InWords", "The head of %1.").arg(wearer));
  if (d.form && d.form->is_headform)
    said << QCoreApplication::translate("awl::InWords", "The headform itself is made, in pieces.");
  else if (d.form)
    for (const auto& part : d.form->parts) {
      const Vec3 size = box_of(part->surface.mesh.vertices).size();
      QString words = QCoreApplication::translate("awl::InWords", "%1: %2 wide, %3 high, %4 deep")
                          .arg(QString::fromStdString(part->name), length(size.x(), build.shown),
                              length(size.y(), build.shown), length(size.z(), build.shown));
      const Part* made = find_part(build, part->part);
      if (const Part* below = made != nullptr ? find_part(build, made->on) : nullptr)
        words += QCoreApplication::translate("awl::InWords", ", on %1").arg(QString::fromStdString(below->name));
      said << words + QLatin1Char('.');
    }
  if (!d.remarks.empty())
    said << QCoreApplication::translate("awl::InWords", "First to heed: %1").arg(qs(d.remarks.front().sentence));
  return said.join(QLatin1Char(' '));
}

QString matInWords(const Derived& d) {
  if (!d.pieces || !d.layout) return QCoreApplication::translate("awl::InWords", "No pieces yet.");
  QStringList said{QCoreApplication::translate("awl::InWords", "%1 pieces on %2 sheets.")
                       .arg(d.pieces->size())
                       .arg(d.layout->sheets)};
  for (const Piece& p : *d.pieces)
    said << (p.copies > 1 ? QCoreApplication::translate("awl::InWords", "%1, %2, twice.")
                          : QCoreApplication::translate("awl::InWords", "%1, %2."))
                .arg(p.number)
                .arg(qs(p.name));
  return said.join(QLatin1Char(' '));
}

}  // namespace awl
