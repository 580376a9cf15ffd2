"""What ARCHITECTURE.md calls one file is one file: it is put beside the others, and all the rest follows."""

from __future__ import annotations

import subprocess
import sys
from pathlib import Path

PROCEDURE = """
from auditra.core.model.reading import Quantity
from auditra.core.procedures.procedure import Procedure, Wanted, connected
from auditra.core.quantities.units import Dimension
from auditra.core.wiring.setups import Stand

WAKE = Procedure(
    id="wake and time",
    name="wake",
    title="time until it wakes",
    on_device=connected,
    direct=Stand.on_host,
    typed=(Wanted(Quantity.TIME_TO_APPEAR, (Dimension.TIME,), "2.1 s"),),
)
"""
KIND = """
from dataclasses import dataclass
from auditra.core.claims.promise import Promise
from auditra.core.claims.terms import Amount, said
from auditra.core.decide.rules import at_most
from auditra.core.model.reading import Grade, Quantity
from auditra.core.model.rig import Drive
from auditra.core.quantities.display import format_for
from auditra.core.quantities.units import Dimension

@dataclass(frozen=True)
class Wakes(Promise):
    seconds: float = said(Amount(Dimension.TIME, example="3 s"), hedged=True)

    words = "wakes drives within"
    example = "wakes drives within 3 s"
    procedure = "wake and time"
    brief = "wakes"

    @property
    def format(self):
        return format_for(Dimension.TIME, self.seconds)

    def margin(self, gear):
        return 1.0 if isinstance(gear, Drive) else None

    def decide(self, evidence):
        return (at_most("time", evidence, Quantity.TIME_TO_APPEAR, self.seconds, self.format, Grade.TYPED),)
"""
PROGRAM = """
import sys
from dataclasses import replace
from auditra.core import procedures
from auditra.core.claims import kinds
procedures.__path__.append(sys.argv[1])
kinds.__path__.append(sys.argv[2])
from auditra.bench.simulated.bench import open_simulated_bench
from tests.support.benches import HONEST, Onlooker, session_with

class Typist:
    def make(self, moves, watch): ...
    def wait(self, words, about_s): ...
    def ask(self, question, hint):
        print("asked:", question, hint)
        return "yes" if "appear" in question and "time" not in question else "2.1 s"

session = session_with("A1 wakes drives within 3 s")
with open_simulated_bench(session.judged.audit, model=HONEST, over_sockets=False) as bench:
    for planned in session.judged.judgement.sheet.trials:
        print("planned:", planned.title)
        session.run(planned, replace(bench, person=Typist()), Onlooker())
print("verdict:", session.judged.judgement.claims[0].verdict.word)
"""


def test_a_procedure_is_one_file_and_a_kind_of_claim_another(tmp_path: Path) -> None:
    for name, text in (("procedures/wake.py", PROCEDURE), ("kinds/wakes.py", KIND)):
        (tmp_path / name).parent.mkdir()
        (tmp_path / name).write_text(text)
    command = [sys.executable, "-c", PROGRAM, str(tmp_path / "procedures"), str(tmp_path / "kinds")]
    ran = subprocess.run(command, capture_output=True, text=True, check=False)
    assert "planned: A1 time until it wakes" in ran.stdout, ran.stderr
    assert "planned: fast SSD, direct" in ran.stdout
    assert "asked: time to appear at A1" in ran.stdout
    assert "verdict: holds" in ran.stdout


FACTOR = """
from dataclasses import replace
from auditra.core.plan.factor import Factor, Level

def _matters(tried, planning):
    return tried.port.connector == "usb-c"

def _levels(tried, planning):
    yield Level("held askew", "does it still work?", _askew)

def _askew(trial):
    return replace(trial, setup=replace(trial.setup, arranged=(*trial.setup.arranged, "held askew")))

ASKEW = Factor("held askew", 4, _levels, _matters)
"""
PLANS = """
import sys
from auditra.core.plan import factors
factors.__path__.append(sys.argv[1])
from auditra.core.plan.planner import run_sheet_of
from tests.support.audits import audit_of
for trial in run_sheet_of(audit_of("A1 data 5 Gb/s", "P1 takes 90 W")).trials:
    print(trial.title, trial.setup.arranged)
"""


def test_a_factor_is_one_file(tmp_path: Path) -> None:
    (tmp_path / "askew.py").write_text(FACTOR)
    command = [sys.executable, "-c", PLANS, str(tmp_path)]
    ran = subprocess.run(command, capture_output=True, text=True, check=False)
    assert "P1 power in, held askew ('held askew',)" in ran.stdout, ran.stderr
    assert "A1 write and read back, held askew" not in ran.stdout


CAUSE = """
from dataclasses import dataclass
from auditra.core.judge.finding import Cause, Finding, Role

@dataclass(frozen=True, kw_only=True)
class Crooked(Finding):
    kind = "crooked socket"
    role = Role.CAUSE

    @property
    def sentence(self):
        return f"{self.ports[0]} looks crooked"

def _find(inquiry):
    for verdict in inquiry.verdicts:
        if verdict.failing:
            yield Crooked(ports=verdict.claim.ports)

CROOKED = Cause("crooked socket", "eyesight", "a look", _find)
"""
JUDGES = """
import sys
from auditra.core.judge import causes
causes.__path__.append(sys.argv[1])
from tests.support.audits import audit_of, judged, rates, with_trial
audit = with_trial(audit_of("A1 data 5 Gb/s"), "direct/storage", *rates("direct", 1000, link_bps=10e9))
print([reason.sentence for reason in judged(with_trial(audit, "A1/", *rates("A1", 40))).reasons])
"""


def test_a_cause_is_one_file(tmp_path: Path) -> None:
    (tmp_path / "crooked.py").write_text(CAUSE)
    ran = subprocess.run([sys.executable, "-c", JUDGES, str(tmp_path)], capture_output=True, text=True, check=False)
    assert "A1 looks crooked" in ran.stdout, ran.stderr


STAGE = """
from textual.binding import Binding
from auditra.tui.stages.stage import Panel, Stage
from auditra.tui.widgets.shown_text import ShownText

class SoundStage(Stage):
    NAME = "Sound"
    PANELS = ("sound",)
    BINDINGS = [Binding("l", "listen", "listen")]
    heard = ""

    def compose(self):
        with Panel(id="sound"):
            yield ShownText(id="sound-text")

    def paint(self, state):
        self.set_text("sound-text", f"{state.judged.audit.device.name} at {state.port}: {self.heard}")

    def action_listen(self):
        self.heard = "a hum"
        self.paint(self.state)
"""
AUDITS = """
import asyncio, sys
from pathlib import Path
from auditra.tui import stages
stages.__path__.append(sys.argv[1])
from auditra.tui.stages import registry
from auditra.tui.stages.sound.stage import SoundStage
registry.STAGES += (SoundStage,)  # the one line
from auditra.tui.key_hints import key_hints
from tests.support.workshops import demo_app
from tests.tui.test_application import open_audit, text_of

async def look():
    async with demo_app(Path(sys.argv[2])).run_test(size=(160, 50)) as pilot:
        screen = await open_audit(pilot)
        await pilot.press("9")
        await pilot.pause()
        print([hint.words for hint in key_hints(screen)][0], screen.query_one("Track").render())
        screen.state.choose_port("A1")
        await pilot.press("l")
        await pilot.pause()
        print(text_of(screen, "#sound-text"))

asyncio.run(look())
"""


def test_a_stage_is_one_folder_and_one_line(tmp_path: Path) -> None:
    (tmp_path / "stages" / "sound").mkdir(parents=True)
    (tmp_path / "stages" / "sound" / "stage.py").write_text(STAGE)
    command = [sys.executable, "-c", AUDITS, str(tmp_path / "stages"), str(tmp_path)]
    ran = subprocess.run(command, capture_output=True, text=True, check=False)
    assert "9 Sound" in ran.stdout, ran.stderr
    assert ran.stdout.startswith("listen"), ran.stdout
    assert "at A1: a hum" in ran.stdout
