import { expect, it } from "vitest";
import { onPage } from "../../testing/page";
import { useUndoKey } from "./useUndoKey";

async function begin(besideFields: boolean) {
  let undone = 0;
  await onPage(() => useUndoKey(() => (undone += 1), { besideFields }));
  document.body.innerHTML = `<p id="text"></p><input id="field" />`;
  const press = (on: string, more: KeyboardEventInit) => {
    const event = new KeyboardEvent("keydown", {
      key: "z",
      bubbles: true,
      cancelable: true,
      ...more,
    });
    document.getElementById(on)?.dispatchEvent(event);
    return event.defaultPrevented;
  };
  return { press, undone: () => undone };
}

it("is Ctrl-Z or ⌘-Z anywhere, instead of the browser's own", async () => {
  const { press, undone } = await begin(false);
  expect(press("text", { ctrlKey: true })).toBe(true);
  expect(press("field", { metaKey: true, key: "Z" })).toBe(true);
  expect(press("text", {})).toBe(false);
  expect(undone()).toBe(2);
});

it("leaves fields to the browser where it is to be beside them", async () => {
  const { press, undone } = await begin(true);
  expect([press("field", { ctrlKey: true }), press("text", { ctrlKey: true })]).toEqual([
    false,
    true,
  ]);
  expect(undone()).toBe(1);
});
