"""Which changes that no test of a room noticed `tests/messages` would notice: they change what is
said. `python -m tests.support.changed_words FOLDER ROOM` names the others.

mutmut keeps every change of a function beside the function: FOLDER is where it works, ROOM the
files that were broken, such as "lauf/*/actions/*".
"""

from __future__ import annotations

import ast
import fnmatch
import json
import sys
from collections.abc import Iterator
from pathlib import Path
from typing import Final, NamedTuple

from tests.support.catalogue import said_in

#: How mutmut ends for a change that no test noticed, and for one that no test reached.
_NOT_NOTICED: Final = (0, 33)


class Survivor(NamedTuple):
    """A change that was not noticed, and whether it changes the list of messages."""

    name: str
    says: bool


def survivors(folder: Path, room: str) -> Iterator[Survivor]:
    """What no test of a room noticed."""
    mutants = folder / "mutants"
    for meta in sorted(mutants.rglob("*.py.meta")):
        file = meta.with_suffix("")
        where = file.relative_to(mutants).as_posix()
        if not fnmatch.fnmatch(where, room):
            continue
        codes = json.loads(meta.read_text())["exit_code_by_key"]
        left = [name for name, code in codes.items() if code in _NOT_NOTICED]
        if not left:
            continue
        broken = _functions(ast.parse(file.read_text()))
        whole = ast.parse((folder / where).read_text())
        for name in left:
            yield Survivor(name, _says_otherwise(whole, broken, name.rpartition(".")[2]))


def _functions(code: ast.AST) -> dict[str, ast.AST]:
    kinds = (ast.FunctionDef, ast.AsyncFunctionDef)
    return {one.name: one for one in ast.walk(code) if isinstance(one, kinds)}


def _says_otherwise(whole: ast.AST, broken: dict[str, ast.AST], name: str) -> bool:
    """Whether a file says something else with this change: the list of messages is no longer its
    own, and `tests/messages` fails."""
    plain = name.rpartition("__mutmut_")[0]
    changed, was = broken.get(name), broken.get(f"{plain}__mutmut_orig")
    if changed is None or was is None:
        return False
    before = list(said_in(whole))
    gone = list(said_in(was))
    after = [*before]
    for message in gone:
        if message in after:
            after.remove(message)
    try:
        return {*before} != {*after, *said_in(changed)}
    except (IndexError, ValueError):
        return True  # a message without its words: the list cannot be made at all


if __name__ == "__main__":
    found = list(survivors(Path(sys.argv[1]), sys.argv[2]))
    for one in found:
        if not one.says:
            print(f"  not noticed: {one.name}")
    print(json.dumps({"words": sum(one.says for one in found), "left": len(found)}))
