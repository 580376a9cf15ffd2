"""Pictures, data and network that no link can carry, alone or together; cards, cables, and payload above its line."""

from __future__ import annotations

from collections.abc import Iterator

from auditra.core.claims.claim import Joined
from auditra.core.claims.kinds.cable import Carries
from auditra.core.claims.kinds.cards import Cards
from auditra.core.claims.kinds.data import Data
from auditra.core.claims.kinds.length import Length
from auditra.core.claims.kinds.links import Links
from auditra.core.claims.kinds.shows import OneAtATime, Shows
from auditra.core.claims.kinds.storage import Reads, Writes
from auditra.core.links.cards import BUS_BPS
from auditra.core.links.carriage import Answer, Picture, carries
from auditra.core.links.ethernet import tcp_ceiling_bps
from auditra.core.links.picture_links import DISPLAYPORT_LINKS, HDMI_FIXED_RATE_LINKS, Chroma, find_picture_link
from auditra.core.links.usb import GEN_2X1, link_at, payload_ceiling_bps
from auditra.core.links.usb_c import alternate_mode, plain_way
from auditra.core.paper_check.paper import Paper, Said
from auditra.core.paper_check.remark import Found, Rule, Weight
from auditra.core.quantities.display import bit_rate, byte_rate, length
from auditra.core.quantities.units import Dimension

_FAST_DATA_BPS = 5e9
_LANE = DISPLAYPORT_LINKS[3]
"""The fastest lane that C plugs of laptops commonly have: 8.1 Gb/s."""
_CABLE_M = {480e6: 4.0, 5e9: 2.0, 10e9: 1.0, 20e9: 1.0, 40e9: 0.8, 80e9: 0.8}
"""The longest passive C to C cable of each rate. Source: USB Type-C R2.2, table 3-1."""


def _picture(said: Said[Shows]) -> Picture:
    promise = said.promise
    chroma = next((each for each in Chroma if each.words == promise.chroma), Chroma.FULL)
    squeezed = 8.0 if promise.compression == "compressed" else None
    return Picture(promise.mode, int(promise.depth_bits or 8), chroma, squeezed)


def _connector(paper: Paper) -> Iterator[Found]:
    """Each mode by itself over the fastest link that its connector can have, and over the usual one."""
    for said in paper.said(Shows):
        for port_id in said.ports:
            port = paper.port(port_id)
            if port is None or port.connector not in ("hdmi", "displayport"):
                continue
            hdmi = port.connector == "hdmi"
            usual = find_picture_link("hdmi 600") if hdmi else _LANE
            most = HDMI_FIXED_RATE_LINKS[-1] if hdmi else DISPLAYPORT_LINKS[-1]
            best = carries(plain_way(most), [_picture(said)])
            plain = carries(plain_way(usual), [_picture(said)])
            if best.answer is Answer.NO:
                yield Found(
                    "no link of this kind can carry this",
                    best.sum[1:],
                    "Which mode does it really show?",
                    (said.claim,),
                    weight=Weight.CANNOT_BE,
                )
            elif plain.answer is not Answer.YES:
                words = f"over {usual.name} {plain.in_words}"
                yield Found(words, plain.sum[1:], "Which rate does the socket have?", (said.claim,))
            break


def _beside_data(paper: Paper) -> Iterator[Found]:
    """Pictures, with fast data where that is promised, over one C plug and without a condition."""
    if paper.upstream is None or not paper.upstream.connector.startswith("usb-c"):
        return
    rates = [each.promise.rate_bps for each in paper.plainly(Data) if each.promise.rate_bps >= _FAST_DATA_BPS]
    link = link_at(max(rates)) if rates else None
    if link is not None and link.rate_bps > GEN_2X1.rate_bps:
        return  # tunnelled, or two lanes of data: the host's link decides
    way = alternate_mode(_LANE, link or GEN_2X1)
    wanted_bps = 0.85 * link.ceiling_bps if link is not None else 0.0
    beside = f"beside {bit_rate(link.rate_bps)} of data, " if link is not None else ""
    for said in paper.plainly(Shows):
        together = said.claim.joined is Joined.TOGETHER
        if link is None and not together:
            continue  # one picture by itself is its connector's matter
        answer = carries(way, [_picture(said)] * (len(said.ports) if together else 1), wanted_bps)
        if answer.answer is not Answer.YES or answer.near:
            words = f"{beside}over one USB-C plug: {answer.in_words}"
            ask = "Does data fall to 480 Mb/s, or is it compressed?"
            yield Found(words, answer.sum, ask, (said.claim,))


def _several_pictures(paper: Paper) -> Iterator[Found]:
    """Two outputs and more, and nothing said of both at once."""
    shows = paper.said(Shows)
    ports = list(dict.fromkeys(port for each in shows for port in each.ports))
    told = paper.said(OneAtATime) or any(each.claim.joined is not None for each in shows)
    told = told or any(condition.ports for each in shows for condition in each.claim.conditions)
    if len(ports) > 1 and not told:
        sum_ = f"{len(ports)} outputs: {', '.join(ports)}"
        ask = "Which of them at the same time, and in which modes?"
        yield Found(
            "it is not stated what several outputs show at the same time",
            sum_,
            ask,
            tuple(each.claim for each in shows),
        )


def _payload(paper: Paper) -> Iterator[Found]:
    """Reads and writes above what the port's own line rate leaves."""
    for data in paper.said(Data):
        for kind in (Reads, Writes):
            for each in paper.said(kind):
                ceiling = data.promise.ceiling_bps
                if set(each.ports) & set(data.ports) and each.promise.rate_bps > ceiling:
                    told = byte_rate(each.promise.rate_bps)
                    sum_ = f"{bit_rate(data.promise.rate_bps)} after coding = {byte_rate(ceiling)} < {told}"
                    yield Found(
                        "the payload exceeds what the link can carry", sum_, "Measured how?", (each.claim, data.claim)
                    )


def _cards(paper: Paper) -> Iterator[Found]:
    for one in paper.said(Cards):
        if one.promise.rate_bps > max(BUS_BPS.values()):
            sum_ = f"{byte_rate(one.promise.rate_bps)} > {byte_rate(max(BUS_BPS.values()))}"
            yield Found("no card bus is this fast", sum_, "Which class is the slot?", (one.claim,))
        for other in paper.said(Cards):
            named = other.promise.bus and not one.promise.bus and set(one.ports) & set(other.ports)
            if named and one.promise.rate_bps > other.promise.rate_bps:
                bus = f"{byte_rate(other.promise.rate_bps)} of {other.promise.bus}"
                sum_ = f"{byte_rate(one.promise.rate_bps)} > {bus}"
                yield Found(
                    "faster than its card class allows", sum_, "Which of the two is intended?", (one.claim, other.claim)
                )


def _network(paper: Paper) -> Iterator[Found]:
    """A network rate over the USB link that the device itself is said to have."""
    upstream = paper.upstream.id if paper.upstream else None
    own = [each for each in paper.said(Data) if upstream in each.ports]
    for net in paper.said(Links):
        for link in own:
            needs, has = tcp_ceiling_bps(net.promise.rate_bps), payload_ceiling_bps(link.promise.rate_bps)
            if needs > has:
                sum_ = f"TCP at {bit_rate(net.promise.rate_bps)} = {bit_rate(needs)} > {bit_rate(has)} of the USB link"
                yield Found("the USB link is the limit", sum_, "Which port reaches that?", (net.claim, link.claim))


def _cable_length(paper: Paper) -> Iterator[Found]:
    if not paper.is_of("cable", "lead"):
        return
    for long in paper.said(Length):
        for fast in paper.said(Carries):
            rate = fast.promise.load.value if fast.promise.load.dimension is Dimension.BIT_RATE else 0.0
            most = _CABLE_M.get(rate)
            if most is not None and long.promise.metres > most:
                sum_ = f"{length(long.promise.metres)} > {length(most)}, the longest passive cable for {bit_rate(rate)}"
                yield Found("too long for its data rate", sum_, "Is it active?", (long.claim, fast.claim))


def _slower_than_its_own(paper: Paper) -> Iterator[Found]:
    """Sockets promised faster than the plug for the host is."""
    upstream = paper.upstream.id if paper.upstream else None
    for own in (each for each in paper.said(Data) if upstream in each.ports):
        for each in paper.said(Data):
            if upstream not in each.ports and each.promise.rate_bps > own.promise.rate_bps:
                sum_ = f"{bit_rate(each.promise.rate_bps)} > {bit_rate(own.promise.rate_bps)} at {upstream}"
                yield Found(
                    "faster than the device's link to the host",
                    sum_,
                    "Which port reaches that?",
                    (each.claim, own.claim),
                )


RULES = (
    Rule(
        "connector",
        Weight.DOUBTFUL,
        "a mode fits the link of its connector",
        "HDMI 2.1, 6.4; VESA DisplayPort 2.1, 3.5",
        _connector,
    ),
    Rule(
        "beside-data",
        Weight.DOUBTFUL,
        "picture and data fit one C plug",
        "VESA DisplayPort Alt Mode 2.1, table 3-2",
        _beside_data,
    ),
    Rule(
        "pictures-unsaid",
        Weight.UNSAID,
        "several outputs state what they show at the same time",
        "a buyer uses both",
        _several_pictures,
    ),
    Rule("payload", Weight.CANNOT_BE, "payload is less than its line rate after coding", "USB 3.2, 6.3.1", _payload),
    Rule(
        "card-bus", Weight.CANNOT_BE, "a card rate is no more than its bus class", "SD Physical Layer 9.10, 3.9", _cards
    ),
    Rule(
        "network",
        Weight.CANNOT_BE,
        "a network port is no faster than the USB link behind it",
        "RFC 9293; USB 3.2, 6.3.1",
        _network,
    ),
    Rule(
        "cable-length",
        Weight.DOUBTFUL,
        "a passive cable is no longer than its data rate allows",
        "USB Type-C R2.2, table 3-1",
        _cable_length,
    ),
    Rule(
        "own-way",
        Weight.CANNOT_BE,
        "no port is faster than the host plug",
        "one link to the host",
        _slower_than_its_own,
    ),
)
