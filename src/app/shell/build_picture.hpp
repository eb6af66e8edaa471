#pragma once
#include <QImage>
#include <atomic>

#include "core/chain/chain.hpp"

namespace awl {

/// One build on its head, as the stand would show it; empty if it does not come out, or nobody wants it any more. May
/// be run beside the interface thread.
QImage pictureOf(const Chain& chain, const Build& build, QSize size, const std::atomic<bool>& wanted);

/// A picture of every ready start into a folder, NAME.png: what the start page shows. Errors: cannot_write.
Result<void> writeStartPictures(const Chain& chain, const QString& folder);

}  // namespace awl
