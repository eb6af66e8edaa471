#include "cli/verb_help.hpp"
#include "cli/verbs.hpp"
#include "core/base/text.hpp"
#include "core/builds/settings.hpp"
#include "core/chain/chain.hpp"
#include "core/io/build_file.hpp"

namespace awl {
namespace {

Json setting_json(const std::string& place, const Dial& d) {
  Json json{{"setting", place + "/" + d.facts.id}, {"is", d.facts.label}};
  switch (d.facts.kind) {
    case DialKind::word:
      json["value"] = d.word();
      return json;
    case DialKind::choice:
      json["value"] = dial_text(d.facts, d.value());
      json["options"] = d.facts.options;
      return json;
    case DialKind::flag:
      json["value"] = d.value() > 0.5;
      return json;
    default:
      json["value"] = rounded(d.value(), 4);
      json["least"] = d.facts.least, json["most"] = d.facts.most;
      if (!d.facts.zero.empty()) json["zero"] = d.facts.zero;
      return json;
  }
}

/// "foam/gap = 4 mm (0 mm to 50 mm): Between pieces"
std::string setting_line(const std::string& place, const Dial& d) {
  const DialFacts& f = d.facts;
  std::string line = place + "/" + f.id + " = " + (f.kind == DialKind::word ? d.word() : dial_text(f, d.value()));
  if (f.kind == DialKind::choice) {
    std::string all;
    for (const std::string& word : f.options) all += (all.empty() ? "" : ", ") + word;
    line += " (" + all + ")";
  } else if (f.kind != DialKind::word && f.kind != DialKind::flag) {
    line +=
        " (" + dial_text(f, f.least) + " to " + dial_text(f, f.most) + (f.zero.empty() ? "" : "; 0: " + f.zero) + ")";
  }
  return line + ": " + f.label;
}

}  // namespace

Result<void> verbSettings(const VerbOptions& o, std::ostream& out) {
  return as_verb([&] {
    Build build = need(open_build(o.input));
    Json all = Json::array();
    for (const std::string& place : dial_places(build))
      for (const Dial& d : need(dials_at(build, place))) {
        if (o.json)
          all.push_back(setting_json(place, d));
        else
          out << setting_line(place, d) << "\n";
      }
    if (o.json) out << line_of(Json{{"settings", all}});
  });
}

Result<void> verbChange(const VerbOptions& o, std::ostream& out) {
  return as_verb([&] {
    Build build = need(open_build(o.input));
    const auto shop = chain();
    for (const std::string& act : o.acts) {
      auto next = apply_act(build, act);
      if (next)
        if (const auto good = check_inputs(*next); !good) next = fail(good.error());
      // What another shop's build was opened with stays; what is chosen now must be there.
      if (next)
        if (const auto good = check_products(next->coat, build.coat, shop->materials()); !good)
          next = fail(good.error());
      if (!next) throw Failed{{next.error().code, in_quotes(act) + ": " + next.error().text, "--act"}};
      build = std::move(*next);
    }
    // As in the window: what the materials at hand cannot be is not kept.
    need(check_build(build, shop->materials(), shop->fitter().populations()));
    need(save_build(o.output, build));
    if (o.json)
      out << line_of(Json{{"build", o.output}, {"acts", o.acts}});
    else
      out << o.output << ": " << o.acts.size() << (o.acts.size() == 1 ? " change\n" : " changes\n");
  });
}

}  // namespace awl
