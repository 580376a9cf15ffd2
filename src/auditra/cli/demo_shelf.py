"""The demo shelf with finished, half-finished and new audits, and practice devices made from a seed."""

from __future__ import annotations

from auditra.cli.composition import LibraryHandle, make_services
from auditra.cli.judging import say
from auditra.core.errors import StoreError
from auditra.store.demos import DEMOS, Demo
from auditra.workflows.audits.run_left import run_left


def prepare_demos(handle: LibraryHandle) -> None:
    """Run the trials that are finished when the demo shelf first opens. Raises: BenchError, StoreError."""
    handle.put_demos_on_shelf()
    for demo in DEMOS:
        if demo.done:
            _run_part(handle, demo)
    handle.shelf.rows()


def _run_part(handle: LibraryHandle, demo: Demo) -> None:
    """Run the demo's share of trials, unless its audit has trials already."""
    from auditra.cli.run import Silent

    services = make_services(handle, pace=None)
    session = services.open_session(demo.name)
    if session.judged.audit.trials:
        return
    wanted = round(demo.done * len(session.judged.judgement.to_do)) if demo.done < 1 else None
    with services.hold(demo.name), services.open_bench(session.judged.audit, None) as bench:
        for _ in run_left(session, bench, Silent()):
            if wanted is not None and len(session.judged.audit.trials) >= wanted:
                return


def shelve_practice(handle: LibraryHandle, seed: int) -> str:
    """The name of the audit of a practice device, which is added to the shelf if missing. Raises: StoreError."""
    from auditra.bench.clock import SystemClock
    from auditra.bench.simulated.practice import facts_of_practice, name_of_practice

    name = name_of_practice(seed)
    if name not in handle.library.names():
        try:
            handle.library.create(name, facts_of_practice(seed), SystemClock().moment())
        except StoreError:
            if name not in handle.library.names():
                raise
    return name


def print_practice(handle: LibraryHandle, seed: int) -> None:
    """Print the hidden faults of a practice device, then the verdicts of its audit."""
    from auditra.bench.simulated.practice import describe_faults, name_of_practice
    from auditra.cli.judging import print_judgement

    say(f"Practice {seed}, hidden faults:")
    for line in describe_faults(seed):
        say(f"  {line}")
    name = name_of_practice(seed)
    if name in handle.library.names():
        say("")
        say("Verdicts of its audit:")
        print_judgement(handle.session(name).judged.judgement)
