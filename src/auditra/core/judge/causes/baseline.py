"""Direct trials that are no baseline: something besides the device differs, such as the protocol."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

from auditra.core.counted import listed
from auditra.core.judge.comparison import Comparison, Difference
from auditra.core.judge.finding import Cause, Finding, Role
from auditra.core.judge.reasoning.inquiry import Inquiry
from auditra.core.model.verdict import Verdict


@dataclass(frozen=True, kw_only=True)
class NoBaseline(Finding):
    kind = "no baseline"
    role = Role.RIG_LIMIT

    directs: tuple[str, ...]
    differences: tuple[Difference, ...]

    @property
    def subject(self) -> str:
        return listed(tuple(dict.fromkeys(str(each.aspect) for each in self.differences)))

    @property
    def sentence(self) -> str:
        no = "is no baseline" if len(self.directs) == 1 else "are no baselines"
        return f"{listed(self.directs)} {no} for {self.trials[0]}: {'; '.join(map(str, self.differences))}"


def _find(inquiry: Inquiry) -> Iterator[NoBaseline]:
    """For claims that stay unproven with no cause found: trials whose direct ones differ in more than the device."""
    for verdict in inquiry.verdicts:
        found_out = inquiry.elimination_of(verdict)
        if verdict.verdict is not Verdict.UNPROVEN or (found_out is not None and found_out.cause):
            continue
        by_trial: dict[str, list[Comparison]] = {}
        for comparison in verdict.comparisons:
            by_trial.setdefault(comparison.trial, []).append(comparison)
        refused = {name: found for name, found in by_trial.items() if all(each.refusing for each in found)}
        for name, found in list(refused.items())[:1]:
            yield NoBaseline(
                ports=(verdict.claim.port,), trials=(name, *(each.direct for each in found)),
                claims=(verdict.claim.id,), directs=tuple(each.direct for each in found),
                differences=tuple(dict.fromkeys(each for one in found for each in one.refusing)),
            )  # fmt: skip


NO_BASELINE = Cause(
    "no baseline", "one thing at a time, or the cause stays unknown",
    "direct trials that differ in more than the device", _find, Role.RIG_LIMIT,
)  # fmt: skip
