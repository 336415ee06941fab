"""A made-up language: English with accents, in brackets, longer than English is."""

from __future__ import annotations

import re
from typing import Final

from babel.messages.catalog import Catalog

from tests.support.catalogue import messages

_ACCENTS: Final = str.maketrans("aeiouAEIOU", "ãêîöûÃÊÎÖÛ")


def pseudo(message: str) -> str:
    """A message as the made-up language says it; what stands in braces stays."""
    parts = re.split(r"(\{[^}]*\})", message)
    said = "".join(one if one.startswith("{") else one.translate(_ACCENTS) for one in parts)
    begin, middle, end = re.fullmatch(r"(\s*)(.*?)(\s*)", said, re.DOTALL).groups()  # type: ignore[union-attr]
    return f"{begin}⟦{middle}⟧{end}"


def pseudo_catalogue() -> Catalog:
    """Every message of the Python in the made-up language."""
    made = Catalog(locale=None, domain="lauf", fuzzy=False)
    for one in messages():
        if isinstance(one.id, tuple):
            made.add(one.id, tuple(map(pseudo, one.id)))
        elif one.id:
            made.add(one.id, pseudo(one.id))
    return made
