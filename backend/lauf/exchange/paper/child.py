"""The process that lays out: `python -m lauf.exchange.paper.child`. Nothing of Django is in it.

Standard input: JSON, `title`, `language` and `parts`. Standard output: a full stop for each part
that is laid out, then the file.
"""

from __future__ import annotations

import json
import os
import sys
from typing import Final

from lauf.exchange.paper.render import Form, Layout
from lauf.sandbox.parent import end_with_parent

#: Laying out takes all of a processor, and scores go first.
_AFTER_SCORES: Final = 10


def main() -> None:
    end_with_parent()
    os.nice(_AFTER_SCORES)
    asked = json.load(sys.stdin)
    layout = Layout(asked["title"], asked["language"])
    for part in asked["parts"]:
        layout.add(part if isinstance(part, str) else tuple(Form(*one) for one in part))
        sys.stdout.buffer.write(b".")
        sys.stdout.buffer.flush()
    sys.stdout.buffer.write(layout.write())


if __name__ == "__main__":
    main()
