"""The libraries and open data that the rules are held against, each read when a test asks for it:
reading all of them takes every process longer than the tests of the rules."""

from __future__ import annotations

from importlib import import_module
from typing import Any, Final

_LIBRARIES: Final = {
    "stats": "scipy.stats",
    "pandas": "pandas",
    "pingouin": "pingouin",
    "rcpchgrowth": "rcpchgrowth",
    "datasets": "sklearn.datasets",
}


def __getattr__(name: str) -> Any:
    if name not in _LIBRARIES:
        raise AttributeError(name)
    return import_module(_LIBRARIES[name])
