import { beforeEach, expect, it } from "vitest";
import { shallowRef } from "vue";
import { onPage } from "../../testing/page";
import { useNumberField } from "./useNumberField";

beforeEach(async () => {
  document.body.innerHTML = `<input id="field" /><input id="other" /><button id="button"></button>`;
  await onPage(() => useNumberField(shallowRef(at("field"))));
});
const at = (id: string) => document.getElementById(id) as HTMLInputElement;
function press(key: string, on: string, more: KeyboardEventInit = {}) {
  at(on).focus();
  at(on).dispatchEvent(new KeyboardEvent("keydown", { key, bubbles: true, ...more }));
  return document.activeElement?.id;
}

it("takes a digit that is typed beside the fields, and only that", () => {
  expect(press("5", "button")).toBe("field");
  expect(press("a", "button")).toBe("button");
  expect(press("5", "button", { ctrlKey: true })).toBe("button");
  expect(press("5", "other")).toBe("other");
});
