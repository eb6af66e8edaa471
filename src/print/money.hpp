#pragma once
#include <QString>

namespace awl {

/// What a maker writes beside an amount, everywhere on screen and paper: "EUR", "kr". Empty: nothing. Signs of one
/// letter that are no letters stand before it.
void setMoneySign(const QString& sign);

/// An amount in the shop's own money, with its sign.
QString money(double amount, int decimals = 2);

}  // namespace awl
