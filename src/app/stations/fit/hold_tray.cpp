#include "app/stations/fit/hold_tray.hpp"

#include <QSignalBlocker>

#include "app/widgets/text.hpp"
#include "print/fit_words.hpp"

namespace awl {
namespace {

const std::vector<std::pair<std::string, QString>>& holdChoices() {
  static const std::vector<std::pair<std::string, QString>> choices{{"elastic", HoldTray::tr("Elastic with snaps")},
      {"chin-strap", HoldTray::tr("Chin strap")}, {"magnets", HoldTray::tr("Magnets")},
      {"band", HoldTray::tr("Its own band")}, {"tabs", HoldTray::tr("Tabs through a wig")},
      {"clips", HoldTray::tr("Clips")}, {"jaw", HoldTray::tr("Hinge, worked by the chin")}};
  return choices;
}

QString textOf(const std::string& id) {
  for (const auto& [key, text] : holdChoices())
    if (key == id) return text;
  return {};
}

}  // namespace

HoldTray::HoldTray(Station* station, Document& document)
    : QObject(station), m_station(station), m_document(document), m_holds(new QListWidget(station)) {
  TrayGroup* group = station->addGroup(tr("What holds it"));
  m_holds->setObjectName(QStringLiteral("fit-holds"));
  m_holds->setAccessibleName(tr("Holds"));
  m_holds->setMaximumHeight(86);
  group->body()->addWidget(m_holds);
  connect(m_holds, &QListWidget::currentRowChanged, this,
      [this] { emit m_station->renewWanted(), emit m_station->standChanged(); });
  m_none = group->addText(tr("Nothing holds it yet but its own shape."));
  m_part = station->addChoice(group, QStringLiteral("fit-hold-part"), tr("Part"), tr("What is held."), {}, {});
  m_kind = station->addChoice(
      group, QStringLiteral("fit-hold-kind"), tr("By"), tr("Several may share a part."), holdChoices(), {});
  station->addButton(group, QStringLiteral("fit-hold-add"), tr("Hold it so"),
      tr("Its holes, marks, shopping and steps go into the build."), [this] {
        act(tr("Hold"),
            "add-hold " + std::to_string(m_part->currentData().toInt()) + " " +
                m_kind->currentData().toString().toStdString());
        m_holds->setCurrentRow(m_holds->count() - 1);
      });
  TrayGroup* facts = m_facts = station->addGroup(tr("The one chosen"));
  m_count = new QSpinBox(station);
  m_count->setObjectName(QStringLiteral("fit-hold-count"));
  m_count->setAccessibleName(tr("How many"));
  m_count->setRange(1, 24);
  facts->addRow(tr("How many"), m_count);
  connect(m_count, &QSpinBox::valueChanged, this,
      [this](int n) { edit(nullptr, tr("How many"), [n](Hold& h) { h.count = n; }); });
  m_magnet = station->addChoice(facts, QStringLiteral("fit-magnet"), tr("Magnets"),
      tr("Across, thickness and grade, as they are sold."),
      {{"8 x 3 N42", QStringLiteral("8 x 3 N42")}, {"10 x 3 N42", QStringLiteral("10 x 3 N42")},
          {"12 x 3 N42", QStringLiteral("12 x 3 N42")}, {"15 x 5 N42", QStringLiteral("15 x 5 N42")},
          {"20 x 3 N42", QStringLiteral("20 x 3 N42")}, {"10 x 3 N52", QStringLiteral("10 x 3 N52")}},
      {});
  connect(m_magnet, &QComboBox::activated, this, [this] {
    edit(nullptr, tr("Magnets"), [this](Hold& h) { h.magnet = m_magnet->currentData().toString().toStdString(); });
  });
  m_between = new LengthField(QStringLiteral("fit-between"), tr("Between them"),
      tr("A wig's net, cloth or a hood: every millimetre costs a third of the pull."), station);
  facts->addRow(tr("Between them"), m_between);
  connect(m_between, &LengthField::entered, this,
      [this](double mm) { edit(m_between, tr("Between them"), [mm](Hold& h) { h.between_mm = mm; }); });
  m_wide = new LengthField(
      QStringLiteral("fit-wide"), tr("Width"), tr("Of the elastic or strap: a wider one presses less."), station);
  facts->addRow(tr("Width"), m_wide);
  connect(m_wide, &LengthField::entered, this,
      [this](double mm) { edit(m_wide, tr("Width"), [mm](Hold& h) { h.wide_mm = mm; }); });
  m_words = facts->addText({});
  m_words->setObjectName(QStringLiteral("fit-hold-words"));
  m_gone =
      station->addButton(facts, QStringLiteral("fit-hold-gone"), tr("Take it away"), tr("It holds no longer."), [this] {
        if (const Hold* h = hold()) act(tr("Take it away"), "drop-hold " + std::to_string(h->id));
      });
}

void HoldTray::act(const QString& label, const std::string& act) {
  m_document.change(label, [&](const Build& b) { return apply_act(b, act); });
}

const Hold* HoldTray::hold() const {
  const auto& all = m_document.build().fit.holds;
  const int row = m_holds->currentRow();
  return row >= 0 && row < static_cast<int>(all.size()) ? &all[row] : nullptr;
}

void HoldTray::edit(LengthField* field, const QString& label, const std::function<void(Hold&)>& edit) {
  const Hold* now = hold();
  if (now == nullptr) return;
  const auto made = [&, id = now->id](const Build& b) -> Result<Build> {
    Build next = b;
    for (Hold& h : next.fit.holds)
      if (h.id == id) edit(h);
    if (auto good = check_inputs(next); !good) return fail(good);
    return next;
  };
  if (field != nullptr)
    m_station->submit(field, label, made);
  else
    m_document.change(label, made);
}

void HoldTray::reveal(int hold) {
  const auto& all = m_document.build().fit.holds;
  for (std::size_t i = 0; i < all.size(); ++i)
    if (hold == all[i].id) m_holds->setCurrentRow(static_cast<int>(i));
  m_station->focusOn(m_holds);
}

void HoldTray::show(const Build& build, const Derived& derived) {
  const QSignalBlocker quiet(m_holds), still(m_count);
  const QSignalBlocker held(m_part);
  const QVariant part = m_part->currentData();
  m_part->clear();
  for (const Part& p : build.parts) m_part->addItem(qs(p.name), p.id);
  m_part->setCurrentIndex(std::max(0, m_part->findData(part)));
  const int row = m_holds->currentRow();
  m_holds->clear();
  for (const Hold& h : build.fit.holds) {
    const Part* of = find_part(build, h.part);
    m_holds->addItem(tr("%1: %2").arg(of != nullptr ? qs(of->name) : QString(), textOf(name_of(h.by)).toLower()));
  }
  m_holds->setCurrentRow(
      build.fit.holds.empty() ? -1 : std::clamp(row, 0, static_cast<int>(build.fit.holds.size()) - 1));
  const Hold* h = hold();
  const bool magnets = h != nullptr && h->by == HoldBy::magnets,
             strap = h != nullptr && (h->by == HoldBy::elastic || h->by == HoldBy::chin_strap);
  m_facts->showRow(m_count, h != nullptr && !strap && h->by != HoldBy::band && h->by != HoldBy::jaw);
  m_facts->showRow(m_magnet, magnets);
  m_facts->showRow(m_between, magnets || (h != nullptr && h->by == HoldBy::tabs));
  m_facts->showRow(m_wide, strap);
  m_holds->setVisible(!build.fit.holds.empty());
  m_none->setVisible(build.fit.holds.empty());
  m_facts->setVisible(h != nullptr);
  m_count->setValue(h != nullptr ? h->count : 1);
  if (h != nullptr && m_magnet->findData(QString::fromStdString(h->magnet)) < 0)
    m_magnet->addItem(QString::fromStdString(h->magnet), QString::fromStdString(h->magnet));
  if (h != nullptr) Station::showChoice(m_magnet, h->magnet);
  m_between->showValue(h != nullptr ? std::optional(h->between_mm) : std::nullopt, build.shown);
  m_wide->showValue(h != nullptr ? std::optional(h->wide_mm) : std::nullopt, build.shown);
  m_words->setText(h != nullptr ? answered(holdWords(derived, *h)) : QString());
}

}  // namespace awl
