"""``make truth``: what is said of audits whose truth is known, and how far its uncertainties can be trusted.

    python -m tests.truth [AUDITS] [DEVICES]

AUDITS are put together reading by reading; DEVICES are made whole and audited from their box on, blind.
"""

from __future__ import annotations

import sys
import time
from collections import Counter

from auditra.core.judge.judgement import judge
from tests.support.audits import PROFILE
from tests.truth.case import contradictions
from tests.truth.causes_found import tally
from tests.truth.coverage_of_uncertainty import HIGHEST, LOWEST, REPEATS, coverage
from tests.truth.fits_found import plateaus, resistances
from tests.truth.published import DEVICES, PAGE, page, run_many
from tests.truth.worlds import cases

AUDITS, FITS = 5_000, 2_000


def main() -> int:
    """Print the figures. Returns 1 where one of them is not as promised."""
    count = int(sys.argv[1]) if len(sys.argv) > 1 else AUDITS
    devices = int(sys.argv[2]) if len(sys.argv) > 2 else DEVICES
    failed = (_judge_all(count), _measure_coverage(), _name_causes(count), _fit_all(), _audit_blind(devices))
    return 1 if sum(failed) else 0


def _audit_blind(devices: int) -> int:
    """Practice devices, from box to judgement; the usual number or more writes the page. 1 if one was wronged."""
    begun, figures = time.perf_counter(), run_many(devices)
    told = page(figures)
    print(told)
    print(f"{devices} devices audited blind, {time.perf_counter() - begun:.0f} s")
    if devices >= DEVICES:
        PAGE.write_text(told, encoding="utf-8")
    return not figures.are_clean


def _judge_all(count: int) -> int:
    begun, wrong = time.perf_counter(), 0
    verdicts: dict[str, Counter[str]] = {}
    for case in cases(count):
        for words in contradictions(case):
            wrong += 1
            print(f"  wrong: {words}")
        for verdict in judge(case.audit, PROFILE).claims:
            truth = case.truths[verdict.claim.id]
            kind = "fails somewhere" if truth.unless else "is kept" if truth.kept else "is not kept"
            verdicts.setdefault(kind, Counter())[verdict.verdict.word] += 1
    for kind, found in sorted(verdicts.items()):
        told = ", ".join(f"{word} {number}" for word, number in found.most_common())
        print(f"claim that {kind:16} {told}")
    print(f"{count} audits, {wrong} verdicts that contradict the truth, {time.perf_counter() - begun:.1f} s")
    return wrong


def _measure_coverage() -> int:
    outside = 0
    for repeats in REPEATS:
        plain, mixed, blunt = (coverage(repeats, error) for error in (0.0, 0.5, 20.0))
        good = LOWEST <= plain <= HIGHEST and min(mixed, blunt) >= LOWEST
        outside += not good
        print(f"n = {repeats:2}: the truth lies within U in {plain:.1%} (with an instrument {mixed:.1%}, {blunt:.1%})")
    return outside


def _name_causes(count: int) -> int:
    found, words = tally(count)
    for line in words[:20]:
        print(f"  {line}")
    print(found)
    return not found.is_as_promised


def _fit_all() -> int:
    missed = 0
    for what, fitted in (("plateau within 1 K", plateaus(FITS)), ("ohms within 3 %", resistances(FITS))):
        print(f"{what} in {fitted.near:.1%} of fits; the interval holds the truth in {fitted.covered:.1%}")
        missed += not fitted.is_as_promised
    return missed


if __name__ == "__main__":
    raise SystemExit(main())
