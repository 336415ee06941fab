"""Result files that were made to do harm: none takes a page down, none counts as two schools, and
the organiser can remove any."""

from __future__ import annotations

import base64

import pytest
from django.db import IntegrityError, connection, transaction

from lauf.challenges.models import GamesResult, GamesSchool
from lauf.exchange.games.signing import is_as_signed
from lauf.exchange.package.tables import tables
from lauf.exchange.package.write import write_package
from tests.api.challenges.test_games import know, page, table
from tests.api.conftest import World
from tests.api.games import FarSchool, file_of, new_games, send

# edwards25519 (RFC 8032, section 5.1), plainly: what the checks of keys are held against.
P = 2**255 - 19
D = -121665 * pow(121666, -1, P) % P
BASE_Y = 4 * pow(5, -1, P) % P
Point = tuple[int, int]


def x_of(y: int) -> int | None:
    """The even x of a point, where there is one."""
    square = (y * y - 1) * pow(D * y * y + 1, -1, P) % P
    x = pow(square, (P + 3) // 8, P)
    if (x * x - square) % P:
        x = x * pow(2, (P - 1) // 4, P) % P
    if (x * x - square) % P:
        return None
    return P - x if x % 2 else x


def add(one: Point, other: Point) -> Point:
    (x1, y1), (x2, y2) = one, other
    dd = D * x1 * x2 * y1 * y2
    return (
        (x1 * y2 + x2 * y1) * pow(1 + dd, -1, P) % P,
        (y1 * y2 + x1 * x2) * pow(1 - dd, -1, P) % P,
    )


def times(number: int, point: Point) -> Point:
    found = (0, 1)
    for bit in bin(number)[2:]:
        found = add(found, found)
        found = add(found, point) if bit == "1" else found
    return found


def spelled(y: int, sign: int = 0) -> bytes:
    return (y | sign << 255).to_bytes(32, "little")


def text(raw: bytes) -> str:
    return base64.b64encode(raw).decode()


def low_order_ys() -> set[int]:
    """Every y of a point whose order divides 8: those of the doublings back from the neutral one.
    A point of order 8 doubles to one of order 4, whose y is 0: y² = x² there, and on the curve."""
    # 1 + d·y⁴ = 2y² where −x² + y² = 1 + d·x²y² and x² = −y² would hold no point; with x² = y²
    # doubled y is (y² + x²)/(1 − d·x²y²); it is 0 where x² = −y²: −d·y⁴ − 2y² + 1 = 0.
    found = {0, 1, P - 1}
    root = pow((1 + D) % P, (P + 3) // 8, P)
    roots = {root, root * pow(2, (P - 1) // 4, P) % P}
    for one in roots:
        for sign in (1, -1):
            square = (-1 + sign * one) * pow(D, -1, P) % P
            for y in (pow(square, (P + 3) // 8, P),
                      pow(square, (P + 3) // 8, P) * pow(2, (P - 1) // 4, P) % P):  # fmt: skip
                x = x_of(y)
                if (y * y - square) % P == 0 and x is not None and times(8, (x, y)) == (0, 1):
                    found |= {y, P - y}
    return found


def test_keys_of_low_order_sign_nothing() -> None:
    """With such a key one signature fits any body: no school can be known by it."""
    ys = low_order_ys()
    assert len(ys) == 5, "four points have order 8, two 4, one 2, and the neutral one"
    body, other = {"a": 1}, {"a": 2}
    x = x_of(BASE_Y)
    assert x is not None
    nonce = 5
    px, py = times(nonce, (x, BASE_Y))
    forged = spelled(py, px % 2) + nonce.to_bytes(32, "little")
    # The neutral point as a key: s·B = R + h·0, whatever is signed.
    neutral = text(spelled(1))
    assert not is_as_signed(body, neutral, text(forged))
    assert not is_as_signed(other, neutral, text(forged))
    for y in (*ys, P, P + 1):
        for sign in (0, 1):
            assert not is_as_signed(body, text(spelled(y, sign)), text(forged))


@pytest.fixture
def games(world: World) -> str:
    return str(new_games(world)["id"])


def test_one_key_in_other_letters_is_refused(world: World, games: str) -> None:
    """The last letter of a key in base64 has two bits that mean nothing."""
    far = FarSchool("Harbour School", file_of(world, games))
    file = far.result()
    assert send(world, games, file).status_code == 200
    letters = "ABCDEFGHIJKLMNOPQRSTUVWXYZabcdefghijklmnopqrstuvwxyz0123456789+/"
    for name in ("signed_by", "signature"):
        plain = file[name].rstrip("=")
        for more in (1, 2, 3):
            last = letters[letters.index(plain[-1]) + more]
            again = {**file, name: plain[:-1] + last + "=" * (len(file[name]) - len(plain))}
            raw = base64.b64decode(again[name])
            assert raw == base64.b64decode(file[name]), "the same bytes"
            answer = send(world, games, again)
            assert (
                answer.status_code == 422
                and "changed after it was signed" in answer.json()["message"]
            )
    assert GamesSchool.objects.filter(games=games).count() == 1


@pytest.mark.parametrize(
    "moment", ["9999-12-31T23:59:59-14:00", "0001-01-01T00:00:00+14:00", "2100-01-01T00:00:00Z"]
)
def test_a_result_of_no_age_is_refused(world: World, games: str, moment: str) -> None:
    file = FarSchool("Harbour School", file_of(world, games)).result(made_at=moment)
    answer = send(world, games, file)
    assert answer.status_code == 422 and "between 2000 and 2099" in answer.json()["message"]
    assert page(world, games)["files"] == []


def test_every_time_of_a_package_has_bounds_in_the_database(world: World) -> None:
    """Whatever brings a row in: a date beyond what a calendar can count is refused."""
    with connection.cursor() as cursor:
        cursor.execute(
            "SELECT conrelid::regclass::text, pg_get_constraintdef(oid) FROM pg_constraint "
            "WHERE contype = 'c'"
        )
        checks: dict[str, str] = {}
        for name, words in cursor.fetchall():
            checks[name] = checks.get(name, "") + words
    dated = [
        (table.name, column)
        for table in tables()
        for field in table.fields
        for column in [str(field.column)]
        if field.get_internal_type() in ("DateField", "DateTimeField")
    ]
    assert len(dated) > 40
    bare = [
        f"{name}.{column}"
        for name, column in dated
        if not any(f"({form} {sign} '" in checks.get(name, "")
                   for form in (column, f'"{column}"') for sign in (">=", "<="))
    ]  # fmt: skip
    # It lies between the first and the last day, which have bounds.
    bare = [one for one in bare if one != "challenges_games.ends_on"]
    assert bare == [], "give it a check between 2000 and 2099, as challenges 0007 does"


def test_a_row_that_cannot_be_read_takes_nothing_down_and_can_be_removed(
    world: World, games: str
) -> None:
    """A package may bring any JSON: the page shows it, the others count, and it is removed."""
    good = FarSchool("Harbour School", file_of(world, games))
    bad = FarSchool("Quarry Hill", file_of(world, games))
    for far in (good, bad):
        assert send(world, games, far.result()).status_code == 200
        know(world, games, far.name)
    row = GamesResult.objects.get(sent_by__name="Quarry Hill")
    for body in ({}, {"children": "many"}, [], "x", {**row.body, "tests": [{"code": "other"}]}):
        GamesResult.objects.filter(pk=row.pk).update(body=body)
        files = {one["school"]: one for one in page(world, games)["files"]}
        assert files["Quarry Hill"]["state"] == "unreadable"
        assert "should be removed" in files["Quarry Hill"]["words"]
        assert [line[1] for line in table(world, games)] == ["Harbour School"]
        assert write_package(world.school)
    path = f"/api/games/{games}/results/{row.pk}"
    removed = world.head.ask("DELETE", path)
    assert removed.status_code == 200
    assert [one["school"] for one in removed.json()["files"]] == ["Harbour School"]
    assert "removed" in removed.json()["notes"][0]["words"]
    assert not GamesSchool.objects.filter(name="Quarry Hill").exists()
    assert world.head.ask("DELETE", path).status_code == 404
    # Sent once more it is there again.
    assert send(world, games, bad.result()).status_code == 200


def test_the_database_takes_no_result_of_no_age(world: World, games: str) -> None:
    send(world, games, FarSchool("Harbour School", file_of(world, games)).result())
    with pytest.raises(IntegrityError), transaction.atomic(), connection.cursor() as cursor:
        cursor.execute("UPDATE challenges_gamesresult SET made_at = '9999-12-31 23:59:59-14'")
