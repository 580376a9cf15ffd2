"""The network engine: streams between this machine's memory and a peer's, counted at both ends and on the wire."""

from __future__ import annotations

import secrets
import socket
import threading
import time
from collections.abc import Iterator, Sequence
from contextlib import contextmanager, suppress
from dataclasses import asdict, dataclass, field
from typing import Any

from auditra.bench.network.connections import (
    ANSWER_WITHIN_S,
    congestion_control_of,
    cut,
    filled_buffer,
    info_of,
    make_ready,
    receive_exactly,
    receive_message,
)
from auditra.bench.network.delays import Delays, ask_delays
from auditra.bench.network.handshake import (
    CONTROL,
    DOWN,
    NONCE_BYTES,
    UP,
    WELCOME_BYTES,
    Sealed,
    heard_welcome,
    hello,
    key_of,
)
from auditra.bench.network.interface import interface_named, interface_of
from auditra.bench.network.link_end import LinkEnd
from auditra.bench.network.packet_size import MOST_BYTES, largest_packet
from auditra.bench.network.processor import Ticks, load_between, ticks
from auditra.core.errors import BenchError
from auditra.core.sanitize import sanitize
from auditra.workflows.trials.network_doors import NetworkAccount, PacketSizes

CONNECT_WITHIN_S, ANSWERS_WITHIN_S = 5.0, 10.0
SETTLE_S = 0.5
"""Not counted: the window opens, and a switch on the way has its first burst. Source: RFC 6349, 1.2 (equilibrium)."""
STALLED_S, LOOK_S, LONGEST_CALL_S = 10.0, 0.01, 0.05
KEEP_ALIVE_S = 10.0
MAX_STREAMS = 16
_WHOLE_PROCESSOR = 0.95
_AGAIN = "See to its link and to the peer's screen, then repeat the trial"


@dataclass(frozen=True)
class Place:
    """Where a peer is, and by which interface of this machine it is asked; any where that is empty."""

    name: str
    host: str
    port: int
    interface: str = ""

    def __str__(self) -> str:
        return f"{self.host}:{self.port}"

    def dial(self, kind: socket.SocketKind = socket.SOCK_STREAM) -> socket.socket:
        """A connected socket. Raises: OSError."""
        refused: OSError | None = None
        for family, _, protocol, _, address in socket.getaddrinfo(self.host, self.port, type=kind):
            made = socket.socket(family, kind, protocol)
            try:
                if self.interface:
                    with suppress(OSError):  # not everybody may; what the interface counts shows the way all the same
                        made.setsockopt(socket.SOL_SOCKET, socket.SO_BINDTODEVICE, self.interface.encode() + b"\0")
                made.settimeout(CONNECT_WITHIN_S)
                made.connect(address)
            except OSError as error:
                made.close()
                refused = error
            else:
                return made
        raise refused or OSError(f"{self.host} has no address")


class WrongToken(BenchError):
    """The peer did not prove that it knows this token, or was not content with it."""


@dataclass
class _Moving:
    """One stream, moved by a thread of its own."""

    kind: bytes
    connection: socket.socket
    moved_bytes: int = 0
    ended: str = ""
    thread: threading.Thread = field(init=False)

    def start(self) -> None:
        self.thread = threading.Thread(target=self._run, daemon=True)
        self.thread.start()

    def _run(self) -> None:
        buffer = memoryview(filled_buffer())
        move = self.connection.send if self.kind == UP else self.connection.recv_into
        try:
            while moved := move(buffer):
                self.moved_bytes += moved
            self.ended = "the peer ended it"
        except OSError as error:
            self.ended = error.strerror or "it was cut off"

    def processor_s(self) -> float:
        """What its thread has used of a processor: asked from outside, since asking in the loop costs speed."""
        if not self.thread.is_alive():
            return 0.0
        try:
            return time.clock_gettime(time.pthread_getcpuclockid(self.thread.ident or 0))
        except OSError:
            return 0.0

    def counted_bytes(self) -> int:
        """What arrived: when sending, what the other end has acknowledged."""
        acknowledged = info_of(self.connection).acknowledged_bytes if self.kind == UP else None
        return self.moved_bytes if acknowledged is None else acknowledged


@dataclass
class _Way:
    """One direction from its beginning: the streams, and what was counted before."""

    kind: bytes
    streams: list[_Moving]
    wire_before: int | None
    began_s: float
    own_before: Ticks | None
    peer_before: Ticks | None
    told_bytes: int = 0

    def moved_bytes(self) -> int:
        return sum(stream.counted_bytes() for stream in self.streams)


@dataclass
class PeerStreams:
    """Streams to a peer, 1 to 16 at once; a direction begins with the first call for it, and ends with the account.

    Raises: BenchError when the peer goes, or nothing moves for 10 s.
    """

    place: Place
    control: socket.socket
    session: bytes
    count: int = 1
    _said: Sealed = field(init=False)
    _heard: Sealed = field(init=False)
    _way: _Way | None = field(init=False, default=None)

    def __post_init__(self) -> None:
        self._said, self._heard = Sealed(self.session, b"to peer"), Sealed(self.session, b"from peer")
        own = self.control.getsockname()[0]
        self.interface = self.place.interface or interface_of(own)
        self._far_end = LinkEnd.told(self._ask("about").get("interface"))
        self._asked_s = time.monotonic()
        if self._far_end.wireless:
            self.close()
            why = "it is on a wireless link, which would be what is measured"
            raise BenchError(self.place.name, where=str(self.place), why=why, do="Connect it by cable")

    def send(self, count: int) -> int:
        return self._move(UP, count)

    def receive(self, count: int) -> int:
        return self._move(DOWN, count)

    def account(self) -> NetworkAccount:
        """Ends the direction and says what both ends and the interface counted of it."""
        way, self._way = self._way, None
        if way is None:
            raise BenchError(self.place.name, why="nothing was moved", do=_AGAIN)
        answer = self._ask("count")
        moved = way.moved_bytes()
        span_s = time.monotonic() - way.began_s
        own = load_between(way.own_before, ticks())
        peer = load_between(way.peer_before, _ticks_of(answer))
        sentences = tuple(self._in_words(way, answer, span_s))
        for stream in way.streams:
            cut(stream.connection)
        wire, before = self._wire_bytes(way.kind), way.wire_before
        on_wire = (
            None if wire is None or before is None or wire < before else wire - before
        )  # it may have been plugged again
        loads = [load for load in (own, peer) if load is not None]
        return NetworkAccount(
            interface=self.interface, moved_bytes=moved, wire_bytes=on_wire, remarks=sentences,
            busy_percent=max((load.busy_percent for load in loads), default=None),
            lost_percent=max((load.lost_percent for load in loads), default=None),
        )  # fmt: skip

    def delays(self) -> Delays:
        """Round trips and losses while nothing else is moved. Raises: BenchError where no address can be had."""
        with self._lost_line():
            reflector = self.place.dial(socket.SOCK_DGRAM)
        with reflector:
            return ask_delays(reflector)

    def packets(self) -> PacketSizes:
        """What goes through whole, and what the two ends take. Raises: BenchError where no address can be had."""
        own = LinkEnd.of(interface_named(self.interface)).mtu_bytes
        with self._lost_line():
            reflector = self.place.dial(socket.SOCK_DGRAM)
            with reflector:
                found = largest_packet(reflector, own or MOST_BYTES)
        return PacketSizes(found, own, self._far_end.mtu_bytes)

    def close(self) -> None:
        way, self._way = self._way, None
        for stream in way.streams if way is not None else ():
            cut(stream.connection)
        with suppress(OSError):
            self.control.sendall(self._said.pack({"do": "bye"}))
        cut(self.control)

    def _move(self, kind: bytes, count: int) -> int:
        way = self._turned_to(kind)
        began_s = time.monotonic()
        while (moved := way.moved_bytes() - way.told_bytes) < count:
            ended = next((stream.ended for stream in way.streams if stream.ended), "")
            if ended:
                raise BenchError(self.place.name, where=str(self.place), why=sanitize(ended, 80), do=_AGAIN)
            waited_s = time.monotonic() - began_s
            if (moved and waited_s > LONGEST_CALL_S) or waited_s > STALLED_S:
                break
            time.sleep(LOOK_S)
        if moved == 0:
            why = f"nothing moved for {STALLED_S:g} s"
            raise BenchError(self.place.name, where=str(self.place), why=why, do=_AGAIN)
        way.told_bytes += moved
        if time.monotonic() - self._asked_s > KEEP_ALIVE_S:
            self._ask("count")
        return moved

    def _turned_to(self, kind: bytes) -> _Way:
        if self._way is not None and self._way.kind == kind:
            return self._way
        if self._way is not None:
            self.account()
        peer_before, own_before = _ticks_of(self._ask("count")), ticks()
        way = _Way(kind, [], self._wire_bytes(kind), time.monotonic(), own_before, peer_before)
        self._way = way
        for _ in range(self.count):
            way.streams.append(_Moving(kind, self._open(kind)))
        for stream in way.streams:
            stream.start()
        time.sleep(SETTLE_S)
        way.told_bytes = way.moved_bytes()
        return way

    def _open(self, kind: bytes) -> socket.socket:
        with self._lost_line():
            connection = self.place.dial()
            make_ready(connection)
            connection.sendall(hello(self.session, kind, secrets.token_bytes(NONCE_BYTES)))
            if connection.recv(1) != b"+":
                connection.close()
                raise OSError("the peer refused a stream")
            return connection

    def _ask(self, what: str) -> dict[str, Any]:
        self._asked_s = time.monotonic()
        with self._lost_line():
            self.control.sendall(self._said.pack({"do": what}))
            answer = receive_message(self.control, self._heard, within_s=ANSWERS_WITHIN_S)
        if answer is None or "error" in answer:
            raise BenchError(self.place.name, where=str(self.place), why="its answer is not one", do=_AGAIN)
        return answer

    @contextmanager
    def _lost_line(self) -> Iterator[None]:
        try:
            yield
        except OSError as error:
            why = f"the line to it was lost: {sanitize(error.strerror or str(error) or 'no answer', 80)}"
            raise BenchError(self.place.name, where=str(self.place), why=why, do=_AGAIN) from error

    def _wire_bytes(self, kind: bytes) -> int | None:
        interface = interface_named(self.interface)
        return None if interface is None else interface.counters.get("tx_bytes" if kind == UP else "rx_bytes")

    def _in_words(self, way: _Way, answer: dict[str, Any], span_s: float) -> Iterator[str]:
        """How it was moved, for whoever doubts the rate."""
        streams, control = len(way.streams), congestion_control_of(way.streams[0].connection)
        yield f"{streams} {'stream' if streams == 1 else 'streams'}{f', {control}' if control else ''}"
        told = [asdict(info_of(stream.connection)) for stream in way.streams] if way.kind == UP else _infos(answer)
        again = [each for info in told if (each := _number(info, "retransmitted_segments")) is not None]
        if again:
            yield f"{sum(again):g} segments sent again"
        trips = [each for info in told if (each := _number(info, "rtt_s")) is not None]
        if trips:
            yield f"round trip under load {1e3 * max(trips):.3g} ms"
        paths = [each for info in told if (each := _number(info, "path_mtu_bytes")) is not None]
        if paths:
            yield f"packets of up to {min(paths):g} B"
        yield f"this end {LinkEnd.of(interface_named(self.interface)).words}"
        yield f"the peer's end {self._far_end.words}"
        used = max(stream.processor_s() for stream in way.streams) / span_s if span_s > 0 else 0.0
        if used > _WHOLE_PROCESSOR:
            yield "a stream took a whole processor of this machine, which may be the limit"


def open_peer(place: Place, token: str, streams: int = 1) -> PeerStreams:
    """Raises: WrongToken; BenchError when nothing answers there, or for more streams than 16."""
    if not 1 <= streams <= MAX_STREAMS:
        raise BenchError(place.name, why=f"{streams} streams are not 1 to {MAX_STREAMS}", do="Note fewer")
    key, nonce = key_of(token), secrets.token_bytes(NONCE_BYTES)
    try:
        control = place.dial()
    except OSError as error:
        why = f"it does not answer: {sanitize(error.strerror or str(error), 80)}"
        do = "Start `auditra peer` on it, and see to its link and its address in the rig"
        raise BenchError(place.name, where=str(place), why=why, do=do) from error
    try:
        control.sendall(hello(key, CONTROL, nonce))
        session = heard_welcome(receive_exactly(control, WELCOME_BYTES, within_s=ANSWER_WITHIN_S * 2), key, nonce)
    except OSError:
        session = None
    if session is None:
        cut(control)
        do = "Read the token off the peer's screen again; after several wrong ones it refuses for a minute"
        raise WrongToken(place.name, where=str(place), why="it does not accept this token", do=do)
    return PeerStreams(place, control, session, streams)


def _infos(answer: dict[str, Any]) -> Sequence[dict[str, Any]]:
    streams = answer.get("streams")
    told = streams if isinstance(streams, list) else []
    return [each["info"] for each in told if isinstance(each, dict) and isinstance(each.get("info"), dict)]


def _number(table: dict[str, Any], key: str) -> float | None:
    value = table.get(key)
    return float(value) if isinstance(value, int | float) and not isinstance(value, bool) else None


def _ticks_of(answer: dict[str, Any]) -> Ticks | None:
    told = answer.get("processor")
    if not isinstance(told, dict) or not all(isinstance(told.get(key), int) for key in ("total", "idle", "steal")):
        return None
    return Ticks(told["total"], told["idle"], told["steal"])
