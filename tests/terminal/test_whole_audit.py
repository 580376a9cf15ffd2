"""A whole audit from the application: from the empty shelf to the last trial, without a file, by keys alone."""

from __future__ import annotations

import os
import signal
from pathlib import Path

import pytest

from auditra.core.journal.audit import Audit
from auditra.core.journal.fold import fold_audit
from auditra.core.model.event import EventKind
from auditra.store.library import Library
from tests.support.terminal import Terminal

pytestmark = pytest.mark.terminal
ADVERT = "Two USB-A ports at 5 Gbps. Weighs 95 g. HDMI output 3840x2160 at 60 Hz."
PHOTO = b"\x89PNG\r\n\x1a\n"


class Reviewer:
    """Somebody at the keys: types, waits for words, goes on."""

    def __init__(self, folder: Path, library: Path) -> None:
        self.library = library
        self.terminal = Terminal(folder, 160, 47, "--library", str(library))

    def sees(self, words: str) -> str:
        return self.terminal.wait_for(words)

    def press(self, *keys: str) -> None:
        self.terminal.press(*keys)

    def type(self, text: str, *keys: str) -> None:
        self.terminal.tmux("send-keys", "-l", text)
        self.press(*keys)

    def fills_in(self, title: str, *texts: str) -> None:
        """The fields of a form from the first empty one on; an empty text leaves a field as it is."""
        self.sees(title)
        for text in texts:
            self.type(text, "Enter") if text else self.press("Down")
        self.press("C-s")

    def claims(self, sentence: str) -> None:
        self.press("n", "C-u")
        self.type(sentence, "Enter")
        self.sees(f"Recorded: {sentence}")

    def runs(self, title: str, answer: str, without: str = "") -> None:
        """The trial that is set out, with its answer, and that to the same question without the device."""
        self.sees(f"  {title}")
        self.press("Enter")
        self.sees("such as")
        self.type(answer, "Enter")
        if without:  # only once its own question is there: keys between two questions are commands
            self.sees("And the same without the device")
            self.sees("such as")
            self.type(without, "Enter")
        self.sees(f"{title}: complete.")

    def audit(self, name: str) -> Audit:
        return fold_audit(name, Library(self.library).journal(name).entries())


def test_a_whole_audit_from_an_empty_shelf_without_a_file(tmp_path: Path) -> None:
    photo = tmp_path / "seam.png"
    photo.write_bytes(PHOTO)
    reviewer = Reviewer(tmp_path / "one", tmp_path / "library")
    try:
        begin(reviewer)
        describe_the_rig(reviewer)
        run_ten_trials(reviewer)
        write_things_down(reviewer, photo)
        check_what_is_recorded(reviewer)
        undo_everything(reviewer)
        reviewer.press("1", "n")
        reviewer.sees("claim ")
        reviewer.type("A1 gives 4.")
        reviewer.sees("A1 gives 4.")
        os.kill(reviewer.terminal.process, signal.SIGHUP)  # the terminal is closed in mid-entry
        reviewer.terminal.wait_for_end()
    finally:
        reviewer.terminal.close()
    again = Reviewer(tmp_path / "two", tmp_path / "library")
    try:
        again.sees("Brackwater BW-2")
        again.press("Enter")
        again.sees("1 Claims")
        again.press("1", "n")
        again.sees("A1 gives 4.")
    finally:
        again.terminal.close()


def begin(reviewer: Reviewer) -> None:
    """Name and kind, then the seller's text, then claims that are typed."""
    reviewer.sees("Press n to start one")
    reviewer.press("n")
    reviewer.fills_in("New audit", "quay", "Brackwater", "BW-2", "dock")
    reviewer.sees("No claims yet. Press g")
    reviewer.press("g")
    reviewer.sees("paste the seller's text")
    reviewer.type(ADVERT, "C-r")
    reviewer.sees("A2 data 5 Gb/s")
    reviewer.press("y", "y", "y", "y", "Escape")
    reviewer.sees("A1 usb-a")
    for sentence in ("A1 works with keyboard", "A2 works with mouse", "body below 45 C", "body has lock slot"):
        reviewer.claims(sentence)
    reviewer.claims("UP length 15 cm")


def describe_the_rig(reviewer: Reviewer) -> None:
    """A socket for the plug, and a rule; the reach says what is missing."""
    reviewer.press("3")
    reviewer.sees("REACH")
    reviewer.press("e")
    reviewer.sees("Edit ")
    reviewer.press("Up", "Up", "Up", "Up", "Down", "Down", "C-u", "C-k")
    reviewer.type("C1, usb-c, 10 Gb/s, display yes; A1, usb-a, 5 Gb/s", "C-s")
    reviewer.sees("is edited. Press u to undo")
    reviewer.press("n")
    reviewer.sees("New part of the rig")
    reviewer.press("k")
    reviewer.fills_in("New rule", "rule", "steel rule")
    screen = reviewer.sees("to 1 mm")
    assert "needs a drive" in screen
    assert "needs a display that" in screen


def run_ten_trials(reviewer: Reviewer) -> None:
    """Four with figures that are typed, one of the reviewer's own, a repeat; one is skipped."""
    reviewer.press("4")
    reviewer.sees("SHEET")
    reviewer.runs("UP length", "15.1 cm")
    reviewer.runs("body weighs 95 g", "95 g")
    reviewer.runs("A1 works with keyboard", "3 of 3")
    reviewer.runs("A2 works with mouse", "3 of 3")
    reviewer.runs("body below 45 C", "41.5 C")
    reviewer.press("s")
    reviewer.sees("reason to skip it")
    reviewer.type("no lock at hand", "Enter")
    reviewer.sees("no lock at hand")
    reviewer.sees("5 trials are done, 1 skipped")
    plan_an_own_trial(reviewer)
    reviewer.runs("A1 with the lid closed", "3 of 3")
    reviewer.press("j", "j", "j")
    reviewer.runs("A1 works with keyboard", "2 of 3", without="3 of 3")  # a repeat
    reviewer.press("j", "j", "j")
    reviewer.press("y")
    reviewer.fills_in("Reading", "voltage", "4.92 V", "", "0.9 A")
    reviewer.sees("The reading is recorded")
    reviewer.press("x")
    reviewer.sees("A1 works with keyboard: did not appear")
    reviewer.press("j", "j")
    reviewer.runs("body weighs 95 g", "96 g")


def plan_an_own_trial(reviewer: Reviewer) -> None:
    """The keyboard once more, with the lid of the host closed."""
    reviewer.press("o")
    reviewer.sees("Own trial")
    reviewer.type("look", "Enter", "C-u")
    reviewer.type("A1", *["Enter"] * 4)
    reviewer.type("A1 with the lid closed", "Enter", *["Down"] * 5)
    reviewer.type("A1 works with keyboard", "Enter")
    reviewer.type("lid closed", "C-s")
    reviewer.sees("The trial is on the run sheet")


def write_things_down(reviewer: Reviewer, photo: Path) -> None:
    """Three events at their moments, a doubt and a photo."""
    reviewer.press("Space")
    reviewer.sees("TIMELINE")
    reviewer.press("c", "p", "x")
    reviewer.sees("time to failure")
    reviewer.press("d")
    reviewer.fills_in("Doubt", "is it the lid?", "software or route")
    reviewer.sees("The doubt is noted")
    reviewer.press("f")
    reviewer.fills_in("Photo", str(photo))
    reviewer.sees("file seam.png")
    reviewer.press("Escape")
    reviewer.sees("SHEET")


def check_what_is_recorded(reviewer: Reviewer) -> None:
    audit = reviewer.audit("quay")
    assert len(audit.trials) == 10
    quantities = {str(reading.quantity) for record in audit.trials for reading in record.readings}
    assert {"mass", "case temperature", "length", "voltage"} <= quantities
    assert audit.own_trials[0].title == "A1 with the lid closed"
    assert audit.skipped[0].why == "no lock at hand"
    assert [event.what for event in audit.events] == [EventKind.CONNECTED, EventKind.PICTURE, EventKind.CRASH]
    assert [doubt.raised.question for doubt in audit.doubts] == ["is it the lid?"]
    assert audit.evidence[-1].name == "seam.png"


def undo_everything(reviewer: Reviewer) -> None:
    """Each action, the newest first, until only the beginning is left."""
    for _ in range(6):
        reviewer.press(*["u"] * 8)
    reviewer.sees("There is nothing to undo.")
    audit = reviewer.audit("quay")
    assert audit.undoable == ()
    assert (audit.trials, audit.claims, audit.events, audit.doubts, audit.own_trials, audit.skipped) == ((),) * 6
