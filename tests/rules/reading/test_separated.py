"""Text with separators as rows of cells."""

from __future__ import annotations

import csv

import pytest
from hypothesis import given
from hypothesis import strategies as st

from lauf.rules.reading.separated import SEPARATORS, cells_of, separator_of


@pytest.mark.parametrize(
    ("text", "rows"),
    [
        ("a,b\n1,2\n", [["a", "b"], ["1", "2"]]),
        ("a;b\r\n1,5;2\r\n", [["a", "b"], ["1,5", "2"]]),
        ("a\tb\r1\t2", [["a", "b"], ["1", "2"]]),
        ("a|b\n1|2", [["a", "b"], ["1", "2"]]),
        # A first line may name it, in letters of any size; then the rest is not looked at.
        ("sep=;\na;b,c\n1;2,3", [["a", "b,c"], ["1", "2,3"]]),
        ("SEP=,\r\na;b,c\r\n", [["a;b", "c"]]),
        ("one column\nonly", [["one column"], ["only"]]),
        ("", []),
        ('a,b\n"1,2",3', [["a", "b"], ["1,2", "3"]]),
        # More cells decide where as many rows agree.
        ("a;b;c,d\n1;2;3,4", [["a", "b", "c,d"], ["1", "2", "3,4"]]),
        # More rows decide before more cells: a list of names with one odd row.
        ("a,b\n1,2\n3,4\nx;y;z;w", [["a", "b"], ["1", "2"], ["3", "4"], ["x;y;z;w"]]),
        # Empty rows say nothing of the separator.
        ("\n\n\na;b\n\n1;2\n", [[], [], [], ["a", "b"], [], ["1", "2"]]),
    ],
)
def test_a_text_is_cut_where_its_writer_meant_it(text: str, rows: list[list[str]]) -> None:
    assert cells_of(text) == rows


@given(
    st.sampled_from(SEPARATORS),
    st.lists(st.lists(st.text("abc 1", min_size=1), min_size=2, max_size=5), min_size=1),
    st.sampled_from(["\n", "\r\n", "\r"]),
)
def test_what_was_written_is_read_again(separator: str, rows: list[list[str]], end: str) -> None:
    width = len(rows[0])
    rows = [(row + [" "] * width)[:width] for row in rows]
    assert cells_of(end.join(separator.join(row) for row in rows)) == rows


def test_what_comes_first_is_enough_to_tell_by() -> None:
    text = "a;b\n" * 60 + "x,y\n" * 500
    assert separator_of(text) == ";"


def test_a_quote_without_end_is_no_table() -> None:
    # Python's own limit: a library of the tests takes it away for all of the process.
    before = csv.field_size_limit(131_072)
    try:
        with pytest.raises(csv.Error):
            cells_of('a,b\n"' + "x" * 200_000)
    finally:
        csv.field_size_limit(before)
