"""Watts that do not add up: supplies, pass-through, standards of power, and what cables may carry."""

from __future__ import annotations

from collections.abc import Iterable, Iterator

from auditra.core.claims.claim import ConditionKind
from auditra.core.claims.kinds.cable import Carries, Marked
from auditra.core.claims.kinds.charges_host import ChargesHost
from auditra.core.claims.kinds.gives import Gives
from auditra.core.claims.kinds.power import Feeds, Passes, Shares, Uses
from auditra.core.claims.kinds.takes import Takes
from auditra.core.links.charging import EXTENDED_W, MARKED_A, STANDARD_W, UNMARKED_A, UNMARKED_W, USB_V
from auditra.core.model.noted import NOT_NOTED
from auditra.core.paper_check.paper import Paper, watts
from auditra.core.paper_check.remark import Found, Rule, Weight
from auditra.core.quantities.units import Dimension

_A_SOCKET_W = USB_V * UNMARKED_A
"""More than that over a USB-A socket is by no standard of USB (BC 1.2: 7.5 W; Type-C currents end at 15 W)."""
_WORTH_SHARING_W = 10.0


def _supply_sum(paper: Paper) -> Iterator[Found]:
    """Everything that is promised at once, against what the supply has."""
    has = paper.supply_w
    host = max(paper.plainly(ChargesHost), key=lambda each: each.promise.watts, default=None)
    out = paper.plainly(Gives)
    if has is None or not out:
        return
    shared = {port for each in paper.said(Shares) for port in each.ports}
    by_port: dict[str, float] = {}
    for each in out:
        for port in each.ports:
            if port not in shared:
                by_port[port] = max(by_port.get(port, 0.0), each.promise.watts)
    each_w = _at_once(by_port, paper.one_at_a_time)
    each_w += [each.promise.watts for each in paper.said(Shares)]
    each_w += [host.promise.watts] if host else []
    if sum(each_w) > has:
        about = (*(each.claim for each in out), *((host.claim,) if host else ()))
        sum_ = f"{watts(each_w)} claimed, {has:g} W from the supply"
        yield Found(
            "the claims exceed what the supply provides",
            sum_,
            "Which outputs get less when all of them are in use?",
            about,
        )


def _at_once(by_port: dict[str, float], exclusive: Iterable[frozenset[str]]) -> list[float]:
    """What ports give at the same time, at most: of those that are one at a time, the one that gives most."""
    left = dict(by_port)
    for ports in exclusive:
        among = sorted((port for port in ports if port in left), key=left.__getitem__)
        for port in among[:-1]:
            del left[port]
    return list(left.values())


def _one_output(paper: Paper) -> Iterator[Found]:
    has = paper.supply_w
    said = [(each.claim, each.promise.watts) for kind in (Gives, ChargesHost) for each in paper.said(kind)]
    said += [(each.claim, each.promise.watts) for each in paper.said(Shares)]
    for claim, asked in said:
        if has is not None and asked > has:
            sum_ = f"{asked:g} W > {has:g} W"
            yield Found("one output alone exceeds the supply", sum_, "Does this need another supply?", (claim,))


def _pass_through(paper: Paper) -> Iterator[Found]:
    """What goes on to the host against what comes in at the inlet, less what the device uses."""
    taken = max((each.promise.watts for each in paper.said(Takes)), default=None)
    uses = max((each.promise.watts for each in paper.said(Uses)), default=0.0)
    for kind in (Passes, ChargesHost):
        for each in paper.plainly(kind):
            if taken is None or paper.supply_w is not None or each.promise.watts + uses < taken:
                continue
            sum_ = f"{each.promise.watts:g} W for the host + {uses:g} W for itself; the inlet takes {taken:g} W"
            more = each.promise.watts + uses > taken
            words = (
                "more power reaches the host than the inlet takes" if more else "no power is left for the device itself"
            )
            weight = Weight.CANNOT_BE if more else Weight.DOUBTFUL
            yield Found(words, sum_, "How much does the device itself consume?", (each.claim,), weight=weight)


def _pd_limit(paper: Paper) -> Iterator[Found]:
    for kind in (Gives, Takes, ChargesHost, Passes):
        for each in paper.said(kind):
            connectors = {port.connector for id_ in each.ports if (port := paper.port(id_))}
            of_c = any(connector.startswith("usb-c") for connector in connectors)
            if of_c and each.promise.watts > EXTENDED_W:
                sum_ = f"{each.promise.watts:g} W > 48 V x 5 A = {EXTENDED_W:g} W"
                yield Found(
                    "no USB-C plug may carry this much power",
                    sum_,
                    "Is this the total of several ports?",
                    (each.claim,),
                )
            if any(connector.startswith("usb-a") for connector in connectors) and each.promise.watts > _A_SOCKET_W:
                sum_ = f"{each.promise.watts:g} W > 5 V x 3 A = {_A_SOCKET_W:g} W"
                ask = "By which standard, and for which gear?"
                yield Found(
                    "more power than USB allows on this connector", sum_, ask, (each.claim,), weight=Weight.DOUBTFUL
                )


def _extended_range(paper: Paper) -> Iterator[Found]:
    for kind in (Takes, ChargesHost, Passes, Gives):
        for each in paper.said(kind):
            if STANDARD_W < each.promise.watts <= EXTENDED_W and any(
                (port := paper.port(id_)) and port.connector == "usb-c" for id_ in each.ports
            ):
                sum_ = f"{each.promise.watts:g} W > 20 V x 5 A = {STANDARD_W:g} W: 28 V or more, a cable marked 50 V"
                yield Found(
                    "this requires the extended power range",
                    sum_,
                    "Which supply and cable does that require?",
                    (each.claim,),
                )


def _marker(paper: Paper) -> Iterator[Found]:
    """A cable that carries more than 3 A or 60 W answers with a marker that says so."""
    marked = paper.said(Marked)
    volts = max((each.promise.volts for each in marked), default=0.0)
    amperes = max((each.promise.amperes for each in marked), default=0.0)
    for each in paper.said(Carries):
        load, dimension = each.promise.load.value, each.promise.load.dimension
        needs_a = (dimension is Dimension.CURRENT and load > UNMARKED_A) or (
            dimension is Dimension.POWER and load > UNMARKED_W
        )
        needs_50_v = dimension is Dimension.POWER and load > STANDARD_W
        if not needs_a or not paper.is_of("cable", "lead"):
            continue
        sum_ = f"above {UNMARKED_A:g} A or {UNMARKED_W:g} W: 5 A marked" + ("; above 100 W: 50 V" if needs_50_v else "")
        if not marked:
            yield Found(
                "the cable needs a marker, and none is stated", sum_, "What does its marker say?", (each.claim,)
            )
        elif (amperes and amperes < MARKED_A) or (needs_50_v and 0 < volts < 50):
            about = (each.claim, *(one.claim for one in marked))
            yield Found(
                "the cable's marker does not allow this",
                sum_,
                "Which of the two is wrong?",
                about,
                weight=Weight.CANNOT_BE,
            )


def _watts_and_amperes(paper: Paper) -> Iterator[Found]:
    """Watts that amperes cannot make at any voltage that they go with."""
    said = paper.said(Carries)
    amperes = [each for each in said if each.promise.load.dimension is Dimension.CURRENT]
    for each in said:
        if each.promise.load.dimension is Dimension.POWER:
            for other in amperes:
                most_v = 20.0 if other.promise.load.value < MARKED_A else 48.0
                most_w = most_v * other.promise.load.value
                if each.promise.load.value > most_w:
                    sum_ = (
                        f"{other.promise.load.value:g} A x {most_v:g} V = {most_w:g} W < {each.promise.load.value:g} W"
                    )
                    yield Found(
                        "the stated amperes do not give the stated watts",
                        sum_,
                        "Which of the two is intended?",
                        (each.claim, other.claim),
                    )


def _feeds_and_gives(paper: Paper) -> Iterator[Found]:
    for fed in paper.said(Feeds):
        for given in paper.said(Gives):
            same = set(fed.ports) & set(given.ports)
            needs_w = USB_V * fed.promise.amperes
            if same and needs_w > given.promise.watts:
                sum_ = f"5 V x {fed.promise.amperes:g} A = {needs_w:g} W > {given.promise.watts:g} W"
                yield Found(
                    "the 5 V supply claim exceeds the power claim",
                    sum_,
                    "Which of the two is correct?",
                    (fed.claim, given.claim),
                )


def _sharing_unsaid(paper: Paper) -> Iterator[Found]:
    large = [each for each in paper.plainly(Gives) if each.promise.watts >= _WORTH_SHARING_W]
    ports = [port for each in large for port in each.ports]
    told = paper.said(Shares) or any(each.claim.wants(ConditionKind.WHILE) for each in paper.said(Gives))
    together = any(len(each.ports) > 1 for each in large)
    if len(ports) > 1 and not told and not together:
        sum_ = watts([each.promise.watts for each in large for _ in each.ports])
        ask = "Does each give that while the others do?"
        yield Found("several ports give power, and their total is not stated", sum_, ask, tuple(e.claim for e in large))


def _host_unsaid(paper: Paper) -> Iterator[Found]:
    takes = paper.said(Takes)
    if takes and not paper.said(Passes) and not paper.said(ChargesHost) and paper.upstream is not None:
        sum_ = f"{takes[0].promise.watts:g} W in, less what the device consumes"
        yield Found("what reaches the host is not stated", sum_, "How many watts does the host get?", (takes[0].claim,))


def _supply_unsaid(paper: Paper) -> Iterator[Found]:
    hosts = paper.said(ChargesHost)
    if hosts and not paper.said(Takes) and paper.device.supply is NOT_NOTED:
        sum_ = f"{hosts[0].promise.watts:g} W and the device itself"
        yield Found(
            "the required supply is not stated", sum_, "How many watts does the supply provide?", (hosts[0].claim,)
        )


RULES = (
    Rule(
        "supply-sum",
        Weight.DOUBTFUL,
        "what is claimed at the same time does not exceed the supply",
        "conservation of energy",
        _supply_sum,
    ),
    Rule("one-output", Weight.CANNOT_BE, "no output exceeds the supply", "conservation of energy", _one_output),
    Rule(
        "pass-through",
        Weight.CANNOT_BE,
        "the host gets less than the inlet takes",
        "conservation of energy",
        _pass_through,
    ),
    Rule(
        "usb-limit",
        Weight.CANNOT_BE,
        "no port gives more than its standard allows",
        "USB PD R3.1, 10.3; USB BC 1.2, 4.1",
        _pd_limit,
    ),
    Rule(
        "extended-range",
        Weight.UNSAID,
        "above 100 W, supply and cable are stated",
        "USB PD R3.1, 10.3",
        _extended_range,
    ),
    Rule(
        "marker",
        Weight.UNSAID,
        "above 3 A or 60 W a cable has a marker",
        "USB Type-C R2.2, 4.6.2; USB PD R3.1, 10.3",
        _marker,
    ),
    Rule(
        "watts-and-amperes", Weight.CANNOT_BE, "watts are volts times amperes", "USB PD R3.1, 10.2", _watts_and_amperes
    ),
    Rule(
        "feeds-and-gives",
        Weight.CANNOT_BE,
        "the 5 V supply claim does not exceed the power claim",
        "USB 3.2, 11.4.5",
        _feeds_and_gives,
    ),
    Rule(
        "sharing-unsaid",
        Weight.UNSAID,
        "ports that give power state their total",
        "a buyer uses several",
        _sharing_unsaid,
    ),
    Rule(
        "host-unsaid",
        Weight.UNSAID,
        "an inlet states how much power reaches the host",
        "a buyer charges the host",
        _host_unsaid,
    ),
    Rule(
        "supply-unsaid",
        Weight.UNSAID,
        "a charging claim states its supply",
        "a buyer needs that supply",
        _supply_unsaid,
    ),
)
