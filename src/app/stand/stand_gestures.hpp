#pragma once
#include <QPointF>
#include <QString>

#include "core/geom/mesh.hpp"

namespace awl {

/// What the hand does on the stand. The stand speaks to the open station alone; each takes up what it understands.
class StandGestures {
 public:
  virtual ~StandGestures() = default;
  /// A place on the head, in its frame, millimetres.
  virtual void headClicked(const Vec3&) {}
  /// A place on the outside of what is worn, millimetres.
  virtual void wornClicked(const Vec3&) {}
  /// A panel or its piece, on the stand or the mat; -1: beside them all.
  virtual void panelClicked(int) {}
  /// A grip is being dragged: by so much of its dial since it was taken hold of. `last` once it is let go.
  virtual void gripMoved(const QString& /*dial*/, double /*by*/, bool /*last*/) {}
  /// A marker is being dragged over the outside of what is worn; `whole`: the line goes along.
  virtual void markerMoved(const QString& /*marker*/, const Vec3& /*place*/, bool /*whole*/, bool /*last*/) {}
  /// The camera was turned to one of the plain views: "front", "left", "right", "back", "top".
  virtual void looked(const QString&) {}
  /// A place of the picture pinned behind, in its pixels.
  virtual void backdropClicked(QPointF) {}
};

}  // namespace awl
