"""`lauf`: what an installed Lauf is looked after with. Every command reads the LAUF_* variables,
and those of a file before them, and says in a sentence what is wrong with them."""

from __future__ import annotations

import argparse
import getpass
import json
import os
import sys
from collections.abc import Sequence
from dataclasses import asdict
from datetime import datetime
from pathlib import Path
from typing import Final
from uuid import UUID

import environ

#: Read where it is there and no other is named.
VARIABLES: Final = Path("/etc/lauf/lauf.env")


def main(words: Sequence[str] | None = None) -> int:
    """Returns 0 when all went well."""
    asked = _parser().parse_args(words)
    if not _read_variables(asked.variables):
        return 2
    os.environ.setdefault("DJANGO_SETTINGS_MODULE", "lauf.web.settings")
    if asked.command not in ("check", "serve"):
        _go_past_the_pooler()
    match asked.command:
        case "check":
            return check()
        case "serve":
            return check(quiet=True, newer=asked.newer) or serve(asked)
        case "migrate":
            return _manage("prepare", "--schema-only")
        case "create-head":
            return check(quiet=True) or create_head(asked)
        case "create-trust" | "school":
            return check(quiet=True) or of_schools(asked)
        case "backup" | "restore" | "drill" | "look" | "backup-key":
            return keep(asked)
        case "variables":
            from lauf.web.configuration import example

            sys.stdout.write(example())
            return 0
        case _:
            from lauf import __version__

            sys.stdout.write(f"Lauf {__version__}\n")
            return 0


def _parser() -> argparse.ArgumentParser:
    parser = argparse.ArgumentParser(prog="lauf", description="Fitness tests in primary PE")
    parser.add_argument(
        "--variables", type=Path, metavar="FILE", help=f"file of LAUF_* variables ({VARIABLES})"
    )
    commands = parser.add_subparsers(dest="command", required=True)
    commands.add_parser("check", help="say what is wrong with this installation, and what to do")
    serve = commands.add_parser("serve", help="serve until told to stop")
    serve.add_argument("--host", default="127.0.0.1", help="address to listen on (127.0.0.1)")
    serve.add_argument("--port", type=int, default=8400, help="port to listen on (8400)")
    serve.add_argument(
        "--newer",
        action="store_true",
        help="a database that the next version has been at: to go back",
    )
    commands.add_parser("migrate", help="bring the database to this version, whole or not at all")
    head = commands.add_parser("create-head", help="the first school and its head of PE")
    head.add_argument("--school", required=True)
    head.add_argument("--name", required=True, help="the head's own name")
    head.add_argument("--username", required=True)
    head.add_argument("--password-file", type=Path, help="else it is asked for")
    _school_commands(commands)
    backup = commands.add_parser("backup", help="everything into a file, while Lauf serves")
    backup.add_argument("file", type=Path, nargs="?", help="else tonight's, with its copies")
    restore = commands.add_parser("restore", help="put a backup into an empty database")
    restore.add_argument("file", type=Path)
    look = commands.add_parser("look", help="what a backup says of itself, as JSON")
    look.add_argument("file", type=Path)
    commands.add_parser("drill", help="restore the newest backup to see that it can be")
    commands.add_parser("backup-key", help="a key that backups are encrypted with")
    commands.add_parser("variables", help="every variable, as a file to begin with")
    commands.add_parser("version")
    return parser


def _school_commands(commands: argparse._SubParsersAction[argparse.ArgumentParser]) -> None:
    trust = commands.add_parser("create-trust", help="an office that looks after several schools")
    trust.add_argument("--trust", required=True, help="its name")
    trust.add_argument("--name", required=True, help="of the first person in its office")
    trust.add_argument("--username", required=True)
    trust.add_argument("--password-file", type=Path, help="else it is asked for")
    school = commands.add_parser("school", help="list, close, move or erase schools")
    steps = school.add_subparsers(dest="step", required=True)
    steps.add_parser("list", help="id, scores, whether it is closed, and name of each")
    for step, words in (
        ("close", "nobody reads or writes anything of it"),
        ("open", "everybody goes on"),
        ("export", "close it and write all of it into a file, to import it elsewhere"),
        ("erase", "for good; after a move: --moved-by the file it went by"),
        ("head", "a link for its head of PE, where none can sign in any more"),
    ):
        one = steps.add_parser(step, help=words)
        one.add_argument("id", type=UUID)
        if step == "export":
            one.add_argument("file", type=Path)
        if step == "erase":
            one.add_argument("--moved-by", type=Path, metavar="FILE")
            one.add_argument("--yes", action="store_true", help="do not ask")
        if step == "head":
            one.add_argument("--username", required=True, help="of a head of PE there")
    arrive = steps.add_parser("import", help="a school that was exported, beside those here")
    arrive.add_argument("file", type=Path)
    arrive.add_argument("--ending", default="", help="for user names that are taken here")


def _go_past_the_pooler() -> None:
    """What holds a connection for longer than a transaction goes to the database itself."""
    from lauf.web.configuration import read

    found = read(os.environ)
    if found["LAUF_POOLER"] and found["LAUF_LISTEN_URL"]:
        os.environ["LAUF_DATABASE_URL"] = found["LAUF_LISTEN_URL"]
        os.environ["LAUF_POOLER"] = "no"


def _read_variables(named: Path | None) -> bool:
    file = named or VARIABLES
    if not file.is_file():
        if named is not None:
            _say(f"There is no file {named}: name another, or leave --variables out.")
        return named is None
    try:
        environ.Env.read_env(str(file))
    except OSError as error:
        _say(f"{file} cannot be read ({error.strerror}): run lauf as the user it belongs to.")
        return False
    return True


def check(*, quiet: bool = False, newer: bool = False) -> int:
    """Say what is wrong, each in a sentence with its remedy; `quiet` leaves out what Lauf works
    with, `newer` that the database is of a newer Lauf. 0 where Lauf can serve."""
    from lauf.web.configuration import read

    problems = read(os.environ).problems
    serious = [one for one in problems if not one.mild]
    if serious:
        for one in serious:
            _say(str(one))
        return 1
    import django
    from django.core.checks import Tags, run_checks
    from django.core.checks.messages import ERROR

    django.setup(set_prefix=False)
    from lauf.web.checks import NEWER

    # Some of the others ask the database too.
    found = run_checks(tags=[Tags.database], databases=["default"])
    if not any(one.level >= ERROR and one.id != NEWER for one in found):
        found = run_checks(databases=["default"])
    passed = {NEWER} if newer else set()
    found = [one for one in found if not one.is_silenced() and one.id not in passed]
    for message in found:
        if message.level >= ERROR or not quiet:
            _say(f"{message.msg} {_sentence(str(message.hint or ''))}")
    failed = any(message.level >= ERROR for message in found)
    if not failed and not quiet:
        _say("Lauf can serve." if not found else "Lauf can serve; look at the above.")
    return int(failed)


def _sentence(words: str) -> str:
    return words[:1].upper() + words[1:].rstrip(".") + "." if words else ""


def serve(asked: argparse.Namespace) -> int:
    from lauf.serving import serve as serving

    return serving.serve(asked.host, asked.port)


def create_head(asked: argparse.Namespace) -> int:
    """The first school and its head of PE."""
    from django.core.exceptions import ValidationError

    from lauf.catalogue.actions import install_ready
    from lauf.errors import Refused
    from lauf.people.actions.school import set_up_school
    from lauf.people.models import School, Staff
    from lauf.web.hashing import hashed

    try:
        password = _password(asked)
        person = Staff(school=School(name=asked.school), name=asked.name, username=asked.username)
        staff = set_up_school(
            school_name=asked.school, name=asked.name, username=asked.username,
            password=hashed(password, person),
        )  # fmt: skip
        install_ready(staff.school)
    except (Refused, ValidationError, OSError) as error:
        _say(" ".join(getattr(error, "messages", [str(error)])))
        return 1
    _say(f"{asked.school} is there; {asked.username} signs in.")
    return 0


def _password(asked: argparse.Namespace) -> str:
    if asked.password_file is not None:
        return str(asked.password_file.read_text().strip())
    return getpass.getpass("password: ")


def of_schools(asked: argparse.Namespace) -> int:
    """What is done with the schools of this Lauf."""
    from lauf import schools

    try:
        if asked.command == "create-trust":
            said = schools.create_trust(asked, _password(asked))
        else:
            said = schools.run(asked)
    except schools.MISTAKES as error:
        _say(" ".join(getattr(error, "messages", [str(error)])))
        return 1
    sys.stdout.write(f"{said}\n")
    return 0


def keep(asked: argparse.Namespace) -> int:
    """Backups, and the proof that they can be used."""
    from lauf.keeping import work
    from lauf.keeping.archive import Unusable, look_at
    from lauf.web.configuration import read

    found = read(os.environ)
    wrong = [str(one) for one in found.problems if not one.mild]
    if wrong:
        _say(" ".join(wrong))
        return 1
    address, key = found["LAUF_DATABASE_URL"], found["LAUF_BACKUP_KEY"]
    place = work.Place(
        Path(found["LAUF_BACKUPS"]), [Path(one) for one in found["LAUF_BACKUP_COPIES"]], key,
        found["LAUF_BACKUPS_KEPT"],
    )  # fmt: skip
    try:
        match asked.command:
            case "backup" if asked.file is not None:
                work.back_up(address, asked.file, key)
            case "backup":
                file, lacking = work.nightly(address, place, datetime.now())
                _say(" ".join([f"{file} is made.", *lacking]))
                return int(bool(lacking))
            case "restore":
                work.restore(address, asked.file, key)
                return _manage("prepare", "--schema-only")
            case "look":
                about = asdict(look_at(asked.file, key).contents)
                sys.stdout.write(json.dumps(about, default=str) + "\n")
            case "drill":
                done = work.drill(place, found["LAUF_DRILL_DATABASE_URL"])
                _say(done.wrong or f"{done.backup} can be restored: {done.scores} scores.")
                return int(bool(done.wrong))
            case _:
                from pyrage.x25519 import Identity

                sys.stdout.write(f"{Identity.generate()}\n")
    except (Unusable, OSError) as error:
        _say(str(error))
        return 1
    return 0


def _manage(*words: str) -> int:
    from django.core.management import CommandError, call_command

    os.environ.setdefault("LAUF_DATABASE_OPTIONS", "-c lock_timeout=60s")
    import django

    django.setup(set_prefix=False)
    try:
        call_command(*words)
    except CommandError as error:
        _say(str(error))
        return 1
    return 0


def _say(words: str) -> None:
    sys.stderr.write(f"lauf: {words}\n")


if __name__ == "__main__":
    sys.exit(main())
