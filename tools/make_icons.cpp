// Draws the icons in every size a desktop asks for: make_icons resources/icon
#include <QGuiApplication>
#include <QImage>
#include <QPainter>
#include <QSvgRenderer>
#include <cstdio>

int main(int argc, char** argv) {
  qputenv("QT_QPA_PLATFORM", "offscreen");
  const QGuiApplication app(argc, argv);
  if (argc != 2) return std::fprintf(stderr, "usage: make_icons FOLDER\n"), 2;
  const QString folder = QString::fromLocal8Bit(argv[1]);
  for (const QString& name : {QStringLiteral("noggin-awl"), QStringLiteral("noggin-awl-build")}) {
    QSvgRenderer drawing(folder + QStringLiteral("/") + name + QStringLiteral(".svg"));
    if (!drawing.isValid()) return std::fprintf(stderr, "%s.svg cannot be drawn.\n", qPrintable(name)), 1;
    for (const int size : {16, 24, 32, 48, 64, 128, 256}) {
      QImage image(size, size, QImage::Format_ARGB32_Premultiplied);
      image.fill(Qt::transparent);
      QPainter painter(&image);
      drawing.render(&painter);
      painter.end();
      const QString path = QStringLiteral("%1/%2-%3.png").arg(folder, name).arg(size);
      if (!image.save(path)) return std::fprintf(stderr, "%s cannot be written.\n", qPrintable(path)), 1;
    }
  }
  return 0;
}
