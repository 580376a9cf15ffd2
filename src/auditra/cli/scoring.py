"""``auditra score`` and ``auditra profiles``: the ledger under any profile, what it moved, and profiles to edit."""

from __future__ import annotations

from auditra.bench.clock import SystemClock
from auditra.cli.composition import LibraryHandle
from auditra.cli.judging import say
from auditra.core.advice.coverage import coverage_of
from auditra.core.advice.profile_change import profile_change
from auditra.core.journal.facts import ProfileChosen
from auditra.core.judge.judged_audit import JudgedAudit
from auditra.core.judge.score import Score
from auditra.core.model.profile import Profile


def score_under(handle: LibraryHandle, name: str, profile_name: str | None, *, keep: bool) -> None:
    """Print the ledger under a profile, and what that one moved. Raises: InputError where there is no such profile."""
    session = handle.session(name)
    profile = handle.profiles.named(profile_name) if profile_name else session.judged.judgement.profile
    if keep:
        session.write(lambda _: (ProfileChosen(profile),), "choose the profile", SystemClock())
    judged = session.judged
    for device, score in judged.judgement.scored_with(profile).items():
        _print_ledger(score, f"{name}, profile {profile.name}" if len(judged.judgement.scores) == 1 else device)
        _print_change(judged, handle.profile, profile, device)
    found = coverage_of(judged.audit, judged.judgement, judged.audit.device, profile)
    say(f"tried: {found.claims.words} claims, {found.ports.words} ports, {found.hosts.words} hosts; {found.advice}")


def _print_ledger(score: Score, title: str) -> None:
    say(title)
    for line in score.ledger:
        mark = line.verdict.mark if line.verdict else "!"
        earned = f"{line.lowest} to {line.highest}" if line.earned is None else f"{line.earned}"
        say(f"{mark:2}  {line.text}: {earned}" + (f" of {line.weight}" if line.weight else ""))
    value = "none yet" if score.value is None else f"{score.value}"
    say(f"score {value} ({score.lowest} to {score.highest}), {score.earned} of {score.weight_decided} earned")


def _print_change(judged: JudgedAudit, usual: Profile, profile: Profile, device: str) -> None:
    change = profile_change(judged.judgement, usual, profile, device)
    if profile == usual or change.score_before is None:
        return
    say(f"with {change.before} it is {change.score_before}; what moved it:")
    for each in change.moved:
        say(f"  {each.by:+}  {each.text}")


def list_profiles(handle: LibraryHandle) -> None:
    """Every profile with whom it is for; files that cannot be read with the reason."""
    for profile in handle.profiles.every():
        say(f"{profile.name:12} {profile.about}")
    for trouble in handle.profiles.troubles():
        say(f"! {trouble}")


def copy_profile(handle: LibraryHandle, name: str, own_name: str) -> None:
    """A copy to edit. Raises: InputError, StoreError."""
    say(str(handle.profiles.write_copy(name, own_name)))
