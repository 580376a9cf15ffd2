"""Ports that fill the way to the host together: each gives less, and none is to blame."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

from auditra.core.judge.finding import Cause, Finding, Role
from auditra.core.judge.reasoning.inquiry import Inquiry
from auditra.core.judge.sharing import Filled, filled_upstream
from auditra.core.quantities.display import MEGABYTES_A_SECOND, bit_rate


@dataclass(frozen=True, kw_only=True)
class SharedUpstream(Finding):
    kind = "shared upstream"
    role = Role.RIG_LIMIT
    settles = True

    filled: Filled

    @property
    def subject(self) -> str:
        return f"the link to the host ({bit_rate(self.filled.link_bps)})"

    @property
    def sentence(self) -> str:
        return f"{' and '.join(self.ports)} fill {self.subject} together: each gives less, and none is to blame"

    @property
    def arithmetic(self) -> str:
        shares = " + ".join(f"{MEGABYTES_A_SECOND.number(rate)}" for _, rate in self.filled.by_port)
        total, most = (MEGABYTES_A_SECOND.show(rate) for rate in (self.filled.total, self.filled.ceiling))
        return f"{shares} = {total} of {most}"


def _find(inquiry: Inquiry) -> Iterator[SharedUpstream]:
    """Trials in which the ports at work add up to what the way to the host carries; each set of ports once."""
    seen: set[tuple[str, ...]] = set()
    for verdict in inquiry.investigated:
        for name in (name for set_up in verdict.set_ups for name in set_up.trials):
            trial = inquiry.counted(name)
            for quantity in verdict.claim.promise.owes() if trial is not None else ():
                filled = filled_upstream(
                    inquiry.records, verdict.claim, trial, verdict.claim.port, quantity, inquiry.audit.device
                ) if trial is not None else None  # fmt: skip
                ports = tuple(port for port, _ in filled.by_port) if filled is not None else ()
                if filled is not None and ports not in seen:
                    seen.add(ports)
                    claims = trial.record.trial.claims if trial is not None else ()
                    yield SharedUpstream(ports=ports, trials=(name,), claims=claims, filled=filled)


SHARED_UPSTREAM = Cause(
    "shared upstream", "the payload of all ports against the ceiling of the link to the host",
    "several ports measured at once", _find, Role.RIG_LIMIT,
)  # fmt: skip
