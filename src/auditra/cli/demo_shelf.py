"""The shelf of the demo: some audits finished, some half done, some fresh; and practice devices from a seed."""

from __future__ import annotations

from auditra.cli.composition import LibraryHandle, make_services
from auditra.cli.judging import say
from auditra.core.errors import BenchError, StoreError
from auditra.core.model.trial import TrialIdentity
from auditra.store.demos import DEMOS, Demo


def prepare_demos(handle: LibraryHandle) -> None:
    """Run on the simulated bench what is to be done already when the shelf is first opened. Raises: StoreError."""
    handle.put_demos_on_shelf()
    for demo in DEMOS:
        if demo.done:
            _run_part(handle, demo)
    handle.rows()


def _run_part(handle: LibraryHandle, demo: Demo) -> None:
    """The first trials of an audit that nobody has begun."""
    from auditra.cli.run import Silent

    services = make_services(handle, pace=None)
    session = services.open_session(demo.name)
    if session.judged.audit.trials:
        return
    wanted = round(demo.done * len(session.judged.judgement.to_do)) if demo.done < 1 else None
    with services.hold(demo.name), services.open_bench(session.judged.audit, None) as bench:
        spoiled: list[TrialIdentity] = []
        while wanted is None or len(session.judged.audit.trials) < wanted:
            planned = next((each for each in session.judged.judgement.to_do if each.identity not in spoiled), None)
            if planned is None:
                return
            try:
                session.run(planned, bench, Silent())
            except BenchError:
                spoiled.append(planned.identity)


def shelve_practice(handle: LibraryHandle, seed: int) -> str:
    """Put the practice device of a seed on the shelf, where it is not; the name of its audit. Raises: StoreError."""
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


def tell_practice(handle: LibraryHandle, seed: int) -> None:
    """What was wrong with a practice device, beside what the audit of it says so far."""
    from auditra.bench.simulated.practice import name_of_practice, told
    from auditra.cli.judging import print_judgement

    say(f"Practice {seed}, as it was made:")
    for line in told(seed):
        say(f"  {line}")
    name = name_of_practice(seed)
    if name in handle.library.names():
        say("")
        say("What its audit says:")
        print_judgement(handle.session(name).judged.judgement)
