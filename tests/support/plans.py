"""Plans as the API says and takes them, and blocks as the rules call them."""

from __future__ import annotations

from typing import Any, cast

from lauf.rules.planning.blocks import AnyBlock, Block, BlockEntry, BlockKind, TrialPlan


def as_entry(block: dict[str, Any]) -> dict[str, Any]:
    """A block of a plan's page as it is sent to be kept."""
    return dict(block["entry"])


def called(
    kind: BlockKind, label: str, test: TrialPlan | None = None, **settings: object
) -> AnyBlock:
    """A block with these settings, under a label."""
    return Block(cast("BlockEntry", {"kind": kind, "label": label, **settings}), label, test)
