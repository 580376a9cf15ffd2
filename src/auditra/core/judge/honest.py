"""The honest sentence: what the box should have said, in the seller's own style of claim."""

from __future__ import annotations

from collections.abc import Callable, Iterable

from auditra.core.claims.claim import Claim
from auditra.core.claims.kinds.shows import Shows
from auditra.core.claims.language import parse_claim
from auditra.core.claims.promise import Promise, Sense
from auditra.core.decide.estimates import estimate
from auditra.core.errors import ClaimError
from auditra.core.judge.claim_verdict import ClaimVerdict
from auditra.core.judge.records import Counted, Records, least_of
from auditra.core.links.display import mode_of
from auditra.core.model.reading import Quantity
from auditra.core.model.verdict import Verdict

SO_FAR = "shown so far"


def honest_sentence(verdict: ClaimVerdict, records: Records) -> str:
    """The claim that would be true; empty for one that simply holds, and where nothing was shown.

    A figure is the one that every trial of the claim keeps: rounded down where more is better, up where less is.
    """
    claim = verdict.claim
    if verdict.verdict is Verdict.HOLDS:
        return ""
    if verdict.verdict is Verdict.HOLDS_IF:
        return f"{claim} {verdict.condition}"
    trials = _as_claimed(verdict, records)
    if verdict.verdict.accuses:
        return _sentence(claim, _as_shown(claim, trials, records, min) or claim.promise.denied)
    if verdict.shown_under:
        return f"{claim}, {SO_FAR} only {' or '.join(verdict.shown_under)}"
    words = _as_shown(claim, trials, records, max)
    return f"{_sentence(claim, words)}, {SO_FAR}" if words and words != _promised(claim) else ""


def shown_promise(verdict: ClaimVerdict, records: Records) -> Promise | None:
    """The promise that was shown: the claim's own where it holds, else what every trial of it keeps; None for none."""
    if verdict.verdict in (Verdict.HOLDS, Verdict.HOLDS_IF):
        return verdict.claim.promise
    words = _as_shown(verdict.claim, _as_claimed(verdict, records), records, min) if verdict.verdict.accuses else ""
    try:
        return parse_claim(f"{verdict.claim.port} {words}", claim_id=verdict.claim.id).promise if words else None
    except ClaimError:
        return None  # it shows nothing of the kind: "does not ..."


def _as_claimed(verdict: ClaimVerdict, records: Records) -> list[Counted]:
    """The trials that had what the claim names."""
    names = {trial for set_up in verdict.set_ups if set_up.meets_conditions for trial in set_up.trials}
    return [trial for trial in records.bearing_on(verdict.claim.id) if trial.id in names]


def _promised(claim: Claim) -> str:
    return claim.promise.sentence(several=len(claim.ports) > 1)


def _sentence(claim: Claim, words: str) -> str:
    subject = str(claim).split(" ", 1)[0]
    return " ".join((subject, words, *map(str, claim.conditions)))


def _as_shown(claim: Claim, trials: Iterable[Counted], records: Records, least: Callable[..., float]) -> str:
    """The promise with the figures that were shown; empty where none were.

    `least` takes the trial that shows least of it, for what every trial keeps, or the one that shows most.
    """
    trials = tuple(trials)
    if isinstance(claim.promise, Shows):
        modes = [mode for trial in trials for port in claim.ports for reading in trial.at(port).of(Quantity.MODE)
                 if (mode := mode_of(reading.text)) is not None]  # fmt: skip
        wanted = least((mode.pixels_a_second for mode in modes), default=0.0)
        return next((claim.promise.at_mode(mode) for mode in modes if mode.pixels_a_second == wanted), "")
    scale = claim.promise.scale()
    if scale is None:
        return ""
    shown: dict[Quantity | str, float] = {}
    for quantity in (Quantity.LINK, *scale.quantities):
        values = [_kept(quantity, trial, port, records, scale.sense) for trial in trials for port in claim.ports]
        known = [value for value in values if value is not None]
        if known:
            shown[quantity] = -least(-value for value in known) if scale.sense is Sense.AT_MOST else least(known)
    return claim.promise.at_shown(shown) if shown else ""


def _kept(quantity: Quantity | str, trial: Counted, port: str, records: Records, sense: Sense) -> float | None:
    """What a trial shows for certain of a quantity; None where it read nothing."""
    reading = records.reading(trial, port, quantity)
    if reading is None or (quantity is not Quantity.LINK and not estimate(reading).founded):
        return None
    if sense is Sense.AT_LEAST:
        return max(0.0, least_of(quantity, reading))
    y = estimate(reading)
    return y.high if sense is Sense.AT_MOST else y.value
