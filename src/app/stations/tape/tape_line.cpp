#include "app/stations/tape/tape_line.hpp"

namespace awl::tape_line {
namespace {

QByteArray checksum(const QByteArray& body) {
  unsigned char sum = 0;
  for (const char c : body) sum = static_cast<unsigned char>(sum ^ static_cast<unsigned char>(c));
  return QByteArray::number(sum, 16).rightJustified(2, '0');
}

}  // namespace

QByteArray sealed(const QByteArray& body) { return body + '*' + checksum(body) + '\n'; }

std::optional<QByteArray> opened(const QByteArray& line) {
  const QByteArray text = line.trimmed();
  const auto star = text.lastIndexOf('*');
  if (star < 0 || text.mid(star + 1).toLower() != checksum(text.left(star))) return std::nullopt;
  return text.left(star);
}

}  // namespace awl::tape_line
