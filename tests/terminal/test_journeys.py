"""What a person does at a terminal, from first key to last, and what happens when the terminal misbehaves."""

from __future__ import annotations

import os
import signal
from collections.abc import Callable, Iterator
from pathlib import Path

import pytest

from auditra.core.journal.fold import fold_audit
from auditra.store.library import Library
from tests.support.terminal import Terminal

pytestmark = pytest.mark.terminal
Open = Callable[..., Terminal]


@pytest.fixture
def open_terminal(tmp_path: Path) -> Iterator[Open]:
    opened: list[Terminal] = []

    def open_(columns: int = 160, rows: int = 50, *words: str, deaf_to_hang_up: bool = False) -> Terminal:
        opened.append(
            Terminal(tmp_path, columns, rows, *(words or ("demo", "--pace", "200")), deaf_to_hang_up=deaf_to_hang_up)
        )
        return opened[-1]

    yield open_
    for each in opened:
        each.close()


def test_from_the_shelf_to_a_verdict_and_out(open_terminal: Open) -> None:
    terminal = open_terminal()
    terminal.wait_for("0 of 8 claims decided")
    terminal.press("Enter")
    terminal.wait_for("trial 1 of 24")
    terminal.press_until("j", "plug the fast SSD into laptop C1 with")
    terminal.press("a")
    screen = terminal.wait_for("All 24 trials are done", within_s=240)
    assert "8 decided" in screen
    terminal.press("7")
    screen = terminal.wait_for("where every point went")
    assert "= holds" in screen
    assert "unstated: consumes 11" in screen
    terminal.press("b")
    terminal.wait_for("8 of 8 claims decided, all trials done")
    terminal.press("q")
    terminal.wait_for_end()


def test_leaving_in_mid_trial_ends_at_once_and_keeps_what_was_taken(open_terminal: Open, tmp_path: Path) -> None:
    terminal = open_terminal(160, 50, "demo", "--pace", "3")
    terminal.wait_for("Osierpell OP-6")
    terminal.press("Enter")
    terminal.wait_for("trial 1 of 24")
    terminal.press_until("j", "plug the fast SSD into laptop C1 with")
    terminal.press("Enter")
    terminal.wait_for("negotiated link 10 Gb/s")
    terminal.press("q")
    terminal.wait_for_end()
    library = Library(tmp_path / "library")
    audit = fold_audit("OP-6", library.journal("OP-6").entries())
    assert len(audit.trials[0].readings) >= 2


def test_a_step_by_hand_did_not_appear_and_undo(open_terminal: Open) -> None:
    terminal = open_terminal(100, 30)
    terminal.wait_for("Osierpell OP-6")
    terminal.press("Enter")
    terminal.wait_for("trial 1 of 24")
    terminal.press("x")
    terminal.wait_for("(observed).")
    terminal.press("u")
    terminal.wait_for("Undone: trial T1")
    terminal.press("Enter")
    terminal.wait_for("trial 2 of 24")
    terminal.press(*["Left"] * 6, "Right")
    terminal.wait_for("SOCKET A2")


def test_80x24_shows_one_panel_at_a_time_and_writes_the_chosen_socket_out(open_terminal: Open) -> None:
    terminal = open_terminal(80, 24)
    terminal.wait_for("Osierpell OP-6")
    terminal.press("Enter")
    screen = terminal.wait_for("start the trial")
    terminal.press_until("j", "plug the fast SSD into A1")
    screen = terminal.wait_for("A1  . open: data 5 Gb/s, not tried")
    assert "Enter: connected as shown, start the trial" in screen
    terminal.press("Tab")
    terminal.wait_for("claim 425.0 MB/s")
    terminal.press("Tab")
    terminal.wait_for("24 of 24 left")


def test_40x10_says_that_there_is_no_room_and_grows_with_the_window(open_terminal: Open) -> None:
    terminal = open_terminal(40, 10)
    terminal.wait_for("40x10 is too small")
    terminal.tmux("resize-window", "-x", "100", "-y", "30")
    terminal.wait_for("Osierpell OP-6")
    terminal.press("q")
    terminal.wait_for_end()


@pytest.mark.parametrize("deaf", [False, True])
def test_when_the_terminal_goes_away_the_process_ends(open_terminal: Open, deaf: bool) -> None:
    terminal = open_terminal(deaf_to_hang_up=deaf)
    terminal.wait_for("Osierpell OP-6")
    terminal.close()
    terminal.wait_for_end()


def test_a_kill_in_mid_trial_loses_nothing_that_was_shown_and_the_run_goes_on(
    open_terminal: Open, tmp_path: Path
) -> None:
    terminal = open_terminal()
    terminal.wait_for("Osierpell OP-6")
    terminal.press("Enter")
    terminal.wait_for("trial 1 of 24")
    terminal.press("a")
    shown = terminal.wait_for("T2 complete")
    os.kill(terminal.process, signal.SIGKILL)
    terminal.close()
    library = Library(tmp_path / "library")
    audit = fold_audit("OP-6", library.journal("OP-6").entries())
    library.close()
    done = len([record for record in audit.trials if record.outcome is not None])
    assert done >= max(
        2, shown.count(" complete")
    )  # the second was shown; the line of the first may have scrolled away
    again = open_terminal()
    again.wait_for("22 trials to do" if len(audit.trials) == 2 else "trials to do")
    again.press("Enter")
    again.wait_for("start the trial")


def test_a_library_of_a_newer_version_is_told_on_the_command_line(open_terminal: Open, tmp_path: Path) -> None:
    library = Library(tmp_path / "library")
    with library._dialect.engine.connect() as db:
        db.exec_driver_sql("PRAGMA user_version = 99")
    library.close()
    terminal = open_terminal()
    screen = terminal.wait_for("version 99")
    assert "Traceback" not in screen


def test_a_claim_is_typed_with_completion_tried_and_taken_back(open_terminal: Open) -> None:
    terminal = open_terminal()
    terminal.wait_for("0 of 8 claims decided")
    terminal.press("Enter")
    terminal.wait_for("trial 1 of 24")
    terminal.press(*["Left"] * 6, "1")
    terminal.wait_for("PORT CAPABILITIES")
    terminal.press("n")
    terminal.wait_for("accept the suggestion")
    terminal.press("gi", "Tab", "4.5 W wh", "Tab", "A2 gives 4.5 W")
    terminal.wait_for("typing")
    terminal.press("Enter")
    terminal.wait_for("Recorded: A1 gives 4.5 W while A2 gives 4.5 W")
    terminal.wait_for("9 claims")
    terminal.press("u")
    terminal.wait_for("8 claims")
    terminal.press("n", "C-u", "A2 gives 4.5 W", "Enter", "n", "C-u", "P1 takes 60 W", "Enter")
    terminal.wait_for("Recorded: P1 takes 60 W")
    terminal.wait_for("10 claims")


def test_a_doubt_is_noted_answered_and_taken_back(open_terminal: Open) -> None:
    terminal = open_terminal()
    terminal.wait_for("0 of 8 claims decided")
    terminal.press("Enter")
    terminal.wait_for("trial 1 of 24")
    terminal.press(*["Left"] * 6, "6")
    terminal.wait_for("No findings yet")
    terminal.press("d")
    terminal.wait_for("A doubt about A1")
    for words in ("too slow a lead?", "rig part", "lead AC-1"):
        terminal.tmux("send-keys", "-l", words)
        terminal.press("Enter")
    terminal.wait_for("DOUBTS")
    terminal.press("k", "k", "k")
    screen = terminal.wait_for("suspected: rig part, lead AC-1")
    assert "still open" in screen
    terminal.press("u")
    terminal.wait_for('Undone: doubt "too slow a lead?"')
