#include <QBuffer>
#include <QImage>

#include "cli/verb_help.hpp"
#include "cli/verbs.hpp"
#include "core/base/data_files.hpp"
#include "core/io/build_file.hpp"

namespace awl {

Result<void> verbPicture(const VerbOptions& o, std::ostream& out) {
  return as_verb([&] {
    constexpr int kLeastPx = 16, kMostPx = 1024;
    if (o.size_px < kLeastPx || o.size_px > kMostPx)
      throw Failed{{Errc::out_of_range, "A picture of " + std::to_string(o.size_px) + " pixels is outside 16 to 1024.",
          "--size"}};
    const std::string png = need(picture_in_build(o.input));
    QImage picture;
    if (!picture.loadFromData(QByteArray::fromStdString(png), "PNG"))
      throw Failed{{Errc::bad_file, "The picture in " + o.input + " is none.", o.input}};
    const QImage small = picture.scaled(o.size_px, o.size_px, Qt::KeepAspectRatio, Qt::SmoothTransformation);
    QBuffer bytes;
    bytes.open(QIODevice::WriteOnly);
    small.save(&bytes, "PNG");
    need(write_file_safely(o.output, bytes.data().toStdString()));
    out << o.output << "\n";
  });
}

}  // namespace awl
