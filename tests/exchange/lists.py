"""Lists of children as offices export them, all made up: each with what a careful reader reads."""

from __future__ import annotations

import io
import zipfile
from collections.abc import Callable
from datetime import date, datetime
from typing import Any, NamedTuple

from openpyxl import Workbook

#: Given, family, birth date, sex, class of the same three children.
CHILDREN = [
    ("Ada", "Abara", date(2017, 3, 14), "female", "4 Heron"),
    ("Björn", "de Vance", date(2016, 11, 5), "male", "4 Heron"),
    ("Zoë", "O’Malley-Ruiz", date(2017, 8, 30), "female", "4 Swift"),
]


class Office(NamedTuple):
    """One file: what it is, its bytes, and what of the children can be known by it."""

    words: str
    data: bytes
    born: bool = True
    sex: bool = True
    school_class: bool = True


def lines(head: str, row: Callable[..., str], ends: str = "\n") -> str:
    return ends.join([*([head] if head else []), *(row(*child) for child in CHILDREN)]) + ends


def _iso(given: str, family: str, born: date, sex: str, group: str) -> str:
    return f"{given},{family},{born},{sex},{group}"


HEAD = "First name,Last name,Date of birth,Gender,Class"


def plain(separator: str = ",", ends: str = "\n", head: str = HEAD) -> str:
    return lines(head, _iso, ends).replace(",", separator)


def sheet(rows: list[list[Any]], title: str = "Sheet1") -> bytes:
    book = Workbook()
    page = book.active
    assert page is not None
    page.title = title
    for row in rows:
        page.append(row)
    held = io.BytesIO()
    book.save(held)
    return held.getvalue()


def packed(**files: str) -> bytes:
    held = io.BytesIO()
    with zipfile.ZipFile(held, "w") as archive:
        for name, text in files.items():
            archive.writestr(f"{name}.csv", text)
    return held.getvalue()


def _dated(form: str, separator: str = ",", head: str = HEAD) -> bytes:
    def row(given: str, family: str, born: date, sex: str, group: str) -> str:
        return separator.join([given, family, born.strftime(form), sex, group])

    return lines(head.replace(",", separator), row).encode()


def _full(form: str, head: str = "Name;DOB;Sex;Form") -> bytes:
    def row(given: str, family: str, born: date, sex: str, group: str) -> str:
        name = form.format(given=given, family=family, FAMILY=family.upper())
        return f"{name};{born:%d/%m/%Y};{sex[0].upper()};{group}"

    return lines(head, row).encode()


def _sexes(girl: str, boy: str, head: str = HEAD) -> bytes:
    return plain(head=head).replace("female", girl).replace(",male", f",{boy}").encode()


def offices() -> list[Office]:
    days = [(g, f, datetime(b.year, b.month, b.day), s, c) for g, f, b, s, c in CHILDREN]
    serial = [(b - date(1899, 12, 30)).days for _, _, b, _, _ in CHILDREN]
    table = [HEAD.split(","), *[list(one) for one in days]]
    return [
        Office("UTF-8, commas", plain().encode()),
        Office("UTF-8 with its mark", plain().encode("utf-8-sig")),
        Office("UTF-16 with its mark", plain().encode("utf-16")),
        Office("UTF-16, big end first, with its mark", b"\xfe\xff" + plain().encode("utf-16-be")),
        Office("UTF-16 without a mark", plain().encode("utf-16-le")),
        Office("Windows-1252", plain().encode("cp1252")),
        Office("semicolons", plain(";").encode()),
        Office("tabs, as cells are pasted", plain("\t").encode()),
        Office("bars", plain("|").encode()),
        Office("lines that end as on Windows", plain(ends="\r\n").encode()),
        Office("lines that end as on old Macs", plain(ends="\r").encode()),
        Office("a first line that names the separator", b"sep=;\r\n" + plain(";", "\r\n").encode()),
        Office("everything in quotes",
               "\n".join('"' + line.replace(",", '","') + '"'
                         for line in plain().splitlines()).encode()),
        Office("no head at all", lines("", _iso).encode()),
        Office("dd/mm/yyyy", _dated("%d/%m/%Y")),
        Office("d.m.yy", _dated("%d.%m.%y", ";")),
        Office("dd-mm-yyyy", _dated("%d-%m-%Y")),
        Office("31 May 2018", _dated("%d %B %Y")),
        Office("31-May-18", _dated("%d-%b-%y")),
        Office("May 31, 2018, in quotes", _dated('"%B %d, %Y"')),
        Office("months first, shown by one of them", _dated("%m/%d/%Y")),
        Office("with the time of day behind", _dated("%Y-%m-%d 00:00:00")),
        Office("the spreadsheet's own numbers as text",
               lines(HEAD, lambda g, f, b, s, c:
                     f"{g},{f},{(b - date(1899, 12, 30)).days},{s},{c}").encode()),
        Office("XLSX with dates", sheet(table)),
        Office("XLSX with numbers for dates",
               sheet([table[0], *[[*row[:2], n, *row[3:]]
                                  for row, n in zip(table[1:], serial, strict=True)]])),
        Office("XLSX with the school's name and the day above the head",
               sheet([["Larkmere Primary"], ["Printed for the office"], [], *table])),
        Office("XLSX with empty columns, rows and a sum below",
               sheet([[None, *row] for row in [*table, [], ["Total", "3"]]])),
        Office("Given Family in one column", _full("{given} {family}")),
        Office("Family, Given in one column", _full("{family}, {given}")),
        Office("FAMILY Given in one column", _full("{FAMILY} {given}")),
        Office("German heads",
               plain(";", head="Vorname,Name,Geburtsdatum,Geschlecht,Klasse")
               .replace(";female", ";w").replace(";male", ";m").encode("cp1252")),
        Office("French heads",
               plain(";", head="Prénom,Nom,Date de naissance,Sexe,Classe")
               .replace(";female", ";F").replace(";male", ";M").encode("cp1252")),
        Office("Spanish heads",
               plain(";", head="Nombre,Apellidos,Fecha de nacimiento,Sexo,Clase")
               .replace(";female", ";niña").replace(";male", ";niño").encode()),
        Office("heads in capitals with signs",
               plain(head="FORENAME*,LEGAL SURNAME,D.O.B.,M/F,REG. GROUP").encode()),
        Office("girl and boy", _sexes("girl", "boy")),
        Office("F and M", _sexes("F", "M")),
        Office("columns in another order, with others between",
               lines("Class,UPN,Gender,Surname,House,DOB,Forename,Meals",
                     lambda g, f, b, s, c: f"{c},U{b:%d%m},{s},{f},Elm,{b},{g},yes").encode()),
        Office("spaces of all kinds around cells",
               plain().replace(",", " ,\u00a0 ").encode()),
        Office("names alone, one a line",
               lines("", lambda g, f, *_: f"{g} {f}").encode(), born=False, sex=False,
               school_class=False),
        Office("names and birth dates", lines("", lambda g, f, b, *_: f"{g} {f}, {b}").encode(),
               sex=False, school_class=False),
        Office("a zip with one list in it", packed(children=plain())),
    ]  # fmt: skip
