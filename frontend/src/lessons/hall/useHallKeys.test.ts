/** Keys of the hall: its own beside the fields, nobody's where something is typed. */
import { beforeEach, expect, it, vi } from "vitest";
import { ref } from "vue";
import { onPage } from "../../testing/page";
import type { Hall } from "./useHall";
import { useHallKeys } from "./useHallKeys";

let done: string[] = [];
const says = (what: string) => (more?: number) => void done.push(more ? `${what} ${more}` : what);
beforeEach(() => {
  done = [];
  document.body.innerHTML = `
    <p id="page"></p><button id="button"></button><input id="name" />
    <div class="way"><input id="cell" /><input id="typed" value="1" /></div>
    <div role="dialog"><p id="asked"></p></div>`;
});

async function begin({ live = true, own = false, space = true } = {}) {
  const hall = {
    ...{ live: ref(live), hasOwn: ref(own), primary: ref({ space, act: says("main"), says: "" }) },
    ...{ skip: says("skip"), back: says("back") },
  };
  const does = {
    ...{ fill: says("fill"), startOwn: says("own"), swap: says("swap") },
    stretch: says("stretch"),
  };
  await onPage(() => useHallKeys(hall as unknown as Hall, does));
}
function press(key: string, on = "page", more: KeyboardEventInit = {}) {
  const event = new KeyboardEvent("keydown", { key, bubbles: true, cancelable: true, ...more });
  vi.spyOn(event, "stopPropagation");
  document.getElementById(on)?.dispatchEvent(event);
  return event.defaultPrevented;
}

it("goes through the lesson by arrows and letters beside the fields", async () => {
  await begin();
  for (const key of ["ArrowRight", "n", "ArrowLeft", "b", "+", "-", "s", " "]) press(key);
  expect(done).toEqual([
    ...["skip", "skip", "back", "back", "stretch 15000", "stretch -15000", "swap", "main"],
  ]);
});

it("has none of them before the clock runs but the large button's", async () => {
  await begin({ live: false });
  for (const key of ["ArrowRight", "n", "+", "s", " "]) press(key);
  expect(done).toEqual(["main"]);
});

it("starts the test's own clock by Space where that is the one in the strip", async () => {
  await begin({ own: true });
  press(" ");
  press(" ", "page", { shiftKey: true });
  expect(done).toEqual(["own", "fill"]);
});

it("takes Space and shifted arrows from an empty cell, and nothing from one with something in it", async () => {
  await begin();
  expect([press(" ", "cell"), press("ArrowRight", "cell", { shiftKey: true })]).toEqual([
    true,
    true,
  ]);
  expect(done).toEqual(["main", "skip"]);
  for (const on of ["typed", "name", "asked"]) press(" ", on);
  for (const key of ["n", "ArrowRight", "5"]) press(key, "cell");
  expect(done).toEqual(["main", "skip"]);
});

it("leaves alone a pressed button, a held key and the browser's own", async () => {
  await begin();
  press(" ", "button");
  press("n", "page", { repeat: true });
  press("n", "page", { ctrlKey: true });
  expect(done).toEqual([]);
});

it("does not end by Space what a press has to end", async () => {
  await begin({ space: false });
  press(" ");
  expect(done).toEqual([]);
});
