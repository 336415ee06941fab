"""What a head must know of the server that their school's data are on."""

from __future__ import annotations

import shutil
from datetime import datetime, timedelta
from pathlib import Path
from typing import Final

from cryptography import x509
from django.conf import settings
from django.utils import timezone
from typing_extensions import TypedDict

from lauf import __version__
from lauf.exchange.queries.backups import Backups, backups
from lauf.keeping.drills import Drill, last_drill
from lauf.messages import say
from lauf.people.models import Staff

#: A drill is made each week: older than this, one was missed.
_MISSED: Final = timedelta(days=8)
#: A certificate is renewed a month before it ends: later than this, it was not.
_ENDS_SOON: Final = timedelta(days=14)
#: Less of a disk than this is told, as a share and in bytes.
_LEAST: Final = (0.1, 2 * 10**9)
_GB: Final = 10**9


class ServerLine(TypedDict):
    """One thing in words; `wrong` where somebody has to do something."""

    about: str
    words: str
    wrong: bool


class Server(TypedDict):
    lines: list[ServerLine]


def server(staff: Staff, now: datetime) -> Server:
    """The last backup and its trial, the version, the disk, the certificate. Raises Denied."""
    made = backups(staff, now)
    lines = [_backup(made)]
    if settings.BACKUPS:
        lines.append(_drill(last_drill(Path(settings.BACKUPS).parent), now))
    lines += [
        _line(say("Version"), say("Lauf {version}", version=__version__)),
        _disk(shutil.disk_usage(Path(settings.BACKUPS).parent if settings.BACKUPS else "/")),
    ]
    if settings.CERTIFICATE:
        lines.append(_certificate(Path(settings.CERTIFICATE), now))
    return {"lines": lines}


def _line(about: str, words: str, *, wrong: bool = False) -> ServerLine:
    return {"about": about, "words": words, "wrong": wrong}


def _day(at: datetime) -> str:
    return f"{timezone.localtime(at):%d %B}".lstrip("0")


def _backup(made: Backups) -> ServerLine:
    if made["warning"]:
        return _line(say("Last backup"), made["warning"], wrong=True)
    newest = made["files"][0]
    words = say("{day}, {time}", day=_day(newest["at"]), time=_time(newest["at"]))
    if settings.BACKUP_COPIES:
        words = say("{made}, with a copy elsewhere", made=words)
    return _line(say("Last backup"), words)


def _time(at: datetime) -> str:
    return f"{timezone.localtime(at):%H:%M}"


def _drill(drill: Drill | None, now: datetime) -> ServerLine:
    about = say("Backup tried out")
    if drill is None:
        return _line(about, say("Not yet: nobody knows whether the backup works."), wrong=True)
    day = _day(drill.at)
    if drill.wrong:
        words = say(
            "On {day} the backup did not work. Tell the person who looks after the server: {wrong}",
            day=day, wrong=drill.wrong,
        )  # fmt: skip
        return _line(about, words, wrong=True)
    if now - drill.at > _MISSED:
        words = say("Not since {day}. It is due every week.", day=day)
        return _line(about, words, wrong=True)
    words = say(
        "On {day} it was restored on trial, with all {scores} scores in it.",
        day=day, scores=f"{drill.scores:,}",
    )  # fmt: skip
    return _line(about, words)


def _disk(usage: shutil._ntuple_diskusage) -> ServerLine:
    words = say("{free} GB of {total} GB are free.",
                free=usage.free // _GB, total=usage.total // _GB)  # fmt: skip
    if usage.free < _LEAST[1] or usage.free < _LEAST[0] * usage.total:
        words = say("{words} When the disk is full, no score can be saved.", words=words)
        return _line(say("Disk"), words, wrong=True)
    return _line(say("Disk"), words)


def _certificate(file: Path, now: datetime) -> ServerLine:
    about = say("Certificate")
    try:
        until = x509.load_pem_x509_certificate(file.read_bytes()).not_valid_after_utc
    except (OSError, ValueError):
        return _line(about, say("It cannot be read."), wrong=True)
    if until - now < _ENDS_SOON:
        words = say("It ends on {day}. After that, no tablet opens Lauf.", day=_day(until))
        return _line(about, words, wrong=True)
    return _line(about, say("Good until {day}", day=f"{_day(until)} {until:%Y}"))
