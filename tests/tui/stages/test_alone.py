"""A stage stands on its own: shown without the other seven, it takes its keys and asks for what it wants."""

from __future__ import annotations

from collections.abc import Callable
from functools import partial
from pathlib import Path

import pytest
from textual.app import App, ComposeResult
from textual.message import Message

from auditra.core.errors import InputError
from auditra.core.journal.audit import Audit
from auditra.core.journal.facts import DoubtEnd, DoubtEnded, Fact
from auditra.core.model.reading import Grade, Number, Quantity, Reading, Trace
from auditra.tui.audit_state import AuditState
from auditra.tui.key_hints import key_hints
from auditra.tui.messages import ChangeWanted, FormWanted, PortChosen, PromptWanted, TrialChosen
from auditra.tui.stages.claims.stage import ClaimsStage
from auditra.tui.stages.paper.stage import PaperStage
from auditra.tui.stages.stage import Stage
from auditra.tui.stages.traces.stage import TracesStage
from auditra.tui.stages.why.stage import WhyStage
from auditra.tui.widgets.shown_text import ShownText
from tests.support import power
from tests.support.audits import facts_of_trial, rates
from tests.support.workshops import demo_services


class OneStage(App[None]):
    """An application with one stage; keeps the messages that the stage posts to its screen."""

    def __init__(self, stage: Stage, folder: Path, audit: str = "OP-6") -> None:
        super().__init__()
        services = demo_services(folder)
        self.stage, self.wanted = stage, list[Message]()
        self.state = AuditState(services, services.open_session(audit), self)

    def get_theme_variable_defaults(self) -> dict[str, str]:
        return {"rule": "#3a4248", "quiet": "#8a8f88"}

    def compose(self) -> ComposeResult:
        yield self.stage

    def on_mount(self) -> None:
        self.state.runner.prepare_next()
        self.state.choose_port("A1")
        self.call_after_refresh(self.repaint)

    def repaint(self) -> None:
        self.stage.show(self.state)
        self.screen.set_focus(self.stage.focus_target)

    def repaint_progress(self) -> None: ...

    def run_in_background(self, work: Callable[[], None]) -> None: ...

    def later(self, seconds: float, work: Callable[[], None]) -> None: ...

    def explain_in_background(self, work: Callable[[], None]) -> None: ...

    def text(self, widget: str) -> str:
        return str(self.query_one(widget, ShownText).render())

    def on_form_wanted(self, message: FormWanted) -> None:
        self.wanted.append(message)

    def on_prompt_wanted(self, message: PromptWanted) -> None:
        self.wanted.append(message)

    def on_trial_chosen(self, message: TrialChosen) -> None:
        self.wanted.append(message)

    def on_change_wanted(self, message: ChangeWanted) -> None:
        self.wanted.append(message)

    def on_port_chosen(self, message: PortChosen) -> None:
        self.wanted.append(message)
        self.state.choose_port(message.port)
        self.stage.show_port(self.state)


async def test_claims_alone_asks_for_a_sentence_and_for_facts(tmp_path: Path) -> None:
    app = OneStage(ClaimsStage(), tmp_path)
    async with app.run_test(size=(120, 40)) as pilot:
        await pilot.pause()
        assert "A1 data 5 Gb/s" in app.text("#said-text")
        await pilot.press("n", "d")
        await pilot.pause()
        prompt, change = app.wanted
        assert isinstance(prompt, PromptWanted)
        assert prompt.text == "A1 "
        assert [str(claim) for claim in prompt.prompt.preview_of("A1 data 10 Gb/s").claims] == ["A1 data 10 Gb/s"]
        assert isinstance(change, ChangeWanted)
        assert change.action == "drop"
        assert len(change.facts(app.state.judged.audit)) == 1


async def test_a_claim_chosen_by_key_chooses_its_port_and_stays_until_another_port_is(tmp_path: Path) -> None:
    stage = ClaimsStage()
    app = OneStage(stage, tmp_path)
    async with app.run_test(size=(120, 40)) as pilot:
        await pilot.pause()
        for _ in range(2):
            await pilot.press("j")
            await pilot.pause()
        assert stage.chosen_claim is not None
        assert app.state.port != "A1"
        chosen = stage.chosen_claim
        app.state.choose_port("A1")
        assert stage.chosen_claim != chosen


async def test_the_paper_check_alone_asks_for_an_answer_to_the_remark_that_is_chosen(tmp_path: Path) -> None:
    stage = PaperStage()
    app = OneStage(stage, tmp_path, "BW-11")
    async with app.run_test(size=(120, 40)) as pilot:
        await pilot.pause()
        first = stage.chosen_remark
        await pilot.press("j", "n")
        await pilot.pause()
        assert stage.chosen_remark != first
        assert isinstance(app.wanted[-1], PromptWanted)
        assert app.wanted[-1].prompt.label == "answer"
        assert [hint.words for hint in key_hints(app.screen)][:2] == ["remark", "answer"]


def record_trials(app: OneStage) -> None:
    """Direct and good, then slow at A1 and good at A2, with a trace."""
    soak = Reading("T", Quantity.SOAK_RATE, "A1", "engine", Grade.MEASURED, Number((1e9,)),
                   trace=Trace((0.0, 60.0, 120.0), (3e9, 2e9, 1e9)))  # fmt: skip
    for key, readings in (
        ("direct/storage/fast-ssd", rates("direct", 1000, 1001, 1002)),
        ("A1/storage", (*rates("A1", 200, 201, 202), soak)),
        ("A2/storage", rates("A2", 450, 451, 452)),
    ):
        app.state.session.write(partial(_facts_of, key, readings), "trial", app.state.runner.clock)
    app.state.judged.judgement.explain()
    app.repaint()


def _facts_of(key: str, readings: tuple[Reading, ...], audit: Audit) -> tuple[Fact, ...]:
    return facts_of_trial(audit, key, *readings)


async def test_why_alone_lists_findings_and_takes_a_doubt(tmp_path: Path) -> None:
    stage = WhyStage()
    app = OneStage(stage, tmp_path)
    async with app.run_test(size=(160, 50)) as pilot:
        await pilot.pause()
        assert "Working out causes" in app.text("#findings-text")
        record_trials(app)
        await pilot.pause()
        assert "CAUSES" in app.text("#findings-text")
        assert "CLAIMS OF A1" in app.text("#findings-text")
        for _ in range(3):
            await pilot.press("k")
        await pilot.pause()
        detail = app.text("#detail-text")
        assert "A1 data 5 Gb/s fails because of A1 itself" in detail
        assert "cleared by T1 and T3" in detail
        assert "honest: A1 writes" in detail
        assert "measured" in detail
        await pilot.press("d")
        await pilot.pause()
        asked = app.wanted[-1]
        assert isinstance(asked, FormWanted)
        suspect = next(field for field in asked.form.fields if field.key == "suspect")
        assert suspect.offers("he", {})[1][0] == "heat"
        asked.form.save({"question": "is it the port?", "suspect": "device part", "about": "A1"})
        app.state.judged.judgement.explain()
        app.repaint()
        await pilot.pause()
        assert "DOUBTS" in app.text("#findings-text")
        stage.choose_entry(next(n for n, entry in enumerate(stage.entries) if entry.doubt is not None))
        await pilot.pause()
        assert "confirmed" in app.text("#detail-text")
        await pilot.press("e")
        await pilot.pause()
        closing = app.wanted[-1]
        assert isinstance(closing, PromptWanted)
        (ended,) = closing.prompt.facts(app.state.judged.audit, "refuted the maker sent another")
        assert isinstance(ended, DoubtEnded)
        assert ended.end is DoubtEnd.REFUTED
        with pytest.raises(InputError, match="Begin with one of"):
            closing.prompt.facts(app.state.judged.audit, "perhaps")


async def test_why_alone_sets_out_the_trial_that_splits_what_is_left(tmp_path: Path) -> None:
    stage = WhyStage()
    app = OneStage(stage, tmp_path)
    async with app.run_test(size=(100, 30)) as pilot:
        await pilot.pause()
        slow = partial(_facts_of, "A1/storage", rates("A1", 200, 201, 202))
        app.state.session.write(slow, "trial", app.state.runner.clock)
        app.state.judged.judgement.explain()
        app.repaint()
        await pilot.pause()
        stage.choose_entry(next(n for n, entry in enumerate(stage.entries) if entry.asks))
        await pilot.pause()
        assert "NEXT TRIAL" in app.text("#detail-text")
        await pilot.press("t")
        await pilot.pause()
        wanted = app.wanted[-1]
        assert isinstance(wanted, TrialChosen)
        assert "why A1 data 5 Gb/s fails" in wanted.planned.why
        await pilot.press("tab", "tab", "j")
        await pilot.pause()
        assert "TRIALS OF A1" in app.text("#trials-text")


async def test_traces_alone_moves_a_cursor_and_keeps_one_beside(tmp_path: Path) -> None:
    stage = TracesStage()
    app = OneStage(stage, tmp_path)
    async with app.run_test(size=(160, 50)) as pilot:
        await pilot.pause()
        assert "No trace of this port yet" in app.text("#traces-text")
        record_trials(app)
        await pilot.pause()
        assert "rate while soaking" in app.text("#traces-text")
        await pilot.press("h")
        await pilot.pause()
        assert "at 60.0 s: T2 250.0 MB/s" in app.text("#chart-foot")
        await pilot.press("m", "l", "s")
        await pilot.pause()
        assert [chart.trial for chart in stage.on_chart] == ["T2"]
        await pilot.app.workers.wait_for_complete()
        await pilot.pause()
        assert "Written:" in app.text("#chart-foot")


async def test_traces_alone_shows_a_power_conversation_as_a_ladder(tmp_path: Path) -> None:
    stage = TracesStage()
    app = OneStage(stage, tmp_path)
    async with app.run_test(size=(160, 50)) as pilot:
        await pilot.pause()
        record_trials(app)
        log = "\n".join(power.log(*power.conversation())).encode()
        app.state.session.attach("T2", "pd.log", log, app.state.runner.clock)
        app.repaint()
        await pilot.pause()
        assert "T2   power conversation" in app.text("#traces-text")
        await pilot.press("j", "j", "j")
        await pilot.pause()
        ladder = app.text("#chart-text")
        assert "POWER CONVERSATION, T2" in app.text("#chart-head")
        assert "──▶" in ladder
        assert "◀──" in ladder
        assert "agreed" in app.text("#chart-foot")
        first = ladder.splitlines()[1]
        await pilot.press("l")
        await pilot.pause()
        assert first not in app.text("#chart-text")
