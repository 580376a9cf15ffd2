"""Traits that a person sees, hears, counts or measures with a rule; and what a lead carries."""

from __future__ import annotations

from auditra.core.claims.claim import Claim
from auditra.core.claims.kinds.body import Below
from auditra.core.claims.kinds.cable import Carries, Drops, Marked
from auditra.core.claims.kinds.company import WorksWith
from auditra.core.claims.kinds.control import Button, SwitchesIn
from auditra.core.claims.kinds.data import Data
from auditra.core.claims.kinds.length import Length
from auditra.core.claims.kinds.sound import Plays
from auditra.core.model.device import BODY
from auditra.core.model.reading import Quantity
from auditra.core.model.setup import MINUTE_S
from auditra.core.quantities.units import Dimension
from auditra.core.simulate.practice.draft import Planting, about
from auditra.core.simulate.practice.hidden import Hidden
from auditra.core.simulate.practice.on_the_bench import SHOWN_SHARE
from auditra.core.simulate.traits.power import ThinCopper
from auditra.core.simulate.traits.seen import FailsBeside, HappensAnyway, IsNotSo, StopsAfter, WorksNowAndThen


def hums_beside_data(planting: Planting) -> None:
    draft = planting.draft
    claim, data = planting.one_of(draft.of_kind(Plays)), draft.of_kind(Data, free_only=False)
    if claim is None or not data:
        return
    reach = any(planting.bench.drives(draft.port(each.port), SHOWN_SHARE * each.promise.upstream_bps) for each in data)
    words = f"{claim.port} hums while a drive is connected"
    draft.hide(
        Hidden("hums beside data", words, breaks_at_times=frozenset({str(claim)}),
               causes=frozenset({"contention"}), is_reachable=reach),
        FailsBeside(claim.port, "plays", frozenset(each.port for each in data)),
    )  # fmt: skip


@about(Plays)
def sound_stops(planting: Planting, claim: Claim, promise: Plays) -> None:
    draft = planting.draft
    minutes = planting.dice.uniform(3, 12)
    words = f"the sound on {claim.port} stops after {minutes:.0f} min"
    draft.hide(
        Hidden("sound stops", words, breaks_at_times=frozenset({str(claim)}), causes=frozenset({"heat"})),
        StopsAfter(claim.port, "plays", minutes * MINUTE_S),
    )  # fmt: skip


@about(Button)
def lid_wakes_it(planting: Planting, claim: Claim, promise: Button) -> None:
    """No rig tells a button that does nothing from one that does, where the lid wakes the host: it stays unproven."""
    draft = planting.draft
    words = f"it is the lid that wakes the host, not {claim.port}"
    draft.hide(Hidden("the lid explains the button", words, breaks=frozenset({str(claim)}), is_reachable=False),
               HappensAnyway(claim.port, "button"))  # fmt: skip


@about(SwitchesIn)
def switches_slowly(planting: Planting, claim: Claim, promise: SwitchesIn) -> None:
    draft = planting.draft
    draft.figures[BODY, Quantity.TIME_TO_SWITCH] = promise.seconds * planting.dice.uniform(1.6, 4)
    words = "it takes longer to switch than is promised"
    draft.hide(Hidden("switches slowly", words, breaks=frozenset({str(claim)})))


@about(WorksWith)
def keyboard_not_seen(planting: Planting, claim: Claim, promise: WorksWith) -> None:
    draft = planting.draft
    words = f"the keyboard on {claim.port} is not seen after most switches"
    draft.hide(Hidden("gear not seen", words, breaks=frozenset({str(claim)})),
               WorksNowAndThen(claim.port, "works with", 0.0))  # fmt: skip


@about(Below)
def hotter_than_told(planting: Planting, claim: Claim, promise: Below) -> None:
    draft = planting.draft
    draft.rise_k = planting.dice.uniform(27, 40)
    draft.figures[BODY, Quantity.CASE_TEMPERATURE] = 21.5 + draft.rise_k
    words = f"its case reaches {21.5 + draft.rise_k:.0f} C"
    reach = bool(planting.bench.rig.thermometers)
    draft.hide(Hidden("hotter than told", words, breaks=frozenset({str(claim)}), is_reachable=reach))


@about(Length)
def shorter_than_told(planting: Planting, claim: Claim, promise: Length) -> None:
    draft = planting.draft
    draft.lengths_m[claim.port] = promise.metres * planting.dice.uniform(0.8, 0.93)
    words = "it is shorter than is promised"
    reach = bool(planting.bench.rig.rules)
    draft.hide(Hidden("shorter than told", words, breaks=frozenset({str(claim)}), is_reachable=reach))


@about(Marked)
def marker_is_missing(planting: Planting, claim: Claim, promise: Marked) -> None:
    draft = planting.draft
    words = "its marker says less than the sleeve"
    draft.hide(Hidden("marker says less", words, breaks=frozenset({str(claim)})),
               IsNotSo(BODY, "is marked"))  # fmt: skip


def carries_less(planting: Planting) -> None:
    draft = planting.draft
    of_rate = [each for each in draft.of_kind(Carries) if isinstance(each.promise, Carries)
               and each.promise.load.dimension is Dimension.BIT_RATE]  # fmt: skip
    claim = planting.one_of(of_rate)
    if claim is None:
        return
    draft.figures[BODY, Quantity.LINK] = planting.dice.choice((480e6, 5e9))
    words = f"it carries {draft.figures[BODY, Quantity.LINK] / 1e9:g} Gb/s"
    draft.hide(Hidden("carries less", words, breaks=frozenset({str(claim)})))


@about(Drops)
def copper_is_thin(planting: Planting, claim: Claim, promise: Drops) -> None:
    draft = planting.draft
    drop_v = promise.volts * planting.dice.uniform(1.35, 1.7)
    words = f"its copper is thinner than it should be: {1e3 * drop_v:.0f} mV are left in it at {promise.amperes:g} A"
    draft.hide(Hidden("thin copper", words, breaks=frozenset({str(claim)}), is_reachable=planting.bench.meters_volts()),
               ThinCopper(drop_v / promise.amperes, promise.amperes))  # fmt: skip


SEEN = (
    hums_beside_data, sound_stops, lid_wakes_it, switches_slowly, keyboard_not_seen, hotter_than_told,
    shorter_than_told, marker_is_missing, carries_less, copper_is_thin,
)  # fmt: skip
