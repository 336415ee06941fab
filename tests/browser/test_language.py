"""A lesson in a made-up language, longer than English: nothing stays English, nothing is cut."""

from __future__ import annotations

import json
import re
from collections.abc import Iterator
from typing import Any, Final

import pytest
from playwright.sync_api import Browser, Page, ViewportSize, expect

from tests.browser.conftest import Visit
from tests.support.hall import cell
from tests.support.messages import part
from tests.support.pseudo import pseudo, pseudo_language
from tests.support.served import Served, served

WIDE: Final[ViewportSize] = {"width": 1280, "height": 800}
PHONE: Final[ViewportSize] = {"width": 360, "height": 740}
#: What no language changes: units, keys, the name of the application, a month in a date.
SAME: Final = re.compile(
    r"\b(?:Lauf|Enter|Backspace|Esc|CSV|XLSX|PDF|MDC|TE|Lr|km/h|cm|mm|kg|ft|in|min|reps?|bpm|hits"
    r"|teacher|AM|PM|ms|Terwee et al|Chromium|Linux|ISO|UTC"
    r"|Mon|Tue|Wed|Thu|Fri|Sat|Sun|[A-Z][a-z]+day|Jan|Feb|Mar|Apr|May|Jun|Jul|Aug|Sept?|Oct|Nov"
    r"|Dec|January|February|March|April|June|July|August|September|October|November|December)\b"
)
#: A word of English: in the made-up language every vowel has an accent.
PLAIN: Final = re.compile(r"(?<![\w’])(?=[a-z]*[aeiou])[a-z]{2,}(?![\w])", re.IGNORECASE)
#: Every text that is shown, with what is said in place of one.
SHOWN: Final = """() => {
  const found = [];
  const seen = (one) => one.checkVisibility({ visibilityProperty: true });
  const texts = document.createTreeWalker(document.body, NodeFilter.SHOW_TEXT);
  for (let at = texts.nextNode(); at; at = texts.nextNode()) {
    const inside = at.parentElement;
    if (!inside.closest('script, style, noscript, option') && seen(inside)) found.push(at.data);
  }
  for (const one of document.body.querySelectorAll('[aria-label], [title], [placeholder]')) {
    if (!seen(one)) continue;
    for (const name of ['aria-label', 'title', 'placeholder'])
      found.push(one.getAttribute(name) ?? '');
  }
  return found;
}"""
#: Texts in a box which hides what does not fit; one with a title says it all there.
CUT: Final = """() => [...document.body.querySelectorAll('*')].filter((one) => {
    const style = getComputedStyle(one);
    const own = [...one.childNodes].some((node) => node.nodeType === 3 && /[⟦⟧]/.test(node.data));
    return own && !one.closest('.v-field, [title]') && one.checkVisibility()
      && style.position !== 'absolute'
      && ['hidden', 'clip'].includes(style.overflowX) && one.scrollWidth > one.clientWidth + 1;
  }).map((one) => one.innerText)"""


@pytest.fixture(scope="module")
def abroad(demo_template: str, tmp_path_factory: pytest.TempPathFactory) -> Iterator[Served]:
    """The demo school, which is written in English, in a Lauf of the made-up language."""
    language = pseudo_language(tmp_path_factory.mktemp("language"))
    with served(demo_template, **language) as running:
        yield running


def kept_texts(lauf: Served) -> list[str]:
    """Every text that the school has written or loaded: names, places, how a test is done."""
    columns = lauf.sql(
        "SELECT table_name, column_name, data_type FROM information_schema.columns"
        " WHERE table_schema = 'public' AND data_type IN ('text', 'character varying', 'jsonb')"
        " AND table_name !~ '^(django|auth)'"
    )
    found: set[str] = set()
    for table, column, kind in columns:
        for (value,) in lauf.sql(f'SELECT DISTINCT "{column}" FROM "{table}"'):
            found |= set(leaves(value) if kind == "jsonb" else [value or ""])
    names = lauf.sql("SELECT given_name || ' ' || family_name FROM people_pupil")
    found |= {name for (name,) in names} | {"teacher of other classes", "head of PE"}
    return sorted(found, key=len, reverse=True)


def leaves(value: Any) -> Iterator[str]:
    """The texts in some JSON."""
    if isinstance(value, str):
        yield value
    elif isinstance(value, dict | list):
        for one in value.values() if isinstance(value, dict) else value:
            yield from leaves(one)


def english(page: Page, kept: list[str]) -> set[str]:
    """Texts of the page that are neither said in the made-up language nor kept by the school."""
    left = set()
    for text in page.evaluate(SHOWN):
        rest = " ".join(text.split())
        if not PLAIN.search(SAME.sub("", rest)):
            continue
        for words in kept:
            if len(words) > 2 and words in rest:
                rest = rest.replace(words, "")
        if PLAIN.search(SAME.sub("", rest)):
            left.add(f"{rest} (of: {' '.join(text.split())})")
    return left


def said(path: str) -> str:
    """A message of the pages in the made-up language, up to what stands in its braces."""
    name, key = path.split(".")
    return pseudo(part(name)[key]).split("{")[0].strip()


@pytest.mark.parametrize("size", [WIDE, PHONE], ids=["wide", "phone"])
def test_a_lesson_in_another_language(
    chromium: Browser, abroad: Served, size: ViewportSize
) -> None:
    one = Visit(chromium, abroad, viewport=size)
    page = one.page
    kept = kept_texts(abroad)
    faults: dict[str, Any] = {}

    def look(where: str) -> None:
        expect(page.locator("[data-loading]")).to_have_count(0)
        wrong = [*english(page, kept), *(f"cut: {text}" for text in page.evaluate(CUT))]
        wrong += one.too_wide()
        if wrong:
            faults[where] = wrong

    page.goto(one.url)
    expect(page.get_by_label(said("account.userName"))).to_be_focused()
    look("sign-in")
    page.get_by_label(said("account.userName")).fill("demo")
    page.get_by_label(said("account.password")).fill("painted-floor-7")
    page.keyboard.press("Enter")
    expect(page.locator("a.lesson").first).to_be_visible()
    look("today")
    page.locator("a.lesson", has_text="4 Heron").click()
    expect(page.get_by_role("button", name=said("lessons.startTheLesson"))).to_be_visible()
    look("lesson")
    address = page.url.partition("/hall")[0]
    page.goto(f"{address}/plan")
    expect(page.get_by_role("heading", level=1)).to_be_visible()
    look("plan")
    kinds = page.get_by_role("group", name=said("lessons.addABlock"))
    kinds.get_by_role("button", name=pseudo("Water"), exact=True).click()
    expect(page.get_by_text(pseudo("Water"), exact=True).nth(1)).to_be_visible()
    look("a new block")
    test = page.evaluate(
        "async (at) => (await (await fetch(`/api${at}`)).json()).activities[0].id",
        address.removeprefix(one.url),
    )
    page.goto(f"{address}/hall?activity={test}&way=list")
    for score in ("18", "4o"):
        expect(cell(page)).to_be_focused()
        page.keyboard.type(score)
        page.keyboard.press("Enter")
    expect(page.get_by_test_id("problem")).to_be_visible()
    look("scores")
    page.goto(f"{address}/results")
    expect(page.get_by_test_id("missing")).to_be_visible()
    look("results")
    for path in ("/classes", "/catalogue", "/challenges", "/laps", "/account", "/lessons/new"):
        page.goto(f"{one.url}{path}")
        expect(page.get_by_role("heading", level=1)).to_be_visible()
        look(path)
    assert faults == {}, json.dumps(faults, indent=1, ensure_ascii=False)
    assert one.errors == []
    one.context.close()
