"""What each column of a list holds: by its head, in several languages, and by what stands in it."""

from __future__ import annotations

import re
from collections.abc import Sequence
from dataclasses import dataclass
from enum import StrEnum
from typing import Final

from lauf.exchange.lists.dates import looks_like_date
from lauf.exchange.lists.tables import Table
from lauf.messages import say


class Column(StrEnum):
    """What a column can hold."""

    GIVEN = "given"
    FAMILY = "family"
    FULL = "full"
    BORN = "born"
    SEX = "sex"
    YEAR = "year"
    CLASS = "class"
    HOUSE = "house"
    NOTE = "note"
    NUMBER = "number"
    IGNORE = "ignore"


#: What a column holds, as said on screen.
COLUMN_WORDS: Final = {
    Column.GIVEN: say("first name"),
    Column.FAMILY: say("last name"),
    Column.FULL: say("whole name"),
    Column.BORN: say("birth date"),
    Column.SEX: say("girl or boy"),
    Column.YEAR: say("year group"),
    Column.CLASS: say("class"),
    Column.HOUSE: say("house"),
    Column.NOTE: say("medical note"),
    Column.NUMBER: say("own number"),
    Column.IGNORE: say("leave out"),
}
#: Heads by what they mean, as `_plain` makes them.
_HEADS: Final = {
    name: column
    for column, names in {
        Column.GIVEN: """first name|firstname|forename|forenames|given name|given names|given|first|
            legal forename|preferred forename|preferred name|chosen name|known as|vorname|vornamen|
            rufname|prenom|prenoms|nombre|nombres|givenname""",
        Column.FAMILY: """last name|lastname|surname|family name|family|last|legal surname|
            preferred surname|nachname|familienname|nom|nom de famille|apellido|apellidos|
            familyname|cognome""",
        Column.FULL: """name|full name|fullname|pupil|pupil name|student|student name|child|
            child name|childs name|display name|schuler|schulerin|schuler in|kind|eleve|alumno|
            nom et prenom|nom prenom|nombre completo|name des kindes""",
        Column.BORN: """date of birth|dob|d o b|birth date|birthdate|birthday|born|born on|
            geburtsdatum|geb|geb datum|geburtstag|geboren|date de naissance|ne e le|ne le|
            naissance|fecha de nacimiento|f nac""",
        Column.SEX: """sex|gender|m f|b g|boy girl|legal sex|geschlecht|sexe|sexo|m w""",
        Column.YEAR: """year|year group|yeargroup|yr|nc year|nc year group|grade|grade level|grades|
            level|stufe|jahrgang|jahrgangsstufe|klassenstufe|niveau|annee|curso|ano""",
        Column.CLASS: """class|class name|form|form group|reg|reg group|registration|
            registration group|tutor group|homeroom|group|klasse|classe|clase|lerngruppe""",
        Column.HOUSE: """house|house name|school house|haus|maison|casa|equipe""",
        Column.NOTE: """medical|medical note|medical notes|medical conditions|medical condition|
            medical info|medical information|health|health notes|allergies|allergy|notes|note|
            conditions|gesundheit|medizinischer hinweis|hinweis|hinweise|allergien|sante|
            remarques|observations medicales|alergias""",
        Column.NUMBER: """number|no|nr|id|pupil id|student id|pupil number|student number|
            admission number|admission no|adm no|adm number|upn|uln|roll number|roll no|sourcedid|
            identifier|user identifier|schulernummer|nummer|matricule|numero|n|misid""",
    }.items()
    for name in (" ".join(one.split()) for one in names.split("|"))
}  # fmt: skip
_LETTERS: Final = str.maketrans("äöüßéèêëàâçñíóúôîïûá", "aouseeeeaacniouoiiua")
_GIRL: Final = {"f", "female", "girl", "g", "w", "weiblich", "madchen", "fille", "feminin", "nina"}
_BOY: Final = {"m", "male", "boy", "b", "mannlich", "junge", "garcon", "masculin", "nino"}
_NO_SEX: Final = {"", "x", "d", "divers", "other", "u", "unknown", "not known", "prefer not to say",
                  "n a", "unspecified"}  # fmt: skip
_YEARS: Final = re.compile(
    r"(?:(?:year|yr|y|grade|gr|stufe|jahrgang|klasse|annee) ?)?(\d{1,2})(?:st|nd|rd|th)?"
    r"|reception|rec|r|nursery|n|kindergarten|k|pre k|cp|ce1|ce2|cm1|cm2"
)
#: Above the head there may stand the school's name, the date, a line without anything.
_LINES_BEFORE: Final = 12


def plain(cell: str) -> str:
    """A cell in small letters without accents and signs, as heads and years are compared."""
    letters = cell.lower().translate(_LETTERS).replace("'", "").replace("’", "")
    return " ".join(re.sub(r"[^a-z0-9]+", " ", letters).split())


def sex_of(cell: str) -> str | None:
    """ "female", "male", "" for one that is not said; None for what is no sex."""
    word = plain(cell)
    if word in _GIRL:
        return "female"
    if word in _BOY:
        return "male"
    return "" if word in _NO_SEX else None


@dataclass(frozen=True, slots=True)
class Head:
    """Which row of a table is its head (None without one), and what each column holds."""

    row: int | None
    columns: tuple[Column, ...]


def head_of(cells: Table) -> Head:
    """The columns of a list, by its head or by what stands in it."""
    width = len(cells[0]) if cells else 0
    best, found = None, 1 if width > 2 else 0
    for place, row in enumerate(cells[:_LINES_BEFORE]):
        if any(looks_like_date(cell) for cell in row):
            break
        known = sum(plain(cell) in _HEADS for cell in row)
        if known > found:
            best, found = place, known
    body = cells[(best + 1 if best is not None else 0) :]
    named = [_HEADS.get(plain(cell)) for cell in cells[best]] if best is not None else []
    columns: list[Column] = []
    for place in range(width):
        column = named[place] if named else None
        if column is None or (column in columns and column is not Column.NOTE):
            # A head that says nothing, or the same as another: what stands below may.
            values = [row[place] for row in body if row[place]]
            guess = _guess(values, columns) if not named else Column.IGNORE
            column = guess if guess not in columns else Column.IGNORE
        columns.append(column)
    return Head(best, tuple(_with_names(columns, body)))


def _guess(values: Sequence[str], taken: Sequence[Column]) -> Column:
    """What a column without a head holds."""
    if not values:
        return Column.IGNORE

    def most(number: int) -> bool:
        return number >= 0.8 * len(values)

    if most(sum(looks_like_date(one) for one in values)):
        return Column.BORN
    if most(sum(bool(sex_of(one)) for one in values)):
        return Column.SEX
    if most(sum(one.isdigit() and len(one) > 2 for one in values)):
        return Column.NUMBER
    if most(sum(bool(_YEARS.fullmatch(plain(one))) for one in values)):
        return Column.YEAR
    # A child's name has no digit in it, and hardly a class has none.
    if most(sum(any(c.isdigit() for c in one) and len(one) <= 12 for one in values)):
        return Column.CLASS
    if most(sum(any(c.isalpha() for c in one) for one in values)):
        spaced = sum(" " in one or "," in one for one in values)
        return _next_name(taken, whole=most(spaced))
    return Column.IGNORE


def _next_name(taken: Sequence[Column], *, whole: bool) -> Column:
    """What a column of names is, after those that are known."""
    if not {Column.GIVEN, Column.FAMILY, Column.FULL} & set(taken):
        return Column.FULL if whole else Column.GIVEN
    if Column.GIVEN in taken and Column.FAMILY not in taken:
        return Column.FAMILY
    return Column.IGNORE


def _with_names(columns: list[Column], body: Table) -> list[Column]:
    """One way to have a name: "Name" beside a first name is the family's; a first name alone that
    holds two is the whole."""
    if Column.FULL in columns and Column.GIVEN in columns and Column.FAMILY not in columns:
        place = columns.index(Column.FULL)
        if sum(" " in row[place] for row in body) <= len(body) / 2:
            columns[place] = Column.FAMILY
    if Column.FULL in columns and Column.GIVEN in columns:
        columns[columns.index(Column.FULL)] = Column.IGNORE
    if Column.FAMILY in columns and not {Column.GIVEN, Column.FULL} & set(columns):
        columns[columns.index(Column.FAMILY)] = Column.FULL
    return columns
