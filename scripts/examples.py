"""The reports of the demo devices and their line-up into docs/examples/, made as a reviewer would make them.

The simulated bench keeps a clock of its own, so that the same code makes the same files. The pocket hub gets the log of
a power conversation, which ships with the demo.
"""

from __future__ import annotations

import argparse
import shutil
import tempfile
from pathlib import Path

from auditra.cli.composition import LibraryHandle, make_services
from auditra.cli.run import run_sheet

HOME = Path(__file__).resolve().parent.parent
POWER_LOG = HOME / "src" / "auditra" / "data" / "demo" / "osierpell-op-6-p1.power.log"
POWER_TRIAL = "T2"
DEVICES = ("OP-6", "BW-11", "H6")


def main() -> None:
    parser = argparse.ArgumentParser(description=__doc__)
    parser.add_argument("--out", type=Path, default=HOME / "docs" / "examples")
    out = parser.parse_args().out
    shutil.rmtree(out, ignore_errors=True)
    with tempfile.TemporaryDirectory(prefix="auditra-examples-") as folder:
        handle = LibraryHandle(Path(folder) / "library")
        handle.put_demos_on_shelf()
        services = make_services(handle, pace=None)
        handle.shelve_if_demo("H6")
        for name in DEVICES:
            run_sheet(name, services)
        clock = services.clock
        handle.session("OP-6").attach(POWER_TRIAL, POWER_LOG.name, POWER_LOG.read_bytes(), clock)
        handle.shelf.rows()
        for name in ("OP-6", "BW-11"):
            for path in handle.publish(handle.session(name), out, ""):
                print(path)
        for path in handle.write_line_up(DEVICES, out):
            print(path)


if __name__ == "__main__":
    main()
