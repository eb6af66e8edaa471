#include "print/language.hpp"

#include <QCoreApplication>
#include <QDir>
#include <QJsonArray>
#include <QJsonDocument>
#include <QJsonObject>
#include <algorithm>
#include <array>

#include "core/base/data_files.hpp"
#include "print/text.hpp"

namespace awl {
namespace {

const Language* current = nullptr;

QString folder() { return QString::fromStdString((data_folder() / "language").string()); }

/// "The {1} ends {2} mm above" as an expression whose captures are numbered as its places are.
QRegularExpression expression_of(const QString& pattern, std::vector<int>& places) {
  static const QRegularExpression place(QStringLiteral("\\{(\\d)\\}"));
  QString made = QStringLiteral("\\A");
  qsizetype from = 0;
  for (auto it = place.globalMatch(pattern); it.hasNext();) {
    const auto match = it.next();
    made += QRegularExpression::escape(pattern.mid(from, match.capturedStart() - from)) + QStringLiteral("(.+?)");
    places.push_back(match.captured(1).toInt());
    from = match.capturedEnd();
  }
  return QRegularExpression(made + QRegularExpression::escape(pattern.mid(from)) + QStringLiteral("\\z"),
      QRegularExpression::DotMatchesEverythingOption);
}

/// Figures, sizes and letters are the same in every language.
bool isFigure(const QString& text) {
  static const QRegularExpression figure(
      QStringLiteral("\\A[\\d.,:x/ -]+( ?(mm|cm|m|g|kg|l|%|\u00b0|N|mA))?\\z|\\A[A-Z]{1,2}\\z"));
  return figure.match(text).hasMatch();
}

/// The translated pattern with its places in the order of the captures.
QString renumbered(QString text, const std::vector<int>& places) {
  for (std::size_t i = 0; i < places.size(); ++i)
    text.replace(QStringLiteral("{%1}").arg(places[i]), QStringLiteral("\x01%1\x02").arg(i + 1));
  return text;
}

}  // namespace

std::vector<Language::Choice> Language::choices() {
  std::vector<Choice> all;
  const QDir languages(folder());
  for (const QString& file : languages.entryList({QStringLiteral("*.json")}, QDir::Files, QDir::Name)) {
    const auto bytes = read_file(languages.filePath(file).toStdString());
    if (!bytes) continue;
    const QString name = QJsonDocument::fromJson(QByteArray::fromStdString(*bytes)).object()["name"].toString();
    if (!name.isEmpty()) all.push_back({file.chopped(5), name});
  }
  return all;
}

Result<std::unique_ptr<Language>> Language::load(const QString& code) {
  const QString path = QDir(folder()).filePath(code + QStringLiteral(".json"));
  const auto bytes = read_file(path.toStdString());
  if (!bytes) return fail(bytes);
  QJsonParseError error;
  const QJsonObject all = QJsonDocument::fromJson(QByteArray::fromStdString(*bytes), &error).object();
  if (all.isEmpty())
    return fail(Errc::bad_file,
        "The language file " + path.toStdString() + " cannot be read: " + error.errorString().toStdString() + ".");
  auto language = std::make_unique<Language>();
  language->m_code = code;
  const QJsonObject texts = all["texts"].toObject(), plurals = all["plurals"].toObject(),
                    patterns = all["patterns"].toObject();
  for (auto it = texts.begin(); it != texts.end(); ++it) language->m_texts.insert(it.key(), it.value().toString());
  for (auto it = plurals.begin(); it != plurals.end(); ++it) {
    QStringList forms;
    for (const auto& form : it.value().toArray()) forms << form.toString();
    if (forms.size() == 2) language->m_plurals.insert(it.key(), forms);
  }
  for (auto it = patterns.begin(); it != patterns.end(); ++it) {
    std::vector<int> places;
    Pattern pattern{expression_of(it.key(), places), renumbered(it.value().toString(), places), {}, 0};
    static const QRegularExpression place(QStringLiteral("\\{\\d\\}"));
    for (const QString& stretch : it.key().split(place)) {
      pattern.own += stretch.size();
      if (stretch.size() > pattern.surely.size()) pattern.surely = stretch;
    }
    language->m_patterns.push_back(std::move(pattern));
  }
  std::stable_sort(language->m_patterns.begin(), language->m_patterns.end(),
      [](const Pattern& a, const Pattern& b) { return a.own > b.own; });
  return language;
}

void Language::use(const Language* language) { current = language; }
const Language* Language::inUse() { return current; }

QString Language::translate(const char*, const char* text, const char*, int n) const {
  const QString english = QString::fromUtf8(text);
  if (n >= 0)
    if (const auto forms = m_plurals.find(english); forms != m_plurals.end()) return forms->at(n == 1 ? 0 : 1);
  return m_texts.value(english);
}

QString Language::spoken(const QString& english) const {
  if (english.isEmpty()) return english;
  if (const auto whole = m_texts.find(english); whole != m_texts.end()) return *whole;
  const QMutexLocker asking(&m_asking);
  if (const auto known = m_known.find(english); known != m_known.end()) return *known;
  const QString made = withDays(said(english, 0));
  m_known.insert(english, made);
  return made;
}

/// "Sat 5 Dec 2026" wherever it stands; the pattern "{day} {number} {month}" says how.
QString Language::withDays(QString text) const {
  static const QRegularExpression date(QStringLiteral(
      "\\b(Sun|Mon|Tue|Wed|Thu|Fri|Sat) (\\d{1,2}) (Jan|Feb|Mar|Apr|May|Jun|Jul|Aug|Sep|Oct|Nov|Dec)\\b"));
  const QString order = m_texts.value(QStringLiteral("{day} {number} {month}"));
  if (order.isEmpty()) return text;
  for (auto match = date.match(text); match.hasMatch();) {
    QString own = order;
    own.replace(QStringLiteral("{day}"), m_texts.value(match.captured(1), match.captured(1)));
    own.replace(QStringLiteral("{number}"), match.captured(2));
    own.replace(QStringLiteral("{month}"), m_texts.value(match.captured(3), match.captured(3)));
    text.replace(match.capturedStart(), match.capturedLength(), own);
    match = date.match(text, match.capturedStart() + own.size());
  }
  return text;
}

/// What a pattern makes of a text; null where it does not fit. `known`: all that stands in its places must be known.
QString Language::fitted(const Pattern& pattern, const QString& english, bool known, int depth) const {
  if (!english.contains(pattern.surely)) return {};
  const auto match = pattern.english.match(english);
  if (!match.hasMatch()) return {};
  QString made = pattern.text;
  for (int i = 1; i <= match.lastCapturedIndex(); ++i) {
    const QString place = match.captured(i), own = said(place, depth + 1);
    if (known && own == place && !isFigure(place)) return {};
    made.replace(QStringLiteral("\x01%1\x02").arg(i), own);
  }
  return made;
}

QString Language::said(const QString& english, int depth) const {
  constexpr int kDeepest = 4;        // a sentence in a sentence in a sentence
  constexpr qsizetype kTelling = 9;  // a pattern of fewer letters of its own fits what it was not made for
  if (const auto whole = m_texts.find(english); whole != m_texts.end()) return *whole;
  if (depth > kDeepest) return english;
  for (const Pattern& pattern : m_patterns)
    if (pattern.own >= kTelling)
      if (QString made = fitted(pattern, english, false, depth); !made.isNull()) return made;
  // Several sentences, "what: how", a name and what of it: the longest beginning that is known, and the rest.
  static const std::array<std::pair<QString, int>, 3> kApart{
      {{QStringLiteral(". "), 1}, {QStringLiteral(": "), 0}, {QStringLiteral(", "), 0}}};
  for (const auto& [apart, keeps] : kApart)
    for (auto at = english.lastIndexOf(apart); at > 0; at = english.lastIndexOf(apart, at - 1))
      if (const auto head = m_texts.find(english.left(at + keeps)); head != m_texts.end())
        return *head + apart.mid(keeps) + said(english.mid(at + apart.size()), depth);
  for (const Pattern& pattern : m_patterns)
    if (pattern.own < kTelling)
      if (QString made = fitted(pattern, english, true, depth); !made.isNull()) return made;
  for (const auto& [apart, keeps] : kApart)
    if (const auto at = english.indexOf(apart); at > 0) {
      const QString head = english.left(at + keeps), rest = english.mid(at + apart.size());
      const QString one = said(head, depth + 1), other = said(rest, depth + 1);
      if (one != head || other != rest) return one + apart.mid(keeps) + other;
    }
  static const QRegularExpression numbered(QStringLiteral("\\A(.+) (\\d+)\\z"));
  if (const auto match = numbered.match(english); match.hasMatch())
    if (const auto name = m_texts.find(match.captured(1)); name != m_texts.end())
      return *name + QLatin1Char(' ') + match.captured(2);
  return english;
}

QString printed(const char* text) { return QCoreApplication::translate("awl::Page", text); }

QLocale spokenLocale() { return QLocale(current != nullptr ? current->code() : QStringLiteral("en")); }

QString qs(const std::string& text) {
  const QString plain = QString::fromStdString(text);
  return current != nullptr ? current->spoken(plain) : plain;
}

}  // namespace awl
