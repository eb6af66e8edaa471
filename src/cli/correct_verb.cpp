#include "cli/verb_help.hpp"
#include "cli/verbs.hpp"
#include "core/chain/chain.hpp"
#include "core/chain/corrected.hpp"
#include "core/io/build_file.hpp"

namespace awl {

Result<void> verbCorrect(const VerbOptions& o, std::ostream& out) {
  return as_verb([&] {
    const auto shop = need(Chain::load(data_folder()));
    Build build = need(open_build(o.input));
    const auto replaced =
        std::erase_if(build.corrections, [&](const Correction& c) { return o.part == 0 || c.part == o.part; });
    const Derived d = shop->derive(build);
    if (d.error) throw Failed{*d.error};
    CorrectedForm made = need(correct_outlines(d, build, shop->materials(), o.part, o.closer));
    Json parts = Json::array();
    for (Correction& c : made.corrections) {
      parts.push_back(
          {{"part", c.part}, {"p95_before_mm", rounded(c.before_mm, 3)}, {"p95_after_mm", rounded(c.after_mm, 3)}});
      build.corrections.push_back(std::move(c));
    }
    need(save_build(o.output, build));
    if (o.json) {
      out << line_of(Json{{"corrected", parts}, {"replaced", replaced}, {"said", made.said}});
      return;
    }
    for (const std::string& sentence : made.said) out << sentence << "\n";
    out << o.output << "\n";
  });
}

}  // namespace awl
