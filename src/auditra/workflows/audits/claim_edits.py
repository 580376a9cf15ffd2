"""What the Claims stage does to an audit, as facts: claims added, edited and dropped; ports, faces, device details.

Each function returns the facts to be written together, or raises InputError with the reason; nothing is changed here.
"""

from __future__ import annotations

import re
from dataclasses import replace

from auditra.core.claims.claim import Claim
from auditra.core.claims.feasibility import problems_of
from auditra.core.claims.language import parse_claim, parse_claims, rename_port
from auditra.core.errors import InputError
from auditra.core.journal.audit import Audit, UnreadableClaim
from auditra.core.journal.facts import ClaimDropped, ClaimEdited, ClaimMade, DeviceNoted, Fact, RemarkAnswered
from auditra.core.judge.unit_guard import questions_of
from auditra.core.links.connectors import parse_connector
from auditra.core.model.device import BODY, Device, Face, Port, Role
from auditra.core.model.noted import NOT_NOTED
from auditra.core.model.source import Source
from auditra.core.paper_check.check import check_kit
from auditra.core.sanitize import sanitize

MAX_WORDS_LENGTH = 200
MAX_PORTS, MAX_FACES = 64, 12
_ID = re.compile(r"[A-Za-z][A-Za-z0-9]{0,7}")
_SOURCE = re.compile(
    r"(box|page|product page|manual|label|listing|case)(?:\s+(\d{4}-\d{2}-\d{2}))?\s*:\s*(.*)", re.DOTALL
)


def claims_made(audit: Audit, sentence: str, source: Source) -> tuple[Fact, ...]:
    """New claims, one a promise. Raises: InputError, ClaimError."""
    said = {str(claim) for claim in audit.claims}
    claims = parse_claims(sentence.strip(), claim_id="")
    facts: list[Fact] = []
    for turn, claim in enumerate(claims):
        _check(audit, claim)
        if str(claim) in said:
            raise InputError(f'"{claim}"', why="this claim already exists", do="Edit that one, or type another")
        letter = chr(ord("a") + turn) if len(claims) > 1 else ""
        facts.append(ClaimMade(f"claim{audit.entries + 1}{letter}", str(claim), source, claim.device))
    return tuple(facts)


def claims_proposed(audit: Audit, sentence: str, source: Source) -> tuple[Fact, ...]:
    """Claims read from a seller's text; sockets that it names and the device does not have are added to its first face,
    with the connector that their letter stands for. Raises: InputError, ClaimError."""
    device = audit.device
    named = dict.fromkeys(port for claim in parse_claims(sentence.strip(), claim_id="") for port in claim.ports)
    new = [port for name in named if not device.has(name) and (port := _port_named(name)) is not None]
    if not new or not device.faces:
        return claims_made(audit, sentence, source)
    first, *rest = device.faces
    device = replace(device, faces=(replace(first, ports=(*first.ports, *new)), *rest))
    others = tuple(device if each.id == device.id else each for each in audit.devices)
    return (DeviceNoted(device), *claims_made(replace(audit, device=device, devices=others), sentence, source))


def _port_named(name: str) -> Port | None:
    """A socket by the name that the reader of sellers' texts gives it; None for any other name."""
    from auditra.core.advert.sockets import LETTERS  # the reader's tables are loaded once they are wanted

    letter, number = name[:1], name[1:]
    if letter == "P" and number.isdecimal():
        return Port(name, "usb-c", Role.INLET)
    connector = next((each for each, known in LETTERS.items() if known == letter), None)
    return Port(name, connector) if connector is not None and number.isdecimal() else None


def claim_edited(audit: Audit, claim_id: str, sentence: str) -> tuple[Fact, ...]:
    """A claim put otherwise; its source stays. Raises: InputError, ClaimError."""
    old = _recorded(audit, claim_id)
    new = parse_claim(sentence.strip(), claim_id=claim_id, device=old.device)
    _check(audit, new)
    if any(str(claim) == str(new) for claim in audit.claims if claim.id != claim_id):
        raise InputError(f'"{new}"', why="this claim already exists", do="Drop one of the two")
    return (ClaimEdited(claim_id, str(new), old.source, new.device),)


def source_noted(audit: Audit, claim_id: str, text: str) -> tuple[Fact, ...]:
    """Where a claim was seen, when, and the seller's words: ``box 2026-02-20: two sockets``. Raises: InputError."""
    claim = _recorded(audit, claim_id)
    if isinstance(claim, UnreadableClaim):
        raise InputError(f'"{sanitize(claim.sentence, 80)}"', why="it cannot be read", do="Edit the claim first")
    match = _SOURCE.fullmatch(text.strip())
    if match is None:
        do = "Write it as box 2026-02-20: the seller's words"
        raise InputError(f'"{sanitize(text, 80)}"', why="no source given", do=do)
    words = _words(match[3]) if match[3].strip() else NOT_NOTED
    source = Source(match[1], match[2] or claim.source.seen, words)
    return (ClaimEdited(claim_id, str(claim), source, claim.device),)


def claim_dropped(audit: Audit, claim_id: str, why: str = "") -> tuple[Fact, ...]:
    """Raises: InputError."""
    return (ClaimDropped(_recorded(audit, claim_id).id, why),)


def remark_answered(audit: Audit, key: str, text: str) -> tuple[Fact, ...]:
    """What was found out about a remark of the paper check. Raises: InputError."""
    known = {remark.key for remark in check_kit(audit.devices, audit.claims)}
    known |= {question.key for question in questions_of(audit)} | audit.answers.keys()
    if key not in known:
        raise InputError("this remark", why="the paper check no longer makes it", do="Choose another")
    return (RemarkAnswered(key, _words(text)),)


def _recorded(audit: Audit, claim_id: str) -> Claim | UnreadableClaim:
    """A claim, also one that cannot be read: it can be edited and dropped like any other."""
    recorded: tuple[Claim | UnreadableClaim, ...] = (*audit.claims, *audit.unreadable)
    found = next((each for each in recorded if each.id == claim_id), None)
    if found is None:
        raise InputError("this claim", why="it no longer exists", do="Choose another")
    return found


def _check(audit: Audit, claim: Claim) -> None:
    device = next((each for each in audit.devices if each.id == claim.device), None)
    if device is None:
        known = ", ".join(each.id for each in audit.devices)
        raise InputError(f'"{sanitize(claim.device, 40)}"', why="there is no such device", do=f"There are {known}")
    for problem in problems_of(claim, device):
        known = ", ".join(port.id for port in device.ports())
        raise InputError(f'"{claim}"', why=problem, do=f"It has {known}" if "no port" in problem else "")


# Sockets and faces


def port_added(audit: Audit, text: str, beside: str | None) -> tuple[Fact, ...]:
    """``A3 usb-a`` behind the port that is chosen, or ``A3 usb-a left`` at the end of a face. Raises: InputError."""
    device, words = audit.device, _words(text).split()
    if len(words) < 2:
        raise InputError(
            f'"{sanitize(text, 40)}"', why="expected an id and a connector", do="Write A3 usb-a, or A3 usb-a left"
        )
    port_id, rest = _port_id(device, words[0]), words[1:]
    role = next((Role(each) for each in rest if each in set(Role)), Role.DOWNSTREAM)
    rest = [each for each in rest if each not in set(Role)]
    face, rest = _face_named(device, rest)
    connector = parse_connector(" ".join(rest))
    if len(tuple(device.ports())) >= MAX_PORTS:
        raise InputError("the device", why=f"it already has {MAX_PORTS} ports", do="Audit it as two devices")
    port = Port(port_id, connector, role)
    if face is not None:
        return _with_faces(
            device, tuple(replace(f, ports=(*f.ports, port)) if f.name == face else f for f in device.faces)
        )
    at_face, at = _place(device, beside)
    ports = device.faces[at_face].ports
    return _with_face(device, at_face, (*ports[: at + 1], port, *ports[at + 1 :]))


def _face_named(device: Device, words: list[str]) -> tuple[str | None, list[str]]:
    """The face whose whole name stands at the end, in any case, the longest that fits; and the words before it."""
    for length in range(len(words) - 1, 0, -1):
        name = " ".join(words[-length:]).casefold()
        found = [face.name for face in device.faces if face.name.casefold() == name]
        if found:
            return found[0], words[:-length]
    return None, words


def port_moved(audit: Audit, port_id: str, step: int) -> tuple[Fact, ...]:
    """One place to the left (-1) or right (1) on its face, or onto the next face at its end. Raises: InputError."""
    device = audit.device
    face, at = _place(device, port_id)
    ports = list(device.faces[face].ports)
    port = ports.pop(at)
    if 0 <= at + step <= len(ports):
        ports.insert(at + step, port)
        return _with_face(device, face, tuple(ports))
    to = face + step
    if not 0 <= to < len(device.faces):
        raise InputError(port_id, why="it is already at the end", do="f adds a face")
    there = device.faces[to].ports
    moved = {face: tuple(ports), to: (port, *there) if step > 0 else (*there, port)}
    return _with_faces(device, tuple(replace(f, ports=moved.get(n, f.ports)) for n, f in enumerate(device.faces)))


def port_renamed(audit: Audit, port_id: str, text: str) -> tuple[Fact, ...]:
    """The socket with another id, and every claim that names it. Raises: InputError, also once trials name it."""
    device = audit.device
    face, at = _place(device, port_id)
    new = _port_id(device, text.strip())
    _check_untried(audit, port_id)
    ports = device.faces[face].ports
    renamed = (*ports[:at], replace(ports[at], id=new), *ports[at + 1 :])
    edited = [
        ClaimEdited(claim.id, str(rename_port(claim, port_id, new)), claim.source, claim.device)
        for claim in audit.claims
        if claim.device == device.id and port_id in _named_by(claim)
    ]
    return *_with_face(device, face, renamed), *edited


def port_edited(audit: Audit, port_id: str, port: Port) -> tuple[Fact, ...]:
    """Connector, role and print of a socket. Raises: InputError; also for another connector once trials name it."""
    face, at = _place(audit.device, port_id)
    ports = audit.device.faces[face].ports
    if (port.connector, port.role) != (ports[at].connector, ports[at].role):
        _check_untried(audit, port_id)
    return _with_face(audit.device, face, (*ports[:at], replace(port, id=port_id), *ports[at + 1 :]))


def port_removed(audit: Audit, port_id: str) -> tuple[Fact, ...]:
    """Raises: InputError while claims or trials name it: none vanishes silently."""
    face, at = _place(audit.device, port_id)
    naming = [str(claim) for claim in audit.claims if port_id in _named_by(claim)]
    if naming:
        raise InputError(port_id, why=f'it has a claim: "{naming[0]}"', do="Drop its claims first")
    _check_untried(audit, port_id)
    ports = audit.device.faces[face].ports
    return _with_face(audit.device, face, (*ports[:at], *ports[at + 1 :]))


def face_added(audit: Audit, text: str) -> tuple[Fact, ...]:
    """A face at the end, without sockets yet. Raises: InputError."""
    name = _face_name(audit.device, text)
    if len(audit.device.faces) >= MAX_FACES:
        raise InputError("the device", why=f"it already has {MAX_FACES} faces", do="Name one of them otherwise")
    return _with_faces(audit.device, (*audit.device.faces, Face(name, ())))


def face_renamed(audit: Audit, port_id: str, text: str) -> tuple[Fact, ...]:
    """The face that a socket sits on, under another name. Raises: InputError."""
    at, _ = _place(audit.device, port_id)
    name = _face_name(audit.device, text)
    return _with_faces(
        audit.device, tuple(replace(f, name=name) if n == at else f for n, f in enumerate(audit.device.faces))
    )


def _named_by(claim: Claim) -> tuple[str, ...]:
    return (*claim.ports, *(port for condition in claim.conditions for port in condition.ports))


def _check_untried(audit: Audit, port_id: str) -> None:
    if any(record.trial.port == port_id or record.trial.setup.gear_at(port_id) for record in audit.trials):
        raise InputError(port_id, why="trials were run on it, and their readings name it", do="Undo those first")


def _place(device: Device, port_id: str | None) -> tuple[int, int]:
    """The face and the place on it. Raises: InputError where the device has no such port."""
    for face_index, face in enumerate(device.faces):
        for index, port in enumerate(face.ports):
            if port.id == port_id:
                return face_index, index
    if port_id is None and device.faces:
        return 0, len(device.faces[0].ports) - 1
    raise InputError(str(port_id), why="the device has no such port", do="Choose one on the faces")


def _port_id(device: Device, text: str) -> str:
    if not _ID.fullmatch(text) or text == BODY:
        raise InputError(
            f'"{sanitize(text, 20)}"',
            why="not a valid port id",
            do="Write one such as A3: a letter first, 8 at most",
        )
    if device.port(text) is not None:
        raise InputError(f'"{text}"', why="another socket has this id", do="Choose another")
    return text


def _face_name(device: Device, text: str) -> str:
    name = _words(text)
    if len(name) > 24 or name in {face.name for face in device.faces}:
        raise InputError(f'"{sanitize(name, 40)}"', why="the name is too long or already used", do="Choose another")
    return name


def _with_face(device: Device, at: int, ports: tuple[Port, ...]) -> tuple[Fact, ...]:
    return _with_faces(device, tuple(replace(f, ports=ports) if n == at else f for n, f in enumerate(device.faces)))


def _with_faces(device: Device, faces: tuple[Face, ...]) -> tuple[Fact, ...]:
    return (DeviceNoted(replace(device, faces=faces)),)


# What is known of the device


def device_edited(audit: Audit, device: Device) -> tuple[Fact, ...]:
    """The device put otherwise. Raises: InputError where that would make a look-alike of what was tried."""
    old = audit.device_of(device.id)
    tried = any(record.trial.setup.device == device.id for record in audit.trials)
    if tried and not old.same_thing_as(device):
        do = "Begin an audit of its own for the other one: results are not carried to a look-alike"
        raise InputError(device.name, why="the trials were of another variant, revision or firmware", do=do)
    return (DeviceNoted(device),)


def _words(text: str) -> str:
    """Plain words, bounded. Raises: InputError."""
    said = " ".join(text.split())
    if not said or len(said) > MAX_WORDS_LENGTH or sanitize(said, MAX_WORDS_LENGTH + 1) != said:
        why = "the text is empty" if not said else f"expected plain text, {MAX_WORDS_LENGTH} characters at most"
        raise InputError(f'"{sanitize(said, 40)}"', why=why, do="Type it again")
    return said
