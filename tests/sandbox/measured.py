"""Reads lists, one a line of input, and says how it went and what the process took that read it.

A process of its own: what a child has had in memory begins with what its parent has had, so that
beside other tests nothing could be said of it.
"""

from __future__ import annotations

import json
import resource
import sys
from pathlib import Path

from lauf.errors import Refused
from lauf.exchange.lists.in_process import read_for_list
from lauf.sandbox.run import read_apart


def main() -> None:
    for line in sys.stdin:
        begun = resource.getrusage(resource.RUSAGE_CHILDREN)
        said, cells = "", 0
        try:
            data = Path(line.strip()).read_bytes()
            found = read_apart(read_for_list, data, name="", sheet=0, pasted=False)
            cells = len(dict(found)["cells"])
        except Refused as refused:
            said = str(refused)
        used = resource.getrusage(resource.RUSAGE_CHILDREN)
        seconds = used.ru_utime + used.ru_stime - begun.ru_utime - begun.ru_stime
        taken = {"said": said, "cells": cells, "seconds": seconds, "most_kb": used.ru_maxrss}
        sys.stdout.write(json.dumps(taken) + "\n")
        sys.stdout.flush()


if __name__ == "__main__":
    main()
