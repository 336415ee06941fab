"""HTML to PDF by WeasyPrint: only the house's own fonts are read, and they are embedded.

A drawing is read by itself: among the HTML it went through the slow reading of that, and each of
its lines was asked whether a style is meant for it.
"""

from __future__ import annotations

import html
import re
from collections.abc import Sequence
from functools import cache
from pathlib import Path
from typing import Any, Final, NamedTuple

from lauf.messages import LANGUAGE

_INSIDE: Final = Path(__file__).resolve().parents[2] / "fonts"
#: Fonts as the front end bundles them, in an installed Lauf inside of it: family, weight and file,
#: latin before its extension.
FONTS: Final = (
    _INSIDE if _INSIDE.is_dir()
    else Path(__file__).resolve().parents[4] / "frontend" / "node_modules" / "@fontsource"
)  # fmt: skip
_FACES: Final = (
    ("Atkinson Hyperlegible", 400, "atkinson-hyperlegible"),
    ("Atkinson Hyperlegible", 700, "atkinson-hyperlegible"),
    ("Barlow Condensed", 500, "barlow-condensed"),
    ("Barlow Condensed", 600, "barlow-condensed"),
)
_RANGES: Final = {
    "latin-ext": "U+0100-02BA, U+1E00-1E9F, U+1EF2-1EFF, U+2C60-2C7F, U+A720-A7FF",
    "latin": "U+0000-00FF, U+0131, U+0152-0153, U+2000-206F, U+2074, U+20AC, U+2212",
}


def faces() -> str:
    """The fonts' CSS."""
    found = []
    for family, weight, folder in _FACES:
        for part, chars in _RANGES.items():
            file = FONTS / folder / "files" / f"{folder}-{part}-{weight}-normal.woff2"
            found.append(
                f"@font-face{{font-family:'{family}';font-weight:{weight};unicode-range:{chars};"
                f"src:url('{file.as_uri()}')}}"
            )
    return "".join(found)


_DRAWING: Final = re.compile(r"<svg\b([^>]*)>.*?</svg>", re.DOTALL)
#: What a drawing shows, for who has the page read out.
_SHOWS: Final = re.compile(r'aria-label="([^"]*)"')


@cache
def _fetcher() -> Any:
    """Makes readers of what a part holds, and of nothing else: the house's fonts, and the part's
    own drawings by their numbers. Nothing that a name or a line may hold fetches anything."""
    from weasyprint.urls import URLFetcher, URLFetcherResponse

    class FontsAndDrawings(URLFetcher):  # type: ignore[misc]
        def __init__(self, drawings: Sequence[str] = ()) -> None:
            super().__init__(allowed_protocols={"file"})
            self._drawings = drawings

        def fetch(self, url: str, headers: Any = None) -> Any:
            if url.startswith("drawing:"):
                drawn = self._drawings[int(url.removeprefix("drawing:"))]
                return URLFetcherResponse(url, drawn, {"Content-Type": "image/svg+xml"})
            if not url.startswith(FONTS.as_uri() + "/") or ".." in url:
                raise ValueError("only the house's fonts are read")
            return super().fetch(url, headers)

    return FontsAndDrawings


@cache
def _style() -> tuple[Any, Any]:
    """The parsed style sheet and its fonts, once: they are the longest of a page."""
    import weasyprint
    from weasyprint.text.fonts import FontConfiguration

    fonts = FontConfiguration()
    text = faces() + (Path(__file__).parent / "house.css").read_text()
    return weasyprint.CSS(string=text, font_config=fonts, url_fetcher=_fetcher()()), fonts


class Form(NamedTuple):
    """A part of a PDF with so much room between, and on how many pages it is to stand."""

    html: str
    pages: int = 1


#: A part of a PDF: of one page or more, or in several forms, each with less room between than the
#: one before, of which the first that stands on its pages is taken, else the last.
Part = str | tuple[Form, ...]


class Layout:
    """A PDF in the making: parts are laid out one after the other, then written as one file, so
    that each font is in it once."""

    def __init__(self, title: str, language: str = LANGUAGE) -> None:
        self._title, self._language = html.escape(title), language
        self._laid: list[Any] = []

    def add(self, part: Part) -> None:
        """Lay out one part."""
        forms = (Form(part),) if isinstance(part, str) else part
        for form in forms:
            laid = self._lay_out(form.html)
            if len(laid.pages) <= form.pages:
                break
        self._laid.append(laid)

    def _lay_out(self, page: str) -> Any:
        import weasyprint

        style, fonts = _style()
        drawings: list[str] = []

        def put_by(found: re.Match[str]) -> str:
            drawings.append(found[0])
            shows = _SHOWS.search(found[1])
            return f'<img src="drawing:{len(drawings) - 1}" alt="{shows[1] if shows else ""}">'

        written = _DRAWING.sub(put_by, page)
        head = f"<head><title>{self._title}</title></head>"
        whole = f'<html lang="{self._language}">{head}<body>{written}</body></html>'
        document = weasyprint.HTML(string=whole, url_fetcher=_fetcher()(drawings))
        return document.render(stylesheets=[style], font_config=fonts)

    def write(self) -> bytes:
        """The file, tagged for who has it read out (PDF/UA, ISO 14289). At least one part has been
        added."""
        pages = [page for one in self._laid for page in one.pages]
        return bytes(self._laid[0].copy(pages).write_pdf(pdf_variant="pdf/ua-1"))
