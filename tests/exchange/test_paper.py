"""Pages on paper: many of them by two processes, and one file all the same."""

from __future__ import annotations

import io
import subprocess
import sys

import pytest
from pypdf import PdfReader

from lauf.exchange.paper import apart

DRAWING = (
    '<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 10 10"><path d="M0 0H10" stroke="#000"/>'
    "</svg>"
)


@pytest.mark.parametrize("number", [1, 5, 6])
def test_every_part_is_in_the_file_in_its_place(number: int) -> None:
    told: list[None] = []
    parts = [f"<h1>Part {place}</h1>{DRAWING}" for place in range(number)]
    made = apart.pdf_of("Reports of 4 Heron", parts, lambda: told.append(None))
    assert made is not None
    read = PdfReader(io.BytesIO(made))
    assert [page.extract_text().strip() for page in read.pages] == [
        f"Part {place}" for place in range(number)
    ]
    assert len(told) == number
    assert read.metadata is not None and read.metadata.title == "Reports of 4 Heron"


def test_a_part_stands_on_one_page_where_any_of_its_forms_does() -> None:
    tall, short = "<p>Long</p>" * 80, "<p>Short</p>"
    made = apart.pdf_of("x", [(tall, short), (tall, tall), short, short, short], lambda: None)
    assert made is not None
    assert len(PdfReader(io.BytesIO(made)).pages) == 1 + 2 + 3


DOTS = "import sys; sys.stdin.read(); print(end='...'); sys.stdout.flush(); "


@pytest.mark.parametrize(
    "script", ["", DOTS + "sys.exit(1)", DOTS + "print('%PDF-1.7 and no more'); sys.exit(1)"]
)
def test_a_process_that_ends_is_told(monkeypatch: pytest.MonkeyPatch, script: str) -> None:
    """Before anything, after its parts, and in the middle of its file."""

    def ends(_module: str, **more: int) -> subprocess.Popen[bytes]:
        return subprocess.Popen([sys.executable, "-c", script], **more)  # type: ignore[call-overload,no-any-return]

    monkeypatch.setattr(apart, "begun_apart", ends)
    with pytest.raises((RuntimeError, OSError)):
        apart.pdf_of("x", ["<p></p>"] * 6, lambda: None)


@pytest.mark.parametrize("wanted", ["file:///etc/hostname", "drawing:7", "https://elsewhere"])
def test_what_a_line_holds_fetches_nothing(wanted: str) -> None:
    made = apart.pdf_of("x", [f'<p>Line</p><img src="{wanted}" alt="">'], lambda: None)
    assert made is not None
    (page,) = PdfReader(io.BytesIO(made)).pages
    assert page.extract_text().strip() == "Line" and not page.images
