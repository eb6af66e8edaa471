// Pictures nobody here took: looked at before they are decoded.
#include "app/widgets/picture_file.hpp"

#include <QFile>
#include <QTemporaryDir>
#include <catch2/catch.hpp>
#include <fstream>

using namespace awl;

namespace {

QString written(const QTemporaryDir& folder, const char* name, const QByteArray& bytes) {
  const QString path = folder.filePath(QLatin1String(name));
  QFile file(path);
  REQUIRE(file.open(QIODevice::WriteOnly));
  file.write(bytes);
  return path;
}

QByteArray png(int wide, int high) {
  QImage image(wide, high, QImage::Format_RGB32);
  image.fill(Qt::darkGreen);
  QTemporaryDir folder;
  REQUIRE(image.save(folder.filePath(QStringLiteral("a.png"))));
  QFile file(folder.filePath(QStringLiteral("a.png")));
  REQUIRE(file.open(QIODevice::ReadOnly));
  return file.readAll();
}

/// The same with another size in its header, and that header's checksum.
QByteArray claiming(QByteArray bytes, quint32 wide, quint32 high) {
  for (int k = 0; k < 4; ++k) {
    bytes[16 + k] = static_cast<char>(wide >> (24 - 8 * k));
    bytes[20 + k] = static_cast<char>(high >> (24 - 8 * k));
  }
  quint32 crc = 0xffffffffu;
  for (int i = 12; i < 29; ++i) {
    crc ^= static_cast<quint8>(bytes[i]);
    for (int k = 0; k < 8; ++k) crc = (crc >> 1) ^ ((crc & 1u) != 0 ? 0xedb88320u : 0u);
  }
  crc = ~crc;
  for (int k = 0; k < 4; ++k) bytes[29 + k] = static_cast<char>(crc >> (24 - 8 * k));
  return bytes;
}

}  // namespace

TEST_CASE("a picture is read upright, and scaled down while it is decoded", "[app][pictures]") {
  const QTemporaryDir folder;
  const QString path = written(folder, "a.png", png(300, 120));
  CHECK(pictureIn(path)->size() == QSize(300, 120));
  CHECK(pictureIn(path, 100)->size() == QSize(100, 40));
  CHECK(pictureIn(path, 1000)->size() == QSize(300, 120));
}

TEST_CASE("what is too large, no picture, or of another kind is refused with its name", "[app][pictures]") {
  const QTemporaryDir folder;
  const auto refused = [](const Result<QImage>& read, Errc code, const char* words) {
    REQUIRE_FALSE(read);
    CHECK(read.error().code == code);
    CAPTURE(read.error().text);
    CHECK(read.error().text.find(words) != std::string::npos);
  };
  refused(pictureIn(written(folder, "bomb.png", claiming(png(8, 8), 60'000, 50'000))), Errc::too_large,
      "bomb.png has 3000 million pixels");
  refused(pictureIn(written(folder, "words.png", "no picture at all")), Errc::bad_file, "words.png is no picture");
  refused(pictureIn(written(folder, "drawing.png", "<svg xmlns=\"http://www.w3.org/2000/svg\" width=\"9\"/>")),
      Errc::bad_file, "drawing.png is no picture");
  refused(pictureIn(written(folder, "half.png", png(64, 64).left(60))), Errc::bad_file, "half.png");
  refused(pictureIn(written(folder, "empty.png", {})), Errc::bad_file, "empty.png");
  refused(pictureIn(folder.filePath(QStringLiteral("none.png"))), Errc::cannot_read, "none.png could not be opened");
  // A file of many megabytes is not read at all.
  const QString large = written(folder, "large.png", png(8, 8));
  REQUIRE(QFile::resize(large, (kMostPictureMb + 1) * 1024 * 1024));
  refused(pictureIn(large), Errc::too_large, "large.png is larger than 40 MB");
}
