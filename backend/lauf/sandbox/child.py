"""The process that reads: `python -m lauf.sandbox.child`. Nothing of Django is in it, no address
of the database, no secret; what it is given is one file.

Standard input: a line of JSON (`task` as "module:function", `options`, `bounds`), then the file.
Standard output: JSON, `{"answer": …}`, `{"refused": "…"}` or `{"exceeded": "…"}`.
"""

from __future__ import annotations

import json
import os
import resource
import signal
import sys
from importlib import import_module
from typing import Any, Final

from lauf.errors import Refused
from lauf.plain_json import JsonObject
from lauf.sandbox.parent import end_with_parent

_OPEN_FILES: Final = 64
#: Bytes of memory beyond the bound with which it is said that it was met.
_TO_SAY_SO: Final = 64_000_000


def main() -> None:
    head, data = sys.stdin.buffer.readline(), b""
    asked = json.loads(head)
    _limit(**asked["bounds"])
    data = sys.stdin.buffer.read()
    try:
        response: JsonObject = {"answer": _task(asked["task"])(data, **asked["options"])}
        text = json.dumps(response, ensure_ascii=False)
    except Refused as refused:
        text = json.dumps({"refused": str(refused)})
    except (MemoryError, RecursionError):
        memory = asked["bounds"]["memory"] + _TO_SAY_SO
        resource.setrlimit(resource.RLIMIT_AS, (memory, memory))
        text = json.dumps({"exceeded": "memory"})
    _write(text.encode("utf-8", "replace"))


def _write(answer: bytes) -> None:
    try:
        sys.stdout.buffer.write(answer)
        sys.stdout.buffer.flush()
    except OSError:  # larger than it may be
        os.ftruncate(1, 0)
        os.lseek(1, 0, os.SEEK_SET)
        os.write(1, b'{"exceeded": "written"}')


def _limit(*, memory: int, cpu: int, written: int) -> None:
    end_with_parent()
    # A file that grows beyond its limit is an error that can be said.
    signal.signal(signal.SIGXFSZ, signal.SIG_IGN)
    # The signal of the softer limit says what it was for.
    resource.setrlimit(resource.RLIMIT_CPU, (cpu, cpu + 2))
    resource.setrlimit(resource.RLIMIT_AS, (memory, memory + _TO_SAY_SO))
    for what, most in (
        (resource.RLIMIT_FSIZE, written),
        (resource.RLIMIT_NOFILE, _OPEN_FILES),
        (resource.RLIMIT_CORE, 0),
    ):
        resource.setrlimit(what, (most, most))


def _task(named: str) -> Any:
    module, _, name = named.partition(":")
    return getattr(import_module(module), name)


if __name__ == "__main__":
    main()
