#pragma once
#include <QString>

#include "app/desk/document.hpp"
#include "core/chain/chain.hpp"

namespace awl {

/// A dial turned as far as a hand can set it: within its limits, in whole millimetres or hundredths of a share, and
/// what stands beside the hand. An empty text: there is no such dial.
struct GripValue {
  double value = 0.0;
  QString text;
};
GripValue gripValue(const std::vector<Dial>& dials, const QString& dial, double wanted, LengthUnit unit);

/// A grip of a part being dragged: one drag is one undo, a value that cannot be is refused.
class GripDrag {
 public:
  GripDrag(Document& document, const Chain& chain) : m_document(document), m_chain(chain) {}
  /// Turns the grip's dial by so much since it was taken hold of; what stands beside the hand, or why it cannot be.
  QString moved(const Part& part, const QString& dial, double by, bool last);
  /// Whether this dial is not yet being dragged.
  bool begins(const QString& dial) const { return m_dial != dial; }

 private:
  Document& m_document;
  const Chain& m_chain;
  QString m_dial;
  double m_start = 0.0;
};

}  // namespace awl
