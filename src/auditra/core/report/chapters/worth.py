"""What the money buys at each price, and for whom the device is."""

from __future__ import annotations

from collections.abc import Iterator

from auditra.core.advice.for_whom import Ground, Suits, for_whom
from auditra.core.advice.worth import Worth, worth_of
from auditra.core.advice.worth_text import best_text, extras_text, price_text
from auditra.core.report.chapter import ChapterRule
from auditra.core.report.document import Block, From, Heading, Para, Said, Table, Tone, of_claims, refs, said
from auditra.core.report.material import Material

_PRICE = refs(From.TYPED, "price", "extras")
_SCORE = refs(From.JUDGEMENT, "score")


def _blocks(material: Material) -> Iterator[Block]:
    audit, judgement = material.judged.audit, material.judged.judgement
    found = for_whom(audit, judgement, audit.device, material.users)
    if found:
        yield Heading("For whom")
        yield Table(("user", "answer", "because"), tuple(_user(each) for each in found), (0.28, 0.16, 0.56))
    worth = worth_of(audit.device, judgement.score, judgement.profile.name, material.peers)
    if worth is not None:
        yield Heading("At which price")
        yield from _worth(worth)


def _user(each: Suits) -> tuple[tuple[Said, ...], ...]:
    grounds = tuple(_ground(ground) for ground in each.grounds)
    every = tuple(ref for ground in grounds for ref in ground.refs)
    return (said(each.user, every, tone=Tone.STRONG),), (said(each.fit.word, every),), grounds


def _ground(ground: Ground) -> Said:
    finding = refs(From.FINDING, ground.finding) if ground.finding else ()
    about = of_claims(ground.claims, ground.trials)
    return said(ground.text, about or finding or refs(From.JUDGEMENT, "claims"), finding)


def _worth(worth: Worth) -> Iterator[Block]:
    rows = tuple(
        (
            (said(price_text(each), _PRICE),),
            (said(f"{each.total} {each.price.money}", _PRICE),),
            (said(f"{each.per_hundred}", _PRICE, _SCORE),),
            (said(f"{each.relation} the best of the shelf", _PRICE, _SCORE),) if each.relation else (),
        )
        for each in worth.at
    )
    yield Table(("price", "in all", "points for 100", "beside the others"), rows, (0.34, 0.18, 0.16, 0.32), (1, 2))
    told = tuple(said(each, _PRICE, _SCORE) for each in (*extras_text(worth), *best_text(worth)))
    yield Para(told)


WORTH = ChapterRule("worth", 70, "For whom, and at which price", _blocks)
