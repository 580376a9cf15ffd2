"""Explains each step of an audit to a newcomer; `?` shows it in the demo."""

from __future__ import annotations

from collections.abc import Iterator

from auditra.core.counted import counted
from auditra.core.decide.circumstance_text import setup_text
from auditra.core.judge.judged_audit import JudgedAudit
from auditra.core.model.device import DEVICE
from auditra.core.model.trial import ProcedureId
from auditra.core.model.verdict import Verdict
from auditra.core.paper_check.remark import Remark
from auditra.core.plan.run_sheet import PlannedTrial, circumstances_for
from auditra.core.procedures.registry import procedure_of
from auditra.tui.audit_state import AuditState

_TRIALS = {
    ProcedureId.STORAGE:
        "A file is written through {place}, flushed, read back, and every byte compared. Three passes show how much "
        "the rate scatters.",
    ProcedureId.NETWORK:
        "Bytes go to a peer and come back through {place}, each way for a while; the link itself is read from the "
        "host.",
    ProcedureId.TOGETHER:
        "Several sockets work at the same time, and each is measured while the others are kept busy: only so does it "
        "show what they share inside.",
    ProcedureId.POWER_OUT:
        "A load draws more and more from {place} until the promise is passed, or the socket gives way.",
    ProcedureId.POWER_IN:
        "A meter is put between supply and inlet, and a load draws where the host would be: what goes in less what "
        "comes out is what the device keeps.",
    ProcedureId.CHARGE:
        "A load is put where the host would be. It has no battery to be full, so what it draws is what the device "
        "really passes on.",
    ProcedureId.DISPLAY:
        "The display is connected, and the mode that it really runs is read back: a picture alone does not say which.",
    ProcedureId.APPEARANCE:
        "A drive goes into a socket that promises no data, several times: it must stay unseen.",
    ProcedureId.PLUGGED_MEANWHILE:
        "A drive beside the picture is pulled and plugged in again, and the picture is watched: it should stay.",
    ProcedureId.AFTER_REMOVAL:
        "What drew power is pulled, and a meter shows what is left. A C socket must be cold within a second: no seller "
        "promises it, but it can harm what is plugged in next.",
    ProcedureId.WRONG_PLUG:
        "No seller promises this, and every buyer will do it once. Whatever happens costs no points, but is worth "
        "knowing.",
    ProcedureId.RULE: "A length is read off a rule, to its finest division.",
    ProcedureId.LOOK:
        "You look, listen or count, and answer. An observation decides less than a measurement.",
}  # fmt: skip
"""What is done, by procedure."""
_AGAINST = "The same gear without the device is compared with it: only what is clearly less is the device's doing."


def claims(state: AuditState) -> tuple[str, ...]:
    judged = state.judged
    device, found = judged.audit.device.name, judged.judgement.claims
    open_ = sum(verdict.verdict is Verdict.OPEN for verdict in found)
    return (
        "Auditra splits what the seller promises into claims, each about one function of one socket. The seller's "
        "own words appear next to each claim, so you can check how it was read.",
        f"The {device} makes {counted(len(found), 'claim')}; {open_ or 'none'} of them {_are(open_)} not tried yet.",
        "Choose a socket with the arrow keys to see its claims. Then press 2.",
    )


def paper(remarks: tuple[Remark, ...]) -> tuple[str, ...]:
    found = (
        "These claims do not contradict each other."
        if not remarks
        else f"Auditra has {counted(len(remarks), 'remark')}."
    )
    return (
        "Before anything is plugged in, the claims are checked against physics and against each other: a picture that "
        "its link cannot carry, watts that add up to more than there are.",
        f"{found} A remark is a question to the seller, and costs the device nothing.",
        "Press 3 to see the gear.",
    )


def rig(state: AuditState) -> tuple[str, ...]:
    beyond = len(state.judged.judgement.sheet.beyond_rig)
    lacks = (
        f"{counted(beyond, 'claim')} {'lies' if beyond == 1 else 'lie'} beyond it."
        if beyond
        else "It reaches them all."
    )
    return (
        "You see as far as your own gear does: a drive of 440 MB/s says nothing of a socket for 1,000. So the reach of "
        "this rig is worked out first, claim by claim.",
        f"{lacks} What cannot be shown stays unproven: a device is not blamed for gear that you do not own.",
        "Press 4 to begin.",
    )


def run(judged: JudgedAudit, planned: PlannedTrial | None) -> tuple[str, ...]:
    """About the trial that comes next."""
    if planned is None:
        return (
            "Every trial of this sheet is done. Press 5 to see what was recorded over time, 6 for the reasons, "
            "7 for the score.",
        )
    how = "Make the moves that are listed, then press enter. Esc stops a trial; nothing that was taken is lost."
    return (*_of_trial(judged, planned), how)


def _of_trial(judged: JudgedAudit, planned: PlannedTrial) -> Iterator[str]:
    if planned.port is None:
        gear = judged.audit.rig.name_of(planned.gear)
        yield (
            f"First without the device: the {gear} is tried by itself. That is the most that any socket can be asked "
            "for. Without it, a slow drive would look like a slow device."
        )
        return
    place = "the device" if planned.setup.device != DEVICE else planned.port
    known = _TRIALS.get(ProcedureId(planned.procedure)) if planned.procedure in set(ProcedureId) else None
    yield known.format(place=place) if known else f"{procedure_of(planned.procedure).title}: {planned.why}."
    claim = next((each for each in judged.audit.claims if each.id in planned.claims), None)
    beside = setup_text(circumstances_for(claim, planned)) if claim is not None else ""
    if beside:
        yield f"This time {beside}. A promise that names no condition has to be kept under any that a buyer will meet."
    elif procedure_of(planned.procedure).direct is not None:
        yield _AGAINST


def traces(state: AuditState) -> tuple[str, ...]:
    return (
        "Every rate, power and temperature that was measured over time is kept. An average hides a fall; the trace "
        "shows when it began.",
        "The horizontal line is the claim. Press 6 for the reasons.",
    )


def why(state: AuditState) -> tuple[str, ...]:
    found = state.judged.judgement.reasons_so_far
    first = f"Here the first is: {found[0].sentence}." if found else "Nothing calls for one here."
    return (
        "A claim that fails has a reason: a part of the device, something else in use, heat, or a part of the rig. "
        "Suspects are all that took part each time that it failed; whoever also took part where it worked is cleared. "
        "A reason is named only where one suspect is left.",
        first,
        "Press 7 for the score.",
    )


def score(state: AuditState) -> tuple[str, ...]:
    score_ = state.judged.judgement.score
    return (
        "Each claim has a weight, and earns as much of it as was shown. Nothing is guessed: the band shows how far "
        "untried claims can still lower or raise the score.",
        f"Now it lies between {score_.lowest} and {score_.highest}. The ledger shows where each point came from.",
        "Press 8 for the report.",
    )


def publish(state: AuditState) -> tuple[str, ...]:
    return (
        "The report is made of what was recorded, each sentence with its trials behind it. The top lists what "
        "is missing before you can publish it.",
        "Press p to write it: a page for a browser, a PDF, and plain text.",
    )


def shelf() -> tuple[str, ...]:
    return (
        "Each line is an audit of one device: what its box promises, how much of it was tried, and what became of it. "
        "All devices of the demo are invented, and behave on a simulated bench as real ones would.",
        "Choose one with the arrow keys and press enter. Some are finished, some half done, some wait for you. In each "
        "of them ? explains the step that you are at.",
    )


def _are(count: int) -> str:
    return "is" if count == 1 else "are"
