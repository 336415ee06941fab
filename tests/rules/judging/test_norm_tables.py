"""Norm tables from files: percentile and LMS tables as CSV, read with every fault by row and
column."""

from __future__ import annotations

import pytest

from lauf.rules.judging.norm_tables import MOST_ROWS, read_table
from lauf.rules.reading.quantities import Better

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
        ("sex,age,P50,P50\ngirl,8,1,2", [(1, "")]),
        ("sex,age,P50\ngirl,0,1\ngirl,25,1\ngirl,-1,2", [(2, "age"), (3, "age"), (4, "age")]),
        ("sex,age,L,M,S\ngirl,8,1,20,1\ngirl,9,11,20,0.1\ngirl,9,-11,20,0.1\n",
         [(2, "S"), (3, "L"), (4, "L")]),
        # A median or a spread of nothing divides by it.
        ("sex,age,L,M,S\ngirl,8,1,0,0.1\nboy,8,1,20,0\n", [(2, "M"), (3, "S")]),
        ("sex,age,L,M,S\ngirl,8,1,-4,0.1\n", [(2, "M")]),
        # As a float, four hundred digits are more than there is.
        (f"sex,age,P50\ngirl,8,{'1' * 400}\nboy,{'9' * 400},20\n", [(2, "P50"), (3, "age")]),
    ],
)  # fmt: skip
def test_faults_are_told_by_row_and_column(text: str, places: list[tuple[int, str]]) -> None:
    read = read_table(text)
    assert read.percentiles is None and read.lms is None
    assert [(fault.row, fault.column) for fault in read.faults] == places
    assert all(fault.words.endswith(".") and len(fault.words) < 150 for fault in read.faults)


def test_what_lies_at_the_ends_is_read() -> None:
    table = read_table("age,sex,P99.9,P0.4\n0.5,,9,1\n24.9,,9,1\n").percentiles
    assert table is not None and table.percentiles == (0.4, 99.9), "in their own order"
    assert table.rows["", 24.9] == (1, 9) and not table.at_points
    points = read_table("sex,age,P50\n,8,1", at_points=True)
    assert points.faults == () and points.percentiles is not None and points.percentiles.at_points
    lms = read_table("age,s,sex,m,l\n8,0.99,f,0.5,10\n9,0.01,f,0.6,-10\n").lms
    assert lms is not None and (lms.rows["female"][0].l, lms.rows["female"][0].m) == (10, 0.5)
    level = read_table("sex,age,P10,P50\ngirl,8,10,10\n").percentiles
    assert level is not None, "scores may stand still from one percentile to the next"


def test_a_table_has_so_many_rows_and_no_more() -> None:
    rows = [f"girl,{8 + number / 1000:.3f},1" for number in range(MOST_ROWS + 1)]
    assert read_table("\n".join(["sex,age,P50", *rows[:-1]])).percentiles is not None
    (fault,) = read_table("\n".join(["sex,age,P50", *rows])).faults
    assert fault.row == MOST_ROWS + 2 and str(MOST_ROWS) in fault.words


@pytest.mark.parametrize(
    ("rows", "words"),
    [
        (GOOD_TABLE + "boy,8,13,23,33\n", ("Row 3",)),
        (GOOD_TABLE + "girl,9,10,20,15\n", ("15 is worse than 20 in column P50",)),
        (GOOD_TABLE + "girl,9,1o,20,15\n", ("“1o” is not a number", "such as 12.5")),
        (GOOD_TABLE + "girl,9,,20,15\n", ("The cell is empty", "such as 12.5")),
        (GOOD_TABLE + "girl,9,1234567890,20,15\n", ("more than nine digits",)),
        (GOOD_TABLE + f"girl,9,{'x' * 99},20,15\n", (f"“{'x' * 40}” is not",)),
    ],
)
def test_a_fault_says_what_stands_there(rows: str, words: tuple[str, ...]) -> None:
    (fault,) = read_table(rows).faults
    assert all(part in fault.words for part in words), fault.words


def test_where_less_is_better_scores_fall_with_the_percentile() -> None:
    falling = "sex,age,P10,P50\ngirl,8,12.5,11\n"
    assert read_table(falling, Better.DOWN).percentiles is not None
    (fault,) = read_table(falling).faults
    assert "11 is worse than 12.5 in column P10" in fault.words
