"""What is done on the Claims stage: sentences typed with completion, sockets and faces put in their places."""

from __future__ import annotations

from collections.abc import Callable, Iterable
from dataclasses import dataclass, replace
from functools import partial

from textual import on
from textual.widgets import Input

from auditra.core.claims.claim import Claim
from auditra.core.claims.completion import Typed, complete
from auditra.core.errors import AuditraError
from auditra.core.journal.facts import Fact
from auditra.core.journal.fold import Audit, UnreadableClaim
from auditra.core.links.connectors import CONNECTORS
from auditra.core.model.noted import NOT_NOTED
from auditra.core.model.source import Source
from auditra.core.sanitize import sanitize
from auditra.tui.messages import OfferTurned
from auditra.tui.renderables.claims import listed_claims, sentence_of
from auditra.tui.screens.hosting import HostingScreen
from auditra.tui.screens.trials import RUN
from auditra.tui.widgets.faces import Track
from auditra.tui.widgets.lines import KeyLine
from auditra.tui.widgets.paper_stage import remarks_of
from auditra.tui.widgets.typing_line import Offers
from auditra.tui.widgets.typing_row import TypingRow
from auditra.workflows.claiming import (
    KNOWN_WORDS,
    claim_dropped,
    claim_mended,
    claims_made,
    device_noted,
    face_added,
    face_renamed,
    remark_answered,
    socket_added,
    socket_moved,
    socket_removed,
    socket_renamed,
    source_noted,
)

CLAIMS, PAPER = 1, 2
_SOURCES = ("box ", "product page ", "manual ", "label ", "listing ")
Facts = tuple[Fact, ...]


@dataclass(frozen=True)
class Asked:
    """What is typed on the line: what stands before it, which facts it makes, and what that action is called."""

    what: str
    facts: Callable[[Audit, str], Facts]
    offers: Callable[[str], Offers]
    is_claim: bool = False
    action: str = ""
    """What it does, such as ``rename A1``; else what is typed."""
    on_run: bool = False
    """It is asked on the Run stage, and not where claims are put down."""


class ClaimingScreen(HostingScreen):
    """Lets claims and device be written down; every change is one action, and can be taken back."""

    def __init__(self, *args: object) -> None:
        super().__init__(*args)  # type: ignore[arg-type]
        self._asked: Asked | None = None
        self._claim: str | None = None
        self._remark: str | None = None
        self._being_typed: tuple[Claim, ...] = ()
        self._readable = ""
        """The text that those claims were read from."""

    @property
    def keys(self) -> tuple[tuple[str, str, str], ...]:
        """The keys that matter now: as written, what each does, and the action of the screen."""
        return ()

    @property
    def _on_claims(self) -> bool:
        return self.query_one(Track).stage == CLAIMS

    @property
    def _on_paper(self) -> bool:
        return self.query_one(Track).stage == PAPER

    def _chosen_remark(self) -> str | None:
        keys = [remark.key for remark in remarks_of(self.standing)]
        return self._remark if self._remark in keys else next(iter(keys), None)

    @property
    def is_typing(self) -> bool:
        """Something is being typed on the line of the Claims stage."""
        return self._asked is not None

    def _chosen_claim(self) -> Claim | UnreadableClaim | None:
        listed = listed_claims(self.standing.audit)
        found = next((each for each in listed if each.id == self._claim), None)
        here = (each for each in listed if isinstance(each, Claim) and self._port in each.ports)
        return found or next(here, None) or next(iter(listed), None)

    # Keys

    def action_next_claim(self, step: int) -> None:
        """The next claim, or on the Paper check stage the next remark."""
        if self._on_paper:
            self._choose_remark(step)
            return
        listed, chosen = listed_claims(self.standing.audit), self._chosen_claim()
        if self._on_claims and chosen is not None:
            turned_to = listed[min(len(listed) - 1, max(0, listed.index(chosen) + step))]
            self._claim = turned_to.id
            if isinstance(turned_to, Claim) and self.standing.audit.device.port(turned_to.port):
                self._port = turned_to.port
            self.show()

    def _choose_remark(self, step: int) -> None:
        remarks = remarks_of(self.standing)
        keys = [remark.key for remark in remarks]
        chosen = self._chosen_remark()
        if chosen is not None:
            at = min(len(keys) - 1, max(0, keys.index(chosen) + step))
            self._remark = keys[at]
            self._port = next((p for p in remarks[at].ports if self.standing.audit.device.port(p)), self._port)
            self.show()

    def action_new_claim(self) -> None:
        """A new claim, or on the Paper check stage the answer to a remark."""
        if self._on_paper:
            chosen = self._chosen_remark()
            if chosen is not None:
                before = self.standing.audit.answers.get(chosen, "")
                self._ask(Asked("answer", partial(_answered, chosen), _nothing), before)
            return
        start = f"{self._port} " if self._port else ""
        self._ask(Asked("claim", self._made, self._claim_offers, is_claim=True), start)

    def action_mend_claim(self) -> None:
        chosen = self._chosen_claim()
        if chosen is not None and self._on_claims:
            mend = partial(_mended, chosen.id)
            self._ask(Asked("claim", mend, self._claim_offers, is_claim=True), sentence_of(chosen))

    def action_note_words(self) -> None:
        chosen = self._chosen_claim()
        if chosen is not None and self._on_claims:
            kind, seen, quoted = chosen.source.kind, chosen.source.seen, chosen.source.quoted
            start = " ".join(part for part in (kind, seen) if isinstance(part, str))
            text = f"{start or 'box'}: {quoted if isinstance(quoted, str) else ''}"
            self._ask(Asked("words", partial(_sourced, chosen.id), partial(_beginning, _SOURCES)), text)

    def action_paste(self) -> None:
        """The seller's text, read for claims."""
        if not self._on_claims or self.is_typing:
            return
        if self.is_measuring:
            self._tell("A trial is running. Press Esc in stage 4 to stop it.", failed=True)
            return
        from auditra.tui.screens.paste import PasteScreen  # the reader's tables are loaded once they are wanted

        self.app.push_screen(PasteScreen(self._take_proposed), lambda _: self.show())

    def _take_proposed(self, sentence: str, quoted: str) -> None:
        """A proposed claim with its words, as one action. Raises: AuditraError."""
        chosen = self._chosen_claim()
        source = chosen.source if chosen is not None else Source()
        quoted_source = replace(source, quoted=quoted)
        self._desk.write(lambda audit: claims_made(audit, sentence, quoted_source), "claim", self._clock)
        self._prepare_next(keeps_port=True)

    def action_attach(self) -> None:
        """On the Run stage, a file that belongs to the newest trial of the chosen socket."""
        trials = self.standing.audit.trials
        if self.query_one(Track).stage != RUN or not trials:
            return
        here = [each for each in trials if each.trial.port == self._port]
        trial = (here or list(trials))[-1].trial.id
        self._ask(Asked("trial and file", self._attached, _nothing, on_run=True), f"{trial} ")

    def _attached(self, audit: Audit, text: str) -> Facts:
        """``T11 pd.log``: the trial stands first. Raises: InputError, StoreError."""
        trial, _, path = text.partition(" ")
        return self._desk.facts_of_file(audit, trial, *self._workshop.load(path))

    def action_drop_claim(self) -> None:
        chosen = self._chosen_claim()
        if chosen is not None and self._on_claims:
            self._write(
                lambda audit: claim_dropped(audit, chosen.id),
                "drop",
                f'"{sentence_of(chosen)}" is dropped. Press u to undo.',
            )

    def action_new_socket(self) -> None:
        if not self._on_claims:
            return
        self._ask(Asked("socket", self._added, partial(_beginning_last, CONNECTORS), action="new socket"), "")

    def action_rename_socket(self) -> None:
        if self._port is not None and self._on_claims:
            renamed = partial(_renamed, self._port)
            self._ask(Asked(f"{self._port} is", renamed, _nothing, action=f"rename {self._port}"), self._port)

    def action_new_face(self) -> None:
        if not self._on_claims:
            return
        self._ask(Asked("face", face_added, _nothing, action="new face"), "")

    def action_rename_face(self) -> None:
        if self._port is not None and self._on_claims:
            faced, action = partial(_faced, self._port), f"rename face of {self._port}"
            self._ask(Asked(f"name of the face with {self._port}", faced, _nothing, action=action), "")

    def action_note_device(self) -> None:
        if not self._on_claims:
            return
        words = tuple(f"{each} " for each in KNOWN_WORDS)
        self._ask(Asked("known", device_noted, partial(_beginning, words), action="device details"), "")

    def action_move_socket(self, step: int) -> None:
        port = self._port
        if port is not None and self._on_claims:
            self._write(
                lambda audit: socket_moved(audit, port, step), f"move {port}", f"{port} is moved. Press u to undo."
            )

    def remove_socket(self) -> None:
        """Take the chosen socket off its face, where nothing names it."""
        port = self._port
        if port is not None:
            removed = f"{port} is removed. Press u to undo."
            if self._write(lambda audit: socket_removed(audit, port), f"remove {port}", removed):
                self._port = next((each.id for each in self.standing.audit.device.ports()), None)
                self.show()

    # The typing line

    def _ask(self, asked: Asked, text: str) -> None:
        if not (self._on_claims or self._on_paper or asked.on_run) or self.is_typing:
            return
        if self.is_measuring:
            self._tell("A trial is running. Press Esc in stage 4 to stop it.", failed=True)
            return
        self._asked = asked
        self._tell("")
        self.query_one(TypingRow).ask(asked.what, text, asked.offers)
        self.query_one(KeyLine).keys = self.keys
        self._typed(text)

    @on(Input.Changed, "#typed")
    def _on_typed(self, event: Input.Changed) -> None:
        if self._asked is not None:
            self._typed(event.value)

    def _typed(self, text: str) -> None:
        """Offers and tiles follow every key."""
        asked = self._asked
        if asked is None:
            return
        stage = self.query_one(TypingRow)
        stage.line.turn = 0
        stage.offer(self._claim_typed(text) if asked.is_claim else asked.offers(text)[1])

    def _claim_typed(self, text: str) -> tuple[str, ...]:
        """The tile shows what is promised so far: of an unfinished condition, what stood before it."""
        audit = self.standing.audit
        typed = complete(text, audit.device, audit.rig)
        if typed.claims:
            self._being_typed, self._readable = typed.claims, text
            self._port = next((p for p in typed.claims[0].ports if audit.device.port(p)), self._port)
        elif not (self._readable and text.startswith(self._readable)):
            self._being_typed, self._readable = (), ""
        self._tell(_reads(typed))
        self.show_faces()
        return typed.offers

    def _claim_offers(self, text: str) -> Offers:
        audit = self.standing.audit
        typed = complete(text, audit.device, audit.rig)
        return typed.keep, typed.offers

    def show_faces(self) -> None:
        """Paint the faces alone."""

    @on(OfferTurned)
    def _offer_turned(self) -> None:
        if self._asked is not None:
            stage = self.query_one(TypingRow)
            stage.offer(self._asked.offers(stage.line.value)[1])

    def leave_typing(self) -> None:
        """Away with the line; nothing is changed."""
        self._asked, self._being_typed, self._readable = None, (), ""
        self.query_one(TypingRow).close()
        self._tell("")
        self.show()

    @on(Input.Submitted, "#typed")
    def _take_typed(self, event: Input.Submitted) -> None:
        asked, text = self._asked, event.value.strip()
        if asked is None:
            return
        if not text:
            self.leave_typing()
        elif self._write(lambda audit: asked.facts(audit, text), asked.action or asked.what.split()[0], ""):
            self.leave_typing()
            self._tell(f"Recorded: {sanitize(text, 120)}. Press u to undo.")

    def _write(self, facts: Callable[[Audit], Facts], what: str, told: str) -> bool:
        """Facts onto disk, all or none; a refusal is told, and the line stays as it is."""
        if self.is_measuring:
            self._tell("A trial is running. Press Esc in stage 4 to stop it.", failed=True)
            return False
        try:
            self._desk.write(facts, what, self._clock)
        except AuditraError as error:
            self._tell(sanitize(str(error), 300), failed=True)
            return False
        self._prepare_next(keeps_port=True)
        self._tell(told)
        self.show()
        return True

    def _tell(self, message: str, *, failed: bool = False) -> None:
        self.query_one(TypingRow).tell(message, failed=failed)

    # What typed text makes

    def _made(self, audit: Audit, text: str) -> Facts:
        """A new claim takes over when and where the claim that is chosen was seen; its words are its own."""
        chosen = self._chosen_claim()
        source = replace(chosen.source, quoted=NOT_NOTED) if chosen is not None else Source()
        return claims_made(audit, text, source)

    def _added(self, audit: Audit, text: str) -> Facts:
        return socket_added(audit, text, self._port)


def _reads(typed: Typed) -> str:
    """What a text says so far, with its figures both ways; or what is expected, where nothing can be offered."""
    if typed.claims:
        return sanitize("   ".join([*(f'"{claim}"' for claim in typed.claims), *typed.forms]), 300)
    return sanitize(f"expected {typed.error.expected}", 200) if typed.error is not None and not typed.offers else ""


def _mended(claim: str, audit: Audit, text: str) -> Facts:
    return claim_mended(audit, claim, text)


def _sourced(claim: str, audit: Audit, text: str) -> Facts:
    return source_noted(audit, claim, text)


def _answered(remark: str, audit: Audit, text: str) -> Facts:
    return remark_answered(audit, remark, text)


def _renamed(port: str, audit: Audit, text: str) -> Facts:
    return socket_renamed(audit, port, text)


def _faced(port: str, audit: Audit, text: str) -> Facts:
    return face_renamed(audit, port, text)


def _nothing(text: str) -> Offers:
    return text, ()


def _beginning(words: Iterable[str], text: str) -> Offers:
    return "", tuple(each for each in words if each.startswith(text) and each != text)


def _beginning_last(words: Iterable[str], text: str) -> Offers:
    """Words for the second place: ``A3 us`` goes on to usb-a and usb-c."""
    first, gap, rest = text.partition(" ")
    return (f"{first} ", tuple(each for each in words if each.startswith(rest) and each != rest)) if gap else (text, ())
