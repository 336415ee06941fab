"""Python that nothing uses: vulture, which is told what fields of shapes are.

A shape (a TypedDict, a model of pydantic's, a dataclass or table that an address answers with) is
read by name on the other side of the API, in a template or in the database.
"""

from __future__ import annotations

import ast
import subprocess
import sys
import tomllib
from collections.abc import Iterator
from pathlib import Path
from typing import Final

from ops.machine import ROOT

_SHAPES: Final = frozenset({"TypedDict", "NamedTuple", "BaseModel", "Schema", "Model", "_Strict"})


def main() -> int:
    """Says what is not used; not 0 if anything is."""
    told = tomllib.loads((ROOT / "pyproject.toml").read_text())["tool"]["vulture"]
    names = ",".join((*told["ignore_names"], *sorted(_fields(ROOT / "backend"))))
    return subprocess.call([sys.executable, "-m", "vulture", "--ignore-names", names], cwd=ROOT)


def _fields(folder: Path) -> set[str]:
    """The names of the fields of every shape."""
    classes = [one for path in folder.rglob("*.py") for one in _classes(path)]
    shapes = set(_SHAPES)
    known = 0
    while len(shapes) > known:
        known = len(shapes)
        shapes |= {one.name for one in classes if shapes & set(_bases(one))}
    return {
        name
        for one in classes
        if one.name in shapes or any("dataclass" in ast.unparse(d) for d in one.decorator_list)
        for name in _named(one)
    }


def _named(shape: ast.ClassDef) -> Iterator[str]:
    """The fields of one shape; of a table its columns, and the ids of what they refer to."""
    for part in shape.body:
        if isinstance(part, ast.AnnAssign) and isinstance(part.target, ast.Name):
            yield part.target.id
        elif isinstance(part, ast.Assign) and "models." in ast.unparse(part.value):
            for target in part.targets:
                yield ast.unparse(target)
                yield f"{ast.unparse(target)}_id"


def _classes(path: Path) -> Iterator[ast.ClassDef]:
    for one in ast.walk(ast.parse(path.read_text())):
        if isinstance(one, ast.ClassDef):
            yield one


def _bases(one: ast.ClassDef) -> Iterator[str]:
    for base in one.bases:
        yield ast.unparse(base).split("[")[0].split(".")[-1]


if __name__ == "__main__":
    sys.exit(main())
