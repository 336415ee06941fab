"""Have a file read by a process of its own, and wait for what it says."""

from __future__ import annotations

import json
import os
import subprocess
import sys
import tempfile
import threading
import time
from collections.abc import Callable
from contextvars import ContextVar
from pathlib import Path
from typing import Any, Final

from lauf.errors import Refused
from lauf.messages import say
from lauf.sandbox.bounds import USUAL, Bounds

#: Set when who sent the request at hand has gone; what is read for them ends then.
CLIENT_GONE: Final[ContextVar[threading.Event | None]] = ContextVar("client_gone", default=None)
#: Told of every file whose reading begins (1) or ends (-1).
COUNTED_BY: Final[list[Callable[[int], None]]] = []
#: How often the client is looked for, in seconds.
_LOOKS: Final = 0.1
#: Where the process finds its modules.
PYTHON_PATH: Final = str(Path(__file__).resolve().parents[2])
_SIGXCPU: Final = 24
_UNREADABLE: Final = say("This file cannot be read. It is damaged or unsafe.")


def read_apart(
    task: Callable[..., Any], data: bytes, bounds: Bounds = USUAL, **options: Any
) -> Any:
    """What a function of a module says of a file. `task(data, **options)` runs in the other
    process: its module imports no Django, its options and its answer are JSON.

    Raises Refused with what the task refused, Exceeded for a file that takes more than a bound.
    """
    _release_connection()
    asked = {
        "task": f"{task.__module__}:{task.__qualname__}",
        "options": options,
        "bounds": {"memory": bounds.memory, "cpu": bounds.cpu, "written": bounds.written},
    }
    # Files, not pipes: what is given is whole before it is read, and the answer has a limit.
    with tempfile.TemporaryFile() as given, tempfile.TemporaryFile() as answer:
        given.write(json.dumps(asked).encode() + b"\n" + data)
        given.seek(0)
        code = _run(given.fileno(), answer.fileno(), bounds)
        answer.seek(0)
        output = answer.read()
    try:
        found = json.loads(output)
    except ValueError:
        # Ended by the system: out of processor time, or of memory where Python could not say so.
        raise bounds.exceeded("seconds") if code == -_SIGXCPU else Refused(_UNREADABLE) from None
    if "exceeded" in found:
        raise bounds.exceeded(found["exceeded"])
    if "refused" in found:
        raise Refused(found["refused"])
    return found["answer"]


def begun_apart(module: str, **more: Any) -> subprocess.Popen[bytes]:
    """A module of ours as a process that knows nothing of this one: no secret, no address of the
    database. `more` is `Popen`'s."""
    known = {"PYTHONPATH": PYTHON_PATH, "LANG": "C.UTF-8", "PATH": os.environ.get("PATH", "")}
    return subprocess.Popen([sys.executable, "-P", "-m", module], cwd="/", env=known, **more)


def _run(given: int, answer: int, bounds: Bounds) -> int:
    """The exit code of the process. Raises Exceeded for one that was too slow."""
    gone = CLIENT_GONE.get()
    deadline = time.monotonic() + bounds.wall
    _count(1)
    with begun_apart(
        "lauf.sandbox.child", stdin=given, stdout=answer, stderr=subprocess.DEVNULL,
        start_new_session=True,
    ) as process:  # fmt: skip
        try:
            while True:
                try:
                    return process.wait(_LOOKS)
                except subprocess.TimeoutExpired:
                    pass
                if time.monotonic() > deadline:
                    raise bounds.exceeded("seconds")
                if gone is not None and gone.is_set():
                    raise Refused(say("The sender of this file is no longer connected."))
        finally:
            process.kill()
            _count(-1)


def _count(more: int) -> None:
    for told in COUNTED_BY:
        told(more)


def _release_connection() -> None:
    """No connection to the database waits for a file to be read."""
    from django.db import connection  # the other process reads modules that name this one

    if not connection.in_atomic_block:
        connection.close()
