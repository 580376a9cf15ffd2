"""What a score comes to for a buyer: what a profile moved, what the money buys, and for whom the device is."""

from __future__ import annotations

from collections.abc import Sequence

from textual.content import Content

from auditra.core.advice.for_whom import Fit, Suits
from auditra.core.advice.profile_change import ProfileChange
from auditra.core.advice.worth import AtPrice, Relation, Worth
from auditra.core.advice.worth_text import best_text, extras_text, price_text
from auditra.core.model.device import Device
from auditra.core.sanitize import sanitize
from auditra.tui.renderables.cells import fill
from auditra.tui.renderables.labels import heading
from auditra.tui.theme import Palette

_BY, _FIT, _USER = 8, 15, 40


def render_moved(change: ProfileChange, width: int, palette: Palette) -> Content:
    """A line for all that this profile weighs or charges otherwise than the usual one."""
    before = "no score" if change.score_before is None else f"{change.score_before}"
    lines = [heading("moved by the profile", palette, f"with {change.before}: {before}"), Content("")]
    for each in change.moved:
        colour = palette.holds if each.by > 0 else palette.broken
        text = fill(sanitize(each.text, 120), max(20, width - _BY))
        lines.append(Content.assemble((f"{each.by:+}".ljust(_BY), colour), (text, palette.ink)))
    if not change.moved:
        lines.append(Content.styled("Every line takes as much from the score as before.", palette.quiet))
    return Content("\n").join(lines)


def render_worth(worth: Worth | None, device: Device, palette: Palette) -> Content:
    """A line a price, and how it stands beside the best of the shelf."""
    lines = [heading("worth", palette, "points of the score for money"), Content("")]
    if worth is None:
        words = "There is no score yet." if device.prices else "i on stage 1 notes a price."
        return Content("\n").join([*lines, Content.styled(words, palette.quiet)])
    lines += [_at(each, palette) for each in worth.at]
    told = (*extras_text(worth), *best_text(worth))
    return Content("\n").join([*lines, *(Content.styled(sanitize(each, 200), palette.quiet) for each in told)])


_COLOUR_OF = {Relation.BETTER: "holds", Relation.EVEN: "partly", Relation.LESS: "broken"}


def _at(at: AtPrice, palette: Palette) -> Content:
    colour = getattr(palette, _COLOUR_OF[at.relation]) if at.relation else palette.ink
    words = f"  {at.relation} the best" if at.relation else ""
    return Content.assemble(
        (fill(price_text(at), 36), palette.ink),
        (f"{at.per_hundred:>8} for 100 {sanitize(at.price.money, 8)}", palette.ink), (words, colour),
    )  # fmt: skip


def render_for_whom(found: Sequence[Suits], width: int, palette: Palette) -> Content:
    """A line a kind of user: mark of the answer, who, and what it comes from."""
    lines = [heading("for whom", palette, "by rules on what was found"), Content("")]
    colours = {Fit.SUITS: palette.holds, Fit.SUITS_IF: palette.partly, Fit.NOT_KNOWN: palette.quiet}
    user = min(_USER, max(18, width // 3))
    for each in found:
        grounds = "; ".join(ground.text for ground in each.grounds)
        lines.append(Content.assemble(
            (fill(each.fit.word, _FIT), colours.get(each.fit, palette.broken)), (fill(each.user, user), palette.ink),
            (fill(f" {sanitize(grounds, 300)}", max(10, width - _FIT - user - 2)), palette.quiet),
        ))  # fmt: skip
    if not found:
        lines.append(Content.styled("No claim says anything of what users need.", palette.quiet))
    return Content("\n").join(lines)
