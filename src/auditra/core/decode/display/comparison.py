"""Two descriptions of one display compared: what an adapter in between added, removed or changed."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from dataclasses import dataclass

from auditra.core.decode.display.description import YCBCR_420, Edid
from auditra.core.decode.display.timing import Blanking, DisplayTiming


@dataclass(frozen=True)
class DisplayChange:
    """One thing that differs. `kind` is added, taken away or changed; or not compared, where a side was damaged."""

    kind: str
    words: str

    @property
    def sentence(self) -> str:
        return f"{self.kind}: {self.words}"


ADDED, TAKEN, CHANGED = "added", "taken away", "changed"
DAMAGED = "not compared"
_MAX_MODES = 12


def compare_displays(direct: Edid, through: Edid) -> tuple[DisplayChange, ...]:
    """What a display says through something else, against what it says direct; nothing where both agree.

    A truncated or damaged description proves nothing against the device: what it lacks may just not have been read, and
    what it has besides may be the damage.
    """
    damaged = [side for side, edid in (("direct", direct), ("through", through)) if not edid.is_whole]
    if damaged:
        words = f"the {' and the '.join(damaged)} description was cut or damaged in the reading"
        return (DisplayChange(DAMAGED, words),)
    return tuple(change for find in _FINDERS for change in find(direct, through))


def _identity(one: Edid, other: Edid) -> Iterator[DisplayChange]:
    for name, read in (("name", lambda e: e.name), ("maker", lambda e: e.maker), ("product", lambda e: e.product)):
        yield from _changed(name, one, other, read)


def _changed(name: str, one: Edid, other: Edid, read: Callable[[Edid], object]) -> Iterator[DisplayChange]:
    before, after = read(one), read(other)
    if before != after:
        yield DisplayChange(CHANGED, f"{name} {_told(before)} to {_told(after)}")


def _told(value: object) -> str:
    return "unknown" if value in (None, "", ()) else str(value)


def _modes(one: Edid, other: Edid) -> Iterator[DisplayChange]:
    """By size and rate; a mode that came with another timing is not another mode."""
    before, after = ({mode.name: mode for mode in side.modes} for side in (one, other))
    for kind, names in ((TAKEN, [n for n in before if n not in after]), (ADDED, [n for n in after if n not in before])):
        if names:
            more = f" and {len(names) - _MAX_MODES} more" if len(names) > _MAX_MODES else ""
            yield DisplayChange(kind, f"modes {', '.join(names[:_MAX_MODES])}{more}")
    for name in (n for n in before if n in after):
        clocks = before[name].pixel_clock_khz, after[name].pixel_clock_khz
        if None not in clocks and clocks[0] != clocks[1]:
            yield DisplayChange(CHANGED, f"{name} has a clock of {clocks[0]} kHz direct, {clocks[1]} kHz here")
        yield from _blankings(name, before[name].blanking, after[name].blanking)


def _blankings(name: str, before: Blanking | None, after: Blanking | None) -> Iterator[DisplayChange]:
    if before is None or after is None:
        return
    for label, describe in _BLANKINGS:
        direct, through = describe(before), describe(after)
        if direct != through:
            yield DisplayChange(CHANGED, f"{name}: {label} {direct} direct, {through} here")


def _porches(blanking: Blanking) -> str:
    return f"{blanking.front_porch_pixels} px and {blanking.front_porch_lines} lines"


def _pulses(blanking: Blanking) -> str:
    return f"{blanking.sync_pixels} px and {blanking.sync_lines} lines"


def _polarity(blanking: Blanking) -> str:
    if blanking.positive_across is None or blanking.positive_down is None:
        return "not separate"
    return f"{'+' if blanking.positive_across else '-'}h {'+' if blanking.positive_down else '-'}v"


_BLANKINGS: tuple[tuple[str, Callable[[Blanking], str]], ...] = (
    ("front porch", _porches), ("sync pulse", _pulses), ("sync polarity", _polarity),
)  # fmt: skip


def _preferred(one: Edid, other: Edid) -> Iterator[DisplayChange]:
    def name(timing: DisplayTiming | None) -> str:
        return "" if timing is None else timing.name

    yield from _changed("preferred mode", one, other, lambda e: name(e.preferred))


def _limits(one: Edid, other: Edid) -> Iterator[DisplayChange]:
    yield from _changed("highest character rate (kHz)", one, other, most_character_khz)
    yield from _changed("fixed-rate link (Mb/s)", one, other, fixed_rate_mbps)
    ranges = "rates (Hz)", one, other, lambda e: (e.ranges.least_hz, e.ranges.most_hz) if e.ranges else None
    yield from _changed(*ranges)


def most_character_khz(edid: Edid) -> int | None:
    """The highest TMDS character rate of both HDMI blocks; None where none is given."""
    told = [each.hdmi_forum.most_character_khz for each in edid.cta if each.hdmi_forum]
    told += [each.hdmi.most_tmds_khz for each in edid.cta if each.hdmi]
    return max((each for each in told if each is not None), default=None)


def fixed_rate_mbps(edid: Edid) -> int | None:
    """All lanes of the fastest fixed-rate link; None where there is none."""
    told = (each.hdmi_forum for each in edid.cta if each.hdmi_forum)
    rates = ((each.fixed_rate_lanes or 0) * (each.fixed_rate_mbps_a_lane or 0) for each in told)
    return max(rates, default=0) or None


def _features(one: Edid, other: Edid) -> Iterator[DisplayChange]:
    for name, read in _FEATURES:
        before, after = read(one), read(other)
        if lost := [each for each in before if each not in after]:
            yield DisplayChange(TAKEN, f"{name} {', '.join(lost)}")
        if gained := [each for each in after if each not in before]:
            yield DisplayChange(ADDED, f"{name} {', '.join(gained)}")


def _depths(edid: Edid) -> tuple[str, ...]:
    return tuple(f"{each} bit" for each in edid.depths_bits)


def _formats(edid: Edid) -> tuple[str, ...]:
    deep = any(each.hdmi is not None and each.hdmi.deep_ycbcr_444 for each in edid.cta)
    return (*(each for each in edid.colour_formats if each != YCBCR_420), *(("deep YCbCr 4:4:4",) if deep else ()))


def _hdr(edid: Edid) -> tuple[str, ...]:
    return tuple(name for each in edid.cta if each.hdr for name in each.hdr.transfer_functions)


def _colours(edid: Edid) -> tuple[str, ...]:
    return tuple(name for each in edid.cta for name in each.colorimetries)


def _compression(edid: Edid) -> tuple[str, ...]:
    return ("by the source",) if any(each.hdmi_forum and each.hdmi_forum.compresses for each in edid.cta) else ()


def _chroma(edid: Edid) -> tuple[str, ...]:
    if any(timing.chroma_420_too or timing.chroma_420_only for timing in edid.timings):
        return ("4:2:0",)
    return ()


_FEATURES: tuple[tuple[str, Callable[[Edid], tuple[str, ...]]], ...] = (
    ("depth", _depths), ("colour format", _formats), ("hdr", _hdr), ("colour", _colours),
    ("compression", _compression), ("chroma", _chroma),
)  # fmt: skip


def _adaptive(one: Edid, other: Edid) -> Iterator[DisplayChange]:
    before, after = one.adaptive, other.adaptive
    if before == after:
        return
    if after is None or before is None:
        rates = before if after is None else after
        assert rates is not None
        most = "the mode's own" if rates[1] is None else f"{rates[1]}"
        yield DisplayChange(TAKEN if after is None else ADDED, f"variable refresh, {rates[0]} to {most} Hz")
    else:
        yield DisplayChange(CHANGED, f"variable refresh {before} to {after}")


def _sound(one: Edid, other: Edid) -> Iterator[DisplayChange]:
    before, after = ({f"{a.name}, {a.channels} channels" for each in e.cta for a in each.audio} for e in (one, other))
    if before - after:
        yield DisplayChange(TAKEN, f"sound {'; '.join(sorted(before - after))}")
    if after - before:
        yield DisplayChange(ADDED, f"sound {'; '.join(sorted(after - before))}")


_FINDERS = (_identity, _modes, _preferred, _limits, _features, _adaptive, _sound)
