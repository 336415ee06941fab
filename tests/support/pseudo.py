"""A made-up language: English with accents, in brackets, longer than English is."""

from __future__ import annotations

import json
import re
from pathlib import Path
from typing import Final

from babel.messages.catalog import Catalog
from babel.messages.mofile import write_mo

from tests.support.catalogue import messages
from tests.support.messages import CATALOGUE

_ACCENTS: Final = str.maketrans("aeiouAEIOU", "ãêîöûÃÊÎÖÛ")
#: What it has more of.
_MORE: Final = " ëë"


def pseudo(message: str) -> str:
    """A message as the made-up language says it, a third longer; what stands in braces stays."""
    parts = re.split(r"(\{[^}]*\})", message)
    said = "".join(one if one.startswith("{") else one.translate(_ACCENTS) for one in parts)
    begin, middle, end = re.fullmatch(r"(\s*)(.*?)(\s*)", said, re.DOTALL).groups()  # type: ignore[union-attr]
    return f"{begin}⟦{middle}{_MORE * (len(middle) // (3 * len(_MORE)))}⟧{end}"


def pseudo_language(place: Path) -> dict[str, str]:
    """Lays the made-up language in a folder, as a translator would; the variables that choose
    it."""
    folder = place / "xx/LC_MESSAGES"
    folder.mkdir(parents=True)
    with (folder / "lauf.mo").open("wb") as file:
        write_mo(file, pseudo_catalogue())
    said = {
        file.stem: {
            key: " | ".join(map(pseudo, words.split(" | ")))
            for key, words in json.loads(file.read_text()).items()
        }
        for file in CATALOGUE.glob("*.json")
    }
    (folder / "pages.json").write_text(json.dumps(said))
    return {"LAUF_LANGUAGE": "xx", "LAUF_LOCALE": str(place)}


def pseudo_catalogue() -> Catalog:
    """Every message of the Python in the made-up language."""
    made = Catalog(locale=None, domain="lauf", fuzzy=False)
    for one in messages():
        if isinstance(one.id, tuple):
            made.add(one.id, tuple(map(pseudo, one.id)))
        elif one.id:
            made.add(one.id, pseudo(one.id))
    return made
