#pragma once
#include <QString>
#include <QWidget>
#include <functional>

#include "core/builds/build.hpp"
#include "core/derived/derived.hpp"

namespace awl {

/// Whoever takes pictures for the documentation: has the build and the stand in hand, and waits for what follows.
class Photographer {
 public:
  virtual ~Photographer() = default;
  /// Another build of the gallery, by its id.
  virtual void open(const char* demo) = 0;
  /// Changes the build as a maker would, and waits for what follows.
  virtual void alter(const std::function<void(Build&)>& edit) = 0;
  virtual void takeInHand(int part) = 0;
  /// Lets events run while this is so, and then until all is worked out.
  virtual void waitWhile(const std::function<bool()>& busy) = 0;
  /// The stand turned and tilted, radians.
  virtual void look(float turn, float tilt) = 0;
  virtual const Derived& derived() const = 0;
  /// A control of the window by its name. Contract: there is one.
  virtual QWidget* control(const char* name) = 0;
  /// Triggers one of the window's actions by its name.
  virtual void trigger(const char* action) = 0;
};

/// A picture a station is shown with. Each begins with the build and the look of the first one.
struct Shot {
  QString name;  ///< of its file
  /// Sets the scene; what it gives is taken alone and closed, null for the whole window.
  std::function<QWidget*(Photographer&)> pose = [](Photographer&) { return nullptr; };
  /// Puts back what no other build puts back: what is ticked or chosen in the tray.
  std::function<void()> after = [] {};
};

}  // namespace awl
