"""A folder on a real drive as a data target: it writes, reads back, and leaves nothing behind."""

from __future__ import annotations

import mmap
import os
import shutil
from pathlib import Path

import pytest

from auditra.bench.storage import FileTarget, close_all
from auditra.bench.trial_folder import DATA, MARKER, PREFIX, Leftover, TrialFolder, leftovers, remove_leftover
from auditra.core.errors import TargetError

BLOCK = 1 << 20


def aligned(fill: bytes) -> memoryview:
    memory = mmap.mmap(-1, BLOCK)
    memory[:] = fill * BLOCK
    return memoryview(memory)


def test_what_is_written_is_read_back_and_the_folder_is_left_as_it_was(tmp_path: Path) -> None:
    (tmp_path / "holiday.jpg").write_text("keep me")
    target = FileTarget(tmp_path, 2 * BLOCK)
    target.write(0, aligned(b"a"))
    target.write(BLOCK, aligned(b"b"))
    target.flush()
    back = aligned(b"-")
    target.read_into(BLOCK, back)
    assert back == aligned(b"b")
    target.close()
    assert [path.name for path in tmp_path.iterdir()] == ["holiday.jpg"]


def test_reading_what_was_never_written_is_an_error_in_words(tmp_path: Path) -> None:
    target = FileTarget(tmp_path, BLOCK)
    with pytest.raises(TargetError, match="shorter"):
        target.read_into(0, aligned(b"-"))
    target.close()


def test_a_drive_without_room_is_refused_before_anything_is_written(tmp_path: Path) -> None:
    with pytest.raises(TargetError, match="no room"):
        FileTarget(tmp_path, 1 << 60)
    assert list(tmp_path.iterdir()) == []


def test_a_folder_that_is_not_there_is_told(tmp_path: Path) -> None:
    with pytest.raises(TargetError, match="No such file"):
        FileTarget(tmp_path / "unplugged", BLOCK)


def test_a_file_system_without_direct_io_is_used_all_the_same(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    really_open = os.open

    def no_direct(path: Path, flags: int, mode: int = 0o777, *, dir_fd: int | None = None) -> int:
        if flags & os.O_DIRECT:
            raise OSError(22, "Invalid argument")
        return really_open(path, flags, mode, dir_fd=dir_fd)

    monkeypatch.setattr(os, "open", no_direct)
    target = FileTarget(tmp_path, BLOCK)
    assert not target.direct
    target.write(0, aligned(b"c"))
    target.flush()
    target.close()
    assert list(tmp_path.iterdir()) == []


def test_a_drive_that_vanishes_in_mid_run_is_told_and_closing_it_is_harmless(
    tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    target = FileTarget(tmp_path, BLOCK)

    def gone(*_: object) -> int:
        raise OSError(5, "Input/output error")

    monkeypatch.setattr(os, "pwrite", gone)
    with pytest.raises(TargetError, match="the drive is gone"):
        target.write(0, aligned(b"d"))
    target.close()


def leave_behind(place: Path) -> Path:
    """What a trial leaves that was killed: its folder, marker and data."""
    folder = TrialFolder(place)
    file, _ = folder.open_data()
    os.ftruncate(file, BLOCK)
    os.close(file)
    os.close(folder.handle)
    return folder.path


def test_what_a_killed_trial_left_is_known_and_removed_by_name_and_what_a_running_one_holds_is_not(
    tmp_path: Path,
) -> None:
    left = leave_behind(tmp_path)
    running = FileTarget(tmp_path, BLOCK)
    (found,) = leftovers(tmp_path)
    assert (found.path, found.size_bytes) == (left, BLOCK)
    assert left.exists()
    assert remove_leftover(found)
    assert not left.exists()
    assert len(list(tmp_path.iterdir())) == 1
    running.close()
    assert list(tmp_path.iterdir()) == []


def test_a_reviewers_own_folders_are_never_taken_for_ours(tmp_path: Path) -> None:
    """By its name alone nothing is ours: not his folder, not a marker of another name, not one with more in it."""
    own = tmp_path / f"{PREFIX}holiday"
    own.mkdir()
    (own / DATA).write_text("his film")
    copied = tmp_path / f"{PREFIX}copied"
    shutil.copytree(leave_behind(tmp_path), copied)
    richer = leave_behind(tmp_path)
    (richer / "notes.txt").write_text("his notes")
    assert [each.path for each in leftovers(tmp_path)] != []
    ours = {each.path for each in leftovers(tmp_path)}
    assert ours.isdisjoint({own, copied, richer})
    for each in (own, copied, richer):
        assert not remove_leftover(Leftover(each, 0))
    FileTarget(tmp_path, BLOCK).close()
    assert (own / DATA).read_text() == "his film"
    assert (copied / DATA).exists()
    assert (richer / "notes.txt").exists()


def test_no_link_is_followed_out_of_the_drive(tmp_path: Path) -> None:
    outside, drive = tmp_path / "outside", tmp_path / "drive"
    outside.mkdir()
    drive.mkdir()
    (outside / DATA).write_text("his film")
    (drive / f"{PREFIX}link").symlink_to(outside)
    dangerous = leave_behind(drive)
    (dangerous / DATA).unlink()
    (dangerous / DATA).symlink_to(outside / DATA)
    marked = leave_behind(outside)
    (drive / marked.name).symlink_to(marked)
    for left in leftovers(drive):
        remove_leftover(left)
    FileTarget(drive, BLOCK).close()
    assert (outside / DATA).read_text() == "his film"
    assert (marked / MARKER).exists()


def test_a_folder_that_moved_to_another_drive_since_it_was_traced_is_refused(tmp_path: Path) -> None:
    with pytest.raises(TargetError, match="another drive"):
        FileTarget(tmp_path, BLOCK, device="4095:1")
    assert list(tmp_path.iterdir()) == []


def test_a_disk_that_fills_up_in_mid_run_is_told(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    target = FileTarget(tmp_path, BLOCK)

    def full(*_: object) -> int:
        raise OSError(28, "No space left on device")

    monkeypatch.setattr(os, "pwrite", full)
    with pytest.raises(TargetError, match="No space left"):
        target.write(0, aligned(b"e"))
    target.close()
    assert list(tmp_path.iterdir()) == []


@pytest.mark.parametrize("at", ["mkdir", "open", "fsync"])
def test_a_signal_while_the_folder_is_made_leaves_nothing(
    tmp_path: Path, monkeypatch: pytest.MonkeyPatch, at: str
) -> None:
    """A signal becomes SystemExit, just after a call of the system has done its work."""
    real = getattr(os, at)

    def interrupted(*words: object, **options: object) -> None:
        real(*words, **options)
        monkeypatch.undo()
        raise SystemExit(143)

    monkeypatch.setattr(os, at, interrupted)
    with pytest.raises(SystemExit):
        FileTarget(tmp_path, 1 << 20)
    close_all()
    assert list(tmp_path.iterdir()) == []
