#pragma once
#include <ostream>
#include <string>
#include <vector>

#include "core/base/result.hpp"

namespace awl {

/// Options of all verbs as they were typed; empty strings where not given.
struct VerbOptions {
  std::string input, measures, mesh, cuts, svg, pdf, dxf, csv, output, demo,
      paper = "a4", pages = "patterns", per = "all", curves = "arcs", machine, mat, today, marks, readings,
      people = "auto", sheet, shopping;
  double thickness_mm = 0.0;
  double tolerance = 0.04;
  bool json = false, suggest = false, darts = false, slits = false;
  std::string wearers, folder, worn_case, details;
  std::string spec, now, ics, book, which;
  bool longer = false;
  int size_px = 256;
  int part = 0;
  bool closer = false;
  std::vector<std::string> acts;
};

/// Each verb does its work and writes to `out`; a failure is returned, not written.
Result<void> verbFit(const VerbOptions& options, std::ostream& out);
Result<void> verbPanels(const VerbOptions& options, std::ostream& out);
Result<void> verbNew(const VerbOptions& options, std::ostream& out);
Result<void> verbExport(const VerbOptions& options, std::ostream& out);
Result<void> verbRegrade(const VerbOptions& options, std::ostream& out);
Result<void> verbRemarks(const VerbOptions& options, std::ostream& out);
Result<void> verbScan(const VerbOptions& options, std::ostream& out);
Result<void> verbCheck(const VerbOptions& options, std::ostream& out);
Result<void> verbWorn(const VerbOptions& options, std::ostream& out);
Result<void> verbDress(const VerbOptions& options, std::ostream& out);
Result<void> verbPlan(const VerbOptions& options, std::ostream& out);
Result<void> verbQuote(const VerbOptions& options, std::ostream& out);
Result<void> verbBook(const VerbOptions& options, std::ostream& out);
Result<void> verbPicture(const VerbOptions& options, std::ostream& out);
Result<void> verbCorrect(const VerbOptions& o, std::ostream& out);
Result<void> verbSettings(const VerbOptions& options, std::ostream& out);
Result<void> verbChange(const VerbOptions& options, std::ostream& out);
Result<void> verbBench(const VerbOptions& options, std::ostream& out);

}  // namespace awl
