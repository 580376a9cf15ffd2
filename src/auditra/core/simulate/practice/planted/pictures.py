"""Traits of pictures."""

from __future__ import annotations

from dataclasses import replace

from auditra.core.claims.claim import Claim
from auditra.core.claims.kinds.data import Data
from auditra.core.claims.kinds.shows import BothAtOnce, Shows
from auditra.core.simulate.practice.draft import Planting, about
from auditra.core.simulate.practice.hidden import Hidden
from auditra.core.simulate.traits.pictures import (
    BlanksWhenPlugged,
    ForgetsArrangement,
    LimitsModeBeside,
    LosesOptionBeside,
    OfOlderVersion,
    OneWins,
    ThinsDescription,
    Winner,
)

_DEVICE = frozenset({"device part"})
_SMALLER = {"3840x2160@60": "3840x2160@30", "3840x2160@30": "1920x1080@60", "2560x1440@144": "2560x1440@60"}


def smaller_mode(planting: Planting) -> None:
    draft = planting.draft
    claim = planting.one_of(each for each in draft.of_kind(Shows) if draft.display_modes[each.port] in _SMALLER)
    if claim is None:
        return
    promised = draft.display_modes[claim.port]
    draft.display_modes[claim.port] = _SMALLER[promised]
    words = f"{claim.port} shows {_SMALLER[promised]} at most"
    draft.hide(Hidden("smaller mode", words, breaks=frozenset({str(claim)}), causes=_DEVICE,
                      is_reachable=planting.bench.shows(draft.port(claim.port), promised)))  # fmt: skip


@about(Shows, lambda promise: not OfOlderVersion("").sends(promise.mode))
def of_older_version(planting: Planting, claim: Claim, promise: Shows) -> None:
    """The print beside the socket tells what the box denies."""
    draft, port = planting.draft, planting.draft.port(claim.port)
    if port.connector != "hdmi":
        return
    draft.ports[draft.ports.index(port)] = replace(port, printed="HDMI 1.4")
    words = f"{claim.port} is of a version that cannot carry {promise.mode}, as is printed beside it"
    draft.hide(Hidden("mode beyond its version", words, breaks=frozenset({str(claim)}), causes=_DEVICE,
                      is_reachable=planting.bench.shows(port, str(promise.mode))),
               OfOlderVersion(claim.port))  # fmt: skip


@about(Shows, lambda promise: promise.hdr)
def thins_description(planting: Planting, claim: Claim, promise: Shows) -> None:
    draft = planting.draft
    reach = planting.bench.shows(draft.port(claim.port), draft.display_modes[claim.port])
    words = f"{claim.port} hands the host a description without hdr and 10 bit"
    draft.hide(Hidden("description thinned", words, breaks=frozenset({str(claim)}), is_reachable=reach),
               ThinsDescription(claim.port, without=frozenset({"hdr"})))  # fmt: skip


def loses_vrr_beside(planting: Planting) -> None:
    draft = planting.draft
    with_vrr = [each for each in draft.of_kind(Shows) if isinstance(each.promise, Shows) and each.promise.vrr]
    claim = planting.one_of(with_vrr)
    others = [each for each in draft.of_kind(Shows, free_only=False) if claim is None or each.port != claim.port]
    other = planting.one_of(others)
    if claim is None or other is None:
        return
    reach = planting.bench.shows_both(
        draft.port(claim.port), draft.display_modes[claim.port], draft.port(other.port)
    ) and any(display.vrr is True for display in planting.bench.rig.displays)
    words = f"{claim.port} loses vrr while there is a display in {other.port}"
    draft.hide(
        Hidden("vrr lost beside another", words, breaks_at_times=frozenset({str(claim)}),
               causes=frozenset({"contention"}), is_reachable=reach),
        LosesOptionBeside(claim.port, "vrr", other.port),
    )  # fmt: skip


def smaller_mode_beside(planting: Planting) -> None:
    draft = planting.draft
    outputs = draft.of_kind(Shows)
    claim = planting.one_of(each for each in outputs if draft.display_modes[each.port] in _SMALLER)
    other = planting.one_of(each for each in outputs if claim is not None and each.port != claim.port)
    if claim is None or other is None or not isinstance(claim.promise, Shows):
        return
    mode = draft.display_modes[claim.port]
    reach = planting.bench.shows_both(draft.port(claim.port), mode, draft.port(other.port))
    words = f"{claim.port} shows less while a display is in {other.port}"
    draft.hide(
        Hidden("smaller mode beside another", words, breaks_at_times=frozenset({str(claim)}),
               causes=frozenset({"contention"}), is_reachable=reach),
        LimitsModeBeside(claim.port, other.port, claim.promise.mode.pixels_a_second * 0.6),
    )  # fmt: skip


@about(BothAtOnce)
def one_picture_wins(planting: Planting, claim: Claim, promise: BothAtOnce) -> None:
    draft = planting.draft
    one, other = (draft.port(port) for port in claim.ports[:2])
    reach = planting.bench.shows_both(one, draft.display_modes[one.id], other)
    winner = planting.dice.choice(list(Winner))
    words = f"of two displays at {one.id} and {other.id} the {winner.value} one that was connected has the picture"
    shown = frozenset(str(each) for each in draft.of_kind(Shows) if each.port in claim.ports)
    draft.hide(
        Hidden("one picture wins", words, breaks=frozenset({str(claim)}), breaks_at_times=shown, is_reachable=reach),
        OneWins(frozenset(claim.ports), winner),
    )  # fmt: skip


@about(Shows)
def forgets_the_arrangement(planting: Planting, claim: Claim, promise: Shows) -> None:
    draft, bench = planting.draft, planting.bench
    host = bench.rig.hosts[0]
    words = f"the {host.name} does not know its displays again"
    draft.hide(Hidden("arrangement lost", words, unstated=frozenset({"arrangement lost"}),
                      is_reachable=bench.shows(draft.port(claim.port), str(promise.mode))),
               ForgetsArrangement(frozenset({host.id})))  # fmt: skip


def blanks_when_plugged(planting: Planting) -> None:
    draft = planting.draft
    claim = planting.one_of(draft.of_kind(Shows))
    data = [each for each in draft.of_kind(Data, free_only=False) if claim is not None and each.port != claim.port]
    if claim is None or not data:
        return
    bench, port = planting.bench, draft.port(claim.port)
    reach = bench.shows_anything(port) and any(bench.drives(draft.port(each.port), 0.0) for each in data)
    lasts_s = planting.dice.uniform(1.5, 3.0)
    words = f"{claim.port} goes dark for {lasts_s:.1f} s when something is plugged in elsewhere"
    draft.hide(Hidden("blanking", words, unstated=frozenset({"blanking"}), is_reachable=reach),
               BlanksWhenPlugged(claim.port, lasts_s))  # fmt: skip


PICTURES = (
    smaller_mode, of_older_version, thins_description, loses_vrr_beside, smaller_mode_beside, one_picture_wins,
    blanks_when_plugged, forgets_the_arrangement,
)  # fmt: skip
