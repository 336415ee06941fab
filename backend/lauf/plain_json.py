"""JSON's own border: what comes from a file, a column or another process before it is read, and
what is written to one. Everything else has a shape of its own."""

from __future__ import annotations

from typing import Any, TypeAlias

JsonObject: TypeAlias = dict[str, Any]
