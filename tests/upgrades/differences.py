"""What is different between two answers of the same address."""

from __future__ import annotations

import json
import math
import re
from collections.abc import Iterator
from typing import Any

_ID = re.compile(r"[0-9a-f]{8}-[0-9a-f-]{27}")
#: What tells the things of a list apart, whatever their order.
_NAMED_BY = ("id", "pupil_id", "test_id", "activity_id", "code", "name")


def differences(before: Any, after: Any, path: str) -> Iterator[tuple[str, Any, Any]]:
    """Where a later answer says something else than an earlier one: the path with ids left out, and
    both. What the later one says besides is no difference."""
    if isinstance(before, dict) and isinstance(after, dict):
        for name, value in before.items():
            yield from differences(value, after.get(name, MISSING), f"{path}.{plain(name)}")
    elif isinstance(before, list) and isinstance(after, list):
        yield from _of_lists(before, after, path)
    elif not _same(before, after):
        yield path, before, after


def _of_lists(before: list[Any], after: list[Any], path: str) -> Iterator[tuple[str, Any, Any]]:
    names, others = [_name(one) for one in before], [_name(one) for one in after]
    if None not in names and len(set(names)) == len(names) and len(set(others)) == len(others):
        there = dict(zip(others, after, strict=True))
        for name, one in zip(names, before, strict=True):
            yield from differences(one, there.get(name, MISSING), f"{path}[]")
    elif _in_order(before) == _in_order(after):
        return  # what is of one moment has no order
    elif len(before) != len(after):
        yield f"{path}[]", before, after
    else:
        for one, other in zip(before, after, strict=True):
            yield from differences(one, other, f"{path}[]")


def _same(one: Any, other: Any) -> bool:
    """Sums of measurements may be added up in another order, and a negative score is written with
    a minus."""
    if isinstance(one, float) and isinstance(other, float):
        return math.isclose(one, other, rel_tol=1e-12)
    if isinstance(one, str) and isinstance(other, str):
        return _with_hyphens(one) == _with_hyphens(other)
    return bool(one == other)


def _with_hyphens(text: str) -> str:
    return text.replace("−", "-")


def _in_order(found: list[Any]) -> list[str]:
    return sorted(
        _with_hyphens(json.dumps(one, sort_keys=True, default=str, ensure_ascii=False))
        for one in found
    )


def plain(text: str) -> str:
    return _ID.sub("*", text)


def _name(one: Any) -> tuple[str, str] | None:
    if not isinstance(one, dict):
        return None
    for key in _NAMED_BY:
        if one.get(key) is not None:
            return key, str(one[key])
    for key in ("pupil", "child", "test"):
        if isinstance(one.get(key), dict) and "id" in one[key]:
            return key, str(one[key]["id"])
    return None


class _Missing:
    def __repr__(self) -> str:
        return "(not there any more)"


#: What stands in the place of something that is not said any more.
MISSING = _Missing()
