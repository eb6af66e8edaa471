#pragma once
#include <QByteArray>
#include <optional>

namespace awl::tape_line {

/// A line of the digital tape's protocol, docs/formats/digital-tape.md: body, '*', two hex digits of its XOR, newline.
QByteArray sealed(const QByteArray& body);

/// The body if the seal fits; nothing for a line that was spoilt on the way.
std::optional<QByteArray> opened(const QByteArray& line);

/// What is longer is no line of a tape, and what is not read by then is let go: whoever sends it is none either.
inline constexpr qint64 kLongestLine = 512, kMostWaiting = 64 * 1024;
inline constexpr int kMostLinesAtOnce = 200;

inline constexpr int kAliveMs = 500;   ///< a tape says ALIVE at least this often
inline constexpr int kLostMs = 2000;   ///< after so long a silence it counts as lost
inline constexpr int kRepeatMs = 300;  ///< an unanswered reading is sent again

}  // namespace awl::tape_line
