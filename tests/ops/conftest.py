"""A Lauf in a folder of its own, and the same demo as the browser's tests have."""

from __future__ import annotations

import shutil
import tempfile
from collections.abc import Iterator
from pathlib import Path

import pytest

from tests.browser.conftest import demo_template
from tests.ops.installed import Installed

__all__ = ["demo_template"]


@pytest.fixture
def place() -> Iterator[Path]:
    """A folder that the database's own user reaches too."""
    made = Path(tempfile.mkdtemp(prefix="lauf-ops-"))
    made.chmod(0o755)
    yield made
    shutil.rmtree(made, ignore_errors=True)


@pytest.fixture
def lauf(place: Path) -> Iterator[Installed]:
    made = Installed(place / "lauf")
    yield made
    made.remove()
