"""What came of the last restore drill: a file beside the backups it was made with."""

from __future__ import annotations

import json
from dataclasses import asdict, dataclass
from datetime import datetime
from pathlib import Path
from typing import Final

FILE: Final = "drill.json"


@dataclass(frozen=True, slots=True)
class Drill:
    """A backup that was restored to see that it can be. `wrong` says why not; "" where it can."""

    at: datetime
    backup: str
    scores: int
    wrong: str


def last_drill(folder: Path) -> Drill | None:
    """None where there was none, or the file is none."""
    try:
        found = json.loads((folder / FILE).read_text())
        at = datetime.fromisoformat(found["at"])
        return Drill(at, str(found["backup"]), int(found["scores"]), str(found["wrong"]))
    except (OSError, ValueError, KeyError, TypeError):
        return None


def note_drill(folder: Path, drill: Drill) -> None:
    """Whole or not at all. Raises OSError."""
    part = folder / f".{FILE}.part"
    part.write_text(json.dumps({**asdict(drill), "at": drill.at.isoformat()}))
    part.replace(folder / FILE)
