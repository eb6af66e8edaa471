#!/usr/bin/env python3
"""Spells every sentence of the program: string literals of src, the help, the data, the documents.

Words hunspell's British dictionary lacks and that are meant so stand in words.txt, one a line. Anything else is printed
with one place it stands at, and the exit code is 1. Usage: check.py ROOT [--list]
"""
import json, pathlib, re, subprocess, sys

root = pathlib.Path(sys.argv[1])
allowed = {w.strip().lower() for w in (root / "tests/spelling/words.txt").read_text().splitlines() if w.strip()}
literal = re.compile(r'"((?:[^"\\\n]|\\.)*)"')
word = re.compile(r"[A-Za-z][a-z]+(?:'[a-z]+)?")


def plain(text):
    text = text.replace("\\n", " ").replace("\\u2026", " ").replace('\\"', " ")
    text = re.sub(r"\\u[0-9a-f]{4}|\\x[0-9a-f]{2}", " ", text)
    return re.sub(r"<[^>]*>|%[0-9]|&(?=[A-Za-z])", lambda m: "" if m.group() == "&" else " ", text)


def is_sentence(text):
    """Keys, names of files and styles are no sentences."""
    code = re.search(r"[{};=]|::|--|SELECT|CREATE|PRAGMA", text)
    return " " in text.strip() and len(word.findall(text)) > 1 and not code


def of_source(path):
    lines = path.read_text().splitlines()
    # Neighbouring literals are one text.
    whole = re.sub(r'"\s*\n\s*"', "", "\n".join(l for l in lines if not l.lstrip().startswith(("//", "#include"))))
    return [plain(m) for m in literal.findall(whole) if is_sentence(m)]


def of_json(value):
    if isinstance(value, str):
        return [value] if is_sentence(value) else []
    if isinstance(value, dict):
        return [t for v in value.values() for t in of_json(v)]
    if isinstance(value, list):
        return [t for v in value for t in of_json(v)]
    return []


texts = []
for path in sorted(root.glob("src/**/*.[ch]pp")):
    texts += [(path, t) for t in of_source(path)]
pages = sorted(root.glob("data/help/*.md")) + sorted(root.glob("docs/**/*.md"))
for path in pages + [root / "README.md", root / "CONTRIBUTING.md"]:
    text = re.sub(r"```.*?```|`[^`]*`|\]\([^)]*\)|\$[^$]*\$", " ", path.read_text(), flags=re.S)
    if path.name == "bibliography.md" or "formulas" in path.parts or "formats" in path.parts:
        continue  # names of people, symbols and keys
    texts.append((path, text))
for path in sorted(root.glob("data/materials/*.json")) + sorted(root.glob("data/rules/*.json")):
    texts += [(path, t) for t in of_json(json.loads(path.read_text()))]

where = {}
for path, text in texts:
    for w in word.findall(text):
        where.setdefault(w, path)
run = subprocess.run(["hunspell", "-l", "-d", "en_GB", "-i", "utf-8"], input="\n".join(sorted(where)),
                     capture_output=True, text=True, check=True)
wrong = sorted({w for w in run.stdout.split() if w.lower() not in allowed})
for w in wrong:
    print(w if "--list" in sys.argv else f"{w}: {where.get(w, '?')}")
print(f"{len(where)} words, {len(wrong)} unknown", file=sys.stderr)
sys.exit(1 if wrong else 0)
