"""The audits that ship with the product: made-up devices on a made-up rig."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import UTC, datetime
from typing import TYPE_CHECKING

if TYPE_CHECKING:  # their names are wanted before the first paint, their contents are not
    from auditra.core.journal.facts import Fact


@dataclass(frozen=True)
class Demo:
    """An audit by its name on the shelf, with the files it is made from.

    Demo time is made up like all else in a demo, so that a run repeats to the second.
    """

    name: str
    sheet: str
    rig: str = "galley.toml"
    guests: str = ""
    """More parts for the rig, in a file of their own."""
    made_at: datetime = datetime(2026, 3, 2, 9, 0, tzinfo=UTC)
    done: float = 0.0
    """How much of it is done once the shelf was prepared: 0 fresh, 1 finished."""

    def facts(self) -> tuple[Fact, ...]:
        """What the audit begins with."""
        from functools import reduce

        from auditra.core.journal.facts import BenchNoted
        from auditra.core.model.bench_kind import SIMULATED_BENCH
        from auditra.core.model.rig import Rig
        from auditra.documents.claim_sheet import facts_of, read_claim_sheet
        from auditra.documents.rig_file import read_rig
        from auditra.store.files import read_shipped

        sheet = read_claim_sheet(read_shipped(f"demo/{self.sheet}"), self.sheet)
        parts = (read_rig(read_shipped(f"demo/{name}"), name) for name in (self.rig, self.guests) if name)
        return BenchNoted(SIMULATED_BENCH), *facts_of(sheet, reduce(Rig.with_parts_of, parts))


_GUESTS = "galley-guests.toml"
DEMOS = (
    Demo("OP-6", "osierpell-op-6.toml", done=1.0),
    Demo("BW-11", "brackwater-bw-11.toml", done=0.5),
    Demo("W5", "withymoor-w5.toml", guests=_GUESTS),
    Demo("T5", "towlyne-t5.toml", done=1.0),
    Demo("C240", "sluisgate-c240.toml", guests=_GUESTS),
    Demo("H6", "heronshaw-h6.toml", done=1.0),
    Demo("M9", "mallorby-m9.toml", guests=_GUESTS),
    Demo("DK2", "lockmere-dk2.toml"),
)
