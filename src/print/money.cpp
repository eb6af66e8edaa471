#include "print/money.hpp"

#include "core/base/numbers.hpp"
#include "print/text.hpp"

namespace awl {
namespace {

QString& moneySign() {
  static QString sign;
  return sign;
}

}  // namespace

void setMoneySign(const QString& sign) { moneySign() = sign.trimmed(); }

QString money(double amount, int decimals) {
  const QString number = QString::fromStdString(fixed(amount, decimals)), sign = moneySign();
  if (sign.isEmpty()) return number;
  const bool before =
      sign == QLatin1String("$") || sign == QStringLiteral("\u00a3") || sign == QStringLiteral("\u00a5");
  return before ? sign + number : number + QChar(0x00a0) + sign;
}

}  // namespace awl
