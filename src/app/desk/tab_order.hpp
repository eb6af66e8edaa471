#pragma once
#include <QDialog>

namespace awl {

/// Moves the keys to the next control (or the one before) as the eye goes: in the order of the layouts within `top`,
/// row by row, not in the order things were made in. At the end it begins again. False where nothing takes them.
bool moveFocusAsTheEye(QWidget& top, bool next);

/// A window of its own in which Tab goes as the eye does.
class EyeDialog : public QDialog {
 public:
  using QDialog::QDialog;

 protected:
  bool focusNextPrevChild(bool next) override { return moveFocusAsTheEye(*this, next); }
};

}  // namespace awl
