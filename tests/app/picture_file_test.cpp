// Pictures nobody here took: looked at before they are decoded.
#include "app/widgets/picture_file.hpp"

#include <QBuffer>
#include <QFile>
#include <QTemporaryDir>
#include <QtEndian>
#include <catch2/catch.hpp>
#include <ctime>

#include "fuzz/mutator.hpp"
#include "support/effort.hpp"

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

quint32 crc_of(const QByteArray& bytes, qsizetype from, qsizetype to) {
  quint32 crc = 0xffffffffu;
  for (qsizetype i = from; i < to; ++i) {
    crc ^= static_cast<quint8>(bytes[i]);
    for (int k = 0; k < 8; ++k) crc = (crc >> 1) ^ ((crc & 1u) != 0 ? 0xedb88320u : 0u);
  }
  return ~crc;
}

/// The checksums of a PNG's chunks set right, as far as there are chunks: what was spoilt gets past the first look.
QByteArray summed(QByteArray bytes) {
  for (qsizetype at = 8; at + 12 <= bytes.size();) {
    const quint32 length = qFromBigEndian<quint32>(bytes.constData() + at);
    if (length > static_cast<quint32>(bytes.size() - at - 12)) break;
    const qsizetype end = at + 8 + static_cast<qsizetype>(length);
    qToBigEndian(crc_of(bytes, at + 4, end), bytes.data() + end);
    at = end + 4;
  }
  return bytes;
}

/// The same with another size in its header.
QByteArray claiming(QByteArray bytes, quint32 wide, quint32 high) {
  qToBigEndian(wide, bytes.data() + 16);
  qToBigEndian(high, bytes.data() + 20);
  return summed(std::move(bytes));
}

/// Pictures of every depth and order that PNG and JPEG have, to be spoilt.
std::vector<std::string> sound_pictures() {
  QImage image(23, 17, QImage::Format_ARGB32);
  for (int y = 0; y < image.height(); ++y)
    for (int x = 0; x < image.width(); ++x) image.setPixel(x, y, qRgba(11 * x, 15 * y, x * y % 256, 255 - 9 * x));
  std::vector<std::string> all;
  const auto add = [&](const QImage& one, const char* format, int quality) {
    QBuffer bytes;
    bytes.open(QIODevice::WriteOnly);
    REQUIRE(one.save(&bytes, format, quality));
    all.push_back(bytes.data().toStdString());
  };
  for (const auto depth : {QImage::Format_ARGB32, QImage::Format_RGB32, QImage::Format_Indexed8, QImage::Format_Mono,
           QImage::Format_Grayscale8, QImage::Format_Grayscale16, QImage::Format_RGBA64})
    add(image.convertToFormat(depth), "PNG", -1);
  add(image.convertToFormat(QImage::Format_RGB32), "JPEG", 90);
  add(image.convertToFormat(QImage::Format_RGB32), "JPEG", 5);
  add(image.convertToFormat(QImage::Format_Grayscale8), "JPEG", 60);
  return all;
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

TEST_CASE("spoilt pictures are read or refused with a sentence, soon and small", "[app][pictures][long]") {
  qInstallMessageHandler([](QtMsgType, const QMessageLogContext&, const QString&) {});  // what the decoders say as well
  const std::vector<std::string> sound = sound_pictures();
  int read = 0, refused = 0;
  for (int i = 0; i < test::tries(2'000, 100'000); ++i) {
    fuzz::Mutator mutator(70'000'000u + static_cast<std::uint64_t>(i));
    QByteArray bytes = QByteArray::fromStdString(mutator.bytes(sound[mutator.below(sound.size())]));
    if (mutator.one_in(2)) bytes = summed(std::move(bytes));
    const int longest = mutator.one_in(3) ? 200 : 0;
    const std::clock_t start = std::clock();
    const auto picture = pictureFrom(bytes, QStringLiteral("spoilt.png"), longest);
    CAPTURE(i);
    REQUIRE(std::clock() - start < 2 * CLOCKS_PER_SEC);
    if (picture) {
      ++read;
      REQUIRE_FALSE(picture->isNull());
      REQUIRE(qint64{picture->width()} * picture->height() <= kMostMegapixels * 1'000'000);
      REQUIRE((longest == 0 || std::max(picture->width(), picture->height()) <= longest));
    } else {
      ++refused;
      REQUIRE(QString::fromStdString(picture.error().text).startsWith(QLatin1String("spoilt.png ")));
    }
  }
  qInstallMessageHandler(nullptr);
  CHECK(read > 100);
  CHECK(refused > 100);
}
