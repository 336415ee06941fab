"""The lane, drawn for print: the same picture as on screen, in ink."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from typing import Any, Final
from xml.sax.saxutils import escape

_MARGIN = 10


def lane_svg(lane: Mapping[str, Any], width: int = 440, *, named: bool = True) -> str:
    """One lane as SVG: left edge nought (or the lowest), rungs as ticks with their names, earlier
    scores hollow, the last one solid, the best with a pennant, day-to-day variation hatched. Right
    is always better.

    lane   as `judgement.picture.lane_of` makes it, put to scale
    """
    top = 20 if named else 6
    height = top + (36 if named else 22)
    middle = top + 9
    origin, scale = float(lane["origin"]), float(lane["scale"])
    flipped = lane["better"] == "down"

    def place(value: float) -> float:
        share = min(1.0, max(0.0, (value - origin) / ((scale - origin) or 1)))
        share = 1 - share if flipped else share
        return round(_MARGIN + (width - 2 * _MARGIN) * share, 1)

    drawn = [
        f'<svg xmlns="http://www.w3.org/2000/svg" class="lane" width="{width}" height="{height}" '
        f'viewBox="0 0 {width} {height}">',
        f'<path d="M0 {top}H{width}M0 {top + 18}H{width}" stroke="#8a9a94" stroke-width="1"/>',
    ]
    start = place(scale if flipped else max(0, origin))
    drawn.append(f'<rect x="{start - 1.2}" y="{top}" width="2.4" height="18" fill="#20312f"/>')
    if lane["band"]:
        left, right = sorted(place(end) for end in lane["band"])
        drawn.append(_hatched(left, right, top))
    marks = [(place(rung["at"]), rung) for rung in lane["rungs"]]
    for at, _ in marks:
        drawn.append(f'<path d="M{at} {top}v18" stroke="#20312f" stroke-width="1.6"/>')
    if named:
        today = lane["today"]["at"] if lane["today"] else None
        drawn += _labels(marks, "name", today, top - 5, width)
        drawn += _labels(marks, "shown", today, top + 29, width)
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
    return "".join(drawn) + "</svg>"


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


#: How wide a letter of the condensed face is, and what stands free between two words.
_LETTER: Final = 4.6
_FREE: Final = 5.0


def _labels(
    marks: Sequence[tuple[float, Mapping[str, Any]]], what: str, today: float | None, y: float,
    width: float,
) -> list[str]:  # fmt: skip
    """Names or thresholds over the rungs: those next to the last score first, the others where
    there is room, so that no two run into each other."""
    near = sorted(
        marks, key=lambda mark: 0.0 if today is None else abs(float(mark[1]["at"]) - today)
    )
    taken: list[tuple[float, float]] = []
    drawn = []
    for at, rung in near:
        words = str(rung[what])
        half = len(words) * _LETTER / 2
        middle = min(max(at, half), width - half)
        left, right = middle - half - _FREE / 2, middle + half + _FREE / 2
        if any(left < end and begin < right for begin, end in taken):
            continue
        taken.append((left, right))
        drawn.append(
            f'<text x="{middle:.1f}" y="{y}" text-anchor="middle" font-size="10.5" '
            f'font-family="Barlow Condensed" font-weight="500" fill="#16211f">'
            f"{escape(words)}</text>"
        )
    return drawn
