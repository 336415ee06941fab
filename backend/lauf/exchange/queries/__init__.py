"""Every read for files, one module a noun."""

from lauf.exchange.queries.backups import backups
from lauf.exchange.queries.calendar import lessons_calendar
from lauf.exchange.queries.games import (
    file_name,
    games_list,
    games_page,
    games_seen,
    games_text,
    open_file,
)
from lauf.exchange.queries.handouts import (
    Certificate,
    Pages,
    award_proposals,
    certificates,
    class_list,
    family_lines,
    family_reports,
    head_pages,
    report_children,
)
from lauf.exchange.queries.list_preview import preview_list
from lauf.exchange.queries.lists import ListWish
from lauf.exchange.queries.pupil_archive import child_file, whole_school
from lauf.exchange.queries.recording import SheetKind, recording_sheet, set_sheets
from lauf.exchange.queries.scores import scores_csv
from lauf.exchange.queries.server import server
from lauf.exchange.queries.slips import family_slips
from lauf.exchange.queries.workbooks import battery_workbook, class_workbook

__all__ = [
    "Certificate",
    "ListWish",
    "Pages",
    "SheetKind",
    "award_proposals",
    "backups",
    "battery_workbook",
    "certificates",
    "child_file",
    "class_list",
    "class_workbook",
    "family_lines",
    "family_reports",
    "family_slips",
    "file_name",
    "games_list",
    "games_page",
    "games_seen",
    "games_text",
    "head_pages",
    "lessons_calendar",
    "open_file",
    "preview_list",
    "recording_sheet",
    "report_children",
    "scores_csv",
    "server",
    "set_sheets",
    "whole_school",
]
