"""Claims against one another, against the faces, and against the seller's own words; and what is left unsaid."""

from __future__ import annotations

import re
from collections.abc import Iterator
from itertools import combinations

from auditra.core.claims.claim import Claim
from auditra.core.claims.feasibility import problems_of
from auditra.core.claims.kinds.body import Counted
from auditra.core.claims.kinds.company import WithoutDriver
from auditra.core.claims.kinds.data import Data
from auditra.core.claims.kinds.no_data import NoData
from auditra.core.claims.kinds.offer import Superlative
from auditra.core.claims.kinds.shows import NoDisplay, Shows
from auditra.core.claims.kinds.storage import Reads, Writes
from auditra.core.claims.promise import Promise
from auditra.core.errors import QuantityError
from auditra.core.model.device import Role
from auditra.core.paper_check.paper import Paper
from auditra.core.paper_check.remark import Found, Rule, Weight
from auditra.core.quantities.display import length
from auditra.core.quantities.parsing import parse_quantity
from auditra.core.quantities.units import Dimension

_ONE_FIGURE_A_PORT = (
    "data",
    "gives",
    "takes",
    "charges host",
    "passes",
    "links",
    "reads",
    "writes",
    "length",
    "weighs",
)
_SUPERLATIVE = re.compile(
    r"\b(smallest|lightest|fastest|thinnest|coolest|strongest|world'?s (?:first|only|best)|number one)\b", re.IGNORECASE
)
_LENGTH = r"(\d+(?:[.,]\d+)?)\s*(mm|cm|m|in|inch|inches|ft|feet|\"|')"
_TWO_LENGTHS = re.compile(rf"{_LENGTH}\s*(?:\(|/|=)\s*{_LENGTH}(?![a-z])", re.IGNORECASE)
_DISAGREE = 0.03


def _two_figures(paper: Paper) -> Iterator[Found]:
    """One port, one kind, the same conditions, and two figures."""
    for one, other in combinations(paper.claims, 2):
        same_kind = one.promise.words == other.promise.words in _ONE_FIGURE_A_PORT
        same_port = one.joined is other.joined is None and one.port == other.port and one.device == other.device
        way = getattr(one.promise, "way", "") == getattr(other.promise, "way", "")
        if same_kind and same_port and way and one.conditions == other.conditions and one.promise != other.promise:
            yield Found(
                "two figures for one thing",
                f"{one.promise} and {other.promise}",
                "Which one applies, and when?",
                (one, other),
            )


_AGAINST: tuple[tuple[type[Promise], tuple[type[Promise], ...]], ...] = (
    (NoData, (Data, Reads, Writes)),
    (NoDisplay, (Shows,)),
)


def _against_its_no(paper: Paper) -> Iterator[Found]:
    for no, kinds in _AGAINST:
        for denied in paper.said(no):
            for kind in kinds:
                for said in paper.said(kind):
                    if set(denied.ports) & set(said.ports) and not said.claim.conditions:
                        sum_ = f'"{denied.claim}" beside "{said.claim}"'
                        yield Found(
                            "claimed and denied", sum_, "Which of the two is correct?", (denied.claim, said.claim)
                        )


def _cannot_occur(paper: Paper) -> Iterator[Found]:
    for claim in paper.claims:
        if claim.device == paper.device.id:
            for problem in problems_of(claim, paper.device):
                yield Found("this is impossible", problem, "What is intended?", (claim,))


def _count(paper: Paper) -> Iterator[Found]:
    counted = paper.device.counted_ports
    printed = paper.device.printed_count
    numbers: list[tuple[int, tuple[Claim, ...]]] = [(each.promise.ports, (each.claim,)) for each in paper.said(Counted)]
    numbers += [(printed, ())] if isinstance(printed, int) else []
    with_host = len(counted) + (paper.upstream is not None)
    for number, claims in numbers:
        if number not in (len(counted), with_host):
            sum_ = f"{number} on the box; listed {' '.join(counted)}: {len(counted)}, {with_host} with the host port"
            yield Found("the port count does not match the box", sum_, "What was counted?", claims, counted)
        elif number != len(counted):
            sum_ = f"{len(counted)} ports and the host port = {number}"
            ask = "Do other sellers count that way?"
            yield Found("the count includes the host port", sum_, ask, claims, counted, Weight.DOUBTFUL)


def _two_units(paper: Paper) -> Iterator[Found]:
    """Two lengths side by side in the seller's words that are not the same."""
    seen: set[str] = set()
    for claim in paper.claims:
        quoted = claim.source.quoted
        for match in _TWO_LENGTHS.finditer(quoted[:2000]) if isinstance(quoted, str) else ():
            if match.group() in seen:
                continue
            seen.add(match.group())
            try:
                one, other = (
                    parse_quantity(f"{a} {b}", Dimension.LENGTH).value
                    for a, b in (match.group(1, 2), match.group(3, 4))
                )
            except QuantityError:
                continue
            if abs(one - other) > _DISAGREE * max(one, other):
                sum_ = f"{match[1]} {match[2]} = {length(one)}, {match[3]} {match[4]} = {length(other)}"
                yield Found("two units that contradict each other", sum_, "How long is it?", (claim,))


def _superlative(paper: Paper) -> Iterator[Found]:
    if paper.said(Superlative):
        return
    for claim in paper.claims:
        quoted = claim.source.quoted
        match = _SUPERLATIVE.search(quoted[:2000]) if isinstance(quoted, str) else None
        if match is not None:
            yield Found(
                f'"{match.group()}", without a set to compare',
                "compared with which others, and when?",
                "Compared with which others, on what date?",
                (claim,),
            )


def _inlet_unsaid(paper: Paper) -> Iterator[Found]:
    """A C socket for power looks like one for data."""
    for inlet in paper.inlets:
        about = [claim for claim in paper.claims if inlet.id in claim.ports]
        if inlet.connector == "usb-c" and not any(isinstance(each.promise, NoData | Data) for each in about):
            sum_ = f"{inlet.id} is {inlet.connector}, the connector of a data port"
            yield Found("whether it carries data is not stated", sum_, "Does a drive work in it?", ports=(inlet.id,))


def _socket_unsaid(paper: Paper) -> Iterator[Found]:
    said = {port for claim in paper.claims for port in claim.ports}
    silent = [port.id for port in paper.device.ports() if port.id not in said and port.role is not Role.UPSTREAM]
    if silent:
        yield Found("no claims for this port", ", ".join(silent), "What does it do?", ports=tuple(silent))


def _driver_unsaid(paper: Paper) -> Iterator[Found]:
    """A picture behind a USB-A plug is drawn by a driver: no display link is in it."""
    plug = paper.upstream.connector if paper.upstream else ""
    if plug.startswith("usb-a") and paper.said(Shows) and not paper.said(WithoutDriver):
        claims = tuple(each.claim for each in paper.said(Shows))
        yield Found(
            "a picture over a USB-A plug needs a driver",
            "USB-A has no lanes for a display",
            "Which driver, on which systems?",
            claims,
        )


RULES = (
    Rule("two-figures", Weight.CANNOT_BE, "one thing has one figure", "the claims themselves", _two_figures),
    Rule(
        "against-its-no",
        Weight.CANNOT_BE,
        "nothing is both claimed and denied",
        "the claims themselves",
        _against_its_no,
    ),
    Rule("cannot-occur", Weight.CANNOT_BE, "a claim can be tried", "the faces and the claims", _cannot_occur),
    Rule(
        "count", Weight.CANNOT_BE, "the number on the box is the number of sockets", "one counting rule for all", _count
    ),
    Rule("two-units", Weight.DOUBTFUL, "two units say the same", "1 in = 2.54 cm (ISO 80000-3)", _two_units),
    Rule(
        "superlative",
        Weight.UNSAID,
        "a superlative names its set and day",
        "a comparison states what it is compared with",
        _superlative,
    ),
    Rule(
        "inlet-unsaid",
        Weight.UNSAID,
        "an inlet states whether it carries data",
        "the connectors look alike",
        _inlet_unsaid,
    ),
    Rule("socket-unsaid", Weight.UNSAID, "every port has a claim", "the faces", _socket_unsaid),
    Rule("driver-unsaid", Weight.UNSAID, "a claim that needs a driver states it", "USB 3.2, 3.2", _driver_unsaid),
)
