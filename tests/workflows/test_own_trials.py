"""Own trials: any set-up reads as it is typed; a planned one on another host; what does not fit names its field."""

from __future__ import annotations

from dataclasses import replace

import pytest

from auditra.core.errors import InputError
from auditra.core.journal.facts import TrialSkipped
from auditra.core.model.device import DEVICE
from auditra.core.model.noted import NOT_NOTED
from auditra.core.model.setup import NetworkPath, Plugged
from auditra.core.plan.planner import planned_as, run_sheet_of
from auditra.core.plan.run_sheet import PlannedTrial
from auditra.workflows.audits.own_trials import (
    OwnTrial,
    OwnTrialRefused,
    on_host,
    own_trial,
    skipping,
    wanted_again,
)
from auditra.workflows.audits.trial_as_typed import as_typed
from tests.support.audits import audit_of, planned

AUDIT = audit_of("A1 data 5 Gb/s", "H1 shows 3840x2160@30", "N1 links 1 Gb/s", "P1 takes 90 W", "A2 works with printer")
PLAIN = OwnTrial("write and read back", "A1", "film-ssd", "laptop", "C1", lead="AC-1")


@pytest.mark.parametrize("trial", run_sheet_of(AUDIT).trials, ids=lambda trial: trial.key)
def test_every_planned_trial_reads_as_it_is_typed(trial: PlannedTrial) -> None:
    made = own_trial(AUDIT, as_typed(trial, AUDIT)).trial
    assert set(made.setup.plugged) == set(trial.setup.plugged)
    assert replace(made.setup, plugged=()) == replace(trial.setup, plugged=())
    assert (made.procedure, made.gear, made.port) == (trial.procedure, trial.gear, trial.port)
    assert set(made.claims) == set(trial.claims)


def test_a_set_up_has_everything_that_was_typed() -> None:
    own = replace(
        PLAIN, also="H1 projector HD-1; P1 supply-90", running="H1 shows 3840x2160@30", soaked_minutes="45",
        flipped="yes", replugged="no", order="supply, display", driver="none", recorder="screen grabber", wireless="no",
        battery_percent="35 %", title="A1 beside a picture", why="does the picture cost anything?",
    )  # fmt: skip
    wanted = own_trial(AUDIT, own)
    setup = wanted.trial.setup
    assert setup.plugged == (
        Plugged("laptop", "C1", DEVICE), Plugged(DEVICE, "A1", "film-ssd", "AC-1"),
        Plugged(DEVICE, "H1", "projector", "HD-1"), Plugged(DEVICE, "P1", "supply-90"),
    )  # fmt: skip
    assert (setup.running, setup.soaked_s, setup.flipped) == (("H1 shows 3840x2160@30",), 2700.0, True)
    assert (setup.replugged, setup.order, setup.driver) == (False, ("supply", "display"), None)
    assert (setup.recorder, setup.network) == ("screen grabber", NetworkPath(wireless=False))
    assert setup.battery_percent == 35
    assert wanted.trial.claims == ("claim1",)
    assert (wanted.title, wanted.why) == ("A1 beside a picture", "does the picture cost anything?")
    several = own_trial(AUDIT, replace(PLAIN, streams="4", wireless="no")).trial.setup
    assert several.network == NetworkPath(wireless=False, streams=4)
    again = as_typed(planned_as(own_trial(AUDIT, replace(PLAIN, streams="4", wireless="no"))), AUDIT)
    assert (again.streams, again.wireless) == ("4", "no")
    bare = own_trial(AUDIT, PLAIN).trial.setup
    assert (bare.flipped, bare.driver, bare.battery_percent) == (NOT_NOTED,) * 3


def test_a_direct_trial_has_the_gear_on_the_host() -> None:
    direct = own_trial(AUDIT, replace(PLAIN, at="direct", lead="CC-1")).trial
    assert direct.port is None
    assert direct.setup.plugged == (Plugged("laptop", "C1", "film-ssd", "CC-1"),)


@pytest.mark.parametrize(
    ("field", "text"),
    [
        ("procedure", "guess"), ("at", "Z9"), ("gear", "warp-drive"), ("host", "mainframe"), ("host_socket", "C9"),
        ("lead", "string"), ("host_lead", "string"), ("through", "ether"), ("also", "H1"), ("also", "Z9 projector"),
        ("also", "H1 projector string"), ("claims", "A9 flies"), ("flipped", "perhaps"), ("soaked_minutes", "long"),
        ("streams", "0"), ("streams", "17"), ("streams", "\u0664"), ("streams", "99999999999"),
    ],
)  # fmt: skip
def test_a_part_that_does_not_fit_names_its_field(field: str, text: str) -> None:
    with pytest.raises(OwnTrialRefused) as refused:
        own_trial(AUDIT, replace(PLAIN, **{field: text}))
    assert refused.value.field == field


def test_the_same_trial_on_another_host_uses_a_socket_that_fits() -> None:
    older = AUDIT.rig.host("older-laptop")
    assert older is not None
    with pytest.raises(InputError, match="fits any socket"):
        on_host(planned(AUDIT, "A1/storage"), AUDIT, older)  # the plug is usb-c, and that host has none
    usb_c = replace(older, sockets=(*older.sockets, replace(older.sockets[0], id="C1", connector="usb-c")))
    moved = on_host(planned(AUDIT, "A1/storage"), AUDIT, usb_c).trial
    assert (moved.setup.host, moved.setup.host_socket) == ("older-laptop", "C1")
    assert moved.setup.plugged[0] == Plugged("older-laptop", "C1", DEVICE)


def test_a_trial_is_skipped_with_a_reason_and_wanted_again() -> None:
    trial = planned(AUDIT, "A1/storage")
    with pytest.raises(InputError):
        skipping(trial, AUDIT, "  ")
    (skipped,) = skipping(trial, AUDIT, "no time")
    assert isinstance(skipped, TrialSkipped)
    assert (skipped.why, skipped.skips) == ("no time", True)
    (again,) = wanted_again(trial, AUDIT)
    assert isinstance(again, TrialSkipped)
    assert not again.skips
