"""A stage stands on its own: shown without the other seven, it takes its keys and asks for what it wants."""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path

from textual.app import App, ComposeResult
from textual.message import Message

from auditra.tui.audit_state import AuditState
from auditra.tui.key_hints import key_hints
from auditra.tui.messages import ChangeWanted, PortChosen, PromptWanted
from auditra.tui.stages.claims.stage import ClaimsStage
from auditra.tui.stages.paper.stage import PaperStage
from auditra.tui.stages.stage import Stage
from auditra.tui.widgets.shown_text import ShownText
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
        self.call_after_refresh(self.repaint)

    def repaint(self) -> None:
        self.stage.show(self.state)
        self.screen.set_focus(self.stage.focus_target)

    def repaint_progress(self) -> None: ...

    def run_in_background(self, work: Callable[[], None]) -> None: ...

    def explain_in_background(self, work: Callable[[], None]) -> None: ...

    def text(self, widget: str) -> str:
        return str(self.query_one(widget, ShownText).render())

    def on_prompt_wanted(self, message: PromptWanted) -> None:
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
