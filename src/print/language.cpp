#include "print/language.hpp"

#include <QDir>
#include <QJsonArray>
#include <QJsonDocument>
#include <QJsonObject>
#include <algorithm>

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
  const QString made = said(english, 0);
  m_known.insert(english, made);
  return made;
}

QString Language::said(const QString& english, int depth) const {
  constexpr int kDeepest = 3;  // a sentence in a sentence in a sentence
  if (const auto whole = m_texts.find(english); whole != m_texts.end()) return *whole;
  if (depth > kDeepest) return english;
  for (const Pattern& pattern : m_patterns) {
    if (!english.contains(pattern.surely)) continue;
    const auto match = pattern.english.match(english);
    if (!match.hasMatch()) continue;
    QString made = pattern.text;
    for (int i = 1; i <= match.lastCapturedIndex(); ++i)
      made.replace(QStringLiteral("\x01%1\x02").arg(i), said(match.captured(i), depth + 1));
    return made;
  }
  // What a part, a sheet or a number is called may be made of words that are known: "hood, left".
  if (const auto comma = english.indexOf(QLatin1String(", ")); comma > 0) {
    const QString head = m_texts.value(english.left(comma)), rest = said(english.mid(comma + 2), depth + 1);
    if (!head.isEmpty() || rest != english.mid(comma + 2))
      return (head.isEmpty() ? english.left(comma) : head) + QStringLiteral(", ") + rest;
  }
  return english;
}

QString qs(const std::string& text) {
  const QString plain = QString::fromStdString(text);
  return current != nullptr ? current->spoken(plain) : plain;
}

}  // namespace awl
