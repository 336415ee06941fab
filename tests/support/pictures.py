"""What a picture of a page must show before it is taken: the page itself, not its waiting."""

from __future__ import annotations

from typing import Final

from playwright.sync_api import Page

#: Letters that a page with something on it has at least, its head left out.
_LEAST_LETTERS: Final = 80


def not_fit(page: Page) -> str:
    """Why this page is no picture of itself: it loads, says an error, or shows mostly nothing.
    Empty when it is fit."""
    if page.locator("[data-loading], .v-btn--loading").count():
        return "still loading"
    errors = page.locator("[role=alert].problem, main .board[role=alert]").all_inner_texts()
    if errors:
        return f"shows an error: {errors[0]}"
    shown = page.evaluate(
        "() => { const main = document.querySelector('main') ?? document.body;"
        " const drawn = main.querySelectorAll('svg, canvas, img').length;"
        " return main.innerText.length + 40 * drawn; }"
    )
    return "" if shown >= _LEAST_LETTERS else "mostly nothing"
