"""The lane, drawn for print: the same picture as on screen, in ink. Its words are text of the page:
in a drawing they would be set letter by letter, which is slow and stands badly."""

from __future__ import annotations

import html
from collections.abc import Mapping, Sequence
from functools import cache
from typing import Any, Final

from typing_extensions import TypedDict

from lauf.exchange.paper.render import FONTS

_MARGIN: Final = 10
#: Units across; the words are so many units high, as `house.css` has it at each width of a lane.
_WIDTH: Final = 340
_LETTERS: Final = 10.5


class Label(TypedDict):
    """Words over or under a rung: `gap` is what is free before them, in % of the lane's width."""

    words: str
    gap: float


class LaneDrawing(TypedDict):
    """A lane: the drawing, the names of its rungs above and their thresholds below."""

    svg: str
    names: list[Label]
    ticks: list[Label]


def drawn_lane(lane: Mapping[str, Any], shows: str) -> LaneDrawing:
    """One lane: left edge nought (or the lowest), rungs as ticks with their names, earlier scores
    hollow, the last one solid, the best with a pennant, day-to-day variation hatched. Right is
    always better.

    lane   as `judgement.picture.lane_of` makes it, put to scale
    shows  what it shows, for who has it read out
    """
    top, width = 9, _WIDTH
    height = top + 20
    middle = top + 9
    origin, scale = float(lane["origin"]), float(lane["scale"])
    flipped = lane["better"] == "down"

    def place(value: float) -> float:
        share = min(1.0, max(0.0, (value - origin) / ((scale - origin) or 1)))
        share = 1 - share if flipped else share
        return round(_MARGIN + (width - 2 * _MARGIN) * share, 1)

    drawn = [
        f'<svg xmlns="http://www.w3.org/2000/svg" width="{width}" height="{height}" '
        f'viewBox="0 0 {width} {height}" aria-label="{html.escape(shows)}">',
        f'<path d="M0 {top}H{width}M0 {top + 18}H{width}" stroke="#8a9a94" stroke-width="1"/>',
    ]
    start = place(scale if flipped else max(0, origin))
    drawn.append(f'<rect x="{start - 1.2}" y="{top}" width="2.4" height="18" fill="#20312f"/>')
    if lane["band"]:
        left, right = sorted(place(end) for end in lane["band"])
        drawn.append(_hatched(left, right, top))
    marks = [(place(rung["at"]), rung) for rung in lane["rungs"]]
    ticks = "".join(f"M{at} {top}v18" for at, _ in marks)
    drawn.append(f'<path d="{ticks}" stroke="#20312f" stroke-width="1.6"/>')
    for mark in lane["earlier"]:
        dashed = ' stroke-dasharray="2 1.6"' if mark["estimate"] else ""
        drawn.append(
            f'<circle cx="{place(mark["at"])}" cy="{middle}" r="3.6" fill="#fff" stroke="#20312f" '
            f'stroke-width="1.3"{dashed}/>'
        )
    if lane["best"] is not None:
        at = place(lane["best"])
        drawn.append(
            f'<path d="M{at} {middle - 4}V{top - 5}l8 3.2l-8 3.2" fill="#7a5200" stroke="#7a5200" '
            f'stroke-width="1.2"/>'
        )
    if lane["today"]:
        at, fill = place(lane["today"]["at"]), "#20312f"
        dashed = ""
        if lane["today"]["estimate"]:
            fill, dashed = "#fff", ' stroke="#20312f" stroke-dasharray="2 1.6"'
        drawn.append(
            f'<rect x="{at - 5}" y="{middle - 5}" width="10" height="10" rx="1.5" fill="{fill}"'
            f"{dashed}/>"
        )
    today = place(lane["today"]["at"]) if lane["today"] else None
    return {
        "svg": "".join(drawn) + "</svg>",
        "names": _labels([(at, str(rung["name"])) for at, rung in marks], today),
        "ticks": _labels([(at, str(rung["shown"])) for at, rung in marks], today),
    }


def _hatched(left: float, right: float, top: int) -> str:
    """A band of slanting strokes, each cut to the band: patterns print differently everywhere."""
    strokes = []
    at = left - 16
    while at < right:
        # From the lower edge up to the right, within the band.
        x1, x2 = max(at, left), min(at + 16, right)
        if x2 > x1:
            y1, y2 = top + 17 - (x1 - at), top + 17 - (x2 - at)
            strokes.append(f"M{x1:.1f} {y1:.1f}L{x2:.1f} {y2:.1f}")
        at += 5
    return f'<path d="{"".join(strokes)}" stroke="#9aa8a3" stroke-width="0.8" fill="none"/>'


#: What stands free between two words, in units.
_FREE: Final = 5.0


@cache
def _advances() -> tuple[Mapping[int, str], Mapping[str, tuple[int, int]], int]:
    """Of the face the words are set in: glyphs by character, their widths, and units of an em."""
    from fontTools.ttLib import TTFont

    font = TTFont(FONTS / "barlow-condensed/files/barlow-condensed-latin-500-normal.woff2")
    return font.getBestCmap(), font["hmtx"].metrics, font["head"].unitsPerEm


def _across(words: str) -> float:
    """How wide words are, in units of the lane."""
    glyphs, widths, em = _advances()
    # What the face lacks is set in another one, about as wide.
    each = (widths[glyphs.get(ord(letter), "n")][0] for letter in words)
    return sum(each) * _LETTERS / em


def _labels(marks: Sequence[tuple[float, str]], today: float | None) -> list[Label]:
    """Words at the rungs: those next to the last score first, the others where there is room, so
    that no two run into each other."""
    taken: list[tuple[float, float, str]] = []
    for at, words in sorted(marks, key=lambda mark: 0 if today is None else abs(mark[0] - today)):
        wide = _across(words)
        left = min(max(at, wide / 2), _WIDTH - wide / 2) - wide / 2
        if all(left + wide + _FREE <= begin or end + _FREE <= left for begin, end, _ in taken):
            taken.append((left, left + wide, words))
    found, end = [], 0.0
    for left, right, words in sorted(taken):
        found.append(Label(words=words, gap=round((left - end) / _WIDTH * 100, 2)))
        end = right
    return found
