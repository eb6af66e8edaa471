#pragma once
#include <QByteArray>
#include <QImage>

#include "core/base/result.hpp"

namespace awl {

/// Pictures from outside: PNG and JPEG alone, their size looked at before anything is decoded.
inline constexpr qint64 kMostPictureMb = 40;
inline constexpr qint64 kMostMegapixels = 120;

/// The bytes of a picture file. Errors: cannot_read; too_large, nothing read; bad_file if it is no picture.
Result<QByteArray> pictureBytes(const QString& path, qint64 most_mb = kMostPictureMb);
/// Upright, and no side longer than `longest` pixels if that is said (scaled while it is decoded).
/// Errors: too_large by its pixels; bad_file. `name` begins the sentence.
Result<QImage> pictureFrom(const QByteArray& bytes, const QString& name, int longest = 0);
/// Both of these.
Result<QImage> pictureIn(const QString& path, int longest = 0);

}  // namespace awl
