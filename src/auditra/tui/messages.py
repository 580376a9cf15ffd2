"""What workers, widgets and stages report to the screen they are on, or ask of it."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from datetime import datetime

from textual.message import Message

from auditra.core.journal.audit import Audit
from auditra.core.journal.facts import Fact
from auditra.core.model.source import Source
from auditra.core.model.trial import Outcome
from auditra.core.plan.offers import SheetOffer
from auditra.core.plan.run_sheet import PlannedTrial
from auditra.core.wiring.moves import PlugMove
from auditra.tui.forms.form import Form
from auditra.tui.prompt import Prompt
from auditra.workflows.trials.doors import Progress


class PortChosen(Message):
    """The reviewer chose a port on the faces."""

    def __init__(self, port: str) -> None:
        super().__init__()
        self.port = port


class StageChosen(Message):
    """The reviewer chose a stage on the track; stages count from 1."""

    def __init__(self, stage: int) -> None:
        super().__init__()
        self.stage = stage


class PromptWanted(Message):
    """A stage wants something typed; the text before the cursor is there already.

    `form` is what a text leads to in place of facts: None for one that makes facts. Raises: AuditraError.
    """

    def __init__(self, prompt: Prompt, text: str = "", form: Callable[[Audit, str], Form | None] | None = None) -> None:
        super().__init__()
        self.prompt, self.text, self.form = prompt, text, form


class ChangeWanted(Message):
    """A stage wants facts recorded as one action that can be undone; `done` is shown once they are."""

    def __init__(self, facts: Callable[[Audit], tuple[Fact, ...]], action: str, done: str) -> None:
        super().__init__()
        self.facts, self.action, self.done = facts, action, done


class Said(Message):
    """Something was done that is not in the journal; these words say what."""

    def __init__(self, words: str) -> None:
        super().__init__()
        self.words = words


class FormWanted(Message):
    """A stage wants a form filled in; `while_measuring` where it is of use during a trial too."""

    def __init__(self, form: Form, *, while_measuring: bool = False) -> None:
        super().__init__()
        self.form, self.while_measuring = form, while_measuring


class ChoiceWanted(Message):
    """A stage wants one of several things chosen; `take` is given the chosen one, and each may have a note below.

    The one with the number `at` is in force now."""

    def __init__(
        self, title: str, choices: Sequence[str], take: Callable[[str], None], notes: Sequence[str] = (),
        at: int = 0,
    ) -> None:  # fmt: skip
        super().__init__()
        self.title, self.choices, self.take, self.notes, self.at = title, tuple(choices), take, tuple(notes), at


class SheetsOffered(Message):
    """What each of the run sheets would still ask for has been worked out."""

    def __init__(self, offers: Sequence[SheetOffer]) -> None:
        super().__init__()
        self.offers = tuple(offers)


class PasteWanted(Message):
    """A stage wants a seller's text read for claims; those accepted get this source, with their own quote."""

    def __init__(self, source: Source) -> None:
        super().__init__()
        self.source = source


class ReasonsFound(Message):
    """The causes of the judgement as it stood were worked out."""


class TrialChosen(Message):
    """The reviewer wants this trial to be the next one."""

    def __init__(self, planned: PlannedTrial) -> None:
        super().__init__()
        self.planned = planned


class TrialMessage(Message):
    """What a trial reports from its own thread."""


class TrialStarted(TrialMessage):
    """A trial began; these moves lead to its set-up."""

    def __init__(self, planned: PlannedTrial, moves: Sequence[PlugMove]) -> None:
        super().__init__()
        self.planned, self.moves = planned, tuple(moves)


class ProgressMade(TrialMessage):
    """A trial got on. Samples since the last message come along, so that none is missing from the trace."""

    def __init__(self, progress: Progress, samples: Sequence[Progress]) -> None:
        super().__init__()
        self.progress, self.samples = progress, tuple(samples)


class FactTaken(TrialMessage):
    """A fact is on disk."""

    def __init__(self, fact: Fact, at: datetime) -> None:
        super().__init__()
        self.fact, self.at = fact, at


class MovesAsked(TrialMessage):
    """The trial wants these moves before it goes on."""

    def __init__(self, moves: Sequence[PlugMove]) -> None:
        super().__init__()
        self.moves = tuple(moves)


class MovesSeen(TrialMessage):
    """The host saw the moves done that were asked for."""


class HostProbed(Message):
    """A host was probed, and the result recorded; `error` is why it was not."""

    def __init__(self, error: str = "") -> None:
        super().__init__()
        self.error = error


class TextAsked(TrialMessage):
    """The trial wants something typed: a length, a value, a folder."""

    def __init__(self, question: str, hint: str) -> None:
        super().__init__()
        self.question, self.hint = question, hint


class TrialOver(TrialMessage):
    """A trial ended; `error` says why it did before its time."""

    def __init__(self, outcome: Outcome | None, error: str = "") -> None:
        super().__init__()
        self.outcome, self.error = outcome, error
