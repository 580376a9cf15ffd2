"""Reach: how far a rig can show each claim before anything is plugged in, its weakest link, and what to borrow."""

from __future__ import annotations

import math
from collections.abc import Iterator
from dataclasses import dataclass

from auditra.core.claims.claim import Claim
from auditra.core.claims.kinds.shows import Shows
from auditra.core.decide.instrument_error import instruments_of, limit_of_error
from auditra.core.journal.audit import Audit, TrialRecord
from auditra.core.judge.records import Counted, Records
from auditra.core.judge.rig_parts import RigParts, show_value
from auditra.core.links.display import parse_mode
from auditra.core.model.reading import Quantity
from auditra.core.model.rig import Display, Instrument
from auditra.core.model.trial import Trial
from auditra.core.plan.run_sheet import PlannedTrial, RunSheet


@dataclass(frozen=True)
class ReachLink:
    """A part on the way: the share of the promise that it carries for certain, and its figure in words."""

    part: str
    share: float
    figure: str
    noted: bool = True
    """Whether its own figure is in the rig; an unknown one may carry anything."""


@dataclass(frozen=True)
class ClaimReach:
    """How far a rig shows one claim. `share` is 1 where it shows all of it, 0 where it shows nothing."""

    claim: Claim
    share: float
    weakest: ReachLink | None = None
    lacking: str = ""
    """What the run sheet lacks for it, in words; empty where it lacks nothing."""
    unknown: tuple[str, ...] = ()
    """Parts on the way whose figures are not noted."""
    error: str = ""
    """The most that the instrument may be off at the promised value."""

    @property
    def is_whole(self) -> bool:
        return self.share >= 1


def reach_of(audit: Audit, sheet: RunSheet) -> tuple[ClaimReach, ...]:
    """The reach of every claim, in their order."""
    records = Records(audit.rig)
    planned = {claim: trial for trial in reversed(sheet.trials) if trial.port is not None for claim in trial.claims}
    return tuple(_of_claim(claim, planned.get(claim.id), records, sheet) for claim in audit.claims)


def _of_claim(claim: Claim, planned: PlannedTrial | None, records: Records, sheet: RunSheet) -> ClaimReach:
    lacking = sheet.beyond_rig.get(claim.id, "")
    if planned is None:
        return ClaimReach(claim, 0.0, lacking=lacking or "no trial is planned for it")
    links = tuple(_links(claim, planned, records))
    known = [link for link in links if link.noted]
    weakest = min(reversed(known), key=lambda link: link.share, default=None)  # the gear first, where two are alike
    share = min((link.share for link in known), default=1.0)
    if lacking:
        share = min(share, math.nextafter(1.0, 0.0))
    unknown = tuple(dict.fromkeys(link.part for link in links if not link.noted))
    return ClaimReach(claim, max(0.0, share), weakest, lacking, unknown, _error_at(claim, planned, records))


def _links(claim: Claim, planned: PlannedTrial, records: Records) -> Iterator[ReachLink]:
    """Every part between the host and the gear, the gear last."""
    if isinstance(claim.promise, Shows):
        yield from _of_picture(claim.promise, planned, records)
        return
    trial, gear = _as_if_run(planned), records.rig.name_of(planned.gear)
    for quantity, owed in claim.promise.owes().items():
        for limit in RigParts(records, trial, claim.port).way(quantity):
            noted = math.isfinite(limit.most)
            unknown = limit.sure <= 0 and not limit.part.endswith(gear)
            if owed > 0 and (noted or unknown):
                yield ReachLink(
                    limit.part, limit.most / owed if noted else 0.0,
                    show_value(quantity, limit.most) if noted else "not noted", noted,
                )  # fmt: skip


def _of_picture(promise: Shows, planned: PlannedTrial, records: Records) -> Iterator[ReachLink]:
    """The display, and the host's socket, by the modes that are noted of them."""
    rig = records.rig
    host = rig.host(planned.setup.host)
    socket = host.socket(planned.setup.host_socket) if host is not None else None
    if host is not None and socket is not None and isinstance(socket.modes, tuple) and socket.modes:
        yield _of_modes(f"socket {socket.id} of the {host.name}", socket.modes, promise)
    display = rig.find(planned.gear)
    if isinstance(display, Display):
        yield _of_modes(f"the {display.name}", display.modes, promise)


def _of_modes(part: str, modes: tuple[str, ...], promise: Shows) -> ReachLink:
    parsed = [parse_mode(mode) for mode in modes]
    covering = [mode for mode in parsed if mode.covers(promise.mode)]
    best = max(covering or parsed, key=lambda mode: mode.pixels_a_second)
    share = best.pixels_a_second / promise.mode.pixels_a_second
    return ReachLink(part, share if covering else min(share, math.nextafter(1.0, 0.0)), str(best))


def _error_at(claim: Claim, planned: PlannedTrial, records: Records) -> str:
    """How far the instruments of the set-up may be off where the promise just holds."""
    owed = claim.promise.owes().get(Quantity.POWER)
    if not owed:
        return ""
    ids = {part for each in planned.setup.plugged for part in (each.gear, each.owner, *each.through)}
    there = [each for each in instruments_of(records.rig) if isinstance(each, Instrument) and each.id in ids]
    errors = [limit_of_error(each, Quantity.POWER, owed) for each in there]
    known = [error for error in errors if error > 0]
    return f"± {show_value(Quantity.POWER, min(known))} at {show_value(Quantity.POWER, owed)}" if known else ""


def _as_if_run(planned: PlannedTrial) -> Counted:
    meant = Trial("", planned.procedure, planned.claims, planned.setup, planned.gear, planned.port)
    record = TrialRecord(meant)
    return Counted(record, record.taken)
