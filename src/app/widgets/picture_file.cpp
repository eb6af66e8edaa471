#include "app/widgets/picture_file.hpp"

#include <QBuffer>
#include <QCoreApplication>
#include <QFile>
#include <QFileInfo>
#include <QImageReader>

namespace awl {
namespace {

struct PictureFile {
  Q_DECLARE_TR_FUNCTIONS(PictureFile)
};

/// A reader of these bytes, of a kind that is read at all.
bool open(QImageReader& reader, QBuffer& bytes) {
  bytes.open(QIODevice::ReadOnly);
  reader.setDevice(&bytes);
  reader.setDecideFormatFromContent(true);
  reader.setAutoTransform(true);
  const QByteArray format = reader.format();
  return format == "png" || format == "jpeg" || format == "jpg";
}

tl::unexpected<Error> noPicture(const QString& name) {
  return fail(
      Errc::bad_file, PictureFile::tr("%1 is no picture that can be read; PNG and JPEG are.").arg(name).toStdString());
}

}  // namespace

Result<QByteArray> pictureBytes(const QString& path, qint64 most_mb) {
  const QString name = QFileInfo(path).fileName();
  QFile file(path);
  if (!file.open(QIODevice::ReadOnly))
    return fail(Errc::cannot_read, PictureFile::tr("%1 could not be opened.").arg(name).toStdString());
  if (file.size() > most_mb * 1024 * 1024)
    return fail(Errc::too_large,
        PictureFile::tr("%1 is larger than %2 MB; save it smaller first.").arg(name).arg(most_mb).toStdString());
  QByteArray bytes = file.read(most_mb * 1024 * 1024);
  QBuffer buffer(&bytes);
  QImageReader reader;
  if (!open(reader, buffer)) return noPicture(name);
  buffer.close();
  return bytes;
}

Result<QImage> pictureFrom(const QByteArray& bytes, const QString& name, int longest) {
  QByteArray copy = bytes;
  QBuffer buffer(&copy);
  QImageReader reader;
  if (!open(reader, buffer)) return noPicture(name);
  const QSize size = reader.size();
  if (!size.isValid() || size.isEmpty()) return noPicture(name);
  const qint64 pixels = qint64{size.width()} * size.height();
  if (pixels > kMostMegapixels * 1'000'000)
    return fail(Errc::too_large,
        PictureFile::tr("%1 has %2 million pixels; up to %3 are read. Save it smaller first.")
            .arg(name)
            .arg(pixels / 1'000'000)
            .arg(kMostMegapixels)
            .toStdString());
  if (longest > 0 && std::max(size.width(), size.height()) > longest)
    reader.setScaledSize(size.scaled(longest, longest, Qt::KeepAspectRatio));
  const QImage picture = reader.read();
  if (picture.isNull()) return noPicture(name);
  return picture;
}

Result<QImage> pictureIn(const QString& path, int longest) {
  const auto bytes = pictureBytes(path);
  if (!bytes) return fail(bytes);
  return pictureFrom(*bytes, QFileInfo(path).fileName(), longest);
}

}  // namespace awl
