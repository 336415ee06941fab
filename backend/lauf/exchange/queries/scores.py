"""Files in open formats."""

from __future__ import annotations

import csv
import io
import re
from typing import Any, Final
from uuid import UUID

from lauf.catalogue.queries import for_everybody, sees
from lauf.errors import Denied
from lauf.exchange.score_sheet import score_sheet
from lauf.lessons.queries import activity_of, day_of
from lauf.messages import say
from lauf.people.models import Staff

#: A cell that begins with one of these could be run as a formula by a spreadsheet.
#: Some read the wide forms of East Asian keyboards as the plain ones.
_FORMULA = ("=", "+", "-", "@", "\t", "\r", "＝", "＋", "－", "＠")
_NUMBER: Final = re.compile(r"[+-]\d+(?:\.\d+)?", re.ASCII)


def harmless(cell: Any) -> Any:
    """The cell with an apostrophe before it where a spreadsheet might run it; a number with its
    sign stays one."""
    runs = isinstance(cell, str) and cell.startswith(_FORMULA) and not _NUMBER.fullmatch(cell)
    return f"'{cell}" if runs else cell


def scores_csv(staff: Staff, activity_id: UUID) -> tuple[str, str]:
    """A file name and the scores of one activity as CSV (RFC 4180) text: ISO dates, what was
    typed beside the value in the unit of the test. Four queries. Raises NotFound, or Denied for
    a test of body measurements, which go into no file."""
    if not sees(for_everybody(staff), activity_of(staff, activity_id).protocol.test):
        raise Denied(say("Height and weight are never saved to a file."))
    activity, sheet = score_sheet(for_everybody(staff), activity_id)
    lesson, protocol = activity.lesson, activity.protocol
    day = day_of(lesson).isoformat()
    fixed = {
        "class": lesson.school_class.name,
        "test": protocol.test.name,
        "protocol_version": protocol.number,
        "seconds": protocol.seconds,
    }
    text = io.StringIO()
    head = list(dict.fromkeys(["date", *fixed, *(sheet[0] if sheet else ())]))
    writer = csv.DictWriter(text, head)
    writer.writeheader()
    for row in sheet:
        writer.writerow({name: harmless(cell) for name, cell in [*fixed.items(), *row.items()]})
    name = say(
        "{name} {slug} {day}.csv", name=lesson.school_class.name, slug=protocol.test.slug, day=day
    )
    # The byte order mark tells spreadsheets that this is UTF-8.
    return "".join(
        c if c.isalnum() or c in " .-" else "-" for c in name
    ), "\ufeff" + text.getvalue()
