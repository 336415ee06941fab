"""A lesson in a hall without network: the server is away, the browser killed, nothing lost."""

from __future__ import annotations

import re
from collections.abc import Iterator
from pathlib import Path
from typing import Final

import pytest
from playwright.sync_api import Browser, Page, expect

from tests.support.devices import Device, a_lesson
from tests.support.hall import rail
from tests.support.messages import say
from tests.support.offline import open_page, tablet
from tests.support.pseudo import pseudo_language
from tests.support.served import Served, served, wait_for

#: Every child's latest entry of the lesson that is on, as it was typed.
TYPED: Final = """
    SELECT p.given_name || ' ' || p.family_name, a.typed
    FROM records_attempt a JOIN people_pupil p ON p.id = a.pupil_id
    WHERE a.activity_id = %s AND NOT EXISTS (
        SELECT 1 FROM records_attempt b WHERE b.succeeds_id = a.id)
"""


#: The pages that a device keeps, as they lie there.
PAGES: Final = """async () => {
  const database = await new Promise((done) => {
    const opening = indexedDB.open("lauf-pages");
    opening.onsuccess = () => done(opening.result);
  });
  const rows = database.transaction("pages").objectStore("pages").getAll();
  await new Promise((done) => (rows.onsuccess = done));
  database.close();
  return rows.result.map((one) => one.text).join(" ");
}"""


@pytest.fixture
def lauf(demo_template: str) -> Iterator[Served]:
    """A server of its own, that others do not miss when it is away."""
    with served(demo_template) as running:
        yield running


def open_list(page: Page) -> None:
    """The list of the lesson's test, whatever its clock is at."""
    rail(page, "Press-ups in 60 s").click()
    expect(page.locator("#child-0")).to_be_visible()


def type_from(page: Page, first: int, scores: list[str]) -> None:
    """Scores in the order of the list, none of which can be sent."""
    for number, typed in enumerate(scores, first):
        expect(page.locator(f"#child-{number}")).to_have_class(re.compile("active"))
        page.keyboard.type(typed)
        page.keyboard.press("Enter")
        # Taken, before it is waited for that it is kept: a browser that is closed loses what it has
        # only been told.
        expect(page.locator(f"#child-{number} [data-state]")).not_to_have_count(0)
    expect(page.locator("[data-state=saving]")).to_have_count(0)


def shown(page: Page) -> dict[str, str]:
    """What the list says of every child, by name."""
    rows = page.locator("[id^=child-]")
    return {
        row.locator(".name > :first-child").inner_text(): row.locator(".score").inner_text()
        for row in rows.all()
    }


def test_a_lesson_opens_and_is_recorded_without_network(
    chromium: Browser, lauf: Served, tmp_path: Path
) -> None:
    with tablet(chromium, tmp_path / "tablet") as context:
        page = open_page(context, lauf.url)
        page.get_by_role("button", name=re.compile("Robin Ashgrove")).click()
        expect(page.get_by_test_id("ready")).to_contain_text(
            re.compile(r"Ready for the hall: \d+ lessons on this device")
        )
        page.evaluate("navigator.serviceWorker.ready.then(() => true)")
        page.locator("a.lesson", has_text="4 Heron").click()
        expect(page.get_by_role("button", name=say("lessons.startTheLesson"))).to_be_visible()
        lesson = page.url.partition("/hall")[0]
    children = len(lauf.sql(
        "SELECT 1 FROM people_pupil p JOIN people_schoolclass c ON c.id = p.school_class_id"
        " WHERE c.name = '4 Heron'"
    ))  # fmt: skip
    scores = [str(10 + number % 20) for number in range(children)]
    lauf.stop()

    # The browser was closed in the network, and is opened in the hall.
    with tablet(chromium, tmp_path / "tablet") as context:
        context.set_offline(True)
        page = open_page(context, lauf.url)
        expect(page.get_by_text(say("app.noNetwork"))).to_be_visible()
        page.locator("a.lesson", has_text="4 Heron").click()
        page.get_by_role("button", name=say("lessons.startTheLesson")).click()
        open_list(page)
        type_from(page, 0, scores[:10])
        page.reload()
        open_list(page)
        expect(page.locator("#child-9 .score")).to_contain_text(scores[9])
        type_from(page, 10, scores[10:15])
    with tablet(chromium, tmp_path / "tablet") as context:
        page = open_page(context, f"{lesson}/hall")
        open_list(page)
        expect(page.locator("#child-14 .score")).to_contain_text(scores[14])
        type_from(page, 15, scores[15:])
        for other in ("plan", "hall", "results", "tally", "partner"):
            open_page(context, f"{lesson}/{other}")
            expect(page.locator("[data-loading]")).to_have_count(0)
            expect(page.get_by_text(say("parts.thisPageIsNotOnThisDevice"))).to_have_count(0)
            if other == "results":  # what is on its way is missing to nobody
                expect(page.get_by_test_id("missing")).to_have_text("0")

        lauf.start()
        page.goto(f"{lesson}/hall")
        open_list(page)
        expect(page.locator("[data-state=waiting], [data-state=saving]")).to_have_count(0)
        expect(page.get_by_text(say("app.noNetwork"))).to_have_count(0)
        ((activity,),) = lauf.sql(
            "SELECT id FROM lessons_activity WHERE lesson_id = %s ORDER BY position LIMIT 1",
            lesson.rpartition("/")[2],
        )
        kept = wait_for(lambda: lauf.sql(TYPED, activity), lambda found: len(found) == children)
        assert sorted(typed for _, typed in kept) == sorted(scores)

        def on_screen() -> dict[str, str]:
            return {name: words.split()[0] for name, words in shown(page).items() if words}

        # What was kept is on the screen as soon as its answer has come; but for the child whose
        # cell is typed in.
        found = wait_for(on_screen, lambda said: said.items() <= dict(kept).items())
        assert len(found) >= children - 1


def test_who_signs_out_without_network_leaves_nothing_to_read(
    chromium: Browser, lauf: Served, tmp_path: Path
) -> None:
    with tablet(chromium, tmp_path / "tablet") as context:
        page = open_page(context, lauf.url)
        page.get_by_role("button", name=re.compile("Robin Ashgrove")).click()
        expect(page.get_by_test_id("ready")).to_contain_text("on this device")
        page.evaluate("navigator.serviceWorker.ready.then(() => true)")
        lauf.stop()
        page.get_by_role("button", name=say("app.signOut")).click()
        expect(page.get_by_label(say("account.userName"))).to_be_visible()
        left = page.evaluate("""async () => {
          const found = [];
          for (const { name } of await indexedDB.databases()) {
            const database = await new Promise((done) => {
              const opening = indexedDB.open(name);
              opening.onsuccess = () => done(opening.result);
            });
            for (const store of database.objectStoreNames) {
              const rows = database.transaction(store).objectStore(store).getAll();
              await new Promise((done) => (rows.onsuccess = done));
              found.push(...rows.result.map((one) => JSON.stringify(one)));
            }
          }
          return [...found, ...Object.values(localStorage)].join(" ");
        }""")
        assert "Aaron" not in left and "Robin" not in left
        # The server is told as soon as it answers: nobody is signed in again by a reload.
        lauf.start()
        page.goto(lauf.url)
        expect(page.get_by_label(say("account.userName"))).to_be_visible()


def test_a_helpers_phone_opens_and_counts_without_network(
    chromium: Browser, lauf: Served, tmp_path: Path
) -> None:
    teacher = Device(lauf).sign_in("demo")
    lesson, activity, _ = a_lesson(teacher)
    secret = teacher.ask("POST", f"/api/lessons/{lesson}/helpers")["secret"]
    with tablet(chromium, tmp_path / "phone") as context:
        page = open_page(context, f"{lauf.url}/help#{secret}")
        page.get_by_label(say("lessons.yourName")).fill("Kim")
        page.get_by_role("button", name=say("lessons.startHelping")).click()
        expect(page.locator("#child-0")).to_be_visible()
        page.evaluate("navigator.serviceWorker.ready.then(() => true)")
        type_counts(page, "11", "12")
        expect(page.locator("[data-state=saving], [data-state=waiting]")).to_have_count(0)
        # What was read is written to the device a moment later.
        wait_for(lambda: page.evaluate(PAGES), lambda found: '"typed":"12"' in found)
    lauf.stop()
    with tablet(chromium, tmp_path / "phone") as context:
        context.set_offline(True)
        page = open_page(context, f"{lauf.url}/help")
        expect(page.locator("#child-1 .cells")).to_have_text("12")
        type_counts(page, "13")
        page.reload()
        expect(page.locator("#child-2 .cells")).to_have_text("13")
        type_counts(page, "14")
        lauf.start()
        context.set_offline(False)
        kept = wait_for(lambda: lauf.sql(TYPED, activity), lambda found: len(found) == 4)
        assert sorted(typed for _, typed in kept) == ["11", "12", "13", "14"]


def type_counts(page: Page, *counts: str) -> None:
    """Each for the child that the phone has come to."""
    for count in counts:
        expect(page.locator("li.child.active input")).to_have_value("")
        before = page.locator("li.child.active").get_attribute("id")
        page.keyboard.type(count)
        page.keyboard.press("Enter")
        expect(page.locator(f"#{before}.active")).to_have_count(0)


def test_a_new_version_waits_for_the_lesson_and_sends_what_the_one_before_has_kept(
    chromium: Browser, lauf: Served, tmp_path: Path
) -> None:
    teacher = Device(lauf).sign_in("demo")
    lesson, activity, _ = a_lesson(teacher)
    with tablet(chromium, tmp_path / "tablet") as context:
        page = open_page(context, lauf.url)
        page.get_by_role("button", name=re.compile("Robin Ashgrove")).click()
        expect(page.get_by_test_id("ready")).to_contain_text("on this device")
        page.evaluate("navigator.serviceWorker.ready.then(() => true)")
        page.goto(f"{lauf.url}/lessons/{lesson}/list?activity={activity}")
        expect(page.locator("#child-0")).to_be_visible()
        lauf.stop()
        type_from(page, 0, ["11", "12", "13"])
        # Another version is served: its pages say everything otherwise.
        lauf.variables.update(pseudo_language(tmp_path / "language"))
        lauf.start()
        page.evaluate("window.sameLesson = true")
        page.evaluate("navigator.serviceWorker.getRegistration().then((one) => one.update())")
        wait_for(
            lambda: page.evaluate(
                "navigator.serviceWorker.getRegistration().then((one) => Boolean(one.waiting))"
            ),
            bool,
        )
        assert page.evaluate("window.sameLesson"), "nothing breaks off a lesson"
        kept = wait_for(lambda: lauf.sql(TYPED, activity), lambda found: len(found) == 3)
        assert sorted(typed for _, typed in kept) == ["11", "12", "13"]
        lauf.stop()
        type_from(page, 3, ["14", "15"])
    # The new version takes over at a page that is no lesson, and finds what the old one has kept.
    lauf.start()
    with tablet(chromium, tmp_path / "tablet") as context:
        page = context.pages[0]
        page.goto(lauf.url)
        expect(page.get_by_role("link", name="⟦").first).to_be_visible()
        kept = wait_for(lambda: lauf.sql(TYPED, activity), lambda found: len(found) == 5)
        assert sorted(typed for _, typed in kept) == ["11", "12", "13", "14", "15"]
        page.goto(f"{lauf.url}/lessons/{lesson}/list?activity={activity}")
        expect(page.locator("#child-4 .score")).to_contain_text("15")


def test_what_is_kept_goes_out_while_no_page_is_open(
    chromium: Browser, lauf: Served, tmp_path: Path
) -> None:
    teacher = Device(lauf).sign_in("demo")
    lesson, activity, _ = a_lesson(teacher)
    with tablet(chromium, tmp_path / "tablet") as context:
        page = open_page(context, lauf.url)
        page.get_by_role("button", name=re.compile("Robin Ashgrove")).click()
        expect(page.get_by_test_id("ready")).to_contain_text("on this device")
        page.evaluate("navigator.serviceWorker.ready.then(() => true)")
        other = context.new_page()
        told = context.new_cdp_session(other)
        workers: list[str] = []
        told.on(
            "ServiceWorker.workerRegistrationUpdated",
            lambda said: workers.extend(one["registrationId"] for one in said["registrations"]),
        )
        told.send("ServiceWorker.enable")
        page.goto(f"{lauf.url}/lessons/{lesson}/list?activity={activity}")
        expect(page.locator("#child-0")).to_be_visible()
        lauf.stop()
        type_from(page, 0, ["11", "12", "13"])
        page.close()
        lauf.start()
        # As the browser does by itself once there is a network again; a headless one never does.
        told.send(
            "ServiceWorker.dispatchSyncEvent",
            {
                "origin": lauf.url,
                "registrationId": workers[-1],
                "tag": "lauf.unsent",
                "lastChance": False,
            },
        )
        kept = wait_for(lambda: lauf.sql(TYPED, activity), lambda found: len(found) == 3)
        assert sorted(typed for _, typed in kept) == ["11", "12", "13"]
        # A page that is opened then has nothing left to send.
        page = context.new_page()
        page.goto(f"{lauf.url}/lessons/{lesson}/list?activity={activity}")
        expect(page.locator("#child-2 .score")).to_contain_text("13")
        expect(page.locator("[data-state=waiting], [data-state=saving]")).to_have_count(0)
