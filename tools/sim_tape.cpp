// A digital tape that is none: speaks the protocol of docs/formats/digital-tape.md on a local socket and measures a
// head from a measures file. Return presses its button, "drop" breaks the line, "quit" ends it.
#include <QCommandLineParser>
#include <QCoreApplication>
#include <QSocketNotifier>
#include <cstdio>
#include <iostream>

#include "app/stations/tape/simulated_tape.hpp"
#include "core/base/data_files.hpp"
#include "core/head/headform.hpp"
#include "core/io/measures_file.hpp"

using namespace awl;

namespace {

/// All readings of the head that these measures make. Nothing if they make none; the sentence is printed.
std::optional<Headform> head_from(const QString& file) {
  const auto measures = file.isEmpty() ? Result<MeasureSet>(MeasureSet{{MeasureId::HC, 566.0}, {MeasureId::HB, 151.0}})
                                       : read_measures(file.toStdString());
  const auto fitter = HeadFitter::load(data_folder() / "headform");
  const auto form = !measures ? Result<Headform>(tl::make_unexpected(measures.error()))
      : !fitter               ? Result<Headform>(tl::make_unexpected(fitter.error()))
                              : (*fitter)->fit(*measures);
  if (form) return *form;
  std::fprintf(stderr, "%s\n", form.error().text.c_str());
  return std::nullopt;
}

}  // namespace

int main(int argc, char** argv) {
  QCoreApplication app(argc, argv);
  QCommandLineParser parser;
  parser.setApplicationDescription(
      QStringLiteral("Simulated digital tape. Return: measure; drop: lose the line; quit: end."));
  parser.addHelpOption();
  const QCommandLineOption socket(QStringLiteral("socket"), QStringLiteral("Name of the local socket."),
      QStringLiteral("NAME"), QStringLiteral("noggin-awl-tape"));
  const QCommandLineOption measures(
      QStringLiteral("measures"), QStringLiteral("Measures file of the head it measures."), QStringLiteral("FILE"));
  const QCommandLineOption noise(QStringLiteral("noise"), QStringLiteral("Unsteadiness of the hand, mm."),
      QStringLiteral("MM"), QStringLiteral("1"));
  const QCommandLineOption spoilt(QStringLiteral("spoilt"),
      QStringLiteral("Share of lines spoilt on the way, 0 to 0.9."), QStringLiteral("SHARE"), QStringLiteral("0"));
  parser.addOptions({socket, measures, noise, spoilt});
  parser.process(app);
  const auto head = head_from(parser.value(measures));
  if (!head) return 1;
  SimulatedTape tape(
      [&](const QString& code) -> std::optional<double> {
        const auto id = measure_from_code(code.toStdString());
        if (!id) return std::nullopt;
        return head->reading(*id).reads_mm;
      },
      {parser.value(noise).toDouble(), qBound(0.0, parser.value(spoilt).toDouble(), 0.9), 5});
  QString problem;
  if (!tape.listen(parser.value(socket), &problem))
    return std::fprintf(stderr, "The socket cannot be used: %s\n", problem.toLocal8Bit().constData()), 1;
  std::printf("Listening on %s.\n", parser.value(socket).toLocal8Bit().constData());
  std::fflush(stdout);
  QObject::connect(&tape, &SimulatedTape::wantedChanged,
      [&] { std::printf("wanted: %s\n", tape.wanted().toLocal8Bit().constData()), std::fflush(stdout); });
  QSocketNotifier keys(0, QSocketNotifier::Read);
  QObject::connect(&keys, &QSocketNotifier::activated, [&] {
    std::string line;
    if (!std::getline(std::cin, line) || line == "quit") return QCoreApplication::quit();
    line == "drop" ? tape.dropLine() : tape.press();
  });
  return QCoreApplication::exec();
}
