#!/usr/bin/env python3
"""Whether a language has every text of the window and the pages, and every sentence of the core, with the places its
numbers and names go to.

Usage: check.py ROOT [--missing]: prints what data/language/*.json lack or have wrong; exit code 1 if anything.
"""
import json, pathlib, re, sys

from core_texts import core_texts

root = pathlib.Path(sys.argv[1])
literal = r'"((?:[^"\\\n]|\\.)*)"'
call = re.compile(
    r'\b(?:tr|word|printed|translate)\(\s*(?:"awl::[A-Za-z]+",\s*)?((?:' + literal + r'\s*)+)(,\s*nullptr,)?')


def plain(text):
    text = re.sub(r"\\u([0-9a-fA-F]{4})", lambda m: chr(int(m.group(1), 16)), text)
    return text.replace("\\n", "\n").replace('\\"', '"').replace("\\\\", "\\")


def texts():
    for path in sorted(root.glob("src/app/**/*.cpp")) + sorted(root.glob("src/print/**/*.cpp")):
        source = re.sub(r"^\s*//.*$", "", path.read_text(), flags=re.M)
        for m in call.finditer(source):
            if re.fullmatch(r'"(awl::\w+|SightMap)"\s*', m.group(1)):
                continue  # a context, its text comes from elsewhere
            yield path, plain("".join(re.findall(literal, m.group(1)))), bool(m.group(3))


def places(text):
    return sorted(re.findall(r"%n|%\d|\{\d\}", text))


bad = 0


def say(words):
    global bad
    bad += 1
    print(words)


def lacks(path, text, source):
    if "--missing" in sys.argv:
        return json.dumps(text, ensure_ascii=False)
    return f"{path.name} lacks {text!r} of {source}"


asked = list(texts())
# Names of what cannot be, and what only the audit of a schedule says, are for whoever carries on, not for makers.
ours = re.compile(r"^[A-Za-z_:]+: |^[a-z]+(-[a-z]+)+( |$)|^turn \{|SELECT|INSERT|DELETE|CREATE|UPDATE|PRAGMA|^DROP"
                  r"|^ALTER|^BEGIN |<text x=|"
                  r"^PRODID|^binary stl|^working out the build$|^fitting it on the head$|^a plan fits a shorter table")
spoken = {text: path for text, path in core_texts(root, ("coat/work/audit.cpp",)).items()
          if not ours.search(text) and "\n" not in text}
for path in sorted((root / "data/language").glob("*.json")):
    language = json.loads(path.read_text())
    missing = {}
    for source, text, plural in asked:
        if not re.search(r"[A-Za-z]{2}", re.sub(r"%\d|%n", "", text)):
            continue
        if text not in language["plurals" if plural else "texts"]:
            missing.setdefault(text, source.name)
    for text, source in missing.items():
        say(lacks(path, text, source))
    for text, source in spoken.items():
        if text not in language["patterns" if "{" in text else "texts"] and text not in language["texts"]:
            say(lacks(path, text, source))
    for kind in ("texts", "patterns"):
        for english, own in language[kind].items():
            if places(english) != places(own):
                say(f"{path.name}: places differ in {english!r}: {own!r}")
            keyed = english.count("&") - english.count("&&") * 2 == 1 and " " not in english and "<" not in english
            if keyed and "&" not in own and kind == "texts":
                say(f"{path.name}: no key to press in {own!r}")
    for english, forms in language["plurals"].items():
        if len(forms) != 2 or any(set(places(f)) - set(places(english)) for f in forms):
            say(f"{path.name}: forms of {english!r} are wrong")
print(f"{len(asked)} texts, {bad} faults", file=sys.stderr)
sys.exit(1 if bad else 0)
