#!/usr/bin/env python3
"""What bench/history.py keeps and tells: history_test.py SCRIPT."""
import pathlib
import subprocess
import sys
import tempfile


def told(script, history, lines):
    return subprocess.run([sys.executable, script, str(history)], input=lines, capture_output=True, text=True,
                          check=True).stdout


def main():
    script = sys.argv[1]
    usual = 'load_ms\t70\nmesh one\n  own_ms\t10\nmesh two\n  own_ms\t20\nstrain_percent\t3\n'
    with tempfile.TemporaryDirectory() as folder:
        history = pathlib.Path(folder) / 'deep' / 'history.tsv'
        first = told(script, history, usual)
        assert first.startswith(usual), first
        assert 'nothing to compare with' in first, first
        assert len(history.read_text().splitlines()) == 3, history.read_text()
        assert 'Nothing takes more' in told(script, history, usual)
        slow = told(script, history, usual.replace('20', '22').replace('70', '72'))
        assert 'own_ms#2: 22, was 20' in slow, slow
        assert 'load_ms:' not in slow, slow  # 2.9 % is noise
        assert all(len(line.split('\t')) == 5 for line in history.read_text().splitlines())
    print('the bench\'s history keeps what it should')


if __name__ == '__main__':
    main()
