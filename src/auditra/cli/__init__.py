"""Arguments in, exit code out: the one place that joins everything; heavy parts are imported when needed."""

from __future__ import annotations

import gc
import os
import sys

FAULT, INTERRUPTED, UNEXPECTED = 1, 130, 70


def main() -> None:
    """The ``auditra`` command. No traceback reaches a user: what was not foreseen goes to the log file."""
    os.environ.setdefault(
        "TEXTUAL_FPS", "240"
    )  # Textual reads it on import; at 60 a key waits up to 16 ms for its paint
    from auditra.bench.leaving import leave_bench
    from auditra.cli.signals import end_in_order
    from auditra.core.errors import AuditraError

    end_in_order()
    try:
        _serve(sys.argv[1:])
    except AuditraError as error:
        _say(str(error))
        sys.exit(FAULT)
    except KeyboardInterrupt:
        _say("Stopped. Readings so far are kept.")
        sys.exit(INTERRUPTED)
    except BrokenPipeError:
        os.dup2(os.open(os.devnull, os.O_WRONLY), sys.stdout.fileno())
        sys.exit(FAULT)
    except Exception as error:
        from auditra.cli.log import log_fault, log_file

        log_fault("unexpected fault", error)
        _say(f"Unexpected fault: {type(error).__name__}. Nothing recorded is lost; the details are in {log_file()}.")
        sys.exit(UNEXPECTED)
    finally:
        leave_bench()


def _serve(words: list[str]) -> None:
    """Calls that just open the screen do without the command parser, which loads longer than the shelf paints."""
    if words in ([], ["demo"]):
        gc.disable()  # until the first picture: all that is loaded stays, and looking through it takes 15 ms
        from auditra.cli.screen import open_demo, open_screen
        from auditra.cli.which_library import LIBRARY_VARIABLE, WRITER_VARIABLE, handle_of

        handle = handle_of(os.environ.get(LIBRARY_VARIABLE, ""), os.environ.get(WRITER_VARIABLE, ""))
        open_demo(handle) if words else open_screen(handle)
        return
    from auditra.cli.commands import app

    app()


def _say(text: str) -> None:
    from auditra.core.sanitize import sanitize

    sys.stderr.write(f"auditra: {sanitize(text, 2000)}\n")
