"""Pages on paper: many of them by two processes, and one file all the same."""

from __future__ import annotations

import io
import subprocess
import sys
from collections.abc import Iterator
from typing import Any

import pytest
from pypdf import PdfReader

from lauf.exchange.paper import apart
from lauf.exchange.paper.pages import BOXES_A_PAGE, sheet_forms
from lauf.exchange.paper.render import Form
from tests.support.papers import pages_of

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
    two = '<p>Here</p><p style="break-before:page">There</p>'
    parts = [
        (Form(tall), Form(short)), (Form(tall), Form(tall)), (Form(two, 2), Form(short)),
        short, short,
    ]  # fmt: skip
    made = apart.pdf_of("x", parts, lambda: None)
    assert made is not None
    assert len(PdfReader(io.BytesIO(made)).pages) == 1 + 2 + 2 + 2


def structure(node: Any) -> Iterator[Any]:
    """Every element of a PDF's tags."""
    if isinstance(node, list):
        for one in node:
            yield from structure(one.get_object())
    elif isinstance(node, dict) and "/S" in node:
        yield node
        yield from structure(node["/K"].get_object() if "/K" in node else [])


@pytest.mark.parametrize("number", [1, 6])
def test_a_file_says_what_each_part_of_it_is(number: int) -> None:
    """Title, language, and tags that lead from every page and to every page (ISO 14289-1, 7)."""
    table = '<table><tr><th scope="col">Child</th></tr><tr><td>Romy</td></tr></table>'
    shown = DRAWING.replace("<svg", '<svg aria-label="A line"')
    made = apart.pdf_of("Lists", [f"<h1>List</h1>{table}{shown}"] * number, lambda: None)
    read = PdfReader(io.BytesIO(made or b""))
    root: Any = read.root_object
    assert root["/MarkInfo"]["/Marked"] and root["/Lang"] == "en-GB"
    assert root["/ViewerPreferences"]["/DisplayDocTitle"]
    tags = list(structure(root["/StructTreeRoot"]["/K"].get_object()))
    kinds = [one["/S"] for one in tags]
    assert kinds.count("/H1") == kinds.count("/TH") == kinds.count("/Figure") == number
    assert {one["/Alt"] for one in tags if one["/S"] == "/Figure"} == {"A line"}
    # From a page to its tags, and from them back to it.
    places = [page["/StructParents"] for page in read.pages]
    keys = root["/StructTreeRoot"]["/ParentTree"]["/Nums"][::2]
    assert places == list(range(number)) and set(places) <= set(keys)
    pages = {page.indirect_reference.idnum for page in read.pages if page.indirect_reference}
    assert {one.raw_get("/Pg").idnum for one in tags if "/Pg" in one} == pages


def sheet_of(rows: int, boxes: int) -> list[str]:
    """A recording sheet with rules as a ready test has them, page after page."""
    sheet = {
        "title": "Press-ups in 60 s", "class_name": "4 Heron", "foot": "a absent. " * 12,
        "rules": ["60 s by the clock. At most 60. " * 2, "Counts: elbows bend. " * 8] * 2,
        "columns": [f"Box {n}" for n in range(boxes)],
    }  # fmt: skip
    lines = [
        {"number": n, "name": f"Romy Rosario {n}", "kept_from": False, "cells": [""] * boxes}
        for n in range(1, rows + 1)
    ]
    forms = sheet_forms(sheet, lines, lambda *_: (DRAWING, "x"), beside=max(boxes, BOXES_A_PAGE))
    return pages_of(apart.pdf_of("x", [forms], lambda: None) or b"")


@pytest.mark.parametrize(("rows", "boxes", "pages"), [(8, 3, 1), (28, 3, 1), (30, 10, 1)])
def test_a_class_stands_on_one_recording_sheet(rows: int, boxes: int, pages: int) -> None:
    assert len(sheet_of(rows, boxes)) == pages


def test_a_longer_list_goes_on_with_as_many_rows_on_each_page() -> None:
    first, second = sheet_of(44, 3)
    assert "Romy Rosario 22" in first and "Romy Rosario 23" not in first
    assert "Romy Rosario 23" in second and "Romy Rosario 44" in second
    assert "page 1 of 2" in first and "page 2 of 2" in second


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
