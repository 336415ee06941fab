"""Many pages are laid out by two processes at a time, each a half of them, and made one file."""

from __future__ import annotations

import io
import json
import subprocess
import threading
from collections.abc import Callable, Sequence
from concurrent.futures import ThreadPoolExecutor
from typing import Any, Final

from lauf.exchange.paper.render import Layout, Part
from lauf.messages import LANGUAGE
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
            asked = {"title": title, "language": LANGUAGE, "parts": list(parts)}
            process.stdin.write(json.dumps(asked).encode())
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
    """One file, with what the first says of itself and the tags of all (ISO 32000-1, 14.7)."""
    import pikepdf

    whole = pikepdf.open(io.BytesIO(files[0]))
    tags = whole.Root.StructTreeRoot
    for file in files[1:]:
        other = pikepdf.open(io.BytesIO(file))
        # Pages first: the tags that come after them then point to these copies.
        ahead = len(whole.pages)
        whole.pages.extend(other.pages)
        more = whole.copy_foreign(other.Root.StructTreeRoot)
        tags.K.extend(more.K)
        for part in more.K:
            part.P = tags
        # A page has its number in the list of what its tags are: they go on counting.
        for number, page in enumerate(list(whole.pages)[ahead:], ahead):
            page.obj.StructParents = number
        pairs: Any = more.ParentTree.Nums
        for number, found in zip(pairs[::2], pairs[1::2], strict=True):
            tags.ParentTree.Nums.append(number + ahead)
            tags.ParentTree.Nums.append(found)
    out = io.BytesIO()
    whole.save(out)
    return out.getvalue()


def _ends() -> bool:
    return not threading.main_thread().is_alive()
