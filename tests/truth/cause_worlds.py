"""Audits with one planted cause, which the judge never sees: the cause that it names must be that one, or none."""

from __future__ import annotations

import random
from collections.abc import Callable
from dataclasses import dataclass, replace

from auditra.core.journal.facts import EventNoted
from auditra.core.model.device import Port, Role
from auditra.core.model.reading import Count, Grade, Quantity, Reading
from auditra.core.model.rig import Adapter, Rig
from auditra.core.model.setup import Plugged
from auditra.core.model.trial import ProcedureId
from tests.truth.case import Bench, computers, drive, lead
from tests.truth.cause_case import Planted
from tests.truth.data_worlds import measured
from tests.truth.figure_worlds import FIGURE_WORLDS

STORAGE = ProcedureId.STORAGE


@dataclass
class Maker:
    """A bench on which one thing makes everything slow that it takes part in."""

    dice: random.Random
    bench: Bench
    bad: Callable[[dict[str, object]], bool]
    """Whether this set of things is slow."""
    sound_mb: float = 462.0
    slow_share: float = 1.0

    def through(self, port: str = "A1", claims: tuple[int, ...] = (1,), /, **things: object) -> None:
        """A trial at a port of the device."""
        gear, used, host = (str(things.pop(name, default)) for name, default in
                            (("gear", "ssd"), ("lead", "good"), ("host", "host1")))  # fmt: skip
        socket, to_host = str(things.pop("host_socket", "C1")), things.pop("host_lead", None)
        through = things.pop("through", ())
        events = (EventNoted("lamp went out", "A1"),) if things.pop("event", False) else ()
        is_bad = self.bad({**things, "port": port, "gear": gear, "lead": used, "host": host, "host_socket": socket,
                           "host_lead": to_host, "through": through, "event": bool(events)})  # fmt: skip
        mb = self.sound_mb * (self.slow_share if is_bad else 1.0)
        setup = self.bench.setup(port, gear, used, host=host, host_socket=socket, host_lead=to_host, **things)
        if isinstance(through, tuple) and through:
            setup = replace(setup, plugged=tuple(
                replace(each, through=through) if each.owner == "device" else each for each in setup.plugged
            ))  # fmt: skip
        self.bench.trial(STORAGE, setup, gear, port, measured(self.bench, mb, 5e9), claims=claims, events=events)

    def direct(self, **things: object) -> None:
        """A trial of the same gear without the device."""
        gear, used, host = (str(things.pop(name, default)) for name, default in
                            (("gear", "ssd"), ("lead", "good"), ("host", "host1")))  # fmt: skip
        socket = str(things.pop("host_socket", "C1"))
        is_bad = self.bad({**things, "port": None, "gear": gear, "lead": used, "host": host, "host_socket": socket,
                           "host_lead": None, "through": (), "event": False})  # fmt: skip
        mb = 470 * (self.slow_share if is_bad else 1.0)
        setup = self.bench.setup(None, gear, used, host=host, host_socket=socket, **things)
        self.bench.trial(STORAGE, setup, gear, None, measured(self.bench, mb, 10e9))


def _maker(dice: random.Random, bad: Callable[[dict[str, object]], bool], *sentences: str) -> Maker:
    rig = Rig(
        "r", computers(10e9, 10e9), drives=(drive("ssd", 480), drive("ssd2", 480)),
        leads=(lead("good", data_bps=10e9), lead("other"), lead("third")),
        adapters=(Adapter("hub", "hub", "usb-a plug", ("usb-a",)), Adapter("bend", "bend", "usb-a plug", ("usb-a",))),
    )  # fmt: skip
    bench = Bench(dice, sentences or ("A1 data 5 Gb/s",), rig)
    return Maker(dice, bench, bad, slow_share=dice.uniform(0.08, 0.75))


def _twice(dice: random.Random, *actions: Callable[[], None]) -> None:
    """Each of these once or twice, in any order."""
    todo = [action for action in actions for _ in range(dice.choice((1, 2)))]
    dice.shuffle(todo)
    for action in todo:
        action()


def slow_lead(dice: random.Random) -> Planted:
    """A lead of which nothing was noted."""
    maker = _maker(dice, lambda it: it["lead"] == "other")
    extra = dice.random() < 0.8
    _twice(dice, maker.direct, lambda: maker.through(lead="other"),
           *((lambda: maker.through(lead="good"),) if extra else ()))  # fmt: skip
    return Planted("lead", maker.bench.audit(), "rig part", "other", extra)


def slow_host(dice: random.Random) -> Planted:
    """A host on which everything is slow, the drive by itself too."""
    maker = _maker(dice, lambda it: it["host"] == "host2")
    also_direct = dice.random() < 0.7
    _twice(dice, lambda: maker.through(host="host2"), lambda: maker.through(host="host1"), maker.direct,
           *((lambda: maker.direct(host="host2"),) if also_direct else ()))  # fmt: skip
    return Planted("host", maker.bench.audit(), "rig part", "host 2", can_tell=True)


def slow_socket(dice: random.Random) -> Planted:
    """One socket of a host, another of which is good."""
    maker = _maker(dice, lambda it: it["host_socket"] == "C2")
    _twice(dice, lambda: maker.through(host_socket="C2"), lambda: maker.through(host_socket="C1"),
           lambda: maker.direct(host_socket="C2"), maker.direct)  # fmt: skip
    return Planted("host socket", maker.bench.audit(), "rig part", "C2", can_tell=True)


def slow_drive(dice: random.Random) -> Planted:
    """A drive that is slower than its label says, wherever it is."""
    maker = _maker(dice, lambda it: it["gear"] == "ssd2")
    _twice(dice, lambda: maker.through(gear="ssd2"), lambda: maker.through(gear="ssd"), maker.direct,
           lambda: maker.direct(gear="ssd2"))  # fmt: skip
    return Planted("drive", maker.bench.audit(), "rig part", "ssd2", can_tell=True)


def slow_adapter(dice: random.Random) -> Planted:
    """One adapter of a chain of two."""
    maker = _maker(dice, lambda it: "hub" in it["through"])  # type: ignore[operator]
    _twice(dice, lambda: maker.through(through=("hub", "bend")), lambda: maker.through(through=("bend",)), maker.direct)
    return Planted("adapter", maker.bench.audit(), "rig part", "hub", can_tell=True)


def bad_port(dice: random.Random) -> Planted:
    """One port of three alike."""
    maker = _maker(dice, lambda it: it["port"] == "A1", "A1 data 5 Gb/s", "A2 data 5 Gb/s")
    twin = dice.random() < 0.8
    _twice(dice, maker.through, maker.direct, *((lambda: maker.through("A2", (2,)),) if twin else ()))
    return Planted("port", maker.bench.audit(), "device part", "A1", can_tell=True)


def bad_device(dice: random.Random) -> Planted:
    """What all ports of a device share."""
    maker = _maker(dice, lambda it: it["port"] is not None, "A1 data 5 Gb/s", "A2 data 5 Gb/s")
    _twice(dice, maker.through, maker.direct, lambda: maker.through("A2", (2,)))
    return Planted("device", maker.bench.audit(), "device part", "A1 and A2", can_tell=True)


def _state(kind: str, subject: str, name: str, value: object, other: object) -> Callable[[random.Random], Planted]:
    def world(dice: random.Random) -> Planted:
        maker = _maker(dice, lambda it: it["port"] is not None and it.get(name) == value)
        if name == "charger":  # else nothing could feed it
            maker.bench.ports = (*maker.bench.ports, Port("P1", "usb-c", Role.INLET))
        also_other = dice.random() < 0.85
        distract = dice.choice(("ssd", "ssd2"))
        _twice(dice, maker.direct, lambda: maker.through(**{name: value}),
               *((lambda: maker.through(**{name: other}, gear=distract),) if also_other else ()),
               *((lambda: maker.direct(gear="ssd2"),) if distract == "ssd2" else ()))  # fmt: skip
        return Planted(f"{name} {value}", maker.bench.audit(), kind, subject, also_other and distract == "ssd")

    return world


def contention(dice: random.Random) -> Planted:
    """A display that runs takes what the port needs; a drain that runs does not matter."""
    shows, gives = "H1 shows 3840x2160@60", "A3 gives 4.5 W"
    maker = _maker(dice, lambda it: shows in it.get("running", ()))  # type: ignore[operator]
    _twice(dice, maker.direct, maker.through, lambda: maker.through(running=(shows,)),
           lambda: maker.through(running=(gives,)), lambda: maker.through(running=(gives, shows)))  # fmt: skip
    return Planted("contention", maker.bench.audit(), "contention", "H1", can_tell=True)


def idle(dice: random.Random) -> Planted:
    """Something that is connected, and not in use."""
    stick = (Plugged("device", "A2", "ssd2"),)
    maker = _maker(dice, lambda it: bool(it.get("more")))
    _twice(dice, maker.direct, maker.through, lambda: maker.through(more=stick))
    return Planted("idle", maker.bench.audit(), "contention", "A2", can_tell=True)


def soak(dice: random.Random) -> Planted:
    """Only after a long time at full load."""
    maker = _maker(dice, lambda it: it["port"] is not None and bool(it.get("soaked_s")))
    _twice(dice, maker.direct, maker.through, lambda: maker.through(soaked_s=2700.0),
           lambda: maker.direct(soaked_s=2700.0))  # fmt: skip
    return Planted("soak", maker.bench.audit(), "heat", "45 min", can_tell=True)


def recorder(dice: random.Random) -> Planted:
    """A recorder that runs meanwhile costs speed."""
    maker = _maker(dice, lambda it: isinstance(it.get("recorder"), str))
    _twice(dice, maker.direct, lambda: maker.through(recorder="screen recorder"), lambda: maker.through(recorder=None))
    return Planted("recorder", maker.bench.audit(), "observer", "screen recorder", can_tell=True)


def known_lead(dice: random.Random) -> Planted:
    """A lead whose own record is below the claim, and that gives just what it can."""
    maker = _maker(dice, lambda it: it["lead"] == "slow")
    maker.bench.rig = replace(maker.bench.rig, leads=(*maker.bench.rig.leads, lead("slow", data_bps=480e6)))
    maker.slow_share = dice.uniform(38, 47) / maker.sound_mb
    _twice(dice, maker.direct, lambda: maker.through(lead="slow"))
    return Planted("known lead", maker.bench.audit(), "rig limit", "slow", can_tell=True)


def two_suspects(dice: random.Random) -> Planted:
    """Lead and drive were always changed together: nobody can be named."""
    maker = _maker(dice, lambda it: it["lead"] == "other")
    _twice(dice, lambda: maker.direct(gear="ssd"), lambda: maker.through(lead="other", gear="ssd2"),
           lambda: maker.through(lead="good", gear="ssd"))  # fmt: skip
    return Planted("two suspects", maker.bench.audit(), "", "", can_tell=False)


def misses(dice: random.Random) -> Planted:
    """Gear that does not appear at one port, and does at its twin."""
    bench = _maker(dice, lambda it: False, "A1 data 5 Gb/s", "A2 data 5 Gb/s").bench
    for port, count in (("A1", Count(0, 4)), ("A2", Count(4, 4)), (None, Count(3, 3))):
        setup = bench.setup(port, "ssd", "good")
        came = Reading("", Quantity.APPEARED, port or "direct", "the eye", Grade.SEEN, count)
        rates = measured(bench, 462, 5e9) if count.seen else []
        bench.trial(STORAGE, setup, "ssd", port, [came, *rates], claims=(1,) if port == "A1" else (2,))
    return Planted("misses", bench.audit(), "device part", "A1", can_tell=True)


_FAULTS: dict[str, tuple[Callable[[dict[str, object]], bool], str, str]] = {
    "lead": (lambda it: it["lead"] == "other", "rig part", "other"),
    "host": (lambda it: it["host"] == "host2", "rig part", "host 2"),
    "drive": (lambda it: it["gear"] == "ssd2", "rig part", "ssd2"),
    "port": (lambda it: it["port"] == "A1", "device part", "A1"),
    "running": (lambda it: it["port"] is not None and bool(it.get("running")), "contention", "H1"),
    "flipped": (lambda it: it["port"] is not None and it.get("flipped") is True, "state or order", "turned over"),
    "driver": (lambda it: it["port"] is not None and it.get("driver") == "2.0", "software or route", "2.0"),
}


def jumble(dice: random.Random) -> Planted:
    """Everything varies at once, and one thing of it is to blame."""
    fault = dice.choice(sorted(_FAULTS))
    bad, kind, subject = _FAULTS[fault]
    maker = _maker(dice, bad, "A1 data 5 Gb/s", "A2 data 5 Gb/s")
    for _ in range(dice.randint(3, 12)):
        things = {
            "gear": dice.choice(("ssd", "ssd2")), "lead": dice.choice(("good", "other")),
            "host": dice.choice(("host1", "host2")),
        }  # fmt: skip
        if dice.random() < 0.4:
            maker.direct(**things)
            continue
        port = dice.choice(("A1", "A2"))
        maker.through(
            port, (1,) if port == "A1" else (2,), **things, flipped=dice.random() < 0.5,
            running=("H1 shows 3840x2160@60",) if dice.random() < 0.5 else (), driver=dice.choice(("1.0", "2.0")),
        )  # fmt: skip
    return Planted(f"jumble of {fault}", maker.bench.audit(), kind, subject, can_tell=False)


CAUSE_WORLDS: tuple[Callable[[random.Random], Planted], ...] = (
    slow_lead, slow_host, slow_socket, slow_drive, slow_adapter, bad_port, bad_device, contention, idle, soak, recorder,
    known_lead, two_suspects, misses, jumble,
    _state("state or order", "connected before", "order", ("ssd", "device"), ("device", "ssd")),
    _state("state or order", "again", "replugged", True, False),
    _state("state or order", "turned over", "flipped", True, False),
    _state("state or order", "lamp", "event", True, False),
    _state("supply", "no supply", "charger", None, "wall"),
    _state("software or route", "2.0", "driver", "2.0", "1.0"),
    _state("software or route", "iscsi", "protocol", "iscsi", "scsi"),
    *FIGURE_WORLDS,
)  # fmt: skip
