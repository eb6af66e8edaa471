#pragma once
#include <QHash>
#include <QMutex>
#include <QRegularExpression>
#include <QTranslator>
#include <memory>

#include "core/base/result.hpp"

namespace awl {

/// Another language: all texts of the window and the pages, and what the core says, from data/language/CODE.json
/// (docs/formats/language.md). What it lacks stays English.
class Language : public QTranslator {
 public:
  /// A language there is: "de", "Deutsch".
  struct Choice {
    QString code, name;
  };
  /// Those in the data folder, by their own names; English is none of them.
  static std::vector<Choice> choices();
  /// Errors: cannot_read, bad_file.
  static Result<std::unique_ptr<Language>> load(const QString& code);
  /// Makes it the language of the program from now on; null for English. It must outlive the program.
  static void use(const Language* language);
  static const Language* inUse();

  QString translate(const char* context, const char* text, const char* disambiguation, int n) const override;
  bool isEmpty() const override { return false; }
  /// A sentence of the core: looked up whole, else by the most telling pattern it has, with what stands in its places
  /// spoken in the same way.
  QString spoken(const QString& english) const;
  const QString& code() const { return m_code; }
  std::size_t size() const { return static_cast<std::size_t>(m_texts.size() + m_plurals.size()) + m_patterns.size(); }

 private:
  struct Pattern {
    QRegularExpression english;
    QString text;
    QString surely;     ///< its longest stretch of words: what lacks it cannot be a match
    qsizetype own = 0;  ///< letters of its own; the most telling is asked first
  };
  QString fitted(const Pattern& pattern, const QString& english, bool known, int depth) const;
  QString said(const QString& english, int depth) const;
  QString withDays(QString text) const;

  QString m_code;
  QHash<QString, QString> m_texts;
  QHash<QString, QStringList> m_plurals;  ///< for one, for more
  std::vector<Pattern> m_patterns;
  mutable QMutex m_asking;
  mutable QHash<QString, QString> m_known;  ///< sentences asked before
};

}  // namespace awl
