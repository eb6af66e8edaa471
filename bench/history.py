#!/usr/bin/env python3
"""Keeps the bench's figures and tells what got slower.

history.py FILE: passes the bench's lines on from standard input, adds every "name <tab> figure" that is a time (its
name ends in _ms or _s) to FILE with the day and the commit, and tells at the end what takes more than a twentieth
longer than the median of its last five times on this machine. A name met again is the same figure of something else:
it is kept as name#2. FILE is tab-separated, one figure a line: day, machine, commit, name, figure.
"""
import datetime
import pathlib
import platform
import statistics
import subprocess
import sys

SLOWER, LAST = 1.05, 5


def commit():
    told = subprocess.run(['git', 'rev-parse', '--short', 'HEAD'], capture_output=True, text=True)
    return told.stdout.strip() or 'unknown'


def figures_of(line):
    name, _, figure = line.rstrip('\n').partition('\t')
    name = name.strip()
    if not name.endswith(('_ms', '_s')):
        return None
    try:
        return name, float(figure)
    except ValueError:
        return None


def before(path, machine):
    past = {}
    if path.exists():
        for line in path.read_text().splitlines():
            parts = line.split('\t')
            if len(parts) == 5 and parts[1] == machine:
                past.setdefault(parts[3], []).append(float(parts[4]))
    return past


def main():
    path = pathlib.Path(sys.argv[1])
    machine = platform.node() or 'this machine'
    past = before(path, machine)
    day, now = datetime.date.today().isoformat(), commit()
    slower, kept, seen = [], [], {}
    for line in sys.stdin:
        print(line, end='', flush=True)
        figure = figures_of(line)
        if figure is None:
            continue
        name, value = figure
        seen[name] = seen.get(name, 0) + 1
        if seen[name] > 1:  # the same of another mesh
            name += f'#{seen[name]}'
        kept.append(f'{day}\t{machine}\t{now}\t{name}\t{value:g}\n')
        if name in past:
            usual = statistics.median(past[name][-LAST:])
            if value > SLOWER * usual:
                slower.append((value / max(usual, 1e-9), name, usual, value))
    path.parent.mkdir(parents=True, exist_ok=True)
    with path.open('a') as history:
        history.writelines(kept)
    print(f'\n{len(kept)} figures kept in {path}')
    if not past:
        return print('The first ones of this machine: nothing to compare with yet.')
    if not slower:
        more = f'{100.0 * (SLOWER - 1.0):.0f} %'
        return print(f'Nothing takes more than {more} longer than the median of its last {LAST}.')
    for times, name, usual, value in sorted(slower, reverse=True):
        print(f'slower by {100.0 * (times - 1.0):5.1f} %  {name}: {value:g}, was {usual:g}')


if __name__ == '__main__':
    main()
