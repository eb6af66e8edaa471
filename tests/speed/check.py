#!/usr/bin/env python3
"""A budget of instructions for the chain: what a busy machine cannot spoil.

check.py CLI FOLDER: counts the instructions of `CLI remarks` on each demo that budget.json names (cachegrind, without
its caches), and fails where one takes more than a tenth over its budget. Kernels that depend on the processor are held
to plain ones, so that machines count alike. With --write the budgets become what is counted.
"""
import json
import os
import pathlib
import re
import shutil
import subprocess
import sys
import tempfile

OVER, UNDER = 1.10, 0.80
PLAIN = {
    'GLIBC_TUNABLES': 'glibc.cpu.hwcaps=-AVX2,-FMA,-FMA4,-AVX,-AVX512F,-ERMS,-BMI2',
    'OPENBLAS_CORETYPE': 'Nehalem',
}


def millions(cli, demo, folder):
    build = os.path.join(folder, demo + '.noggin')
    subprocess.run([cli, 'new', '--demo', demo, '-o', build, '--today', '2026-10-05'], check=True,
                   stdout=subprocess.DEVNULL)
    told = subprocess.run(
        ['valgrind', '--tool=cachegrind', '--cache-sim=no', '--cachegrind-out-file=/dev/null', cli, 'remarks', build],
        env={**os.environ, **PLAIN}, capture_output=True, text=True)
    counted = re.search(r'I\s+refs:\s+([\d,]+)', told.stderr)
    if not counted:
        sys.exit(f'{demo}: nothing was counted: {told.stderr[-400:]}')
    return round(int(counted[1].replace(',', '')) / 1e6)


def main():
    write = '--write' in sys.argv
    cli, folder = [a for a in sys.argv[1:] if a != '--write']
    budget_file = pathlib.Path(folder) / 'budget.json'
    budget = json.loads(budget_file.read_text())
    if shutil.which('valgrind') is None:
        sys.exit('valgrind is not here; ./setup installs it')
    bad = 0
    with tempfile.TemporaryDirectory() as temp:
        for demo, most in budget.items():
            now = millions(cli, demo, temp)
            print(f'{demo}: {now} million instructions, budget {most} ({100.0 * now / most - 100.0:+.1f} %)')
            if write:
                budget[demo] = now
            elif now > OVER * most:
                print('  over by more than a tenth: find what became slow, or raise it with --write and say why.')
                bad += 1
            elif now < UNDER * most:
                print('  much less than its budget: lower it with --write, so that it stays so.')
    if write:
        budget_file.write_text(json.dumps(budget, indent=1) + '\n')
    return 1 if bad else 0


if __name__ == '__main__':
    sys.exit(main())
