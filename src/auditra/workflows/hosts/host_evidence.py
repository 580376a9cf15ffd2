"""The host as a witness of a trial: what it showed before and after, what changed, and which links were made."""

from __future__ import annotations

from collections.abc import Iterator

from auditra.core.host.difference import UNLIKE_THE_SHEET, differences
from auditra.core.host.link import link_state
from auditra.core.host.snapshot import Snapshot, UsbDevice
from auditra.core.journal.facts import EventNoted, EvidenceKept, Fact, LinkSeen, ReadingTaken
from auditra.core.links.display import Mode
from auditra.core.model.device import DEVICE
from auditra.core.model.reading import Grade, Quantity, Reading, Words
from auditra.core.model.rig import Display, Drive
from auditra.core.model.trial import DIRECT
from auditra.workflows.hosts.plug_watch import unlike_the_sheet
from auditra.workflows.trials.doors import Journal
from auditra.workflows.trials.measure.session import HOST_WITNESS, TrialSession

"""What an event is called that says that something else was plugged than the sheet asks for."""
_MAX_EVENTS = 20


def facts_of_host(session: TrialSession, before: Snapshot, after: Snapshot, journal: Journal) -> Iterator[Fact]:
    """Both snapshots as evidence, then what they show. Raises: StoreError."""
    from auditra.documents.probe import MEDIA_TYPE, probe_file  # an audit opens without it

    for snapshot, when in ((before, "before"), (after, "after")):
        data = probe_file(snapshot).model_dump_json().encode()
        name = f"host-{when}-{session.trial}.json"
        about = f"trial {session.trial}"
        yield EvidenceKept(journal.keep(data), name, len(data), media_type=MEDIA_TYPE, about=about)
    tried = dict(_tried(session, before, after))
    names = {device.name: at for at, device in tried.items()}
    for change in differences(before, after, names=names)[:_MAX_EVENTS]:
        port = change.name if change.name in tried and change.name != DIRECT else None
        event = EventNoted(change.kind, change.sentence, trial=session.trial)
        yield event if port is None else EventNoted(change.kind, change.sentence, port, session.trial)
    for words in unlike_the_sheet(session.planned, session.rig, session.device, before, after):
        yield EventNoted(UNLIKE_THE_SHEET, words, trial=session.trial)
    for at, device in tried.items():
        yield _link_seen(session.trial, at, device, after)
    yield from map(ReadingTaken, _modes_sent(session, before, after))


def _modes_sent(session: TrialSession, before: Snapshot, after: Snapshot) -> Iterator[Reading]:
    """The mode that the host sends to the display that is tried: the one that came, else the only one beside its own
    panel.
    """
    tried = [display for display in after.displays if display.may_be_tried and display.running is not None]
    were = {display.name for display in before.displays if display.connected}
    came = [display for display in tried if display.name not in were]
    running = [display.running for display in (came or tried) if display.running is not None]
    if len(running) == 1 and isinstance(session.rig.find(session.planned.gear), Display):
        mode = Mode(running[0].width, running[0].height, running[0].refresh_millihz / 1000)
        yield session.reading(Quantity.MODE_SENT, HOST_WITNESS, Grade.READ, Words(str(mode)))


def _tried(session: TrialSession, before: Snapshot, after: Snapshot) -> Iterator[tuple[str, UsbDevice]]:
    """The drives of the set-up that the host shows, by the port that they are in.

    By their ids where one alone has them; where none are noted, the one device that is new is the gear that is tried.
    """
    there = {each.name for each in before.usb}
    for each in session.planned.setup.plugged:
        gear = session.rig.find(each.gear)
        at = each.socket if each.owner == DEVICE else DIRECT
        if not isinstance(gear, Drive):
            continue
        found = [device for device in after.usb if not device.is_hub and device.usb_id == gear.usb_id]
        if not isinstance(gear.usb_id, str) and gear.id == session.planned.gear:
            found = [device for device in after.usb if not device.is_hub and device.name not in there]
        if len(found) == 1:
            yield at, found[0]


def _link_seen(trial: str, at: str, device: UsbDevice, after: Snapshot) -> LinkSeen:
    state = link_state(device, after)
    rates = (state.speed_mbps, state.device_could_mbps, state.above_could_mbps)
    speed, could, above = (None if mbps is None else mbps * 1e6 for mbps in rates)
    return LinkSeen(trial, at, device.name, speed, could, above, state.answer, state.why)
