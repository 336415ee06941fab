"""Many pages are laid out by two processes at a time, each a half of them, and made one file."""

from __future__ import annotations

import io
import json
import subprocess
import threading
from collections.abc import Callable, Sequence
from concurrent.futures import ThreadPoolExecutor
from typing import Final

from lauf.exchange.paper.render import Layout, Part
from lauf.sandbox.run import begun_apart

#: So few are laid out here sooner than a process has begun.
_FEW: Final = 4
_HALVES: Final = 2


def pdf_of(title: str, parts: Sequence[Part], told: Callable[[], None]) -> bytes | None:
    """The file of these parts; `told` after each that is laid out. None where this process ends
    meanwhile: it waits for the part at hand, never for the rest. Raises RuntimeError or
    OSError where a part cannot be laid out, or a process ended before its file was whole."""
    if len(parts) <= _FEW:
        return _here(title, parts, told)
    middle = (len(parts) + 1) // _HALVES
    with ThreadPoolExecutor(_HALVES) as both:
        halves = [
            both.submit(_by_process, title, half, told) for half in (parts[:middle], parts[middle:])
        ]
        files = [half.result() for half in halves]
    first, second = files
    return None if first is None or second is None else _joined([first, second])


def _here(title: str, parts: Sequence[Part], told: Callable[[], None]) -> bytes | None:
    layout = Layout(title)
    for part in parts:
        if _ends():
            return None
        layout.add(part)
        told()
    return layout.write()


def _by_process(title: str, parts: Sequence[Part], told: Callable[[], None]) -> bytes | None:
    with begun_apart(
        "lauf.exchange.paper.child", stdin=subprocess.PIPE, stdout=subprocess.PIPE
    ) as process:
        assert process.stdin is not None and process.stdout is not None
        try:
            process.stdin.write(json.dumps({"title": title, "parts": list(parts)}).encode())
            process.stdin.close()
            for _ in parts:
                if _ends():
                    return None
                if not process.stdout.read(1):
                    raise RuntimeError("a part cannot be laid out")
                told()
            file = process.stdout.read()
            if process.wait():
                raise RuntimeError("the file is not whole")
            return file
        finally:
            process.kill()


def _joined(files: Sequence[bytes]) -> bytes:
    """One file, with what the first says of itself."""
    import pypdfium2

    first, *others = (pypdfium2.PdfDocument(file) for file in files)
    for other in others:
        first.import_pages(other)
        other.close()
    whole = io.BytesIO()
    first.save(whole)
    first.close()
    return whole.getvalue()


def _ends() -> bool:
    return not threading.main_thread().is_alive()
