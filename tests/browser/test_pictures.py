"""`./lauf shots` refuses a page that is no picture of itself."""

from __future__ import annotations

from typing import Any

from playwright.sync_api import Page, Route, expect

from tests.support.pictures import not_fit


def test_a_page_that_loads_fails_or_is_empty_is_refused(visit: Any) -> None:
    one = visit()
    page: Page = one.page
    one.sign_in()
    expect(page.locator(".lesson").first).to_be_visible()
    assert not_fit(page) == ""
    held: list[Route] = []
    page.route("**/api/catalogue", lambda route: held.append(route))
    page.goto(f"{one.url}/catalogue")
    expect(page.locator("[data-loading]")).to_be_visible()
    assert not_fit(page) == "still loading"
    # A failure that asking again does not help.
    page.unroute("**/api/catalogue")
    refused = {"detail": "It is not here."}
    page.route("**/api/catalogue", lambda route: route.fulfill(status=404, json=refused))
    page.reload()
    expect(page.locator("main [role=alert]").first).to_be_visible()
    assert not_fit(page).startswith("shows an error")
    page.evaluate("document.querySelector('main').replaceChildren()")
    assert not_fit(page) == "mostly nothing"
