"""Send and receive over one TCP stream, from memory to memory; after a long time at full load where that is asked."""

from __future__ import annotations

import statistics
from collections.abc import Callable, Iterator, Sequence

from auditra.core.errors import BenchError
from auditra.core.model.noted import Noted
from auditra.core.model.reading import Grade, Quantity
from auditra.core.model.setup import MINUTE_S, NetworkPath
from auditra.core.model.trial import Outcome
from auditra.core.quantities.display import bit_rate
from auditra.core.sanitize import sanitize
from auditra.workflows.trials.doors import NetworkInterface
from auditra.workflows.trials.measure.path_proof import prove_interface
from auditra.workflows.trials.measure.rates import CLOCK_ERROR_SHARE, REPEATS, RateTrace
from auditra.workflows.trials.measure.session import HOST_WITNESS, TrialSession
from auditra.workflows.trials.measure.warmth import HeatTrace, take_temperatures
from auditra.workflows.trials.network_doors import CountedStream, NetworkAccount, NetworkPeers, NetworkStream

CHUNK_BYTES = 256 << 10
SECONDS_A_PASS = 4.0
LINK_WITHIN_S = 10.0
SOAK_CHUNK_BYTES = 16 << 20
SOAK_SAMPLE_S = 2.0
ENGINE = "network engine"
MIN_SAMPLES, DIP_SHARE = 10, 0.5
STILL_S, STILL_CHUNKS = 1.0, 2.0
"""A link over which nothing passes for as long was lost: one lost packet is sent again well within a second (RFC 6298,
2.4). On a slow link a chunk takes long anyway: the pause must be twice as long besides."""
TICK_ERROR_PERCENT = 1.0
"""Of a processor's load, counted in ticks of 10 ms over some seconds (Linux, proc_stat(5))."""
_ROUND_TRIPS = "round trips, with nothing else moving"


def measure(session: TrialSession) -> Outcome:
    """Link rate, then throughput both ways. Raises: BenchError, TrialStopped."""
    peers = session.need(session.bench.peers, "network peer")
    interface = session.wait_for(lambda: find_new_link(session), "waiting for the network link", LINK_WITHIN_S)
    if interface is None:
        interface = named_link(session, peers, session.planned.gear)
    if session.appeared(interface is not None) is Outcome.DID_NOT_APPEAR or interface is None:
        return Outcome.DID_NOT_APPEAR
    prove_interface(session, interface.name)
    link_bps = (interface.speed_mbps or 0.0) * 1e6
    session.take(session.number(Quantity.LINK, HOST_WITNESS, (link_bps,), grade=Grade.READ))
    stream = peers.connect(session.planned.gear, interface.name, _streams(session.planned.setup.network))
    try:
        if session.planned.setup.soaked_s:
            _soak(session, stream, session.planned.setup.soaked_s)
        for quantity, move in ((Quantity.SEND, stream.send), (Quantity.RECEIVE, stream.receive)):
            _measure_direction(session, quantity, move, stream)
        if isinstance(stream, CountedStream):
            _take_delays(session, stream)
    finally:
        stream.close()
    take_temperatures(session)
    return Outcome.COMPLETE


def find_new_link(session: TrialSession) -> NetworkInterface | None:
    """The interface whose link came up, or changed, when the gear was plugged."""
    known = {(each.name, each.speed_mbps) for each in session.before.network}
    up = (each for each in session.bench.kernel.links().network if each.speed_mbps is not None)
    return next((each for each in up if (each.name, each.speed_mbps) not in known), None)


def named_link(session: TrialSession, peers: NetworkPeers, peer: str) -> NetworkInterface | None:
    """The interface that the person names, which was up all the time. Raises: BenchError for one that is not up."""
    name = peers.ask_interface(peer)
    if not name:
        return None
    up = [each for each in session.bench.kernel.links().network if each.speed_mbps is not None]
    found = next((each for each in up if each.name == name), None)
    if found is None:
        known = ", ".join(each.name for each in up) or "none"
        do = f"Plug it again, or name one that has a link: {known}"
        raise BenchError(peer, why=f"{sanitize(name, 20)} has no link", do=do)
    return found


def _streams(network: Noted[NetworkPath]) -> int:
    return network.streams if isinstance(network, NetworkPath) and isinstance(network.streams, int) else 1


def _soak(session: TrialSession, stream: NetworkStream, seconds: float) -> None:
    """Send without pause, with the rate and the case's temperature over time."""
    clock = session.bench.clock
    origin_s = clock.now_s()
    trace = RateTrace(clock, session.watch, origin_s, sample_s=SOAK_SAMPLE_S, at=session.spot)
    case = HeatTrace(session, origin_s)
    trace.start()
    while (spent := clock.now_s() - origin_s) < seconds:
        moved = stream.send(SOAK_CHUNK_BYTES)
        trace.passed(moved, f"at full load, {spent / MINUTE_S:.0f} of {seconds / MINUTE_S:.0f} min")
        case.look()
    rate = statistics.median(trace.rates_bps)
    error = CLOCK_ERROR_SHARE * rate
    session.take(session.number(Quantity.SOAK_RATE, ENGINE, (rate,), error=error, trace=trace.trace()))
    case.take()
    _take_still(session, trace, SOAK_CHUNK_BYTES, "at full load")


def _take_still(session: TrialSession, trace: RateTrace, chunk_bytes: int, doing: str) -> None:
    """The longest pause beyond what a chunk takes."""
    if not trace.rates_bps or not (usual_bps := statistics.median(trace.rates_bps)):
        return
    chunk_s = chunk_bytes * 8 / usual_bps
    still_s = trace.longest_still_s - chunk_s
    if still_s >= max(STILL_S, STILL_CHUNKS * chunk_s):
        error = max(trace.sample_s, chunk_s)
        session.take(session.number(Quantity.DROPPED_OUT, ENGINE, (still_s,), error=error, note=doing))


def _measure_direction(
    session: TrialSession, quantity: Quantity, move: Callable[[int], int], stream: NetworkStream
) -> None:
    clock, rates = session.bench.clock, []
    trace = RateTrace(clock, session.watch, origin_s=clock.now_s(), at=session.spot)
    verb = "sending" if quantity is Quantity.SEND else "receiving"
    for turn in range(1, REPEATS + 1):
        started, count = clock.now_s(), 0
        trace.start()
        while clock.now_s() - started < SECONDS_A_PASS:
            moved = move(CHUNK_BYTES)
            count += moved
            trace.passed(moved, f"{verb}, pass {turn} of {REPEATS}")
        rates.append(count * 8 / (clock.now_s() - started))
    error = CLOCK_ERROR_SHARE * max(rates)
    account = stream.account() if isinstance(stream, CountedStream) else None
    note = "; ".join((*account.remarks, *_steadiness(trace.rates_bps))) if account is not None else ""
    session.take(session.number(quantity, ENGINE, tuple(rates), error=error, trace=trace.trace(), note=note))
    _take_still(session, trace, CHUNK_BYTES, verb)
    if account is not None:
        _take_account(session, account, verb)


def _steadiness(rates_bps: Sequence[float]) -> Iterator[str]:
    """How far the samples of a rate lie apart, and how often it broke in."""
    if len(rates_bps) < MIN_SAMPLES:
        return
    tenths = statistics.quantiles(rates_bps, n=10)
    dips = sum(rate < DIP_SHARE * tenths[4] for rate in rates_bps)
    yield f"eight of ten samples from {bit_rate(tenths[0], 3)} to {bit_rate(tenths[8], 3)}"
    yield f"{dips} of {len(rates_bps)} under half the middle" if dips else "none under half the middle"


def _take_account(session: TrialSession, account: NetworkAccount, verb: str) -> None:
    """What proves that the bytes passed the port, and what may have lowered the rate."""
    note = f"{verb}, {account.interface or 'interface not known'}"
    for quantity, count in ((Quantity.MOVED, account.moved_bytes), (Quantity.ON_WIRE, account.wire_bytes)):
        if count is not None:  # what was moved without that proof says nothing of the port
            session.take(session.number(quantity, ENGINE, (float(count),), note=note))
    for quantity, share in (
        (Quantity.PROCESSOR, account.busy_percent),
        (Quantity.LOST_PROCESSOR, account.lost_percent),
    ):
        if share is not None:
            session.take(session.number(quantity, HOST_WITNESS, (share,), error=TICK_ERROR_PERCENT, grade=Grade.READ,
                                        note=verb))  # fmt: skip


def _take_delays(session: TrialSession, stream: CountedStream) -> None:
    delays = stream.delays()
    session.take(session.number(Quantity.LOSS, ENGINE, (delays.loss_percent,), note=_ROUND_TRIPS))
    if delays.median_s is not None:
        session.take(session.number(Quantity.LATENCY, ENGINE, (delays.median_s,), note=_ROUND_TRIPS))
