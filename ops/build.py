"""The Python environment and the built front end, renewed only when their inputs changed."""

from __future__ import annotations

import hashlib
import json
import os
import subprocess
import sys
import tarfile
import tempfile
from collections.abc import Iterable
from pathlib import Path

from ops.machine import ROOT, STATE, Lacking, say

VENV = ROOT / ".venv"
PYTHON = VENV / "bin" / "python"
FRONT_END = ROOT / "frontend"
_STAMPS = STATE / "stamps.json"


def environment(**extra: str) -> dict[str, str]:
    """The variables that Lauf's own programs run under."""
    path = f"{VENV / 'bin'}{os.pathsep}{os.environ.get('PATH', '')}"
    given = dict(os.environ)
    # Where nothing compiled may be kept, every start would compile all of Lauf once more.
    given.pop("PYTHONDONTWRITEBYTECODE", None)
    return {**given, "PATH": path, "PYTHONPATH": str(ROOT / "backend"), **extra}


def run(
    command: list[str], what: str, cwd: Path = ROOT, variables: dict[str, str] | None = None
) -> None:
    """Run one step quietly; on failure show what it printed. Raises Lacking."""
    done = subprocess.run(
        command, cwd=cwd, env=environment(**(variables or {})), capture_output=True, text=True
    )
    if done.returncode:
        sys.stderr.write(done.stdout[-6000:] + done.stderr[-6000:])
        raise Lacking(f"{what} did not work; what it printed stands above.")


def ensure_python(*, checks: bool) -> None:
    """The virtual environment with what serving (and, if asked, checking) needs."""
    names = ["run.txt", "build.txt", *(["dev.txt"] if checks else [])]
    files = [ROOT / "requirements" / name for name in names]
    if not PYTHON.exists():
        say("making the Python environment")
        run([sys.executable, "-m", "venv", str(VENV)], "making the Python environment")
    # With the checks' packages present, those for serving are present too.
    slots = ["python-checks"] if checks else ["python-checks", "python"]
    stamps = {slot: _digest(files if slot == "python" else _all_locks()) for slot in slots}
    if any(_stamped(slot, stamp) for slot, stamp in stamps.items()):
        return
    say("installing Python packages")
    command = [str(PYTHON), "-m", "pip", "install", "-q", "--disable-pip-version-check"]
    for file in files:
        command += ["-r", str(file)]
    run([*command, "--require-hashes"], "installing Python packages")
    _stamp(slots[-1], stamps[slots[-1]])


def ensure_mutation() -> None:
    """What `./lauf mutate` needs on top of the checks, for Python."""
    file = ROOT / "requirements" / "mutate.txt"
    if _stamped("mutation", _digest([file])):
        return
    say("installing what breaks code on purpose")
    command = [str(PYTHON), "-m", "pip", "install", "-q", "--disable-pip-version-check"]
    run([*command, "-r", str(file), "--require-hashes"], "installing Python packages")
    _stamp("mutation", _digest([file]))


def ensure_front_end() -> None:
    """node_modules and the built front end."""
    ensure_node_modules()
    sources = [
        path
        for path in sorted(FRONT_END.rglob("*"))
        if path.is_file() and not {"node_modules", "dist"} & set(path.relative_to(FRONT_END).parts)
    ]
    stamp = _digest(sources)
    if _stamped("front-end", stamp) and (FRONT_END / "dist/index.html").exists():
        return
    say("building the front end")
    run(["npm", "run", "build"], "building the front end", cwd=FRONT_END)
    compress = [str(PYTHON), "-m", "whitenoise.compress", "-q", "frontend/dist/static"]
    run(compress, "compressing the front end")
    _stamp("front-end", stamp)


def ensure_node_modules(folder: Path = FRONT_END, named: str = "node-modules") -> None:
    lock = folder / "package-lock.json"
    stamp = _digest([lock])
    if _stamped(named, stamp) and (folder / "node_modules").exists():
        return
    say("installing front-end packages")
    run(["npm", "ci", "--no-audit", "--no-fund"], "installing front-end packages", cwd=folder)
    _stamp(named, stamp)


#: Where `./lauf build` puts what it makes.
MADE = ROOT / "dist"


def make() -> Path:
    """One file from which Lauf is installed where there is no network and no compiler: the wheel of
    the application, with its pages and fonts inside, and those of all it needs."""
    ensure_python(checks=True)
    ensure_front_end()
    MADE.mkdir(exist_ok=True)
    pip = [str(PYTHON), "-m", "pip", "-q", "--disable-pip-version-check"]
    with tempfile.TemporaryDirectory(dir=MADE, prefix=".wheels-") as room:
        say("building the application")
        run([*pip, "wheel", "--no-deps", "--no-build-isolation", "-w", room, str(ROOT)],
            "building the application")  # fmt: skip
        say("fetching what it needs")
        lock = str(ROOT / "requirements" / "run.txt")
        fetch = [*pip, "download", "--only-binary", ":all:", "--require-hashes", "-r", lock]
        run([*fetch, "-d", room], "fetching what Lauf needs")  # fmt: skip
        (own,) = Path(room).glob("lauf-*.whl")
        version = own.name.split("-")[1]
        whole = MADE / f"lauf-{version}.tar.gz"
        with tarfile.open(whole, "w:gz") as archive:
            for wheel in sorted(Path(room).iterdir()):
                archive.add(wheel, f"lauf-{version}/wheels/{wheel.name}")
            for path in sorted((ROOT / "deploy").rglob("*")):
                if path.is_file():
                    archive.add(path, f"lauf-{version}/{path.relative_to(ROOT)}")
            archive.add(ROOT / ".env.example", f"lauf-{version}/lauf.env.example")
    return whole


def _all_locks() -> list[Path]:
    return [ROOT / "requirements" / name for name in ("run.txt", "build.txt", "dev.txt")]


def _digest(files: Iterable[Path]) -> str:
    digest = hashlib.sha256(sys.version.encode())
    for file in files:
        digest.update(str(file.relative_to(ROOT)).encode() + b"\0" + file.read_bytes() + b"\0")
    return digest.hexdigest()


def _read_stamps() -> dict[str, str]:
    try:
        return dict(json.loads(_STAMPS.read_text()))
    except (OSError, ValueError):
        return {}


def _stamped(slot: str, stamp: str) -> bool:
    return _read_stamps().get(slot) == stamp and PYTHON.exists()


def _stamp(slot: str, stamp: str) -> None:
    STATE.mkdir(exist_ok=True)
    _STAMPS.write_text(json.dumps({**_read_stamps(), slot: stamp}, indent=1))
