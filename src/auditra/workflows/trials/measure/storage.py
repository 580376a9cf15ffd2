"""Write, flush, read back and compare every byte; rates ten times a second."""

from __future__ import annotations

from collections.abc import Iterable, Iterator
from typing import Protocol

from auditra.core.errors import TargetError
from auditra.core.model.reading import Grade, Quantity
from auditra.core.model.rig import Card, Drive, Gear
from auditra.core.model.storage_path import PathTrace
from auditra.core.model.trial import Outcome
from auditra.workflows.trials.doors import Clock, DataTarget, DataTargets, StampTarget, UsbDevice
from auditra.workflows.trials.measure.blocks import BLOCK_BYTES, Comparer, Pattern
from auditra.workflows.trials.measure.path_proof import prove_path
from auditra.workflows.trials.measure.rates import CLOCK_ERROR_SHARE, REPEATS, SAMPLE_S, RateTrace
from auditra.workflows.trials.measure.session import HOST_WITNESS, TrialSession
from auditra.workflows.trials.measure.warmth import take_temperatures

SECONDS_A_PASS = 1.5
APPEARS_WITHIN_S = 10.0
ENGINE = "storage engine"
_PIECE_S = SAMPLE_S / 5
"""The longest that what a stand-in moves at once takes: a sample is a handful of them."""


def measure(session: TrialSession) -> Outcome:
    """Link, write rate, read rate and wrong bytes of a drive or card. Raises: BenchError, TrialStopped."""
    gear = session.rig.find(session.planned.gear)
    targets = session.need(session.bench.targets, "way to the drive")
    path = _proved(session, targets.trace(session.planned.gear, None))
    if isinstance(gear, Drive):
        if not _drive_comes_up(session, gear, targets, path):
            return Outcome.DID_NOT_APPEAR
    else:
        path = path or _proved(session, targets.ask(session.planned.gear))
    size = _size_bytes(session, gear)
    try:
        target = targets.open(session.planned.gear, size)
    except TargetError:
        if isinstance(gear, Drive) or path is not None:
            raise
        return session.appeared(seen=False, witness=ENGINE)
    if not isinstance(gear, Drive):
        session.appeared(seen=True, witness=ENGINE)
    try:
        _measure_until_gone(session, target, size)
    finally:
        target.close()
    take_temperatures(session)
    return Outcome.COMPLETE


def _proved(session: TrialSession, path: PathTrace | None) -> PathTrace | None:
    """The path, once it is shown to be the right one. Raises: TargetError."""
    if path is not None:
        prove_path(session, path)
    return path


def _drive_comes_up(session: TrialSession, gear: Drive, targets: DataTargets, path: PathTrace | None) -> bool:
    """Record whether the drive is there, and the link that it made. Raises: TargetError, TrialStopped."""
    seen = _drive_of(path) if path is not None else _wait_for_drive(session, gear)
    if seen is None and (path := _proved(session, targets.ask(gear.id))) is not None:
        seen = _drive_of(path)
    if seen is None:
        _refuse_another_drive(session, gear)
    session.appeared(seen is not None)
    if seen is None:
        return False
    if path is None:
        _proved(session, targets.trace(gear.id, seen.name))
    if seen.speed_mbps is not None:
        link = (seen.speed_mbps * 1e6,)
        session.take(session.number(Quantity.LINK, HOST_WITNESS, link, grade=Grade.READ))
    return True


def _refuse_another_drive(session: TrialSession, gear: Drive) -> None:
    """Another drive of the rig came in its stead: that is no miss of the device. Raises: TargetError."""
    known = {each.name for each in session.before.usb}
    new = {each.usb_id for each in session.bench.kernel.links().usb if each.name not in known}
    meant = {each.gear for each in session.planned.setup.plugged}
    others = (drive for drive in session.rig.drives if drive.id not in meant and drive.usb_id in new)
    if isinstance(gear.usb_id, str) and (other := next(others, None)) is not None:
        why = f"the {other.name} appeared instead ({other.usb_id})"
        raise TargetError(gear.name, why=why, do=f"Plug the {gear.name}, then start the trial again")


def _size_bytes(session: TrialSession, gear: Gear | None) -> int:
    """How much one pass writes: what was asked for, or as much as the gear takes in a good while."""
    if session.bench.file_bytes is not None:
        return max(1, session.bench.file_bytes // BLOCK_BYTES) * BLOCK_BYTES
    rate_bps = min(gear.read_bps, gear.write_bps) if isinstance(gear, Drive | Card) else 0.0
    seconds = SECONDS_A_PASS if session.bench.pass_s is None else session.bench.pass_s
    return max(1, round(rate_bps / 8 * seconds / BLOCK_BYTES)) * BLOCK_BYTES


def _drive_of(path: PathTrace) -> UsbDevice:
    """The drive that a named folder is on; without a USB link its speed is not known."""
    step = path.drive
    if step is None:
        return UsbDevice(path.block_device, None, "", is_hub=False)
    return UsbDevice(step.name, None if step.speed_bps is None else step.speed_bps / 1e6, step.usb_id, step.is_hub)


def _wait_for_drive(session: TrialSession, gear: Drive) -> UsbDevice | None:
    return session.wait_for(lambda: find_new_drive(session, gear), f"waiting for the {gear.name}", APPEARS_WITHIN_S)


def _measure_until_gone(session: TrialSession, target: DataTarget, size: int) -> None:
    """Raises: TargetError once the drive is gone, with the time of it taken down."""
    started = session.bench.clock.now_s()
    try:
        _measure_rates(session, target, size)
    except TargetError:
        seconds = session.bench.clock.now_s() - started
        session.take(session.number(Quantity.DROPPED_OUT, ENGINE, (seconds,), resolution=0.1))
        raise


def find_new_drive(session: TrialSession, gear: Drive) -> UsbDevice | None:
    """The device that came with the gear: by its ids where they are noted, else any new one that is no hub.

    One that stayed since the trial before is known again by its ids alone.
    """
    known = {device.name for device in session.before.usb} if gear.id not in session.stayed else set()
    new = [device for device in session.bench.kernel.links().usb if device.name not in known and not device.is_hub]
    if isinstance(gear.usb_id, str):
        new = [device for device in new if device.usb_id == gear.usb_id]
    return new[0] if new else None


def _measure_rates(session: TrialSession, target: DataTarget, size: int) -> None:
    mover = mover_of(target, session.bench.clock)
    writes, reads, wrong = [], [], 0
    origin_s = session.bench.clock.now_s()
    writing, reading = (
        RateTrace(session.bench.clock, session.watch, origin_s, leads, at=session.spot) for leads in (True, False)
    )
    for turn in range(1, REPEATS + 1):
        writes.append(write_pass(session, mover, size, turn, writing))
        rate_bps, bad = read_pass(session, mover, size, turn, reading)
        reads.append(rate_bps)
        wrong += bad
    rates = (
        session.number(
            quantity,
            ENGINE,
            tuple(passes),
            error=CLOCK_ERROR_SHARE * max(passes),
            trace=trace.trace(),
            note=target.note,
        )
        for quantity, passes, trace in ((Quantity.WRITE, writes, writing), (Quantity.READ, reads, reading))
    )
    session.take(*rates, session.number(Quantity.WRONG_BYTES, ENGINE, (float(wrong),)))


def mover_of(target: DataTarget, clock: Clock) -> Mover:
    """The way that passes take to a target."""
    return _Stamps(target, clock) if isinstance(target, StampTarget) else _Bytes(target)


def write_pass(session: TrialSession, mover: Mover, size: int, turn: int, trace: RateTrace) -> float:
    """Bits per second, until all of it is on the medium."""
    doing = f"writing, pass {turn} of {REPEATS}"
    started = session.bench.clock.now_s()
    trace.start()
    for offset, count in mover.pieces(size):
        mover.write(offset, count, turn)
        trace.passed(count, doing)
    mover.target.flush()
    return size * 8 / (session.bench.clock.now_s() - started)


def read_pass(session: TrialSession, mover: Mover, size: int, turn: int, trace: RateTrace) -> tuple[float, int]:
    """Bits per second, and how many bytes were not as written. Comparing is not timed."""
    doing = f"reading back, pass {turn} of {REPEATS}"
    reader, clock, spent = mover.reader(turn), session.bench.clock, 0.0
    try:
        for offset, count in mover.pieces_written(size):
            reader.make_ready()
            started = clock.now_s()
            if offset == 0:
                trace.start()
            reader.read(offset, count)
            spent += clock.now_s() - started
            trace.passed(count, doing)
            reader.compare(offset, count)
    finally:
        wrong = reader.finish()
    return size * 8 / spent, wrong


class _Reader(Protocol):
    """Reads back one pass."""

    def make_ready(self) -> None: ...
    def read(self, offset: int, count: int) -> None: ...
    def compare(self, offset: int, count: int) -> None: ...
    def finish(self) -> int:
        """How many bytes were not as written."""
        ...


class Mover(Protocol):
    """Moves passes to a target and back, piece by piece: offset and bytes."""

    @property
    def target(self) -> DataTarget: ...
    def pieces(self, size: int) -> Iterable[tuple[int, int]]: ...
    def write(self, offset: int, count: int, turn: int) -> None: ...
    def pieces_written(self, size: int) -> Iterable[tuple[int, int]]: ...
    def reader(self, turn: int) -> _Reader: ...


class _Bytes:
    """Moves bytes, a block at a time."""

    def __init__(self, target: DataTarget) -> None:
        self.target, self._pattern = target, Pattern()

    def pieces(self, size: int) -> Iterator[tuple[int, int]]:
        return ((offset, BLOCK_BYTES) for offset in range(0, size, BLOCK_BYTES))

    pieces_written = pieces

    def write(self, offset: int, count: int, turn: int) -> None:
        self.target.write(offset, self._pattern.stamped(offset, turn))

    def reader(self, turn: int) -> _Reader:
        return _ByteReader(self.target, turn)


class _ByteReader:
    """Reads blocks of bytes; each is compared while the next is read."""

    def __init__(self, target: DataTarget, turn: int) -> None:
        self._target, self._turn, self._comparer = target, turn, Comparer()
        self._block = memoryview(b"")

    def make_ready(self) -> None:
        self._block = self._comparer.free_block()

    def read(self, offset: int, count: int) -> None:
        self._target.read_into(offset, self._block)

    def compare(self, offset: int, count: int) -> None:
        self._comparer.compare(self._block, offset, self._turn)

    def finish(self) -> int:
        return self._comparer.finish()


class _Stamps:
    """Has a target answer for what it stores: as many blocks at once as pass in a small part of a sample."""

    def __init__(self, target: StampTarget, clock: Clock) -> None:
        self.target, self._clock = target, clock
        self._written: list[tuple[int, int]] = []

    def pieces(self, size: int) -> Iterator[tuple[int, int]]:
        self._written, offset, most = [], 0, BLOCK_BYTES
        while offset < size:
            count, started = min(most, size - offset), self._clock.now_s()
            yield offset, count
            self._written.append((offset, count))
            offset += count
            took_s = self._clock.now_s() - started
            most = most * 2 if took_s < _PIECE_S / 2 else BLOCK_BYTES if took_s > _PIECE_S else most

    def pieces_written(self, size: int) -> Iterable[tuple[int, int]]:
        return self._written

    def write(self, offset: int, count: int, turn: int) -> None:
        self.target.write_stamp(offset, count, turn)

    def reader(self, turn: int) -> _Reader:
        return _StampReader(self.target, turn)


class _StampReader:
    """Reads blocks from a target that answers for what it stores."""

    def __init__(self, target: StampTarget, turn: int) -> None:
        self._target, self._turn, self._wrong = target, turn, 0
        self._found = (0, 0, 0)

    def make_ready(self) -> None:
        return None

    def read(self, offset: int, count: int) -> None:
        self._found = self._target.read_stamp(offset, count)

    def compare(self, offset: int, count: int) -> None:
        found_offset, found_turn, spoiled = self._found
        self._wrong += spoiled if (found_offset, found_turn) == (offset, self._turn) else count

    def finish(self) -> int:
        return self._wrong
