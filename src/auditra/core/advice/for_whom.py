"""For whom a device is: rules on verdicts and readings, read from data, each answer with what it comes from."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from enum import IntEnum

from auditra.core.claims.claim import Claim, Joined
from auditra.core.claims.kinds.shows import OneAtATime, Shows
from auditra.core.claims.promise import Promise, Sense
from auditra.core.decide.estimates import estimate
from auditra.core.journal.audit import Audit
from auditra.core.judge.claim_verdict import ClaimVerdict
from auditra.core.judge.judgement import Judgement
from auditra.core.model.device import Device, OwnSupply, Role
from auditra.core.model.reading import Quantity
from auditra.core.model.verdict import Verdict
from auditra.core.quantities.display import power


class Fit(IntEnum):
    """How a device suits a user, the best first."""

    SUITS = 0
    SUITS_IF = 1
    NOT_KNOWN = 2
    DOES_NOT = 3

    @property
    def word(self) -> str:
        return ("suits", "suits if", "not known yet", "does not suit")[self]


@dataclass(frozen=True)
class Need:
    """One thing that a user needs: one of these promises, on so many ports; or watts measured at the host's plug."""

    any_of: tuple[Promise, ...]
    ports: int = 1
    together: bool = False
    host_w: float | None = None

    @property
    def words(self) -> str:
        where = f" on {self.ports} sockets" if self.ports > 1 else ""
        return f'"{self.any_of[0]}"{where}{" at the same time" if self.together else ""}'


@dataclass(frozen=True)
class User:
    """One kind of user. `kinds` limits the rule to devices of these kinds, `without_kinds` to others."""

    name: str
    needs: tuple[Need, ...]
    not_with: tuple[str, ...] = ()
    kinds: tuple[str, ...] = ()
    without_kinds: tuple[str, ...] = ()
    on_the_road: bool = False
    """What needs a supply of its own has to be carried with it."""


@dataclass(frozen=True)
class Ground:
    """One sentence of the answer, with the claims, trials and finding that it comes from."""

    text: str
    fit: Fit
    claims: tuple[str, ...] = ()
    trials: tuple[str, ...] = ()
    finding: str = ""


@dataclass(frozen=True)
class Suits:
    """The answer for one kind of user: the worst of its grounds."""

    user: str
    grounds: tuple[Ground, ...]

    @property
    def fit(self) -> Fit:
        return max((each.fit for each in self.grounds), default=Fit.NOT_KNOWN)


def for_whom(audit: Audit, judgement: Judgement, device: Device, users: Iterable[User]) -> tuple[Suits, ...]:
    """The answer for each kind of user that the device has anything for, the best first."""
    asking = _Asking(audit, judgement, device)
    found = [Suits(user.name, asking.grounds(user)) for user in users if asking.concerns(user)]
    return tuple(sorted(found, key=lambda each: each.fit))


@dataclass(frozen=True)
class _Asking:
    audit: Audit
    judgement: Judgement
    device: Device

    @property
    def own(self) -> tuple[ClaimVerdict, ...]:
        return tuple(each for each in self.judgement.claims if each.claim.device == self.device.id)

    def concerns(self, user: User) -> bool:
        """Whether the rule is about such a device, and the device claims or showed any of what the user needs."""
        kind = self.device.kind.casefold()
        if user.kinds and not any(each in kind for each in user.kinds):
            return False
        if any(each in kind for each in user.without_kinds):
            return False
        return any(self._about(need) or self._watts(need) is not None for need in user.needs)

    def grounds(self, user: User) -> tuple[Ground, ...]:
        met = [self._ground(need) for need in user.needs]
        ports = {
            port for each in self.own for need in user.needs if self._reaches(each, need) for port in each.claim.ports
        }
        against = [
            Ground(each.sentence, Fit.SUITS_IF, each.claims, each.trials, each.kind)
            for each in self.judgement.findings
            if each.kind in user.not_with and (not each.ports or ports & set(each.ports))
        ]
        supply = self.device.supply
        if user.on_the_road and isinstance(supply, OwnSupply):
            against.append(Ground(f"its supply of {supply.volts:g} V {supply.amperes:g} A comes along", Fit.SUITS_IF))
        return (*met, *against)

    def _ground(self, need: Need) -> Ground:
        if need.host_w is not None and (watts := self._watts(need)) is not None:
            value, trial = watts
            if value >= need.host_w and not self._about(need):
                text = f"{power(value)} reached the host, and {power(need.host_w)} are needed"
                return Ground(text, Fit.SUITS, trials=(trial,))
        about = self._about(need)
        if not about:
            return Ground(f"nothing is stated of {need.words}", Fit.DOES_NOT)
        if need.together:
            return self._together(need, about)
        good = [each for each in about if self._reaches(each, need)]
        ports = {port for each in good for port in each.claim.ports}
        if len(ports) >= need.ports:
            return _met(good, need)
        pending = [each for each in about if not each.verdict.decided or self._may_reach(each, need)]
        fit = Fit.NOT_KNOWN if pending else Fit.DOES_NOT
        words = "; ".join(f"{each.claim}: {each.verdict.word}" for each in about)
        return _ground(f"needs {need.words}: {words}", fit, about)

    def _together(self, need: Need, about: Sequence[ClaimVerdict]) -> Ground:
        """One claim of several ports has to show it; single ones say nothing of what they do at the same time."""
        joined = [each for each in about if each.claim.joined is Joined.TOGETHER]
        groups = [each for each in joined if len(each.claim.ports) >= need.ports]
        good = [each for each in groups if self._reaches(each, need)]
        if good:
            return _met(good, need)
        apart = [each for each in self.own if isinstance(each.claim.promise, OneAtATime) and each.verdict.decided]
        outputs = {port for each in about for port in each.claim.ports}
        bound = {port for each in apart for port in each.claim.ports}
        single = len(outputs - bound) + bool(bound)
        known = [each for each in groups if each.verdict.decided]
        if known or single < need.ports:
            words = "; ".join(f"{each.claim}: {each.verdict.word}" for each in (*known, *apart) or about)
            return _ground(f"needs {need.words}: {words}", Fit.DOES_NOT, (*known, *apart) or about)
        return _ground(f"needs {need.words}: nothing shows it yet", Fit.NOT_KNOWN, (*groups, *about))

    def _about(self, need: Need) -> list[ClaimVerdict]:
        return [each for each in self.own if any(_comparable(each.claim, promise) for promise in need.any_of)]

    def _reaches(self, verdict: ClaimVerdict, need: Need) -> bool:
        shown = self.judgement.shown_promise(verdict.claim.id)
        return shown is not None and any(covers(shown, promise) for promise in need.any_of)

    def _may_reach(self, verdict: ClaimVerdict, need: Need) -> bool:
        """Another mode with no more pixels a second: it was not promised, and the link would carry it."""
        shown = self.judgement.shown_promise(verdict.claim.id)
        modes = [each.mode for each in need.any_of if isinstance(each, Shows)]
        return isinstance(shown, Shows) and any(mode.pixels_a_second <= shown.mode.pixels_a_second for mode in modes)

    def _watts(self, need: Need) -> tuple[float, str] | None:
        """The most that surely reached the host's plug, and in which trial."""
        upstream = self.device.first(Role.UPSTREAM)
        if need.host_w is None or upstream is None:
            return None
        found = [
            (estimate(reading).low, record.trial.id)
            for record in self.audit.trials
            if not record.trial.setup.direct and (record.ruling is None or record.ruling.counts)
            for reading in record.taken.of(Quantity.POWER).at(upstream.id).numbers()
            if estimate(reading).founded
        ]
        return max(found, default=None)


def _met(good: Sequence[ClaimVerdict], need: Need) -> Ground:
    """Met; under a condition where no claim shows it without one. What fails a larger promise may still be enough."""
    plain = [each for each in good if each.verdict is not Verdict.HOLDS_IF or _always_enough(each, need)]
    ports = {port for each in plain for port in each.claim.ports}
    counted = plain if len(ports) >= need.ports else good
    fit = Fit.SUITS if counted is plain else Fit.SUITS_IF
    words = "; ".join(f"{each.claim} {each.condition}".rstrip() for each in counted)
    enough = (
        f", which is enough for {need.words} all the same" if fit is Fit.SUITS and any(map(_limited, counted)) else ""
    )
    return _ground(f"{words}{enough}", fit, counted)


def _limited(verdict: ClaimVerdict) -> bool:
    return verdict.verdict is Verdict.HOLDS_IF


def _always_enough(verdict: ClaimVerdict, need: Need) -> bool:
    """Whether every trial of a claim surely showed what is needed, those that failed the claim itself too."""
    floors = next((promise.owes() for promise in need.any_of if _comparable(verdict.claim, promise)), {})
    lows = {
        quantity: [estimate(each).low for each in verdict.rests_on if each.quantity is quantity and each.values]
        for quantity in floors
    }
    return bool(floors) and all(lows[quantity] and min(lows[quantity]) >= floor for quantity, floor in floors.items())


def _ground(text: str, fit: Fit, verdicts: Iterable[ClaimVerdict]) -> Ground:
    kept = tuple(verdicts)
    trials = dict.fromkeys(trial for each in kept for trial in each.trials)
    return Ground(text, fit, tuple(dict.fromkeys(each.claim.id for each in kept)), tuple(trials))


def _comparable(claim: Claim, need: Promise) -> bool:
    """Of one kind, and of one quantity where that kind has several."""
    promise = claim.promise
    if type(promise) is not type(need):
        return False
    ours, theirs = promise.scale(), need.scale()
    return ours is None or theirs is None or ours.quantities == theirs.quantities


def covers(shown: Promise, need: Promise) -> bool:
    """Whether a promise is at least another of its kind."""
    if type(shown) is not type(need):
        return False
    if isinstance(shown, Shows) and isinstance(need, Shows):
        return shown.mode.covers(need.mode)
    ours, theirs = shown.scale(), need.scale()
    if ours is None or theirs is None:
        return str(shown) == str(need) or ours is theirs
    if ours.quantities != theirs.quantities:
        return False
    return ours.limit <= theirs.limit if ours.sense is Sense.AT_MOST else ours.limit >= theirs.limit
