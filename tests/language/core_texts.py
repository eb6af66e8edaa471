"""Sentences of the core as patterns, read out of its sources: "The {1} ends {2} from there."."""
import itertools, pathlib, re

TOKEN = re.compile(r'''
  (?P<com>//[^\n]*|/\*.*?\*/)
 |(?P<raw>R"(?P<d>[^(\s]*)\(.*?\)(?P=d)")
 |(?P<str>"(?:[^"\\\n]|\\.)*")
 |(?P<chr>'(?:[^'\\\n]|\\.)+')
 |(?P<pre>^[ \t]*\#[^\n]*)
 |(?P<id>[A-Za-z_]\w*)
 |(?P<num>\.?\d(?:[\w.']|[eE][+-])*)
 |(?P<op><<|>>|&&|\|\||==|!=|<=|>=|\+=|-=|->|::|\+\+|--|[-+*/%&|^~!<>=?:;,.(){}\[\]])
''', re.S | re.M | re.X)
OPEN, CLOSE = {'(': ')', '{': '}', '[': ']'}, {')', '}', ']'}
STOP = {';', ',', '?', ':', '=', '+=', '<<', '&&', '||', '==', '!=', 'return', '!', '<', '>', '<=', '>=', '-', '*', '/'}
MOST = 24


def plain(text):
    text = re.sub(r'\\u([0-9a-fA-F]{4})', lambda m: chr(int(m.group(1), 16)), text[1:-1])
    return text.replace('\\n', '\n').replace('\\"', '"').replace('\\\\', '\\')


def tokens_of(source):
    out = []
    for m in TOKEN.finditer(source):
        kind = m.lastgroup if m.lastgroup != 'd' else 'raw'
        if kind in ('com', 'pre'):
            continue
        if kind == 'raw':
            out.append(('raw', '', m.start()))
        elif kind == 'str':
            if out and out[-1][0] == 'str':
                out[-1] = ('str', out[-1][1] + plain(m.group()), out[-1][2])
            else:
                out.append(('str', plain(m.group()), m.start()))
        else:
            out.append((kind, m.group(), m.start()))
    return out


def match_ends(tokens):
    ends, stack = {}, []
    for i, (kind, text, _) in enumerate(tokens):
        if kind != 'op':
            continue
        if text in OPEN:
            stack.append(i)
        elif text in CLOSE and stack:
            j = stack.pop()
            ends[i], ends[j] = j, i
    return ends


class Reader:
    def __init__(self, source):
        self.t = tokens_of(source)
        self.ends = match_ends(self.t)
        self.used = set()

    def chain(self, at):
        """The whole chain of pluses a literal stands in: its first and last token."""
        t, lo, hi = self.t, at, at
        while lo > 0:
            kind, text, _ = t[lo - 1]
            if kind == 'op' and text in CLOSE:
                lo = self.ends.get(lo - 1, lo - 1)
                continue
            if (kind == 'op' and (text in OPEN or text in STOP)) or text == 'return' or kind == 'raw':
                break
            lo -= 1
        while hi + 1 < len(t):
            kind, text, _ = t[hi + 1]
            if kind == 'op' and text in OPEN:
                hi = self.ends.get(hi + 1, hi + 1)
                continue
            if (kind == 'op' and (text in CLOSE or text in STOP)) or kind == 'raw':
                break
            hi += 1
        return lo, hi

    def parse(self, lo, hi):
        """All that tokens lo..hi may read: lists of literals and None for a place."""
        t = self.t
        # A ternary at the top.
        depth, ask = 0, None
        i = lo
        while i <= hi:
            kind, text, _ = t[i]
            if kind == 'op' and text in OPEN and i in self.ends:
                i = self.ends[i]
            elif kind == 'op' and text == '?' and ask is None:
                ask = i
                break
            i += 1
        if ask is not None:
            depth, i = 0, ask + 1
            while i <= hi:
                kind, text, _ = t[i]
                if kind == 'op' and text in OPEN and i in self.ends:
                    i = self.ends[i]
                elif kind == 'op' and text == '?':
                    depth += 1
                elif kind == 'op' and text == ':':
                    if depth == 0:
                        return self.parse(ask + 1, i - 1) + self.parse(i + 1, hi)
                    depth -= 1
                i += 1
            return [[None]]
        parts, start, i = [], lo, lo
        while i <= hi:
            kind, text, _ = t[i]
            if kind == 'op' and text in OPEN and i in self.ends:
                i = self.ends[i]
            elif kind == 'op' and text == '+':
                parts.append((start, i - 1))
                start = i + 1
            i += 1
        parts.append((start, hi))
        ways = [[]]
        for a, b in parts:
            ways = [w + o for w, o in itertools.product(ways, self.operand(a, b))][:MOST]
        return ways

    def operand(self, a, b):
        t = self.t
        if a > b:
            return [[]]
        if a == b and t[a][0] == 'str':
            self.used.add(a)
            return [[t[a][1]]]
        words = ''.join(x[1] if x[0] != 'str' else '""' for x in t[a:b + 1])
        if re.match(r'(std::)?string\(.*\)$', words):
            k = next(i for i in range(a, b + 1) if t[i][1] == '(')
            if self.ends.get(k) == b:
                return self.parse(k + 1, b - 1) if k + 1 <= b - 1 else [[]]
        if t[a][1] == '(' and self.ends.get(a) == b:
            inner = self.parse(a + 1, b - 1)
            return inner
        return [[None]]

    def all(self):
        for i, (kind, _, pos) in enumerate(self.t):
            if kind != 'str' or i in self.used:
                continue
            lo, hi = self.chain(i)
            for way in self.parse(lo, hi):
                yield way, pos
            self.used.add(i)


def pattern_of(way):
    out, n = '', 0
    for part in way:
        if part is None:
            if out.endswith('}'):
                continue  # two places side by side are one
            n += 1
            out += '{%d}' % n
        else:
            out += part
    return out


def is_sentence(text):
    bare = re.sub(r'\{\d\}', '', text)
    words = len(re.findall(r'[A-Za-z]{2,}', bare))
    # Two words and a stop are one too, where they begin as one does.
    if words == 2 and '{' in text and re.match(r'[A-Z][a-z]', text.strip()) and text.strip()[-1] in '.?!':
        return True
    return words >= 3 and ' ' in bare.strip() and re.search(r'[a-z]{2} [a-z]', bare) is not None


def core_texts(root, skip=()):
    found = {}
    for path in sorted(pathlib.Path(root).glob('src/core/**/*.[ch]pp')):
        if any(s in str(path) for s in skip):
            continue
        for way, _ in Reader(path.read_text()).all():
            text = pattern_of(way).strip()
            if is_sentence(text) and len(re.findall(r'\{\d+\}', text)) <= 9:
                found.setdefault(text, path)
    return found


if __name__ == '__main__':
    import json, sys
    root = pathlib.Path(sys.argv[1])
    de = json.loads((root / 'data/language/de.json').read_text())
    found = core_texts(root)
    have = set(de['texts']) | set(de['patterns'])
    lack = {k: v for k, v in found.items() if k not in have}
    print(len(found), len(lack))
    from collections import Counter
    print(Counter(str(v).split('src/core/')[1].split('/')[0] for v in lack.values()))
    for k, v in lack.items():
        print(str(v).split('src/core/')[1], '|', k)
