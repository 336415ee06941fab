"""What every question and answer of the API is made of."""

from __future__ import annotations

from pydantic import BaseModel, ConfigDict


class Schema(BaseModel):
    """A plain pydantic model, read from mappings and from objects' attributes. Ninja's own wraps
    every one it validates, however deep, in a Python object for what Lauf does not use."""

    model_config = ConfigDict(from_attributes=True)
