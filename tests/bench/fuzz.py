"""The long run of `tests/api/every_route/test_fuzz.py`: times, sizes and encodings at their ends
over every route."""

from __future__ import annotations

import os
import subprocess
import sys
import tempfile
from pathlib import Path

from tests.bench.saying import said
from tests.support.served import ROOT

EACH = 230


def main() -> None:
    with tempfile.NamedTemporaryFile("r") as counted:
        environment = {**os.environ, "LAUF_FUZZ": str(EACH), "LAUF_FUZZ_COUNTED": counted.name}
        environment["DJANGO_SETTINGS_MODULE"] = "tests.settings"
        command = [sys.executable, "-m", "pytest", "-q", "-n", str(os.cpu_count() or 1),
                   "tests/api/every_route/test_fuzz.py"]  # fmt: skip
        done = subprocess.run(command, cwd=ROOT, env=environment, capture_output=True, text=True)
        requests = sum(map(int, Path(counted.name).read_text().split()))
    if done.returncode:
        said(done.stdout[-4000:])
    found = "no 500" if done.returncode == 0 else "FAILED, see above"
    said(f"{requests} requests over every route, at all ends: {found} (aim: no 500)")


if __name__ == "__main__":
    main()
