"""Norm tables from files: percentile and LMS tables as CSV, read with every fault by row and
column."""

from __future__ import annotations

import pytest

from lauf.rules.judging.norm_tables import read_table

GOOD_TABLE = "sex,age,P10,P50,P90\ngirl,8,10,20,30\nboy,8,12,22,32\n"


def test_a_table_is_read_from_a_file() -> None:
    table = read_table(GOOD_TABLE).percentiles
    assert table is not None
    assert table.percentiles == (10, 50, 90)
    assert table.standing(22, 8.4, "male").percentile == pytest.approx(50)
    lms = read_table("\ufeffsex;age;L;M;S\nf;8;1;128,1;0,04\nf;9;1;133,2;0,04\n").lms
    assert lms is not None
    assert lms.standing(128.1, 8.0, "female").percentile == pytest.approx(50)


@pytest.mark.parametrize(
    ("text", "places"),
    [
        ("", [(1, "")]),
        ("age,P50\n8,20", [(1, "sex")]),
        ("sex,age,score\ngirl,8,20", [(1, "")]),
        (GOOD_TABLE + "girl,9,1o,20,30\nboy,9,12,,32\n", [(4, "P10"), (5, "P50")]),
        (GOOD_TABLE + "boys,8,13,23,33\n", [(4, "age")]),
        (GOOD_TABLE + "robot,9,13,23,33\n", [(4, "sex")]),
        (GOOD_TABLE + "girl,9,20,10,30\n", [(4, "P50")]),
        (GOOD_TABLE + "girl,9\n", [(4, "")]),
        ("sex,age,P10,P50\n", [(2, "")]),
        ("sex,age,P0,P50\ngirl,8,1,2", [(1, "")]),
        # A median or a spread of nothing divides by it.
        ("sex,age,L,M,S\ngirl,8,1,0,0.1\nboy,8,1,20,0\n", [(2, "M"), (3, "S")]),
        ("sex,age,L,M,S\ngirl,8,1,-4,0.1\n", [(2, "M")]),
        # As a float, four hundred digits are more than there is.
        (f"sex,age,P50\ngirl,8,{'1' * 400}\nboy,{'9' * 400},20\n", [(2, "P50"), (3, "age")]),
    ],
)
def test_faults_are_told_by_row_and_column(text: str, places: list[tuple[int, str]]) -> None:
    read = read_table(text)
    assert read.percentiles is None and read.lms is None
    assert [(fault.row, fault.column) for fault in read.faults] == places
    assert all(fault.words.endswith(".") and len(fault.words) < 150 for fault in read.faults)
